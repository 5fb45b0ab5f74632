import type * as ng from '@angular/compiler';
import type { Node } from 'oxc-parser';
import type { AngularCompiler } from '../../../syntax/angular.js';

type Fields = { type: string } & Record<string, unknown>;

// What no expression of JavaScript says stays unknown to its reader.
const UNREADABLE: Fields = { type: 'MetaProperty' };

/**
 * A template expression as the expression of JavaScript that Angular compiles it to. Names are those of the template;
 * `a?.b` gives null where `a` is null or undefined; what has no counterpart, most pipes among it, can't be read.
 */
export class TemplateExpressions {
  readonly #ng: AngularCompiler;

  constructor(compiler: AngularCompiler) {
    this.#ng = compiler;
  }

  /** The node; its offsets are those of the whole file. */
  node(ast: ng.AST): Node {
    const { start, end } = ast.sourceSpan;
    // Only what the reader looks at is there.
    return { start, end, ...this.#fields(ast) } as unknown as Node;
  }

  #fields(ast: ng.AST): Fields {
    const { ASTWithSource, NonNullAssert, ParenthesizedExpression, LiteralPrimitive } = this.#ng;
    if (ast instanceof ASTWithSource) return this.#fields(ast.ast);
    if (ast instanceof NonNullAssert || ast instanceof ParenthesizedExpression)
      return this.#fields(ast.expression);
    if (ast instanceof LiteralPrimitive) return literal(ast.value);
    return this.#operation(ast) ?? this.#composite(ast) ?? this.#read(ast) ?? UNREADABLE;
  }

  #operation(ast: ng.AST): Fields | undefined {
    const { Unary, Binary, PrefixNot, TypeofExpression, VoidExpression, Conditional } = this.#ng;
    const unary = (operator: string, argument: ng.AST): Fields => ({
      type: 'UnaryExpression',
      operator,
      argument: this.node(argument),
    });
    if (ast instanceof Unary) return unary(ast.operator, ast.expr);
    if (ast instanceof PrefixNot) return unary('!', ast.expression);
    if (ast instanceof TypeofExpression) return unary('typeof', ast.expression);
    if (ast instanceof VoidExpression) return unary('void', ast.expression);
    if (ast instanceof Conditional)
      return choice(this.node(ast.condition), this.node(ast.trueExp), this.node(ast.falseExp));
    if (!(ast instanceof Binary) || Binary.isAssignmentOperation(ast.operation)) return undefined;
    const { operation, left, right } = ast;
    const type = LOGICAL.has(operation) ? 'LogicalExpression' : 'BinaryExpression';
    return { type, operator: operation, left: this.node(left), right: this.node(right) };
  }

  #composite(ast: ng.AST): Fields | undefined {
    const { LiteralArray, LiteralMap, TemplateLiteral, SpreadElement } = this.#ng;
    if (ast instanceof LiteralArray)
      return {
        type: 'ArrayExpression',
        elements: ast.expressions.map((expression) => this.node(expression)),
      };
    if (ast instanceof SpreadElement) return { type: 'SpreadElement', argument: this.node(ast.expression) };
    if (ast instanceof TemplateLiteral)
      return {
        type: 'TemplateLiteral',
        quasis: ast.elements.map(({ text }) => ({ value: { cooked: text } })),
        expressions: ast.expressions.map((expression) => this.node(expression)),
      };
    if (!(ast instanceof LiteralMap)) return undefined;
    const properties = ast.keys.map((key, i) => {
      const value = ast.values[i];
      const node = value ? this.node(value) : UNREADABLE;
      if (key.kind === 'spread') return { type: 'SpreadElement', argument: node };
      return { type: 'Property', kind: 'init', computed: false, key: literal(key.key), value: node };
    });
    return { type: 'ObjectExpression', properties };
  }

  #read(ast: ng.AST): Fields | undefined {
    const { PropertyRead, SafePropertyRead, KeyedRead, SafeKeyedRead, Call } = this.#ng;
    const { BindingPipe, ImplicitReceiver, ThisReceiver } = this.#ng;
    // A pipe that translates is a call of a translator.
    if (ast instanceof BindingPipe && TRANSLATING.has(ast.name))
      return {
        type: 'CallExpression',
        callee: { type: 'Identifier', name: 'translate' },
        arguments: [this.node(ast.exp)],
      };
    if (ast instanceof Call)
      return {
        type: 'CallExpression',
        callee: this.node(ast.receiver),
        arguments: ast.args.map((each) => this.node(each)),
      };
    if (ast instanceof PropertyRead || ast instanceof SafePropertyRead) {
      const { receiver, name } = ast;
      if (receiver instanceof ThisReceiver) return undefined;
      if (receiver instanceof ImplicitReceiver) return { type: 'Identifier', name };
      const member = this.#member(receiver, { type: 'Identifier', name }, false);
      return ast instanceof SafePropertyRead ? this.#safe(receiver, member) : member;
    }
    if (!(ast instanceof KeyedRead) && !(ast instanceof SafeKeyedRead)) return undefined;
    const member = this.#member(ast.receiver, this.node(ast.key), true);
    return ast instanceof SafeKeyedRead ? this.#safe(ast.receiver, member) : member;
  }

  #member(object: ng.AST, property: unknown, computed: boolean): Fields {
    return { type: 'MemberExpression', object: this.node(object), property, computed, optional: false };
  }

  #safe(receiver: ng.AST, member: Fields): Fields {
    const isNothing = {
      type: 'BinaryExpression',
      operator: '==',
      left: this.node(receiver),
      right: literal(null),
    };
    return choice(isNothing, literal(null), member);
  }
}

const TRANSLATING: ReadonlySet<string> = new Set(['translate', 'transloco', 'i18next']);

const LOGICAL: ReadonlySet<string> = new Set(['&&', '||', '??']);

const choice = (test: unknown, consequent: unknown, alternate: unknown): Fields => ({
  type: 'ConditionalExpression',
  test,
  consequent,
  alternate,
});

const literal = (value: unknown): Fields =>
  value === undefined
    ? { type: 'UnaryExpression', operator: 'void', argument: { type: 'Literal', value: 0 } }
    : { type: 'Literal', value };

/** The names of the methods that a template's statement calls; where it calls none, of all that it reads. */
export function namesCalledBy(ast: ng.AST, compiler: AngularCompiler): string[] {
  const names = new Set<string>();
  const called = new Set<string>();
  class Names extends compiler.RecursiveAstVisitor {
    override visitPropertyRead(read: ng.PropertyRead, context: unknown): void {
      names.add(read.name);
      super.visitPropertyRead(read, context);
    }
    override visitCall(call: ng.Call, context: unknown): void {
      if (call.receiver instanceof compiler.PropertyRead) called.add(call.receiver.name);
      super.visitCall(call, context);
    }
  }
  new Names().visit(ast);
  return [...(called.size > 0 ? called : names)];
}

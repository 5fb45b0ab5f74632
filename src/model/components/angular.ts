import type * as ng from '@angular/compiler';
import type { Node } from 'oxc-parser';
import type { AngularCompiler, AngularNode } from '../../parse/angular.js';
import type { Script } from '../../parse/script.js';
import { literalText, propertyName, unwrapped } from '../../parse/tree.js';
import { classesIn, together } from './classes.js';
import { constant, joined, oneOf, UNKNOWN, type Expr } from './expr.js';
import { NO_CLASSES, type Prop, type Span, type ViewNode } from './view.js';

type ObjectNode = Extract<Node, { type: 'ObjectExpression' }>;
type ClassNode = Extract<Node, { type: 'ClassDeclaration' | 'ClassExpression' }>;

/** What a class marked as an Angular component says of itself. */
export interface AngularDeclaration {
  name: string;
  place: Span;
  selector?: string;
  template: { inline: Node } | { url: string } | undefined;
  /** Inputs by the name that templates use. */
  inputs: string[];
  imports: string[];
}

/** The classes of a script that carry a component decorator. */
export function angularDeclarations(script: Script): AngularDeclaration[] {
  const found: AngularDeclaration[] = [];
  for (const statement of script.program.body) {
    const node = 'declaration' in statement && statement.declaration ? statement.declaration : statement;
    if (node.type !== 'ClassDeclaration' || !node.id) continue;
    const options = decoratorOptions(node, 'Component');
    if (!options) continue;
    const text = (key: string): string | undefined => {
      const value = valueOf(options, key);
      return value && literalText(value);
    };
    const inline = valueOf(options, 'template');
    const url = text('templateUrl');
    found.push({
      name: node.id.name,
      place: { start: node.id.start, end: node.id.end },
      selector: text('selector'),
      template: inline ? { inline } : url ? { url } : undefined,
      inputs: inputsOf(node),
      imports: namesIn(valueOf(options, 'imports')),
    });
  }
  return found;
}

function decoratorOptions(node: ClassNode, name: string): ObjectNode | undefined {
  for (const { expression } of node.decorators) {
    if (
      expression.type !== 'CallExpression' ||
      expression.callee.type !== 'Identifier' ||
      expression.callee.name !== name
    )
      continue;
    const [first] = expression.arguments;
    return first?.type === 'ObjectExpression' ? first : undefined;
  }
  return undefined;
}

function valueOf(options: ObjectNode, key: string): Node | undefined {
  for (const each of options.properties) {
    if (each.type === 'Property' && propertyName(each.key, each.computed) === key)
      return unwrapped(each.value);
  }
  return undefined;
}

const namesIn = (node: Node | undefined): string[] =>
  node?.type === 'ArrayExpression'
    ? node.elements.flatMap((each) => (each?.type === 'Identifier' ? [each.name] : []))
    : [];

function inputsOf(node: ClassNode): string[] {
  return node.body.body.flatMap((member) => {
    if (member.type !== 'PropertyDefinition' && member.type !== 'MethodDefinition') return [];
    const name = propertyName(member.key, member.computed);
    if (name === undefined) return [];
    const decorated = member.decorators.some(({ expression }) => calleeName(expression) === 'Input');
    const signal =
      member.type === 'PropertyDefinition' &&
      member.value &&
      ['input', 'model'].includes(calleeName(member.value) ?? '');
    return decorated || signal ? [name] : [];
  });
}

function calleeName(node: Node): string | undefined {
  if (node.type !== 'CallExpression') return undefined;
  const callee = node.callee.type === 'MemberExpression' ? node.callee.object : node.callee;
  return callee.type === 'Identifier' ? callee.name : undefined;
}

/** Turns a parsed template into a view. `inputs`: the names that are props; `imports`: components known by selector only. */
export function angularView(
  compiler: AngularCompiler,
  nodes: readonly AngularNode[],
  inputs: ReadonlySet<string>,
): ViewNode[] {
  return new Template(compiler, inputs).views(nodes);
}

class Template {
  readonly #ng: AngularCompiler;
  readonly #inputs: ReadonlySet<string>;

  constructor(compiler: AngularCompiler, inputs: ReadonlySet<string>) {
    this.#ng = compiler;
    this.#inputs = inputs;
  }

  views(nodes: readonly AngularNode[]): ViewNode[] {
    return nodes.flatMap((node) => this.view(node));
  }

  view(node: AngularNode): ViewNode[] {
    const { TmplAstElement, TmplAstTemplate, TmplAstText, TmplAstBoundText, TmplAstContent } = this.#ng;
    const place = { start: node.sourceSpan.start.offset, end: node.sourceSpan.end.offset };
    if (node instanceof TmplAstText) return [{ kind: 'text', text: constant(node.value), place }];
    if (node instanceof TmplAstBoundText) return [{ kind: 'text', text: this.expr(node.value), place }];
    if (node instanceof TmplAstElement) {
      return node.name === 'ng-container' ? this.views(node.children) : [this.#element(node)];
    }
    if (node instanceof TmplAstTemplate) return this.#template(node, place);
    if (node instanceof TmplAstContent) {
      const name = node.selector === '*' ? 'children' : `#${node.selector}`;
      return [{ kind: 'slot', name, fallback: this.views(node.children), place }];
    }
    return this.#block(node, place);
  }

  #element(node: ng.TmplAstElement): ViewNode {
    const place = { start: node.startSourceSpan.start.offset, end: node.startSourceSpan.end.offset };
    const attributes = new Map<string, Expr>();
    const props = new Map<string, Prop>();
    let classes = NO_CLASSES;
    for (const { name, value } of node.attributes) {
      attributes.set(name.toLowerCase(), constant(value));
      props.set(name, { expr: constant(value) });
      if (name === 'class') classes = together([classes, classesIn(constant(value))]);
    }
    for (const input of node.inputs) {
      const expr = this.expr(input.value);
      if (input.type === this.#ng.BindingType.Class)
        classes = together([classes, { always: [], maybe: [input.name], open: false }]);
      else if (input.name === 'class' || input.name === 'className')
        classes = together([classes, classesIn(expr)]);
      else if (input.name === 'ngClass') classes = { ...classes, open: true };
      else {
        attributes.set(input.name.toLowerCase(), expr);
        props.set(input.name, { expr });
      }
    }
    const events = node.outputs.map(({ name }) => name);
    const children = attributes.has('innerhtml')
      ? [{ kind: 'hole' as const, why: 'markup given as text', place }]
      : this.views(node.children);
    if (!node.name.includes('-')) {
      return {
        kind: 'element',
        tag: node.name.replace(/^:\w+:/, ''),
        place,
        attributes,
        classes,
        open: false,
        events,
        children,
      };
    }
    const slots = new Map(children.length ? [['children', children]] : []);
    return {
      kind: 'component',
      name: node.name,
      ref: { selector: node.name },
      place,
      props,
      open: false,
      events,
      slots,
    };
  }

  // `*ngIf`, `*ngFor` and `<ng-template>`; what other structural directives do is not known.
  #template(node: ng.TmplAstTemplate, place: Span): ViewNode[] {
    const children = this.views(node.children);
    const names = node.templateAttrs.map(({ name }) => name);
    if (names.some((name) => name === 'ngFor' || name === 'ngForOf'))
      return [{ kind: 'repeat', children, place }];
    const guard = node.templateAttrs.find(({ name }) => name === 'ngIf' || name === 'ngSwitchCase');
    const condition =
      guard && 'value' in guard && typeof guard.value !== 'string' ? sourceOf(guard.value) : names.join(' ');
    return children.length ? [{ kind: 'branch', condition: condition || 'a template', children, place }] : [];
  }

  #block(node: AngularNode, place: Span): ViewNode[] {
    const {
      TmplAstIfBlock,
      TmplAstForLoopBlock,
      TmplAstSwitchBlock,
      TmplAstDeferredBlock,
      TmplAstLetDeclaration,
    } = this.#ng;
    if (node instanceof TmplAstIfBlock) {
      const before: string[] = [];
      return node.branches.map((branch) => {
        const own = branch.expression ? sourceOf(branch.expression) : '';
        const condition = [...before.map((each) => `not (${each})`), ...(own ? [own] : [])].join(' and ');
        before.push(own);
        return { kind: 'branch' as const, condition, children: this.views(branch.children), place };
      });
    }
    if (node instanceof TmplAstForLoopBlock) {
      const loop: ViewNode = { kind: 'repeat', children: this.views(node.children), place };
      return node.empty
        ? [
            loop,
            {
              kind: 'branch',
              condition: 'nothing to repeat',
              children: this.views(node.empty.children),
              place,
            },
          ]
        : [loop];
    }
    if (node instanceof TmplAstSwitchBlock) {
      return node.groups.map((group) => ({
        kind: 'branch' as const,
        condition: `${sourceOf(node.expression)} is ${group.cases.map((each) => (each.expression ? sourceOf(each.expression) : 'none of these')).join(' or ')}`,
        children: this.views(group.children),
        place,
      }));
    }
    if (node instanceof TmplAstDeferredBlock) {
      const parts = [
        node.children,
        node.placeholder?.children ?? [],
        node.loading?.children ?? [],
        node.error?.children ?? [],
      ];
      return parts.map((part) => ({
        kind: 'branch' as const,
        condition: 'deferred',
        children: this.views(part),
        place,
      }));
    }
    return node instanceof TmplAstLetDeclaration
      ? []
      : [{ kind: 'hole', why: 'markup of an unknown kind', place }];
  }

  /** What a template expression gives. */
  expr(ast: ng.AST): Expr {
    const {
      ASTWithSource,
      Interpolation,
      LiteralPrimitive,
      PropertyRead,
      ImplicitReceiver,
      Conditional,
      Binary,
      Call,
    } = this.#ng;
    if (ast instanceof ASTWithSource) return this.expr(ast.ast);
    if (ast instanceof LiteralPrimitive) return constant(ast.value as string);
    if (ast instanceof Conditional) return oneOf([this.expr(ast.trueExp), this.expr(ast.falseExp)]);
    if (ast instanceof Interpolation) {
      return joined(
        ast.strings.flatMap((text, i) => [
          constant(text),
          ...(ast.expressions[i] ? [this.expr(ast.expressions[i])] : []),
        ]),
      );
    }
    if (ast instanceof Binary && ast.operation === '+')
      return joined([this.expr(ast.left), this.expr(ast.right)]);
    // A signal input is read by a call.
    if (ast instanceof Call && ast.args.length === 0) return this.expr(ast.receiver);
    if (
      ast instanceof PropertyRead &&
      ast.receiver instanceof ImplicitReceiver &&
      this.#inputs.has(ast.name)
    ) {
      return { is: 'prop', name: ast.name };
    }
    return UNKNOWN;
  }
}

const sourceOf = (ast: ng.AST): string =>
  'source' in ast && typeof ast.source === 'string' ? ast.source.trim() : '';

/** The selectors that a component answers to as a tag: `app-kiln, [kiln]` gives `app-kiln`. */
export const tagSelectors = (selector: string): string[] =>
  selector
    .split(',')
    .map((each) => each.trim())
    .filter((each) => /^[\w-]+$/.test(each));

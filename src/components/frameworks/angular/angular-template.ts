import { keysNamed } from '../../keys.js';
import type * as ng from '@angular/compiler';
import type { AngularCompiler, AngularNode } from '../../../syntax/angular.js';
import type { AngularDeclaration } from './angular-class.js';
import { classesIn, joinedClasses } from '../../classes.js';
import { isMethod } from '../../../language/operations.js';
import { memberName, unwrapped } from '../../../syntax/tree.js';
import { exprOf, conditionFrom } from '../../read-expr.js';
import type { ComponentScope } from '../../scope.js';
import { namesCalledBy, TemplateExpressions } from './angular-expression.js';
import {
  constant,
  ITEM,
  memberOfExpr,
  not,
  truthy,
  UNKNOWN,
  UNSURE,
  type Expr,
  type Condition,
} from '../../expr.js';
import { joined, shown, shownAttribute } from '../../expr-text.js';
import { componentNode, elementNode, nothingGiven } from '../../given.js';
import type { TemplateArm, ViewNode } from '../../view.js';
import type { Span } from '../../../finding.js';

/** Turns a parsed template into a view, seen from the class that it belongs to. */
export function angularView(
  compiler: AngularCompiler,
  nodes: readonly AngularNode[],
  { inputs, fields }: Pick<AngularDeclaration, 'inputs' | 'fields'>,
): ViewNode[] {
  const names = new Map<string, Expr>(fields);
  for (const name of inputs.keys()) names.set(name, { is: 'prop', name });
  return new Template(compiler, names).withOtherwise(nodes).views(nodes);
}

// Properties of elements that go by another name than their attribute.
const ATTRIBUTE_OF: Readonly<Record<string, string>> = {
  htmlfor: 'for',
  arialabel: 'aria-label',
  ariahidden: 'aria-hidden',
  readonly: 'readonly',
};
const TEXT_PROPERTIES = new Set(['textContent', 'innerText']);

// White space, but for the kind that does not break.
const BLANK = /^[^\S\u00a0]*$/;

/** A condition under which a part of a template is shown. */
interface Chosen {
  text: string;
  test: Condition;
  arm?: TemplateArm;
}

/** What parts of a template are chosen by, beside a condition of their own. */
interface Switch {
  on?: ng.AST;
  cases: readonly ng.AST[];
  at: number;
  /** Templates that are shown where a condition elsewhere fails. */
  otherwise: ReadonlyMap<string, Chosen>;
}

const NO_SWITCH: Switch = { cases: [], at: 0, otherwise: new Map() };

class Template {
  readonly #ng: AngularCompiler;
  /** What names of the template stand for: inputs, constant fields, items of loops. */
  readonly #names: ReadonlyMap<string, Expr>;

  readonly #switch: Switch;
  readonly #expressions: TemplateExpressions;

  constructor(compiler: AngularCompiler, names: ReadonlyMap<string, Expr>, around = NO_SWITCH) {
    this.#ng = compiler;
    this.#names = names;
    this.#switch = around;
    this.#expressions = new TemplateExpressions(compiler);
  }

  #inside(names: ReadonlyMap<string, Expr>): Template {
    return new Template(this.#ng, new Map([...this.#names, ...names]), this.#switch);
  }

  // What cases below an element with `[ngSwitch]` choose by.
  #switched(node: ng.TmplAstElement): Template {
    const on = node.inputs.find(({ name }) => name === 'ngSwitch')?.value;
    if (!on) return this;
    const cases = node.children.flatMap((child) =>
      child instanceof this.#ng.TmplAstTemplate
        ? child.templateAttrs.flatMap(({ name, value }) =>
            name === 'ngSwitchCase' && typeof value !== 'string' ? [value] : [],
          )
        : [],
    );
    const at = node.sourceSpan.start.offset;
    return new Template(this.#ng, this.#names, { ...this.#switch, on, cases, at });
  }

  /** The same, knowing which templates are shown where a condition of `*ngIf="…; else name"` fails. */
  withOtherwise(nodes: readonly AngularNode[]): Template {
    const otherwise = new Map<string, Chosen>();
    const visit = (all: readonly AngularNode[]): void => {
      for (const node of all) {
        if (node instanceof this.#ng.TmplAstTemplate) this.#otherwiseOf(node, otherwise);
        if ('children' in node) visit(node.children as readonly AngularNode[]);
      }
    };
    visit(nodes);
    return otherwise.size ? new Template(this.#ng, this.#names, { ...this.#switch, otherwise }) : this;
  }

  #otherwiseOf(node: ng.TmplAstTemplate, otherwise: Map<string, Chosen>): void {
    const given = new Map(node.templateAttrs.map(({ name, value }) => [name, value]));
    const [condition, other] = [given.get('ngIf'), given.get('ngIfElse')];
    if (!condition || typeof condition === 'string' || !other || typeof other === 'string') return;
    const own = this.#condition(condition);
    const arm = { of: node.sourceSpan.start.offset, arm: 1, name: 'else' };
    otherwise.set(sourceOf(other), { text: `not (${own.text})`, test: not(own.test), arm });
  }

  views(nodes: readonly AngularNode[]): ViewNode[] {
    return nodes.flatMap((node) => this.view(node));
  }

  view(node: AngularNode): ViewNode[] {
    const { TmplAstElement, TmplAstTemplate, TmplAstText, TmplAstBoundText, TmplAstContent } = this.#ng;
    const place = { start: node.sourceSpan.start.offset, end: node.sourceSpan.end.offset };
    // Blank text between elements is dropped when a template is compiled.
    if (node instanceof TmplAstText)
      return BLANK.test(node.value) ? [] : [{ kind: 'text', text: constant(node.value), place }];
    if (node instanceof TmplAstBoundText) return [{ kind: 'text', text: this.expr(node.value), place }];
    if (node instanceof TmplAstElement) {
      const inside = this.#switched(node);
      return node.name === 'ng-container' ? inside.views(node.children) : [inside.#element(node)];
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
    const given = nothingGiven();
    const { attributes, props } = given;
    for (const { name, value } of node.attributes) {
      attributes.set(name.toLowerCase(), constant(value));
      props.set(name, { expr: constant(value) });
      if (name === 'class') given.classes = joinedClasses([given.classes, classesIn(constant(value))]);
    }
    for (const input of node.inputs) {
      const expr = this.expr(input.value);
      if (input.type === this.#ng.BindingType.Class)
        given.classes = joinedClasses([given.classes, { always: [], maybe: [input.name], open: false }]);
      else if (input.name === 'class' || input.name === 'className')
        given.classes = joinedClasses([given.classes, classesIn(expr)]);
      else if (input.name === 'ngClass') given.classes = { ...given.classes, open: true };
      else if (TEXT_PROPERTIES.has(input.name)) continue;
      else {
        const name = ATTRIBUTE_OF[input.name.toLowerCase()] ?? input.name.toLowerCase();
        const property = input.type === this.#ng.BindingType.Property;
        attributes.set(name, shownAttribute(name, expr, { framework: 'angular', property }));
        props.set(input.name, { expr });
      }
    }
    const text = node.inputs.find(({ name }) => TEXT_PROPERTIES.has(name));
    for (const { name, sourceSpan, handler } of node.outputs) {
      given.events.push(name);
      given.handlers.push({
        event: name.split('.')[0] ?? name,
        keys: keysNamed(name.split('.').slice(1)),
        place: { start: sourceSpan.start.offset, end: sourceSpan.end.offset },
        names: namesCalledBy(handler, this.#ng),
      });
    }
    const children = attributes.has('innerhtml')
      ? [{ kind: 'hole' as const, why: 'markup given as text', place }]
      : text
        ? [{ kind: 'text' as const, text: shown(this.expr(text.value), ANGULAR), place }]
        : this.views(node.children);
    if (!node.name.includes('-'))
      return elementNode(given, { tag: node.name.replace(/^:\w+:/, ''), place, children });
    const slots = new Map(children.length ? [['children', children]] : []);
    return componentNode(given, { name: node.name, ref: { selector: node.name }, place, slots });
  }

  // `*ngIf`, `*ngFor` and `<ng-template>`; what other structural directives do is not known.
  #template(node: ng.TmplAstTemplate, place: Span): ViewNode[] {
    const bound = (names: readonly string[]): ng.AST | undefined =>
      node.templateAttrs.flatMap((templateAttr) =>
        names.includes(templateAttr.name) && typeof templateAttr.value !== 'string'
          ? [templateAttr.value]
          : [],
      )[0];
    const list = bound(['ngForOf']);
    if (list || node.templateAttrs.some(({ name }) => name === 'ngFor')) {
      const item = `${ITEM}${place.start}`;
      const names = new Map<string, Expr>();
      for (const { name, value } of node.variables)
        names.set(name, value === '$implicit' ? { is: 'prop', name: item } : UNKNOWN);
      const over = list && this.expr(list);
      return [{ kind: 'repeat', over, item, children: this.#inside(names).views(node.children), place }];
    }
    const children = this.views(node.children);
    if (children.length === 0) return [];
    const given = bound(['ngIf']);
    const named = node.references.map(({ name }) => this.#switch.otherwise.get(name)).find(Boolean);
    const own = given
      ? { ...this.#condition(given), arm: { of: place.start, arm: 0, name: 'then' } }
      : (named ?? this.#ofCase(node, bound(['ngSwitchCase'])));
    const condition = own?.text ?? node.templateAttrs.map(({ name }) => name).join(' ');
    const shown = { kind: 'branch' as const, children, place };
    return [{ ...shown, condition: condition || 'a template', test: own?.test, arm: own?.arm }];
  }

  #condition(ast: ng.AST): Chosen {
    return { text: sourceOf(ast), test: this.test(ast) };
  }

  // `*ngSwitchCase="'open'"` and `*ngSwitchDefault`, inside of an element with `[ngSwitch]`.
  #ofCase(node: ng.TmplAstTemplate, value: ng.AST | undefined): Chosen | undefined {
    const { on, cases, at } = this.#switch;
    const isDefault = node.templateAttrs.some(({ name }) => name === 'ngSwitchDefault');
    if (!on || (!value && !isDefault)) return undefined;
    const same = (right: ng.AST): Condition => ({ is: 'same', left: this.expr(on), right: this.expr(right) });
    if (!value)
      return {
        text: `${sourceOf(on)} is none of the cases`,
        test: not({ is: 'any', of: cases.map(same) }),
        arm: { of: at, arm: cases.length, name: 'default' },
      };
    const text = `${sourceOf(on)} is ${sourceOf(value)}`;
    const name = `case ${sourceOf(value)}`;
    return { text, test: same(value), arm: { of: at, arm: cases.indexOf(value), name } };
  }

  #block(node: AngularNode, place: Span): ViewNode[] {
    const {
      TmplAstIfBlock,
      TmplAstForLoopBlock,
      TmplAstSwitchBlock,
      TmplAstDeferredBlock,
      TmplAstLetDeclaration,
    } = this.#ng;
    if (node instanceof TmplAstIfBlock) return this.#ifBlock(node, place);
    if (node instanceof TmplAstForLoopBlock) {
      const item = `${ITEM}${place.start}`;
      const names = new Map<string, Expr>(node.contextVariables.map(({ name }) => [name, UNKNOWN]));
      names.set(node.item.name, { is: 'prop', name: item });
      const over = this.expr(node.expression);
      const loop: ViewNode = {
        kind: 'repeat',
        over,
        item,
        children: this.#inside(names).views(node.children),
        place,
      };
      const size = memberOfExpr(over, 'length');
      const empty: ViewNode[] = node.empty
        ? [
            {
              kind: 'branch',
              condition: 'nothing to repeat',
              test: size.is === 'unknown' ? undefined : not(truthy(size)),
              children: this.views(node.empty.children),
              place: spanOf(node.empty.sourceSpan),
            },
          ]
        : [];
      return [loop, ...empty];
    }
    if (node instanceof TmplAstSwitchBlock) return this.#switchBlock(node, place);
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

  #ifBlock(node: ng.TmplAstIfBlock, place: Span): ViewNode[] {
    const before: { text: string; test: Condition }[] = [];
    return node.branches.map(({ expression, children, sourceSpan }) => {
      const text = expression ? sourceOf(expression) : '';
      const condition = [...before.map((each) => `not (${each.text})`), ...(text ? [text] : [])].join(
        ' and ',
      );
      const own = expression ? [this.test(expression)] : [];
      const test: Condition = { is: 'all', of: [...before.map((each) => not(each.test)), ...own] };
      const name = before.length === 0 ? 'then' : text ? `else if ${text}` : 'else';
      const arm = { of: place.start, arm: before.length, name };
      before.push({ text, test: own[0] ?? UNSURE });
      return {
        kind: 'branch' as const,
        condition,
        test,
        arm,
        children: this.views(children),
        place: spanOf(sourceSpan),
      };
    });
  }

  #switchBlock(node: ng.TmplAstSwitchBlock, place: Span): ViewNode[] {
    const left = this.expr(node.expression);
    const same = (right: ng.AST): Condition => ({ is: 'same', left, right: this.expr(right) });
    const all = node.groups.flatMap(({ cases }) => cases.flatMap(({ expression }) => expression ?? []));
    return node.groups.map(({ cases, children, sourceSpan }, i) => ({
      kind: 'branch' as const,
      arm: {
        of: place.start,
        arm: i,
        name: cases
          .map(({ expression }) => (expression ? `case ${sourceOf(expression)}` : 'default'))
          .join(', '),
      },
      condition: `${sourceOf(node.expression)} is ${cases.map((eachCase) => (eachCase.expression ? sourceOf(eachCase.expression) : 'none of these')).join(' or ')}`,
      test: {
        is: 'any' as const,
        of: cases.map(({ expression }) =>
          expression ? same(expression) : not({ is: 'any', of: all.map(same) }),
        ),
      },
      children: this.views(children),
      place: spanOf(sourceSpan),
    }));
  }

  /** Whether a template expression is truthy. */
  test(ast: ng.AST): Condition {
    return conditionFrom(this.expr(ast));
  }

  /** What a template expression gives; the parts of an interpolation are what Angular shows of them. */
  expr(ast: ng.AST): Expr {
    const { ASTWithSource, Interpolation } = this.#ng;
    if (ast instanceof ASTWithSource) return this.expr(ast.ast);
    if (!(ast instanceof Interpolation)) return exprOf(this.#expressions.node(ast), this.#scope);
    return joined(
      ast.strings.flatMap((text, i) => {
        const part = ast.expressions[i];
        return part ? [constant(text), shown(this.expr(part), ANGULAR)] : [constant(text)];
      }),
    );
  }

  // Templates see the class, and nothing of the global object. A signal is read by a call.
  readonly #scope: ComponentScope = {
    text: '',
    ref: () => undefined,
    lookup: (name) => {
      const expr = this.#names.get(name);
      return expr ? { is: 'expr', expr } : { is: 'unknown' };
    },
    called: (call, args, scope, depth) => {
      const callee = unwrapped(call.callee);
      const isMethodOfText = callee.type === 'MemberExpression' && isMethod(memberName(callee) ?? '');
      return args.length === 0 && !isMethodOfText ? exprOf(callee, scope, depth) : undefined;
    },
  };
}

const ANGULAR = { framework: 'angular' } as const;

const spanOf = ({ start, end }: ng.ParseSourceSpan): Span => ({ start: start.offset, end: end.offset });

const sourceOf = (ast: ng.AST): string =>
  'source' in ast && typeof ast.source === 'string' ? ast.source.trim() : '';

import { bindPattern as bindNames } from '../../../language/patterns.js';
import { type JsxElement, attributesOf, contentsOf, htmlName } from './jsx-attributes.js';
import { messageOf } from '../../translations.js';
import { childrenGoneThrough, listedChildren } from './children.js';
import { consumes, inProvider } from './contexts.js';
import { passesOn, showsNothing } from './passing.js';
import { routedView, routerView } from './routes.js';
import { tagMade } from './tag-factories.js';
import {
  isProps,
  ownMethod,
  partsIn,
  resolved,
  resolvedHere,
  type NameBinding,
  type ComponentScope,
  type WayOut,
} from '../../scope.js';
import { decodeHTMLStrict } from 'entities';
import type { Node } from 'oxc-parser';
import { attributesGiven, type CreatedElement } from '../../../syntax/created-elements.js';
import { calledName, isFunction, memberName, unwrapped, type FunctionNode } from '../../../syntax/tree.js';
import {
  constant,
  isUndefined,
  ITEM,
  not,
  orElse,
  possibleValues,
  truthy,
  type Condition,
  type Expr,
  UNKNOWN,
  UNSURE,
} from '../../expr.js';
import { shown } from '../../expr-text.js';
import { exprOf, named, conditionOf } from '../../read-expr.js';
import { functionScope, waysOut } from '../../ways.js';
import { componentNode, elementNode, withMore, type TagContents } from '../../given.js';
import { EARLY_RETURN } from '../../view.js';
import { chosenComponents, type ChosenComponent } from './chosen-components.js';
import type { TemplateArm, ViewNode } from '../../view.js';
import type { Span } from '../../../finding.js';

// By any way that they are come by: `React.Fragment`, `KilnContext.Provider`.
const TRANSPARENT = new Set(['Fragment', 'Suspense', 'StrictMode', 'Profiler', 'Provider', 'Consumer']);
const SHOWS_FIRST = new Set(['createPortal', 'memo', 'useMemo', 'cloneElement', 'only']);
const DEEPEST = 48;
// A function that gives markup may call itself: each call counts for many levels.
const CALL = 6;

/** What an expression of JSX shows: elements, texts, conditions, lists. Spans are those of the scope's file. */
export function viewOf(node: Node, scope: ComponentScope, depth = 0): ViewNode[] {
  const inner = unwrapped(node);
  const place = { start: inner.start, end: inner.end };
  if (depth > DEEPEST) return [{ kind: 'hole', why: 'nested too deeply', place }];
  const sub = (each: Node): ViewNode[] => viewOf(each, scope, depth + 1);
  switch (inner.type) {
    case 'JSXElement':
      return elementView(inner, scope, depth);
    case 'JSXFragment':
      return inner.children.flatMap(sub);
    case 'JSXText':
      return textView(constant(jsxText(inner.value)), place);
    case 'JSXExpressionContainer':
      return inner.expression.type === 'JSXEmptyExpression' ? [] : sub(inner.expression);
    case 'ConditionalExpression': {
      const either = exprOf(inner, scope);
      if (possibleValues(either)?.every((value) => typeof value === 'string')) return textView(either, place);
      const condition = scope.text.slice(inner.test.start, inner.test.end);
      const test = conditionOf(inner.test, scope);
      const [then, otherwise] = [sub(inner.consequent), sub(inner.alternate)];
      // `isValidElement(child) ? cloneElement(child, { size }) : child` shows the child either way.
      if (isOneSlot(then, otherwise)) return then;
      return [
        ...branch(condition, test, then, place, { of: inner.start, arm: 0 }),
        ...branch(`not (${condition})`, not(test), otherwise, place, { of: inner.start, arm: 1 }),
      ];
    }
    case 'LogicalExpression': {
      const condition = scope.text.slice(inner.left.start, inner.left.end);
      const test = conditionOf(inner.left, scope);
      if (inner.operator === '??') return [...sub(inner.left), ...sub(inner.right)];
      if (inner.operator === '&&') return branch(condition, test, sub(inner.right), place);
      return [
        ...branch(condition, test, sub(inner.left), place, { of: inner.start, arm: 0 }),
        ...branch(`not (${condition})`, not(test), sub(inner.right), place, { of: inner.start, arm: 1 }),
      ];
    }
    case 'ArrayExpression':
      return inner.elements.flatMap((element) => (element ? sub(element) : []));
    case 'CallExpression':
      return callView(inner, scope, depth);
    case 'ArrowFunctionExpression':
    case 'FunctionExpression':
      // A function as a child: what it gives is shown somewhere inside.
      return functionView(inner as FunctionNode, scope, depth);
    case 'Identifier':
    case 'MemberExpression':
      return nameView(inner, scope, depth);
    default:
      return exprView(exprOf(inner, scope), place);
  }
}

function isOneSlot([one, ...more]: readonly ViewNode[], [other, ...others]: readonly ViewNode[]): boolean {
  const isOne = more.length === 0 && others.length === 0 && one?.kind === 'slot' && other?.kind === 'slot';
  return isOne && one.name === other.name && one.fallback.length === 0 && other.fallback.length === 0;
}

function textView(text: Expr, place: Span, open = false): ViewNode[] {
  const blank = text.is === 'constant' && text.value === '';
  return blank ? [] : [{ kind: 'text', text, place, open }];
}

function exprView(expr: Expr, place: Span): ViewNode[] {
  if (expr.is === 'prop') return [{ kind: 'slot', name: expr.name, fallback: [], place }];
  const defaulted = expr.is === 'if' && expr.otherwise.is === 'prop' ? expr.otherwise : undefined;
  // A prop with what stands in for it.
  if (expr.is === 'if' && defaulted && expr.test.is === 'same' && isSameProp(expr.test.left, defaulted))
    return [{ kind: 'slot', name: defaulted.name, fallback: exprView(expr.then, place), place }];
  return textView(shown(expr, { framework: 'react' }), place, true);
}

const isSameProp = (expr: Expr, { name }: Extract<Expr, { is: 'prop' }>): boolean =>
  expr.is === 'prop' && expr.name === name;

const branch = (
  condition: string,
  test: Condition,
  children: ViewNode[],
  place: Span,
  arm?: TemplateArm,
): ViewNode[] => (children.length ? [{ kind: 'branch', condition, test, arm, children, place }] : []);

function nameView(node: Node, scope: ComponentScope, depth: number): ViewNode[] {
  const place = { start: node.start, end: node.end };
  const bound = node.type === 'Identifier' ? scope.lookup(node.name) : undefined;
  if (bound?.is === 'view') return [...bound.view];
  if (bound?.is === 'assigned') return assignedView(bound.ways, bound.scope, depth, place);
  const by = bound && bound.is === 'part' && bound.key === 'children' ? givenProps(bound.of) : undefined;
  if (by !== undefined)
    return branch(
      `what ${by} gives`,
      UNSURE,
      [{ kind: 'slot', name: 'children', fallback: [], place }],
      place,
    );
  const found = resolvedHere(node, scope);
  if (found && found.node !== unwrapped(node) && !isFunction(found.node))
    return viewOf(found.node, found.scope, depth + 1);
  return exprView(exprOf(node, scope), place);
}

// The call that a component hands all its props to: what it gives under their names are probably they.
function givenProps(bound: NameBinding): string | undefined {
  const call = bound.is === 'node' ? unwrapped(bound.node) : undefined;
  if (bound.is !== 'node' || call?.type !== 'CallExpression') return undefined;
  return call.arguments.some((each) => isProps(each, bound.scope)) ? calledName(call) : undefined;
}

function assignedView(
  ways: readonly WayOut[],
  scope: ComponentScope,
  depth: number,
  place: Span,
): ViewNode[] {
  return ways.flatMap(({ node, test, scope: own = scope }, i) => {
    const later = ways.slice(i + 1).map((way) => not(way.test));
    const view = node ? viewOf(node, own, depth + CALL) : [];
    const arm = { of: place.start, arm: i };
    return branch('depends on what was assigned', { is: 'all', of: [test, ...later] }, view, place, arm);
  });
}

// Lists by `map`, portals, and the component's own functions that give markup.
function callView(
  node: Extract<Node, { type: 'CallExpression' }>,
  scope: ComponentScope,
  depth: number,
): ViewNode[] {
  const place = { start: node.start, end: node.end };
  const [first, second] = node.arguments;
  const method = memberName(unwrapped(node.callee));
  const list = listedChildren(node, scope);
  if (list) return viewOf(list.node, list.scope, depth + 1);
  const through = childrenGoneThrough(node, scope);
  const each = through && resolvedHere(through.by, scope);
  if (through && each && isFunction(each.node)) {
    const all = viewOf(through.of.node, through.of.scope, depth + 1);
    return eachChild(all, each.node, each.scope, depth);
  }
  if (method === 'map' || method === 'flatMap') {
    const fn = first && resolvedHere(first, scope);
    if (fn && isFunction(fn.node)) return [repeatView(node, fn.node, fn.scope, scope, depth)];
  }
  const callee = node.callee.type === 'Identifier' ? node.callee.name : method;
  if (callee && SHOWS_FIRST.has(callee) && first) {
    const view = viewOf(first, scope, depth + 1);
    return callee === 'cloneElement' && second ? cloned(view, second, scope, depth) : view;
  }
  const own = ownMethod(unwrapped(node.callee), scope);
  if (own?.is === 'node' && isFunction(own.node)) return functionView(own.node, own.scope, depth);
  const fn = resolvedHere(node.callee, scope);
  if (fn && isFunction(fn.node) && !fn.node.async) return functionView(fn.node, fn.scope, depth);
  const called = exprOf(node.callee, scope);
  return exprView(called.is === 'prop' ? called : exprOf(node, scope), place);
}

function cloned(view: ViewNode[], props: Node, scope: ComponentScope, depth: number): ViewNode[] {
  const attributes = attributesGiven(unwrapped(props));
  const more = contentsOf(attributes, scope, (each, at) => viewOf(each, at, depth + 1));
  return view.map((node) => withMore(node, more));
}

function eachChild(view: ViewNode[], fn: FunctionNode, scope: ComponentScope, depth: number): ViewNode[] {
  const children = functionView(fn, scope, depth, parameter(fn.params[0], { is: 'view', view }, scope));
  if (isOneSlot(children, view)) return view;
  // How many there are, and which, whoever hands them over knows.
  return [{ kind: 'repeat', children, place: { start: fn.start, end: fn.end } }];
}

function repeatView(
  node: Extract<Node, { type: 'CallExpression' }>,
  fn: FunctionNode,
  inside: ComponentScope,
  outside: ComponentScope,
  depth: number,
): ViewNode {
  const place = { start: node.start, end: node.end };
  const list = node.callee.type === 'MemberExpression' ? node.callee.object : undefined;
  const item = `${ITEM}${fn.start}`;
  return {
    kind: 'repeat',
    over: list && exprOf(list, outside),
    item,
    children: functionView(fn, inside, depth, parameter(fn.params[0], { is: 'prop', name: item }, inside)),
    place,
  };
}

// The parameter that takes an item, or what a context gives, stands for it, or for its parts.
function parameter(
  param: Node | undefined,
  whole: NameBinding,
  scope: ComponentScope,
): Map<string, NameBinding> {
  const names = new Map<string, NameBinding>();
  if (param) bindNames(param, whole, partsIn(scope), ({ name }, bound) => names.set(name, bound));
  return names;
}

/** What a function that gives markup shows, on every way through it. */
export function functionView(
  fn: FunctionNode,
  outer: ComponentScope,
  depth: number,
  params: ReadonlyMap<string, NameBinding> = new Map(),
): ViewNode[] {
  const scope = functionScope(fn, outer, params);
  return waysOut(fn, scope).flatMap(({ node, test, always }, i) => {
    if (!node || (node.type === 'Literal' && node.value === null)) return [];
    const view = viewOf(node, scope, depth + CALL);
    const place = { start: node.start, end: node.end };
    return always ? view : branch(EARLY_RETURN, test, view, place, { of: fn.start, arm: i });
  });
}

function exprGiven({ props }: TagContents, name: string): Expr | undefined {
  const given = props.get(name);
  return given && 'expr' in given ? given.expr : undefined;
}

// A prop that is written out as a text.
function textGiven(contents: TagContents, name: string): string | undefined {
  const expr = exprGiven(contents, name);
  return expr?.is === 'constant' && typeof expr.value === 'string' ? expr.value : undefined;
}

// `<Kiln.Consumer>{({ temp }) => …}</Kiln.Consumer>`
function consumerView(
  node: JsxElement,
  name: string,
  scope: ComponentScope,
  depth: number,
): ViewNode[] | undefined {
  const gives = consumes(name, scope);
  const fns = node.children.flatMap((each) =>
    each.type === 'JSXExpressionContainer' && isFunction(each.expression) ? [each.expression] : [],
  );
  const [fn] = fns;
  if (!gives || !fn || fns.length > 1) return undefined;
  const bound = parameter(fn.params[0], { is: 'expr', expr: gives }, scope);
  return functionView(fn, scope, depth, bound).map((each) => ({ ...each, consumes: true }));
}

function elementView(node: JsxElement, scope: ComponentScope, depth: number): ViewNode[] {
  const { name: tagName } = node.openingElement;
  const text = scope.text.slice(tagName.start, tagName.end);
  const simple = text.split('.').pop() ?? text;
  const written = childrenOf(node, scope, depth);
  const ref = scope.ref(text);
  const place = { start: node.openingElement.start, end: node.openingElement.end };
  const given = attributesOf(node, scope, (each, at) => viewOf(each, at, depth + 1));
  const children = written.length > 0 ? written : handedIn(given, place);
  if (simple === 'Provider') return inProvider(children, text, exprGiven(given, 'value'), scope);
  const consumed = simple === 'Consumer' ? consumerView(node, text, scope, depth) : undefined;
  if (consumed) return consumed;
  if (TRANSPARENT.has(simple) || passesOn(ref)) return children;
  if (showsNothing(ref)) return [];
  const says = messageOf(simple, (prop) => textGiven(given, prop));
  if (says && children.length === 0) return textView({ is: 'text', parts: [{ is: 'unknown', says }] }, place);
  const routed = routedView(ref, node, given, children, scope);
  if (routed) return branch('the address fits', { is: 'unsure' }, [...routed], place);
  const router = routerView(ref, node, given, scope, (each, at) => viewOf(each, at, depth + 1));
  if (router?.sure) return [...router.view];
  if (router) return branch('the address fits', { is: 'unsure' }, [...router.view], place);
  const made = tagMade(ref);
  if (made) return madeView(made, given, children, place);
  // A capital name that is a value of the component's own: a tag that is chosen at run time.
  const byName =
    !ref && /^[A-Z]\w*$/.test(text) && scope.lookup(text) !== undefined ? named(text, scope) : undefined;
  const { chosen: type }: CreatedElement = node;
  const chosen = type ? exprOf(type, scope) : byName;
  const slots = new Map<string, readonly ViewNode[]>(children.length ? [['children', children]] : []);
  if (node.children.some(isFunctionIn(scope))) (given.functions ??= new Set()).add('children');
  const components = chosen && chosenIn(type ?? text, scope);
  if (components)
    return components.flatMap(({ ref, given: other, name, test }, i): readonly ViewNode[] => {
      const one = componentNode(given, { name, ref, place, slots });
      const view = passesOn(ref)
        ? children
        : other
          ? [elementNode(given, { tag: '?', chosen: other, asComponent: one, place, children })]
          : [one];
      const arm = { of: place.start, arm: i };
      return components.length === 1 ? view : branch(`${text} is ${name}`, test, view, place, arm);
    });
  if (chosen || (tagName.type === 'JSXIdentifier' && /^[a-z]/.test(text))) {
    const inside = given.attributes.has('dangerouslysetinnerhtml')
      ? [{ kind: 'hole' as const, why: 'markup given as text', place }]
      : children;
    const asComponent = chosen && componentNode(given, { name: text, ref: undefined, place, slots });
    const own = elementNode(given, {
      tag: chosen ? '?' : text,
      chosen,
      asComponent,
      place,
      children: inside,
    });
    const standIn = chosen?.is === 'prop' && !type ? standInOf(text, scope) : undefined;
    if (!chosen || !standIn) return [own];
    const { ref, name } = standIn;
    const test = isUndefined(chosen);
    const view = passesOn(ref) ? children : [componentNode(given, { name, ref, place, slots })];
    return [
      ...branch(`${text} is ${name}`, test, view, place),
      ...branch(`${text} is given`, not(test), [own], place),
    ];
  }
  return [componentNode(given, { name: text, ref, place, slots })];
}

// An element of a factory, unless it is told to be another tag, or to lend itself to its child.
function madeView(
  { tag, takes }: { tag: string; takes: readonly string[] },
  given: TagContents,
  children: ViewNode[],
  place: Span,
): ViewNode[] {
  const asked = (name: string): Expr | undefined => {
    const own = given.props.get(name);
    if (!takes.includes(name)) return undefined;
    if (own) return 'expr' in own ? own.expr : UNKNOWN;
    return given.rest && !given.rest.includes(name) ? { is: 'prop', name } : undefined;
  };
  const [as, lends] = [asked('as'), asked('asChild')];
  for (const name of takes) given.attributes.delete(htmlName(name));
  const own = { ...given, ...(given.rest ? { rest: [...given.rest, ...takes] } : {}) };
  const chosen = as && orElse(as, constant(tag));
  const asComponent =
    chosen &&
    componentNode(own, { name: tag, ref: undefined, place, slots: new Map([['children', children]]) });
  const element = elementNode(own, { tag: chosen ? '?' : tag, chosen, asComponent, place, children });
  if (!lends) return [element];
  const handed: ViewNode[] =
    children.length > 0 || !given.rest || given.rest.includes('children')
      ? children
      : [{ kind: 'slot', name: 'children', fallback: [], place }];
  const lent: ViewNode[] = [{ kind: 'hole', why: 'what a child is lent', place }, ...handed];
  return [
    ...branch('not (asChild)', not(truthy(lends)), [element], place),
    ...branch('asChild', truthy(lends), lent, place),
  ];
}

// By a name of markup, or by the expression that a call was given.
function chosenIn(type: Node | string, scope: ComponentScope): readonly ChosenComponent[] | undefined {
  if (typeof type !== 'string') return chosenComponents(type, scope);
  const bound = scope.lookup(type);
  return bound?.is === 'node' ? chosenComponents(bound.node, bound.scope) : undefined;
}

// The one component that stands in for a prop that is not given: `{ as: Tag = Heading }`.
function standInOf(name: string, scope: ComponentScope): ChosenComponent | undefined {
  const bound = scope.lookup(name);
  const node = bound?.is === 'prop' ? bound.fallback : bound?.is === 'either' ? bound.otherwise : undefined;
  const [only, ...more] =
    (node && chosenComponents(node, bound?.is === 'either' ? bound.scope : scope)) ?? [];
  return more.length === 0 ? only : undefined;
}

const isFunctionIn =
  (scope: ComponentScope) =>
  (child: Node): boolean =>
    child.type === 'JSXExpressionContainer' && isFunction(resolved(child.expression, scope)?.node);

// `children={…}`, or in an object that is spread.
function handedIn({ props }: TagContents, place: Span): ViewNode[] {
  const children = props.get('children');
  if (!children) return [];
  return 'view' in children ? [...children.view] : exprView(children.expr, place);
}

// A value that stands among words is one of them.
function childrenOf(node: JsxElement, scope: ComponentScope, depth: number): ViewNode[] {
  const children = node.children.flatMap((child) => viewOf(child, scope, depth + 1));
  const hasWords = node.children.some(
    (child) => child.type === 'JSXText' && jsxText(child.value).trim() !== '',
  );
  return hasWords
    ? children.map((child) =>
        child.kind === 'text' && child.text.is !== 'prop' ? { ...child, open: false } : child,
      )
    : children;
}

/** The text that JSX shows for the text between tags: lines trimmed and joined, as the standard transform does. */
export function jsxText(raw: string): string {
  const lines = raw.split(/\r\n|\n|\r/);
  const kept = lines.map((line, i) => {
    const left = i === 0 ? line : line.replace(/^[ \t]+/, '');
    return i === lines.length - 1 ? left : left.replace(/[ \t]+$/, '');
  });
  return decodeHTMLStrict(kept.filter((line) => line !== '').join(' '));
}

import type { Prop, ViewNode } from '../../view.js';
import { decodeHTMLStrict } from 'entities';
import type { Node } from 'oxc-parser';
import {
  calledName,
  isFunction,
  namesCalledIn,
  pathOf,
  propertyName,
  unwrapped,
  type FunctionNode,
} from '../../../syntax/tree.js';
import { classesIn, classesOf, joinedClasses } from '../../classes.js';
import { constant, spreadOver, UNKNOWN, type Condition, type Expr } from '../../expr.js';
import { shownAttribute } from '../../expr-text.js';
import { isFilledLater } from '../../objects.js';
import { keysIn } from '../../keys.js';
import { conditionOf, exprOf, spreadExpr } from '../../read-expr.js';
import { waysOut } from '../../ways.js';
import { nothingGiven, openTag, type TagContents } from '../../given.js';
import { ownMethod, isProps, resolved, type ComponentScope } from '../../scope.js';

/** Attributes that JSX writes in another way than HTML. */
const HTML_NAMES: Readonly<Record<string, string>> = {
  className: 'class',
  htmlFor: 'for',
  defaultValue: 'value',
  defaultChecked: 'checked',
};

/** The name of an attribute in HTML. */
export const htmlName = (name: string): string => HTML_NAMES[name] ?? name.toLowerCase();

/** Reads what markup in an attribute shows. */
type ReadView = (node: Node, scope: ComponentScope) => ViewNode[];

/** What an opening tag gives its element or component: attributes, props, class names, events, spreads. */
export const attributesOf = (node: JsxElement, scope: ComponentScope, viewOf: ReadView): TagContents =>
  contentsOf(node.openingElement.attributes, scope, viewOf);

/** What some attributes give, in their order. */
export function contentsOf(
  attributes: JsxElement['openingElement']['attributes'],
  scope: ComponentScope,
  viewOf: ReadView,
): TagContents {
  const given = nothingGiven();
  for (const each of attributes) {
    if (each.type === 'JSXSpreadAttribute') {
      spread(each.argument, scope, given, viewOf);
      continue;
    }
    const name = scope.text.slice(each.name.start, each.name.end);
    addAttribute(name, each.value, scope, given, viewOf);
    if (!/^on[A-Z]/.test(name) || each.value?.type !== 'JSXExpressionContainer') continue;
    const { expression } = each.value;
    const value = handlerOf(expression, scope);
    const prop = value ? undefined : handedOn(expression, scope);
    if (value || (prop !== undefined && prop !== name))
      given.handlers.push({
        event: platformEvent(name),
        place: { start: each.start, end: each.end },
        names: value ? namesCalledIn(each.value) : [],
        keys: value ? keysIn(value.fn, (node) => textIn(node, value.scope)) : [],
        ...(prop === undefined ? {} : { prop }),
      });
  }
  return given;
}

// The component's own function, also where it is kept between renders: `useCallback(() => …)`.
function handlerOf(
  node: Node,
  scope: ComponentScope,
): { fn: FunctionNode; scope: ComponentScope } | undefined {
  const found = resolved(node, scope);
  if (!found) return undefined;
  const { node: made } = found;
  const fn = made.type === 'CallExpression' && calledName(made) === 'useCallback' ? made.arguments[0] : made;
  return isFunction(fn) && !doesNothing(fn) ? { fn, scope: found.scope } : undefined;
}

// `onClick={onClose}`, where that is a prop.
function handedOn(node: Node, scope: ComponentScope): string | undefined {
  const expr = exprOf(node, scope);
  return expr.is === 'prop' ? expr.name : undefined;
}

// `() => {}` stands there because something has to.
const doesNothing = ({ body }: FunctionNode): boolean =>
  body?.type === 'BlockStatement' && body.body.length === 0;

function textIn(node: Node, scope: ComponentScope): string | undefined {
  const expr = exprOf(node, scope);
  return expr.is === 'constant' && typeof expr.value === 'string' ? expr.value : undefined;
}

// `onDoubleClick` handles what the platform calls `dblclick`.
/** The platform's name for the event of a listener's prop: `onChange`. */
export const platformEvent = (name: string): string =>
  name === 'onDoubleClick' ? 'dblclick' : name.slice(2).toLowerCase();

function addAttribute(
  name: string,
  value: Node | null,
  scope: ComponentScope,
  given: TagContents,
  viewOf: ReadView,
): void {
  const node = value?.type === 'JSXExpressionContainer' ? value.expression : value;
  if (name === 'className' && node) given.classes = joinedClasses([given.classes, classesOf(node, scope)]);
  if (node && isMarkup(node, scope)) {
    given.props.set(name, { view: viewOf(node, scope) });
    if (isFunction(resolved(node, scope)?.node)) (given.functions ??= new Set()).add(name);
    return;
  }
  const path = node ? pathOf(unwrapped(node)) : undefined;
  const ref = path !== undefined && /^(?:\w+\.)?[A-Z]/.test(path) ? scope.ref(path) : undefined;
  if (ref) (given.components ??= new Map()).set(name, ref);
  const expr = !node ? constant(true) : node === value ? decoded(exprOf(node, scope)) : exprOf(node, scope);
  give(name, expr, given, name !== 'className');
}

// Whether an expression gives markup, at least on one way through it.
function isMarkup(node: Node, scope: ComponentScope, depth = 0): boolean {
  const given = unwrapped(node);
  const bound = given.type === 'Identifier' ? scope.lookup(given.name) : undefined;
  if (bound?.is === 'view') return true;
  const { ways } = bound?.is === 'assigned' ? bound : { ways: [] };
  const found = resolved(given, scope);
  if (depth > MARKUP_DEEPEST || (!found && ways.length === 0)) return false;
  const sub = (each: Node, at = found?.scope ?? scope): boolean => isMarkup(each, at, depth + 1);
  if (bound?.is === 'assigned')
    return ways.some(({ node: each, scope: own = bound.scope }) => each && sub(each, own));
  switch (found?.node.type) {
    case 'JSXElement':
    case 'JSXFragment':
      return true;
    case 'ArrowFunctionExpression':
      // A function of markup, for the component to call.
      return waysOut(found.node, found.scope).some(({ node: way }) => way?.type === 'JSXElement');
    case 'ConditionalExpression':
      return sub(found.node.consequent) || sub(found.node.alternate);
    case 'LogicalExpression':
      return sub(found.node.right);
    case 'CallExpression': {
      const own = ownMethod(unwrapped(found.node.callee), scope);
      const called = own?.is === 'node' ? own : resolved(found.node.callee, found.scope);
      return called && isFunction(called.node)
        ? waysOut(called.node, called.scope).some((way) => way.node && sub(way.node, called.scope))
        : false;
    }
    default:
      return false;
  }
}

const MARKUP_DEEPEST = 5;

// A text in quotes is written as in HTML.
const decoded = (expr: Expr): Expr =>
  expr.is === 'constant' && typeof expr.value === 'string' ? constant(decodeHTMLStrict(expr.value)) : expr;

function give(name: string, expr: Expr, given: TagContents, classes = true): void {
  const isListener = /^on[A-Z]/.test(name);
  // Nobody minds what a listener gives back.
  given.props.set(name, { expr: isListener && expr.is === 'something' ? { ...expr, fn: undefined } : expr });
  if (isListener) given.events.push(platformEvent(name));
  // Handlers, keys and references are no attributes of the document.
  else if (name !== 'key' && name !== 'ref')
    given.attributes.set(htmlName(name), shownAttribute(htmlName(name), expr, { framework: 'react' }));
  if (name === 'className' && classes) given.classes = joinedClasses([given.classes, classesIn(expr)]);
}

// A spread of a literal object can be read; any other may hold anything, handlers and class names included.
function spread(argument: Node, scope: ComponentScope, given: TagContents, viewOf: ReadView): void {
  const inner = unwrapped(argument);
  const bound = inner.type === 'Identifier' ? scope.lookup(inner.name) : undefined;
  if (bound?.is === 'rest' || isProps(inner, scope)) {
    given.rest = bound?.is === 'rest' ? bound.except : [];
    return;
  }
  const found = resolved(argument, scope);
  if (found?.node.type === 'ObjectExpression') return spreadLiteral(found.node, found.scope, given, viewOf);
  const sides = found && sidesOf(found.node);
  if (found && sides) {
    const test = conditionOf(sides.test, found.scope);
    return spreadUnder(test, sides.then, sides.otherwise, found.scope, given, viewOf);
  }
  const expr = spreadExpr(argument, scope);
  if (expr.is === 'object')
    for (const [name, value] of expr.entries) give(name, spreadOver(value, exprBefore(name, given)), given);
  if (expr.is === 'object' && expr.rest) given.rest = expr.rest;
  // Nothing comes of spreading what is no object.
  if (expr.is === 'constant' || (expr.is === 'object' && (expr.rest || !expr.open))) return;
  const whole = exprOf(argument, scope);
  if (isFilledLater(whole)) given.later.push({ expr: whole, before: [...given.props.keys()] });
  else openTag(given);
}

// What a prop holds that has been given so far.
function exprBefore(name: string, { props, open, later, rest }: TagContents): Expr {
  const own = props.get(name);
  if (own) return 'expr' in own ? own.expr : UNKNOWN;
  return open || later.length > 0 || rest ? UNKNOWN : constant(undefined);
}

// `{...(hot && { role: 'alert' })}`, `{...(hot ? a : b)}`
function sidesOf(node: Node): { test: Node; then: Node; otherwise?: Node } | undefined {
  if (node.type === 'LogicalExpression' && node.operator === '&&')
    return { test: node.left, then: node.right };
  return node.type === 'ConditionalExpression'
    ? { test: node.test, then: node.consequent, otherwise: node.alternate }
    : undefined;
}

function spreadUnder(
  test: Condition,
  then: Node,
  otherwise: Node | undefined,
  scope: ComponentScope,
  given: TagContents,
  viewOf: ReadView,
): void {
  const before = (name: string): Prop => given.props.get(name) ?? { expr: exprBefore(name, given) };
  const sides = [then, otherwise].map((node) => {
    const side = nothingGiven();
    if (node) spread(node, scope, side, viewOf);
    return side;
  });
  if (sides.some(({ open, rest }) => open || rest)) openTag(given);
  const nothing = constant(undefined);
  sides.forEach(({ later }, i) => {
    for (const { expr } of later) {
      const [yes, no] = i === 0 ? [expr, nothing] : [nothing, expr];
      given.later.push({
        expr: { is: 'if', test, then: yes, otherwise: no },
        before: [...given.props.keys()],
      });
    }
  });
  for (const name of new Set(sides.flatMap(({ props }) => [...props.keys()]))) {
    const [yes, no] = sides.map(({ props }) => props.get(name) ?? before(name));
    if (!yes || !no || !('expr' in yes) || !('expr' in no)) given.props.set(name, { expr: UNKNOWN });
    else give(name, { is: 'if', test, then: yes.expr, otherwise: no.expr }, given);
  }
  given.handlers.push(...sides.flatMap(({ handlers }) => handlers));
}

function spreadLiteral(
  node: Extract<Node, { type: 'ObjectExpression' }>,
  scope: ComponentScope,
  given: TagContents,
  viewOf: ReadView,
): void {
  for (const each of node.properties) {
    const key = each.type === 'Property' ? propertyName(each.key, each.computed) : undefined;
    if (each.type === 'Property' && key !== undefined) addAttribute(key, each.value, scope, given, viewOf);
    else if (each.type === 'SpreadElement') spread(each.argument, scope, given, viewOf);
    else openTag(given);
  }
}
export type JsxElement = Extract<Node, { type: 'JSXElement' }>;

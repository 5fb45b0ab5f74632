import type { Node } from 'oxc-parser';
import { literalText, memberName, propertyName, unwrapped, type FunctionNode } from '../../parse/tree.js';
import type { ComponentRef, ViewNode } from './view.js';
import { constant, joined, oneOf, UNKNOWN, type Expr } from './expr.js';

/** What a name stands for inside a component. */
export type Bound =
  | { is: 'prop'; name: string; fallback?: Node }
  /** The object of all props. */
  | { is: 'props' }
  /** The object of all props but some. */
  | { is: 'rest'; except: readonly string[] }
  /** Declared by an expression or function that can be read in its own scope. */
  | { is: 'node'; node: Node; scope: Scope }
  | { is: 'expr'; expr: Expr }
  | { is: 'view'; view: readonly ViewNode[] }
  | { is: 'unknown' };

/** Looks up names where an expression stands. */
export interface Scope {
  lookup(name: string): Bound | undefined;
  /** The component that a name in markup stands for. */
  ref(name: string): ComponentRef | undefined;
  /** The source text of the file, for conditions shown as written. */
  readonly text: string;
}

const DEEPEST = 8;

/** What an expression gives, as far as it can be read in its scope. */
export function exprOf(node: Node, scope: Scope, depth = 0): Expr {
  const inner = unwrapped(node);
  if (depth > DEEPEST) return UNKNOWN;
  const sub = (each: Node): Expr => exprOf(each, scope, depth + 1);
  switch (inner.type) {
    case 'Literal':
      return 'regex' in inner || typeof inner.value === 'bigint'
        ? UNKNOWN
        : constant(inner.value as string | number | boolean | null);
    case 'TemplateLiteral':
      return joined(
        inner.quasis.flatMap((quasi, i) => {
          const hole = inner.expressions[i];
          return [constant(quasi.value.cooked ?? ''), ...(hole ? [sub(hole)] : [])];
        }),
      );
    case 'BinaryExpression':
      return inner.operator === '+' ? sum(sub(inner.left), sub(inner.right)) : UNKNOWN;
    case 'ConditionalExpression':
      return oneOf([sub(inner.consequent), sub(inner.alternate)]);
    case 'LogicalExpression':
      return inner.operator === '&&'
        ? oneOf([sub(inner.right), UNKNOWN])
        : oneOf([sub(inner.left), sub(inner.right)]);
    case 'Identifier':
      return inner.name === 'undefined' ? constant(undefined) : ofBound(scope.lookup(inner.name), depth);
    case 'MemberExpression':
      return ofMember(inner, scope, depth);
    case 'AssignmentExpression':
      return sub(inner.right);
    default:
      return UNKNOWN;
  }
}

function sum(left: Expr, right: Expr): Expr {
  const isText = (expr: Expr): boolean =>
    expr.is === 'text' || (expr.is === 'constant' && typeof expr.value === 'string');
  return isText(left) || isText(right) ? joined([left, right]) : UNKNOWN;
}

function ofBound(bound: Bound | undefined, depth: number): Expr {
  switch (bound?.is) {
    case 'prop':
      return { is: 'prop', name: bound.name };
    case 'expr':
      return bound.expr;
    case 'node':
      return exprOf(bound.node, bound.scope, depth + 1);
    default:
      return UNKNOWN;
  }
}

function ofMember(node: Extract<Node, { type: 'MemberExpression' }>, scope: Scope, depth: number): Expr {
  const name = memberName(node);
  if (name === undefined) return UNKNOWN;
  if (isProps(node.object, scope)) return { is: 'prop', name };
  const object = resolved(node.object, scope);
  if (object?.node.type !== 'ObjectExpression') return UNKNOWN;
  for (const each of object.node.properties) {
    if (each.type !== 'Property' || each.computed) continue;
    const key = each.key.type === 'Identifier' ? each.key.name : literalText(each.key);
    if (key === name) return exprOf(each.value, object.scope, depth + 1);
  }
  return UNKNOWN;
}

/** Whether an expression is the object of all props: `props`, `this.props`, `$props`. */
export function isProps(node: Node, scope: Scope): boolean {
  const inner = unwrapped(node);
  if (inner.type === 'Identifier') return scope.lookup(inner.name)?.is === 'props';
  return (
    inner.type === 'MemberExpression' &&
    inner.object.type === 'ThisExpression' &&
    memberName(inner) === 'props'
  );
}

/** The expression or function behind a name, followed through plain aliases. */
export function resolved(node: Node, scope: Scope): { node: Node; scope: Scope } | undefined {
  let at = { node: unwrapped(node), scope };
  for (let step = 0; step < DEEPEST; step++) {
    if (at.node.type !== 'Identifier') return at;
    const bound = at.scope.lookup(at.node.name);
    if (bound?.is !== 'node') return undefined;
    at = { node: unwrapped(bound.node), scope: bound.scope };
  }
  return undefined;
}

/** A scope in which some names stand for something else. */
export function inner(scope: Scope, names: ReadonlyMap<string, Bound>): Scope {
  return {
    text: scope.text,
    ref: (name) => scope.ref(name),
    lookup: (name) => names.get(name) ?? scope.lookup(name),
  };
}

/** The scope inside a function: its parameters unknown, but those bound in `params`, and its constants readable. */
export function functionScope(fn: FunctionNode, outer: Scope, params: ReadonlyMap<string, Bound>): Scope {
  const names = new Map<string, Bound>(params);
  const scope = inner(outer, names);
  if (fn.body?.type === 'BlockStatement') declareAll(fn.body.body, names, scope);
  return scope;
}

// Constants and functions of a block and of the blocks inside it; a name declared twice is unknown.
function declareAll(statements: readonly Node[], names: Map<string, Bound>, scope: Scope): void {
  for (const statement of statements) {
    switch (statement.type) {
      case 'VariableDeclaration':
        for (const each of statement.declarations) {
          bindPattern(each.id, statement.kind === 'const' ? each.init : null, names, scope);
        }
        break;
      case 'FunctionDeclaration':
        if (statement.id) names.set(statement.id.name, { is: 'node', node: statement, scope });
        break;
      case 'BlockStatement':
        declareAll(statement.body, names, scope);
        break;
      case 'IfStatement':
        declareAll(
          [statement.consequent, ...(statement.alternate ? [statement.alternate] : [])],
          names,
          scope,
        );
        break;
    }
  }
}

/** Binds the names of a pattern to the parts of the value that an expression gives. */
export function bindPattern(pattern: Node, init: Node | null, names: Map<string, Bound>, scope: Scope): void {
  if (pattern.type === 'Identifier') {
    const value = init && unwrapped(init);
    const same = value?.type === 'Identifier' ? scope.lookup(value.name) : undefined;
    if (value && isProps(value, scope)) names.set(pattern.name, { is: 'props' });
    else if (same && same.is !== 'node') names.set(pattern.name, same);
    else
      names.set(
        pattern.name,
        value && !names.has(pattern.name) ? { is: 'node', node: value, scope } : { is: 'unknown' },
      );
    return;
  }
  if (pattern.type === 'ObjectPattern') {
    const fromProps = init !== null && isProps(init, scope);
    for (const each of pattern.properties) {
      if (each.type === 'RestElement') bindRest(each.argument, fromProps ? pattern : undefined, names);
      else bindProperty(each, fromProps, names);
    }
    return;
  }
  bindUnknown(pattern, names);
}

function bindProperty(
  property: Extract<Node, { type: 'Property' }>,
  fromProps: boolean,
  names: Map<string, Bound>,
): void {
  const target = property.value.type === 'AssignmentPattern' ? property.value.left : property.value;
  const key = property.key.type === 'Identifier' ? property.key.name : literalText(property.key);
  if (!fromProps || key === undefined || target.type !== 'Identifier') return bindUnknown(target, names);
  const fallback = property.value.type === 'AssignmentPattern' ? property.value.right : undefined;
  names.set(target.name, { is: 'prop', name: key, fallback });
}

function bindRest(
  target: Node,
  pattern: Extract<Node, { type: 'ObjectPattern' }> | undefined,
  names: Map<string, Bound>,
): void {
  const taken = pattern?.properties.map((each) =>
    each.type === 'Property' ? propertyName(each.key, each.computed) : '',
  );
  if (target.type !== 'Identifier' || !taken || taken.some((name) => name === undefined)) {
    return bindUnknown(target, names);
  }
  names.set(target.name, { is: 'rest', except: taken.filter((name) => name !== undefined) });
}

function bindUnknown(pattern: Node, names: Map<string, Bound>): void {
  if (pattern.type === 'Identifier') names.set(pattern.name, { is: 'unknown' });
  else if (pattern.type === 'ArrayPattern')
    pattern.elements.forEach((each) => each && bindUnknown(each, names));
  else if (pattern.type === 'AssignmentPattern') bindUnknown(pattern.left, names);
  else if (pattern.type === 'ObjectPattern') {
    pattern.properties.forEach((each) =>
      bindUnknown(each.type === 'RestElement' ? each.argument : each.value, names),
    );
  }
}

/** Binds the first parameter of a component function as its props. */
export function propsOf(param: Node | undefined): Map<string, Bound> {
  const names = new Map<string, Bound>();
  const pattern = param?.type === 'AssignmentPattern' ? param.left : param;
  if (pattern?.type === 'Identifier') names.set(pattern.name, { is: 'props' });
  else if (pattern?.type === 'ObjectPattern') {
    for (const each of pattern.properties) {
      if (each.type === 'RestElement') bindRest(each.argument, pattern, names);
      else bindProperty(each, true, names);
    }
  }
  return names;
}

import type { Node } from 'oxc-parser';
import { literalText, memberName, propertyName, unwrapped, type FunctionNode } from '../syntax/tree.js';
import type { Expr, Test } from './expr.js';
import { partOf } from './expressions.js';
import { assignedIn } from './ways.js';
import type { ComponentRef, ViewNode } from './view.js';

/** What a name stands for inside a component. */
export type Bound =
  | { is: 'prop'; name: string; fallback?: Node }
  /** The object of all props. */
  | { is: 'props' }
  /** The object of all props but some. */
  | { is: 'rest'; except: readonly string[] }
  /** One property of what an expression gives, with what stands for it where there is none. */
  | { is: 'part'; of: Node; key: string; fallback?: Node; scope: Scope }
  /** Declared by an expression or function that can be read in its own scope. */
  | { is: 'node'; node: Node; scope: Scope }
  | { is: 'expr'; expr: Expr }
  | { is: 'view'; view: readonly ViewNode[] }
  /** Declared by `let`, and assigned under conditions: the last way that holds counts. */
  | { is: 'assigned'; ways: readonly Way[]; scope: Scope }
  | { is: 'unknown' };

/** One way to a value: the expression, and the condition that leads to it. */
export interface Way {
  node: Node | undefined;
  test: Test;
}

/** Looks up names where an expression stands. */
export interface Scope {
  lookup(name: string): Bound | undefined;
  /** The component that a name in markup stands for. */
  ref(name: string): ComponentRef | undefined;
  /** What a call gives, where the scope follows calls of functions. */
  called?(callee: Node, args: readonly Expr[], scope: Scope, depth: number): Expr | undefined;
  /** The source text of the file, for conditions shown as written. */
  readonly text: string;
}

export const DEEPEST = 8;

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
    called: scope.called,
    ref: (name) => scope.ref(name),
    lookup: (name) => names.get(name) ?? scope.lookup(name),
  };
}

/**
 * The scope inside a function: its parameters unknown, but those bound in `params`, and its constants readable, but for
 * what `isChanged` says is changed in place.
 */
export function functionScope(
  fn: FunctionNode,
  outer: Scope,
  params: ReadonlyMap<string, Bound>,
  isChanged?: (name: string) => boolean,
): Scope {
  const names = new Map<string, Bound>(params);
  const scope = inner(outer, names);
  if (fn.body?.type !== 'BlockStatement') return scope;
  declareAll(fn.body.body, names, scope);
  if (isChanged) for (const name of names.keys()) if (isChanged(name)) names.set(name, { is: 'unknown' });
  for (const [name, ways] of assignedIn(fn, scope)) names.set(name, { is: 'assigned', ways, scope });
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
      else if (fromProps) bindProp(each, names, scope);
      else bindPart(each, init, names, scope);
    }
    return;
  }
  bindUnknown(pattern, names);
}

type PropertyPattern = Extract<Node, { type: 'Property' }>;

const partsOf = ({
  key,
  value,
}: PropertyPattern): { key: string | undefined; target: Node; fallback?: Node } => ({
  key: key.type === 'Identifier' ? key.name : literalText(key),
  target: value.type === 'AssignmentPattern' ? value.left : value,
  fallback: value.type === 'AssignmentPattern' ? value.right : undefined,
});

// A default that is written in the body is no default of the prop: it counts here only.
function bindProp(property: PropertyPattern, names: Map<string, Bound>, scope?: Scope): void {
  const { key, target, fallback } = partsOf(property);
  if (key === undefined || target.type !== 'Identifier') return bindUnknown(target, names);
  const prop: Expr = { is: 'prop', name: key };
  if (scope && fallback) names.set(target.name, { is: 'expr', expr: partOf(prop, { fallback, scope }, 0) });
  else names.set(target.name, { is: 'prop', name: key, fallback });
}

function bindPart(property: PropertyPattern, of: Node | null, names: Map<string, Bound>, scope: Scope): void {
  const { key, target, fallback } = partsOf(property);
  if (!of || key === undefined || target.type !== 'Identifier' || names.has(target.name))
    return bindUnknown(target, names);
  names.set(target.name, { is: 'part', of, key, fallback, scope });
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
      else bindProp(each, names);
    }
  }
  return names;
}
/** `this.head()` */
export function ownMethod(callee: Node, scope: Scope): Bound | undefined {
  const isOwn = callee.type === 'MemberExpression' && callee.object.type === 'ThisExpression';
  return isOwn ? scope.lookup(`this.${memberName(callee)}`) : undefined;
}

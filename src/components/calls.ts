import type { Node } from 'oxc-parser';
import { neverFalls } from '../language/completion.js';
import { bindPattern } from '../language/patterns.js';
import { answered, constant, FUNCTION, paramKey, UNKNOWN, type Expr } from './expr.js';
import { functionExpr } from './function-expr.js';
import { exprOf } from './read-expr.js';
import { functionScope, waysOut } from './ways.js';
import {
  deepestIn,
  partsIn,
  resolved,
  type CallNode,
  type ComponentScope,
  type NameBinding,
} from './scope.js';
import { isFunction, returnedFrom, unwrapped, type FunctionNode } from '../syntax/tree.js';

const MOST_WAYS = 8;
const MOST_STATEMENTS = 30;

/** The one expression that a function gives back, with nothing before it. */
export function onlyReturned(fn: Node | undefined): Node | undefined {
  if (!fn || !isFunction(fn) || fn.async) return undefined;
  const { body } = fn;
  if (body?.type === 'BlockStatement' && body.body.length !== 1) return undefined;
  const returned = returnedFrom(fn);
  return returned.length === 1 ? returned[0] : undefined;
}

const FUNCTIONS = new WeakMap<ComponentScope, Map<FunctionNode, Expr>>();
const MOST_WITHIN = 4;
let within = 0;

/** A function as a value: read at once, as its tree is not kept. */
export function functionAt(fn: FunctionNode, scope: ComponentScope): Expr {
  const known = FUNCTIONS.get(scope) ?? new Map<FunctionNode, Expr>();
  FUNCTIONS.set(scope, known);
  const found = known.get(fn);
  if (found || within > MOST_WITHIN) return found ?? FUNCTION;
  // What calls itself is only a function while it is read.
  known.set(fn, FUNCTION);
  const params = fn.params.map((_, at) => paramKey(scope.file ?? '', fn.start, at));
  const gives = resultWithin(
    fn,
    scope,
    params.map((key) => answered(key)),
  );
  const made: Expr = gives
    ? { is: 'something', type: 'function', fn: functionExpr(params, () => gives) }
    : FUNCTION;
  known.set(fn, made);
  return made;
}

function resultWithin(fn: FunctionNode, scope: ComponentScope, args: readonly Expr[]): Expr | undefined {
  within++;
  try {
    return resultOf(fn, scope, args, 0);
  } finally {
    within--;
  }
}

/** What a call gives of a function that its scope declares. */
export function resultOfCall(
  { callee }: CallNode,
  args: readonly Expr[],
  scope: ComponentScope,
  depth: number,
): Expr | undefined {
  const name = unwrapped(callee);
  const found = name.type === 'Identifier' && depth < deepestIn(scope) ? resolved(name, scope) : undefined;
  return found && isFunction(found.node) ? resultOf(found.node, found.scope, args, depth) : undefined;
}

/** What a call of a function gives, where it is short and plain. */
export function resultOf(
  fn: FunctionNode,
  scope: ComponentScope,
  args: readonly Expr[],
  depth: number,
): Expr | undefined {
  if (fn.async || fn.generator || !isPlainFunction(fn) || reading.has(fn)) return undefined;
  // What calls itself, in a condition too, is not followed.
  reading.add(fn);
  try {
    return whatItGives(fn, scope, args, depth);
  } finally {
    reading.delete(fn);
  }
}

const reading = new Set<FunctionNode>();

function whatItGives(
  fn: FunctionNode,
  scope: ComponentScope,
  args: readonly Expr[],
  depth: number,
): Expr | undefined {
  const names = new Map<string, NameBinding>();
  fn.params.forEach((param, i) => {
    const expr = param.type === 'RestElement' ? UNKNOWN : (args[i] ?? constant(undefined));
    bindPattern(param, { is: 'expr', expr }, partsIn(scope), ({ name }, bound) => names.set(name, bound));
  });
  const inside = functionScope(fn, scope, names);
  const ways = waysOut(fn, inside);
  if (ways.length === 0 || ways.length > MOST_WAYS) return undefined;
  // Where all other ways end by a throw, the last one is what it gives.
  const last = neverFalls(fn.body as Node) ? ways.at(-1) : undefined;
  return ways.reduceRight<Expr>((otherwise, way) => {
    const { node, test, always } = way;
    const then = node ? exprOf(node, inside, depth + 1) : constant(undefined);
    return always || way === last ? then : { is: 'if', test, then, otherwise };
  }, constant(undefined));
}

const PLAIN: ReadonlySet<string> = new Set(['AssignmentExpression', 'LogicalExpression', 'CallExpression']);

// Declarations, conditions, returns, and statements that change nothing but names of its own, which are not read then.
function isPlainFunction(fn: FunctionNode): boolean {
  if (fn.body?.type !== 'BlockStatement') return true;
  let count = 0;
  const isPlain = (node: Node): boolean => {
    count++;
    switch (node.type) {
      case 'ReturnStatement':
      case 'BreakStatement':
      case 'ThrowStatement':
      case 'VariableDeclaration':
      case 'FunctionDeclaration':
        return true;
      case 'ExpressionStatement':
        return PLAIN.has(node.expression.type);
      case 'IfStatement':
        return isPlain(node.consequent) && (!node.alternate || isPlain(node.alternate));
      case 'BlockStatement':
        return node.body.every(isPlain);
      case 'SwitchStatement':
        return node.cases.every(({ consequent }) => consequent.every(isPlain));
      default:
        return false;
    }
  };
  return isPlain(fn.body) && count <= MOST_STATEMENTS;
}

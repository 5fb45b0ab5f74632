import type { Node } from 'oxc-parser';
import { constant, type Expr } from '../components/expr.js';
import { exprOf } from '../components/read-expr.js';
import { functionScope, waysOut } from '../components/ways.js';
import { type NameBinding, type ComponentScope } from '../components/scope.js';
import { isFunction, returnedFrom, type FunctionNode } from '../syntax/tree.js';

const MOST_WAYS = 8;
const MOST_STATEMENTS = 12;

/** The one expression that a function gives back, with nothing before it. */
export function onlyReturned(fn: Node | undefined): Node | undefined {
  if (!fn || !isFunction(fn) || fn.async) return undefined;
  const { body } = fn;
  if (body?.type === 'BlockStatement' && body.body.length !== 1) return undefined;
  const returned = returnedFrom(fn);
  return returned.length === 1 ? returned[0] : undefined;
}

/** What a call of a function gives, where it is short and has no effects. */
export function resultOf(
  fn: FunctionNode,
  scope: ComponentScope,
  args: readonly Expr[],
  depth: number,
): Expr | undefined {
  if (fn.async || fn.generator || !hasNoEffects(fn)) return undefined;
  const names = new Map<string, NameBinding>();
  for (const [i, param] of fn.params.entries()) {
    if (param.type !== 'Identifier') return undefined;
    names.set(param.name, { is: 'expr', expr: args[i] ?? constant(undefined) });
  }
  const inside = functionScope(fn, scope, names);
  const ways = waysOut(fn, inside);
  if (ways.length === 0 || ways.length > MOST_WAYS) return undefined;
  return ways.reduceRight<Expr>((otherwise, { node, test, always }) => {
    const then = node ? exprOf(node, inside, depth + 1) : constant(undefined);
    return always ? then : { is: 'if', test, then, otherwise };
  }, constant(undefined));
}

// Constants, conditions and returns only, and few of them.
function hasNoEffects(fn: FunctionNode): boolean {
  if (fn.body?.type !== 'BlockStatement') return true;
  let count = 0;
  const isPlain = (node: Node): boolean => {
    count++;
    switch (node.type) {
      case 'ReturnStatement':
      case 'BreakStatement':
        return true;
      case 'VariableDeclaration':
        return node.kind === 'const';
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

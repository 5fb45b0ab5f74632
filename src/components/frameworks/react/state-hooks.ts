import type { Node } from 'oxc-parser';
import { calledName, isFunction, memberName, unwrapped, type FunctionNode } from '../../../syntax/tree.js';
import { resultOf } from '../../calls.js';
import { answered, constant, stateKey, UNKNOWN, type Expr } from '../../expr.js';
import { exprOf } from '../../read-expr.js';
import type { CallNode, ComponentScope } from '../../scope.js';

/** Where an imported name comes from. */
export type ImportOf = (name: string) => { specifier: string; name: string } | undefined;

const OF_REACT: ReadonlySet<string> = new Set(['react', 'preact/hooks', 'preact/compat']);

/** Whether a call is React's `useState`. */
export function isStateCall(node: Node, importOf: ImportOf): boolean {
  if (node.type !== 'CallExpression') return false;
  const callee = unwrapped(node.callee);
  if (callee.type === 'Identifier') {
    const from = importOf(callee.name);
    return from?.name === 'useState' && OF_REACT.has(from.specifier);
  }
  if (callee.type !== 'MemberExpression' || callee.object.type !== 'Identifier') return false;
  return memberName(callee) === 'useState' && OF_REACT.has(importOf(callee.object.name)?.specifier ?? '');
}

/** What `useState` gives: what it holds, and the function that sets it. */
export function heldState(call: CallNode, file: string): Expr {
  const key = stateKey(file, call.start);
  return {
    is: 'list',
    items: [answered(key), { is: 'something', type: 'function', sets: key }],
  };
}

/** What a state holds or is set to: a value, or what a function gives that is called with what it holds. */
export function valueHeld(node: Node | undefined, scope: ComponentScope, held: readonly Expr[]): Expr {
  if (!node) return constant(undefined);
  const value = unwrapped(node);
  return isFunction(value) ? (resultOf(value, scope, held, 0) ?? UNKNOWN) : exprOf(value, scope);
}

/** A function, or the one that is handed to `useCallback`. */
export function functionOf(node: Node): FunctionNode | undefined {
  if (isFunction(node)) return node;
  const [first] = node.type === 'CallExpression' && calledName(node) === 'useCallback' ? node.arguments : [];
  return first && isFunction(first) ? first : undefined;
}

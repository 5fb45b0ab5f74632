import type { Node } from 'oxc-parser';
import { calledName, memberName, pathOf, unwrapped } from '../../../syntax/tree.js';
import { resolvedHere, type CallNode, type ComponentScope } from '../../scope.js';

/** An expression, with the scope that its names are those of. */
interface Scoped {
  node: Node;
  scope: ComponentScope;
}

/** What a call goes through child by child, and the function that it hands each: `Children.map(children, (child) => …)`. */
export function childrenGoneThrough(
  { callee, arguments: [first, second] }: CallNode,
  scope: ComponentScope,
): { of: Scoped; by: Node } | undefined {
  const called = unwrapped(callee);
  if (called.type !== 'MemberExpression' || memberName(called) !== 'map' || !first) return undefined;
  if (isChildren(called.object)) return second && { of: { node: first, scope }, by: second };
  const of = listedChildren(called.object, scope);
  return of && { of, by: first };
}

/** What a list is one of the children of: `Children.toArray(children)`, `getValidChildren(children)` of @chakra-ui, also without some of them. */
export function listedChildren(node: Node, scope: ComponentScope, depth = 0): Scoped | undefined {
  const found = resolvedHere(node, scope) ?? { node, scope };
  const call = unwrapped(found.node);
  if (call.type !== 'CallExpression' || depth > DEEPEST) return undefined;
  const callee = unwrapped(call.callee);
  const object = callee.type === 'MemberExpression' ? callee.object : undefined;
  const [first] = call.arguments;
  const all = first && { node: first, scope: found.scope };
  switch (calledName(call)) {
    case 'filter':
      return object && listedChildren(object, found.scope, depth + 1);
    case 'toArray':
      return object && isChildren(object) ? all : undefined;
    case 'getValidChildren':
      return all;
    default:
      return undefined;
  }
}

const DEEPEST = 48;

const isChildren = (node: Node): boolean => /^(?:\w+\.)?Children$/.test(pathOf(unwrapped(node)) ?? '');

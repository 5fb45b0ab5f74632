import type { Node } from 'oxc-parser';
import { walkTree } from '../syntax/tree.js';

/** Whether a statement always leaves its function. */
export function leaves(node: Node): boolean {
  if (node.type === 'ReturnStatement' || node.type === 'ThrowStatement') return true;
  return node.type === 'BlockStatement' && node.body.some(leaves);
}

/** Whether code holds elements. */
export function showsMarkup(node: Node): boolean {
  let found = false;
  walkTree(node, (each) => {
    found ||= each.type === 'JSXElement' || each.type === 'JSXFragment';
    return !found;
  });
  return found;
}

/** Whether a statement always leaves the case that it stands in. */
export const leavesCase = (node: Node): boolean =>
  node.type === 'BreakStatement' ||
  node.type === 'ContinueStatement' ||
  leaves(node) ||
  (node.type === 'BlockStatement' && node.body.some(leavesCase));

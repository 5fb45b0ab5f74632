import type { Node } from 'oxc-parser';
import { walkTree } from '../syntax/tree.js';

/** Whether code holds elements. */
export function showsMarkup(node: Node): boolean {
  let found = false;
  walkTree(node, (each) => {
    found ||= each.type === 'JSXElement' || each.type === 'JSXFragment';
    return !found;
  });
  return found;
}

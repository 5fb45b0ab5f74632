import type { Node, Program } from 'oxc-parser';
import { walkTree } from '../../syntax/tree.js';

const FAILURE = /reject|throw|fail|error|offline/i;

// The answer of a server that says no: `{ status: 404 }`.
const isStatusOfFailure = (node: Node): boolean =>
  node.type === 'Literal' && typeof node.value === 'number' && node.value >= 400 && node.value < 600;

/** Whether a spec file names failures anywhere: rejections, errors, what throws. */
export function speaksOfFailure(program: Program): boolean {
  let found = false;
  walkTree(program as Node, (node) => {
    const word =
      node.type === 'Identifier'
        ? node.name
        : node.type === 'Literal' && typeof node.value === 'string'
          ? node.value
          : '';
    found ||= node.type === 'ThrowStatement' || FAILURE.test(word) || isStatusOfFailure(node);
    return !found;
  });
  return found;
}

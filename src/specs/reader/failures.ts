import type { Node, Program } from 'oxc-parser';
import { propertyName, walkTree } from '../../syntax/tree.js';

const FAILURE = /reject|throw|fail|error|offline/i;

// The answer of a server that says no: `{ status: 404 }`; one that can't be read may.
function isStatusOfFailure(node: Node): boolean {
  if (node.type !== 'Property' || !/^status(?:Code)?$/.test(propertyName(node.key, node.computed) ?? ''))
    return false;
  const { value } = node;
  return value.type !== 'Literal' || (typeof value.value === 'number' && value.value >= 400);
}

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

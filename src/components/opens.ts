import type { Node } from 'oxc-parser';
import { memberName, unwrapped, walkTree } from '../syntax/tree.js';
import type { Span } from '../finding.js';

const MAY_OPEN = /\b(?:window|document)\.addEventListener\(|\bsetInterval\(/;

/** The first place at which a component listens on the page, or starts an interval. */
export function opensIn(text: string, nodes: readonly Node[]): Span | undefined {
  if (!MAY_OPEN.test(text)) return undefined;
  let found: Span | undefined;
  for (const each of nodes)
    walkTree(each, (node) => {
      if (!found && node.type === 'CallExpression' && opens(unwrapped(node.callee)))
        found = { start: node.start, end: node.end };
      return !found;
    });
  return found;
}

function opens(callee: Node): boolean {
  if (callee.type === 'Identifier') return callee.name === 'setInterval';
  if (callee.type !== 'MemberExpression' || callee.object.type !== 'Identifier') return false;
  const name = memberName(callee);
  return (
    (name === 'addEventListener' && ['window', 'document'].includes(callee.object.name)) ||
    (name === 'setInterval' && callee.object.name === 'window')
  );
}

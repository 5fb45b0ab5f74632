import type { Node } from 'oxc-parser';
import { literalText, memberName, pathOf, unwrapped, walkTree } from '../syntax/tree.js';
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

/** An event of the page that a component listens to, with the call that says so. */
export interface PageListener {
  event: string;
  place: Span;
}

/** The events that a component listens to on the page itself: on `window`, `document` or its body. */
export function listeningIn(text: string, nodes: readonly Node[]): PageListener[] {
  if (!text.includes('addEventListener(')) return [];
  const found = new Map<string, PageListener>();
  for (const each of nodes)
    walkTree(each, (node) => {
      if (
        node.type !== 'CallExpression' ||
        !/^(?:window|document(?:\.body)?)\.addEventListener$/.test(pathOf(node.callee) ?? '')
      )
        return;
      const [first] = node.arguments;
      const event = first && literalText(first);
      if (event !== undefined && !found.has(event))
        found.set(event, { event, place: { start: node.start, end: node.end } });
    });
  return [...found.values()];
}

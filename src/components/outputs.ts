import type { Node } from 'oxc-parser';
import type { Span } from '../finding.js';
import { unwrapped, walkTree } from '../syntax/tree.js';

/** An event that a component tells others of: where it is declared or, where it is not, sent first. */
export interface Output extends Span {
  /** A call that sends it, where each that is seen hands over more than an event of the page. */
  comesWith?: Span;
}

/** What sends an event, and what it hands over; `args` is missing where that is what the page hands on. */
interface Sending {
  event: string;
  args?: readonly Node[];
}

/** Outputs, each with a call that hands something over. `sendingOf` reads what a node sends. */
export function withWhatComes(
  outputs: ReadonlyMap<string, Span>,
  nodes: readonly Node[],
  sendingOf: (node: Node) => Sending | undefined,
): Map<string, Output> {
  const comesWith = new Map<string, Span>();
  const isBare = new Set<string>();
  for (const each of outputs.size > 0 ? nodes : [])
    walkTree(each, (node) => {
      const sent = sendingOf(node);
      if (!sent) return;
      if (!sent.args?.some(isOwn)) isBare.add(sent.event);
      else if (!comesWith.has(sent.event)) comesWith.set(sent.event, { start: node.start, end: node.end });
    });
  return new Map(
    [...outputs].map(([event, output]) => [
      event,
      isBare.has(event) ? output : { ...output, comesWith: comesWith.get(event) },
    ]),
  );
}

const OF_PAGE: ReadonlySet<string> = new Set(['e', 'ev', 'evt', 'event', '$event']);

// Not what the page hands on, and not nothing.
function isOwn(arg: Node): boolean {
  const value = unwrapped(arg);
  return !(value.type === 'Identifier' && (OF_PAGE.has(value.name) || value.name === 'undefined'));
}

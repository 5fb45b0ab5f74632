import type { Reach } from '../specs/model/steps.js';
import { textOfValue } from '../specs/model/values.js';
import { matchesSelector, parsedSelector } from './match.js';
import type { RenderedElement, RenderedNode } from './rendered-tree.js';
import { unknownTarget, type Target } from './target.js';

const one = (element: RenderedElement | undefined): Target =>
  element ? { kind: 'one', element, proven: true } : unknownTarget('asked of what is not known');

/** The element that a hop from an element leads to: to its parent, a sibling, a child, or up to one that a selector names. */
export function hopFromElement(element: RenderedElement, reach: Reach): Target {
  switch (reach.name) {
    case 'parentElement':
    case 'parentNode':
      return one(element.parent);
    case 'closest':
      return closest(element, textOfValue(reach.args[0]));
    case 'nextElementSibling':
    case 'nextSibling':
      return sibling(element, 1);
    case 'previousElementSibling':
    case 'previousSibling':
      return sibling(element, -1);
    default:
      return hopFromNodes(element.children, reach.name);
  }
}

/** The child that a hop from the nodes of a container leads to; unknown where any of them may not be there. */
export function hopFromNodes(nodes: readonly RenderedNode[], name: string): Target {
  const elements = nodes.filter((node): node is RenderedElement => node.kind === 'element');
  const sure = nodes.every((node) => node.kind !== 'hole') && elements.every(isPlain);
  if (!sure) return unknownTarget('may match or not');
  const [first] = nodes;
  if (name === 'firstElementChild') return one(elements[0]);
  if (name === 'lastElementChild') return one(elements.at(-1));
  if (name === 'firstChild') return first?.kind === 'element' ? one(first) : unknownTarget('words not known');
  return elements.length > 1 && name === 'children'
    ? { kind: 'many', elements, complete: true }
    : unknownTarget('words not known');
}

const isPlain = (element: RenderedElement): boolean =>
  !element.repeated && element.guards.length === (element.parent?.guards.length ?? 0);

function closest(element: RenderedElement, selector: string | undefined): Target {
  const parsed = selector === undefined ? undefined : parsedSelector(selector);
  if (!parsed) return unknownTarget('words not known');
  for (let at: RenderedElement | undefined = element; at; at = at.parent) {
    const match = matchesSelector(at, parsed);
    if (match === 'yes') return one(at);
    if (match === 'maybe') return unknownTarget('may match or not');
  }
  return unknownTarget('asked of what is not known');
}

function sibling(element: RenderedElement, step: number): Target {
  const around = element.parent?.children ?? [];
  for (let i = around.indexOf(element) + step; i >= 0 && i < around.length; i += step) {
    const node = around[i];
    if (node?.kind === 'element') return isPlain(node) ? one(node) : unknownTarget('may match or not');
    if (node?.kind === 'hole') return unknownTarget('a part that can’t be read');
  }
  return unknownTarget('asked of what is not known');
}

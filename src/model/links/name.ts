import { textPieces, type Piece } from '../components/expr.js';
import type { Placed, PlacedNode, RenderedTree } from './rendered.js';
import { constantOf, roleOf } from './role.js';

/** A text in pieces. No pieces: no name. */
export type Pieces = readonly Piece[];

/** Roles of WAI-ARIA 1.2 that take their name from their content. A test holds the list against the standard's data. */
export const NAMED_BY_CONTENT: ReadonlySet<string> = new Set(
  'button cell checkbox columnheader gridcell heading link menuitem menuitemcheckbox menuitemradio option radio row rowheader switch tab tooltip treeitem'.split(
    ' ',
  ),
);
const LABELLED = new Set(['input', 'select', 'textarea', 'button', 'meter', 'output', 'progress']);

/** The accessible name of an element by the W3C rules over the static tree; undefined where it can't be told. */
export function nameOf(element: Placed, tree: RenderedTree): Pieces | undefined {
  element.known.name ??= workedOut(element, tree) ?? 'unknown';
  return element.known.name === 'unknown' ? undefined : element.known.name;
}

function workedOut(element: Placed, tree: RenderedTree): Pieces | undefined {
  if (element.open && !element.attributes.has('aria-label') && !NAMED_BY_CONTENT.has(roleOf(element) ?? ''))
    return undefined;
  const labelledBy = element.attributes.get('aria-labelledby');
  if (labelledBy) return fromIds(textPieces(labelledBy), tree);
  const label = textOf(element, 'aria-label');
  if (label && label.some((piece) => piece !== '')) return label;
  return (
    nativeName(element, tree) ??
    contentName(element) ??
    textOf(element, 'title') ??
    textOf(element, 'placeholder') ??
    []
  );
}

function fromIds(pieces: Pieces, tree: RenderedTree): Pieces | undefined {
  if (pieces.some((piece) => typeof piece !== 'string')) return undefined;
  const ids = pieces.join('').split(/\s+/).filter(Boolean);
  const found = ids.map((id) => tree.elements.find((each) => constantOf(each, 'id') === id));
  if (found.some((each) => !each)) return undefined;
  return normalised(found.flatMap((each, i) => [...(i ? [' '] : []), ...(each ? textIn(each) : [])]));
}

function textOf(element: Placed, attribute: string): Pieces | undefined {
  const value = element.attributes.get(attribute);
  if (!value || (value.is === 'constant' && (value.value === undefined || value.value === null)))
    return undefined;
  return normalised(textPieces(value));
}

function nativeName(element: Placed, tree: RenderedTree): Pieces | undefined {
  const { tag } = element;
  if (tag === 'img' || tag === 'area') return textOf(element, 'alt');
  if (tag === 'input' && ['submit', 'reset', 'button'].includes(constantOf(element, 'type') ?? ''))
    return textOf(element, 'value');
  if (tag === 'fieldset') return fromChild(element, 'legend');
  if (tag === 'figure') return fromChild(element, 'figcaption');
  if (tag === 'table') return fromChild(element, 'caption');
  return LABELLED.has(tag) ? labelName(element, tree) : undefined;
}

function fromChild(element: Placed, tag: string): Pieces | undefined {
  const child = element.children.find((each): each is Placed => each.kind === 'element' && each.tag === tag);
  return child && normalised(textIn(child));
}

/** The text of the labels of a form field: those that name its id, and the one it stands in. */
export function labelName(element: Placed, tree: RenderedTree): Pieces | undefined {
  const id = constantOf(element, 'id');
  const labels = tree.elements.filter(
    (each) => each.tag === 'label' && ((id && constantOf(each, 'for') === id) || contains(each, element)),
  );
  if (!labels.length) return undefined;
  return normalised(labels.flatMap((label, i) => [...(i ? [' '] : []), ...textIn(label, element)]));
}

export function contains(outer: Placed, element: Placed): boolean {
  for (let at = element.parent; at; at = at.parent) if (at === outer) return true;
  return false;
}

function contentName(element: Placed): Pieces | undefined {
  const role = roleOf(element);
  if (!role || !NAMED_BY_CONTENT.has(role)) return undefined;
  const text = normalised(textIn(element));
  return text.length ? text : undefined;
}

/** The text that an element shows, hidden parts and one inner element left out; a hole for each part that depends. */
export function textIn(element: Placed, leftOut?: Placed): Pieces {
  return element.children.flatMap((child) => textOfNode(child, element, leftOut));
}

function textOfNode(node: PlacedNode, parent: Placed, leftOut: Placed | undefined): Piece[] {
  if (node.kind === 'hole') return [undefined];
  if (node.kind === 'text') return node.sure ? node.pieces : [undefined];
  if (node === leftOut || isHidden(node)) return [];
  if (node.guards.length > parent.guards.length) return [undefined];
  const label = constantOf(node, 'aria-label') ?? (node.tag === 'img' ? constantOf(node, 'alt') : undefined);
  const inside = label !== undefined ? [label] : [...textIn(node, leftOut)];
  return BLOCKS.has(node.tag) ? [' ', ...inside, ' '] : inside;
}

const BLOCKS = new Set(
  'address article aside blockquote br dd details div dl dt figure footer form h1 h2 h3 h4 h5 h6 header hr li main nav ol p pre section table td th tr ul'.split(
    ' ',
  ),
);

/** Whether an element is left out of names and of queries by role. */
export function isHidden(element: Placed): boolean {
  const hidden = element.attributes.get('hidden');
  return (
    constantOf(element, 'aria-hidden') === 'true' ||
    constantOf(element, 'aria-hidden') === '' ||
    (hidden?.is === 'constant' && hidden.value !== false && hidden.value !== undefined) ||
    element.tag === 'script' ||
    element.tag === 'style'
  );
}

/** Whether an element, or one that it stands in, is hidden. */
export function isInHidden(element: Placed): boolean {
  return (element.known.hidden ??=
    isHidden(element) || (element.parent !== undefined && isInHidden(element.parent)));
}

/** Pieces with white space folded, the ends trimmed, and neighbours joined. */
export function normalised(pieces: Pieces): Pieces {
  const joined: Piece[] = [];
  for (const piece of pieces) {
    const last = joined.at(-1);
    const both = typeof piece === 'string' && typeof last === 'string';
    if (both) joined[joined.length - 1] = last + piece;
    // Two holes side by side are one.
    else if (piece !== undefined || joined.length === 0 || last !== undefined) joined.push(piece);
  }
  const fold = (text: string): string => text.replace(/\s+/g, ' ');
  const folded = joined.map((piece) => (typeof piece === 'string' ? fold(piece) : piece?.map(fold)));
  const [first] = folded;
  if (typeof first === 'string') folded[0] = first.trimStart();
  const last = folded.at(-1);
  if (typeof last === 'string') folded[folded.length - 1] = last.trimEnd();
  return folded.filter((piece) => piece !== '');
}

/** The text of pieces without holes. */
export const literal = (pieces: Pieces): string | undefined =>
  pieces.every((piece) => typeof piece === 'string') ? pieces.join('') : undefined;

import {
  type Pieces,
  contains,
  type RenderedElement,
  type RenderedNode,
  type RenderedTree,
  type Role,
} from './rendered-tree.js';
import { possibleValues, type Constant, type Expr } from '../components/expr.js';
import { textPieces, type Piece } from '../components/expr-text.js';
import { isHidden } from './hidden.js';
import { idIn, isAnyId } from './ids.js';
import { constantOf, isPresentational, roleOf } from './role.js';

/** Roles of WAI-ARIA 1.2 that take their name from their content. A test holds the list against the standard's data. */
export const NAMED_BY_CONTENT: ReadonlySet<string> = new Set(
  'button cell checkbox columnheader gridcell heading link menuitem menuitemcheckbox menuitemradio option radio row rowheader switch tab tooltip treeitem'.split(
    ' ',
  ),
);
/**
 * The accessible name of an element over the static tree, as query libraries work it out: by the W3C rules (accname
 * 1.2), but for the placeholder and the caption of a figure, which they leave out (dom-accessibility-api 0.5 and 0.7).
 * Undefined where it can't be told.
 */
export function nameOf(element: RenderedElement, tree: RenderedTree): Pieces | undefined {
  element.known.name ??= workedOut(element, tree) ?? 'unknown';
  return element.known.name === 'unknown' ? undefined : element.known.name;
}

function workedOut(element: RenderedElement, tree: RenderedTree): Pieces | undefined {
  const role = roleOf(element);
  const sure = element.attributes.has('aria-label') || (role && NAMED_BY_CONTENT.has(role));
  if (role === undefined || (element.open && !sure)) return undefined;
  return nameNormalised(nameIn(element, { tree, seen: [] }));
}

/** How far a name has been followed: to whom it belongs, and what led here. */
interface Way {
  tree: RenderedTree;
  seen: readonly RenderedElement[];
  /** Reached through `aria-labelledby`. */
  referenced?: boolean;
  /** Reached as a part of another element's content. */
  inside?: boolean;
}

const HOLE: Pieces = [undefined];
const NONE: Pieces = [];

// The steps of the standard, by their letters.
function nameIn(element: RenderedElement, way: Way): Pieces {
  if (way.seen.includes(element) && !way.referenced) return NONE;
  const within = { ...way, seen: [...way.seen, element] };
  // 2A: hidden, and not named by an id.
  if (!way.referenced) {
    const hidden = isHidden(element);
    if (hidden) return hidden === 'maybe' ? HOLE : NONE;
  }
  // 2B
  if (element.attributes.has('aria-labelledby') && !way.referenced) {
    const named = fromIds(element, within);
    if (named) return named;
  }
  const role = roleOf(element);
  // 2C: a control in the content of another element stands for its value instead.
  const embedded = way.inside && !way.referenced && isControl(role);
  if (!embedded) {
    const label = textOf(element, 'aria-label');
    if (label && !isBlank(label)) return label;
    const native = isPresentational(role) ? undefined : nativeName(element, within);
    if (native) return native;
  }
  if (role === 'menu') return NONE;
  // 2E
  if (embedded || (way.referenced && isControl(role))) return valueOf(element, role);
  // 2F, 2H
  const takesContent =
    way.referenced || way.inside || (role && NAMED_BY_CONTENT.has(role)) || LABELLING.has(element.tag);
  const content = takesContent ? contentOf(element, within) : NONE;
  if (!isBlank(content) || (way.inside && !way.referenced)) return content;
  // 2I
  return role === 'presentation' ? NONE : (textOf(element, 'title') ?? NONE);
}

/** What stands in the empty field: the last resort of the standard, which no query takes for a name. */
export const placeholderOf = (element: RenderedElement): Pieces | undefined =>
  element.tag === 'input' || element.tag === 'textarea' ? textOf(element, 'placeholder') : undefined;

const LABELLING = new Set(['label', 'legend', 'caption', 'figcaption']);
const isControl = (role: Role): boolean =>
  role !== undefined &&
  role !== null &&
  ['textbox', 'searchbox', 'combobox', 'listbox', 'slider', 'spinbutton'].includes(role);

const isBlank = (pieces: Pieces): boolean =>
  pieces.every((piece) => typeof piece === 'string' && piece.trim() === '');

function fromIds(of: RenderedElement, way: Way): Pieces | undefined {
  const value = of.attributes.get('aria-labelledby');
  if (!value || isAnyId(value)) return HOLE;
  const ids = (idIn(of, 'aria-labelledby') ?? '').split(/\s+/).filter(Boolean);
  const { tree } = way;
  const found = ids.map((id) => tree.elements.find((element) => idIn(element, 'id') === id));
  const named = found.filter((each) => each !== undefined);
  // An id that is not to be seen may belong to an element whose id can't be read.
  const openId = !tree.complete || tree.elements.some(mayHaveAnyId);
  if (named.length < found.length && openId) return HOLE;
  if (named.length === 0) return undefined;
  return spaced(
    named.map((each) =>
      each.guards.length > 0 && !shareGuards(each, way.seen[0])
        ? HOLE
        : nameIn(each, { ...way, referenced: true }),
    ),
  );
}

const mayHaveAnyId = ({ attributes, open }: RenderedElement): boolean => {
  const id = attributes.get('id');
  return id ? isAnyId(id) : open;
};

// Whether one element is there whenever another is.
const shareGuards = (each: RenderedElement, other: RenderedElement | undefined): boolean =>
  other !== undefined && each.guards.every((guard, i) => other.guards[i] === guard);

const spaced = (parts: readonly Pieces[]): Pieces =>
  parts.filter((part) => part.length > 0).flatMap((part, i) => (i ? [' ', ...part] : part));

function textOf(element: RenderedElement, attribute: string): Pieces | undefined {
  const value = element.attributes.get(attribute);
  if (!value) return undefined;
  const values = possibleValues(value);
  const isAbsent = (each: Constant): boolean => each === undefined || each === null || each === false;
  if (values?.every(isAbsent)) return undefined;
  // There or not: what the name is then is not told.
  if (values?.some(isAbsent)) return HOLE;
  const text = nameNormalised(textPieces(value));
  return text.length > 0 ? text : undefined;
}

function nativeName(element: RenderedElement, way: Way): Pieces | undefined {
  const { tag } = element;
  const type = constantOf(element, 'type') ?? '';
  switch (tag) {
    case 'fieldset':
      return fromChild(element, 'legend', way);
    case 'table':
      return fromChild(element, 'caption', way);
    case 'svg':
      return fromChild(element, 'title', way);
    case 'img':
    case 'area':
      return textOf(element, 'alt');
    case 'optgroup':
      return textOf(element, 'label');
    case 'input':
      if (['submit', 'reset', 'button'].includes(type)) {
        const value = textOf(element, 'value');
        if (value) return value;
        if (type !== 'button') return [type === 'submit' ? 'Submit' : 'Reset'];
      }
      if (type === 'image')
        return (
          labelsText(element, way) ?? textOf(element, 'alt') ?? textOf(element, 'title') ?? ['Submit Query']
        );
  }
  if (LABELLED.has(tag)) {
    const label = labelsText(element, way);
    if (label) return label;
  }
  return undefined;
}

/** The tags of elements that labels name. */
export const LABELLED: ReadonlySet<string> = new Set(
  'input select textarea button meter output progress'.split(' '),
);

function fromChild(element: RenderedElement, tag: string, way: Way): Pieces | undefined {
  const child = element.children.find(
    (child): child is RenderedElement => child.kind === 'element' && child.tag === tag,
  );
  if (!child) return undefined;
  return child.guards.length > element.guards.length ? HOLE : nameIn(child, { ...way, inside: true });
}

// A label takes its content, with the value of the field left out that it names.
function labelsText(element: RenderedElement, way: Way): Pieces | undefined {
  const labels = labelsOf(element, way.tree);
  if (labels.length === 0) return labelMayBe(element, way.tree) ? HOLE : undefined;
  const parts = labels.map((label) =>
    label.guards.length > element.guards.length
      ? HOLE
      : nameIn(label, { ...way, referenced: false, inside: true }),
  );
  const text = spaced(parts.map(nameNormalised));
  return text.length > 0 ? text : undefined;
}

const labelsIn = (tree: RenderedTree): readonly RenderedElement[] =>
  (tree.labels ??= tree.elements.filter(({ tag }) => tag === 'label'));

/** The labels of a form field: those that name its id, and the one it stands in. */
export function labelsOf(element: RenderedElement, tree: RenderedTree): RenderedElement[] {
  const id = idIn(element, 'id');
  return labelsIn(tree).filter((each) => {
    const target = each.attributes.get('for');
    // A label that names another field does not label the one inside it.
    const named = idIn(each, 'for');
    if (named !== undefined) return named === id;
    return !isSet(target) && contains(each, element);
  });
}

const isSet = (value: Expr | undefined): boolean =>
  value !== undefined && possibleValues(value)?.every((each) => each === undefined || each === null) !== true;

// A label whose target, or a field whose id, can't be read may belong together.
function labelMayBe(element: RenderedElement, tree: RenderedTree): boolean {
  const id = element.attributes.get('id');
  const openId = id ? isAnyId(id) : element.open;
  return labelsIn(tree).some((label) => {
    const target = label.attributes.get('for');
    if (!target) return label.open;
    return isAnyId(target) ? openId || isSet(id) : openId;
  });
}

/** The text of the labels of a form field; undefined where it has none. */
export function labelName(element: RenderedElement, tree: RenderedTree): Pieces | undefined {
  const text = labelsText(element, { tree, seen: [element] });
  return text && normalised(text);
}

function contentOf(element: RenderedElement, way: Way): Pieces {
  const inside = { ...way, referenced: false, inside: true };
  return element.children.flatMap((child) => partOf(child, element, inside));
}

function partOf(node: RenderedNode, parent: RenderedElement, way: Way): Pieces {
  if (node.kind === 'hole') return HOLE;
  if (node.kind === 'text') return node.sure ? node.pieces : HOLE;
  if (node.guards.length > parent.guards.length) return isHidden(node) === true ? NONE : HOLE;
  const inside = nameIn(node, way);
  const edge = BLOCKS.has(node.tag) ? ' ' : EDGE;
  return [edge, ...inside, edge];
}

// Browsers put nothing between the texts of inline elements, documents made by scripts a space: either may be.
const EDGE = '\ue000';

// Elements that are not inline: their text stands apart. (HTML, rendering; form controls are inline blocks.)
const BLOCKS = new Set(
  'address article aside blockquote br button caption center col colgroup dd details dialog dir div dl dt fieldset figcaption figure footer form h1 h2 h3 h4 h5 h6 header hgroup hr input legend li main menu nav ol optgroup option p pre search section select summary table tbody td textarea tfoot th thead tr ul'.split(
    ' ',
  ),
);

// What a form field inside a label says: its value.
function valueOf(element: RenderedElement, role: Role): Pieces {
  if (role === 'combobox' || role === 'listbox')
    return element.tag === 'input' ? (textOf(element, 'value') ?? NONE) : HOLE;
  const spoken = textOf(element, 'aria-valuetext') ?? textOf(element, 'aria-valuenow');
  return spoken ?? textOf(element, 'value') ?? (element.tag === 'textarea' ? contentText(element) : NONE);
}

const contentText = (element: RenderedElement): Pieces =>
  element.children.flatMap((child) => (child.kind === 'text' ? child.pieces : HOLE));

/** Pieces with white space folded, the ends trimmed, and neighbours joined. */
export const normalised = (pieces: Pieces): Pieces => folded(pieces, /\s+/g);

// In a name, a single space that does not break stays what it is; an edge between words may be a space or nothing.
function nameNormalised(pieces: Pieces): Pieces {
  const parts = folded(
    pieces,
    /[\s\ue000]*[^\S\u00a0][\s\ue000]*|\u00a0[\s\ue000]+|\ue000+\u00a0[\s\ue000]*/g,
  );
  if (!parts.some((piece) => typeof piece === 'string' && piece.includes(EDGE))) return parts;
  return parts.flatMap((piece, at): Piece[] =>
    typeof piece === 'string' ? atEdges(piece, at, parts.length) : [piece],
  );
}

function atEdges(text: string, at: number, count: number): Piece[] {
  const words = text.split(/\ue000+/);
  // At either end of the name an edge is nothing.
  if (at === 0 && words[0] === '') words.shift();
  if (at === count - 1 && words.at(-1) === '') words.pop();
  return words
    .flatMap((word, i): Piece[] => (i ? [MAYBE_SPACE, word] : [word]))
    .filter((word) => word !== '');
}

const MAYBE_SPACE: readonly string[] = ['', ' '];

function folded(pieces: Pieces, space: RegExp): Pieces {
  const joined: Piece[] = [];
  for (const piece of pieces) {
    const last = joined.at(-1);
    const both = typeof piece === 'string' && typeof last === 'string';
    if (both) joined[joined.length - 1] = last + piece;
    // Two holes side by side are one.
    else if (piece !== undefined || joined.length === 0 || last !== undefined) joined.push(piece);
  }
  const fold = (text: string): string => text.replace(space, ' ');
  const parts = joined.map((piece) => (typeof piece === 'string' ? fold(piece) : piece?.map(fold)));
  const [first] = parts;
  if (typeof first === 'string') parts[0] = first.trimStart();
  const last = parts.at(-1);
  if (typeof last === 'string') parts[parts.length - 1] = last.trimEnd();
  return parts.filter((piece) => piece !== '');
}

/** The text of pieces without holes. */
export const literal = (pieces: Pieces): string | undefined =>
  pieces.every((piece) => typeof piece === 'string') ? pieces.join('') : undefined;

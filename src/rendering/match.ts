import { parse, type Selector } from 'css-what';
import nthCheck from 'nth-check';
import { possibleValues } from '../components/expr.js';
import { textPieces } from '../components/expr-text.js';
import type { Pieces, RenderedElement } from './rendered-tree.js';

/** Whether something matches, as far as can be told. */
export type Match = 'yes' | 'no' | 'maybe';

/** A text that a query asks for: exact or as a pattern. */
export type Wanted = { text: string; exact: boolean } | { pattern: RegExp };

const WORST: readonly Match[] = ['no', 'maybe', 'yes'];
export const all = (matches: readonly Match[]): Match =>
  WORST.find((each) => matches.includes(each)) ?? 'yes';
export const any = (matches: readonly Match[]): Match =>
  WORST.findLast((each) => matches.includes(each)) ?? 'no';

/** Whether a text in pieces is what is wanted. White space must be normalised before. */
export function matchesText(pieces: Pieces, wanted: Wanted): Match {
  // Most texts have no choices.
  if (pieces.every((piece) => typeof piece !== 'object')) return matchesPlain(pieces as Plain, wanted);
  const matches = new Set(variants(pieces).map((each) => matchesPlain(each, wanted)));
  const [only] = matches;
  return matches.size === 1 && only ? only : 'maybe';
}

type Plain = readonly (string | undefined)[];
const MOST_VARIANTS = 24;

// Every query of a rendered tree asks the same names and texts.
const variantsOf = new WeakMap<Pieces, Plain[]>();

// Every text that pieces with choices can make; too many of them are a hole.
function variants(pieces: Pieces): Plain[] {
  const known = variantsOf.get(pieces);
  if (known) return known;
  let all: (string | undefined)[][] = [[]];
  for (const piece of pieces) {
    const options = typeof piece === 'object' ? piece : [piece];
    const few = all.length * options.length <= MOST_VARIANTS;
    all = all.flatMap((start) => (few ? options : [undefined]).map((option) => [...start, option]));
  }
  const made = all.map((each) =>
    each.every((piece) => piece !== undefined) ? [each.join('').trim()] : each,
  );
  variantsOf.set(pieces, made);
  return made;
}

function matchesPlain(pieces: Plain, wanted: Wanted): Match {
  const known = pieces.every((piece) => piece !== undefined);
  const text = pieces.map((piece) => piece ?? '').join('');
  if ('pattern' in wanted) {
    const hit = wanted.pattern.test(text);
    wanted.pattern.lastIndex = 0;
    return known ? (hit ? 'yes' : 'no') : 'maybe';
  }
  if (known) {
    const same = wanted.exact ? text === wanted.text : text.toLowerCase().includes(wanted.text.toLowerCase());
    return same ? 'yes' : 'no';
  }
  return wanted.exact && !fits(pieces, wanted.text) ? 'no' : 'maybe';
}

// Whether a text can be made from pieces by filling the holes.
function fits(pieces: Plain, text: string): boolean {
  let rest = text;
  for (const [i, piece] of pieces.entries()) {
    if (piece === undefined) continue;
    const at = i === 0 ? (rest.startsWith(piece) ? 0 : -1) : rest.indexOf(piece);
    if (at < 0) return false;
    rest = rest.slice(at + piece.length);
  }
  const last = pieces.at(-1);
  return last === undefined || rest === '' || text.endsWith(last);
}

/** A parsed CSS selector; undefined where it is not one, or asks for what the static tree does not have. */
export function parsedSelector(selector: string): Selector[][] | undefined {
  try {
    return parse(selector);
  } catch {
    return undefined;
  }
}

/** Whether an element matches a selector. `within`: elements above it do not count for combinators. */
export function matchesSelector(element: RenderedElement, selectors: Selector[][]): Match {
  return any(selectors.map((parts) => matchesParts(element, parts, parts.length - 1)));
}

function matchesParts(element: RenderedElement, parts: readonly Selector[], end: number): Match {
  let match: Match = 'yes';
  for (let i = end; i >= 0; i--) {
    const part = parts[i];
    if (!part) break;
    switch (part.type) {
      case 'descendant':
        return all([match, ancestors(element, parts, i - 1)]);
      case 'child':
        return all([
          match,
          element.parent ? matchesParts(element.parent, parts, i - 1) : i === 0 ? 'maybe' : 'no',
        ]);
      case 'adjacent':
      case 'sibling':
        return all([match, siblings(element, parts, i - 1, part.type === 'adjacent')]);
      default:
        match = all([match, matchesPart(element, part)]);
        if (match === 'no') return 'no';
    }
  }
  return match;
}

function ancestors(element: RenderedElement, parts: readonly Selector[], end: number): Match {
  let best: Match = 'no';
  for (let at = element.parent; at; at = at.parent) best = any([best, matchesParts(at, parts, end)]);
  return best;
}

function siblings(element: RenderedElement, parts: readonly Selector[], end: number, next: boolean): Match {
  const around = element.parent?.children ?? [];
  const before = around
    .slice(0, around.indexOf(element))
    .filter((each): each is RenderedElement => each.kind === 'element');
  const asked = next ? before.slice(-1) : before;
  const best = any(asked.map((each) => matchesParts(each, parts, end)));
  const unsure = around.some(
    (each) => each.kind === 'hole' || (each.kind === 'element' && (each.repeated || each.guards.length > 0)),
  );
  return unsure && best !== 'no' ? 'maybe' : best;
}

function matchesPart(element: RenderedElement, part: Selector): Match {
  switch (part.type) {
    case 'universal':
      return 'yes';
    case 'tag':
      return hasTag(element, part.name);
    case 'attribute':
      return part.name === 'class' && part.action === 'element'
        ? hasClass(element, part.value)
        : attribute(element, part.name, part.action, part.value);
    case 'pseudo':
      return pseudo(element, part.name, part.data);
    default:
      return 'maybe';
  }
}

function pseudo(element: RenderedElement, name: string, data: unknown): Match {
  if (name === 'not' && Array.isArray(data)) {
    const inner = matchesSelector(element, data as Selector[][]);
    return inner === 'maybe' ? 'maybe' : inner === 'yes' ? 'no' : 'yes';
  }
  if ((name === 'is' || name === 'where') && Array.isArray(data))
    return matchesSelector(element, data as Selector[][]);
  const place = PLACES[name];
  if (!place) return 'maybe';
  const formula = place.formula ?? (typeof data === 'string' ? data : undefined);
  return formula === undefined ? 'maybe' : hasPlace(element, formula, place);
}

interface ByPlace {
  /** The formula of the pseudo-class, where it does not bring its own. */
  formula?: string;
  fromEnd?: boolean;
  ofType?: boolean;
}

const PLACES: Readonly<Record<string, ByPlace>> = {
  'first-child': { formula: '1' },
  'last-child': { formula: '1', fromEnd: true },
  'nth-child': {},
  'nth-last-child': { fromEnd: true },
  'first-of-type': { formula: '1', ofType: true },
  'last-of-type': { formula: '1', fromEnd: true, ofType: true },
  'nth-of-type': { ofType: true },
  'nth-last-of-type': { fromEnd: true, ofType: true },
};

// The place among its siblings, where all that stand before it are surely there.
function hasPlace(element: RenderedElement, formula: string, { fromEnd, ofType }: ByPlace): Match {
  if (!element.parent) return 'maybe';
  const around = fromEnd ? element.parent.children.toReversed() : element.parent.children;
  const before = around.slice(0, around.indexOf(element));
  const isSure = before.every(
    (each) =>
      each.kind === 'text' ||
      (each.kind === 'element' && !each.repeated && each.guards.length <= element.guards.length),
  );
  if (!isSure || element.repeated) return 'maybe';
  const elements = before.filter((each) => each.kind === 'element' && (!ofType || each.tag === element.tag));
  try {
    return nthCheck(formula)(elements.length) ? 'yes' : 'no';
  } catch {
    return 'maybe';
  }
}

/** Whether an element has a tag; `?` is one that is chosen at run time. */
export const hasTag = (element: RenderedElement, tag: string): Match =>
  element.tag === '?' ? 'maybe' : element.tag.toLowerCase() === tag.toLowerCase() ? 'yes' : 'no';

/** Whether an element has a class name. */
export function hasClass(element: RenderedElement, name: string): Match {
  if (element.classes.always.includes(name)) return 'yes';
  return element.classes.open || element.classes.maybe.includes(name) ? 'maybe' : 'no';
}

function attribute(element: RenderedElement, name: string, action: string, wanted: string): Match {
  const value = element.attributes.get(name.toLowerCase());
  if (!value) return element.open ? 'maybe' : 'no';
  if (name === 'class' && element.classes.open) return 'maybe';
  const values = possibleValues(value);
  if (!values)
    return action === 'exists' && value.is === 'text' ? 'yes' : partly(textPieces(value), action, wanted);
  const hits = values.map((one) => compares(one, action, wanted));
  return hits.every(Boolean) ? 'yes' : hits.some(Boolean) ? 'maybe' : 'no';
}

const partly = (pieces: Pieces, action: string, wanted: string): Match =>
  action === 'equals' && matchesText(pieces, { text: wanted, exact: true }) === 'no' ? 'no' : 'maybe';

function compares(value: unknown, action: string, wanted: string): boolean {
  if (value === undefined || value === null || value === false) return false;
  const text = value === true ? '' : String(value);
  switch (action) {
    case 'exists':
      return true;
    case 'equals':
      return text === wanted || (value === true && wanted === 'true');
    case 'start':
      return text.startsWith(wanted);
    case 'end':
      return text.endsWith(wanted);
    case 'any':
      return text.includes(wanted);
    case 'element':
      return text.split(/\s+/).includes(wanted);
    case 'hyphen':
      return text === wanted || text.startsWith(`${wanted}-`);
    default:
      return text !== wanted;
  }
}
export type Matcher = (element: RenderedElement) => Match;

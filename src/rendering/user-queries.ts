import { possibleValues } from '../components/expr.js';
import { textPieces, type Piece } from '../components/expr-text.js';
import type { Reach } from '../specs/model/steps.js';
import { textOfValue, type Value } from '../specs/model/values.js';
import { isInHidden } from './hidden.js';
import {
  all,
  any,
  matchesSelector,
  matchesText,
  parsedSelector,
  type Match,
  type Wanted,
  type Matcher,
} from './match.js';
import { LABELLED, nameOf, labelName, normalised } from './name.js';
import type { Pieces, RenderedElement, RenderedTree } from './rendered-tree.js';
import { hasRole } from './role.js';

/** What a text argument asks for; undefined where that can't be read. */
export function wantedOf(value: Value | undefined, options?: Value): Wanted | undefined {
  if (value?.is === 'pattern') return regExp(value.source, value.flags);
  const text = textOfValue(value);
  if (text === undefined) return undefined;
  const exact = options?.is === 'object' ? options.entries.get('exact') : undefined;
  if (exact && exact.is !== 'constant') return undefined;
  return { text, exact: exact?.is !== 'constant' || exact.value !== false };
}

function regExp(source: string, flags: string): Wanted | undefined {
  try {
    return { pattern: new RegExp(source, flags) };
  } catch {
    return undefined;
  }
}

/** What a user-centred query matches: by role, label, text, placeholder, value, alternative text, title or test id. */
export function userMatcher(
  reach: Reach,
  tree: RenderedTree,
  wanted: Wanted | undefined,
  options: Value | undefined,
  testIdAttribute: string,
): Matcher | undefined {
  if (!wanted) return undefined;
  const matcher = byKind(reach, tree, wanted, options, testIdAttribute);
  return matcher && narrowed(matcher, options);
}

const KNOWN_OPTIONS = new Set(['name', 'exact', 'hidden', 'selector', 'level']);

// Options that narrow the query further can only take matches away.
function narrowed(matcher: Matcher, options: Value | undefined): Matcher {
  if (!options) return matcher;
  if (options.is !== 'object') return (element) => all([matcher(element), 'maybe']);
  const selector = textOfValue(options.entries.get('selector'));
  const parsed = selector === undefined ? undefined : parsedSelector(selector);
  const level = textOfValue(options.entries.get('level'));
  const isRead =
    options.entries.has('selector') === (parsed !== undefined) &&
    options.entries.has('level') === (level !== undefined) &&
    [...options.entries.keys()].every((key) => KNOWN_OPTIONS.has(key));
  return (element) => {
    const found = matcher(element);
    if (found === 'no') return 'no';
    const rest = [
      parsed ? matchesSelector(element, parsed) : 'yes',
      level ? hasLevel(element, level) : 'yes',
    ] as const;
    return all([found, isRead ? 'yes' : 'maybe', ...rest]);
  };
}

function hasLevel(element: RenderedElement, level: string): Match {
  const own = element.attributes.get('aria-level');
  if (own || element.tag === '?') return 'maybe';
  return element.tag === `h${level}` ? 'yes' : 'no';
}

function byKind(
  reach: Reach,
  tree: RenderedTree,
  wanted: Wanted,
  options: Value | undefined,
  testIdAttribute: string,
): Matcher | undefined {
  switch (reach.by) {
    case 'role':
      return roleMatcher(tree, wanted, options);
    case 'label':
      return (element) => labelMatch(element, tree, wanted);
    case 'text':
      return (element) => matchesText(ownText(element), wanted);
    case 'testId':
      return attributeMatcher(testIdAttribute, wanted);
    case 'placeholder':
      return attributeMatcher('placeholder', wanted);
    case 'alt':
      return attributeMatcher('alt', wanted);
    case 'title':
      return attributeMatcher('title', wanted);
    case 'value':
      return (element) => valueMatch(element, wanted);
    default:
      return undefined;
  }
}

// The value of a field is that of its attribute until somebody types; an option's can't be told.
function valueMatch(element: RenderedElement, wanted: Wanted): Match {
  if (!['input', 'select', 'textarea'].includes(element.tag)) return element.tag === '?' ? 'maybe' : 'no';
  return element.tag === 'input' ? any([attributeMatcher('value', wanted)(element), 'maybe']) : 'maybe';
}

function roleMatcher(tree: RenderedTree, wanted: Wanted, options: Value | undefined): Matcher | undefined {
  if (!('text' in wanted)) return undefined;
  const asked = options?.is === 'object' ? options.entries.get('name') : undefined;
  const name = asked && wantedOf(asked);
  if (asked && !name) return undefined;
  const hidden = options?.is === 'object' && options.entries.has('hidden');
  return (element) => {
    // A tag that nobody can tell may be a component with any elements: where it stands, the tree is not complete.
    if (element.tag === '?' && !element.attributes.has('role') && !tree.complete) return 'no';
    // What has no meaning of its own is in some tables, and not in others.
    const isGeneric = wanted.text === 'generic' && !element.attributes.has('role');
    const has = isGeneric ? 'maybe' : hasRole(element, wanted.text);
    if (has === 'no') return 'no';
    const out = hidden ? false : isInHidden(element);
    if (out === true) return 'no';
    const named = name ? matchesText(nameOf(element, tree) ?? [undefined], name) : 'yes';
    return (has === 'maybe' || out === 'maybe') && named !== 'no' ? 'maybe' : named;
  };
}

function labelMatch(element: RenderedElement, tree: RenderedTree, wanted: Wanted): Match {
  const own = element.attributes.get('aria-label');
  const isControl = LABELLED.has(element.tag);
  const by = element.attributes.has('aria-labelledby')
    ? matchesText(nameOf(element, tree) ?? [undefined], wanted)
    : 'no';
  if (!isControl && !own) return by;
  const direct = own ? matchesText(normalised(textPieces(own)), wanted) : element.open ? 'maybe' : 'no';
  const label = isControl ? labelName(element, tree) : undefined;
  return any([label ? matchesText(label, wanted) : 'no', by, direct]);
}

/** The text that stands in an element itself, that of elements inside left out. */
export function ownText(element: RenderedElement): Pieces {
  return (element.known.text ??= workedOut(element.children));
}

const NO_TEXT: Pieces = [];

function workedOut(children: RenderedElement['children']): Pieces {
  const pieces: Piece[] = [];
  for (const child of children) {
    if (child.kind === 'hole') pieces.push(undefined);
    else if (child.kind === 'text') pieces.push(...(child.sure ? child.pieces : [undefined]));
  }
  return pieces.length ? normalised(pieces) : NO_TEXT;
}

/** Matches the value of an attribute. */
export function attributeMatcher(name: string, wanted: Wanted): Matcher {
  return (element) => {
    const value = element.attributes.get(name);
    if (!value) return element.open ? 'maybe' : 'no';
    const values = possibleValues(value);
    if (!values) return matchesText(textPieces(value), wanted);
    const hits = values.map((one) =>
      one === undefined || one === null || one === false
        ? 'no'
        : matchesText(normalised([String(one)]), wanted),
    );
    return hits.length > 1 && hits.includes('yes') && hits.includes('no') ? 'maybe' : any(hits);
  };
}

import { possibleValues, textPieces, type Piece } from '../components/expr.js';
import type { Component } from '../components/view.js';
import type { Project } from '../project.js';
import type { Reach } from '../specs/steps.js';
import { textOfValue, type Value } from '../specs/values.js';
import {
  all,
  any,
  hasClass,
  hasTag,
  matchesSelector,
  matchesText,
  parsedSelector,
  type Match,
  type Wanted,
} from './match.js';
import { contains, isInHidden, labelName, askedName, normalised, type Pieces } from './name.js';
import type { Placed, RenderedTree } from './rendered.js';
import { roleOf } from './role.js';

/** The elements that a query finds in what a spec renders. `proven`: nothing unread could be found as well. */
export type Target =
  | { kind: 'one'; element: Placed; proven: boolean }
  /** `complete`: there can be no more of them. */
  | { kind: 'many'; elements: readonly Placed[]; complete: boolean }
  /** `closed`: other props could show nothing else either. */
  | { kind: 'none'; closed: boolean }
  | { kind: 'unknown' };

export const UNKNOWN_TARGET: Target = { kind: 'unknown' };

/** Where a query looks: the elements, and the whole trees that they stand in. */
export interface Scope {
  elements: readonly Placed[];
  tree: RenderedTree;
  complete: boolean;
  /** Whether other props could show nothing else. */
  closed: boolean;
}

/** Finds what a reach finds in a scope. */
export function targetIn(scope: Scope, reach: Reach, project: Project, testIdAttribute: string): Target {
  const matcher = matcherOf(reach, scope.tree, project, testIdAttribute);
  if (!matcher) return UNKNOWN_TARGET;
  const sure: Placed[] = [];
  const maybe: Placed[] = [];
  for (const element of candidates(scope, reach)) {
    const match = matcher(element);
    if (match === 'yes') sure.push(element);
    else if (match === 'maybe') maybe.push(element);
  }
  if (sure.length === 0) return fromMaybe(scope, reach, maybe);
  const isSingle = reach.missing === 'throws' || reach.missing === 'null' || reach.missing === 'void';
  const found = isSingle && sure.length > 1 ? onlyOne(sure, reach) : sure;
  const [first] = found;
  if (!first) return UNKNOWN_TARGET;
  if (found.length > 1 || first.repeated)
    return { kind: 'many', elements: found, complete: maybe.length === 0 && scope.complete };
  return { kind: 'one', element: first, proven: sure.length === 1 && maybe.length === 0 && scope.complete };
}

// Nothing surely matches. A query that throws, in a spec that passes, has found the one that may.
function fromMaybe(scope: Scope, reach: Reach, maybe: readonly Placed[]): Target {
  const [only] = maybe;
  const isStrong =
    scope.complete || (reach.by === 'role' && only && roleOf(only) === textOfValue(reach.args[0]));
  const isFound = reach.missing === 'throws' && maybe.length === 1 && isStrong && !textAtRoot(scope, reach);
  if (only && isFound && !only.repeated) return { kind: 'one', element: only, proven: false };
  if (only || !scope.complete || textAtRoot(scope, reach)) return UNKNOWN_TARGET;
  return { kind: 'none', closed: scope.closed };
}

// Text with no element of the component around it stands in the container of the render.
const textAtRoot = ({ tree }: Scope, { by }: Reach): boolean =>
  by === 'text' && tree.children.some((each) => each.kind === 'text');

// Of alternatives, a query for one finds the one that is always there; a selector takes the first.
function onlyOne(sure: readonly Placed[], { by, missing }: Reach): readonly Placed[] {
  const always = sure.filter(({ guards }) => guards.length === 0);
  if (always.length === 1) return always;
  const takesFirst = ['selector', 'id', 'component'].includes(by);
  if (takesFirst) return sure[0]?.guards.length === 0 ? sure.slice(0, 1) : [];
  return always.length === 0 && missing === 'throws' ? [] : sure;
}

// For an exact text, the elements that show it, and those whose text depends: all others surely do not match.
function candidates({ elements, tree }: Scope, { by, args: [first, options] }: Reach): readonly Placed[] {
  const wanted = by === 'text' && elements === tree.elements ? wantedOf(first, options) : undefined;
  if (!wanted || !('text' in wanted) || !wanted.exact) return elements;
  const index = (tree.byText ??= indexOf(elements));
  return [...(index.literal.get(wanted.text) ?? []), ...index.open];
}

function indexOf(elements: readonly Placed[]): NonNullable<RenderedTree['byText']> {
  const literal = new Map<string, Placed[]>();
  const open: Placed[] = [];
  for (const element of elements) {
    const pieces = ownText(element);
    const [text] = pieces.length === 0 ? [''] : pieces;
    if (pieces.length > 1 || typeof text !== 'string') open.push(element);
    else literal.set(text, [...(literal.get(text) ?? []), element]);
  }
  return { literal, open };
}

/** The part of a scope below an element. */
export function below(scope: Scope, element: Placed): Scope {
  const elements = scope.elements.filter((each) => contains(element, each));
  return { ...scope, elements };
}

type Matcher = (element: Placed) => Match;

function matcherOf(
  reach: Reach,
  tree: RenderedTree,
  project: Project,
  testIdAttribute: string,
): Matcher | undefined {
  const [first, options] = reach.args;
  const text = textOfValue(first);
  switch (reach.by) {
    case 'selector':
      return selectorMatcher(reach, text);
    case 'id':
      return text === undefined ? undefined : attributeMatcher('id', { text, exact: true });
    case 'class':
      return text === undefined
        ? undefined
        : (element) => all(text.split(/\s+/).map((name) => hasClass(element, name)));
    case 'tag':
      return text === undefined ? undefined : (element) => hasTag(element, text);
    case 'component':
      return componentMatcher(first, project);
    case 'hop':
      return undefined;
    default:
      return userMatcher(reach, tree, wantedOf(first, options), options, testIdAttribute);
  }
}

function selectorMatcher(reach: Reach, text: string | undefined): Matcher | undefined {
  // A wrapper's `find` takes the name of a component as well as a selector.
  if (text === undefined || (reach.gives.includes('wrapper') && /^[A-Z]/.test(text))) return undefined;
  const parsed = parsedSelector(text);
  return parsed && ((element) => matchesSelector(element, parsed));
}

function componentMatcher(value: Value | undefined, project: Project): Matcher | undefined {
  if (value?.is === 'object') return optionsMatcher(value);
  if (value?.is !== 'project') return undefined;
  const component = project.componentAt(value.declared);
  return component && ((element) => (isRootOf(element, component) ? 'yes' : 'no'));
}

const isRootOf = ({ component, parent, standsFor }: Placed, wanted: Component): boolean =>
  standsFor === wanted || (component === wanted && parent?.component !== wanted);

// `{ name: 'KilnLid' }` and `{ ref: 'lid' }`.
function optionsMatcher({ entries }: Extract<Value, { is: 'object' }>): Matcher | undefined {
  const [name, ref] = ['name', 'ref'].map((key) => textOfValue(entries.get(key)));
  if (ref !== undefined) return attributeMatcher('ref', { text: ref, exact: true });
  if (name === undefined) return undefined;
  return (element) => {
    const { standsFor, component, parent } = element;
    const own = standsFor ?? (parent?.component === component ? undefined : component);
    return own?.name === name ? 'yes' : 'no';
  };
}

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

function userMatcher(
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

function hasLevel(element: Placed, level: string): Match {
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
function valueMatch(element: Placed, wanted: Wanted): Match {
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
    const role = roleOf(element);
    if (role !== undefined && role !== wanted.text) return 'no';
    const out = hidden ? false : isInHidden(element);
    if (out === true) return 'no';
    const named = name ? matchesText(askedName(element, tree) ?? [undefined], name) : 'yes';
    return (role === undefined || out === 'maybe') && named !== 'no' ? 'maybe' : named;
  };
}

function labelMatch(element: Placed, tree: RenderedTree, wanted: Wanted): Match {
  const own = element.attributes.get('aria-label');
  const direct = own ? matchesText(normalised(textPieces(own)), wanted) : element.open ? 'maybe' : 'no';
  const label = labelName(element, tree);
  const by = element.attributes.has('aria-labelledby')
    ? matchesText(askedName(element, tree) ?? [undefined], wanted)
    : 'no';
  const isControl = ['input', 'select', 'textarea', 'button', 'meter', 'output', 'progress'].includes(
    element.tag,
  );
  return any([label && isControl ? matchesText(label, wanted) : 'no', by, isControl || own ? direct : 'no']);
}

/** The text that stands in an element itself, that of elements inside left out. */
export function ownText(element: Placed): Pieces {
  return (element.known.text ??= workedOut(element.children));
}

const NO_TEXT: Pieces = [];

function workedOut(children: Placed['children']): Pieces {
  const pieces: Piece[] = [];
  for (const child of children) {
    if (child.kind === 'hole') pieces.push(undefined);
    else if (child.kind === 'text') pieces.push(...(child.sure ? child.pieces : [undefined]));
  }
  return pieces.length ? normalised(pieces) : NO_TEXT;
}

function attributeMatcher(name: string, wanted: Wanted): Matcher {
  return (element) => {
    const value = element.attributes.get(name);
    if (!value) return element.open ? 'maybe' : 'no';
    const values = possibleValues(value);
    if (!values) return matchesText(textPieces(value), wanted);
    const hits = values.map((each) =>
      each === undefined || each === null || each === false
        ? 'no'
        : matchesText(normalised([String(each)]), wanted),
    );
    return hits.length > 1 && hits.includes('yes') && hits.includes('no') ? 'maybe' : any(hits);
  };
}

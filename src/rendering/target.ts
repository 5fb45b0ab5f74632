import type { Span } from '../finding.js';
import type { SearchScope } from './scope.js';
import { type Matcher, all, hasClass, hasTag, matchesSelector, parsedSelector } from './match.js';
import type { Component } from '../components/view.js';
import type { Project } from '../project/project.js';
import type { Reach } from '../specs/model/steps.js';
import { textOfValue, type Value } from '../specs/model/values.js';
import { exclude, type RenderedElement, type RenderedTree } from './rendered-tree.js';
import { roleOf } from './role.js';
import { byTranslation } from './translated.js';
import { attributeMatcher, ownText, userMatcher, wantedOf } from './user-queries.js';

/** The elements that a query finds in what a spec renders. `proven`: nothing unread could be found as well. */
export type Target =
  | { kind: 'one'; element: RenderedElement; proven: boolean }
  /** `complete`: there can be no more of them. */
  | { kind: 'many'; elements: readonly RenderedElement[]; complete: boolean }
  /** `closed`: other props could show nothing else either. */
  | { kind: 'none'; closed: boolean }
  | { kind: 'unknown'; why: Blur };

/** Why the element of a query can't be told. */
export type Blur =
  | 'nothing rendered'
  | 'words not known'
  | 'asked of what is not known'
  | 'a part that can’t be read'
  | 'may have changed'
  | 'may match or not'
  | 'one of several';

export const unknownTarget = (why: Blur): Target => ({ kind: 'unknown', why });

/** The elements of a scope that a query surely matches, and those that it may match; undefined where its words are not known. */
export function matchesIn(
  scope: SearchScope,
  reach: Reach,
  project: Project,
  testIdAttribute: string,
): { sure: RenderedElement[]; maybe: RenderedElement[] } | undefined {
  const matcher = matcherOf(reach, scope.tree, project, testIdAttribute);
  if (!matcher) return undefined;
  const sure: RenderedElement[] = [];
  const maybe: RenderedElement[] = [];
  for (const element of candidates(scope, reach)) {
    const match = matcher(element);
    if (match === 'yes') sure.push(element);
    else if (match === 'maybe') maybe.push(element);
  }
  return { sure: once(sure), maybe: once(maybe) };
}

// One element of the source that stands in several ways that are never taken together is there once.
function once(elements: RenderedElement[]): RenderedElement[] {
  if (elements.length < 2) return elements;
  const before = new Map<Span, RenderedElement[]>();
  return elements.filter((each) => {
    const same = before.get(each.place);
    if (same?.some((other) => exclude(other, each))) return false;
    if (same) same.push(each);
    else before.set(each.place, [each]);
    return true;
  });
}

/** Finds what a reach finds in a scope. */
export function targetIn(
  scope: SearchScope,
  reach: Reach,
  project: Project,
  testIdAttribute: string,
): Target {
  const matches = matchesIn(scope, reach, project, testIdAttribute);
  if (!matches) return unknownTarget('words not known');
  const { sure, maybe } = matches;
  if (sure.length === 0) return fromMaybe(scope, reach, maybe);
  const isSingle = reach.missing === 'throws' || reach.missing === 'null' || reach.missing === 'void';
  const found = isSingle && sure.length > 1 ? onlyOne(sure, reach) : sure;
  const [first] = found;
  if (!first) return unknownTarget('one of several');
  if (found.length > 1 || first.repeated)
    return { kind: 'many', elements: found, complete: maybe.length === 0 && scope.complete };
  const isAlone = sure.length === 1 && maybe.length === 0 && scope.complete;
  return { kind: 'one', element: first, proven: isAlone || isThatOne(sure, reach) };
}

/** Whether a query that finds one element, or throws, has found the only one that it surely matches: in a spec that passes. */
export const isThatOne = ([only, ...more]: readonly RenderedElement[], { missing }: Reach): boolean =>
  missing === 'throws' &&
  only !== undefined &&
  more.length === 0 &&
  only.guards.length === 0 &&
  !only.repeated;

// Nothing surely matches. A query that throws, in a spec that passes, has found the one that may.
function fromMaybe(scope: SearchScope, reach: Reach, maybe: readonly RenderedElement[]): Target {
  const [only] = maybe;
  const isStrong =
    scope.complete || (reach.by === 'role' && only && roleOf(only) === textOfValue(reach.args[0]));
  const isFound = reach.missing === 'throws' && maybe.length === 1 && isStrong && !textAtRoot(scope, reach);
  if (only && isFound && !only.repeated) return { kind: 'one', element: only, proven: false };
  const [translated, ...more] = reach.missing === 'throws' ? byTranslation(reach, maybe, scope.tree) : [];
  if (translated && more.length === 0 && !translated.repeated)
    return { kind: 'one', element: translated, proven: false };
  // What surely has the role is it before what may have any.
  const [placed, ...others] = reach.missing === 'throws' ? withRole(reach, maybe) : [];
  if (placed && others.length === 0 && !placed.repeated)
    return { kind: 'one', element: placed, proven: false };
  if (only) return unknownTarget('may match or not');
  if (!scope.complete) return unknownTarget(blurOf(scope));
  if (textAtRoot(scope, reach)) return unknownTarget('may match or not');
  return { kind: 'none', closed: scope.closed };
}

const withRole = ({ by, args }: Reach, elements: readonly RenderedElement[]): RenderedElement[] =>
  by === 'role' ? elements.filter((element) => roleOf(element) === textOfValue(args[0])) : [];

const blurOf = ({ tree }: SearchScope): Blur =>
  tree.complete
    ? 'may have changed'
    : tree.children.length === 0
      ? 'nothing rendered'
      : 'a part that can’t be read';

// Text with no element of the component around it stands in the container of the render.
const textAtRoot = ({ tree }: SearchScope, { by }: Reach): boolean =>
  by === 'text' && tree.children.some((child) => child.kind === 'text');

// Of alternatives, a query for one finds the one that is always there; a selector takes the first.
function onlyOne(sure: readonly RenderedElement[], { by, missing }: Reach): readonly RenderedElement[] {
  const always = sure.filter(({ guards }) => guards.length === 0);
  if (always.length === 1) return always;
  const takesFirst = ['selector', 'id', 'component'].includes(by);
  if (takesFirst) return sure[0]?.guards.length === 0 ? sure.slice(0, 1) : [];
  return always.length === 0 && missing === 'throws' ? [] : sure;
}

// For an exact text, the elements that show it, and those whose text depends: all others surely do not match.
function candidates(
  { elements, tree }: SearchScope,
  { by, args: [first, options] }: Reach,
): readonly RenderedElement[] {
  const wanted = by === 'text' && elements === tree.elements ? wantedOf(first, options) : undefined;
  if (!wanted || !('text' in wanted) || !wanted.exact) return elements;
  const index = (tree.byText ??= indexOf(elements));
  return [...(index.literal.get(wanted.text) ?? []), ...index.open];
}

function indexOf(elements: readonly RenderedElement[]): NonNullable<RenderedTree['byText']> {
  const literal = new Map<string, RenderedElement[]>();
  const open: RenderedElement[] = [];
  for (const element of elements) {
    const pieces = ownText(element);
    const [text] = pieces.length === 0 ? [''] : pieces;
    if (pieces.length > 1 || typeof text !== 'string') open.push(element);
    else if (literal.get(text)?.push(element) === undefined) literal.set(text, [element]);
  }
  return { literal, open };
}

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
    case 'harness':
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

const isRootOf = ({ component, parent, standsFor }: RenderedElement, wanted: Component): boolean =>
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

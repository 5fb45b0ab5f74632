import {
  type Handle,
  type AskedText,
  type Pieces,
  exclude,
  type RenderedElement,
  type RenderedNode,
} from './rendered-tree.js';
import type { By } from '../libraries/meaning.js';
import { textPieces } from '../components/expr-text.js';
import { isInHidden } from './hidden.js';
import { matchesText, type Match, type Wanted } from './match.js';
import { nameOf, labelName, literal, normalised } from './name.js';
import { constantOf, hasRole, isPresentational, roleOf } from './role.js';
import type { SearchScope } from './scope.js';
import { ownText } from './user-queries.js';

/** The best handle, by the ladder, that finds this element and no other in the scope; undefined where there is none. */
export function bestHandle(
  element: RenderedElement,
  scope: SearchScope,
  testIdAttribute: string,
): Handle | undefined {
  return (
    byRole(element, scope) ??
    byLabel(element, scope) ??
    byText(element, scope) ??
    byAttribute(element, scope, testIdAttribute)
  );
}

/** Role and name, if they find this element and no other. */
export function byRole(element: RenderedElement, scope: SearchScope): Handle | undefined {
  // Most are asked for on the whole page, and more than once.
  if (scope.elements !== scope.tree.elements) return roleHandle(element, scope);
  const known = (element.known.byRole ??= roleHandle(element, { ...scope, complete: true }) ?? 'none');
  if (known === 'none') return undefined;
  return scope.complete ? known : { ...known, unique: false };
}

function roleHandle(element: RenderedElement, scope: SearchScope): Handle | undefined {
  const role = roleOf(element);
  if (!role || !isAskable(role, element) || isInHidden(element)) return undefined;
  const name = nameOf(element, scope.tree);
  const asked = name && askedFrom(name);
  if (!asked) {
    const isFree = (each: RenderedElement): boolean =>
      each === element || isOut(each, element) || hasRole(each, role) === 'no';
    const alone = name?.length === 0 && SINGLE.has(role) && scope.elements.every(isFree);
    return alone ? { by: 'role', unique: scope.complete, role, given: false } : undefined;
  }
  let unique = scope.complete && 'text' in asked;
  const wanted = wantedBy(asked);
  for (const each of scope.elements) {
    const has = each === element ? 'no' : hasRole(each, role);
    if (has === 'no' || isOut(each, element)) continue;
    const named = nameMatch(each, scope, wanted);
    if (named === 'no') continue;
    if (has === 'yes' && named === 'yes') return undefined;
    unique = false;
  }
  return { by: 'role', unique, role, asked, given: isGiven(element) };
}

// Hidden, or never there together with the element.
const isOut = (each: RenderedElement, element: RenderedElement): boolean =>
  isInHidden(each) === true || exclude(each, element);

const nameMatch = (element: RenderedElement, { tree }: SearchScope, wanted: Wanted): Match =>
  matchesText(nameOf(element, tree) ?? [undefined], wanted);

// Roles of which a page, or a widget, has one by nature.
const SINGLE = new Set([
  'main',
  'banner',
  'contentinfo',
  'navigation',
  'search',
  'dialog',
  'alertdialog',
  'alert',
  'status',
  'progressbar',
  'table',
  'form',
]);

/** Roles that no query needs a name for, since there is one by nature. */
export const isSingle = (role: string): boolean => SINGLE.has(role);

// Elements whose role by nature is younger than the tables of query libraries, or that no one asks for.
const NOT_ASKED = new Set(
  'presentation none generic paragraph strong emphasis code time deletion insertion subscript superscript meter caption term definition blockquote search mark suggestion'.split(
    ' ',
  ),
);
const isAskable = (role: string, { attributes }: RenderedElement): boolean =>
  !NOT_ASKED.has(role) || (attributes.has('role') && !isPresentational(role));

// An element whose content changes is asked for by the words before the first hole.
function askedFrom(name: Pieces): AskedText | undefined {
  const text = literal(name);
  if (text !== undefined) return text ? { text } : undefined;
  const [piece] = name;
  const start = typeof piece === 'string' ? piece.trimEnd() : undefined;
  return start && start.length >= 3 ? { pattern: new RegExp(patternOf(start)) } : undefined;
}

// What a query for it matches.
const wantedBy = (asked: AskedText): Wanted => ('text' in asked ? { text: asked.text, exact: true } : asked);

// The source of a pattern for what starts with some words.
const patternOf = (start: string): string => `^${start.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&')}`;

function byLabel(element: RenderedElement, scope: SearchScope): Handle | undefined {
  if (!['input', 'select', 'textarea'].includes(element.tag)) return undefined;
  const own = (each: RenderedElement): Pieces | undefined => {
    const label = constantOf(each, 'aria-label');
    return labelName(each, scope.tree) ?? (label === undefined ? undefined : [label]);
  };
  const label = own(element);
  const text = label && literal(label);
  if (!text) return undefined;
  const matches = scope.elements.map((each) =>
    each === element ? 'no' : matchesText(own(each) ?? [], { text, exact: true }),
  );
  if (matches.includes('yes')) return undefined;
  return {
    by: 'label',
    asked: { text },
    unique: scope.complete && !matches.includes('maybe'),
    given: isGiven(element),
  };
}

function byText(element: RenderedElement, scope: SearchScope): Handle | undefined {
  const text = literal(ownText(element));
  if (!text || text.length > LONGEST) return undefined;
  const matches = scope.elements.map((each) =>
    each === element ? 'no' : matchesText(ownText(each), { text, exact: true }),
  );
  if (matches.includes('yes')) return undefined;
  const atRoot = scope.tree.children.some((child) => child.kind === 'text');
  const unique = scope.complete && !matches.includes('maybe') && !atRoot;
  return { by: 'text', asked: { text }, unique, given: element.children.some(isGivenText) };
}

const LONGEST = 60;

function byAttribute(
  element: RenderedElement,
  scope: SearchScope,
  testIdAttribute: string,
): Handle | undefined {
  const kinds: readonly [By, string][] = [
    ['placeholder', 'placeholder'],
    ['alt', 'alt'],
    ['title', 'title'],
    ['testId', testIdAttribute],
  ];
  for (const [by, attribute] of kinds) {
    const value = element.attributes.get(attribute);
    const text = value && literal(normalised(textPieces(value)));
    if (!text || (by === 'alt' && !['img', 'input', 'area'].includes(element.tag))) continue;
    const others = scope.elements.filter((each) => each !== element);
    if (others.some((each) => constantOf(each, attribute) === text)) continue;
    const open = others.some(
      (each) => (each.attributes.get(attribute)?.is ?? (each.open ? 'unknown' : 'constant')) !== 'constant',
    );
    return { by, asked: { text }, unique: scope.complete && !open, given: isGiven(element) };
  }
  return undefined;
}

// Whether the words of an element come from props, or from the spec's own markup.
function isGiven(element: RenderedElement): boolean {
  return (
    element.component === undefined ||
    NAMING.some((name) => element.filled.has(name)) ||
    element.children.some(isGivenText)
  );
}

const NAMING = ['aria-label', 'aria-labelledby', 'title', 'alt', 'placeholder', 'value', 'id'];

const isGivenText = (node: RenderedNode): boolean =>
  node.kind === 'text' ? node.given : node.kind === 'element' && isGiven(node);

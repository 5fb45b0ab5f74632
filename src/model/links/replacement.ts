import type { By, Missing } from '../../dialects/meaning.js';
import { userQueryName } from '../../dialects/queries.js';
import { textPieces } from '../components/expr.js';
import { matchesText, type Wanted } from './match.js';
import { isInHidden, labelName, literal, askedName, normalised, type Pieces } from './name.js';
import type { Placed } from './rendered.js';
import { constantOf, roleOf } from './role.js';
import { ownText, type Scope } from './target.js';

/** A better way to reach an element: by what, and the arguments of the query as source text. */
export interface Handle {
  by: By;
  args: string;
  /** Whether no other element could be found by it. */
  unique: boolean;
  role?: string;
  name?: string;
}

/** The best handle, by the ladder, that finds this element and no other in the scope; undefined where there is none. */
export function bestHandle(element: Placed, scope: Scope, testIdAttribute: string): Handle | undefined {
  return (
    byRole(element, scope) ??
    byLabel(element, scope) ??
    byText(element, scope) ??
    byAttribute(element, scope, testIdAttribute)
  );
}

function byRole(element: Placed, scope: Scope): Handle | undefined {
  const role = roleOf(element);
  if (!role || role === 'presentation' || isInHidden(element)) return undefined;
  const name = askedName(element, scope.tree);
  const asked = name && wantedFrom(name);
  const others = scope.elements.filter(
    (each) => each !== element && roleOf(each) === role && !isInHidden(each),
  );
  if (!asked) {
    const alone = name !== undefined && SINGLE.has(role) && others.length === 0;
    return alone ? { by: 'role', args: quoted(role), unique: scope.complete, role } : undefined;
  }
  const same = others.some(
    (each) => matchesText(askedName(each, scope.tree) ?? [undefined], asked.wanted) !== 'no',
  );
  if (same) return undefined;
  return {
    by: 'role',
    args: `${quoted(role)}, { name: ${asked.source} }`,
    unique: asked.exact && scope.complete,
    role,
    name: asked.shown,
  };
}

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

// An element whose content changes is asked for by the words before the first hole.
function wantedFrom(
  name: Pieces,
): { wanted: Wanted; source: string; exact: boolean; shown: string } | undefined {
  const text = literal(name);
  if (text !== undefined)
    return text
      ? { wanted: { text, exact: true }, source: quoted(text), exact: true, shown: text }
      : undefined;
  const [piece] = name;
  const start = typeof piece === 'string' ? piece.trimEnd() : undefined;
  if (!start || start.length < 3) return undefined;
  const source = `^${start.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&')}`;
  return { wanted: { pattern: new RegExp(source) }, source: `/${source}/`, exact: false, shown: `${start}…` };
}

function byLabel(element: Placed, scope: Scope): Handle | undefined {
  if (!['input', 'select', 'textarea'].includes(element.tag)) return undefined;
  const label =
    labelName(element, scope.tree) ??
    (constantOf(element, 'aria-label') === undefined ? undefined : [constantOf(element, 'aria-label')]);
  const text = label && literal(label);
  if (!text) return undefined;
  const same = scope.elements.some(
    (each) =>
      each !== element && matchesText(labelName(each, scope.tree) ?? [], { text, exact: true }) !== 'no',
  );
  return same ? undefined : { by: 'label', args: quoted(text), unique: scope.complete, name: text };
}

function byText(element: Placed, scope: Scope): Handle | undefined {
  const text = literal(ownText(element));
  if (!text || text.length > 60) return undefined;
  const same = scope.elements.some(
    (each) => each !== element && matchesText(ownText(each), { text, exact: true }) === 'yes',
  );
  return same ? undefined : { by: 'text', args: quoted(text), unique: scope.complete, name: text };
}

function byAttribute(element: Placed, scope: Scope, testIdAttribute: string): Handle | undefined {
  const kinds: readonly [By, string][] = [
    ['placeholder', 'placeholder'],
    ['alt', 'alt'],
    ['title', 'title'],
    ['testId', testIdAttribute],
  ];
  for (const [by, attribute] of kinds) {
    const value = element.attributes.get(attribute);
    const text = value && literal(normalised(textPieces(value)));
    if (!text) continue;
    const same = scope.elements.some((each) => each !== element && constantOf(each, attribute) === text);
    if (!same) return { by, args: quoted(text), unique: scope.complete, name: text };
  }
  return undefined;
}

/** How a query is used where it stands: what it must do when nothing matches, and whether it waits. */
export interface UseOfQuery {
  absent: boolean;
  waits: boolean;
}

/** A handle as a user-centred query: one that throws, unless the spec asks for absence. */
export function asUserQuery(handle: Handle, { absent, waits }: UseOfQuery, receiver = 'screen'): string {
  const missing: Missing = absent && !waits ? 'null' : 'throws';
  return `${receiver}.${userQueryName(handle.by, missing, waits) ?? 'getByRole'}(${handle.args})`;
}

const quoted = (text: string): string =>
  `'${text.replace(/\\/g, '\\\\').replace(/'/g, "\\'").replace(/\n/g, '\\n')}'`;

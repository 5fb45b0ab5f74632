import type { Role, RenderedElement } from './rendered-tree.js';
import { choicesOf, possibleValues, type Constant, type Expr } from '../components/expr.js';
import type { Match } from './match.js';

// The roles of WAI-ARIA 1.3, its modules for publishing and graphics by their prefix.
const ROLES: ReadonlySet<string> = new Set(
  (
    'alert alertdialog application article banner blockquote button caption cell checkbox code columnheader combobox ' +
    'comment complementary contentinfo definition deletion dialog directory document emphasis feed figure form generic ' +
    'grid gridcell group heading image img insertion link list listbox listitem log main mark marquee math menu menubar ' +
    'menuitem menuitemcheckbox menuitemradio meter navigation none note option paragraph presentation progressbar radio ' +
    'radiogroup region row rowgroup rowheader scrollbar search searchbox sectionfooter sectionheader separator slider ' +
    'spinbutton status strong subscript suggestion superscript switch tab table tablist tabpanel term textbox time timer ' +
    'toolbar tooltip tree treegrid treeitem'
  ).split(' '),
);

/** Whether there is a role of a name. */
export const isRole = (name: string): boolean => ROLES.has(name) || /^(?:doc|graphics)-/.test(name);

const BY_TAG: Readonly<Record<string, string>> = {
  article: 'article',
  aside: 'complementary',
  blockquote: 'blockquote',
  button: 'button',
  caption: 'caption',
  code: 'code',
  datalist: 'listbox',
  dd: 'definition',
  del: 'deletion',
  details: 'group',
  dfn: 'term',
  dialog: 'dialog',
  dt: 'term',
  em: 'emphasis',
  fieldset: 'group',
  figure: 'figure',
  footer: 'contentinfo',
  h1: 'heading',
  h2: 'heading',
  h3: 'heading',
  h4: 'heading',
  h5: 'heading',
  h6: 'heading',
  header: 'banner',
  hr: 'separator',
  ins: 'insertion',
  li: 'listitem',
  main: 'main',
  math: 'math',
  menu: 'list',
  meter: 'meter',
  nav: 'navigation',
  ol: 'list',
  optgroup: 'group',
  option: 'option',
  output: 'status',
  p: 'paragraph',
  progress: 'progressbar',
  search: 'search',
  strong: 'strong',
  sub: 'subscript',
  sup: 'superscript',
  table: 'table',
  tbody: 'rowgroup',
  td: 'cell',
  textarea: 'textbox',
  tfoot: 'rowgroup',
  thead: 'rowgroup',
  time: 'time',
  tr: 'row',
  ul: 'list',
};

const INPUTS: Readonly<Record<string, string | null>> = {
  button: 'button',
  checkbox: 'checkbox',
  image: 'button',
  number: 'spinbutton',
  radio: 'radio',
  range: 'slider',
  reset: 'button',
  search: 'searchbox',
  submit: 'button',
  color: null,
  date: null,
  'datetime-local': null,
  file: null,
  hidden: null,
  month: null,
  password: null,
  time: null,
  week: null,
};

/**
 * The role of an element, as user-centred queries ask for it: its own `role`, else the mapping of HTML elements to roles
 * (HTML-AAM) as far as query libraries know it (aria-query 5.3 by its selectors: a landmark counts wherever it stands).
 */
export function roleOf(element: RenderedElement): Role {
  return (element.known.role ??= { is: workedOut(element) }).is;
}

/** Whether an element has a role: one of those that its own attribute may give, or that of its kind. */
export function hasRole(element: RenderedElement, role: string): Match {
  const own = roleOf(element);
  if (own !== undefined) return own === role ? 'yes' : 'no';
  const given = element.attributes.get('role');
  const values = given && possibleValues(given);
  if (!values) return 'maybe';
  const roles = values.map((value) => firstOf(value) ?? ofKind(element));
  return roles.some((each) => each === undefined || each === role) ? 'maybe' : 'no';
}

const firstOf = (value: Constant): string | undefined => String(value ?? '').split(' ')[0] || undefined;

function workedOut(element: RenderedElement): Role {
  const own = element.attributes.get('role');
  if (own) {
    const values = possibleValues(own);
    if (values?.length !== 1) return undefined;
    const first = firstOf(values[0]);
    if (first) return first;
  }
  return ofKind(element);
}

function ofKind(element: RenderedElement): Role {
  if (element.tag === '?') return undefined;
  // A spread may set a role; what it sets is seldom one, but can't be told.
  if (element.open && SPREAD_ROLE.has(element.tag)) return undefined;
  return implicitRole(element);
}

const SPREAD_ROLE = new Set(['div', 'span', 'section', 'ul', 'li', 'a']);

function implicitRole(element: RenderedElement): Role {
  switch (element.tag) {
    case 'a':
    case 'area':
      return has(element, 'href', 'link', null);
    case 'img':
      return imageRole(element);
    case 'input':
      return inputRole(element);
    case 'select':
      return selectRole(element);
    case 'section':
      return isLabelled(element) ? 'region' : null;
    case 'form':
      return isLabelled(element) || element.attributes.has('name') ? 'form' : null;
    case 'th':
      return constantOf(element, 'scope') === 'row' ? 'rowheader' : 'columnheader';
    case 'svg':
      return null;
    default:
      return BY_TAG[element.tag] ?? null;
  }
}

function has(element: RenderedElement, name: string, role: string, otherwise: string | null): Role {
  const value = element.attributes.get(name);
  if (!value) return element.open ? undefined : otherwise;
  const given = (choicesOf(value) ?? [value]).map((each) => !isAbsent(each));
  return given.every(Boolean) ? role : given.some(Boolean) ? undefined : otherwise;
}

// What is written and can't be read is taken to be there.
const isAbsent = (expr: Expr): boolean =>
  choicesOf(expr)?.some(isAbsent) ??
  (expr.is === 'constant' && (expr.value === undefined || expr.value === null || expr.value === false));

function imageRole(element: RenderedElement): Role {
  const alt = element.attributes.get('alt');
  if (!alt) return 'img';
  const values = possibleValues(alt);
  if (values?.every((one) => one === '')) return 'presentation';
  return values?.some((one) => one === '') ? undefined : 'img';
}

function inputRole(element: RenderedElement): Role {
  const type = element.attributes.get('type');
  const values = type ? possibleValues(type) : [undefined];
  if (values?.length !== 1 || (!type && element.open)) return undefined;
  const name = String(values[0] ?? 'text').toLowerCase();
  if (element.attributes.has('list') && ['text', 'search', 'tel', 'url', 'email'].includes(name))
    return 'combobox';
  return Object.hasOwn(INPUTS, name) ? (INPUTS[name] ?? null) : 'textbox';
}

function selectRole(element: RenderedElement): Role {
  const many = element.attributes.get('multiple');
  const size = Number(constantOf(element, 'size') ?? 1);
  if (many && possibleValues(many) === undefined) return undefined;
  const on = many && possibleValues(many)?.some((each) => each !== false && each !== undefined);
  return on || size > 1 ? 'listbox' : 'combobox';
}

const isLabelled = ({ attributes }: RenderedElement): boolean =>
  attributes.has('aria-label') || attributes.has('aria-labelledby');

/** Whether a role takes an element out of what has one. */
export const isPresentational = (role: Role): boolean => role === 'presentation' || role === 'none';

/** The one value, as text, of an attribute; undefined where there is none or it depends. */
export function constantOf(element: RenderedElement, name: string): string | undefined {
  const value = element.attributes.get(name);
  if (value?.is !== 'constant' || value.value === undefined || value.value === null || value.value === false)
    return undefined;
  return value.value === true ? '' : String(value.value);
}

import { expect } from 'chai';
import { computeAccessibleName, getRole } from 'dom-accessibility-api';
import { JSDOM } from 'jsdom';
import { matchesText } from '#src/rendering/match.js';
import { literal, nameOf } from '#src/rendering/name.js';
import { type Pieces } from '#src/rendering/placed.js';
import { constantOf, roleOf } from '#src/rendering/role.js';
import { projectOf, treeOfComponent } from '../support/views.js';

/** Elements to name: the opening tag, without the attributes that name it, and what stands in it by nature. */
const HOSTS = [
  ...[
    'button',
    'a',
    'a href="/kilns"',
    'div',
    'span',
    'p',
    'section',
    'form',
    'nav',
    'header',
    'footer',
    'main',
  ],
  ...[
    'article',
    'aside',
    'h1',
    'h4',
    'ul',
    'ol',
    'menu',
    'fieldset',
    'figure',
    'details',
    'summary',
    'output',
  ],
  ...['progress', 'meter', 'textarea', 'select', 'select multiple', 'select size="3"', 'dialog open', 'hr'],
  ...[
    'text',
    'search',
    'email',
    'tel',
    'url',
    'checkbox',
    'radio',
    'range',
    'number',
    'submit',
    'button',
  ].map((type) => `input type="${type}"`),
  ...['reset', 'image', 'password', 'file', 'date'].map((type) => `input type="${type}"`),
  ...['input list="cones"', 'img src="k.png"', 'img src="k.png" alt="Kiln"', 'img src="k.png" alt=""', 'svg'],
  ...['button', 'link', 'tab', 'heading', 'dialog', 'alert', 'status', 'switch', 'checkbox', 'region'].map(
    (role) => `div role="${role}"`,
  ),
  ...['textbox', 'img', 'group', 'listbox', 'menuitem', 'option', 'cell', 'row', 'tooltip', 'none'].map(
    (role) => `div role="${role}"`,
  ),
  ...['table', 'area href="/a" alt="Lid"', 'article role="presentation"', 'li', 'dt', 'dd', 'strong', 'time'],
];
const EMPTY = new Set(['input', 'img', 'hr', 'area']);

/** Ways to name an element `x` with the opening tag `host`. */
const WAYS: Readonly<Record<string, (host: string) => string>> = {
  nothing: (host) => element(host),
  'aria-label': (host) => element(`${host} aria-label="Fire"`, 'Lid'),
  'blank aria-label': (host) => element(`${host} aria-label=" "`, 'Lid'),
  'one id': (host) => `<i id="a">Fire</i>${element(`${host} aria-labelledby="a"`, 'Lid')}`,
  'two ids': (host) =>
    `<i id="a">Fire</i><b id="b" hidden>the kiln</b>${element(`${host} aria-labelledby="a b"`)}`,
  'its own id': (host) => `<i id="a">two</i>${element(`${host} aria-label="Fire" aria-labelledby="x a"`)}`,
  'no such id': (host) => element(`${host} aria-labelledby="zz"`, 'Lid'),
  title: (host) => element(`${host} title="Fire"`),
  'title and content': (host) => element(`${host} title="Fire"`, 'Lid'),
  'label for': (host) => `<label for="x">Cone <em>six</em></label>${element(host, 'Lid')}`,
  'label around': (host) => `<label>Cone ${element(host, 'Lid')} of six</label>`,
  'two labels': (host) => `<label for="x">Cone</label><label for="x">six</label>${element(host)}`,
  placeholder: (host) => element(`${host} placeholder="Fire"`),
  value: (host) => element(`${host} value="Fire"`),
  'a space that does not break': (host) => element(host, 'Fire&nbsp;the &nbsp; kiln'),
  'content side by side': (host) => element(host, '<b>Fire</b><i>the</i>kiln<u></u> now'),
  content: (host) => element(host, 'Fire <b>the</b><div>kiln</div>'),
  'hidden content': (host) =>
    element(host, 'Fire<i hidden>a</i><i aria-hidden="true">b</i><i style="display: none">c</i>'),
  'content with controls': (host) =>
    element(host, 'Fire <img src="a.png" alt="now"> <span role="link">here</span>'),
  'content with a label': (host) => element(host, '<span aria-label="Fire">x</span> <span title="t"></span>'),
  legend: (host) => element(host, '<legend>Fire</legend>'),
  caption: (host) => (host === 'table' ? element(host, '<caption>Fire</caption>') : element(host)),
  figcaption: (host) => (host === 'figure' ? element(host, '<figcaption>Fire</figcaption>') : element(host)),
};

function element(opening: string, content = ''): string {
  const [tag = ''] = opening.split(' ');
  return EMPTY.has(tag) ? `<${opening} id="x">` : `<${opening} id="x">${content}</${tag}>`;
}

/** Around an element that a page knows only in its place. */
const AROUND: Readonly<Record<string, (markup: string) => string>> = {
  li: (markup) => `<ul>${markup}</ul>`,
  summary: (markup) => `<details open>${markup}</details>`,
  area: (markup) => `<map name="m">${markup}</map>`,
};

// A name that may have a space or not between inline elements is the document's, if it can be that.
const textOf = (name: Pieces, wanted: string): string | undefined =>
  literal(name) ?? (matchesText(name, { text: wanted, exact: true }) === 'maybe' ? wanted : undefined);

interface Named {
  role: string | null | undefined;
  name: string | undefined;
}
const show = ({ role, name }: Named): string => `${role} “${name}”`;
const same = (a: Named, b: Named): boolean => a.role === b.role && a.name === b.name;

// Where HTML-AAM and the library part: each difference has its reason.
function explained(real: Element, mine: Named, theirs: Named): boolean {
  const tag = real.localName;
  // Roles of ARIA 1.2 and later that its table does not have yet.
  if (['p', 'strong', 'time', 'meter'].includes(tag) && theirs.role === null)
    return mine.name === theirs.name;
  // Only a named section or form is a landmark.
  if (['section', 'form'].includes(tag) && mine.role === null) return theirs.name === '';
  // No role is mapped to a summary.
  if (tag === 'summary') return mine.role === null && theirs.role === 'button';
  // `role="none"` on an element without a role of its own.
  if (real.getAttribute('role') === 'none' && mine.role === null) return theirs.role === null;
  // The last resort of the naming of fields, and captions of figures, are left out of it.
  const lastResort = real.getAttribute('placeholder') ?? real.querySelector('figcaption')?.textContent;
  return mine.role === theirs.role && theirs.name === '' && mine.name === lastResort;
}

describe('roles and names as a document has them', () => {
  const rows: string[] = [];
  for (const host of HOSTS) {
    const around = AROUND[host.split(' ')[0] ?? ''] ?? ((markup: string) => markup);
    for (const way of Object.values(WAYS)) rows.push(around(way(host)));
  }
  const markups = [...new Set(rows)];

  it(`of ${markups.length} elements`, async () => {
    expect(markups.length).to.be.greaterThan(800);
    const differences: string[] = [];
    const files = Object.fromEntries(
      markups.map((markup, i) => [`f${i}.vue`, `<template>${markup}</template>`]),
    );
    const { project, at } = await projectOf(files);
    const { document } = new JSDOM('<!doctype html>').window;
    for (const [i, markup] of markups.entries()) {
      const tree = treeOfComponent(project, at(`f${i}.vue`), `F${i}`);
      const mine = tree.elements.find((each) => constantOf(each, 'id') === 'x');
      document.body.innerHTML = markup;
      const real = document.getElementById('x');
      if (!real) throw new Error(markup);
      const named = mine && nameOf(mine, tree);
      const said = { role: mine && roleOf(mine), name: named && textOf(named, computeAccessibleName(real)) };
      const role = getRole(real);
      const truth = { role: role === 'none' ? 'presentation' : role, name: computeAccessibleName(real) };
      if (!same(said, truth) && !explained(real, said, truth))
        differences.push(`${markup}\n    wexlet ${show(said)}, document ${show(truth)}`);
    }
    expect(differences.join('\n')).to.equal('');
  });
});

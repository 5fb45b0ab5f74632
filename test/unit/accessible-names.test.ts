import { expect } from 'chai';
import { getRoles, queryAllByRole } from '@testing-library/dom';
import { createRequire } from 'node:module';
import { userMatcher } from '#src/rendering/user-queries.js';
import type { Reach } from '#src/specs/model/steps.js';
import type { Value } from '#src/specs/model/values.js';
import { JSDOM } from 'jsdom';
import { matchesText, type Match } from '#src/rendering/match.js';
import { literal, nameOf } from '#src/rendering/name.js';
import type { Pieces, RenderedElement, RenderedTree } from '#src/rendering/rendered-tree.js';
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

function elements(
  hosts: readonly string[],
  ways: Readonly<Record<string, (host: string) => string>>,
): string[] {
  const rows = hosts.flatMap((host) => {
    const around = AROUND[host.split(' ')[0] ?? ''] ?? ((markup: string) => markup);
    return Object.values(ways).map((way) => around(way(host)));
  });
  return [...new Set(rows)];
}

const MORE_HOSTS = [
  ...[
    'searchbox',
    'combobox',
    'slider',
    'spinbutton',
    'radio',
    'navigation',
    'article',
    'list',
    'listitem',
    'note',
  ].map((role) => `div role="${role}"`),
  ...['label', 'pre', 'code', 'h2', 'em'],
  ...[
    'button type="submit"',
    'button disabled',
    'a role="button"',
    'input',
    'input type="hidden"',
    'dialog',
    'abbr',
  ],
];

const MORE_WAYS: typeof WAYS = {
  'a name of two sources': (host) => element(`${host} aria-label="Fire" title="Lid"`, 'Kiln'),
  'hidden itself': (host) => element(`${host} hidden`, 'Fire'),
  'inside of something hidden': (host) =>
    `<div aria-hidden="true">${element(`${host} aria-label="Fire"`)}</div>`,
  'an image alone': (host) => element(host, '<img src="k.png" alt="Kiln">'),
  'an icon with a title': (host) => element(host, '<svg><title>Kiln</title></svg> open'),
  'words in a list': (host) => element(host, '<ul><li>Fire</li><li>the kiln</li></ul>'),
  'a button inside': (host) => element(host, 'Cone <span role="button">six</span>'),
  'a field inside': (host) => element(host, 'Cone <input value="6"> of six'),
};

/** What a query by role and name says of an element. */
function matchOf(role: string, name: string, tree: RenderedTree, element: RenderedElement): Match {
  const options: Value = {
    is: 'object',
    node: {} as Extract<Value, { is: 'object' }>['node'],
    entries: new Map(name ? [['name', { is: 'constant', value: name }] as const] : []),
    open: false,
  };
  const reach = { by: 'role' } as Reach;
  const matcher = userMatcher(reach, tree, { text: role, exact: true }, options, 'data-testid');
  return matcher?.(element) ?? 'maybe';
}

const page = new JSDOM('<!doctype html>').window.document;
const theirs = createRequire(createRequire(import.meta.url).resolve('@testing-library/dom'))(
  'dom-accessibility-api',
) as { computeAccessibleName: (element: Element) => string };

describe('role and name as the query library asks for them', () => {
  const markups = elements([...HOSTS, ...MORE_HOSTS], { ...WAYS, ...MORE_WAYS });

  it(`of ${markups.length} elements`, async () => {
    const files = Object.fromEntries(
      markups.map((markup, i) => [`f${i}.vue`, `<template>${markup}</template>`]),
    );
    const { project, at } = await projectOf(files);
    const wrong: string[] = [];
    let asked = 0;
    let unsure = 0;
    for (const [i, markup] of markups.entries()) {
      const tree = treeOfComponent(project, at(`f${i}.vue`), `F${i}`);
      page.body.innerHTML = markup;
      const real = page.getElementById('x');
      const mine = tree.elements.find((each) => constantOf(each, 'id') === 'x');
      if (!real || !mine) throw new Error(markup);
      const name = theirs.computeAccessibleName(real);
      const roles = Object.entries(getRoles(page.body)).flatMap(([role, all]) =>
        all.includes(real) ? [role] : [],
      );
      const own = roleOf(mine);
      const named = nameOf(mine, tree);
      if (roles.length > 0 && named && textOf(named, name) !== name)
        wrong.push(`${markup}\n  named “${name}”, said “${textOf(named, name)}”`);
      for (const role of new Set([...roles, ...(own ? [own] : [])]))
        for (const wanted of new Set([name, literal(nameOf(mine, tree) ?? []) ?? name])) {
          const found = queryAllByRole(page.body, role, wanted ? { name: wanted } : {}).includes(real);
          const answer = matchOf(role, wanted, tree, mine);
          asked++;
          if (answer === 'maybe') unsure++;
          else if ((answer === 'yes') !== found)
            wrong.push(`${markup}\n  ${role} “${wanted}”: found ${found}, said ${answer}`);
        }
    }
    expect(asked).to.be.greaterThan(2000);
    expect(unsure / asked).to.be.below(0.08);
    expect(wrong.join('\n')).to.equal('');
  });
});

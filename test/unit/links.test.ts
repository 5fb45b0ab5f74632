import { roles } from 'aria-query';
import { expect } from 'chai';
import { matchesSelector, matchesText, parsedSelector } from '#src/rendering/match.js';
import { literal, nameOf, NAMED_BY_CONTENT, normalised } from '#src/rendering/name.js';
import { argsOf } from '#src/writing/rewrite.js';
import { queryName, USER_QUERIES } from '#src/libraries/queries.js';
import { bestHandle } from '#src/rendering/replacement.js';
import { roleOf } from '#src/rendering/role.js';
import type { RenderedElement, RenderedTree } from '#src/rendering/rendered-tree.js';
import { searchScope, type SearchScope } from '#src/rendering/scope.js';
import { specFileOf, treeOf, UNREAD } from '../support/views.js';

/** The tree of some markup, and the element with the id `x`. */
async function elementIn(
  markup: string,
  code = '',
): Promise<{ tree: RenderedTree; element: RenderedElement; scope: SearchScope }> {
  const tree = await treeOf(
    { 'a.tsx': `${code}\nexport const A = ({ p }) => <>${markup}</>;` },
    'a.tsx',
    'A',
    { p: UNREAD },
  );
  const element = tree.elements.find((each) => {
    const id = each.attributes.get('id');
    return id?.is === 'constant' && id.value === 'x';
  });
  if (!element) throw new Error(`no #x in ${markup}`);
  return {
    tree,
    element,
    scope: searchScope(tree),
  };
}

describe('roles', () => {
  const rows: [string, string | null | undefined][] = [
    ['<button id="x" />', 'button'],
    ['<a id="x" href="/kilns">a</a>', 'link'],
    ['<a id="x">a</a>', null],
    ['<a id="x" href={p ? "a" : undefined}>a</a>', undefined],
    ['<div id="x" />', null],
    ['<div id="x" role="alert" />', 'alert'],
    ['<div id="x" role="none presentation" />', 'none'],
    ['<div id="x" role={load()} />', undefined],
    ['<div id="x" {...load()} />', undefined],
    ['<button id="x" {...load()} />', 'button'],
    ['<h1 id="x" />', 'heading'],
    ['<h6 id="x" />', 'heading'],
    ['<ul id="x" />', 'list'],
    ['<li id="x" />', 'listitem'],
    ['<nav id="x" />', 'navigation'],
    ['<main id="x" />', 'main'],
    ['<article id="x" />', 'article'],
    ['<section id="x" />', null],
    ['<section id="x" aria-label="Shelf" />', 'region'],
    ['<form id="x" />', null],
    ['<form id="x" aria-labelledby="y" />', 'form'],
    ['<header id="x" />', 'banner'],
    ['<main><header id="x" /></main>', 'banner'],
    ['<article><footer id="x" /></article>', 'contentinfo'],
    ['<footer id="x" />', 'contentinfo'],
    ['<img id="x" src="a.png" alt="Kiln" />', 'img'],
    ['<img id="x" src="a.png" />', 'img'],
    ['<img id="x" src="a.png" alt="" />', 'presentation'],
    ['<input id="x" />', 'textbox'],
    ['<input id="x" type="email" />', 'textbox'],
    ['<input id="x" type="checkbox" />', 'checkbox'],
    ['<input id="x" type="radio" />', 'radio'],
    ['<input id="x" type="number" />', 'spinbutton'],
    ['<input id="x" type="range" />', 'slider'],
    ['<input id="x" type="search" />', 'searchbox'],
    ['<input id="x" type="submit" />', 'button'],
    ['<input id="x" type="password" />', null],
    ['<input id="x" type="file" />', null],
    ['<input id="x" type={load()} />', undefined],
    ['<input id="x" {...load()} />', undefined],
    ['<input id="x" list="cones" />', 'combobox'],
    ['<select id="x" />', 'combobox'],
    ['<select id="x" multiple />', 'listbox'],
    ['<select id="x" size="4" />', 'listbox'],
    ['<textarea id="x" />', 'textbox'],
    ['<output id="x" />', 'status'],
    ['<table><tbody><tr><th id="x" scope="row">a</th></tr></tbody></table>', 'rowheader'],
    ['<table><tbody><tr><th id="x">a</th></tr></tbody></table>', 'columnheader'],
    ['<table><tbody><tr><td id="x">a</td></tr></tbody></table>', 'cell'],
    ['<fieldset id="x" />', 'group'],
    ['<dialog id="x" />', 'dialog'],
    ['<progress id="x" />', 'progressbar'],
    ['<p id="x" />', 'paragraph'],
    ['<svg id="x" />', null],
    ['<span id="x" />', null],
  ];
  for (const [markup, role] of rows)
    it(`${markup} is ${role}`, async () => expect(roleOf((await elementIn(markup)).element)).to.equal(role));

  it('that take their name from content are those of the standard’s data', () => {
    const standard = [...roles.entries()]
      .filter(
        ([, role]) =>
          !role.abstract && (role as unknown as { nameFrom: string[] }).nameFrom.includes('contents'),
      )
      .map(([name]) => String(name))
      .filter((name) => !name.startsWith('doc-') && !name.startsWith('graphics-'));
    // Newer drafts, and the algorithm that browsers use, take the name of these from their author.
    const left = standard.filter((name) => !NAMED_BY_CONTENT.has(name));
    expect(
      left.filter(
        (name) =>
          ![
            'directory',
            'rowgroup',
            'sectionhead',
            'roletype',
            'listitem',
            'term',
            'note',
            'sectionheader',
          ].includes(name),
      ),
    ).to.deep.equal([]);
    expect(
      [...NAMED_BY_CONTENT].filter((name) => !roles.has(name as Parameters<typeof roles.has>[0])),
    ).to.deep.equal([]);
  });
});

describe('accessible names', () => {
  const rows: [string, string | undefined][] = [
    ['<button id="x">Fire</button>', 'Fire'],
    ['<button id="x">  Fire  the\n kiln </button>', 'Fire the kiln'],
    ['<button id="x" aria-label="Close">x</button>', 'Close'],
    ['<button id="x" aria-label={load()}>x</button>', '?'],
    [
      '<><span id="y">Big</span><b id="z">Kiln</b><button id="x" aria-labelledby="y z">x</button></>',
      'Big Kiln',
    ],
    ['<button id="x" aria-labelledby="gone">x</button>', 'x'],
    ['<><button id="x" aria-labelledby="gone">x</button><i id={load()} /></>', '?'],
    ['<button id="x"><b>Fire</b> <i>now</i></button>', 'Fire now'],
    ['<button id="x"><b>Fire</b><i>now</i></button>', 'Fire| now'],
    ['<button id="x"><span aria-hidden="true">×</span>Close</button>', 'Close'],
    ['<button id="x"><img alt="Lid" src="a" /></button>', 'Lid'],
    ['<button id="x">{p && "Hot"}</button>', '?'],
    ['<button id="x">{p ? "Open" : "Close"}</button>', 'Open|Close'],
    ['<button id="x">Fire {load()}</button>', 'Fire ?'],
    ['<button id="x" title="Fire" />', 'Fire'],
    ['<label>Cone <input id="x" /></label>', 'Cone'],
    ['<><label htmlFor="x">Cone</label><input id="x" /></>', 'Cone'],
    ['<input id="x" placeholder="Cone" />', ''],
    ['<input id="x" title="Cone" placeholder="6" />', 'Cone'],
    ['<input id="x" type="submit" value="Fire" />', 'Fire'],
    ['<img id="x" alt="Kiln" />', 'Kiln'],
    ['<fieldset id="x"><legend>Glaze</legend></fieldset>', 'Glaze'],
    ['<table id="x"><caption>Log</caption></table>', 'Log'],
    ['<figure id="x"><figcaption>Bowl</figcaption></figure>', ''],
    ['<a id="x" href="/">Home</a>', 'Home'],
    ['<h2 id="x">Board</h2>', 'Board'],
    ['<div id="x">Board</div>', ''],
    ['<section id="x" aria-label="Shelf">text</section>', 'Shelf'],
    ['<button id="x"><div>a</div><div>b</div></button>', 'a b'],
  ];
  for (const [markup, name] of rows) {
    it(`${markup} is ${name}`, async () => {
      const { element, tree } = await elementIn(markup);
      const pieces = nameOf(element, tree);
      const shown = pieces
        ?.map((piece) => (piece === undefined ? '?' : typeof piece === 'string' ? piece : piece.join('|')))
        .join('');
      expect(shown).to.equal(name);
    });
  }

  it('fold white space and join what is next to each other', () => {
    expect(normalised([' a ', ' b', undefined, undefined, ' c '])).to.deep.equal(['a b', undefined, ' c']);
    expect(literal(['a', 'b'])).to.equal('ab');
    expect(literal(['a', undefined])).to.equal(undefined);
  });
});

describe('matching', () => {
  const markup =
    '<main className="board"><ul><li className="a first" id="x" data-k="one two" lang="en-GB">Raku</li><li className={clsx("b", p && "hot")}>b</li></ul><p {...load()} /></main>';
  const rows: [string, string][] = [
    ['li', 'yes'],
    ['b', 'no'],
    ['.a', 'yes'],
    ['.a.first', 'yes'],
    ['.a.last', 'no'],
    ['#x', 'yes'],
    ['#y', 'no'],
    ['ul > li', 'yes'],
    ['main > li', 'no'],
    ['main li', 'yes'],
    ['.board .a', 'yes'],
    ['nav .a', 'no'],
    ['[data-k]', 'yes'],
    ['[data-k="one two"]', 'yes'],
    ['[data-k~=two]', 'yes'],
    ['[data-k^=one]', 'yes'],
    ['[data-k$=one]', 'no'],
    ['[data-k*=e\\ t]', 'yes'],
    ['[lang|=en]', 'yes'],
    ['li:not(.b)', 'yes'],
    ['li:not(.a)', 'no'],
    ['li:is(.a, .c)', 'yes'],
    ['li:nth-child(1)', 'yes'],
    ['p, li', 'yes'],
    ['*', 'yes'],
    ['li + li', 'no'],
    [':hover', 'maybe'],
  ];
  for (const [selector, wanted] of rows) {
    it(`${selector} is ${wanted}`, async () => {
      const { element } = await elementIn(markup);
      const parsed = parsedSelector(selector);
      expect(parsed && matchesSelector(element, parsed)).to.equal(wanted);
    });
  }

  it('says maybe of what depends', async () => {
    const { tree } = await elementIn(markup);
    const [second] = tree.elements.filter(({ tag }) => tag === 'li').slice(1);
    const [open] = tree.elements.filter(({ tag }) => tag === 'p');
    const ask = (element: RenderedElement | undefined, selector: string): string | undefined =>
      element && matchesSelector(element, parsedSelector(selector) ?? []);
    expect([
      ask(second, '.hot'),
      ask(second, '.b'),
      ask(second, 'li + li'),
      ask(open, '.any'),
      ask(open, '[id]'),
      ask(open, 'b'),
    ]).to.deep.equal(['maybe', 'yes', 'yes', 'maybe', 'maybe', 'no']);
  });

  it('refuses what is no selector', () => {
    expect(parsedSelector('li[')).to.equal(undefined);
  });

  it('compares texts with holes and choices', () => {
    const ask = (pieces: (string | string[] | undefined)[], wanted: string | RegExp, exact = true): string =>
      matchesText(pieces, typeof wanted === 'string' ? { text: wanted, exact } : { pattern: wanted });
    expect([
      ask(['Raku'], 'Raku'),
      ask(['Raku'], 'raku'),
      ask(['Raku'], 'raku', false),
      ask(['Raku'], /^r/i),
      ask(['Raku'], /x/),
    ]).to.deep.equal(['yes', 'no', 'yes', 'yes', 'no']);
    expect([
      ask(['Cone ', undefined], 'Cone 6'),
      ask(['Cone ', undefined], 'Glaze'),
      ask([undefined, ' °C'], '20 °C'),
      ask([undefined, ' °C'], '20 °F'),
    ]).to.deep.equal(['maybe', 'no', 'maybe', 'no']);
    expect([
      ask([['Open', 'Close']], 'Fire'),
      ask([['Open', 'Close']], 'Open'),
      ask(['a ', ['b', 'c']], 'a c'),
    ]).to.deep.equal(['no', 'maybe', 'maybe']);
  });
});

describe('better queries', () => {
  const rows: [string, string | undefined][] = [
    ['<div><button id="x">Fire</button></div>', "screen.getByRole('button', { name: 'Fire' })"],
    [
      '<div><button id="x">Fire</button><button>Open</button></div>',
      "screen.getByRole('button', { name: 'Fire' })",
    ],
    ['<div><button id="x">Fire</button><button>Fire</button></div>', undefined],
    ['<div><button id="x">Fire {load()}</button></div>', "screen.getByRole('button', { name: /^Fire/ })"],
    [
      '<div><button id="x">Tim\'s kiln</button></div>',
      "screen.getByRole('button', { name: 'Tim\\'s kiln' })",
    ],
    ['<label>Cone <input id="x" type="password" /></label>', "screen.getByLabelText('Cone')"],
    ['<label>Cone <input id="x" /></label>', "screen.getByRole('textbox', { name: 'Cone' })"],
    ['<div><p id="x">Too hot</p></div>', "screen.getByText('Too hot')"],
    ['<div><p id="x">Too hot</p><p>Too hot</p></div>', undefined],
    ['<div><i id="x" title="Hot" /></div>', "screen.getByTitle('Hot')"],
    ['<div><i id="x" data-testid="hot" /></div>', "screen.getByTestId('hot')"],
    ['<div><i id="x" /></div>', undefined],
    ['<div><main id="x" /></div>', "screen.getByRole('main')"],
    ['<div><output id="x">{load()}</output></div>', "screen.getByRole('status')"],
    ['<div aria-hidden="true"><button id="x">Fire</button></div>', "screen.getByText('Fire')"],
  ];
  for (const [markup, wanted] of rows) {
    it(`${markup} gives ${wanted}`, async () => {
      const { element, scope } = await elementIn(markup);
      const handle = bestHandle(element, scope, 'data-testid');
      const query =
        handle && `screen.${queryName(USER_QUERIES, handle.by, 'throws', false)}(${argsOf(handle, "'")})`;
      expect(query).to.equal(wanted);
    });
  }
});

describe('targets', () => {
  const card = {
    'card.tsx':
      'export const Card = ({ hot, name = \'Raku\' }) => <article aria-label={name}><h3>{name}</h3><button className="fire">Fire</button><ul><li>a</li><li>b</li></ul><label>Cone <input placeholder="6" /></label>{hot && <p data-testid="hot">Hot</p>}</article>;',
  };
  const rows: [string, string][] = [
    ["screen.getByRole('button', { name: 'Fire' })", 'one button'],
    ["screen.getByRole('button', { name: /fire/i })", 'one button'],
    ["screen.getByRole('link')", 'none'],
    ["screen.getByRole('listitem')", 'many'],
    ["screen.getByText('Raku')", 'one h3'],
    ["screen.getByText('raku', { exact: false })", 'one h3'],
    ["screen.queryByText('Hot')", 'one p'],
    ["screen.queryByText('Cold')", 'none'],
    ["screen.getByTestId('hot')", 'one p'],
    ["screen.getByLabelText('Cone')", 'one input'],
    ["screen.getByPlaceholderText('6')", 'one input'],
    ['screen.getByText(load())', 'unknown'],
    ["screen.queryByText('Fire', { selector: 'b' })", 'none'],
    ["screen.getByText('Fire', { selector: 'article button' })", 'one button'],
    ["screen.getByRole('heading', { level: 3 })", 'one h3'],
    ["screen.queryByRole('heading', { level: 2 })", 'none'],
    ["container.querySelector('.fire')", 'one button'],
    ["container.querySelector('article > h3')", 'one h3'],
    ["container.querySelector('li:nth-child(2)')", 'one li'],
    ["container.querySelector('article > :first-child')", 'one h3'],
    ["container.querySelector('li:last-of-type')", 'one li'],
    ["container.querySelector('article > label:nth-child(2)')", 'none'],
    ["screen.getByDisplayValue('x')", 'one input'],
    ["container.querySelectorAll('li')", 'many'],
    ["container.getElementsByTagName('h3')", 'one h3'],
    ["document.querySelector('.gone')", 'none'],
    ['container.firstChild', 'one article'],
    ["screen.getByText('Raku').parentElement", 'one article'],
    ["screen.getByText('Raku').nextElementSibling", 'one button'],
    ["screen.getByText('Fire').closest('article')", 'one article'],
    ["within(screen.getByRole('article')).getByText('Fire')", 'one button'],
    ["getByRole('button')", 'one button'],
    ['findFire()', 'one button'],
  ];
  for (const [query, wanted] of rows) {
    it(`${query} finds ${wanted}`, async () => {
      const spec = `import { render, screen, within } from '@testing-library/react';\nimport { Card } from './card';\nconst findFire = () => screen.getByText('Fire');\nit('a', () => { const { container, getByRole } = render(<Card hot={load()} />); const found = ${query}; });`;
      const { file, links } = await specFileOf({ ...card, 'a.spec.tsx': spec }, 'a.spec.tsx');
      const reach = file.reaches.at(-1);
      const target = reach && links.target(reach);
      expect(target?.kind === 'one' ? `one ${target.element.tag}` : target?.kind).to.equal(wanted);
    });
  }
});

describe('renders that show the same', () => {
  // Two renders, the second with one prop more: whether they share one tree.
  const shared = async (more: string, card: string, vue = false): Promise<boolean> => {
    const name = vue ? 'Card.vue' : 'card.tsx';
    const render = vue
      ? (props: string) => `mount(Card, { props: { ${props} } })`
      : (props: string) => `render(<Card ${props} />)`;
    const imports = vue
      ? "import { mount } from '@vue/test-utils';\nimport Card from './Card.vue';"
      : "import { render } from '@testing-library/react';\nimport { Card } from './card';";
    const spec = `${imports}\nit('a', () => { ${render(vue ? "name: 'a'" : 'name="a"')}; ${render(more)}; });`;
    const { file, links } = await specFileOf({ [name]: card, 'a.spec.tsx': spec }, 'a.spec.tsx');
    const [first, second] = file.renders;
    return first !== undefined && second !== undefined && links.tree(first) === links.tree(second);
  };
  const rows: [string, string, string, boolean][] = [
    ['a prop that decides', 'name="a" hot', '({ name, hot }) => <p>{name}{hot && <b>Hot</b>}</p>', false],
    [
      'a prop for an effect',
      'name="a" hot',
      '({ name, hot }) => <p onClick={() => fire(hot)}>{name}</p>',
      true,
    ],
    ['a prop in a text', 'name="b"', '({ name }) => <p>{name}</p>', false],
    ['a prop in an attribute', 'name="a" id="x"', '({ name, id }) => <p id={id}>{name}</p>', false],
    ['a prop in a spread', 'name="a" id="x"', '({ name, ...rest }) => <p {...rest}>{name}</p>', false],
    [
      'a prop that a child shows',
      'name="a" id="x"',
      '({ id }) => <Lid id={id} />;\nconst Lid = ({ id }) => <i id={id} />',
      false,
    ],
    [
      'a prop that a child does not show',
      'name="a" hot',
      '({ hot }) => <Lid hot={hot} />;\nconst Lid = ({ hot }) => <i onClick={() => fire(hot)}>1</i>',
      true,
    ],
    ['a component that renders itself', 'name="a" hot', '({ hot }) => <p><Card hot={hot} /></p>', false],
  ];
  for (const [title, more, body, wanted] of rows)
    it(title, async () => expect(await shared(more, `export const Card = ${body};`)).to.equal(wanted));

  it('what Vue hands on to the root', async () => {
    const card =
      '<script setup>defineProps({ name: String, hot: Boolean });</script><template><p @click="fire(hot)">{{ name }}</p></template>';
    expect(await shared("name: 'a', hot: true", card, true)).to.equal(true);
    expect(await shared("name: 'a', id: 'x'", card, true)).to.equal(false);
  });
});

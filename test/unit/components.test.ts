import { expect } from 'chai';
import { constant, oneOf, possibleValues, UNKNOWN, type Expr } from '#src/components/expr.js';
import { filledExpr } from '#src/components/expr-filling.js';
import { joined, textPieces } from '#src/components/expr-text.js';
import { jsxText } from '#src/components/frameworks/react/jsx.js';
import { componentTitle } from '#src/components/frameworks/react/react.js';
import { viewSize } from '#src/components/view.js';
import { nameOf } from '#src/rendering/name.js';
import { projectOf, shown, treeOf, UNREAD } from '../support/views.js';

const react = (body: string, props = {}, more: Record<string, string> = {}): Promise<string> =>
  shown({ 'a.tsx': body, ...more }, 'a.tsx', 'A', props);
const vue = (body: string, props = {}, more: Record<string, string> = {}): Promise<string> =>
  shown({ 'A.vue': body, ...more }, 'A.vue', 'A', props);
/** The host that a fixture makes is left out. */
const angular = async (template: string, members = '', props = {}, more = ''): Promise<string> =>
  (
    await shown(
      {
        'a.ts': `@Component({ selector: 'kr-a', template: ${JSON.stringify(template)} })\nexport class A { ${members} }\n${more}`,
      },
      'a.ts',
      'A',
      props,
    )
  ).replace(/^<div[^>]*>|<\/div>$/g, '');

type Row = [
  title: string,
  code: string,
  wanted: string,
  props?: Record<string, string | number | boolean | undefined>,
];

/** A test for each row of React: `head` stands before its code; `given`: the props where it has none of its own. */
function holdAll(rows: readonly Row[], head = '', given = {}, more: Record<string, string> = {}): void {
  for (const [title, code, wanted, props = given] of rows)
    it(title, async () => expect(await react(`${head} ${code}`, props, more)).to.equal(wanted));
}

describe('expressions of components', () => {
  it('join, choose and fill', () => {
    const prop: Expr = { is: 'prop', name: 'a' };
    expect(joined([constant('a'), constant(1), constant(null)])).to.deep.equal(constant('a1null'));
    expect(textPieces(joined([constant('a '), UNKNOWN, constant(' b')]))).to.deep.equal([
      'a ',
      undefined,
      ' b',
    ]);
    expect(oneOf([constant(1), constant(1)])).to.deep.equal(constant(1));
    expect(possibleValues(oneOf([constant('a'), oneOf([constant('b'), constant('a')])]))).to.deep.equal([
      'a',
      'b',
    ]);
    expect(possibleValues(oneOf([constant('a'), UNKNOWN]))).to.equal(undefined);
    expect(filledExpr(joined([constant('x'), prop]), () => constant('y'))).to.deep.equal(constant('xy'));
    expect(filledExpr(oneOf([prop, constant('b')]), () => undefined)).to.deep.equal({
      is: 'choice',
      options: [UNKNOWN, constant('b')],
    });
  });

  it('fold the text between tags as the standard transform does', () => {
    expect(jsxText('\n   Fire \n   the kiln\n')).to.equal('Fire the kiln');
    expect(jsxText(' a ')).to.equal(' a ');
    expect(jsxText('\n\n')).to.equal('');
  });

  it('name a component by its file', () => {
    expect([
      componentTitle('/a/kiln-card.tsx'),
      componentTitle('b_c.js'),
      componentTitle('Lid.vue'),
    ]).to.deep.equal(['KilnCard', 'BC', 'Lid']);
  });
});

describe('React components', () => {
  const rows: Row[] = [
    ['function', 'export function A() { return <p id="x">Raku</p>; }', '<p id=x>Raku</p>'],
    ['arrow', 'export const A = () => <p>Raku</p>;', '<p>Raku</p>'],
    [
      'class',
      'export class A extends Component { render() { return <p>{this.props.name}</p>; } }',
      '<p>Raku</p>',
      { name: 'Raku' },
    ],
    [
      'memo and forwardRef',
      'export const A = memo(forwardRef((props, ref) => <p ref={ref}>{props.name}</p>));',
      '<p>Raku</p>',
      { name: 'Raku' },
    ],
    [
      'memo of a name',
      'const Inner = ({ name }) => <p>{name}</p>; export const A = memo(Inner);',
      '<p>Raku</p>',
      { name: 'Raku' },
    ],
    ['styled tag', 'export const A = styled.button`color: red`;', '<button></button>'],
    [
      'styled tags and components, by a call and by another tag',
      'const Lid = ({ heat, children }) => <b id={heat}>{children}</b>; const Hot = styled(Lid)`color: red`; const Row = styled("div").attrs({ role: "row" })({}); export const A = () => <Row><Hot heat="9">x</Hot><Hot2 as="a" href="/" $big>y</Hot2></Row>; const Hot2 = styled.p``;',
      '<div …><b id=9>x</b><a href=/>y</a></div>',
    ],
    [
      'a name of the component’s own that an import has too',
      "import { Shelf } from 'shelves'; export const A = ({ up }) => { const Shelf = up ? 'ul' : 'ol'; return <Shelf id='s' />; };",
      '<ol id=s></ol>',
    ],
    [
      'tags that are animated',
      "import { motion } from 'motion/react'; export const A = () => <motion.ul animate={{ x: 1 }} lang='en'><motion.li>Raku</motion.li></motion.ul>;",
      '<ul lang=en><li>Raku</li></ul>',
    ],
    [
      'one of the entries of an object',
      'const WORDS = { up: "Up", down: "Down" }; export const A = ({ way }) => <p title={WORDS[way]}>{WORDS[way]}</p>;',
      '<p title=Down>Down</p>',
      { way: 'down' },
    ],
    [
      'an object of which properties are set under conditions',
      'export const A = ({ hot }) => { const given = { lang: "en" }; let Tag = "p"; if (hot) Tag = "a"; if (Tag === "a") given.href = "/"; else given.id = "x"; return <Tag {...given}>a</Tag>; };',
      '<a lang=en href=/>a</a>',
      { hot: true },
    ],
    [
      'fragments and text',
      'export const A = () => <><b>Fire</b> the {"kiln"} {6}</>;',
      '<b>Fire</b> the kiln 6',
    ],
    [
      'props with defaults',
      'export const A = ({ name = "Raku", cone }) => <p title={name}>{cone}</p>;',
      '<p title=Raku>6</p>',
      { cone: 6 },
    ],
    [
      'props by destructuring inside',
      'export const A = (props) => { const { name } = props; return <p>{name}</p>; };',
      '<p>Raku</p>',
      { name: 'Raku' },
    ],
    [
      'condition',
      'export const A = ({ hot }) => <p>{hot && <b>Hot</b>}{hot ? <i>a</i> : <u>b</u>}</p>;',
      '<p>[if]<b>Hot</b>[if]<i>a</i>[if]<u>b</u></p>',
      { hot: UNREAD },
    ],
    [
      'condition that the props decide',
      'export const A = ({ hot, cone = 6, on }) => <p>{hot && <b>Hot</b>}{cone !== 6 ? <i>a</i> : <u>b</u>}{!on && "off"}</p>;',
      '<p><b>Hot</b><u>b</u>off</p>',
      { hot: true },
    ],
    [
      'text by condition',
      'export const A = ({ hot }) => <p>{hot ? "Hot" : "Cold"}</p>;',
      '<p>Hot|Cold</p>',
      { hot: UNREAD },
    ],
    [
      'early return',
      'export function A({ hot }) { if (hot) return <b>Hot</b>; return <p>Cold</p>; }',
      '[if]<b>Hot</b>[if]<p>Cold</p>',
      { hot: UNREAD },
    ],
    [
      'early return that the props decide',
      'export function A({ kind }) { switch (kind) { case "raku": return <b>Raku</b>; default: return <p>Salt</p>; } }',
      '<b>Raku</b>',
      { kind: 'raku' },
    ],
    [
      'null',
      'export function A({ hot }) { if (hot) return null; return <p>Cold</p>; }',
      '[if]<p>Cold</p>',
      { hot: UNREAD },
    ],
    [
      'list',
      'export const A = ({ names }) => <ul>{names.map((name) => <li key={name}>{name}</li>)}</ul>;',
      '<ul>[each]<li>{…}</li></ul>',
    ],
    [
      'local constants',
      'export const A = ({ n }) => { const label = `Cone ${n}`; const icon = <i>!</i>; return <p title={label}>{icon}</p>; };',
      '<p title=Cone 6><i>!</i></p>',
      { n: 6 },
    ],
    [
      'values that change',
      'export const A = () => { let label = "a"; const rename = () => { label = "b"; }; return <p>{label}</p>; };',
      '<p>{…}</p>',
    ],
    [
      'values that are assigned on a condition',
      'export const A = ({ hot }) => { let label = "a"; if (hot) label = <b>hot</b>; else label = "cold"; return <p>{label}</p>; };',
      '<p><b>hot</b></p>',
      { hot: true },
    ],
    [
      'values made from themselves and from each other',
      'export const A = ({ a = b, b = a, on }) => { let s = "x"; if (on) s = s + "y"; let p = ""; let q = p; if (on) p = q; return <p title={a}>{s}{q}</p>; };',
      '<p title=?>x</p>',
    ],
    [
      'a list that is known',
      'const cones = [{ n: 6, name: "six" }, { n: 9, name: "nine" }]; export const A = () => <ul>{cones.map(({ n, name }) => <li key={n}>{name}</li>)}{cones.length}</ul>;',
      '<ul><li>six</li><li>nine</li>2</ul>',
    ],
    ['entities', 'export const A = () => <p title="a &amp; b">&lt;6&nbsp;</p>;', '<p title=a & b><6 </p>'],
    [
      'local function of markup',
      'export const A = () => { const head = () => <h1>Kiln</h1>; return <div>{head()}</div>; };',
      '<div><h1>Kiln</h1></div>',
    ],
    [
      'a function that calls itself',
      'const tree = () => <ul>{tree()}</ul>; export const A = () => <div>{tree()}</div>;',
      '<div><ul><ul><ul><ul><ul>{…}</ul></ul></ul></ul></ul></div>',
    ],
    [
      'class names',
      'export const A = ({ hot }) => <p className={clsx("kiln", hot && "hot", { open: hot, shut: true }, ["a"])} />;',
      '<p .kiln.shut.a.hot?.open?></p>',
      { hot: true },
    ],
    [
      'class names in a text',
      'export const A = ({ kind }) => <p className={`kiln kiln--${kind} lid`} />;',
      '<p .kiln.kiln--big.lid></p>',
      { kind: 'big' },
    ],
    [
      'a class from a prop',
      'export const A = ({ className }) => <p className={className} />;',
      '<p .x.y></p>',
      { className: 'x y' },
    ],
    ['tokens', 'export const A = () => <p className={styles.hot} />;', '<p .…></p>'],
    [
      'handlers',
      'export const A = () => <button onClick={f} onDoubleClick={f}>x</button>;',
      '<button @click @dblclick>x</button>',
    ],
    [
      'names of attributes',
      'export const A = () => <label htmlFor="x" tabIndex={0} disabled>y</label>;',
      '<label for=x tabindex=0 disabled=>y</label>',
    ],
    [
      'the rest of the props',
      'export const A = ({ name, ...rest }) => <p {...rest}>{name}</p>;',
      '<p id=k data-x=1>Raku</p>',
      { name: 'Raku', id: 'k', 'data-x': 1 },
    ],
    [
      'all of the props',
      'export const A = (props) => <p {...props} />;',
      '<p id=k>Raku</p>',
      { id: 'k', children: 'Raku' },
    ],
    ['a spread that can’t be read', 'export const A = () => <p {...load()} />;', '<p .… …>{…}</p>'],
    [
      'a spread of a literal',
      'const all = { id: "x", role: "note" }; export const A = () => <p {...all} />;',
      '<p id=x role=note></p>',
    ],
    [
      'markup as text',
      'export const A = () => <p dangerouslySetInnerHTML={{ __html: x }} />;',
      '<p dangerouslysetinnerhtml=?>{…}</p>',
    ],
    ['portals', 'export const A = () => createPortal(<b>Hot</b>, document.body);', '<b>Hot</b>'],
    [
      'a tag chosen at run time',
      'export const A = ({ as: Tag = "p" }) => <Tag id="x">Raku</Tag>;',
      '<? id=x>Raku</?>',
      { as: UNREAD },
    ],
    [
      'a tag that the props choose',
      'export const A = ({ as: Tag = "p" }) => <Tag id="x">Raku</Tag>;',
      '<p id=x>Raku</p>',
    ],
    [
      'a way out of a loop with a name',
      'export function A({ all }) { each: for (const x of all) { if (x) return <b>Hot</b>; } return <p>Cold</p>; }',
      '[if]<b>Hot</b>[if]<p>Cold</p>',
      { all: UNREAD },
    ],
    [
      'a try that always leaves',
      'export function A() { try { return <b>{load()}</b>; } catch { return <p>Cold</p>; } return <i />; }',
      '[if]<b>{…}</b>[if]<p>Cold</p>',
    ],
    [
      'context providers',
      'export const A = () => <Heat.Provider value={1}><p>a</p></Heat.Provider>;',
      '<p>a</p>',
    ],
    [
      'createElement, with props, a spread and children',
      "import React from 'react'; export const A = (p) => React.createElement('div', { id: 'x', ...p }, 'Raku ', p.hot ? React.createElement('b', null, 'hot') : null);",
      '<div id=x>Raku <b>hot</b></div>',
      { hot: true },
    ],
    [
      'createElement under another name, of a component',
      "import { createElement as h, Fragment } from 'react'; const Lid = ({ label }) => h('i', { 'aria-label': label }); export const A = () => h(Fragment, undefined, h(Lid, { label: 'Up' }));",
      '<i aria-label=Up></i>',
    ],
    [
      'lists and objects that are changed in place',
      'export const A = ({ all }) => { const rows = []; const more = { id: "a" }; for (const x of all) rows.push(<li>{x}</li>); if (all) more.id = "b"; return <ul {...more} lang="en">{rows}</ul>; };',
      '<ul id=a lang=en>{…}</ul>',
    ],
    [
      'a prop that is given another value',
      'export const A = ({ n, hot }) => { if (hot) n = 2; return <p id={n} />; };',
      '<p id=2></p>',
      { n: 1, hot: true },
    ],
    [
      'a component that is chosen',
      'const Up = () => <b>Up</b>; const Down = () => <i>Down</i>; const WAYS = { up: Up, down: Down }; export const A = ({ way }) => { const Way = WAYS[way]; const Other = way === "up" ? Down : Up; return <p><Way /><Other /></p>; };',
      '<p><b>Up</b><i>Down</i></p>',
      { way: 'up' },
    ],
    [
      'a provider by a name of its own',
      'const Kiln = createContext(null); const KilnProvider = Kiln.Provider; export const A = () => <KilnProvider value={1}><p>a</p></KilnProvider>;',
      '<p>a</p>',
    ],
    [
      'what a function of the module gives',
      'const isHot = (temp) => { if (temp > 600) return true; return false; }; export const A = ({ temp }) => <p>{isHot(temp) ? <b>Hot</b> : "Cold"}</p>;',
      '<p>Cold</p>',
      { temp: 20 },
    ],
    [
      'createElement of a tag that is chosen',
      "import { createElement } from 'react'; export const A = ({ as }) => <p>{createElement(as, null)}</p>;",
      '<p><?></?></p>',
    ],
    [
      'markup that is made anew from what it was',
      'export const A = ({ hot }) => { let view = <b>Raku</b>; if (hot) view = <p>{view}</p>; return <i>{view}</i>; };',
      '<i><p><b>Raku</b></p></i>',
      { hot: true },
    ],
    [
      'children among what a call gives back of the props',
      'const Shelf = (props) => <div {...useShelf(props)} />; const Row = (props) => { const { children, ...own } = useRow(props); return <li {...own}>{children}</li>; }; export const A = () => <Shelf><Row>Raku</Row></Shelf>;',
      '<div .… …>{…}[if]<li .… …>[if]Raku</li></div>',
    ],
  ];
  holdAll(rows);

  describe('that others wrap', () => {
    const wrappers = {
      'wrap.tsx': `import { forwardRef } from 'react';
export const named = (Part, name) => wrap(Part, name, { forwards: true });
function wrap(Part, name, options) {
  const Wrapped = options?.forwards ? forwardRef(Part) : Part;
  return Object.assign(Wrapped, { displayName: name });
}
export const framed = (label) => (Part) => {
  const Framed = (props) => <section aria-label={label}><Part {...props} /></section>;
  return Framed;
};
export function withLid(Part) {
  return class WithLid extends React.Component { render() { return <div><Part {...this.props} lid="up" /></div>; } };
}
export const hidden = (Part) => register(Part);`,
    };
    const PLAIN = "const Plain = ({ name, lid = 'none', intl }) => <p lang={intl}>{name} {lid}</p>;";
    const wrapped: Row[] = [
      [
        'as they are',
        "import { named } from './wrap'; export const A = named(Plain, 'A');",
        '<p>Raku none</p>',
      ],
      [
        'in a frame',
        "import { framed } from './wrap'; export const A = framed('Kiln')(Plain);",
        '<section aria-label=?><p>Raku none</p></section>',
      ],
      [
        'in a class',
        "import { withLid } from './wrap'; export const A = withLid(Plain);",
        '<div><p>Raku up</p></div>',
      ],
      [
        'with a prop of a package',
        "import { injectIntl } from 'react-intl'; export const A = injectIntl(Plain);",
        '<p lang=?>Raku none</p>',
      ],
      [
        'with props that nobody knows',
        "import { connect } from 'react-redux'; const on = connect((all) => all); export const A = on(Plain);",
        '<p lang=?>Raku {…}</p>',
      ],
      [
        'twice',
        "import { withRouter } from 'react-router-dom'; import { compose } from 'redux'; import { withLid } from './wrap'; export const A = compose(withRouter, withLid)(Plain);",
        '{…}',
      ],
      [
        'in ways that can’t be followed',
        "import { hidden } from './wrap'; export const A = hidden(Plain);",
        '{…}',
      ],
    ];
    holdAll(wrapped, PLAIN, { name: 'Raku' }, wrappers);

    it('as what a module gives by default', async () => {
      const files = {
        ...wrappers,
        'card.tsx': `import { withLid } from './wrap'; ${PLAIN} export default withLid(Plain);`,
      };
      const code = "import Card from './card'; export const A = () => <Card name='Raku' />;";
      expect(await react(code, {}, files)).to.equal('<div><p>Raku up</p></div>');
    });

    it('by the name of a type that the module imports', async () => {
      const files = {
        'card.tsx':
          "import { Lid } from 'clay'; const Lid = ({ name }: Lid) => <p>{name}</p>; export default Lid;",
      };
      const code = "import Card from './card'; export const A = () => <Card name='Raku' />;";
      expect(await react(code, {}, files)).to.equal('<p>Raku</p>');
    });
  });

  describe('with contexts', () => {
    const KILN = `import { createContext, useContext } from 'react'; export const Kiln = createContext(undefined);
export function useKiln() { const kiln = useContext(Kiln); if (!kiln) throw new Error('no kiln'); return kiln; }`;
    const name =
      "const Name = () => { const { name, temp = 'cold' } = useKiln(); return <p>{name} {temp}</p>; };";
    const rows: Row[] = [
      [
        'of a provider',
        `${name} export const A = ({ name }) => <Kiln.Provider value={{ name }}><Name /></Kiln.Provider>;`,
        '<p>Raku cold</p>',
      ],
      [
        'of the nearest one',
        `${name} export const A = () => <Kiln.Provider value={{ name: 'far' }}><Kiln.Provider value={{ name: 'near' }}><Name /></Kiln.Provider></Kiln.Provider>;`,
        '<p>near cold</p>',
      ],
      [
        'where a child was written',
        `${name} const Frame = ({ children }) => <Kiln.Provider value={{ name: 'in' }}>{children}</Kiln.Provider>; export const A = () => <Frame><Name /></Frame>;`,
        '<p>in cold</p>',
      ],
      ['without one', `${name} export const A = () => <Name />;`, '<p>{…} {…}</p>'],
      [
        'in what nobody can read',
        `import { Box } from 'box'; ${name} export const A = () => <Kiln.Provider value={{ name: 'x' }}><Box><Name /></Box></Kiln.Provider>;`,
        '{…}[if]<p>{…} {…}</p>',
      ],
      [
        'of a consumer',
        'export const A = ({ name }) => <Kiln.Provider value={name}><Kiln.Consumer>{(kiln) => <b>{kiln}</b>}</Kiln.Consumer></Kiln.Provider>;',
        '<b>Raku</b>',
      ],
      [
        'of a pair',
        "import { createContext as kit } from 'kit'; const createKilnContext = kit; const [KilnProvider, useIt] = createKilnContext(); const Lid = () => <i>{useIt().lid}</i>; export const A = () => <KilnProvider value={{ lid: 'up' }}><Lid /></KilnProvider>;",
        '<i>up</i>',
      ],
    ];
    holdAll(rows, "import { Kiln, useKiln } from './kiln';", { name: 'Raku' }, { 'kiln.tsx': KILN });
  });

  describe('with functions as values', () => {
    const KILN = `import { useCallback, useState } from 'react';
export function useLid({ name, isUp = false }) {
  const [lid, setLid] = useState('shut');
  const buttonProps = useCallback((more = {}) => ({ ...more, 'aria-label': name, 'data-up': isUp }), [name, isUp]);
  return { lid, buttonProps, said: (word, end = '.') => { if (isUp) return word + '!'; return word + end; } };
}
export const upper = (word) => word.toUpperCase();`;
    const rows: Row[] = [
      [
        'of a hook, called with more',
        'export const A = ({ name }) => { const { buttonProps } = useLid({ name }); return <button {...buttonProps({ id: "x" })} />; };',
        '<button id=x aria-label=Raku data-up=false></button>',
      ],
      [
        'of a hook that is handed the props',
        'const Lid = (props) => { const lid = useLid(props); return <p lang={lid.said("a")}>{lid.lid}</p>; }; export const A = ({ name }) => <div><Lid isUp /><Lid name={name} /></div>;',
        '<div><p lang=a!>{…}</p><p lang=a.>{…}</p></div>',
      ],
      [
        'of its own module',
        'const useRack = (at) => ({ at: (n) => ({ id: `${at}-${n}`, title: upper("up") }) }); export const A = () => { const rack = useRack("top"); return <i {...rack.at(2)} />; };',
        '<i id=top-2 title=UP></i>',
      ],
      [
        'handed down',
        'const Row = ({ cell }) => <li {...cell("b")} />; const Shelf = ({ name }) => <Row cell={(id) => ({ id, lang: name })} />; export const A = ({ name }) => <Shelf name={name} />;',
        '<li id=b lang=Raku></li>',
      ],
      [
        'that spread the props of their own component',
        'const Row = ({ cell, id }) => <li {...cell({ id })} />; const Shelf = ({ id, ...more }) => <Row id="in" cell={(own) => ({ ...more, ...own })} />; export const A = () => <Shelf id="out" lang="de" />;',
        '<li .… …>{…}</li>',
      ],
      [
        'that spread the props where they are called',
        'const useRow = () => ({ rowProps: (own) => ({ role: "row", ...own }) }); const Row = ({ n, ...more }) => { const { rowProps } = useRow(); return <li {...rowProps(more)} />; }; export const A = () => <Row n={1} lang="de" />;',
        '<li lang=de role=row></li>',
      ],
      [
        'that call themselves',
        'const useRow = () => { const of = (n) => of(n); return { of }; }; export const A = () => <li id={useRow().of(1)} />;',
        '<li id=?></li>',
      ],
      [
        'that call themselves in a condition',
        'const isIn = (n) => { if (n && isIn(n.up)) return true; return false; }; export const A = ({ name }) => <li id={isIn(name) ? "in" : "out"} />;',
        '<li id=in|out></li>',
      ],
      [
        'that are one of two',
        'const Row = ({ cell }) => <li id={cell("b")} />; export const A = ({ name, hot }) => <Row cell={hot ? (id) => id : (id) => name} />;',
        '<li id=Raku></li>',
      ],
      ['that nobody gives', 'export const A = ({ cell }) => <li {...cell("b")} />;', '<li .… …>{…}</li>'],
    ];
    const given = { name: 'Raku', hot: false };
    holdAll(rows, "import { useLid, upper } from './kiln';", given, { 'kiln.tsx': KILN });
  });

  describe('with what other modules give', () => {
    const more = {
      'words.ts':
        "export const WORDS = { hot: 'Hot', cold: 'Cold' }; export const shown = (n, unit = 'C') => `${n} ${unit}`; export const kept = [];",
    };
    const rows: Row[] = [
      [
        'constants',
        "import { WORDS } from './words'; export const A = ({ hot }) => <p>{hot ? WORDS.hot : WORDS.cold}</p>;",
        '<p>Cold</p>',
      ],
      [
        'functions',
        "import { shown } from './words'; export const A = ({ n }) => <p title={shown(n)} />;",
        '<p title=9 C></p>',
        { n: 9 },
      ],
      [
        'what others fill',
        "import { kept } from './words'; export const A = () => <p title={kept.length} />;",
        '<p title=?></p>',
      ],
    ];
    holdAll(rows, '', {}, more);
  });

  it('follow children through imports, index files and props', async () => {
    const files = {
      'parts/index.ts': "export { Lid as KilnLid } from './lid'; export * from './shelf';",
      'parts/lid.tsx':
        'const Lid = ({ label, icon, children }) => <div>{icon}<button>{label}</button>{children}</div>; export { Lid };',
      'parts/shelf.tsx': 'export function Shelf({ n = 1 }) { return <p>Shelf {n}</p>; }',
    };
    const code =
      "import { KilnLid, Shelf } from './parts'; export const A = ({ word }) => <KilnLid label={`Open ${word}`} icon={<i>!</i>}><Shelf /><Shelf n={2} /></KilnLid>;";
    expect(await react(code, { word: 'up' }, files)).to.equal(
      '<div><i>!</i><button>Open up</button><p>Shelf 1</p><p>Shelf 2</p></div>',
    );
  });

  describe('of installed packages', () => {
    const kit = {
      'node_modules/kiln-kit/package.json':
        '{ "name": "kiln-kit", "version": "1.0.0", "module": "es/index.js" }',
      'node_modules/kiln-kit/es/index.js':
        'export { Knob_default as Knob, Gauge } from "./knob.js";\nexport { Form } from "./form.js";\nexport { Rack, Field, Row } from "./rack.js";',
      'node_modules/kiln-kit/es/rack.js': `import { createContext, useContext, forwardRef, jsx } from "./react.js";
import { jsx as _jsx, jsxs } from "react/jsx-runtime";
import { useId } from "react";
const RackContext = createContext(null);
const RackRoot = styled("ul")({});
const RackSlot = styled(RackRoot)({});
export const Rack = forwardRef(function Rack(inProps, ref) {
  var _slots$root;
  const props = useDefaultProps({ props: inProps, name: "Rack" });
  const { slots = {}, slotProps = {}, component = "ol", children } = props, other = _objectWithoutPropertiesLoose(props, _excluded);
  const Root = (_slots$root = slots.root) != null ? _slots$root : RackSlot;
  const more = {};
  if (props.big) more.title = "big";
  return _jsx(RackContext.Provider, { value: { hot: props.hot }, children: _jsx(Root, _extends({ as: component, ref: ref, title: "plain" }, more, other, slotProps.root, { children: children })) });
});
const _excluded = ["slots", "slotProps", "component", "children", "big", "hot"];
export const Row = (props) => {
  const rack = useContext(RackContext);
  const hot = rack === null || rack === void 0 ? void 0 : rack.hot;
  return _jsx("li", { title: hot ? "hot" : "cold", children: props.children });
};
export const Field = ({ label }) => {
  const id = useId();
  return jsxs("p", { children: [_jsx("label", { htmlFor: id, children: label }), _jsx("input", { id: id })] });
};`,
      'node_modules/kiln-kit/es/knob.js': `import { jsx as _jsx, jsxs, Fragment as _Fragment } from "react/jsx-runtime";
import { isBare, given } from "./is.js";
const KnobInner = ({ as: Tag = "button", label, icon: Icon, bare, ...rest }) => {
  if (isBare(bare)) return _jsx(Tag, { ...given({ rest, bare }), children: label });
  return jsxs(_Fragment, { children: [Icon ? _jsx(Icon, {}) : null, _jsx("b", { children: label })] });
};
var Knob_default = KnobInner;
function Gauge(_ref) {
  var children = _ref.children;
  return children ? isFunction(children) ? children("hot") : _jsx("i", { children }) : null;
}
function isFunction(x) { return typeof x === "function"; }
export { Knob_default, Gauge };`,
      'node_modules/kiln-kit/es/is.js':
        'export const isBare = (x) => { if (x === true) return true; return false; };\nexport const given = ({ rest, bare }) => ({ ...rest, ...(bare ? { type: "button" } : {}) });',
      'node_modules/kiln-kit/es/form.js': `import { createElement, forwardRef } from "react";
var Form = /*#__PURE__*/forwardRef(function (props, ref) {
  var action = props.action, rest = _objectWithoutPropertiesLoose(props, ["action"]);
  var _action = action != null ? action : "#";
  return createElement("form", _extends({ ref: ref, action: _action }, rest));
});
export { Form };`,
    };
    const shows = (code: string): Promise<string> =>
      react(
        `import { Knob, Gauge, Form, Rack, Row } from 'kiln-kit'; export const A = () => ${code};`,
        {},
        kit,
      );
    const rows: [title: string, code: string, wanted: string][] = [
      [
        'what a function of another module decides',
        '<Knob bare label="Vent" id="v" />',
        '<button id=v type=button>Vent</button>',
      ],
      ['a tag that is given', '<Knob bare as="a" label="Vent" href="/" />', '<a href=/ type=button>Vent</a>'],
      ['a component that is given', '<Knob label="Vent" icon={Gauge} />', '<b>Vent</b>'],
      [
        'markup of a function that is given',
        '<Knob label="Vent" icon={() => <u>!</u>} />',
        '<u>!</u><b>Vent</b>',
      ],
      ['a child that is markup', '<Gauge><u>!</u></Gauge>', '<i><u>!</u></i>'],
      ['a child that is a function', '<Gauge>{(x) => <u>!</u>}</Gauge>', '<u>!</u>'],
      ['a root by its default', '<Rack lang="en">Raku</Rack>', '<ol lang=en title=plain>Raku</ol>'],
      ['a root that is given', '<Rack slots={{ root: Gauge }}>Raku</Rack>', '<i>Raku</i>'],
      [
        'what is set later, and what a slot is given',
        '<Rack big slotProps={{ root: { id: "r" } }} />',
        '<ol title=big id=r></ol>',
      ],
      [
        'an optional part of a context',
        '<Rack hot><Row>Raku</Row></Rack>',
        '<ol title=plain><li title=hot>Raku</li></ol>',
      ],
      ['what older compilers write', '<Form id="f"><u>!</u></Form>', '<form id=f action=#><u>!</u></form>'],
    ];
    for (const [title, code, wanted] of rows)
      it(title, async () => expect(await shows(code)).to.equal(wanted));
  });

  it('join a label and its field by an id that React makes', async () => {
    const code =
      "import { useId } from 'react'; const Field = ({ label }) => { const id = useId(); return <p><label htmlFor={id}>{label}</label><input id={id} /></p>; }; export const A = () => <><Field label='Cone' /><Field label='Time' /></>;";
    const tree = await treeOf({ 'a.tsx': code }, 'a.tsx', 'A');
    const names = tree.elements.flatMap((each) =>
      each.tag === 'input' ? [nameOf(each, tree)?.join('')] : [],
    );
    expect(names).to.deep.equal(['Cone', 'Time']);
  });

  it('show the routes of a router', async () => {
    const routed = (routes: string): Promise<string> =>
      react(
        `import { createMemoryRouter, RouterProvider } from 'react-router-dom'; export const A = () => { const router = createMemoryRouter(${routes}); return <RouterProvider router={router} />; };`,
      );
    expect(await routed("[{ path: '*', element: <p>all</p> }]")).to.equal('<p>all</p>');
    expect(await routed("[{ path: '/', element: <p>a</p> }, { path: '/b', element: <b>b</b> }]")).to.equal(
      '[if]<p>a</p>[if]<b>b</b>',
    );
    expect(await routed('routes')).to.equal('{…}');
  });

  it('leave what can’t be followed as a hole, with its children inside', async () => {
    expect(
      await react("import { Frame } from 'frames'; export const A = () => <Frame><p>a</p></Frame>;"),
    ).to.equal('{…}[if]<p>a</p>');
  });

  it('hand markup on, as it is or as a function', async () => {
    const files = {
      'parts.tsx':
        "export const Lid = ({ icon, row }) => <Inner icon={icon} row={row} />;\nconst Inner = ({ icon, row }) => <p>{icon}{row('x')}</p>;",
    };
    const code =
      "import { Lid } from './parts'; export const A = () => <Lid icon={<i>!</i>} row={(n) => <b id={n}>a</b>} />;";
    expect(await react(code, {}, files)).to.equal('<p><i>!</i><b id=?>a</b></p>');
  });

  it('run children that are functions', async () => {
    const files = { 'id.tsx': 'export const Id = ({ children }) => children("x");' };
    expect(
      await react(
        "import { Id } from './id'; export const A = () => <Id>{(id) => <p id={id}>a</p>}</Id>;",
        {},
        files,
      ),
    ).to.equal('<p id=?>a</p>');
  });
});

describe('Vue components', () => {
  const setup = (script: string, template: string): string =>
    `<script setup lang="ts">\n${script}\n</script>\n<template>${template}</template>`;
  const options = (object: string, template: string): string =>
    `<script>\nexport default { ${object} }\n</script>\n<template>${template}</template>`;
  const rows: Row[] = [
    ['text and attributes', '<template><p id="x" class="a b">Raku</p></template>', '<p id=x .a.b>Raku</p>'],
    [
      'props by type',
      setup('defineProps<{ name: string }>()', '<p :title="name">{{ name }}</p>'),
      '<p title=Raku>Raku</p>',
      { name: 'Raku' },
    ],
    [
      'props with defaults',
      setup(
        "const props = withDefaults(defineProps<{ name?: string }>(), { name: 'Raku' })",
        '<p>{{ props.name }}</p>',
      ),
      '<p>Raku</p>',
    ],
    [
      'props by object',
      options("props: { name: { type: String, default: 'Raku' } }", '<p>{{ name }}</p>'),
      '<p>Raku</p>',
    ],
    [
      'props by list',
      options("props: ['name']", '<p>{{ name }} and {{ $props.name }}</p>'),
      '<p>Raku and Raku</p>',
      { name: 'Raku' },
    ],
    [
      'constants and computed values',
      setup(
        "const a = 'x'; const b = computed(() => hot ? 'y' : 'z'); const c = ref('w')",
        '<p>{{ a }} {{ b }} {{ c }}</p>',
      ),
      '<p>x y|z ?</p>',
    ],
    [
      'conditions',
      '<template><p v-if="a">1</p><p v-else-if="b">2</p><p v-else>3</p></template>',
      '[if]<p>1</p>[if]<p>2</p>[if]<p>3</p>',
    ],
    ['loops', '<template><li v-for="x in xs" :key="x">{{ x }}</li></template>', '[each]<li key=?>?</li>'],
    [
      'a loop hides a prop',
      setup('defineProps<{ x: string }>()', '<li v-for="x in xs">{{ x }}</li>'),
      '[each]<li>?</li>',
      { x: 'a' },
    ],
    [
      'class bindings',
      `<template><p class="a" :class="{ b: c, d: true }" /><i :class="['e', f && 'g']" /></template>`,
      '<p .a.d.b?></p><i .e.g?></i>',
    ],
    [
      'handlers and models',
      '<template><button @click="f">a</button><input v-model="x" /></template>',
      '<button @click>a</button><input modelvalue=? @input @change></input>',
    ],
    ['an object of attributes', '<template><p v-bind="x" /></template>', '<p .… …></p>'],
    [
      'markup and text by directive',
      `<template><p v-html="x" /><i v-text="'a'" /></template>`,
      '<p>{…}</p><i>a</i>',
    ],
    ['a component chosen at run time', '<template><component :is="x" /></template>', '{…}'],
    [
      'slots without content',
      '<template><slot>a</slot><slot name="b"><i>c</i></slot></template>',
      'a<i>c</i>',
    ],
    [
      'templates and transitions',
      '<template><transition><template v-if="a"><p>b</p></template></transition></template>',
      '[if]<p>b</p>',
    ],
    [
      'what props decide',
      setup(
        'defineProps<{ hot?: boolean; cones: string[] }>()',
        '<p v-if="hot">1</p><i v-else>2</i><b v-for="cone in [\'six\', \'nine\']">{{ cone }}</b><u v-show="hot">3</u>',
      ),
      '<i>2</i><b>six</b><b>nine</b><u style=display: none>3</u>',
    ],
    [
      'objects of attributes, and those handed on',
      setup(
        'defineProps<{ name: string }>(); defineOptions({ inheritAttrs: false })',
        '<div><p v-bind="{ id: \'x\', title: name }" /><i v-bind="$attrs" /></div>',
      ),
      '<div><p id=x title=Raku></p><i data-a=1></i></div>',
      { name: 'Raku', dataA: 1 },
    ],
    ['a tag that is chosen', `<template><component is="p" class="a">b</component></template>`, '<p .a>b</p>'],
    ['short bindings', setup('defineProps<{ id: string }>()', '<p :id />'), '<p id=x></p>', { id: 'x' }],
  ];
  for (const [title, code, wanted, props] of rows)
    it(title, async () => expect(await vue(code, props)).to.equal(wanted));

  it('follow registered children, hand attributes on to their root, and fill their slots', async () => {
    const files = {
      'KilnLid.vue': setup(
        'defineProps<{ label: string }>()',
        '<div class="lid"><b>{{ label }}</b><slot name="foot" /><slot /></div>',
      ),
    };
    const code = setup(
      "import KilnLid from './KilnLid.vue'",
      '<kiln-lid label="Open" class="big" data-x="1">in<template #foot><i>f</i></template></kiln-lid>',
    );
    expect(await vue(code, {}, files)).to.equal('<div data-x=1 .lid.big><b>Open</b><i>f</i>in</div>');
    const registered =
      "<script>\nimport Lid from './KilnLid.vue';\nexport default { components: { 'my-lid': Lid } }\n</script>\n<template><my-lid label=\"a\" /></template>";
    expect(await vue(registered, {}, files)).to.include('<b>a</b>');
  });

  it('read templates in scripts, and take mixins for none', async () => {
    const files = {
      'a.ts':
        "export const A = defineComponent({ props: ['name'], template: '<p>{{ name }}</p>' });\nexport const Mixin = defineComponent({ props: ['a'] });",
    };
    expect(await shown(files, 'a.ts', 'A', { name: 'Raku' })).to.equal('<p>Raku</p>');
    const { project, at } = await projectOf(files);
    expect(project.summary(at('a.ts'))?.components.map(({ name }) => name)).to.deep.equal(['A']);
  });
});

describe('Angular components', () => {
  const rows: [string, string, string, string, Record<string, string>?][] = [
    ['text and attributes', '<p id="x" class="a">Raku</p>', '', '<p id=x .a>Raku</p>'],
    [
      'inputs',
      '<p [title]="name">{{ name }} of {{ other }}</p>',
      '@Input() name = ""; other = 1;',
      '<p title=Raku>Raku of 1</p>',
      { name: 'Raku' },
    ],
    [
      'signals that keep their value',
      '<p>{{ title() }}{{ n() }}</p>',
      'title = signal("Kiln"); n = signal(1); more() { this.n.set(2); }',
      '<p>Kiln?</p>',
    ],
    ['blank text', '<p><b>a</b> <i>b</i>&nbsp;<u>c</u> d</p>', '', '<p><b>a</b><i>b</i> <u>c</u> d</p>'],
    ['signal inputs', '<p>{{ name() }}</p>', 'name = input<string>();', '<p>Raku</p>', { name: 'Raku' }],
    [
      'attribute and class bindings',
      `<p [attr.aria-label]="'Fire ' + name" [class.hot]="h" [ngClass]="x"></p>`,
      '@Input() name;',
      '<p aria-label=Fire Tim .hot?.…></p>',
      { name: 'Tim' },
    ],
    ['handlers', '<button (click)="fire()">Fire</button>', '', '<button @click>Fire</button>'],
    [
      'old conditions and loops',
      '<p *ngIf="a">1</p><li *ngFor="let x of xs">{{ x }}</li>',
      '',
      '[if]<p>1</p>[each]<li>?</li>',
    ],
    [
      'new blocks',
      '@if (a) {<p>1</p>} @else {<p>2</p>} @for (x of xs; track x) {<i>3</i>} @empty {<u>4</u>} @switch (k) { @case (1) {<b>5</b>} @default {<s>6</s>} }',
      '',
      '[if]<p>1</p>[if]<p>2</p>[each]<i>3</i>[if]<u>4</u>[if]<b>5</b>[if]<s>6</s>',
    ],
    [
      'containers and content',
      '<ng-container><p><ng-content></ng-content></p></ng-container>',
      '',
      '<p></p>',
    ],
    [
      'what inputs decide',
      '<p *ngIf="hot">1</p>@if (!hot) {<i>2</i>}@for (cone of ["six", "nine"]; track cone) {<b>{{ cone }}</b>}@switch (hot) {@case (true) {<u>3</u>} @default {<s>4</s>}}',
      '@Input() hot = true;',
      '<p>1</p><b>six</b><b>nine</b><u>3</u>',
    ],
    ['text by property', '<p [textContent]="name"></p>', '@Input() name;', '<p>Raku</p>', { name: 'Raku' }],
    ['conditions inside', `<p>{{ a ? 'x' : 'y' }}</p>`, '', '<p>x|y</p>'],
    ['markup as text', '<p [innerHTML]="x"></p>', '', '<p innerhtml=?>{…}</p>'],
  ];
  for (const [title, template, members, wanted, props] of rows)
    it(title, async () => expect(await angular(template, members, props)).to.equal(wanted));

  it('follow children by their selector, and keep their tag', async () => {
    const more =
      "@Component({ selector: 'kr-lid', template: '<b>{{ label }}</b>' }) export class Lid { @Input() label; }";
    expect(await angular('<kr-lid label="Open"></kr-lid>', '', {}, more)).to.equal(
      '<kr-lid label=Open .…><b>Open</b></kr-lid>',
    );
    expect(await angular('<kr-gone></kr-gone>')).to.equal('{…}');
    const frame =
      "@Component({ selector: 'kr-frame', template: '<h1><ng-content select=\"[head]\" /></h1><ng-content />' }) export class Frame {}";
    expect(await angular('<kr-frame><i>a</i><b head>c</b></kr-frame>', '', {}, frame)).to.equal(
      '<kr-frame .…><h1><b head=>c</b></h1><i>a</i></kr-frame>',
    );
  });

  it('bind attributes of their host', async () => {
    const members = '@HostBinding("attr.role") readonly role = "row"; @HostBinding("attr.id") id;';
    const code = `@Component({ selector: 'kr-a', template: 'x', host: { title: 't' } }) export class A { ${members} }`;
    expect(await shown({ 'a.ts': code }, 'a.ts', 'A')).to.equal('<div title=t role=row id=? .…>x</div>');
  });

  it('read templates in files of their own', async () => {
    const files = {
      'a.ts': "@Component({ selector: 'kr-a', templateUrl: './a.html' }) export class A {}",
      'a.html': '<p>Raku</p>',
    };
    expect(await shown(files, 'a.ts', 'A')).to.equal('<div .…><p>Raku</p></div>');
  });
});

describe('the size of a view', () => {
  it('counts elements and components', async () => {
    const { project, at } = await projectOf({
      'a.tsx': 'export const A = () => <p>{a && <b/>}<C><i/></C></p>;',
    });
    expect(viewSize(project.summary(at('a.tsx'))?.components[0]?.view ?? [])).to.equal(4);
  });
});

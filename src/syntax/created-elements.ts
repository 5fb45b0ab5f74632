import type { JSXAttributeItem, JSXChild, JSXElement, JSXElementName, Node, Program } from 'oxc-parser';
import type { Span } from '../finding.js';
import { isInstalled } from '../util/paths.js';
import { calledName, memberName, propertyName, requiredModule, unwrapped, walkTree } from './tree.js';

/** How a call hands its children over: as further arguments, or as one prop; `list`: that prop is a list of them. */
type Form = 'arguments' | 'prop' | 'list';
type Makers = ReadonlyMap<string, Form>;

const COMPILED: Makers = new Map([
  ['jsx', 'prop'],
  ['jsxs', 'list'],
  ['jsxDEV', 'prop'],
]);

/** The functions that markup is another way to write a call of, by the module that gives them. */
const MAKERS: ReadonlyMap<string, Makers> = new Map<string, Makers>([
  ['react', new Map([['createElement', 'arguments']])],
  [
    'preact',
    new Map([
      ['createElement', 'arguments'],
      ['h', 'arguments'],
    ]),
  ],
  ['preact/compat', new Map([['createElement', 'arguments']])],
  ['react/jsx-runtime', COMPILED],
  ['react/jsx-dev-runtime', COMPILED],
  ['preact/jsx-runtime', COMPILED],
]);

/** Functions of compilers that join objects: what they are given is what a spread would take. */
const JOINING: ReadonlySet<string> = new Set([
  'assign',
  '_extends',
  '__assign',
  '_objectSpread',
  '_objectSpread2',
]);

/** Whether a call joins objects to a new one: `_extends({}, props, { size })`. */
export const joinsObjects = (call: Call): boolean =>
  JOINING.has(calledName(call) ?? '') && call.arguments[0]?.type === 'ObjectExpression';

/**
 * Whether a script may create elements by calls. Compilers mark the calls that they write as pure: what they wrote is
 * read in packages only, of a project it is nobody's source.
 */
export const mayCreateElements = (path: string, text: string): boolean =>
  isInstalled(path)
    ? text.includes('react') || text.includes('preact')
    : (text.includes('createElement') || text.includes('preact')) && !text.includes('/*#__PURE__*/');

type Call = Extract<Node, { type: 'CallExpression' }>;

/**
 * Makes markup of the calls in a program that create elements: `createElement('p', { id }, text)` is `<p id={id}>{text}</p>`,
 * whichever way it is written. The nodes of the calls are changed in place, and keep their spans.
 */
export function readCreatedElements(program: Program): void {
  const { names, holders } = makersOf(program);
  if (names.size === 0 && holders.size === 0) return;
  const formOf = (node: Call): Form | undefined => {
    const callee = withoutComma(unwrapped(node.callee));
    if (callee.type === 'Identifier') return names.get(callee.name);
    if (callee.type !== 'MemberExpression' || callee.object.type !== 'Identifier') return undefined;
    return holders.get(callee.object.name)?.get(memberName(callee) ?? '');
  };
  walkTree(program, (node) => {
    const form = node.type === 'CallExpression' ? formOf(node) : undefined;
    const element = form && elementOf(node as Call, form);
    if (element) Object.assign(node, element);
  });
}

// `(0, runtime.jsx)(…)`
const withoutComma = (node: Node): Node =>
  node.type === 'SequenceExpression' ? unwrapped(node.expressions.at(-1) ?? node) : node;

// The names that call a maker, and those that hold a module of makers.
function makersOf(program: Program): { names: Map<string, Form>; holders: Map<string, Makers> } {
  const names = new Map<string, Form>();
  const holders = new Map<string, Makers>();
  const name = (local: string, form: Form | undefined): void => {
    if (form) names.set(local, form);
  };
  const take = (pattern: Node, makers: Makers): void => {
    if (pattern.type === 'Identifier') holders.set(pattern.name, makers);
    if (pattern.type !== 'ObjectPattern') return;
    for (const each of pattern.properties) {
      const key = each.type === 'Property' ? propertyName(each.key, each.computed) : undefined;
      if (each.type === 'Property' && each.value.type === 'Identifier')
        name(each.value.name, makers.get(key ?? ''));
    }
  };
  for (const statement of program.body) {
    if (statement.type === 'ImportDeclaration') {
      const makers = MAKERS.get(statement.source.value);
      if (!makers) continue;
      for (const each of statement.specifiers) {
        if (each.type !== 'ImportSpecifier') holders.set(each.local.name, makers);
        else if (each.imported.type === 'Identifier') name(each.local.name, makers.get(each.imported.name));
      }
    }
    if (statement.type !== 'VariableDeclaration') continue;
    for (const { id, init } of statement.declarations) {
      const makers = init && MAKERS.get(requiredModule(init) ?? '');
      if (makers) take(id, makers);
      // `const h = React.createElement`
      const from =
        init?.type === 'MemberExpression' && init.object.type === 'Identifier' ? init.object.name : '';
      if (init && id.type === 'Identifier') name(id.name, holders.get(from)?.get(memberName(init) ?? ''));
    }
  }
  return { names, holders };
}

/** Markup that a call stands for; `chosen`: what gives its tag, where that is no name that markup could have. */
export type CreatedElement = JSXElement & { chosen?: Node };

/** The names that stand for tags which markup would take for tags of the document: `createElement(w)`. */
export function chosenNames(program: Program): Set<string> {
  const names = new Set<string>();
  walkTree(program, (node) => {
    const { chosen }: CreatedElement | { chosen?: undefined } = node.type === 'JSXElement' ? node : {};
    if (chosen?.type === 'Identifier') names.add(chosen.name);
  });
  return names;
}

function elementOf(call: Call, form: Form): CreatedElement | undefined {
  const [type, props, ...more] = call.arguments;
  if (!type || type.type === 'SpreadElement') return undefined;
  const tag = tagOf(type);
  const name = tag ?? ({ type: 'JSXIdentifier', name: '?', start: type.start, end: type.end } as const);
  const given = props ? attributesGiven(unwrapped(props)) : [];
  const handed = form === 'arguments' ? undefined : given.find(isChildren);
  const inside = handed ? childrenIn(handed, form) : form === 'arguments' ? more : [];
  const opening = { start: call.start, end: (props ?? type).end };
  return {
    type: 'JSXElement',
    openingElement: {
      type: 'JSXOpeningElement',
      name,
      typeArguments: null,
      attributes: given.filter((each) => each !== handed),
      selfClosing: true,
      ...opening,
    },
    children: inside.map((each): JSXChild => container(each.type === 'SpreadElement' ? each.argument : each)),
    closingElement: null,
    ...(tag ? {} : { chosen: type }),
    start: call.start,
    end: call.end,
  };
}

const isChildren = (each: JSXAttributeItem): boolean =>
  each.type === 'JSXAttribute' && each.name.type === 'JSXIdentifier' && each.name.name === 'children';

function childrenIn(handed: JSXAttributeItem, form: Form): Node[] {
  const value = handed.type === 'JSXAttribute' ? handed.value : null;
  const node = value?.type === 'JSXExpressionContainer' ? value.expression : undefined;
  if (!node) return [];
  const isList = form === 'list' && node.type === 'ArrayExpression';
  return isList ? node.elements.flatMap((each) => each ?? []) : [node];
}

// Spans leave quotes out: the name of a tag or an attribute is what stands there.
const inQuotes = ({ start, end }: Span): Span => ({ start: start + 1, end: end - 1 });

function tagOf(node: Node): JSXElementName | undefined {
  const { start, end } = node;
  if (node.type === 'Literal' && typeof node.value === 'string')
    return { type: 'JSXIdentifier', name: node.value, ...inQuotes(node) };
  // In markup a small letter would be a tag of the document.
  if (node.type === 'Identifier')
    return /^[A-Z_$]/.test(node.name) ? { type: 'JSXIdentifier', name: node.name, start, end } : undefined;
  if (node.type !== 'MemberExpression' || node.property.type !== 'Identifier' || node.computed)
    return undefined;
  const { object, property } = node;
  const outer =
    object.type === 'Identifier'
      ? ({ type: 'JSXIdentifier', name: object.name, start: object.start, end: object.end } as const)
      : tagOf(object);
  if (!outer || outer.type === 'JSXNamespacedName') return undefined;
  return {
    type: 'JSXMemberExpression',
    object: outer,
    property: { type: 'JSXIdentifier', name: property.name, start: property.start, end: property.end },
    start,
    end,
  };
}

/** What an object of props would be written as in markup: `{ id, ...more }` is `id={id} {...more}`. */
export function attributesGiven(props: Node): JSXAttributeItem[] {
  const { start, end } = props;
  const nothing =
    (props.type === 'Literal' && props.value === null) ||
    (props.type === 'Identifier' && props.name === 'undefined');
  if (nothing) return [];
  const spread = (argument: Node): JSXAttributeItem =>
    ({ type: 'JSXSpreadAttribute', argument, start, end }) as JSXAttributeItem;
  const joined =
    props.type === 'CallExpression' && JOINING.has(calledName(props) ?? '') ? props.arguments : undefined;
  if (joined?.every((each) => each.type !== 'SpreadElement'))
    return joined.flatMap((each) => attributesGiven(unwrapped(each)));
  if (props.type !== 'ObjectExpression') return [spread(props)];
  return props.properties.map((each) => {
    if (each.type === 'SpreadElement') return spread(each.argument);
    const name = propertyName(each.key, each.computed);
    if (name === undefined) return spread({ ...props, properties: [each] });
    const place = each.key.type === 'Literal' ? inQuotes(each.key) : each.key;
    return {
      type: 'JSXAttribute',
      name: { type: 'JSXIdentifier', name, start: place.start, end: place.end },
      value: container(each.value),
      start: each.start,
      end: each.end,
    };
  });
}

const container = (expression: Node): Extract<JSXChild, { type: 'JSXExpressionContainer' }> =>
  ({
    type: 'JSXExpressionContainer',
    expression,
    start: expression.start,
    end: expression.end,
  }) as Extract<JSXChild, { type: 'JSXExpressionContainer' }>;

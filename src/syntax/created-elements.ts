import type { JSXAttributeItem, JSXChild, JSXElement, JSXElementName, Node, Program } from 'oxc-parser';
import type { Span } from '../finding.js';
import { memberName, propertyName, requiredModule, unwrapped, walkTree } from './tree.js';

/** The functions that markup is another way to write a call of, by the module that gives them. */
const MAKERS: ReadonlyMap<string, readonly string[]> = new Map([
  ['react', ['createElement']],
  ['preact', ['createElement', 'h']],
  ['preact/compat', ['createElement']],
]);

/**
 * Whether a text may create elements by calls of its author's. Compilers mark the calls that they write as pure: what
 * they wrote is nobody's source.
 */
export const mayCreateElements = (text: string): boolean =>
  (text.includes('createElement') || text.includes('preact')) && !text.includes('/*#__PURE__*/');

type Call = Extract<Node, { type: 'CallExpression' }>;

/**
 * Makes markup of the calls in a program that create elements: `createElement('p', { id }, text)` is `<p id={id}>{text}</p>`,
 * whichever way it is written. The nodes of the calls are changed in place, and keep their spans. A call whose element is
 * chosen at run time stays one.
 */
export function readCreatedElements(program: Program): void {
  const { names, holders } = makersOf(program);
  if (names.size === 0 && holders.size === 0) return;
  const creates = (node: Call): boolean => {
    const callee = unwrapped(node.callee);
    if (callee.type === 'Identifier') return names.has(callee.name);
    if (callee.type !== 'MemberExpression' || callee.object.type !== 'Identifier') return false;
    return holders.get(callee.object.name)?.includes(memberName(callee) ?? '') ?? false;
  };
  walkTree(program, (node) => {
    const element = node.type === 'CallExpression' && creates(node) ? elementOf(node) : undefined;
    if (element) Object.assign(node, element);
  });
}

// The names that call a maker, and those that hold a module of makers.
function makersOf(program: Program): { names: Set<string>; holders: Map<string, readonly string[]> } {
  const names = new Set<string>();
  const holders = new Map<string, readonly string[]>();
  const take = (pattern: Node, makers: readonly string[]): void => {
    if (pattern.type === 'Identifier') holders.set(pattern.name, makers);
    if (pattern.type !== 'ObjectPattern') return;
    for (const each of pattern.properties) {
      const key = each.type === 'Property' ? propertyName(each.key, each.computed) : undefined;
      if (each.type === 'Property' && each.value.type === 'Identifier' && makers.includes(key ?? ''))
        names.add(each.value.name);
    }
  };
  for (const statement of program.body) {
    if (statement.type === 'ImportDeclaration') {
      const makers = MAKERS.get(statement.source.value);
      if (!makers) continue;
      for (const each of statement.specifiers) {
        if (each.type !== 'ImportSpecifier') holders.set(each.local.name, makers);
        else if (each.imported.type === 'Identifier' && makers.includes(each.imported.name))
          names.add(each.local.name);
      }
    }
    if (statement.type !== 'VariableDeclaration') continue;
    for (const { id, init } of statement.declarations) {
      const makers = init && MAKERS.get(requiredModule(init) ?? '');
      if (makers) take(id, makers);
      // `const h = React.createElement`
      const from =
        init?.type === 'MemberExpression' && init.object.type === 'Identifier' ? init.object.name : '';
      if (init && id.type === 'Identifier' && holders.get(from)?.includes(memberName(init) ?? ''))
        names.add(id.name);
    }
  }
  return { names, holders };
}

function elementOf(call: Call): JSXElement | undefined {
  const [type, props, ...inside] = call.arguments;
  const name = type && tagOf(type);
  if (!name) return undefined;
  const opening = { start: call.start, end: (props ?? type).end };
  return {
    type: 'JSXElement',
    openingElement: {
      type: 'JSXOpeningElement',
      name,
      typeArguments: null,
      attributes: props ? attributesOf(unwrapped(props)) : [],
      selfClosing: true,
      ...opening,
    },
    children: inside.map((each): JSXChild => container(each.type === 'SpreadElement' ? each.argument : each)),
    closingElement: null,
    start: call.start,
    end: call.end,
  };
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

function attributesOf(props: Node): JSXAttributeItem[] {
  const { start, end } = props;
  const nothing =
    (props.type === 'Literal' && props.value === null) ||
    (props.type === 'Identifier' && props.name === 'undefined');
  if (nothing) return [];
  const spread = (argument: Node): JSXAttributeItem =>
    ({ type: 'JSXSpreadAttribute', argument, start, end }) as JSXAttributeItem;
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

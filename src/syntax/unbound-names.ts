import { createRequire } from 'node:module';
import { visitorKeys, type Node, type Program } from 'oxc-parser';
import type { Span } from '../finding.js';
import { namesIn } from './module-facts.js';
import { isFunction, memberName, writtenTo } from './tree.js';

// Read by `require`: JSON, for which Node 20 has no import of its own.
const platforms = createRequire(import.meta.url)('globals') as Readonly<Record<string, object>>;

// What is there without a word: the language, browsers, Node, the runners' own words, and what compilers put in place.
const GIVEN: ReadonlySet<string> = new Set([
  'arguments',
  'React',
  'h',
  ...'builtin browser node commonjs amd worker vue webpack rspack jest vitest mocha jasmine chai'
    .split(' ')
    .flatMap((platform) => Object.keys(platforms[platform] ?? {})),
]);

const QUERY = /^(?:get|query|find)(?:All)?By[A-Z]|^debug$/;

type NameRead = Span & { name: string };
type Identifier = Extract<Node, { type: 'Identifier' | 'JSXIdentifier' }>;

/**
 * The names that a script reads as values, and that nothing binds in any scope of it, nor the platform or a runner: with
 * each read, in the order of the text. Names that it sets, or asks for by `typeof`, are left out.
 */
export function unboundNames(program: Program): Map<string, Span[]> {
  const bound = new Set<string>();
  const found = new Map<string, Span[]>();
  const visit = (node: Node): void => {
    for (const name of boundBy(node)) bound.add(name);
    const read = readBy(node);
    if (read) {
      const reads = found.get(read.name) ?? [];
      reads.push({ start: read.start, end: read.end });
      found.set(read.name, reads);
    }
    eachValue(node, visit);
  };
  visit(program);
  for (const name of bound) found.delete(name);
  return found;
}

// Declarations of any kind, imports, parameters; what is written to without one; what is asked for by `typeof`.
const NONE: readonly string[] = [];

function boundBy(node: Node): readonly string[] {
  if (node.type === 'TSDeclareFunction' || isFunction(node)) {
    const own = 'id' in node && node.id ? [node.id.name] : [];
    return [...own, ...node.params.flatMap(namesIn)];
  }
  switch (node.type) {
    case 'ImportDeclaration':
      return node.specifiers.map(({ local }) => local.name);
    case 'VariableDeclarator':
      return namesIn(node.id);
    case 'ClassDeclaration':
    case 'ClassExpression':
    case 'TSEnumDeclaration':
    case 'TSImportEqualsDeclaration':
      return node.id ? [node.id.name] : [];
    case 'TSModuleDeclaration':
      return node.id.type === 'Identifier' ? [node.id.name] : [];
    case 'CatchClause':
      return node.param ? namesIn(node.param) : [];
    case 'UnaryExpression':
      return node.operator === 'typeof' && node.argument.type === 'Identifier' ? [node.argument.name] : [];
    case 'ForInStatement':
    case 'ForOfStatement':
      return namesIn(node.left);
    default: {
      const target = writtenTo(node);
      return target ? namesIn(target) : NONE;
    }
  }
}

/** The name that a node reads as a value, where it is one that neither the platform nor a runner gives. */
export function readBy(node: Node): NameRead | undefined {
  if (node.type === 'MemberExpression') return queriedWindow(node) ?? metaValues(node);
  const name = nameReadBy(node);
  return name && !GIVEN.has(name.name) ? name : undefined;
}

// `screen.getByRole(…)`: the window has a `screen` of its own, which finds no elements.
function queriedWindow(node: Extract<Node, { type: 'MemberExpression' }>): Identifier | undefined {
  const { object } = node;
  const isOf = object.type === 'Identifier' && object.name === 'screen';
  return isOf && QUERY.test(memberName(node) ?? '') ? object : undefined;
}

/** The values that a bundler puts into `import.meta`, as a name: nobody else has them. */
export const META_VALUES = 'import.meta.env';

// `import.meta.env.MODE`, but not `import.meta.env?.MODE`.
function metaValues({ object, optional }: Extract<Node, { type: 'MemberExpression' }>): NameRead | undefined {
  const isMeta =
    !optional &&
    object.type === 'MemberExpression' &&
    object.object.type === 'MetaProperty' &&
    memberName(object) === 'env';
  return isMeta ? { name: META_VALUES, start: object.start, end: object.end } : undefined;
}

function nameReadBy(node: Node): Identifier | undefined {
  switch (node.type) {
    case 'Identifier':
      return node;
    case 'JSXOpeningElement': {
      let at: Node = node.name;
      const isPart = at.type === 'JSXMemberExpression';
      while (at.type === 'JSXMemberExpression') at = at.object;
      return at.type === 'JSXIdentifier' && (isPart || /^[A-Z]/.test(at.name)) && at.name !== 'this'
        ? at
        : undefined;
    }
    default:
      return undefined;
  }
}

// TypeScript that is more than a type.
const WITH_VALUES: ReadonlySet<string> = new Set([
  'TSAsExpression',
  'TSSatisfiesExpression',
  'TSNonNullExpression',
  'TSTypeAssertion',
  'TSInstantiationExpression',
  'TSExportAssignment',
  'TSParameterProperty',
  'TSEnumDeclaration',
  'TSEnumBody',
  'TSEnumMember',
  'TSModuleDeclaration',
  'TSModuleBlock',
  'TSDeclareFunction',
  'TSImportEqualsDeclaration',
]);

/** The nodes below a node that may be values, or hold some: without types, labels, and the names of properties. */
export function valuesBelow(node: Node): Node[] {
  const found: Node[] = [];
  eachValue(node, (child) => found.push(child));
  return found;
}

// No list is made of what is below: all of every file passes here.
function eachValue(node: Node, visit: (child: Node) => void): void {
  const fields = node as unknown as Record<string, Node | (Node | null)[] | null | undefined>;
  for (const key of visitorKeys[node.type] ?? []) {
    if (isNoValue(node, key)) continue;
    const value = fields[key];
    if (Array.isArray(value)) {
      for (const child of value) if (child && isValue(child)) visit(child);
    } else if (value && isValue(value)) visit(value);
  }
}

const isValue = ({ type }: Node): boolean => !type.startsWith('TS') || WITH_VALUES.has(type);

// Whether what stands there is a name that is not read.
function isNoValue(node: Node, key: string): boolean {
  switch (node.type) {
    case 'ImportDeclaration':
    case 'ExportAllDeclaration':
    case 'MetaProperty':
    case 'BreakStatement':
    case 'ContinueStatement':
    case 'TSDeclareFunction':
    case 'TSImportEqualsDeclaration':
      return true;
    case 'LabeledStatement':
      return key === 'label';
    case 'ExportNamedDeclaration':
      return key !== 'declaration';
    case 'TSEnumMember':
      return key === 'id';
    case 'MemberExpression':
      return key === 'property' && !node.computed;
    case 'Property':
    case 'MethodDefinition':
    case 'PropertyDefinition':
    case 'AccessorProperty':
      return key === 'key' && !node.computed;
    default:
      return false;
  }
}

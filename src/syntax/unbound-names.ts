import { createRequire } from 'node:module';
import type { Node, Program } from 'oxc-parser';
import type { Span } from '../finding.js';
import { namesIn } from './module-facts.js';
import { calledName, childrenOf, isFunction, memberName, unwrapped, writtenTo } from './tree.js';

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
    for (const child of valuesBelow(node)) visit(child);
  };
  visit(program);
  for (const name of bound) found.delete(name);
  return found;
}

// Declarations of any kind, imports, parameters; what is written to without one; what is asked for by `typeof`.
function boundBy(node: Node): string[] {
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
      return target ? namesIn(target) : [];
    }
  }
}

/** The name that a node reads as a value, where it is one that neither the platform nor a runner gives. */
export function readBy(node: Node): Identifier | undefined {
  if (node.type === 'MemberExpression') return queriedWindow(node);
  const name = nameReadBy(node);
  return name && !GIVEN.has(name.name) ? name : undefined;
}

// `screen.getByRole(…)`: the window has a `screen` of its own, which finds no elements.
function queriedWindow(node: Extract<Node, { type: 'MemberExpression' }>): Identifier | undefined {
  const { object } = node;
  const isOf = object.type === 'Identifier' && object.name === 'screen';
  return isOf && QUERY.test(memberName(node) ?? '') ? object : undefined;
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
export const valuesBelow = (node: Node): Node[] =>
  partsOf(node).filter(({ type }) => !type.startsWith('TS') || WITH_VALUES.has(type));

function partsOf(node: Node): Node[] {
  switch (node.type) {
    case 'ImportDeclaration':
    case 'ExportAllDeclaration':
    case 'MetaProperty':
    case 'BreakStatement':
    case 'ContinueStatement':
      return [];
    case 'LabeledStatement':
      return [node.body];
    case 'ExportNamedDeclaration':
      return node.declaration ? [node.declaration] : [];
    case 'TSEnumMember':
      return node.initializer ? [node.initializer] : [];
    case 'TSDeclareFunction':
    case 'TSImportEqualsDeclaration':
      return [];
    case 'MemberExpression':
      return node.computed ? [node.object, node.property] : [node.object];
    case 'Property':
      return node.computed ? [node.key, node.value] : [node.value];
    case 'MethodDefinition':
    case 'PropertyDefinition':
    case 'AccessorProperty':
      return childrenOf(node).filter((child) => child !== node.key || node.computed);
    default:
      return childrenOf(node);
  }
}

// Functions that only keep what they are handed, to call it when they are asked.
const KEEPING = /^(?:fn|mock|stub|calls?Fake|implement|lazy|defineAsyncComponent)/;
const SKIPPED = /(?:^|\.)(?:skip|todo|skipIf|runIf|fails|failing|xit|xtest|xdescribe|xcontext|xspecify)\b/;

/**
 * Calls `visit` for the values of a spec file that are worked out when its specs run: statements, and functions that are
 * handed to calls, or declared and named elsewhere. Nothing under a condition, in a `try`, or in what is skipped.
 */
export function visitWhatRuns(program: Program, visit: (node: Node) => void): void {
  const named = new Set<string>();
  const note = (node: Node): void => {
    if (node.type === 'Identifier') named.add(node.name);
    for (const child of valuesBelow(node)) {
      const isOwn = isFunction(node) && 'id' in node && child === node.id;
      if (!isOwn && !(node.type === 'VariableDeclarator' && child === node.id)) note(child);
    }
  };
  note(program);
  const run = (node: Node): void => {
    visit(node);
    switch (node.type) {
      case 'TryStatement':
      case 'ClassDeclaration':
      case 'ClassExpression':
        return;
      case 'IfStatement':
      case 'ConditionalExpression':
        return run(node.test);
      case 'LogicalExpression':
        return run(node.left);
      case 'FunctionDeclaration':
        if (node.id && named.has(node.id.name)) below(node);
        return;
      case 'VariableDeclarator':
        if (node.init && isFunction(node.init)) {
          if (node.id.type === 'Identifier' && named.has(node.id.name)) below(node.init);
          return;
        }
        if (node.init) run(node.init);
        return;
      case 'CallExpression':
        return call(node);
      default:
        if (!isFunction(node)) below(node);
    }
  };
  const below = (node: Node): void => valuesBelow(node).forEach(run);
  const call = (node: Extract<Node, { type: 'CallExpression' }>): void => {
    if (SKIPPED.test(wholePath(node.callee))) return;
    run(node.callee);
    const isKept = KEEPING.test(calledName(node) ?? '');
    for (const argument of node.arguments) {
      const given = unwrapped(argument);
      if (!isFunction(given)) run(argument);
      else if (!isKept) below(given);
    }
  };
  run(program);
}

function wholePath(callee: Node): string {
  const inner = unwrapped(callee);
  if (inner.type === 'CallExpression') return wholePath(inner.callee);
  if (inner.type === 'MemberExpression') return `${wholePath(inner.object)}.${memberName(inner) ?? ''}`;
  return inner.type === 'Identifier' ? inner.name : '';
}

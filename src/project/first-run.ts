import type { Node, Program } from 'oxc-parser';
import { unwrappedComponent } from '../components/frameworks/react/react.js';
import { mayBeMissing } from '../libraries/missing-parts.js';
import type { Span } from '../finding.js';
import type { ModuleFacts } from '../syntax/module-facts.js';
import { isFunction, memberName, unwrapped, type ClassNode } from '../syntax/tree.js';
import { readBy, valuesBelow } from '../syntax/unbound-names.js';

/** What a function surely calls each time that it runs, and in what it hands to be run once it is shown: by its path. */
export type FirstRun = ReadonlyMap<string, Span>;

// Functions that run what they are given: at once, or when the component is there.
const RUNNING: ReadonlySet<string> = new Set(
  'useEffect useLayoutEffect useInsertionEffect useMemo useState onMounted onBeforeMount watchEffect'.split(
    ' ',
  ),
);
const HOOK = /^use[A-Z]/;

/** The name that the first run of a module's own statements goes by. */
export const LOADING = '';

type Unbound = ReadonlyMap<string, unknown>;

/**
 * The first runs of a module's components and hooks, by name, where they call hooks, imports or what documents may lack, or
 * read a name that nothing binds; and of the module itself, for such names alone.
 */
export function firstRuns(
  program: Program,
  { declarations, imports }: ModuleFacts,
  unbound: Unbound,
): ReadonlyMap<string, FirstRun> {
  const found = new Map<string, FirstRun>();
  if (unbound.size > 0)
    found.set(
      LOADING,
      noted(NO_IMPORTS, unbound, (note) => runStatements(program.body, note)),
    );
  for (const [name, node] of declarations) {
    if (node.type === 'ClassDeclaration' && node.decorators.length > 0) {
      const run = noted(imports, unbound, (note) => runInjected(node, note));
      if (run.size > 0) found.set(name, run);
      continue;
    }
    const value = node.type === 'VariableDeclarator' ? node.init : node;
    const made = value && /^(?:use)?[A-Z]/.test(name) ? unwrappedComponent(value) : undefined;
    if (!made || !isFunction(made) || !made.body || made.async) continue;
    const { body } = made;
    const run = noted(imports, unbound, (note) => runBody(body, note));
    if (run.size > 0) found.set(name, run);
  }
  return found;
}

/** The first run of statements: of the script of a single-file component. */
export const firstRun = (
  statements: readonly Node[],
  imports: ModuleFacts['imports'],
  unbound: Unbound,
): FirstRun => noted(imports, unbound, (note) => runStatements(statements, note));

// What is called, and each name that is read.
interface Note {
  call: (callee: Node) => void;
  read: (name: string, at: Span) => void;
}

const NO_IMPORTS: ModuleFacts['imports'] = new Map();

function noted(imports: ModuleFacts['imports'], unbound: Unbound, run: (note: Note) => void): FirstRun {
  const found = new Map<string, Span>();
  const read = (name: string, { start, end }: Span): void => {
    if (unbound.has(name) && !found.has(name)) found.set(name, { start, end });
  };
  const call = (callee: Node): void => {
    const path = pathOf(callee);
    const isOwn = imports.has(path.split('.')[0] ?? '');
    const matters = HOOK.test(path) || imports.has(path) || (mayBeMissing(path) && !isOwn);
    if (matters && !found.has(path)) found.set(path, { start: callee.start, end: callee.end });
  };
  run({ call, read });
  return found;
}

const runBody = (body: Node, note: Note): void =>
  body.type === 'BlockStatement' ? runStatements(body.body, note) : runExpression(body, note);

// Up to the first statement after which the rest may not run; nothing that stands under a condition.
function runStatements(statements: readonly Node[], note: Note): void {
  for (const each of statements) {
    switch (each.type) {
      case 'ExpressionStatement':
        runExpression(each.expression, note);
        break;
      case 'VariableDeclaration':
        for (const { init } of each.declarations) if (init) runExpression(init, note);
        break;
      case 'ReturnStatement':
        if (each.argument) runExpression(each.argument, note);
        return;
      case 'FunctionDeclaration':
      case 'ClassDeclaration':
      case 'EmptyStatement':
      case 'ImportDeclaration':
        break;
      case 'ExportNamedDeclaration':
        if (each.declaration) runStatements([each.declaration], note);
        break;
      case 'ExportDefaultDeclaration':
        if (!/^(?:Function|Class|TS)/.test(each.declaration.type)) runExpression(each.declaration, note);
        break;
      default:
        if (!each.type.startsWith('TS') && !each.type.startsWith('Export')) return;
    }
  }
}

function runExpression(node: Node, note: Note): void {
  switch (node.type) {
    case 'ArrowFunctionExpression':
    case 'FunctionExpression':
    case 'ClassExpression':
    case 'ChainExpression':
      return;
    case 'UnaryExpression':
      if (node.operator === 'typeof') return;
      break;
    case 'LogicalExpression':
      return runExpression(node.left, note);
    case 'ConditionalExpression':
      return runExpression(node.test, note);
    case 'AwaitExpression':
      return;
    case 'NewExpression':
    case 'CallExpression':
      note.call(node.callee);
      if (node.type === 'CallExpression') handed(node.callee, node.arguments, note);
      break;
    default:
  }
  const read = readBy(node);
  if (read) note.read(read.name, read);
  for (const child of valuesBelow(node)) runExpression(child, note);
}

// What Angular must have for an instance of a class: by `inject(…)` of its fields, and by the types that its constructor takes.
function runInjected({ body }: ClassNode, note: Note): void {
  for (const member of body.body) {
    if (member.type === 'PropertyDefinition' && member.value && !member.static)
      for (const wanted of injectedIn(member.value)) note.call(wanted);
    if (member.type !== 'MethodDefinition' || member.kind !== 'constructor') continue;
    for (const param of member.value.params) {
      const isProperty = param.type === 'TSParameterProperty';
      const taken = isProperty ? param.parameter : param;
      const type = taken.type === 'Identifier' ? taken.typeAnnotation?.typeAnnotation : undefined;
      const isPlain = isProperty
        ? param.decorators.length === 0
        : !('decorators' in param && param.decorators?.length);
      if (isPlain && type?.type === 'TSTypeReference' && type.typeName.type === 'Identifier')
        note.call(type.typeName);
    }
  }
}

// `inject(Kilns)`, with no options that make do without it, wherever a first value surely asks for it.
function injectedIn(node: Node): Node[] {
  if (isFunction(node) || node.type === 'LogicalExpression' || node.type === 'ConditionalExpression')
    return [];
  const [first, ...more] =
    node.type === 'CallExpression' && pathOf(node.callee) === 'inject' ? node.arguments : [];
  if (first?.type === 'Identifier' && more.length === 0) return [first];
  return [...valuesBelow(node)].flatMap(injectedIn);
}

// `window.matchMedia`; what is no name stands as `?`.
function pathOf(callee: Node): string {
  const node = unwrapped(callee);
  if (node.type === 'Identifier') return node.name;
  return node.type === 'MemberExpression' ? `${pathOf(node.object)}.${memberName(node) ?? '?'}` : '?';
}

function handed(callee: Node, [first]: readonly Node[], note: Note): void {
  const name = pathOf(callee).replace(/^React\./, '');
  const given = first && unwrapped(first);
  if (!RUNNING.has(name) || !given || !isFunction(given) || !given.body || given.async) return;
  runBody(given.body, note);
}

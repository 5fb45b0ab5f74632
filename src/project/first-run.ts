import type { Node } from 'oxc-parser';
import { unwrappedComponent } from '../components/frameworks/react/react.js';
import { mayBeMissing, namesMissingPart } from '../libraries/missing-parts.js';
import type { Span } from '../finding.js';
import type { ModuleFacts } from '../syntax/module-facts.js';
import { childrenOf, isFunction, memberName, unwrapped } from '../syntax/tree.js';

/** What a function surely calls each time that it runs, and in what it hands to be run once it is shown: by its path. */
export type FirstRun = ReadonlyMap<string, Span>;

// Functions that run what they are given: at once, or when the component is there.
const RUNNING: ReadonlySet<string> = new Set(
  'useEffect useLayoutEffect useInsertionEffect useMemo useState onMounted onBeforeMount watchEffect'.split(
    ' ',
  ),
);
const HOOK = /^use[A-Z]/;

/** The first runs of a module's components and hooks, by name, where they call hooks or what documents may lack. */
export function firstRuns(
  text: string,
  { declarations, imports }: ModuleFacts,
): ReadonlyMap<string, FirstRun> {
  const found = new Map<string, FirstRun>();
  if (!mayMatter(text)) return found;
  for (const [name, node] of declarations) {
    const value = node.type === 'VariableDeclarator' ? node.init : node;
    const made = value && /^(?:use)?[A-Z]/.test(name) ? unwrappedComponent(value) : undefined;
    if (!made || !isFunction(made) || !made.body || made.async) continue;
    const { body } = made;
    const run = noted(imports, (note) => runBody(body, note));
    if (run.size > 0) found.set(name, run);
  }
  return found;
}

/** The first run of statements: of the script of a single-file component. */
export const firstRun = (statements: readonly Node[], imports: ModuleFacts['imports']): FirstRun =>
  noted(imports, (note) => runStatements(statements, note));

type Note = (callee: Node) => void;

function noted(imports: ModuleFacts['imports'], run: (note: Note) => void): FirstRun {
  const found = new Map<string, Span>();
  run((callee) => {
    const path = pathOf(callee);
    const isOwn = imports.has(path.split('.')[0] ?? '');
    const matters = HOOK.test(path) || (mayBeMissing(path) && !isOwn);
    if (matters && !found.has(path)) found.set(path, { start: callee.start, end: callee.end });
  });
  return found;
}

const mayMatter = (text: string): boolean => namesMissingPart(text) || /\buse[A-Z]\w*\(/.test(text);

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
      note(node.callee);
      if (node.type === 'CallExpression') handed(node.callee, node.arguments, note);
      break;
    default:
  }
  for (const child of childrenOf(node)) runExpression(child, note);
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

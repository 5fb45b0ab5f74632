import type { Node } from 'oxc-parser';
import type { Span } from '../finding.js';
import {
  calledName,
  hasNode,
  isFunction,
  memberName,
  requiredModule,
  unwrapped,
  walkTree,
} from '../syntax/tree.js';
import type { Project } from './project.js';

// What scripts of settings are written as, where the tool that runs them minds.

/** Where a script sets `module.exports` as a whole, at its top; undefined where it does not. */
export function wholeExports(project: Project, path: string): { start: number; end: number } | undefined {
  for (const statement of project.tree(path)?.script.program.body ?? []) {
    if (statement.type !== 'ExpressionStatement') continue;
    const { expression } = statement;
    const left = expression.type === 'AssignmentExpression' ? expression.left : undefined;
    if (left?.type !== 'MemberExpression' || left.object.type !== 'Identifier') continue;
    if (memberName(left) === 'exports' && left.object.name === 'module')
      return { start: left.start, end: left.end };
  }
  return undefined;
}

/** Where an ES module calls `require` at its top, which it has not made itself; undefined where it does not. */
export function requiresAsModule(project: Project, path: string): { start: number; end: number } | undefined {
  const { script, facts } = project.tree(path) ?? {};
  const body = script?.program.body ?? [];
  if (!project.summary(path)?.isModule || facts?.declarations.has('require') || facts?.imports.has('require'))
    return undefined;
  for (const statement of body)
    for (const { init } of statement.type === 'VariableDeclaration' ? statement.declarations : [])
      if (init && requiredModule(init) !== undefined) return { start: init.start, end: init.end };
  return undefined;
}

/** Where settings of Babel are given by a function that never says how long they may be kept; undefined where they are not. */
export function unkeptSettings(project: Project, path: string): Span | undefined {
  const made = exportedValue(project, path, 'default');
  const fn = made && unwrapped(made);
  if (!fn || !isFunction(fn) || !fn.body) return undefined;
  const [api] = fn.params;
  const name = api?.type === 'Identifier' ? api.name : undefined;
  // Whoever is handed what tells it may tell it.
  const isTold =
    (api !== undefined && name === undefined) ||
    hasNode(
      fn.body as Node,
      (each) => each.type === 'Identifier' && each.name === name && !isAssertion(each, fn.body as Node),
    );
  return isTold ? undefined : { start: fn.start, end: fn.end };
}

// `api.assertVersion(7)` says nothing of it.
const isAssertion = (name: Node, body: Node): boolean =>
  hasNode(
    body,
    (node) =>
      node.type === 'MemberExpression' && node.object === name && memberName(node) === 'assertVersion',
  );

/** Where a script of settings hands a function to `mergeConfig`, which only joins objects; undefined where it surely does not. */
export function mergedFunction(project: Project, path: string): Span | undefined {
  const { script, facts } = project.tree(path) ?? {};
  if (!script || !facts || !script.source.text.includes('mergeConfig')) return undefined;
  let found: Span | undefined;
  walkTree(script.program, (node) => {
    const isMerge = node.type === 'CallExpression' && calledName(node) === 'mergeConfig';
    for (const given of isMerge ? node.arguments.slice(0, 2) : [])
      if (isSettingsFunction(project, path, given)) found ??= { start: given.start, end: given.end };
    return !found;
  });
  return found;
}

// `() => ({ … })`, `defineConfig(() => ({ … }))`, or a name that stands for it, here or in another module.
function isSettingsFunction(project: Project, path: string, node: Node, depth = 0): boolean {
  const inner = unwrapped(node);
  if (isFunction(inner)) return true;
  if (inner.type === 'CallExpression') {
    const [first] = inner.arguments;
    return calledName(inner) === 'defineConfig' && first !== undefined && isFunction(unwrapped(first));
  }
  if (inner.type !== 'Identifier' || depth > 3) return false;
  const { facts } = project.tree(path) ?? {};
  const from = facts?.imports.get(inner.name);
  const target = from && project.resolve(path, from.specifier);
  const value = target
    ? exportedValue(project, target, from.name)
    : declaredValue(facts?.declarations.get(inner.name));
  return value !== undefined && isSettingsFunction(project, target ?? path, value, depth + 1);
}

// What is exported by a name, as far as it stands in that module.
function exportedValue(project: Project, path: string, name: string): Node | undefined {
  const { facts } = project.tree(path) ?? {};
  const given = facts?.exports.get(name);
  if (!given || 'specifier' in given) return undefined;
  return 'node' in given ? given.node : declaredValue(facts?.declarations.get(given.local));
}

const declaredValue = (node: Node | undefined): Node | undefined =>
  node?.type === 'VariableDeclarator' ? (node.init ?? undefined) : node;

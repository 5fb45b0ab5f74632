import type { Node, Program } from 'oxc-parser';
import type { Span } from '../finding.js';
import type { Import } from '../syntax/module-facts.js';
import { calledName, isFunction, memberName, propertyName, unwrapped } from '../syntax/tree.js';
import { META_VALUES, readBy, valuesBelow } from '../syntax/unbound-names.js';
import type { Project } from './project.js';

export { META_VALUES };

// What a spec file does as its specs run, without asking what its names hold.

/** The names that a spec file reads as its specs run, and that nothing in it binds; each at its first place. */
export function unboundReads(project: Project, path: string): (Span & { name: string })[] {
  const unbound = project.summary(path)?.unbound;
  const tree = unbound && unbound.size > 0 ? project.tree(path) : undefined;
  const found = new Map<string, Span & { name: string }>();
  if (unbound && tree)
    visitWhatRuns(tree.script.program, (node) => {
      const read = readBy(node);
      if (!read || !unbound.has(read.name) || found.has(read.name)) return;
      const { name, start, end } = read;
      found.set(name, { name, start, end });
    });
  return [...found.values()];
}

/** A part of a package that is called; the place is that of the call’s function. */
export interface CalledPart extends Import {
  /** What is imported: `default`, or `*`. */
  whole: string;
}

/** What a spec file calls, as its specs run, of packages that it imports as a whole: `ReactDOM.render(…)`. */
export function calledParts(project: Project, path: string): CalledPart[] {
  const whole = [...(project.summary(path)?.imports ?? [])].filter(
    ([, { name, typeOnly, specifier }]) =>
      (name === 'default' || name === '*') && !typeOnly && !specifier.startsWith('.'),
  );
  const imports = new Map(whole);
  const tree = whole.length > 0 ? project.tree(path) : undefined;
  const found: CalledPart[] = [];
  if (tree)
    visitWhatRuns(tree.script.program, (node) => {
      const callee = node.type === 'CallExpression' ? unwrapped(node.callee) : undefined;
      if (callee?.type !== 'MemberExpression' || callee.object.type !== 'Identifier') return;
      const from = imports.get(callee.object.name);
      const name = memberName(callee);
      if (from && name !== undefined && !(name in Function.prototype))
        found.push({ ...from, whole: from.name, name, start: callee.start, end: callee.end });
    });
  return found;
}

/** Where a spec file, as its specs run, calls a function of a package and hands it no such option; undefined where it does not. */
export function callWithout(
  project: Project,
  path: string,
  { specifier, name }: { specifier: string; name: string },
  option: string,
): Span | undefined {
  const local = [...(project.summary(path)?.imports ?? [])].find(
    ([, from]) => from.specifier === specifier && from.name === name,
  )?.[0];
  const tree = local === undefined ? undefined : project.tree(path);
  let found: Span | undefined;
  if (tree)
    visitWhatRuns(tree.script.program, (node) => {
      if (found || node.type !== 'CallExpression' || calledName(node) !== local) return;
      const [given] = node.arguments;
      const isLacking =
        !given ||
        (given.type === 'ObjectExpression' &&
          given.properties.every(
            (each) => each.type === 'Property' && propertyName(each.key, each.computed) !== option,
          ));
      if (isLacking) found = { start: node.start, end: node.end };
    });
  return found;
}

// Functions that only keep what they are handed, to call it when they are asked.
const KEEPING = /^(?:fn|mock|stub|calls?Fake|implement|lazy|defineAsyncComponent)/;
const SKIPPED = /(?:^|\.)(?:skip|todo|skipIf|runIf|fails|failing|xit|xtest|xdescribe|xcontext|xspecify)\b/;

// Calls `visit` for the values of a spec file that are worked out when its specs run: statements, and functions that are
// handed to calls, or declared and named elsewhere. Nothing under a condition, in a `try`, or in what is skipped.
function visitWhatRuns(program: Program, visit: (node: Node) => void): void {
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

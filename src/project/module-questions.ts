import { isInside } from '../util/spans.js';
import type { Node, Program } from 'oxc-parser';
import {
  calledName,
  hasNode,
  isFunction,
  memberName,
  namesOnTheWay,
  pathOf,
  unwrapped,
  walkTree,
  wordsNamedIn,
} from '../syntax/tree.js';
import { EventTiming } from '../components/frameworks/react/event-timing.js';
import { refOf } from '../components/frameworks/react/react.js';
import type { EventPlace } from '../components/view.js';
import { withWhatComes } from '../components/outputs.js';
import type { Span } from '../finding.js';
import type { Import } from '../syntax/module-facts.js';
import { CHAINS } from '../syntax/promises.js';
import type { Declared, Project } from './project.js';

/** Whether a module sets a member of that name anywhere, or names it to a call: `globalThis.jest = vi`, `stub('jest', vi)`. */
export const setsName = (project: Project, path: string, name: string): boolean =>
  has(project, path, name, (node) => {
    if (node.type === 'AssignmentExpression')
      return node.left.type === 'MemberExpression' && memberName(node.left) === name;
    return (
      node.type === 'CallExpression' &&
      !isTitled(node) &&
      node.arguments.some((each) => each.type === 'Literal' && each.value === name)
    );
  });

const TITLED: ReadonlySet<string | undefined> = new Set('describe context suite it test specify'.split(' '));

// `describe('KilnCard', …)`: a title names nothing.
const isTitled = (call: Extract<Node, { type: 'CallExpression' }>): boolean =>
  TITLED.has(namesOnTheWay(call)[0]);

/** Whether a module calls a function of that name anywhere. */
export const callsName = (project: Project, path: string, name: string): boolean =>
  has(project, path, name, (node) => node.type === 'CallExpression' && calledName(node) === name);

/** An export of a module; `specifier`: as it is written in imports, or the file that they lead to. */
interface Exported {
  specifier: string;
  name: string;
}

/** The first call that a module makes of an export that it imports, where each hands over more than an event of the page. */
export function callWithSomething(project: Project, path: string, exported: Exported): Span | undefined {
  const { local, program } = importing(project, path, exported);
  return program && local !== undefined ? calledWithSomething(program, local) : undefined;
}

/**
 * The events of elements at which a module with React's components calls an export that it imports; undefined where it
 * may call it at any other time, or does not import it.
 */
export function eventsCalling(
  project: Project,
  path: string,
  exported: Exported,
): readonly EventPlace[] | undefined {
  const { local, program } = importing(project, path, exported);
  if (!program || local === undefined) return undefined;
  const timing =
    timings.get(program) ??
    new EventTiming(program, { isEventProp: (tag, prop) => isEventProp(project, path, tag, prop) });
  timings.set(program, timing);
  return timing.eventsOf(local);
}

function isEventProp(project: Project, path: string, tag: string, prop: string): boolean {
  const facts = project.tree(path)?.facts;
  const ref = facts && refOf(tag, facts);
  return ref !== undefined && project.component(path, ref)?.eventProps?.has(prop) === true;
}

// Every stand-in of a spec file asks the same modules.
const timings = new WeakMap<Node, EventTiming>();

/** The first call, where each hands over more than an event of the page, of a name that the module takes from what something gives: `const { save } = useKilns()`. */
export function takenCallWithSomething(project: Project, path: string, name: string): Span | undefined {
  const isTaken = has(
    project,
    path,
    name,
    (node) =>
      node.type === 'VariableDeclarator' &&
      node.id.type === 'ObjectPattern' &&
      node.init !== null &&
      unwrapped(node.init).type === 'CallExpression' &&
      node.id.properties.some(
        (each) => each.type === 'Property' && each.value.type === 'Identifier' && each.value.name === name,
      ),
  );
  const program = isTaken ? project.tree(path)?.script.program : undefined;
  return program && calledWithSomething(program, name);
}

function calledWithSomething(program: Node, local: string): Span | undefined {
  const calls = withWhatComes(new Map([[local, program]]), [program], (node) =>
    node.type === 'CallExpression' && node.callee.type === 'Identifier'
      ? { event: node.callee.name, args: node.arguments }
      : undefined,
  );
  return calls.get(local)?.comesWith;
}

/** The first call that a module makes of an export for its effect alone: nothing takes what it gives. */
export function callForEffect(project: Project, path: string, exported: Exported): Span | undefined {
  const { local, program } = importing(project, path, exported);
  let found: Span | undefined;
  if (program && local !== undefined)
    walkTree(program, (node) => {
      const call = node.type === 'ExpressionStatement' ? effectOf(node.expression) : undefined;
      if (call?.callee.type === 'Identifier' && call.callee.name === local)
        found ??= { start: call.start, end: call.end };
      return !found;
    });
  return found;
}

/** The first call that a module with React's components makes of an export whose answer it waits for and takes, where it only calls it at events of elements. */
export function callAtEvents(project: Project, path: string, exported: Exported): Span | undefined {
  if (!eventsCalling(project, path, exported)?.length) return undefined;
  const { local, program } = importing(project, path, exported);
  let found: Span | undefined;
  if (program)
    walkTree(program, (node) => {
      const call = waitedFor(node);
      if (call?.type === 'CallExpression' && call.callee.type === 'Identifier' && call.callee.name === local)
        found ??= { start: call.start, end: call.end };
      return !found;
    });
  return found;
}

// `const answer = await save(kiln)`, `(await save(kiln)).ok`, `save(kiln).then((answer) => …)`
function waitedFor(node: Node): Node | undefined {
  const value =
    node.type === 'VariableDeclarator' && node.init
      ? unwrapped(node.init)
      : node.type === 'MemberExpression'
        ? unwrapped(node.object)
        : undefined;
  if (value?.type === 'AwaitExpression') return unwrapped(value.argument);
  const callee =
    node.type === 'CallExpression' && node.arguments.some(isFunction) ? unwrapped(node.callee) : undefined;
  return callee?.type === 'MemberExpression' && CHAINS.has(memberName(callee) ?? '')
    ? unwrapped(callee.object)
    : undefined;
}

// `save(kiln)`, `await save(kiln)`, `save(kiln).then(…)`
function effectOf(node: Node): Extract<Node, { type: 'CallExpression' }> | undefined {
  const inner = unwrapped(node);
  if (inner.type === 'AwaitExpression') return effectOf(inner.argument);
  if (inner.type !== 'CallExpression') return undefined;
  const callee = unwrapped(inner.callee);
  return callee.type === 'MemberExpression' && CHAINS.has(memberName(callee) ?? '')
    ? effectOf(callee.object)
    : inner;
}

// The name that a module knows an export by, and its tree.
function importing(
  project: Project,
  path: string,
  { specifier: module, name }: Exported,
): { local?: string; program?: Node } {
  const isOf = ({ specifier }: Import): boolean => {
    const led = specifier === module ? undefined : project.resolve(path, specifier);
    return (
      specifier === module ||
      led === module ||
      (led !== undefined && project.declared(led, name)?.file === module)
    );
  };
  const imports = [...(project.summary(path)?.imports ?? [])];
  const local = imports.find(([, each]) => each.name === name && isOf(each))?.[0];
  return local === undefined ? {} : { local, program: project.tree(path)?.script.program };
}

/** Whether a module speaks of something by a name that fits a pattern: outside of its imports, and of functions that nobody in it names. */
export function speaksOf(project: Project, path: string, pattern: RegExp): boolean {
  if (!pattern.test(project.source(path)?.text ?? '')) return false;
  const { script, facts } = project.tree(path) ?? {};
  // What can't be read may speak of anything.
  if (!script || !facts) return true;
  const exported = new Set(
    [...facts.exports].flatMap(([name, each]) => ('local' in each ? [name, each.local] : [name])),
  );
  return script.program.body.some((statement) => {
    if (statement.type === 'ImportDeclaration') return false;
    const own = [...facts.declarations].flatMap(([name, node]) => (isInside(node, statement) ? name : []));
    const isIdle =
      own.length > 0 && own.every((name) => !exported.has(name) && !isNamed(script.program, statement, name));
    return !isIdle && hasNode(statement, (node) => pattern.test(nameIn(node)));
  });
}

const nameIn = (node: Node): string =>
  node.type === 'Identifier' || node.type === 'JSXIdentifier'
    ? node.name
    : node.type === 'Literal' && typeof node.value === 'string'
      ? node.value
      : '';

// Whether another statement names what one declares.
const isNamed = (program: Program, declaring: Node, name: string): boolean =>
  program.body.some(
    (statement) => statement !== declaring && hasNode(statement, (node) => nameIn(node) === name),
  );

function has(
  project: Project,
  path: string,
  name: string,
  is: (node: Parameters<typeof walkTree>[0]) => boolean,
): boolean {
  if (!project.source(path)?.text.includes(name)) return false;
  const program = project.tree(path)?.script.program;
  return program !== undefined && hasNode(program, is);
}

/** Whether a script may make specs as it is loaded, by itself or by what it loads for that; yes where it can't be read. */
export function mayMakeSpecs(project: Project, path: string): boolean {
  const { script, facts } = project.tree(path) ?? {};
  return !script || !facts || facts.loads.length > 0 || !script.program.body.every(makesNone);
}

// Declarations, and groups with nothing in them: any other statement may make specs.
function makesNone(statement: Node): boolean {
  if (statement.type !== 'ExpressionStatement')
    return /^(?:Import|Export|Variable|Function|Class|TS|Empty)/.test(statement.type);
  const { expression } = statement;
  if (expression.type !== 'CallExpression' || pathOf(expression.callee) !== 'describe') return false;
  const body = expression.arguments.at(-1);
  return isFunction(body) && body.body?.type === 'BlockStatement' && body.body.body.length === 0;
}

/** Whether what a module declares names another of its declarations, directly or through a third. */
export function namesWithin(project: Project, { file, name }: Declared, wanted: string): boolean {
  const declarations = project.tree(file)?.facts.declarations;
  const seen = new Set([name]);
  for (const each of seen) {
    const node = declarations?.get(each);
    if (!node) continue;
    for (const word of wordsNamedIn(node)) if (declarations?.has(word)) seen.add(word);
    if (each !== wanted && seen.has(wanted)) return true;
  }
  return false;
}

/** Whether what a module declares is a function, written out, or a class: no stand-in. */
export function isPlainFunction(project: Project, { file, name }: Declared): boolean {
  const node = project.tree(file)?.facts.declarations.get(name);
  return node?.type === 'VariableDeclarator'
    ? node.init !== null && isFunction(unwrapped(node.init))
    : node !== undefined && (isFunction(node) || node.type === 'ClassDeclaration');
}

/** The export of a package whose call made what a module declares: a store is made by `defineStore` of its library. */
export function makerOf(
  project: Project,
  { file, name }: Declared,
): { specifier: string; name: string } | undefined {
  const { facts } = project.tree(file) ?? {};
  const node = facts?.declarations.get(name);
  const init = node?.type === 'VariableDeclarator' && node.init ? unwrapped(node.init) : undefined;
  const callee = init?.type === 'CallExpression' ? unwrapped(init.callee) : undefined;
  return callee?.type === 'Identifier' ? facts?.imports.get(callee.name) : undefined;
}

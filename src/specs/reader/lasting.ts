import type { Node } from 'oxc-parser';
import {
  FILE_MODULES,
  PACKAGE_CALLS,
  PLATFORM_CALLS,
  PLATFORM_OBJECTS,
  PLATFORM_PLACES,
  REMOVING_CALLS,
  SERVER_MAKERS,
  WRITING_CALLS,
  type LastingCall,
  type PlatformObject,
  type ServerMaker,
} from '../../libraries/platform.js';
import type { CallNode, SpecReading } from './spec-reading.js';
import type { Env } from '../model/env.js';
import { GLOBAL_OBJECTS } from './names.js';
import { originOf } from './origins.js';
import type { LastingEffect } from '../model/steps.js';
import type { Declared } from '../../project/project.js';
import { memberName, propertyName, unwrapped, walkTree, propertyChain } from '../../syntax/tree.js';
import { textOfValue, type LibraryObject, type Value } from '../model/values.js';

type Instance = Extract<Value, { is: 'instance' }>;
type Read = Extract<Value, { is: 'read' }>;

const textOf = (run: SpecReading, node: Node): string =>
  run.tree.script.source.text.slice(node.start, node.end);

function emit(run: SpecReading, lasting: LastingEffect, node: Node): void {
  if (run.inSpecOrHook) run.emit({ kind: 'lasting', lasting }, node);
}

// A value that is written to a path from the global object, or, with no value, deleted there.
function emitWrite(
  run: SpecReading,
  path: string,
  node: Node,
  { text, deleted = false, defined }: Pick<LastingEffect, 'text' | 'defined'> & { deleted?: boolean },
): void {
  const place = PLATFORM_PLACES.find(
    (each) => path.startsWith(`${each.path}.`) || (each.whole && path === each.path),
  );
  const what = place?.what ?? 'global';
  // What is stored is not written back, but cleared.
  const does = what === 'storage' ? (deleted ? 'close' : 'open') : 'set';
  emit(run, { what, does, key: place?.key ?? path, text, defined }, node);
}

/** A write to the platform: `document.title = …`, `window.innerWidth = …`, `delete process.env.KILN`. */
export function writtenToPlatform(
  run: SpecReading,
  target: Value,
  node: Node,
  value: Value | undefined,
): void {
  const text = textOf(run, node);
  if (target.is === 'global') {
    emitWrite(run, target.path, node, { text, deleted: value === undefined });
    return;
  }
  if (target.is !== 'read' || target.of.is !== 'thing') return;
  const { of, name } = target;
  if (of.part !== undefined && !EMPTYING.has(name))
    emit(run, { what: 'global', does: 'set', key: `document.${of.part}.${name}`, text }, node);
  else if (of.type === 'page') {
    const written = textOfValue(value);
    if (name === 'title') emit(run, { what: 'title', does: 'set', key: 'title', text }, node);
    else if (name === 'cookie')
      emit(
        run,
        {
          what: 'cookie',
          does: /max-age=0|expires=[^;]*(?:1970|1969)/i.test(written ?? '') ? 'close' : 'open',
          key: 'cookie',
          text,
        },
        node,
      );
    else emit(run, { what: 'global', does: 'set', key: `document.${name}`, text }, node);
  } else if (of.part !== undefined) {
    const empty = value?.is === 'constant' && (value.value === '' || value.value === null);
    emit(run, { what: 'page', does: empty ? 'close' : 'open', key: of.part, text }, node);
  }
}

const EMPTYING = new Set(['innerHTML', 'textContent', 'outerHTML']);

const PLACING = new Set(
  'append appendChild prepend insertBefore insertAdjacentElement replaceChild'.split(' '),
);

function placedInPage(
  run: SpecReading,
  name: string,
  on: LibraryObject,
  args: readonly Value[],
  node: CallNode,
): void {
  const text = textOf(run, node.callee);
  const last = name === 'insertAdjacentElement' ? args[1] : args[0];
  if (on.part === undefined) {
    if (name === 'remove') emit(run, { what: 'page', does: 'close', key: 'node', text, handle: on }, node);
    return;
  }
  if (PLACING.has(name)) emit(run, { what: 'page', does: 'open', key: on.part, text, handle: last }, node);
  else if (name === 'removeChild')
    emit(run, { what: 'page', does: 'close', key: 'node', text, handle: last }, node);
  else if (name === 'replaceChildren' && args.length === 0)
    emit(run, { what: 'page', does: 'close', key: on.part, text }, node);
  else if (name === 'insertAdjacentHTML') emit(run, { what: 'page', does: 'open', key: on.part, text }, node);
}

/** A method of the page or a part of it: a listener that is added or taken off, a node that is put there or taken away. */
export function calledOnPage(
  run: SpecReading,
  name: string,
  on: Value,
  args: readonly Value[],
  node: CallNode,
): void {
  if (on.is !== 'thing') return;
  const call = PLATFORM_CALLS.get(name);
  const isPage = on.type === 'page' || on.part !== undefined;
  if (isPage && call?.what === 'listener') byCall(run, call, args, node, 'document:');
  else placedInPage(run, name, on, args, node);
}

/** A call of the platform that outlives the spec. */
export function calledOnPlatform(
  run: SpecReading,
  path: string,
  args: readonly Value[],
  node: CallNode,
): void {
  const call = PLATFORM_CALLS.get(path);
  if (call) byCall(run, call, args, node, '');
  else if (/^(?:window\.)?dispatchEvent$/.test(path))
    run.emit({ kind: 'act', by: 'raw', name: 'dispatchEvent', args }, node);
  else if (path === 'Object.defineProperty' || path === 'Reflect.defineProperty') defined(run, args, node);
  else if (path === 'Reflect.deleteProperty') defined(run, args, node);
  else if (path === 'Object.assign' && args[0]?.is === 'global')
    emit(run, { what: 'global', does: 'set', key: args[0].path, text: textOf(run, node.callee) }, node);
}

function byCall(
  run: SpecReading,
  call: LastingCall,
  args: readonly Value[],
  node: CallNode,
  scope: string,
): void {
  const { what, does, key } = call;
  if (what === 'listener' && endsByItself(args[2])) return;
  const name = typeof key === 'number' ? textOfValue(args[key]) : key;
  emit(
    run,
    { what, does, key: name === undefined ? '' : scope + name, text: textOf(run, node.callee) },
    node,
  );
}

// A listener that is taken off after its first event, or by a signal.
const endsByItself = (options: Value | undefined): boolean =>
  options?.is === 'object' &&
  (options.entries.has('signal') || options.entries.get('once')?.is === 'constant');

// `Object.defineProperty(window, 'innerWidth', …)`
function defined(run: SpecReading, [target, name, options]: readonly Value[], node: CallNode): void {
  const member = textOfValue(name) ?? '[]';
  const set = options?.is === 'object' ? options.entries.get('configurable') : undefined;
  const configurable = set?.is === 'constant' && set.value === true;
  const written = { text: `${textOf(run, node.arguments[0] ?? node)}.${member}`, defined: { configurable } };
  if (target?.is === 'global')
    emitWrite(run, GLOBAL_OBJECTS.has(target.path) ? member : `${target.path}.${member}`, node, written);
  else if (target?.is === 'thing' && target.type === 'page')
    emit(run, { what: 'global', does: 'set', key: `document.${member}`, ...written }, node);
}

/** A call on a package, known by its module: locales, seeds, files. */
export function calledOnPackage(
  run: SpecReading,
  { module, name }: Extract<Value, { is: 'external' }>,
  node: CallNode,
): void {
  const text = textOf(run, node.callee);
  if (FILE_MODULES.has(module)) {
    const does = WRITING_CALLS.test(name) ? 'open' : REMOVING_CALLS.test(name) ? 'close' : undefined;
    if (does) emit(run, { what: 'file', does, key: '', text }, node);
    return;
  }
  const call = PACKAGE_CALLS[module]?.[name];
  if (call) emit(run, { what: call.what, does: call.does, key: String(call.key ?? ''), text }, node);
}

/** `new WebSocket(…)`: open from the time that it is made. */
export function madeOpen(run: SpecReading, value: Instance, node: Node): void {
  const row = value.of.is === 'global' ? platformObject(value.of.path) : undefined;
  if (row && !row.opens)
    emit(
      run,
      { what: row.what, does: 'open', key: value.name, text: `new ${value.name}`, handle: value },
      node,
    );
}

/** A method of an object that opens and closes: an observer, a connection, a server, something that is subscribed to. */
export function openedOrClosed(
  run: SpecReading,
  env: Env,
  { of, name }: Read,
  node: CallNode,
): LastingEffect | undefined {
  const text = textOf(run, node.callee);
  answered(run, { is: 'read', of, name }, node);
  if (of.is === 'instance') {
    const object = of.of.is === 'global' ? platformObject(of.of.path) : undefined;
    const server = serverMaker(of);
    const [opens, closes] = [object?.opens ?? server?.opens, object?.closes ?? server?.closes];
    if (closes !== undefined && (name === opens || name === closes)) {
      const what = object?.what ?? 'server';
      emit(run, { what, does: name === closes ? 'close' : 'open', key: of.name, text, handle: of }, node);
      return undefined;
    }
  }
  if (name === 'subscribe') return subscribed(run, env, of, node, text);
  if (name === 'unsubscribe') emit(run, { what: 'subscription', does: 'close', key: '', text }, node);
  return undefined;
}

const ANSWERING: ReadonlySet<string> = new Set(
  Object.values(SERVER_MAKERS).flatMap(({ answers, resets }) => (answers && resets ? [answers, resets] : [])),
);

// `server.use(…)`, `server.resetHandlers()`, of a server of this file or of another module.
function answered(run: SpecReading, { of, name }: Read, node: CallNode): void {
  if (!ANSWERING.has(name)) return;
  const maker =
    of.is === 'instance' ? serverMaker(of) : of.is === 'project' ? makerAt(run, of.declared) : undefined;
  const does = name === maker?.answers ? 'open' : name === maker?.resets ? 'close' : undefined;
  if (!does || (does === 'open' && answersOnce(node))) return;
  emit(run, { what: 'answers', does, key: '', text: textOf(run, node.callee) }, node);
}

// `export const server = setupServer(…)` of another module.
function makerAt(run: SpecReading, { file, name }: Declared): ServerMaker | undefined {
  const facts = run.project.tree(file)?.facts;
  const node = facts?.declarations.get(name);
  const init = node?.type === 'VariableDeclarator' && node.init ? unwrapped(node.init) : undefined;
  const callee = init?.type === 'CallExpression' ? unwrapped(init.callee) : undefined;
  const from = callee?.type === 'Identifier' ? facts?.imports.get(callee.name) : undefined;
  const isOfProject = from && run.project.resolve(file, from.specifier) !== undefined;
  return from && !isOfProject ? SERVER_MAKERS[from.name] : undefined;
}

// `{ once: true }`, `response.once(…)`: the answer goes by itself.
function answersOnce(node: CallNode): boolean {
  let once = false;
  walkTree(node, (each) => {
    once ||=
      memberName(each) === 'once' ||
      (each.type === 'Property' && propertyName(each.key, each.computed) === 'once');
    return !once;
  });
  return once;
}

const platformObject = (name: string): PlatformObject | undefined =>
  Object.hasOwn(PLATFORM_OBJECTS, name) ? PLATFORM_OBJECTS[name] : undefined;

function serverMaker({ of, name }: Instance): ServerMaker | undefined {
  if (of.is !== 'external') return undefined;
  return SERVER_MAKERS[name.split('.').at(-1) ?? name];
}

// Only what is subscribed to outside of the spec goes on after it.
function subscribed(run: SpecReading, env: Env, of: Value, node: CallNode, text: string): LastingEffect {
  const { root } = propertyChain(node.callee);
  const named = root.type === 'Identifier' ? env.find(root.name)?.binding : undefined;
  const binding = originOf(run, of)?.binding ?? named;
  const lasting: LastingEffect = { what: 'subscription', does: 'open', key: text, text, handle: of, binding };
  emit(run, lasting, node);
  return lasting;
}

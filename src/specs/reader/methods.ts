import { isGlobalFunction, isMethod } from '../../language/operations.js';
import { operated } from '../../language/reader.js';
import { changeBy } from '../../libraries/changes.js';
import { TYPES } from '../../libraries/types.js';
import type { Node } from 'oxc-parser';
import { unwrapped, propertyChain } from '../../syntax/tree.js';
import { printed } from './apply.js';
import type { Guard } from '../model/steps.js';
import type { CallNode, SpecReading } from './spec-reading.js';
import type { Render } from '../model/steps.js';
import type { Env } from '../model/env.js';
import { CHAINS } from '../../syntax/promises.js';
import { calledOnPage, calledOnPlatform, openedOrClosed } from './lasting.js';
import { bareComponent } from './members.js';
import { isOutOfSight } from './out-of-sight.js';
import { setInput } from './renders.js';
import { keepAnswer } from './stand-ins.js';
import { callbackGuard, guardOf } from './guards.js';
import { writesTo } from './names.js';
import { loopGuard, loopOver, mayBeEmpty } from './statements.js';
import { takeEarly, useName } from './uses.js';
import { assertsSince, forgotten } from './waiting.js';
import {
  itemOf,
  valueOfData,
  UNKNOWN_VALUE,
  promised,
  settled,
  textOfValue,
  type Value,
} from '../model/values.js';

const RUNNING_METHODS = new Set(
  'forEach map filter find findIndex some every reduce flatMap then catch finally'.split(' '),
);

// `cy.get(…).then(…)`: a name that nobody declares stands at the start of the chain.
function startsFromGlobal(env: Env, node: Node): boolean {
  let at = unwrapped(node);
  while (at.type === 'CallExpression' || at.type === 'MemberExpression')
    at = unwrapped(at.type === 'CallExpression' ? at.callee : at.object);
  return at.type === 'Identifier' && env.find(at.name) === undefined;
}

const CHANGING: ReadonlySet<string> = new Set(
  'push pop shift unshift splice sort reverse fill copyWithin'.split(' '),
);

// What a name holds is no longer the list that was written, once a method has changed that in place.
function changedInPlace(
  run: SpecReading,
  env: Env,
  node: CallNode,
  list: Extract<Value, { is: 'list' }>,
): void {
  const callee = unwrapped(node.callee);
  const object = callee.type === 'MemberExpression' ? unwrapped(callee.object) : undefined;
  const slot = object?.type === 'Identifier' ? env.find(object.name) : undefined;
  if (slot?.value === list) run.setSlot(slot, { ...list, open: true });
}

// What stands before it in its chain may assert, or throw, where the promise is not rejected.
function rejectionGuard(run: SpecReading, env: Env, node: CallNode, since: number): Guard {
  const callee = unwrapped(node.callee);
  const guard = guardOf(run, env, 'catch', callee.type === 'MemberExpression' ? callee.object : callee);
  guard.covered = run.block.steps
    .slice(since)
    .some(({ kind, via }) => (kind === 'throw' || kind === 'assert') && !via);
  return guard;
}

/**
 * A method of a value that no dialect names: of a list, a promise, the page, an object that opens and closes. `since`: how
 * many steps the running block had before what it is called on was read.
 */
export function callMethod(
  run: SpecReading,
  env: Env,
  target: Extract<Value, { is: 'read' }>,
  args: readonly Value[],
  node: CallNode,
  since: number,
): Value {
  if (CHANGING.has(target.name)) writesTo(run, target.of);
  if (target.of.is === 'list' && CHANGING.has(target.name)) changedInPlace(run, env, node, target.of);
  const known = operatedBy(run, target.name, [target.of, ...args], node);
  if (known) return known;
  if (target.name === 'bind') return { is: 'bound', of: run.declaredValue(target.of), args: args.slice(1) };
  const isChain = CHAINS.has(target.name);
  const before = run.block.steps.length;
  const forgets = target.name === 'forEach' || (target.name === 'map' && run.discarded === node);
  if (RUNNING_METHODS.has(target.name)) {
    const { callee } = node;
    if (target.of.is === 'list' && callee.type === 'MemberExpression')
      takeEarly(run, env, callee.object, node);
    const isWalk = run.flags.maybe || mayBeEmpty(target.of);
    const walked = loopGuard(run, env, target.of, node.callee) ?? run.flags.guard;
    const item = target.of.is === 'list' ? itemOf(target.of) : elementOf(settled(target.of));
    for (const [i, each] of args.entries()) {
      if (each.is !== 'function') continue;
      // `load().catch(…)`, `load().then(…, …)`: it runs where the promise is rejected.
      const isRejection = target.name === 'catch' || (target.name === 'then' && i === 1);
      const maybe = isWalk || isRejection;
      const guard = isRejection ? rejectionGuard(run, env, node, since) : walked;
      const loop = loopOver(run, target.of, node.callee) ?? run.flags.loop;
      const given = run.under({ maybe, guard, loop, inCallback: run.flags.inCallback || isRejection }, () =>
        repeating(run, () => {
          // It runs once the promise is settled.
          if (isChain) run.emit({ kind: 'waited' }, node);
          return run.callFunction(each, target.name === 'reduce' ? [args[1] ?? item, item] : [item], node);
        }),
      );
      if (forgets) forgotten(run, given, node, before);
    }
    const asserts = (): boolean => run.block.steps.slice(before).some(({ kind }) => kind === 'assert');
    // Whatever has a method of this name calls back later; only commands that a runner puts in a queue wait for it.
    const settles = isChain && (target.of.is === 'promise' || (asserts() && !startsFromGlobal(env, node)));
    return settles ? promised(UNKNOWN_VALUE, 'chain') : { is: 'read', of: target.of, name: target.name };
  }
  const calledBy = callsBack(target);
  const guard = calledBy ? callbackGuard(run, calledBy, node) : run.flags.guard;
  run.under({ guard }, () => args.forEach((each) => run.handOut(each)));
  const opened = openedOrClosed(run, env, target, node);
  if (opened) return { is: 'thing', type: 'subscription', opened };
  calledOnPage(run, target.name, target.of, args, node);
  answersReplaced(run, env, target, args, node);
  calledOnInstance(run, target, args, node);
  judgedOutOfSight(run, target, node);
  const [name, given] = args;
  const input = target.name === 'setInput' ? textOfValue(name) : undefined;
  if (input !== undefined && target.of.is === 'thing' && target.of.render)
    setInput(target.of.render, input, given);
  return { is: 'read', of: target.of, name: target.name, than: name };
}

// What a package out of sight gives may judge the page by itself: `TextField({ id: 'cone' }).exists()`.
function judgedOutOfSight(
  run: SpecReading,
  { of, name }: Extract<Value, { is: 'read' }>,
  node: CallNode,
): void {
  if (run.discarded === node && JUDGING.test(name) && isOutOfSight(of))
    run.emit({ kind: 'unknown-call', name, discarded: true }, node);
}

const JUDGING = /^(?:exists?|absent|has|is|contains?|matches|(?:should|expect|assert|verify|check)\w*)$/;

// A method of a component's instance, called for what it does: the component is told to do something.
function calledOnInstance(
  run: SpecReading,
  { of, name }: Extract<Value, { is: 'read' }>,
  args: readonly Value[],
  node: CallNode,
): void {
  const isOfNode = DEEDS_OF_NODES.has(name) && (of.is === 'read' || isOutOfSight(of));
  const emit = (render: Render | undefined): void =>
    run.emit({ kind: 'act', by: isOfNode ? 'raw' : 'program', render, name, args }, node);
  if (changeBy(name, args.length) === 'sets-state' && of.is === 'thing') return emit(of.render);
  if (run.discarded !== node || LISTENING.has(name) || NO_DEED.has(name) || isStandInMember(name)) return;
  const instance = instanceOf(run, of);
  if (instance) emit(instance.render);
  else if (isOfNode && isOutOfSight(of)) emit(undefined);
}

// What a node of the page can be told to do: `wrapper.vm.$refs.lids[0].click()`.
const DEEDS_OF_NODES = new Set(['click', 'dispatchEvent', 'focus', 'blur']);

// The instance that a value was read off; none behind the record of a stand-in: `component.open.and`.
function instanceOf(run: SpecReading, value: Value): { render?: Render } | undefined {
  if (value.is === 'read') return isStandInMember(value.name) ? undefined : instanceOf(run, value.of);
  if (value.is === 'instance') return bareComponent(run, value) && {};
  if (value.is === 'thing') return value.type === 'instance' && !value.reach ? value : undefined;
  return undefined;
}

// They look for changes, or wait for them.
const NO_DEED = new Set(['$nextTick', '$forceUpdate', '$destroy', 'detectChanges', 'markForCheck']);

const isStandInMember = (name: string): boolean => Object.hasOwn(TYPES['stand-in'].members, name);

// What a function or method of the language gives for data.
function operatedBy(run: SpecReading, by: string, of: readonly Value[], node: CallNode): Value | undefined {
  if (!isMethod(by) && !isGlobalFunction(by)) return undefined;
  if (node.arguments.some(({ type }) => type === 'SpreadElement')) return undefined;
  const result = operated(by, of, run);
  return result && valueOfData(result.value, node, run.tree.path);
}

// A listener on the page, an element or the instance of a component runs if the event comes, a subscriber if a value does.
function callsBack({ of, name }: Extract<Value, { is: 'read' }>): 'event' | 'value' | undefined {
  if (of.is === 'thing' && LISTENING.has(name)) return 'event';
  if (name !== 'subscribe' || isWrittenStream(of)) return undefined;
  const owner = of.is === 'read' && of.of.is === 'thing' ? of.of.type : undefined;
  return owner === 'instance' ? 'event' : 'value';
}

// `of(1, 2).pipe(…)`: the spec itself says which values come.
function isWrittenStream(value: Value): boolean {
  if (value.is === 'external') return value.module === 'rxjs' || value.module.startsWith('rxjs/');
  return (value.is === 'read' || value.is === 'instance') && isWrittenStream(value.of);
}

const LISTENING = new Set(['addEventListener', '$on', '$once', 'on', 'once']);

// `load.mockResolvedValue([])` on an import of a module that the runner replaces.
function answersReplaced(
  run: SpecReading,
  env: Env,
  target: Extract<Value, { is: 'read' }>,
  args: readonly Value[],
  node: CallNode,
): void {
  const meaning = isStandInMember(target.name) ? TYPES['stand-in'].members[target.name] : undefined;
  if (meaning?.kind === 'answer') keepAnswer(run, env, undefined, meaning, args[0], node);
}

const elementOf = (value: Value): Value => {
  if (value.is !== 'thing' || !value.reach) return UNKNOWN_VALUE;
  return {
    ...value,
    type: value.type === 'elements' ? 'element' : value.type === 'wrappers' ? 'wrapper' : value.type,
  };
};

// Specs that a loop makes are several.
function repeating<T>(run: SpecReading, read: () => T): T {
  run.loops++;
  try {
    return read();
  } finally {
    run.loops--;
  }
}

const KNOWN_GLOBALS = new Set(
  'Object Array JSON Math Promise Number String Boolean Symbol Date BigInt Reflect RegExp Error setTimeout setInterval clearTimeout clearInterval setImmediate queueMicrotask requestAnimationFrame cancelAnimationFrame console localStorage sessionStorage history location navigator structuredClone getComputedStyle matchMedia URL process performance crypto customElements isNaN isFinite parseInt parseFloat encodeURI encodeURIComponent decodeURI decodeURIComponent fetch alert confirm prompt scrollTo scroll getSelection addEventListener removeEventListener dispatchEvent Buffer Intl require Map Set'.split(
    ' ',
  ),
);

/** Whether a path from the global object starts at a part of the platform. */
export const isOfPlatform = (path: string): boolean => KNOWN_GLOBALS.has(path.split('.')[0] ?? '');

/** A call of the platform's own functions. */
export function callGlobal(
  run: SpecReading,
  env: Env,
  path: string,
  args: readonly Value[],
  node: CallNode,
): Value {
  if (path === 'Object.freeze') return args[0] ?? UNKNOWN_VALUE;
  const known = operatedBy(run, path, args, node);
  if (known) return known;
  if (path === 'Object.assign' || path === 'Object.defineProperty') written(run, env, node.arguments[0]);
  if (/^(?:Object\.(?:keys|values|entries)|Array\.from)$/.test(path)) {
    for (const each of args)
      if (each.is === 'function') repeating(run, () => run.callFunction(each, [], node));
    return { is: 'list', items: [], open: true };
  }
  const before = run.block.steps.length;
  args.forEach((each) => run.handOut(each));
  if (path === 'setTimeout' && (run.inPromise || assertsSince(run, before))) delayed(run, args[1], node);
  calledOnPlatform(run, path, args, node);
  if (PRINTING.has(path)) printed(run, node);
  if (path === 'structuredClone') return args[0] ? copyOf(args[0]) : UNKNOWN_VALUE;
  if (PROMISES.has(path)) return promised(UNKNOWN_VALUE, 'chain');
  return { is: 'instance', of: { is: 'unknown' }, name: path };
}

// `new Promise((done) => setTimeout(done, 500))`, or a callback that asserts: the spec goes on once the time is over.
function delayed(run: SpecReading, time: Value | undefined, node: CallNode): void {
  if (time?.is === 'constant' && typeof time.value === 'number')
    run.emit({ kind: 'delay', time: time.value }, node);
}

// Warnings and errors are printed for the reader of the run.
const PRINTING = new Set(['console.log', 'console.info', 'console.debug', 'console.dir', 'console.table']);

const PROMISES = new Set(['fetch', 'Promise.all', 'Promise.allSettled', 'Promise.race', 'Promise.resolve']);

// A copy with parts of its own.
const copyOf = (value: Value): Value =>
  value.is === 'object' || value.is === 'list' ? UNKNOWN_VALUE : value;

// Built-in functions that write into their first argument.
function written(run: SpecReading, env: Env, node: Node | undefined): void {
  if (!node) return;
  const { root, path } = propertyChain(node);
  if (root.type === 'Identifier') useName(run, env, root.name, root, 'write', [...path, '[]']);
}

import type { Meaning } from '../../libraries/meaning.js';
import { assertBy, assertByCall, eitherIn, startExpectation } from './assertions.js';
import { isOptionalChain, namesOnTheWay, type FunctionNode } from '../../syntax/tree.js';
import type { CallNode, SpecReading } from './spec-reading.js';
import type { Env } from '../model/env.js';
import type { Assertion, Reach, Settling, Step } from '../model/steps.js';
import type { Span } from '../../finding.js';
import { hopFrom, pickByCallback, pickFrom, reachBy, receiverText } from './reaches.js';
import { handedToTick } from './waiting.js';
import { calledOnPage } from './lasting.js';
import { overrideComponent, renderBy } from './renders.js';
import { asStandIn, hookCalledBy } from './replaced-modules.js';
import { answer, makerOf, receiverBinding, standIn } from './stand-ins.js';
import {
  constantValue,
  UNKNOWN_VALUE,
  promised,
  libraryObjectOf,
  type Pending,
  type LibraryObject,
  type Value,
} from '../model/values.js';

type Library = Extract<Value, { is: 'library' }>;

/** A call of something that a dialect names. */
export function applyMeaning(
  run: SpecReading,
  env: Env,
  callee: Library,
  args: readonly Value[],
  node: CallNode,
): Value {
  const { meaning, name, module } = callee;
  const of = callee.of?.is === 'thing' ? callee.of : undefined;
  switch (meaning.kind) {
    case 'render':
      return waited(meaning.waits, renderBy(run, meaning, { name, module, node, args }), 'wait');
    case 'query':
      args.forEach((each) => each.is === 'function' && run.callFunction(each, [], node));
      return waited(
        meaning.waits,
        reachBy(run, meaning, { name, node, of, args, receiver: receiverText(run, node) }),
        'query',
      );
    case 'hop':
      return of ? hopFrom(run, of, meaning.gives, name, node, args) : UNKNOWN_VALUE;
    case 'pick':
      if (meaning.by === 'callback') return of ? pickByCallback(run, of, args[0], node) : UNKNOWN_VALUE;
      return of
        ? pickFrom(
            run,
            of,
            meaning.index ?? (args[0]?.is === 'constant' ? Number(args[0].value) : 'unknown'),
            node,
          )
        : UNKNOWN_VALUE;
    case 'act':
      return waited(
        meaning.waits,
        act(run, meaning, of, args, name, node),
        meaning.by === 'user' ? 'action' : 'trigger',
      );
    case 'rerender':
      args.forEach((each) => run.handOut(each));
      run.emit({ kind: 'act', by: 'program', render: of?.render, name, args }, node);
      return UNKNOWN_VALUE;
    case 'runs':
      if (meaning.asserts) assertByCall(run, name, args, node);
      return runs(run, meaning, name, args, node);
    case 'ticks':
      return ticks(run, args, node);
    case 'within':
      return waited(
        meaning.waits,
        {
          is: 'thing',
          type: meaning.gives ?? 'queries',
          reach: libraryObjectOf(args[0])?.reach,
          render: libraryObjectOf(args[0])?.render,
        },
        'query',
      );
    case 'gives':
      if (meaning.type === 'stand-in') return asStandIn(run, env, args[0], node);
      args.forEach((each) => run.handOut(each));
      // The record of one event is only there once the event was.
      if (meaning.type === 'record' && args.length > 0 && of) return { is: 'read', of, name, than: args[0] };
      // What an injector gives is of the type that it is asked for.
      if (meaning.type === 'chain' && args[0]?.is === 'library' && args[0].meaning.kind === 'object')
        return { is: 'thing', type: args[0].meaning.type };
      return {
        is: 'thing',
        type: meaning.type,
        reach: of?.reach,
        render: of?.render,
        standIn: of?.standIn,
        hook: meaning.hook && hookCalledBy(run, args[0]),
      };
    case 'hands-on':
      return args[0] ?? UNKNOWN_VALUE;
    case 'overrides':
      overrideComponent(run, args);
      return of ?? UNKNOWN_VALUE;
    case 'unmount':
      run.emit({ kind: 'unmount', render: of?.render, automatic: meaning.automatic ?? false }, node);
      return UNKNOWN_VALUE;
    case 'closes':
      if (of?.opened) run.emit({ kind: 'lasting', lasting: { ...of.opened, does: 'close' } }, node);
      return UNKNOWN_VALUE;
    default:
      return assertsOrFakes(run, env, callee, args, node);
  }
}

function assertsOrFakes(
  run: SpecReading,
  env: Env,
  callee: Library,
  args: readonly Value[],
  node: CallNode,
): Value {
  const { meaning, name } = callee;
  const of = callee.of?.is === 'thing' ? callee.of : undefined;
  switch (meaning.kind) {
    case 'expect':
      // These ask again until it holds, and so give a promise.
      return {
        ...expectation(run, args, node),
        promised: name === 'element' || name === 'poll' || undefined,
      };
    case 'matcher':
      return assertBy(run, callee, args, node);
    case 'expectation-chain':
      return of ?? UNKNOWN_VALUE;
    case 'asserts':
      for (const each of args)
        if (each.is === 'function') run.under({ inCallback: true }, () => run.callFunction(each, [], node));
      assertByCall(run, name === 'default' ? 'assert' : name, args, node);
      return UNKNOWN_VALUE;
    case 'assertion-count':
      assertByCall(run, name, [], node);
      return UNKNOWN_VALUE;
    case 'stand-in':
      return standIn(run, env, callee, meaning, args, node);
    case 'answer':
    case 'watches':
      return answer(run, env, meaning, of, args, node);
    case 'restore':
      run.emit(
        {
          kind: 'restore',
          scope: meaning.scope,
          what: meaning.what,
          maker: makerOf(run, callee, node),
          standIn: of?.standIn,
          binding: receiverBinding(env, node),
        },
        node,
      );
      return of ?? UNKNOWN_VALUE;
    case 'prints':
      printed(run, node);
      return UNKNOWN_VALUE;
    case 'clock':
      run.emit(
        {
          kind: 'clock',
          on: meaning.on,
          name: run.tree.script.source.text.slice(node.callee.start, node.callee.end),
          told: node.arguments.length > 0,
        },
        node,
      );
      return { is: 'thing', type: 'clock' };
    default:
      args.forEach((each) => run.handOut(each));
      return UNKNOWN_VALUE;
  }
}

/** A call that prints markup or values. */
export function printed(run: SpecReading, node: CallNode): void {
  const { start, end } = node.callee;
  const name = run.tree.script.source.text.slice(start, end);
  run.emit({ kind: 'print', name, statement: run.discarded === node && run.site === undefined }, node);
}

const waited = (waits: boolean | undefined, value: Value, by: Pending): Value =>
  waits ? promised(value, by) : value;

function act(
  run: SpecReading,
  meaning: Extract<Meaning, { kind: 'act' }>,
  of: LibraryObject | undefined,
  args: readonly Value[],
  name: string,
  node: CallNode,
): Value {
  const direct = of?.reach || of?.render ? of : undefined;
  const target = direct ?? libraryObjectOf(args[0]);
  args.forEach((each) => run.handOut(each));
  if (of) calledOnPage(run, name, of, args, node);
  const { start, end } = node.callee;
  const isStatement = run.discarded === node && run.active.length === 1 && run.site === undefined;
  const spans = node.arguments.map((argument) => ({ start: argument.start, end: argument.end }));
  const statement = isStatement ? { callee: { start, end }, args: spans } : undefined;
  run.emit(
    {
      kind: 'act',
      by: meaning.by,
      reach: target?.reach,
      render: target?.render,
      name,
      on: of?.type,
      // `user.keyboard('{Enter}')` is of no element.
      args: direct || args[0]?.is === 'constant' || args[0]?.is === 'text' ? args : args.slice(1),
      statement,
    },
    node,
  );
  return UNKNOWN_VALUE;
}

function runs(
  run: SpecReading,
  meaning: Extract<Meaning, { kind: 'runs' }>,
  name: string,
  args: readonly Value[],
  node: CallNode,
): Value {
  const fn = args.findLast((each) => each.is === 'function');
  if (meaning.defers && fn?.is === 'function') run.deferred.add(fn.node);
  if (meaning.defers) return fn ?? UNKNOWN_VALUE;
  if (fn?.is !== 'function') return waited(meaning.waits, UNKNOWN_VALUE, 'wait');
  const retried = meaning.retries ? run.placeOf(node) : run.flags.retried;
  const settled = meaning.settles ? settling(run.placeOf(node), fn.node) : run.flags.settled;
  const before = run.block.steps.length;
  const value = run.under({ retried, settled }, () => run.callFunction(fn, [], node));
  if (meaning.retries === 'till-passes') endsAtOnce(run, name, fn.node, before, node);
  return waited(meaning.waits, value, 'wait');
}

const settling = (place: Span, { async, body }: FunctionNode): Settling => ({
  ...place,
  async,
  statements: body?.type === 'BlockStatement' ? body.body.length : 1,
});

// A callback with nothing in it, or with no more than a query that gives nothing where it finds nothing.
function endsAtOnce(
  run: SpecReading,
  name: string,
  { body }: FunctionNode,
  before: number,
  node: CallNode,
): void {
  if (body?.type === 'BlockStatement' && body.body.length === 0) run.emit({ kind: 'first-look', name }, node);
  if (body?.type !== 'CallExpression') return;
  const [only, ...others] = run.block.steps.slice(before).filter(({ kind }) => kind !== 'use');
  if (only?.kind === 'reach' && !only.reach.missing.endsWith('throws') && others.length === 0)
    run.emit({ kind: 'first-look', name, query: only.reach.name }, node);
  const found =
    only?.kind === 'assert' && others.length === 0 ? foundBefore(run, only.assertion, before) : undefined;
  if (found) run.emit({ kind: 'first-look', name, query: found.name, found: true }, node);
}

// The query that throws, and has found what is asserted to be there; nothing was done since.
function foundBefore(
  { block: { steps } }: SpecReading,
  { subject, asks, not }: Assertion,
  before: number,
): Reach | undefined {
  const { reach } = subject.is === 'thing' ? subject : {};
  if (!reach || not || asks !== 'there' || reach.missing !== 'throws') return undefined;
  const at = steps.findIndex((step) => step.kind === 'reach' && step.reach === (reach.pickedFrom ?? reach));
  const since = steps.slice(at + 1, before);
  return at >= 0 && at < before && since.every(({ kind }) => STILL.has(kind)) ? reach : undefined;
}

const STILL: ReadonlySet<Step['kind']> = new Set(['use', 'reach', 'assert', 'stand-in', 'answer']);

function ticks(run: SpecReading, args: readonly Value[], node: CallNode): Value {
  const [fn] = args;
  if (fn?.is !== 'function') return UNKNOWN_VALUE;
  const before = run.block.steps.length;
  run.emit({ kind: 'waited' }, node);
  run.callFunction(fn, [], node);
  handedToTick(run, node, before);
  return promised(UNKNOWN_VALUE, 'chain');
}

// The function of `expect(() => …)` is run by the matcher that follows.
function expectation(run: SpecReading, args: readonly Value[], node: CallNode): LibraryObject {
  const [subject = constantValue(undefined)] = args;
  if (subject.is === 'function') run.under({ inCallback: true }, () => run.callFunction(subject, [], node));
  const [first] = node.arguments;
  return first
    ? startExpectation(
        run,
        subject,
        first,
        namesOnTheWay(first),
        isOptionalChain(first),
        eitherIn(first, run.tree.script.source.text),
      )
    : startExpectation(run, subject, { start: node.end, end: node.end });
}

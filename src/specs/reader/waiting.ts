import type { Node } from 'oxc-parser';
import type { SpecReading } from './spec-reading.js';
import type { Unwaited } from '../model/steps.js';
import type { Pending, Value } from '../model/values.js';

type CallNode = Extract<Node, { type: 'CallExpression' }>;

/** A statement whose value nobody takes: if that is a promise, its work runs on by itself. `before`: steps of the block before it. */
export function leftRunning(run: SpecReading, value: Value, node: CallNode, before: number): void {
  if (!run.inSpecOrHook) return;
  const asserts = assertsSince(run, before);
  const by = pendingBy(value) ?? (asserts && isTimer(value) ? 'timer' : undefined);
  // A callback that something else runs is for that to wait for.
  if (!by || (by === 'at-once' && !asserts) || (run.active.length > 1 && run.site === undefined)) return;
  const unwaited: Unwaited = {
    by,
    name: calleeText(run, node),
    asserts,
    ...mendPlaces(run, node),
  };
  run.emit({ kind: 'unwaited', unwaited }, node);
}

/** What a function gave that is called for each of a list by a method that takes no promise: `forEach`, and `map` for nothing. */
export function forgotten(run: SpecReading, given: Value, node: CallNode, before: number): void {
  if (!run.inSpecOrHook || given.is !== 'promise' || given.by === 'at-once') return;
  const unwaited: Unwaited = { by: 'each', name: calleeText(run, node), asserts: assertsSince(run, before) };
  run.emit({ kind: 'unwaited', unwaited }, node);
}

/** A function that is handed to a tick: older versions give no promise for it, so nothing can wait for what it asserts. */
export function handedToTick(run: SpecReading, node: CallNode, before: number): void {
  if (run.inSpecOrHook && assertsSince(run, before))
    run.emit(
      { kind: 'unwaited', unwaited: { by: 'tick', name: calleeText(run, node), asserts: true } },
      node,
    );
}

/** Whether the running block asserts in any step after the first ones. */
export const assertsSince = (run: SpecReading, before: number): boolean =>
  run.block.steps.slice(before).some(({ kind }) => kind === 'assert');

const calleeText = (run: SpecReading, { callee }: CallNode): string =>
  run.tree.script.source.text.slice(callee.start, callee.end);

const isTimer = (value: Value): boolean =>
  value.is === 'instance' && value.name === 'setTimeout' && value.of.is === 'unknown';

function pendingBy(value: Value): Pending | undefined {
  if (value.is === 'promise') return value.by;
  return value.is === 'thing' && value.type === 'expectation' && value.promised ? 'assertion' : undefined;
}

// An `await` can be written where the innermost function stands in the spec file.
function mendPlaces(run: SpecReading, node: CallNode): Pick<Unwaited, 'at' | 'plainFunction'> {
  const fn = run.active.at(-1);
  if (run.tree.path !== run.file.path || !fn) return {};
  return { at: node.start, plainFunction: fn.async ? undefined : fn.start };
}

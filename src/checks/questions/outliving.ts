import type { LastingKind } from '../../libraries/platform.js';
import type { Block } from '../../specs/model/blocks.js';
import type { LastingEffect, Step, StepOf } from '../../specs/model/steps.js';
import type { FileContext } from './context.js';
import { specsAfter, withHooksBefore } from './order.js';
import { leftBy, type Left } from './ending.js';

/** Something of the platform that is left behind. */
export type LeftLasting = Left<'lasting'>;

/** What specs and hooks do to things of some kinds, without a sure end; one for each thing and block. */
export const leftLasting = (context: FileContext, kinds: ReadonlySet<LastingKind>): LeftLasting[] =>
  leftBy(context, 'lasting', (step, block) =>
    kinds.has(step.lasting.what) && step.lasting.does !== 'close' && !step.inCallback && isFirst(step, block)
      ? (other, byHook) => ends(other, step.lasting, byHook)
      : undefined,
  );

const isFirst = (step: StepOf<'lasting'>, block: Block): boolean =>
  block.steps.find(
    (other) =>
      other.kind === 'lasting' &&
      other.lasting.does !== 'close' &&
      other.lasting.what === step.lasting.what &&
      other.lasting.key === step.lasting.key &&
      other.lasting.handle === step.lasting.handle,
  ) === step;

/** Whether a step ends what another one did: a value is written again, or it is closed. */
function ends(step: Step, { what, does, key, handle }: LastingEffect, byHook = false): boolean {
  if (step.kind !== 'lasting' || step.lasting.what !== what) return false;
  const { lasting } = step;
  // What is written back may be the whole that holds it: `process.env = before`.
  if (does === 'set')
    return lasting.does === 'set' && (lasting.key === key || key.startsWith(`${lasting.key}.`));
  if (lasting.does !== 'close') return false;
  if (what === 'page')
    return byHook || lasting.key === key || lasting.handle === undefined || lasting.handle === handle;
  return lasting.key === key || lasting.key === '' || key === '';
}

/** The first later spec that does not begin by ending, or by setting for itself, what was left. */
export function sufferer(left: LeftLasting, context: FileContext): Block | undefined {
  const { lasting } = left.step;
  return specsAfter(context.file, left.block).find((spec) => {
    const steps = withHooksBefore(spec).flatMap((each) => each.steps);
    const own = steps.findIndex(
      (step) => ends(step, lasting) || (step.kind === 'lasting' && step.lasting.what === lasting.what),
    );
    const first = steps.findIndex(({ kind }) => kind === 'render' || kind === 'act' || kind === 'assert');
    return own < 0 || (first >= 0 && first < own);
  });
}

import { agreed } from '../../environment/facts/environment.js';
import { hooksFor, type Block } from '../../specs/model/blocks.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import type { FileContext } from './context.js';
import { eachHooksAround, specsAfter } from './order.js';
import { leftBy, type Left } from './ending.js';

/** Whether a block switches the clock to a fake one. */
export const fakesClock = ({ steps }: Block): boolean =>
  steps.some((step) => step.kind === 'clock' && step.on);

/** Whether a step runs while a fake clock is in place, by its own block or a hook before it. */
export const runsOnFakeClock = (step: Step, block: Block): boolean => clockBefore(step, block)?.on === true;

/** What was last done to the clock before a step, by its own block or a hook before it. */
export function clockBefore(step: Step, block: Block): StepOf<'clock'> | undefined {
  const hooks = hooksFor(block, 'before-all', 'before-each').flatMap(({ steps }) => steps);
  const before = [...hooks, ...block.steps.slice(0, block.steps.indexOf(step))];
  const last = before.findLast(({ kind }) => kind === 'clock');
  return last?.kind === 'clock' ? last : undefined;
}

/** Clocks that a spec or hook fakes and that nothing surely switches back, with the first spec that does not fake it too. */
export function leftClocks(context: FileContext): Left<'clock'>[] {
  const { file, runners } = context;
  // What runs in the file's own body runs before all specs: a clock switched on there is meant for them all.
  if (fakesClock(file.root) || agreed(runners, ({ fakesClock: always }) => always) === true) return [];
  const left = leftBy(context, 'clock', (step, block) =>
    step.on && isFirst(step, block) ? switchesOff : undefined,
  );
  return left.flatMap((each) => {
    const later = specsAfter(file, each.block).find((spec) => !switchesOn(spec));
    return later ? [{ ...each, later }] : [];
  });
}

const isFirst = (step: Step, block: Block): boolean =>
  block.steps.find((other) => other.kind === 'clock' && other.on) === step;

// A spec that fakes the clock itself does not mind.
const switchesOn = (spec: Block): boolean => [...eachHooksAround(spec), spec].some(fakesClock);

const switchesOff = (step: Step): boolean =>
  (step.kind === 'clock' && !step.on) ||
  (step.kind === 'restore' && step.scope === 'all' && step.what === 'restore' && step.maker !== 'runner');

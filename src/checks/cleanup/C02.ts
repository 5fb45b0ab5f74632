import { agreed } from '../../environment/environment.js';
import type { Mend } from '../../mends/edit.js';
import type { Block } from '../../model/specs/blocks.js';
import type { Step, StepOf } from '../../model/specs/steps.js';
import { inFile, truePlace, type FileCheck, type FileContext, type Found } from '../check.js';
import { inEachHook } from '../hook-edits.js';
import { eachHooksAround, quoted, specsAfter } from '../order.js';
import { leftBy, type Left } from './ending.js';

const message = (call: string, later: string): string =>
  `${call} switches the clock to a fake one and nothing switches it back: ${later} runs on it.`;
const advice = 'Switch back to the real clock in an after-each hook.';

/** A fake clock that stays on. */
export const C02: FileCheck = {
  code: 'C02',
  family: 'cleanup',
  scope: 'file',
  title: 'Fake clock left running',
  level: 'risk',
  why: 'On a clock that stands still, waiting never ends: the spec that hangs is not the one that forgot to switch back.',
  trouble: "it('cools down', () => {\n  vi.useFakeTimers();\n  …\n});",
  mended: 'afterEach(() => {\n  vi.useRealTimers();\n});',
  run: (context) =>
    leftClocks(context)
      .filter(({ ending }) => ending.is === 'never')
      .map((left) => found(left, context)),
};

type ClockLeft = Left & { step: StepOf<'clock'> };

/** Clocks that a spec or hook fakes and that nothing surely switches back, with the first spec that does not fake it too. */
export function leftClocks(context: FileContext): ClockLeft[] {
  const { file, runners } = context;
  // What runs in the file's own body runs before all specs: a clock switched on there is meant for them all.
  const isMeant = file.root.steps.some((step) => step.kind === 'clock' && step.on);
  if (isMeant || agreed(runners, ({ fakesClock }) => fakesClock) === true) return [];
  const left = leftBy(context, (step, block) =>
    step.kind === 'clock' && step.on && isFirst(step, block) ? switchesOff : undefined,
  );
  return left.flatMap((each) => {
    const later = specsAfter(file, each.block).find((spec) => !switchesOn(spec));
    return each.step.kind === 'clock' && later ? [{ ...each, step: each.step, later }] : [];
  });
}

const isFirst = (step: Step, block: Block): boolean =>
  block.steps.find((other) => other.kind === 'clock' && other.on) === step;

const found = ({ step, block, later }: ClockLeft, context: FileContext): Found => ({
  place: inFile(context, step.place),
  block,
  certainty: step.maybe || context.setup === undefined ? 'likely' : 'sure',
  message: message(step.name, quoted(later)),
  advice,
  evidence: [
    ...(step.via ? [{ ...truePlace(context, step), note: 'switched on in this helper' }] : []),
    { ...inFile(context, later.place), note: `${quoted(later)} runs later` },
  ],
  mend: step.via ? undefined : mend(step, block, context),
});

// A spec that fakes the clock itself does not mind.
const switchesOn = (spec: Block): boolean =>
  [...eachHooksAround(spec), spec].some((block) =>
    block.steps.some((step) => step.kind === 'clock' && step.on),
  );

const switchesOff = (step: Step): boolean =>
  (step.kind === 'clock' && !step.on) ||
  (step.kind === 'restore' && step.scope === 'all' && step.what === 'restore' && step.maker !== 'runner');

const SWITCHING: Readonly<Record<string, string>> = {
  'vi.useFakeTimers': 'vi.useRealTimers()',
  'vitest.useFakeTimers': 'vitest.useRealTimers()',
  'jest.useFakeTimers': 'jest.useRealTimers()',
  'jasmine.clock().install': 'jasmine.clock().uninstall()',
  'sinon.useFakeTimers': 'sinon.restore()',
  'mock.timers.enable': 'mock.timers.reset()',
};

function mend({ name }: ClockLeft['step'], block: Block, context: FileContext): Mend | undefined {
  const call = Object.hasOwn(SWITCHING, name) ? SWITCHING[name] : undefined;
  if (call === undefined || !block.parent) return undefined;
  const edits = inEachHook(context, block.parent, 'after-each', [call + context.style.semicolon]);
  return edits && { summary: 'Switch back to the real clock after each spec', safe: true, edits };
}

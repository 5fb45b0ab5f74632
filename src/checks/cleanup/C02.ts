import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Mend, Finding } from '../../finding.js';
import type { StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { afterEachMend } from '../../writing/hook-edits.js';
import { quotedTitle } from '../questions/order.js';
import { leftClocks } from '../questions/clocks.js';
import { traces, type Left } from '../questions/ending.js';

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
  certain: 'Sure where it always runs, and every hook and set-up file around it can be read.',
  trouble: "it('cools down', () => {\n  vi.useFakeTimers();\n  …\n});",
  mended: 'afterEach(() => {\n  vi.useRealTimers();\n});',
  run: (context) =>
    leftClocks(context)
      .filter(({ ending }) => ending.is === 'never')
      .map((left) => found(left, context)),
};

const found = (left: Left<'clock'>, context: FileContext): Finding => {
  const { step, block, later, certainty } = left;
  return {
    place: inFile(context, step.place),
    within: titlesOf(block),
    certainty,
    message: message(step.name, quotedTitle(later)),
    advice,
    evidence: traces(left, 'switched on in this helper', context),
    mend: step.via ? undefined : mend(step, block, context),
  };
};

const SWITCHING: Readonly<Record<string, string>> = {
  'vi.useFakeTimers': 'vi.useRealTimers()',
  'vitest.useFakeTimers': 'vitest.useRealTimers()',
  'jest.useFakeTimers': 'jest.useRealTimers()',
  'jasmine.clock().install': 'jasmine.clock().uninstall()',
  'sinon.useFakeTimers': 'sinon.restore()',
  'mock.timers.enable': 'mock.timers.reset()',
};

function mend({ name }: StepOf<'clock'>, block: Block, context: FileContext): Mend | undefined {
  const call = Object.hasOwn(SWITCHING, name) ? SWITCHING[name] : undefined;
  return call === undefined
    ? undefined
    : afterEachMend(context, block, 'Switch back to the real clock after each spec', [call]);
}

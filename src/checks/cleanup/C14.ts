import type { Finding } from '../../finding.js';
import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Step } from '../../specs/model/steps.js';
import type { FileCheck } from '../questions/check.js';
import { stillClock, waitsForTimers } from '../questions/still-clocks.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { onceAFile } from '../questions/once-a-file.js';
import { runningBlocks } from '../questions/order.js';

const message = (call: string, clock: string): string =>
  `${call} waits for a timer, and the clock that ${clock} in place moves for nobody: the spec runs out of time.`;
const adviceUser = 'Let it move the clock: userEvent.setup({ advanceTimers: jest.advanceTimersByTime })';
const adviceShould = 'Let the clock move on by itself: vi.useFakeTimers({ shouldAdvanceTime: true })';

/** A call that waits for a timer while a fake clock stands still. One finding a file. */
export const C14: FileCheck = {
  code: 'C14',
  family: 'cleanup',
  scope: 'file',
  title: 'Waits on a clock that stands still',
  level: 'blocker',
  why: 'No timer ends on a fake clock that nobody moves: the spec hangs until its time is up, and says only that.',
  certain: 'Sure where the clock is faked as a whole, and the versions of the libraries are known.',
  trouble:
    "vi.useFakeTimers();\nconst user = userEvent.setup();\nawait user.click(screen.getByRole('button', { name: 'Fire' }));",
  mended:
    "vi.useFakeTimers({ shouldAdvanceTime: true });\nconst user = userEvent.setup({ advanceTimers: vi.advanceTimersByTime });\nawait user.click(screen.getByRole('button', { name: 'Fire' }));",
  run(context) {
    const waiting = waitsForTimers(context);
    if (!waiting) return [];
    const all = runningBlocks(context.file).flatMap((block) =>
      block.steps.flatMap((step) => {
        const clock = isSure(step) && waiting(step) ? stillClock(step, block, context) : undefined;
        return clock === undefined ? [] : [found(step, block, clock, context)];
      }),
    );
    return onceAFile(all, 'waits as well');
  },
};

const isSure = ({ awaited, maybe, dead, caught, inCallback, inComponent }: Step): boolean =>
  awaited && !maybe && !dead && !caught && !inCallback && !inComponent;

function found(step: Step, block: Block, clock: string, context: FileContext): Finding {
  const name = step.kind === 'reach' ? step.reach.name : step.kind === 'act' ? step.name : '';
  const isVitest = context.runners[0]?.runner === 'vitest';
  return {
    place: inFile(context, step.place),
    within: titlesOf(block),
    certainty: 'sure',
    message: message(name, clock),
    advice: isVitest ? adviceShould : adviceUser,
    evidence: step.via ? [{ ...truePlace(context, step), note: 'it waits here' }] : [],
  };
}

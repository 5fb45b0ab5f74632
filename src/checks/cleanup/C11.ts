import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { runsOnFakeClock } from '../questions/clocks.js';
import { runningBlocks } from '../questions/order.js';

const message = (time: number): string =>
  `${time} ms pass by the clock, and nothing says that this is enough: on a slow machine the spec fails, on all others it waits for nothing.`;
const advice = (asUser: boolean): string =>
  `Wait for what should be there${asUser ? ' by a query that waits' : ''}, or put a fake clock in place and move it on.`;

// A shorter one lets what is ready run, and is over.
const SHORTEST = 5;

/** A wait for a time, where the spec means a thing. One finding a file. */
export const C11: FileCheck = {
  code: 'C11',
  family: 'cleanup',
  scope: 'file',
  title: 'Waits by the clock',
  level: 'hint',
  why: 'Such specs are the first to fail on a busy machine, and a suite of them is slow on every other.',
  certain: 'Sure where the time is written out and the clock is the platform’s own.',
  trouble:
    "fireEvent.click(fire);\nawait new Promise((done) => setTimeout(done, 500));\nexpect(screen.getByText('Hot')).toBeVisible();",
  mended: "fireEvent.click(fire);\nexpect(await screen.findByText('Hot')).toBeVisible();",
  run(context) {
    const delays = runningBlocks(context.file).flatMap((block) =>
      block.steps.filter(isDelay).flatMap((step) => (isReal(step, block) ? [{ step, block }] : [])),
    );
    const [first] = delays;
    return first ? [found(first, delays, context)] : [];
  },
};

type Delay = StepOf<'delay'>;

const isDelay = (step: Step): step is Delay =>
  step.kind === 'delay' && step.time >= SHORTEST && !step.dead && !step.inComponent;

// What a stand-in or the component waits for is no wait of the spec's; under a fake clock no time passes.
const isReal = (step: Delay, block: Block): boolean => !step.inCallback && !runsOnFakeClock(step, block);

const found = (
  { step, block }: { step: Delay; block: Block },
  all: readonly { step: Delay }[],
  context: FileContext,
): Finding => ({
  place: inFile(context, step.place),
  within: titlesOf(block),
  certainty: step.maybe ? 'likely' : 'sure',
  message: message(step.time),
  advice: advice(context.userCentred),
  evidence: [
    ...(step.via ? [{ ...truePlace(context, step), note: 'the time passes here' }] : []),
    ...all
      .slice(1)
      .map((each) => ({ ...inFile(context, each.step.place), note: `${each.step.time} ms here` })),
  ],
});

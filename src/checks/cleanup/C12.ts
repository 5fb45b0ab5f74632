import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import { grouped } from '../../util/grouped.js';
import type { Finding } from '../../finding.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningBlocks } from '../questions/order.js';

const message = (act: string): string =>
  `${act} stands before an assertion in a callback that is run again until it passes: it may happen once, twice or fifty times.`;
const messageLast = (act: string): string =>
  `${act} stands in a callback that is there to wait: it happens in the middle of the waiting, and seems to be part of it.`;
const advice = 'Act first, and put into the callback only what is asserted.';
const adviceLast = 'Write it after the wait.';

/** Something done in a callback that a waiting function runs again and again. */
export const C12: FileCheck = {
  code: 'C12',
  family: 'cleanup',
  scope: 'file',
  title: 'Acts while it waits',
  level: 'risk',
  why: 'How often it is done depends on how fast the machine is: a second click may undo the first.',
  certain: 'Sure where the callback is seen, and the act is a user’s or an event.',
  trouble:
    "await waitFor(() => {\n  fireEvent.click(fire);\n  expect(screen.getByText('Hot')).toBeVisible();\n});",
  mended: "fireEvent.click(fire);\nawait waitFor(() => expect(screen.getByText('Hot')).toBeVisible());",
  run: (context) =>
    runningBlocks(context.file).flatMap((block) => {
      const byCallback = grouped(block.steps.filter(isRetriedAct), ({ retried }) => retried);
      return [...byCallback.values()].flatMap((acts) => found(acts, block, context));
    }),
};

type Act = StepOf<'act'>;

const isRetriedAct = (step: Step): step is Act =>
  step.kind === 'act' && step.by !== 'program' && step.retried !== undefined && !step.dead && !step.via;

function found(acts: readonly Act[], block: Block, context: FileContext): Finding[] {
  const [first] = acts;
  if (!first) return [];
  // What may fail after it has the callback run again.
  const { steps } = block;
  const mayFail = steps
    .slice(steps.indexOf(first))
    .some((step) => step.kind === 'assert' && step.retried === first.retried);
  return [
    {
      place: inFile(context, first.place),
      within: titlesOf(block),
      level: mayFail ? undefined : 'hint',
      certainty: 'sure',
      message: (mayFail ? message : messageLast)(first.name),
      advice: mayFail ? advice : adviceLast,
      evidence: [
        ...(first.retried ? [{ ...inFile(context, first.retried), note: 'waits here' }] : []),
        ...acts.slice(1).map((each) => ({ ...inFile(context, each.place), note: `${each.name}, too` })),
      ],
    },
  ];
}

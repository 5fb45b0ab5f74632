import { titlesOf } from '../../specs/model/blocks.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, truePlace } from '../questions/context.js';
import { runningBlocks } from '../questions/order.js';

function message({ name, query, atOnce, found }: StepOf<'first-look'>): string {
  if (found) return `${name} waits for nothing: what it asks to be there, ${query} has found already.`;
  if (atOnce) return `${query} gives its answer at once: the await before it waits for nothing.`;
  return query === undefined
    ? `${name} is given nothing to wait for: an empty callback passes at the first look.`
    : `${name} waits for nothing: ${query} never fails, so that the callback passes at the first look.`;
}
const advice = (asUser: boolean): string =>
  `Assert in the callback what should come about${asUser ? ', or ask for it by a query that waits' : ''}.`;

const adviceAtOnce = (query: string): string =>
  `Ask with ${query.replace(/^(?:get|query)/, 'find')}, which waits, or leave the await out.`;

const adviceFound = 'Take the wait out, or assert in it what should come about.';

const adviceFor = ({ atOnce, found, query = '' }: StepOf<'first-look'>, userCentred: boolean): string =>
  found ? adviceFound : atOnce ? adviceAtOnce(query) : advice(userCentred);

/** A wait whose callback can't fail. One finding a file. */
export const C13: FileCheck = {
  code: 'C13',
  family: 'cleanup',
  scope: 'file',
  title: 'Waits for nothing',
  level: 'hint',
  why: 'It looks like a wait and is one turn at most: what takes longer comes after the assertions, now and then.',
  certain: 'Sure: the callback is empty, or asks what never fails.',
  trouble: "await waitFor(() => {});\nexpect(container).toHaveTextContent('Hot');",
  mended: "expect(await screen.findByText('Hot')).toBeVisible();",
  run(context) {
    const [first, ...others] = runningBlocks(context.file).flatMap((block) =>
      block.steps.filter(isFirstLook).map((step) => ({ step, block })),
    );
    if (!first) return [];
    return [
      {
        place: inFile(context, first.step.place),
        within: titlesOf(first.block),
        certainty: 'sure',
        message: message(first.step),
        advice: adviceFor(first.step, context.userCentred),
        evidence: [
          ...(first.step.via ? [{ ...truePlace(context, first.step), note: 'it waits here' }] : []),
          ...others.map(({ step }) => ({
            ...inFile(context, step.place),
            note: `${step.name} here, too`,
          })),
        ],
      },
    ];
  },
};

const isFirstLook = (step: Step): step is StepOf<'first-look'> =>
  step.kind === 'first-look' && !step.dead && !step.inComponent;

import { titlesOf } from '../../specs/model/blocks.js';
import type { FileCheck } from '../questions/check.js';
import { inFile } from '../questions/context.js';
import { idleInput, ownRender } from '../questions/idle-input.js';
import { quotedTitle, runningSpecs } from '../questions/order.js';
import { sameSnapshots } from '../questions/same-snapshots.js';
import type { Finding } from '../../finding.js';
import { titlePlaceOf } from '../../writing/retitled.js';

const message = (input: string): string =>
  `The title speaks of “${input}”, and all that the spec asserts holds without it as well.`;
const messageAbsent = (input: string): string =>
  `The title speaks of “${input}”, and what the spec looks for is missing all the same where that is otherwise.`;
const messageState = (state: string): string =>
  `The title speaks of “${state}”, and all that the spec asserts holds whatever that is.`;
const adviceState = (state: string): string => `Do first what leaves “${state}” alone to decide.`;
const adviceAbsent = (input: string): string =>
  `Give all else that it takes to be shown, so that “${input}” alone decides.`;
const messageStored = (before: string): string =>
  `The stored snapshot is the very same as that of ${before}: what this spec does otherwise shows in neither.`;
const adviceStored = 'Assert on what this spec is about.';
const advice = (input: string): string => `Assert on what “${input}” changes.`;

/** A spec that is about an input, and asserts nothing that this input decides. */
export const O21: FileCheck = {
  code: 'O21',
  family: 'overload',
  scope: 'file',
  title: 'Holds without its input',
  level: 'risk',
  why: 'A spec that is about an input and stays green without it leaves untested what that input is for.',
  certain: 'Likely at most: titles are words.',
  trouble:
    "it('shows the lid where it is open', () => {\n  render(<Kiln open />);\n  expect(screen.getByText('Kiln')).toBeVisible();\n});\nit('shows the kiln', () => {\n  render(<Kiln />);\n  …\n});",
  mended:
    "it('shows the lid where it is open', () => {\n  render(<Kiln open />);\n  expect(screen.getByText('The lid is open')).toBeVisible();\n});",
  run(context) {
    const own = runningSpecs(context.file).flatMap((spec) => ownRender(spec, context) ?? []);
    const stored = sameSnapshots(context).map(({ spec, before, stored: { place } }): Finding => ({
      place: titlePlaceOf(spec, context),
      within: titlesOf(spec),
      level: 'hint',
      certainty: 'likely',
      message: messageStored(quotedTitle(before)),
      advice: adviceStored,
      evidence: [{ ...place, note: 'stored here, as for the other' }],
    }));
    const idle = own.flatMap((each) => {
      const found = idleInput(each, own, context);
      if (!found) return [];
      const { input, other, isAbsent } = found;
      const [say, tell] = isAbsent
        ? [messageAbsent, adviceAbsent]
        : other
          ? [message, advice]
          : [messageState, adviceState];
      return [
        {
          place: titlePlaceOf(each.spec, context),
          within: titlesOf(each.spec),
          certainty: 'likely' as const,
          message: say(input),
          advice: tell(input),
          evidence: other
            ? [
                { ...inFile(context, each.render.place), note: `${input} is given here` },
                { ...titlePlaceOf(other, context), note: 'this spec renders it without, or with another' },
              ]
            : [
                {
                  ...inFile(context, each.render.place),
                  note: 'something else decides of what is shown here',
                },
              ],
        },
      ];
    });
    return [...idle, ...stored];
  },
};

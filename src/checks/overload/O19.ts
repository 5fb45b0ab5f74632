import { assertionsInComments, titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Finding } from '../../finding.js';
import { actOf } from '../../writing/act-words.js';
import { whatToAssert } from '../../writing/what-to-assert.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { lacksAssertion, throwsOnMissing } from '../questions/judgement.js';
import { runningSpecs } from '../questions/order.js';
import { unaskedAct } from '../questions/unasked-act.js';

const message = (done: string | undefined): string =>
  done === undefined
    ? 'Nothing is asserted after this last act: the spec is green whatever it brings about.'
    : `Nothing is asserted after ${done}: the spec is green whatever that brings about.`;
const advice = 'Assert on what the act changes.';
const adviceOn = (markup: string, code: string): string =>
  `Assert on what the act changes, as on ${markup}: ${code}`;
const adviceOthers = 'Assert on what this last act changes as well, or leave it out.';

/** Specs that end with an act, and leave what comes of it unasked. */
export const O19: FileCheck = {
  code: 'O19',
  family: 'overload',
  scope: 'file',
  title: 'Nothing asked after the act',
  level: 'risk',
  why: 'A spec that acts and then ends only says that the act did not throw: what it should bring about may be missing altogether.',
  certain: 'Sure where all calls of the spec and of its hooks can be read.',
  trouble:
    "it('opens the lid', async () => {\n  render(<Kiln />);\n  await user.click(screen.getByRole('button', { name: 'Open' }));\n});",
  mended:
    "it('opens the lid', async () => {\n  render(<Kiln />);\n  await user.click(screen.getByRole('button', { name: 'Open' }));\n  expect(screen.getByText('The lid is open')).toBeVisible();\n});",
  run: (context) => runningSpecs(context.file).flatMap((spec) => check(spec, context)),
};

function check(spec: Block, context: FileContext): Finding[] {
  const unasked = unaskedAct(spec, context);
  // That nothing at all can fail is O04's matter.
  if (!unasked || (lacksAssertion(spec, context) && !spec.steps.some(throwsOnMissing))) return [];
  const { act, asserted, othersAsked, certainty } = unasked;
  const proposal = othersAsked ? undefined : whatToAssert(spec, context);
  return [
    {
      place: truePlace(context, act),
      within: titlesOf(spec),
      certainty,
      level: othersAsked ? 'hint' : undefined,
      message: message(actOf(act, context)),
      advice: othersAsked ? adviceOthers : proposal ? adviceOn(proposal.markup, proposal.code) : advice,
      suggestion: proposal?.code,
      evidence: [
        ...(asserted
          ? [{ ...inFile(context, asserted.place), note: 'the last assertion stands before it' }]
          : []),
        ...assertionsInComments(context.file, spec).map((each) => ({
          ...inFile(context, each),
          note: 'what would ask stands in a comment',
        })),
      ],
    },
  ];
}

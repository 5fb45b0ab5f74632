import { assertionsInComments, titlesOf, type CommentedOut } from '../../specs/model/blocks.js';
import type { Finding } from '../../finding.js';
import { plural } from '../../util/plural.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';
import { unaskedAct } from '../questions/unasked-act.js';

const messageAssertions = (count: number): string =>
  count === 1
    ? 'An assertion of this spec stands in a comment: what it would ask, nobody asks.'
    : `${count} assertions of this spec stand in comments: what they would ask, nobody asks.`;
const messageSpecs = (count: number, noun: string): string =>
  count === 1
    ? `A ${noun} of this file stands in a comment: no run counts it, and no report says that it is off.`
    : `${plural(count, noun)} of this file stand in comments: no run counts them, and no report says that they are off.`;
const adviceAssertions = 'Mend what made it fail and bring it back, or take it out.';
const adviceSpecs =
  'Bring back what can be mended, leave the rest to the runner’s own mark for what is switched off, or take it out.';

/** Assertions and specs that were put into comments. */
export const O20: FileCheck = {
  code: 'O20',
  family: 'overload',
  scope: 'file',
  title: 'Left in a comment',
  level: 'hint',
  why: 'What is put into a comment to get a green run is asked by nobody from then on, and no report mentions it.',
  certain: 'Sure where the comment holds a whole statement that asserts, or that makes a spec.',
  trouble:
    "it('shows the cone', () => {\n  render(<KilnCard cone={6} />);\n  expect(screen.getByRole('img')).toBeVisible();\n  // expect(screen.getByText('Cone 6')).toBeVisible();\n});",
  mended:
    "it('shows the cone', () => {\n  render(<KilnCard cone={6} />);\n  expect(screen.getByRole('img')).toBeVisible();\n  expect(screen.getByText('Cone 6')).toBeVisible();\n});",
  run(context) {
    const all = context.file.commentedOut();
    if (all.length === 0) return [];
    return [...assertions(context), ...blocks('group', all, context), ...blocks('spec', all, context)];
  },
};

const assertions = (context: FileContext): Finding[] =>
  runningSpecs(context.file).flatMap((spec) => {
    // Where an act is left unasked, that is said there, with the comments.
    const own = unaskedAct(spec, context) ? [] : assertionsInComments(context.file, spec);
    const found = joined(own, messageAssertions(own.length), adviceAssertions, context);
    return found ? [{ ...found, within: titlesOf(spec) }] : [];
  });

function blocks(kind: 'group' | 'spec', all: readonly CommentedOut[], context: FileContext): Finding[] {
  const own = all.filter(({ what }) => what === kind);
  const found = joined(own, messageSpecs(own.length, kind), adviceSpecs, context);
  return found ? [found] : [];
}

function joined(
  [first, ...rest]: readonly CommentedOut[],
  message: string,
  advice: string,
  context: FileContext,
): Finding | undefined {
  return (
    first && {
      place: inFile(context, first),
      certainty: 'sure',
      message,
      advice,
      evidence: rest.map((each) => ({ ...inFile(context, each), note: 'the same here' })),
    }
  );
}

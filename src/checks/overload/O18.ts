import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Assertion, Either } from '../../specs/model/steps.js';
import type { Finding } from '../../finding.js';
import { inShort } from '../../util/printable.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';
import { asksPresence } from '../questions/presence.js';

const LONGEST = 30;
const message = ({ left, right }: Either): string =>
  `This passes with ${inShort(left, LONGEST)}, and with ${inShort(right, LONGEST)} as well: the spec does not say which of the two it is about.`;
const advice = 'Assert on the one that these inputs lead to; what other inputs lead to is another spec.';

/** Assertions that one of two is there, whichever. */
export const O18: FileCheck = {
  code: 'O18',
  family: 'overload',
  scope: 'file',
  title: 'Satisfied by either of two',
  level: 'risk',
  why: 'A component that shows the wrong one of the two passes, and nobody learns from the spec which is right.',
  certain: 'Sure where both sides are elements or values, likely where they are comparisons.',
  trouble:
    "const number = screen.queryByText('Kiln 3');\nconst name = screen.queryByText('Old Faithful');\nexpect(number || name).toBeTruthy();",
  mended: "expect(screen.getByText('Kiln 3')).toBeVisible();",
  run: (context) => runningSpecs(context.file).flatMap((spec) => check(spec, context)),
};

const check = (spec: Block, context: FileContext): Finding[] =>
  spec.steps.filter(isAssert).flatMap(({ assertion }) => {
    const { either, place } = assertion;
    if (!either || !passesWithEither(assertion)) return [];
    const found: Finding = {
      place: inFile(context, place),
      within: titlesOf(spec),
      // What is compared may be what time makes of it: both are right then.
      ...(either.compares ? { level: 'hint', certainty: 'likely' } : { certainty: 'sure' }),
      message: message(either),
      advice,
    };
    return [found];
  });

// `toBeTruthy()`, `toBe(true)`, and a document’s own word for presence.
const passesWithEither = (assertion: Assertion): boolean => {
  const [wanted] = assertion.args;
  const isTrue = wanted?.is === 'constant' && wanted.value === true && assertion.args.length === 1;
  return asksPresence(assertion) || (!assertion.not && (isTrue || assertion.asks === 'there'));
};

import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { assertionsOf, countRounds, roundsOf } from '../../specs/model/rounds.js';
import type { StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';
import { isOverloaded } from '../questions/overloaded.js';
import { roundPlaces, splitOf, splitText } from '../../writing/split.js';
import { splitMend } from '../../writing/split-mend.js';

const message = (count: number, limit: number): string =>
  `This spec makes ${count} assertions, more than ${limit}: the first that fails hides all after it.`;
const messageWhole = (count: number, name: string): string =>
  `This spec compares ${name} field by field, in ${count} assertions: the first that fails hides the rest.`;
const adviceSplit = (split: string | undefined): string =>
  split ?? 'Make one spec for each thing that a user would notice.';
const adviceWhole = (name: string): string =>
  `Compare ${name} with one object that holds all that is expected: a failure then shows every difference.`;

/** Specs with very many assertions. */
export const O02: FileCheck = {
  code: 'O02',
  family: 'overload',
  scope: 'file',
  title: 'Too many assertions',
  level: 'risk',
  why: 'A spec stops at its first failure: what the other assertions would say, nobody learns.',
  certain: 'Sure where the assertions stand in the spec.',
  trouble: "it('shows the log', () => {\n  expect(rows[0]).toHaveTextContent('Raku');\n  // and 24 more\n});",
  mended:
    "it('shows the firings in order', () => {\n  expect(rows.map((row) => row.textContent)).toEqual(['Raku', 'Celadon']);\n});",
  run: (context) =>
    runningSpecs(context.file)
      .filter((spec) => !isOverloaded(spec))
      .flatMap((spec) => check(spec, context)),
};

function check(spec: Block, context: FileContext): Finding[] {
  const limit = context.limits.assertions;
  const asserts = assertionsOf(spec);
  if (asserts.length <= limit) return [];
  const whole = comparedWhole(asserts);
  const extra = asserts[limit];
  const base = {
    place: inFile(context, spec.callee),
    within: titlesOf(spec),
    certainty: 'sure' as const,
    evidence: extra && [{ ...inFile(context, extra.place), note: `assertion ${limit + 1}` }],
  };
  if (whole !== undefined)
    return [
      {
        ...base,
        level: 'hint',
        message: messageWhole(asserts.length, whole),
        advice: adviceWhole(whole),
      },
    ];
  const rounds = roundsOf(spec);
  const split = countRounds(rounds) > 1 ? splitOf(spec, context) : undefined;
  const isEnough = rounds.every((round) => round.asserts.length <= limit);
  return [
    {
      ...base,
      message: message(asserts.length, limit),
      advice: adviceSplit(split && splitText(split)),
      evidence: split ? roundPlaces(spec, split, context) : base.evidence,
      mend: split && isEnough ? splitMend(spec, split, context) : undefined,
    },
  ];
}

// The object whose fields all assertions compare, by its name.
function comparedWhole(asserts: readonly StepOf<'assert'>[]): string | undefined {
  const roots = asserts.map(({ assertion: { subject, subjectPath, subjectText, asks } }) =>
    asks === 'equal' &&
    subject.is !== 'thing' &&
    subjectPath.length > 1 &&
    !isCalled(subjectText, subjectPath)
      ? subjectPath[0]
      : undefined,
  );
  const [first] = roots;
  return roots.every((root) => root !== undefined && root === first) ? first : undefined;
}

// `parseTime('6:00').hour`: another object in each of them.
const isCalled = (text: string, [root = '']: readonly string[]): boolean => text.startsWith(`${root}(`);

import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { isRelated, subjectOf, type Subject } from '../../rendering/subjects.js';
import { countRounds, roundsOf } from '../../specs/model/rounds.js';
import type { StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';
import { accessibleName } from '../../writing/element-words.js';
import { isJourney } from '../questions/journey.js';
import { isOverloaded } from '../questions/overloaded.js';
import { outcomeOf } from '../../writing/phrases.js';
import { roundPlaces, splitOf, splitText } from '../../writing/split.js';
import { splitMend } from '../../writing/split-mend.js';
import { stemOf, stemsOf, wordsOf } from '../../util/words.js';

const messageRounds = (rounds: number): string =>
  `This spec acts and asserts in ${rounds} rounds: its failure does not say which behaviour broke.`;
const messageJourney = (rounds: number): string =>
  `This spec is one journey of ${rounds} rounds, each built on the one before; its title does not say so.`;
const messageSubjects = (count: number): string =>
  `After one act, this spec asserts on ${count} things that have nothing to do with one another.`;
const adviceSplit = 'Make a spec of each round.';
const adviceJourney =
  'Say in the title what the journey is, step by step, or start each spec at the stage it is about.';
const adviceSubjects = (outcomes: readonly string[]): string =>
  `Make a spec of each${outcomes.length > 1 ? `: ${outcomes.map((outcome) => `“${outcome}”`).join(', ')}` : ''}.`;

/** Specs that cover several behaviours. */
export const O01: FileCheck = {
  code: 'O01',
  family: 'overload',
  scope: 'file',
  title: 'Several behaviours in one spec',
  level: 'risk',
  why: 'When one spec covers five behaviours, a report of its failure does not say which of them broke, and those after the first failure are not tried.',
  certain: 'Sure where the rounds stand in the spec.',
  trouble:
    "it('works', async () => {\n  // opens the lid, asserts; closes it, asserts; fires, asserts; stops, asserts\n});",
  mended:
    "it('disables the Fire button when the lid is opened', …);\nit('calls onFire when the Fire button is clicked', …);",
  run: (context) =>
    runningSpecs(context.file).flatMap((spec) =>
      isOverloaded(spec) ? [manyRounds(spec, context)] : manySubjects(spec, context),
    ),
};

const MANY_SUBJECTS = 3;

function manyRounds(spec: Block, context: FileContext): Finding {
  const rounds = roundsOf(spec);
  const count = countRounds(rounds);
  const journey = isJourney(rounds, context);
  const split = journey ? undefined : splitOf(spec, context);
  return {
    place: inFile(context, spec.callee),
    within: titlesOf(spec),
    certainty: 'sure',
    level: journey ? 'hint' : undefined,
    message: journey ? messageJourney(count) : messageRounds(count),
    advice: journey ? adviceJourney : split ? splitText(split) : adviceSplit,
    evidence: roundPlaces(spec, split, context),
    mend: split && splitMend(spec, split, context),
  };
}

function manySubjects(spec: Block, context: FileContext): Finding[] {
  if (spec.repeated) return [];
  return roundsOf(spec).flatMap((round) => {
    if (round.acts.filter(({ kind }) => kind === 'act').length !== 1) return [];
    const asked = new Set(round.asserts.map(({ assertion }) => assertion.matcher));
    if (asked.size < MANY_SUBJECTS) return [];
    const groups = unrelated(round.asserts, context);
    if (!groups || groups.length < MANY_SUBJECTS) return [];
    const matchers = new Set(groups.map(({ step }) => step.assertion.matcher));
    const named = groups.filter(({ subject }) => isNamed(subject, spec.title.text, context));
    if (matchers.size < MANY_SUBJECTS || named.length > 1) return [];
    return [
      {
        place: inFile(context, spec.callee),
        within: titlesOf(spec),
        certainty: 'sure',
        level: 'hint',
        message: messageSubjects(groups.length),
        advice: adviceSubjects(groups.flatMap(({ step }) => outcomeOf(step.assertion, context) ?? [])),
        evidence: groups.map(({ step, subject }) => ({
          ...inFile(context, step.place),
          note: subjectNote(subject, context),
        })),
      } satisfies Finding,
    ];
  });
}

interface Grouped {
  subject: Subject;
  step: StepOf<'assert'>;
}

// One assertion for each thing; undefined where it can't be told what has to do with what.
function unrelated(asserts: readonly StepOf<'assert'>[], { rendering }: FileContext): Grouped[] | undefined {
  const groups: Grouped[] = [];
  for (const step of asserts) {
    const subject = subjectOf(step.assertion, rendering);
    if (subject.is !== 'element' && subject.is !== 'stand-in') return undefined;
    const isOfOne = groups.some((group) => isRelated(group.subject, subject));
    if (!isOfOne) groups.push({ subject, step });
  }
  return groups;
}

function isNamed(subject: Subject, title: string, { rendering }: FileContext): boolean {
  const words = subject.is === 'element' ? nameWords(subject, rendering) : [];
  const titled = new Set(stemsOf(title));
  return words.some((word) => titled.has(stemOf(word)));
}

const nameWords = (
  subject: Extract<Subject, { is: 'element' }>,
  rendering: FileContext['rendering'],
): string[] => wordsOf(accessibleName(subject, rendering) ?? '');

function subjectNote(subject: Subject, { rendering }: FileContext): string {
  if (subject.is !== 'element') return 'a stand-in';
  const words = nameWords(subject, rendering);
  return `<${subject.element.tag}>${words.length > 0 ? ` “${words.join(' ')}”` : ''}`;
}

import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Span, Finding } from '../../finding.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Assertion, Guard, Reach, Step, StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf } from '../../specs/model/values.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';
import { adviceFor, isCallback, isOfList, openGuard, REASONS } from '../questions/guarded.js';
import { usedBy } from '../questions/used-reaches.js';
import { TRUTH_ASKED } from '../questions/presence.js';
import { inShort } from '../../util/printable.js';
import { judgementOf } from '../questions/judgement.js';

const messageMaybe = ({ by }: Guard): string => `This assertion may not run: it ${REASONS[by]}.`;
const messageMissing = (text: string): string =>
  `This assertion passes if ${text} finds nothing: what stands behind “?.” is undefined then.`;
const messageNone = (list: string): string =>
  `This assertion passes if ${list} finds nothing: of none, whatever is asked of all is true.`;
const adviceMissing = 'Assert first that it is there, or ask with a query that throws.';

/** Assertions that may not run, beside others that do. */
export const O07: FileCheck = {
  code: 'O07',
  family: 'overload',
  scope: 'file',
  title: 'Assertion that may not run',
  level: 'risk',
  why: 'An assertion under a condition is skipped when the component breaks in just the way that makes the condition false.',
  certain: 'Sure where the condition stands around the assertion, or before it as a way out.',
  trouble: "const lid = screen.queryByRole('button');\nif (lid) {\n  expect(lid).toBeEnabled();\n}",
  mended: "expect(screen.getByRole('button')).toBeEnabled();",
  run: (context) =>
    runningSpecs(context.file).flatMap((spec) => {
      const asserts = spec.steps.filter(isAssert);
      return [
        ...guarded(asserts, spec, context),
        ...asserts.flatMap((step) => missing(step, spec, context)),
        ...asserts.flatMap((step) => ofNone(step, spec, context)),
      ];
    }),
};

function guarded(asserts: readonly StepOf<'assert'>[], spec: Block, context: FileContext): Finding[] {
  // Of several under one condition, the first stands for all.
  const byCondition = new Map<Span, { step: StepOf<'assert'>; guard: Guard }>();
  for (const step of asserts) {
    const guard = openGuard(step, spec);
    if (guard && !byCondition.has(guard.place)) byCondition.set(guard.place, { step, guard });
  }
  // If no assertion is left that surely runs, that is O04's matter.
  if (byCondition.size === 0 || judgementOf(spec, context).whole) return [];
  return [...byCondition.values()].map(({ step, guard }) => ({
    place: inFile(context, step.assertion.place),
    within: titlesOf(spec),
    level: guard.by === 'value' ? 'hint' : undefined,
    certainty: isCallback(guard) ? 'likely' : 'sure',
    message: messageMaybe(guard),
    advice: adviceFor(guard),
    evidence: [{ ...inFile(context, guard.place), note: NOTES[guard.by] }],
  }));
}

const NOTES: Readonly<Record<Guard['by'], string>> = {
  if: 'the condition',
  and: 'the condition',
  switch: 'what the case is chosen by',
  return: 'the condition to leave',
  loop: 'the elements that are walked',
  event: 'the callback',
  value: 'the subscription',
  catch: 'what should throw',
};

// The query that a chain of hops starts from throws by itself, or gives an object even of nothing.
function surelyThere({ by, from, missing }: Reach): boolean {
  if (by === 'hop' && typeof from === 'object' && 'by' in from) return surelyThere(from);
  return missing === 'throws' || missing === 'void';
}

// What undefined is not; other matchers refuse it.
const PASSES_DENIED: ReadonlySet<Assertion['asks']> = new Set([
  'equal',
  'truthy',
  'defined',
  'null',
] as const);

// `expect(lid?.textContent).not.toBe('open')` holds for a lid that is not there.
function missing(step: StepOf<'assert'>, spec: Block, context: FileContext): Finding[] {
  if (!step.assertion.optional) return [];
  const { not, asks, subject, subjectPath, subjectText, place } = step.assertion;
  const passes = not ? PASSES_DENIED.has(asks) : asks === 'undefined' || asks === 'falsy';
  const reach = libraryObjectOf(subject)?.reach;
  if (!passes || step.via || !reach || surelyThere(reach)) return [];
  const before = spec.steps.slice(0, spec.steps.indexOf(step)).filter(isAssert);
  const asserted = before.some(
    ({ assertion }) =>
      libraryObjectOf(assertion.subject)?.reach === reach || assertion.subjectPath[0] === subjectPath[0],
  );
  if (asserted) return [];
  return [
    {
      place: inFile(context, place),
      within: titlesOf(spec),
      certainty: 'likely',
      message: messageMissing(inShort(subjectText.split('?.')[0] ?? '', 60)),
      advice: adviceMissing,
    },
  ];
}

// `expect(cells.every(isShut)).toBe(true)`, `expect(cells.some(isOpen)).toBe(false)`, of a query that may find nothing.
function ofNone(step: StepOf<'assert'>, spec: Block, context: FileContext): Finding[] {
  const { subject, asks, not, args, place } = step.assertion;
  const list = subject.is === 'read' ? libraryObjectOf(subject.of)?.reach : undefined;
  if (subject.is !== 'read' || !list || list.missing !== 'many' || step.via) return [];
  const holdsOfNone = OF_NONE[subject.name];
  const wanted = TRUTH_ASKED[asks ?? ''] ?? (args[0]?.is === 'constant' ? args[0].value : undefined);
  if (holdsOfNone === undefined || typeof wanted !== 'boolean' || (wanted !== not) !== holdsOfNone) return [];
  // How many there are is asserted, or one of them is asked for something.
  const isTaken = (each: Step): boolean =>
    usedBy(each)?.pickedFrom === list ||
    (isAssert(each) && !asksOfAll(each.assertion) && isOfList(each.assertion, list));
  if (spec.steps.some(isTaken)) return [];
  return [
    {
      place: inFile(context, place),
      within: titlesOf(spec),
      certainty: 'likely',
      message: messageNone(list.name),
      advice: adviceFor({ by: 'loop', list }),
    },
  ];
}

const OF_NONE: Readonly<Record<string, boolean>> = { every: true, some: false };
const asksOfAll = ({ subject }: Assertion): boolean => subject.is === 'read' && subject.name in OF_NONE;

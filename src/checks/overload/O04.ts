import { hooksFor, pathOf, type Block } from '../../model/specs/blocks.js';
import { isAssert } from '../../model/specs/rounds.js';
import type { Assertion, Step, StepOf } from '../../model/specs/steps.js';
import { inFile, truePlace, type FileCheck, type FileContext, type Found, type Level } from '../check.js';
import { runningSpecs } from '../order.js';
import { adviceFor, openGuard, REASONS } from './guarded.js';
import { whyHollow, type Hollow } from './hollow.js';
import { whatToAssert, type Proposal } from './what-to-assert.js';
import type { Edit, Mend } from '../../mends/edit.js';

const messageNone = 'This spec asserts nothing: it is green whatever the component shows.';
const messageQueries = 'Only the queries of this spec can fail; nothing says that this is what it is about.';
const messageOne = (why: string): string => `This spec cannot fail: ${why}.`;
const messageMaybe = (why: string): string => `This spec may assert nothing: what it asserts ${why}.`;
const messageBeside = (why: string): string => `This assertion cannot fail: ${why}.`;
const adviceNone = (proposal: Proposal | undefined): string =>
  proposal === undefined
    ? 'Assert on what a user sees after the last step.'
    : `Assert on what a user sees after the last step, as on ${proposal.markup}: ${proposal.code}`;
const adviceQueries = 'Say it as an assertion, so that the report says what was missed.';
const adviceHollow = 'Assert on something that another state of the component would change.';

/** A spec that stays green whatever the component does. */
export const O04: FileCheck = {
  code: 'O04',
  family: 'overload',
  scope: 'file',
  title: 'Cannot fail',
  level: 'blocker',
  why: 'A spec that no fault can turn red says nothing, and counts as covered all the same.',
  trouble:
    "it('shows the cone', () => {\n  const wrapper = mount(KilnCard);\n  expect(wrapper).toBeTruthy();\n});",
  mended:
    "it('shows the cone', () => {\n  render(<KilnCard cone={6} />);\n  expect(screen.getByText('Cone 6')).toBeInTheDocument();\n});",
  run(context) {
    const beside: Found[] = [];
    const whole = runningSpecs(context.file).flatMap((spec) => check(spec, context, beside));
    // Beside others that can fail, one a file is enough to make the point.
    const [first, ...rest] = beside;
    const joined = first && {
      ...first,
      evidence: [
        ...(first.evidence ?? []),
        ...rest.map((each) => ({ ...each.place, note: 'the same here' })),
      ],
    };
    return joined ? [...whole, joined] : whole;
  },
};

type AssertStep = StepOf<'assert'>;

interface Judged {
  step: AssertStep;
  hollow: Hollow;
}

/** What is wrong with the assertions of a spec. */
interface Judgement {
  hollow: Judged[];
  /** Nothing else in the spec can fail. */
  whole: boolean;
}

function judgementOf(spec: Block, context: FileContext): Judgement {
  const own = spec.steps.filter(isAssert);
  const hollow = own.flatMap((step) => {
    const why = whyHollow(step, spec, context.file) ?? guarded(step, spec);
    return why ? [{ step, hollow: why }] : [];
  });
  const whole =
    hollow.length > 0 &&
    hollow.length === own.length &&
    !hooksOf(spec).some(isAssert) &&
    !mayFailOtherwise(spec, [], context) &&
    !spec.steps.some(throwsOnMissing);
  return { hollow, whole };
}

const hooksOf = (spec: Block): Step[] =>
  hooksFor(spec, 'before-all', 'before-each', 'after-each').flatMap((hook) => hook.steps);

// If the condition does not hold, nothing is asserted.
function guarded(step: AssertStep, spec: Block): Hollow | undefined {
  const guard = openGuard(step, spec);
  return (
    guard && {
      reason: REASONS[guard.by],
      advice: adviceFor(guard),
      level: 'risk',
      always: false,
      guarded: true,
    }
  );
}

/** Whether no assertion of a spec can fail, or surely runs. */
export const assertsNothingSure = (spec: Block, context: FileContext): boolean =>
  judgementOf(spec, context).whole;

function check(spec: Block, context: FileContext, beside: Found[]): Found[] {
  if (spec.empty || spec.body === undefined || spec.mark === 'fails' || spec.mark === 'conditional')
    return [];
  if (!spec.steps.some(isAssert)) {
    const hooks = hooksOf(spec);
    return hooks.some(isAssert) || mayFailOtherwise(spec, hooks, context)
      ? []
      : [withoutAssertion(spec, context)];
  }
  const { hollow, whole } = judgementOf(spec, context);
  const findings = hollow.map(({ step, hollow: why }) => hollowFinding(spec, step, why, whole, context));
  // One that can never fail says more than one that may not run.
  const gravest = hollow.findIndex((each) => each.hollow.level === undefined);
  if (whole) return findings.slice(Math.max(0, gravest)).slice(0, 1);
  // Assertions that may not run, beside others, are O07's matter.
  beside.push(...findings.filter((_, i) => hollow[i]?.hollow.always));
  return [];
}

// A query that throws; an act on what another query did not find throws as well.
function throwsOnMissing(step: Step): boolean {
  if (step.maybe || step.dead || step.swallowed) return false;
  if (step.kind === 'act') return step.reach !== undefined && step.reach.missing !== 'many';
  return step.kind === 'reach' && ['throws', 'many-throws'].includes(step.reach.missing);
}

/** Whether a spec without a plain assertion may still turn red: by something that can't be read, a throw, its title's promise. */
function mayFailOtherwise(spec: Block, hooks: readonly Step[], { file }: FileContext): boolean {
  const steps = [...spec.steps, ...hooks];
  if (
    steps.some(
      (step) =>
        step.kind === 'throw' ||
        (step.kind === 'unknown-call' && (step.discarded || ASSERTING.test(step.name))),
    )
  )
    return true;
  if (spec.waitsForCallback && spec.steps.some((step) => step.kind === 'unknown-call')) return true;
  const typeLevel = file.comments.some(
    ({ text, start, end }) =>
      text.includes('@ts-expect-error') && spec.place.start <= start && end <= spec.place.end,
  );
  return typeLevel || promisesNoThrow(spec);
}

const ASSERTING = /(?:^|\.)(?:expect|assert|verify|should|check|validate|ensure|test|run)/i;

// "renders without crashing": that it runs through is what it says.
const promisesNoThrow = (spec: Block): boolean =>
  pathOf(spec).some((block) =>
    /\b(?:crash|throw|error|warn|fail|exception|smoke|leak|type)/i.test(block.title.text),
  );

function withoutAssertion(spec: Block, context: FileContext): Found {
  const query = spec.steps.find(throwsOnMissing);
  if (query) {
    return {
      place: truePlace(context, { place: query.place }),
      block: spec,
      certainty: 'sure',
      level: 'hint',
      message: messageQueries,
      advice: adviceQueries,
    };
  }
  const proposal = whatToAssert(spec, context);
  const [last] = spec.steps.filter((step) => step.kind === 'act' || step.kind === 'render').slice(-1);
  return {
    place: inFile(context, spec.place),
    block: spec,
    certainty: 'sure',
    message: messageNone,
    advice: adviceNone(proposal),
    suggestion: proposal?.code,
    evidence: last
      ? [{ ...inFile(context, last.place), note: 'the last step: what should be seen after it?' }]
      : [],
  };
}

function hollowFinding(
  spec: Block,
  step: AssertStep,
  why: Hollow,
  whole: boolean,
  context: FileContext,
): Found {
  const level: Level | undefined = whole ? why.level : 'hint';
  return {
    place: inFile(context, step.assertion.place),
    block: spec,
    certainty: step.via ? 'likely' : 'sure',
    level,
    message: whole ? (why.guarded ? messageMaybe : messageOne)(why.reason) : messageBeside(why.reason),
    advice: why.advice ?? adviceHollow,
    evidence: step.via ? [{ ...step.via, note: 'the assertion stands in this helper' }] : [],
    mend: written(spec, step, why, context),
  };
}

// Writes in what is missing; what was asserted by nobody may then fail.
function written(
  spec: Block,
  { assertion, via, inCallback }: AssertStep,
  { missing }: Hollow,
  context: FileContext,
): Mend | undefined {
  if (missing === undefined || via) return undefined;
  const file = context.file.path;
  const insert = (at: number, text: string): Edit => ({ file, start: at, end: at, text });
  if (missing === 'call')
    return NEEDS_NOTHING.has(assertion.asks)
      ? {
          summary: `Call ${assertion.matcher ?? ''}`,
          safe: false,
          edits: [insert(assertion.place.end, '()')],
        }
      : undefined;
  const { subjectEnd, subjectText } = assertion;
  if (subjectEnd === undefined || !spec.fn || inCallback || spec.waitsForCallback) return undefined;
  const edits = [insert(subjectEnd - subjectText.length, 'await ')];
  if (!spec.fn.async) edits.unshift(insert(spec.fn.start, 'async '));
  return { summary: 'Await what is asked about', safe: false, edits };
}

// Matchers that are complete without an argument.
const NEEDS_NOTHING: ReadonlySet<Assertion['asks']> = new Set([
  'there',
  'truthy',
  'falsy',
  'null',
  'defined',
  'undefined',
] as const);

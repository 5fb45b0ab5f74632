import { ASKING_PRESENCE } from '../../specs/model/asked.js';
import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding, Level, Edit, Mend } from '../../finding.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { onceAFile } from '../questions/once-a-file.js';
import { runningSpecs } from '../questions/order.js';
import { unaskedAct } from '../questions/unasked-act.js';
import type { HollowAssertion } from '../questions/presence.js';
import { hooksOf, judgementOf, lacksAssertion, throwsOnMissing } from '../questions/judgement.js';
import { whatToAssert, type Proposal } from '../../writing/what-to-assert.js';

const messageNone = 'This spec asserts nothing: it is green whatever the component shows.';
const messageRenders =
  'This spec only renders: it fails where that throws, and says nothing of what is shown.';
const messageCreated = (why: string): string =>
  `This spec says little: ${why}. It fails only where it can’t be made at all.`;
const messageLittle = (why: string): string => `This spec says little: ${why}.`;
const messageQueries = 'Only the queries of this spec can fail; nothing says that this is what it is about.';
const messageOne = (why: string): string => `This spec cannot fail: ${why}.`;
const messageMaybe = (why: string): string => `This spec may assert nothing: what it asserts ${why}.`;
const messageBeside = ({ reason, little }: HollowAssertion): string =>
  little ? `This assertion says little: ${reason}.` : `This assertion cannot fail: ${reason}.`;
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
  tally: { name: 'cannotFail', counts: ({ level }) => level !== 'hint' },
  title: 'Cannot fail',
  level: 'blocker',
  why: 'A spec that no fault can turn red says nothing, and counts as covered all the same.',
  certain:
    'Sure where what is asserted can’t be otherwise whatever the component does, and stands in the spec itself.',
  trouble:
    "it('shows the cone', () => {\n  const wrapper = mount(KilnCard);\n  expect(wrapper).toBeTruthy();\n});",
  mended:
    "it('shows the cone', () => {\n  render(<KilnCard cone={6} />);\n  expect(screen.getByText('Cone 6')).toBeInTheDocument();\n});",
  run(context) {
    const beside: Finding[] = [];
    const whole = runningSpecs(context.file).flatMap((spec) => check(spec, context, beside));
    // Beside others that can fail, one a file is enough to make the point.
    return [...whole, ...onceAFile(beside, 'the same here')];
  },
};

type AssertStep = StepOf<'assert'>;

function check(spec: Block, context: FileContext, beside: Finding[]): Finding[] {
  if (spec.empty || spec.body === undefined || spec.mark === 'fails' || spec.mark === 'conditional')
    return [];
  if (!spec.steps.some(isAssert)) {
    if (!lacksAssertion(spec, context)) return [];
    // That nothing is asked after the last act is O19's matter, where anything can fail.
    const isUnasked = spec.steps.some(throwsOnMissing) && unaskedAct(spec, context);
    return isUnasked ? [] : [withoutAssertion(spec, context)];
  }
  const { hollow, whole } = judgementOf(spec, context);
  const findings = hollow.map(({ step, hollow: why }) => hollowFinding(spec, step, why, whole, context));
  // One that can never fail says more than one that may not run.
  const gravest = hollow.findIndex((each) => each.hollow.level === undefined);
  if (whole) return findings.slice(Math.max(0, gravest), Math.max(0, gravest) + 1);
  // Assertions that may not run, beside others, are O07's matter.
  const isSlip = (i: number): boolean => hollow[i]?.hollow.missing === 'call';
  beside.push(...findings.filter((_, i) => hollow[i]?.hollow.always && !isSlip(i)));
  return findings.filter((_, i) => isSlip(i));
}

function withoutAssertion(spec: Block, context: FileContext): Finding {
  const query = spec.steps.find(throwsOnMissing);
  if (query) {
    return {
      place: truePlace(context, { place: query.place }),
      within: titlesOf(spec),
      certainty: 'sure',
      level: 'hint',
      message: messageQueries,
      advice: adviceQueries,
    };
  }
  const proposal = whatToAssert(spec, context);
  const around = [...spec.steps, ...hooksOf(spec)];
  const onlyRenders =
    around.some(({ kind }) => kind === 'render') && !around.some(({ kind }) => kind === 'act');
  const [last] = spec.steps.filter((step) => step.kind === 'act' || step.kind === 'render').slice(-1);
  return {
    place: inFile(context, spec.place),
    within: titlesOf(spec),
    certainty: 'sure',
    level: onlyRenders ? 'hint' : undefined,
    message: onlyRenders ? messageRenders : messageNone,
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
  why: HollowAssertion,
  whole: boolean,
  context: FileContext,
): Finding {
  // An expectation that was never finished is a slip, whatever else the spec asserts.
  const acts = spec.steps.some(({ kind }) => kind === 'act');
  const ofWhole = why.created && acts ? 'risk' : why.level;
  const level: Level | undefined = whole ? ofWhole : why.missing === 'call' ? 'risk' : 'hint';
  return {
    place: inFile(context, step.assertion.place),
    within: titlesOf(spec),
    certainty: step.via ? 'likely' : (why.guarded ?? 'sure'),
    level,
    message: whole ? wholeMessage(why, acts) : messageBeside(why),
    advice: why.advice ?? adviceHollow,
    evidence: step.via ? [{ ...step.via, note: 'the assertion stands in this helper' }] : [],
    mend: written(spec, step, why, context),
  };
}

function wholeMessage({ guarded, created, little, reason }: HollowAssertion, acts: boolean): string {
  if (guarded) return messageMaybe(reason);
  if (little) return messageLittle(reason);
  return (created && !acts ? messageCreated : messageOne)(reason);
}

// Writes in what is missing; what was asserted by nobody may then fail.
function written(
  spec: Block,
  { assertion, via, inCallback }: AssertStep,
  { missing }: HollowAssertion,
  context: FileContext,
): Mend | undefined {
  if (missing === undefined || via) return undefined;
  const file = context.file.path;
  const insert = (at: number, text: string): Edit => ({ file, start: at, end: at, text });
  if (missing === 'call')
    return ASKING_PRESENCE.has(assertion.asks)
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

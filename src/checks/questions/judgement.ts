import { hooksFor, isTypeLevel, blocksAround, type Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import type { FileContext } from './context.js';
import { adviceFor, isCallback, openGuard, REASONS } from './guarded.js';
import { whyHollow } from './hollow.js';
import { asksForOwnTestId, onlyOwnTestId } from './own-test-id.js';
import { readBack } from './read-back.js';
import { nothingCalls } from './uncalled.js';
import { type HollowAssertion } from './presence.js';

type AssertStep = StepOf<'assert'>;

interface Judged {
  step: AssertStep;
  hollow: HollowAssertion;
}

/** What is wrong with the assertions of a spec. */
interface Judgement {
  hollow: Judged[];
  /** Nothing else in the spec can fail. */
  whole: boolean;
}

/** Judges the assertions of a spec. */
export function judgementOf(spec: Block, context: FileContext): Judgement {
  const own = spec.steps.filter(isAssert);
  const hollow = own.flatMap((step) => {
    const why =
      whyHollow(step, spec, context.file) ??
      guarded(step, spec) ??
      readBack(step, spec, context) ??
      nothingCalls(step, spec, context) ??
      onlyOwnTestId(step.assertion, spec, context);
    return why ? [{ step, hollow: why }] : [];
  });
  const whole =
    hollow.length > 0 &&
    hollow.length === own.length &&
    !hooksOf(spec).some(isAssert) &&
    !mayFailOtherwise(spec, [], context) &&
    !spec.steps.some((step) => throwsOnMissing(step) && !asksForOwn(step, spec, context));
  return { hollow, whole };
}

const asksForOwn = (step: Step, spec: Block, context: FileContext): boolean =>
  step.kind === 'reach' && asksForOwnTestId(step.reach, spec, context);

/** What runs around a spec. */
export const hooksOf = (spec: Block): Step[] =>
  hooksFor(spec, 'before-all', 'before-each', 'after-each').flatMap((hook) => hook.steps);

// If the condition does not hold, nothing is asserted.
function guarded(step: AssertStep, spec: Block): HollowAssertion | undefined {
  const guard = openGuard(step, spec);
  return (
    guard && {
      reason: REASONS[guard.by],
      advice: adviceFor(guard),
      level: guard.by === 'catch' ? undefined : guard.by === 'value' ? 'hint' : 'risk',
      always: false,
      guarded: isCallback(guard) ? 'likely' : 'sure',
    }
  );
}

/** Whether a step throws where an element is missing: a query that throws, or an act on what another one did not find. */
export function throwsOnMissing(step: Step): boolean {
  if (step.maybe || step.dead || step.swallowed) return false;
  if (step.kind === 'act') return step.reach !== undefined && step.reach.missing !== 'many';
  return step.kind === 'reach' && ['throws', 'many-throws'].includes(step.reach.missing);
}

/** Whether neither a spec nor its hooks assert, and nothing else that can be read may turn it red but a query. */
export function lacksAssertion(spec: Block, context: FileContext): boolean {
  const hooks = hooksOf(spec);
  return ![...spec.steps, ...hooks].some(isAssert) && !mayFailOtherwise(spec, hooks, context);
}

/** Whether a spec without a plain assertion may still turn red: by something that can't be read, a throw, its title's promise. */
function mayFailOtherwise(spec: Block, hooks: readonly Step[], { file }: FileContext): boolean {
  const steps = [...spec.steps, ...hooks];
  if (
    steps.some(
      (step) =>
        (step.kind === 'throw' && !step.caught && !step.inComponent) ||
        (step.kind === 'unknown-call' &&
          !step.caught &&
          !step.inComponent &&
          (step.discarded || assertsByName(step))),
    )
  )
    return true;
  if (spec.waitsForCallback && spec.steps.some((step) => step.kind === 'unknown-call')) return true;
  return isTypeLevel(file, spec) || promisesNoThrow(spec);
}

/** Whether a step is a call that can't be read, and that asserts by its name: `expectFired()`. */
export const assertsByName = (step: Step): boolean =>
  step.kind === 'unknown-call' && ASSERTING.test(step.name);

const ASSERTING = /(?:^|\.)(?:expect|assert|verify|should|check|validate|ensure|test|run)/i;

/** Whether a title says that the spec runs through: “renders without crashing”; “throws on a cold kiln” is the contrary. */
export const promisesNoThrow = (spec: Block): boolean =>
  blocksAround(spec).some(
    ({ title: { text } }) =>
      PASSES_OVER.test(text) || (RUNS_THROUGH.test(text) && !/\bthrows?\b/i.test(text)),
  );

const RUNS_THROUGH = /\b(?:crash|smoke|leak|types?\b)|\b(?:error|warning)s?[- ]free\b/i;
// “does not throw”, “no warnings”, “handles errors”: an error that is shown is something to assert.
const PASSES_OVER =
  /(?:\b(?:not|never|no|without|zero|safely|gracefully|handles?|handling|survives?|tolerates?|ignores?)\b|n['’]t\b).*\b(?:throw|error|warn|fail|exception|break)/i;

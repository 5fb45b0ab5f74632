import { changeBy } from '../../libraries/changes.js';
import { hooksFor, isTypeLevel, type Block } from '../../specs/model/blocks.js';
import { isAssert, stands } from '../../specs/model/rounds.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import type { Certainty } from '../../finding.js';
import type { FileContext } from './context.js';
import { assertsByName, hooksOf, promisesNoThrow, throwsOnMissing } from './judgement.js';

/** The last thing that a spec does as a user would, where nothing that comes after it can fail. */
interface UnaskedAct {
  act: StepOf<'act'>;
  /** The assertion that follows the spec's other acts, or its arrangement; undefined where it makes none. */
  asserted?: StepOf<'assert'>;
  /** That assertion follows another act of the spec. */
  othersAsked: boolean;
  certainty: Certainty;
}

/** The last user action of a spec, if nothing is asked after it; undefined where something is, or may be. */
export function unaskedAct(spec: Block, context: FileContext): UnaskedAct | undefined {
  const { steps, mark } = spec;
  const last = steps.findLastIndex(isUserAct);
  const act = steps[last];
  if (act?.kind !== 'act' || mark === 'fails' || spec.waitsForCallback) return undefined;
  // Most specs assert after what they do.
  if (steps.slice(last + 1).some(mayJudge)) return undefined;
  if (hooksFor(spec, 'after-each').some((hook) => hook.steps.some(mayJudge))) return undefined;
  const around = [...steps, ...hooksOf(spec)];
  if (around.some(mayJudgeLater)) return undefined;
  if (cleansUp(spec, act) || promisesNoThrow(spec) || isTypeLevel(context.file, spec)) return undefined;
  const at = steps.slice(0, last).findLastIndex(isAssert);
  const asserted = steps[at];
  return {
    act,
    asserted: asserted?.kind === 'assert' ? asserted : undefined,
    othersAsked: steps.slice(0, Math.max(0, at)).some(isUserAct),
    certainty: around.some(({ kind }) => kind === 'unknown-call') ? 'likely' : 'sure',
  };
}

// `await cleanUpTooltip()`
const cleansUp = ({ statements }: Block, act: StepOf<'act'>): boolean =>
  act.via !== undefined &&
  statements.some((each) => stands(act, each) && CLEANING.some((word) => each.words.has(word)));

const CLEANING: readonly string[] = ['cleanup', 'clean', 'teardown', 'tidy'];

const isUserAct = (step: Step): boolean =>
  step.kind === 'act' &&
  step.by !== 'program' &&
  !step.dead &&
  !step.inCatch &&
  !step.inFinally &&
  !step.inComponent &&
  changeBy(step.name, step.args.length) !== 'tells';

// It asserts, throws where something is missing, or can't be read.
const mayJudge = (step: Step): boolean =>
  isAssert(step) ||
  step.kind === 'throw' ||
  (step.kind === 'unknown-call' && !step.inComponent) ||
  (step.kind === 'reach' && throwsOnMissing(step));

// What asserts when it is called may be called by the act itself.
const mayJudgeLater = (step: Step): boolean =>
  assertsByName(step) || (isAssert(step) && (step.inCallback || step.guard?.by === 'event'));

import { isInside } from '../../util/spans.js';
import { changeBy } from '../../libraries/changes.js';
import type { Span } from '../../finding.js';
import type { Block } from './blocks.js';
import type { Statement } from './body.js';
import type { Step, StepOf } from './steps.js';

/** What is done, and what is asserted after it. The first round may have nothing done but the render. */
export interface Round {
  acts: (StepOf<'act'> | StepOf<'render'>)[];
  asserts: StepOf<'assert'>[];
}

/** The rounds of a spec, in order: each ends where something is done after an assertion. What never runs is left out. */
export function roundsOf({ steps }: Block): Round[] {
  const rounds: Round[] = [];
  let round: Round = { acts: [], asserts: [] };
  for (const step of steps) {
    if (step.dead || step.inCatch) continue;
    if (step.kind === 'assert') round.asserts.push(step);
    else if (isDone(step)) {
      if (round.asserts.length > 0) {
        rounds.push(round);
        round = { acts: [], asserts: [] };
      }
      round.acts.push(step);
    }
  }
  if (round.asserts.length > 0) rounds.push(round);
  return rounds;
}

/** How many rounds there are in which something is done first; the first render is arrangement. */
export const countRounds = (rounds: readonly Round[]): number =>
  rounds.filter(({ acts }, i) => acts.some(({ kind }) => kind === 'act' || i > 0)).length;

// To be told of changes is no action of its own.
const isDone = (step: Step): step is StepOf<'act'> | StepOf<'render'> =>
  step.kind === 'render' || (step.kind === 'act' && changeBy(step.name, step.args.length) !== 'tells');

/** Whether a step asserts. */
export const isAssert = (step: Step): step is StepOf<'assert'> => step.kind === 'assert';

/** What a statement of a spec is for. What both acts and asserts is for the assertion. */
export type StatementKind = 'arrange' | 'act' | 'assert';

/** The kinds of a spec's statements, one by one. */
export const kindsOf = (spec: Block): StatementKind[] =>
  spec.statements.map((statement) => kindOf(statement, spec));

/** What one statement of a spec is for. */
export function kindOf(statement: Statement, { steps }: Block): StatementKind {
  let acts = false;
  for (const step of steps) {
    if ((step.kind !== 'assert' && step.kind !== 'act') || !stands(step, statement)) continue;
    if (step.kind === 'assert') return 'assert';
    acts = true;
  }
  return acts ? 'act' : 'arrange';
}

/** Whether what stands there surely runs, and fails for its block where it fails. */
export const surelyRuns = ({
  maybe,
  inCallback,
  guard,
  dead,
  caught,
}: Pick<Step, 'maybe' | 'inCallback' | 'guard' | 'dead' | 'caught'>): boolean =>
  !maybe && !inCallback && !guard && !dead && !caught;

/** Whether a step stands in a statement, or in another span. */
export const stands = ({ place }: Pick<Step, 'place'>, span: Span): boolean => isInside(place, span);

/** The assertions that a spec makes: through helpers as often as they are called, in loops once. */
export const assertionsOf = ({ steps }: Block): StepOf<'assert'>[] =>
  steps.filter(isAssert).filter((step) => !step.dead && !COUNTING.has(step.assertion.matcher ?? ''));

const COUNTING: ReadonlySet<string> = new Set(['assertions', 'hasAssertions', 'plan', 'step']);

import { changeBy } from '../../libraries/changes.js';
import type { RenderedElement } from '../../rendering/rendered-tree.js';
import type { Round } from '../../specs/model/rounds.js';
import type { FileContext } from './context.js';

/** Whether every round needs those before it: what it acts on is only there after them, or is what they acted on. */
export function isJourney(rounds: readonly Round[], context: FileContext): boolean {
  const known = new Set<RenderedElement | 'unknown'>();
  return rounds
    .filter(({ acts }) => acts.length > 0)
    .every((round, i) => {
      const needs = i === 0 || needsEarlier(round, known, context);
      for (const each of actedOn(round, context)) known.add(each);
      return needs;
    });
}

function needsEarlier(
  round: Round,
  known: ReadonlySet<RenderedElement | 'unknown'>,
  context: FileContext,
): boolean {
  if (round.acts.some(({ kind }) => kind === 'render')) return false;
  const elements = actedOn(round, context);
  // New props start from what the spec gives, not from what came before.
  if (elements.length === 0)
    return round.acts.every(
      (step) => step.kind !== 'act' || changeBy(step.name, step.args.length) !== 'rerenders',
    );
  return elements.some((element) => element === 'unknown' || known.has(element) || element.guards.length > 0);
}

function actedOn({ acts }: Round, { rendering }: FileContext): (RenderedElement | 'unknown')[] {
  return acts.flatMap((step) => {
    if (step.kind !== 'act' || !step.reach) return [];
    const target = rendering.target(step.reach);
    return [target.kind === 'one' ? target.element : 'unknown'];
  });
}

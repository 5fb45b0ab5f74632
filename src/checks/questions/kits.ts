import { agreed, type RunnerFacts } from '../../environment/facts/environment.js';
import type { StandIn } from '../../specs/model/steps.js';

/** Whether a call that restores, resets or clears all stand-ins of a kit takes in one of them. `maker`: whose call it is. */
export const isOfKit = (maker: string, standIn: Pick<StandIn, 'maker'>): boolean =>
  maker === standIn.maker || maker === '' || standIn.maker === '';

/** Whether the runner undoes by its settings what stand-ins of its own have; what can't be told may well be so. */
export const mayUndo = (
  maker: string,
  facts: readonly ('restores' | 'resets' | 'clears')[],
  runners: readonly RunnerFacts[],
): boolean => maker === 'runner' && facts.some((fact) => agreed(runners, (runner) => runner[fact]) !== false);

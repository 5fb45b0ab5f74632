import { assertionsOf, countRounds, roundsOf } from '../../specs/model/rounds.js';
import type { SpecFile } from '../../specs/model/blocks.js';
import { runningSpecs } from './order.js';

/** How large the specs of a file are: one number for each that runs. */
export interface SpecSizes {
  assertions: readonly number[];
  rounds: readonly number[];
}

/** Counts the assertions and rounds of the specs that run. */
export function sizesOf(file: SpecFile): SpecSizes {
  const specs = runningSpecs(file);
  return {
    assertions: specs.map((spec) => assertionsOf(spec).length),
    rounds: specs.map((spec) => countRounds(roundsOf(spec))),
  };
}

import type { Sizes, Spread } from './report.js';
import type { CheckedSpecFile } from './spec-file.js';
import type { Stage } from './stage.js';

/** How large the specs of some files are, and how many of them say little. */
export function packageSizes(checked: readonly CheckedSpecFile[], stage: Stage): Sizes {
  const assertions = checked.flatMap(({ facts }) => facts.sizes.assertions);
  const rounds = checked.flatMap(({ facts }) => facts.sizes.rounds);
  const found = checked.flatMap((each) => each.found);
  const count = (code: string): number =>
    found.filter((each) => each.code === code && (code !== 'O04' || each.found.level !== 'hint')).length;
  return {
    specs: assertions.length,
    assertions: spread(assertions),
    rounds: spread(rounds),
    cannotFail: stage.isOn('O04') ? count('O04') : undefined,
    vagueTitles: stage.isOn('O03') ? count('O03') : undefined,
  };
}

function spread(figures: readonly number[]): Spread {
  const sorted = [...figures].sort((a, b) => a - b);
  return { median: ranked(sorted, 0.5), p90: ranked(sorted, 0.9) };
}

// The nearest rank: the smallest figure that this share of all does not pass.
const ranked = (sorted: readonly number[], share: number): number =>
  sorted[Math.max(0, Math.ceil(sorted.length * share) - 1)] ?? 0;

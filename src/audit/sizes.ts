import { CHECKS } from '../checks/index.js';
import type { Tally } from '../checks/questions/check.js';
import { SIZES } from '../checks/questions/facts.js';
import type { Sizes, Spread } from './report.js';
import type { CheckedSpecFile } from './spec-file.js';
import type { AuditSession } from './session.js';

/** How large the specs of some files are, and how many of them say little. */
export function packageSizes(checked: readonly CheckedSpecFile[], session: AuditSession): Sizes {
  const assertions = checked.flatMap(({ facts }) => facts.get(SIZES).assertions);
  const rounds = checked.flatMap(({ facts }) => facts.get(SIZES).rounds);
  const found = checked.flatMap((each) => each.found);
  const tallied = (name: Tally): number | undefined => {
    const check = CHECKS.find(({ code, tally }) => tally?.name === name && session.isOn(code));
    const counts = check?.tally?.counts ?? (() => true);
    return check && found.filter((each) => each.code === check.code && counts(each.found)).length;
  };
  return {
    specs: assertions.length,
    assertions: spread(assertions),
    rounds: spread(rounds),
    cannotFail: tallied('cannotFail'),
    vagueTitles: tallied('vagueTitles'),
  };
}

function spread(figures: readonly number[]): Spread {
  const sorted = [...figures].sort((a, b) => a - b);
  return { median: ranked(sorted, 0.5), p90: ranked(sorted, 0.9) };
}

// The nearest rank: the smallest figure that this share of all does not pass.
const ranked = (sorted: readonly number[], share: number): number =>
  sorted[Math.max(0, Math.ceil(sorted.length * share) - 1)] ?? 0;

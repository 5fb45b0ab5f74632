import type { Branch } from '../branches/arms.js';
import type { LineIndex } from '../util/line-index.js';
import type { FileCoverage } from './coverage.js';

/** The hits of each arm of a branch, in the order of its arms. */
export interface MeasuredBranch {
  branch: Branch;
  hits: readonly number[];
}

/**
 * Maps the branch records of a coverage file to branches of the source, by line and number of arms.
 * Where several branches of one line have as many arms, they are taken in order if the records are as many; else none is.
 */
export function measuredBranches(
  branches: readonly Branch[],
  coverage: FileCoverage,
  lines: LineIndex,
): MeasuredBranch[] {
  const groups = new Map<string, { branches: Branch[]; records: FileCoverage['branches'][number][] }>();
  const group = (key: string): { branches: Branch[]; records: FileCoverage['branches'][number][] } => {
    const known = groups.get(key) ?? { branches: [], records: [] };
    groups.set(key, known);
    return known;
  };
  for (const branch of branches)
    group(`${lines.at(branch.place.start).line}:${branch.arms.length}`).branches.push(branch);
  for (const record of coverage.branches) group(`${record.line}:${record.hits.length}`).records.push(record);
  return [...groups.values()]
    .filter((each) => each.branches.length === each.records.length)
    .flatMap((each) => each.branches.map((branch, i) => ({ branch, hits: each.records[i]?.hits ?? [] })));
}

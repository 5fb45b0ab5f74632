import type { Branch } from '../branches/arms.js';
import type { Span } from '../finding.js';
import type { Source } from '../syntax/source.js';
import { grouped } from '../util/grouped.js';
import type { BranchRecord, FileCoverage, Position, Share } from './coverage.js';

/** What a coverage file says of a branch. */
export interface MeasuredBranch {
  branch: Branch;
  /** The hits of each arm, in the order of its arms; undefined where that can't be told. */
  hits: readonly (number | undefined)[];
  /** How many of how many arms were taken, where the file does not say which. */
  partly?: Share;
}

/** The branches that a coverage file tells of, and how many of its records belong to none. */
interface Measured {
  branches: MeasuredBranch[];
  unmapped: number;
}

// Runners count these; what optional chains, failures and templates do is not in their files.
const COUNTED = new Set<Branch['kind']>(['if', 'conditional', 'logical', 'switch', 'default']);

/**
 * Maps the branch records of a coverage file to branches of the source: by their place where the format tells it, else
 * by line and number of arms. Where several branches of one line have as many arms, they are taken in order if the
 * records are as many; else none is.
 */
export function measuredBranches(
  branches: readonly Branch[],
  coverage: FileCoverage,
  source: Source,
): Measured {
  const counted = branches.filter(({ kind }) => COUNTED.has(kind));
  const ranges = coverage.branches.filter(({ rangeEnd }) => rangeEnd);
  if (ranges.length > 0)
    return { branches: counted.map((branch) => byRanges(branch, ranges, source)), unmapped: 0 };
  if (isByEngine(coverage.branches, counted))
    return { branches: counted.map((branch) => byCode(branch, coverage, source)), unmapped: 0 };
  const exact = coverage.branches.filter(({ at }) => at);
  const placed = counted.flatMap((branch) => atPlace(branch, exact, source));
  const rest = coverage.branches.filter(({ at }) => !at);
  const lined = byLine(counted, rest, source);
  const mapped = placed.length + lined.reduce((sum, { records }) => sum + records, 0);
  return {
    branches: [...placed, ...lined.flatMap((each) => each.branches)],
    unmapped: coverage.branches.length - mapped,
  };
}

// Counts of an engine written by line: one hit a record, whatever the branch. They say nothing of arms, but lines do.
const isByEngine = (records: readonly BranchRecord[], counted: readonly Branch[]): boolean =>
  records.length > 0 &&
  records.every(({ hits, at }) => hits.length === 1 && !at) &&
  counted.some(({ kind }) => kind !== 'default');

const byCode = (branch: Branch, coverage: FileCoverage, source: Source): MeasuredBranch => ({
  branch,
  hits: branch.arms.map((arm) =>
    arm.written ? codeHits(arm.place, branch.place, coverage, source) : undefined,
  ),
});

/** How often code ran, by the lines that are its own; undefined where it has none that is recorded. */
export function codeHits(
  place: Span,
  around: Span,
  { lines }: FileCoverage,
  source: Source,
): number | undefined {
  const first = source.lines.at(place.start).line;
  const last = source.lines.at(place.end).line;
  const shared = [source.lines.at(around.start).line, source.lines.at(around.end).line];
  let most: number | undefined;
  for (let line = first; line <= last; line++) {
    const hits = shared.includes(line) || isShared(line, place, source) ? undefined : lines.get(line);
    if (hits !== undefined) most = Math.max(most ?? 0, hits);
  }
  return most;
}

// A line that other code starts on as well.
const isShared = (line: number, { start }: Span, { text, lines }: Source): boolean => {
  const from = lines.startOf(line) ?? 0;
  return start > from && text.slice(from, start).trim() !== '';
};

const placeOf = (source: Source, offset: number): Position => {
  const { line, column } = source.lines.at(offset);
  return { line, column: column - 1 };
};

const compare = (a: Position, b: Position): number => a.line - b.line || a.column - b.column;

function atPlace(branch: Branch, records: readonly BranchRecord[], source: Source): MeasuredBranch[] {
  const at = placeOf(source, branch.place.start);
  const record = records.find(
    (record) =>
      record.at &&
      compare(record.at, at) === 0 &&
      record.hits.length === countOf(branch) &&
      (record.kind === undefined || record.kind === branch.kind),
  );
  return record ? [{ branch, hits: hitsOf(branch, record) }] : [];
}

// A default that is not needed is never counted.
const countOf = ({ kind, arms }: Branch): number => (kind === 'default' ? 1 : arms.length);

const hitsOf = ({ arms }: Branch, { hits }: BranchRecord): (number | undefined)[] =>
  arms.map((_, i) => hits[i]);

function byLine(
  branches: readonly Branch[],
  records: readonly BranchRecord[],
  source: Source,
): { branches: MeasuredBranch[]; records: number }[] {
  const recorded = grouped(records, ({ line, hits, partly }) => `${line}:${partly ? '' : hits.length}`);
  const lineOf = (branch: Branch): number => source.lines.at(branch.place.start).line;
  const sized = grouped(branches, (branch) => `${lineOf(branch)}:${countOf(branch)}`);
  const whole = grouped(branches, (branch) => `${lineOf(branch)}:`);
  return [...recorded].map(([key, own]) => {
    const [first] = own;
    if (first?.partly) return partlyOf(whole.get(key) ?? [], first.partly);
    const found = sized.get(key) ?? [];
    if (found.length !== own.length) return { branches: [], records: 0 };
    const pairs = found.flatMap((branch, i) => {
      const record = own[i];
      return record ? [{ branch, hits: hitsOf(branch, record) }] : [];
    });
    return { branches: pairs, records: own.length };
  });
}

// All ways out of a line counted together.
function partlyOf(
  branches: readonly Branch[],
  partly: Share,
): { branches: MeasuredBranch[]; records: number } {
  const [hit, all] = partly;
  const arms = branches.reduce((sum, branch) => sum + countOf(branch), 0);
  if (arms !== all) return { branches: [], records: 0 };
  const same = hit === all ? 1 : hit === 0 ? 0 : undefined;
  const [only] = branches;
  const found = branches.map((branch) => ({ branch, hits: branch.arms.map(() => same) }));
  return {
    branches:
      same === undefined && only && branches.length === 1
        ? [{ branch: only, hits: only.arms.map(() => undefined), partly }]
        : found,
    records: 1,
  };
}

// The innermost range that holds an arm but not the branch itself counts it. Ranges as often run as what is around them are not written.
function byRanges(branch: Branch, ranges: readonly BranchRecord[], source: Source): MeasuredBranch {
  const start = placeOf(source, branch.place.start);
  const hits = branch.arms.map((arm) => {
    if (!arm.written) return undefined;
    const at = placeOf(source, arm.place.start);
    const around = ranges.filter(
      ({ at: from, rangeEnd: to }) =>
        from && to && compare(from, at) <= 0 && compare(at, to) < 0 && compare(from, start) > 0,
    );
    const inner = around.reduce<BranchRecord | undefined>(
      (best, each) => (best?.at && each.at && compare(each.at, best.at) < 0 ? best : each),
      undefined,
    );
    return inner?.hits[0];
  });
  return { branch, hits };
}

import * as v from 'valibot';
import type { BranchRecord, FileCoverage, Position } from './coverage.js';

// Parts that are not written have no place, and some writers give a column of null to the end of a line.
const Place = v.object({ line: v.optional(v.number()), column: v.nullish(v.number()) });
const Range = v.object({ start: Place, end: v.optional(Place) });
const Counts = v.record(v.string(), v.number());

const Entry = v.looseObject({
  path: v.string(),
  statementMap: v.record(v.string(), Range),
  s: Counts,
  fnMap: v.record(
    v.string(),
    v.looseObject({ name: v.optional(v.string(), ''), loc: v.optional(Range), decl: v.optional(Range) }),
  ),
  f: Counts,
  branchMap: v.record(
    v.string(),
    v.looseObject({
      type: v.optional(v.string(), ''),
      loc: v.optional(Range),
      locations: v.array(Range),
      line: v.optional(v.number()),
    }),
  ),
  b: v.record(v.string(), v.array(v.number())),
});

/** Reads the JSON coverage map that most runners write: an object with an entry for each file. */
export function readCoverageMap(text: string): FileCoverage[] {
  let map: unknown;
  try {
    map = JSON.parse(text);
  } catch {
    return [];
  }
  if (typeof map !== 'object' || map === null) return [];
  return Object.values(map).flatMap((each: unknown) => {
    // Some writers wrap each entry.
    const entry = typeof each === 'object' && each !== null && 'data' in each ? each.data : each;
    const parsed = v.safeParse(Entry, entry);
    return parsed.success ? [fileOf(parsed.output)] : [];
  });
}

function fileOf(entry: v.InferOutput<typeof Entry>): FileCoverage {
  const lines = new Map<number, number>();
  for (const [id, { start }] of Object.entries(entry.statementMap)) {
    const hits = entry.s[id];
    if (start.line !== undefined && hits !== undefined)
      lines.set(start.line, Math.max(hits, lines.get(start.line) ?? 0));
  }
  return {
    path: entry.path,
    lines,
    statements: Object.values(entry.s),
    branches: Object.entries(entry.branchMap).flatMap(([id, branch]) =>
      recordOf(Number(id), branch, entry.b[id]),
    ),
    functions: Object.entries(entry.fnMap).map(([id, { name, loc, decl }]) => ({
      name,
      line: (decl ?? loc)?.start.line ?? 0,
      hits: entry.f[id] ?? 0,
    })),
  };
}

type WrittenBranch = v.InferOutput<typeof Entry>['branchMap'][string];

function recordOf(block: number, branch: WrittenBranch, hits: readonly number[] | undefined): BranchRecord[] {
  const [first] = branch.locations;
  const at = positionOf((branch.loc ?? first)?.start);
  if (!at || !hits) return [];
  // The engine's own counts are ranges of code: one range is one record.
  const end =
    branch.type === 'branch' && branch.locations.length === 1
      ? positionOf((branch.loc ?? first)?.end)
      : undefined;
  const parts = branch.locations.map(({ start }) => positionOf(start) ?? at);
  return [{ line: at.line, block, hits, kind: KINDS[branch.type], at, parts, rangeEnd: end }];
}

const KINDS: Readonly<Record<string, BranchRecord['kind']>> = {
  if: 'if',
  'cond-expr': 'conditional',
  'binary-expr': 'logical',
  switch: 'switch',
  'default-arg': 'default',
};

const positionOf = (place: v.InferOutput<typeof Place> | undefined): Position | undefined =>
  place?.line === undefined
    ? undefined
    : { line: place.line, column: place.column ?? Number.MAX_SAFE_INTEGER };

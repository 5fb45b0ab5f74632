import picomatch from 'picomatch';
import type { Files } from '../host/files.js';
import { decodeSource, isProblem, LARGEST_COVERAGE, type Problem, type Source } from '../syntax/source.js';
import { grouped } from '../util/grouped.js';
import { basename, dirname, isAbsolute, join, relativeTo, resolve, slashed } from '../util/paths.js';
import { readCobertura } from './cobertura.js';
import { readCoverageMap } from './coverage-map.js';
import type { BranchRecord, Coverage, FileCoverage } from './coverage.js';
import { readLcov } from './lcov.js';

/** Where runners leave coverage when nothing is set, the format that tells most first. */
const USUAL = [
  'coverage/coverage-final.json',
  'coverage/lcov.info',
  'coverage/lcov/lcov.info',
  'lcov.info',
  'coverage/cobertura-coverage.xml',
  'coverage/coverage.xml',
  'cobertura-coverage.xml',
];

/**
 * The coverage file at its usual place in a folder, else those one folder further down, as workspaces have them; several
 * formats of one place tell of the same run.
 */
export function usualCoverage(files: Files, folder: string): string[] {
  const here = USUAL.map((name) => join(folder, name)).filter((path) => files.kind(path) === 'file');
  const below = join(folder, 'coverage');
  if (here.length > 0 || files.kind(below) !== 'folder') return here.slice(0, 1);
  const names = USUAL.filter((name) => !name.includes('/') || name.startsWith('coverage/')).map((name) =>
    basename(name),
  );
  const found = files
    .list(below, ['**/*.{html,css,js,png}'], () => {})
    .filter((path) => names.includes(basename(path)) && dirname(dirname(path)) === below);
  const rank = (path: string): number => names.indexOf(basename(path));
  return [...grouped(found, dirname).values()].map((own) =>
    own.reduce((a, b) => (rank(b) < rank(a) ? b : a)),
  );
}

/** The coverage files that paths and globs from a folder name; one that nothing matches stays as it is, to be missed. */
export const namedCoverage = (files: Files, root: string, named: readonly string[]): string[] =>
  named.flatMap((each) => {
    const { base, glob, isGlob } = picomatch.scan(each);
    if (!isGlob) return resolve(root, each);
    const folder = resolve(root, base);
    const takes = picomatch(glob, { dot: true });
    const found = files
      .list(folder, ['**/node_modules/**'], () => undefined)
      .filter((path) => takes(relativeTo(folder, path)));
    return found.length > 0 ? found : resolve(root, each);
  });

/** What reading coverage takes: the files, the paths of the project's sources, their texts, and where problems go. */
interface CoverageReader {
  files: Files;
  sources: readonly string[];
  sourceOf: (path: string) => Source | undefined;
  onProblem: (problem: Problem) => void;
}

/** Reads the coverage files at absolute paths and merges them. Records that can't belong to their file are left out. */
export function readCoverage(reader: CoverageReader, paths: readonly string[]): Coverage {
  const found = new Map<string, FileCoverage>();
  const unmatched: { path: string; in: string }[] = [];
  const unusable: Coverage['unusable'][number][] = [];
  const used: string[] = [];
  const byName = grouped(reader.sources, basename);
  const known = new Set(reader.sources);
  for (const path of paths) {
    const records = read(reader, path);
    if (records.length) used.push(path);
    for (const record of records) {
      const file = fileOf(slashed(record.path), path, known, byName);
      const wrong = file && misplaced(record, reader.sourceOf(file));
      if (!file) unmatched.push({ path: record.path, in: path });
      else if (wrong) unusable.push({ file, in: path, ...wrong });
      else found.set(file, merged(found.get(file), record));
    }
  }
  return { source: used, files: found, unmatched, unusable };
}

function read({ files, onProblem }: CoverageReader, path: string): FileCoverage[] {
  const bytes = files.read(path);
  const source = bytes && decodeSource(path, bytes, LARGEST_COVERAGE);
  if (!source || isProblem(source)) {
    onProblem(source ?? { file: path, reason: 'cannot be read' });
    return [];
  }
  const start = source.text.trimStart()[0];
  const records =
    start === '{'
      ? readCoverageMap(source.text)
      : start === '<'
        ? readCobertura(source.text)
        : readLcov(source.text);
  if (records.length === 0)
    onProblem({
      file: path,
      reason: 'holds no coverage record (LCOV, Cobertura XML or a JSON coverage map was expected)',
      line: 1,
    });
  return records;
}

// A line past the end, or a function or branch on an empty line: measured on another text.
function misplaced(
  { lines, branches, functions }: FileCoverage,
  source: Source | undefined,
): { line: number; isEmpty: boolean } | undefined {
  if (!source) return undefined;
  const past = [...lines.keys()].find((line) => line > source.lines.lines);
  if (past !== undefined) return { line: past, isEmpty: false };
  const empty = [...functions.filter(({ line }) => line > 0), ...branches].find(({ line }) =>
    isEmptyLine(source, line),
  );
  return empty && { line: empty.line, isEmpty: true };
}

const isEmptyLine = ({ text, lines }: Source, line: number): boolean => {
  const start = lines.startOf(line);
  return start === undefined || text.slice(start, lines.startOf(line + 1)).trim() === '';
};

// A path as it is, from the coverage file's folder or the one above; else by the longest common tail, if one is longest.
function fileOf(
  recorded: string,
  coverageFile: string,
  sources: ReadonlySet<string>,
  byName: ReadonlyMap<string, string[]>,
): string | undefined {
  const folder = dirname(coverageFile);
  const tries = isAbsolute(recorded)
    ? [recorded]
    : [join(dirname(folder), recorded), join(folder, recorded), resolve(folder, '../..', recorded)];
  const exact = tries.find((path) => sources.has(path));
  if (exact) return exact;
  const parts = recorded.split('/');
  const ranked = (byName.get(parts.at(-1) ?? '') ?? []).map((path) => ({
    path,
    tail: commonTail(path.split('/'), parts),
  }));
  const longest = Math.max(0, ...ranked.map(({ tail }) => tail));
  const best = ranked.filter(({ tail }) => tail === longest);
  return longest >= 2 && best.length === 1 ? best[0]?.path : undefined;
}

function commonTail(left: readonly string[], right: readonly string[]): number {
  let length = 0;
  while (length < left.length && length < right.length && left.at(-1 - length) === right.at(-1 - length))
    length++;
  return length;
}

function merged(left: FileCoverage | undefined, right: FileCoverage): FileCoverage {
  if (!left) return right;
  const lines = new Map(left.lines);
  for (const [line, hits] of right.lines) lines.set(line, (lines.get(line) ?? 0) + hits);
  const sameStatements = left.statements?.length === right.statements?.length;
  return {
    path: left.path,
    lines,
    statements: sameStatements
      ? left.statements?.map((hits, i) => hits + (right.statements?.[i] ?? 0))
      : undefined,
    branches: mergedBy(
      left.branches,
      right.branches,
      ({ line, block, hits }) => `${line}:${block}:${hits.length}`,
      mergedBranch,
    ),
    functions: mergedBy(
      left.functions,
      right.functions,
      ({ name, line }) => `${name}:${line}`,
      (a, b) => ({ ...a, hits: a.hits + b.hits }),
    ),
  };
}

function mergedBy<Item>(
  left: readonly Item[],
  right: readonly Item[],
  keyOf: (item: Item) => string,
  both: (a: Item, b: Item) => Item,
): Item[] {
  const merged = new Map(left.map((each) => [keyOf(each), each]));
  for (const each of right) {
    const known = merged.get(keyOf(each));
    merged.set(keyOf(each), known ? both(known, each) : each);
  }
  return [...merged.values()];
}

// Of two runs that took different parts, not more than the larger number is known.
const mergedBranch = (a: BranchRecord, b: BranchRecord): BranchRecord => ({
  ...a,
  hits: a.hits.map((hits, i) => hits + (b.hits[i] ?? 0)),
  partly: a.partly && b.partly ? [Math.max(a.partly[0], b.partly[0]), a.partly[1]] : a.partly,
  at: a.at ?? b.at,
  parts: a.parts ?? b.parts,
});

import type { Files } from '../discover/files.js';
import { decodeSource, isProblem, type Problem } from '../parse/source.js';
import { dirname, isAbsolute, join, resolve, slashed } from '../util/paths.js';
import type { Coverage, FileCoverage } from './coverage.js';
import { readLcov } from './lcov.js';

/** Where runners leave an LCOV file when nothing is set. */
const USUAL = ['coverage/lcov.info', 'lcov.info', 'coverage/lcov/lcov.info'];

/** Coverage files at their usual places in a folder. */
export const usualCoverage = (files: Files, folder: string): string[] =>
  USUAL.map((name) => join(folder, name)).filter((path) => files.kind(path) === 'file');

/** Reads coverage files and merges them; `sources`: the absolute paths of the project's files. */
export function readCoverage(
  files: Files,
  paths: readonly string[],
  sources: readonly string[],
  onProblem: (problem: Problem) => void,
): Coverage {
  const found = new Map<string, FileCoverage>();
  const unmatched = new Set<string>();
  const used: string[] = [];
  const byName = groupedByName(sources);
  for (const path of paths) {
    const records = read(files, path, onProblem);
    if (records.length) used.push(path);
    for (const record of records) {
      const file = fileOf(slashed(record.path), path, new Set(sources), byName);
      if (!file) unmatched.add(record.path);
      else found.set(file, merged(found.get(file), record));
    }
  }
  return { source: used, files: found, unmatched: [...unmatched] };
}

function read(files: Files, path: string, onProblem: (problem: Problem) => void): FileCoverage[] {
  const bytes = files.read(path);
  const source = bytes && decodeSource(path, bytes);
  if (!source || isProblem(source)) {
    onProblem(source ?? { file: path, reason: 'cannot be read' });
    return [];
  }
  const records = readLcov(source.text);
  if (records.length === 0)
    onProblem({ file: path, reason: 'holds no coverage record (LCOV was expected)', line: 1 });
  return records;
}

function groupedByName(sources: readonly string[]): Map<string, string[]> {
  const groups = new Map<string, string[]>();
  for (const path of sources) {
    const name = path.slice(path.lastIndexOf('/') + 1);
    groups.set(name, [...(groups.get(name) ?? []), path]);
  }
  return groups;
}

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
  const branches = left.branches.map((branch) => {
    const other = right.branches.find((each) => each.line === branch.line && each.block === branch.block);
    return { ...branch, hits: branch.hits.map((hits, i) => hits + (other?.hits[i] ?? 0)) };
  });
  const functions = left.functions.map((each) => ({
    ...each,
    hits:
      each.hits +
      (right.functions.find(({ name, line }) => name === each.name && line === each.line)?.hits ?? 0),
  }));
  return { path: left.path, lines, branches, functions };
}

/** How often the parts of one source file ran. Lines count from 1. */
export interface FileCoverage {
  /** The path as the coverage file writes it. */
  path: string;
  /** Hits by line. */
  lines: ReadonlyMap<number, number>;
  /** Branches in the order of the file: parts of one branch share line and block. */
  branches: readonly { line: number; block: number; hits: readonly number[] }[];
  functions: readonly { name: string; line: number; hits: number }[];
}

/** Coverage of a project: files by their absolute path, and where it came from. */
export interface Coverage {
  source: readonly string[];
  files: ReadonlyMap<string, FileCoverage>;
  /** Recorded paths that no file of the project answers to. */
  unmatched: readonly string[];
}

/** How many of a kind were hit, and how many there are. */
export type Share = readonly [hit: number, all: number];

/** The shares of statements, branches, functions and lines. LCOV has no statements: lines stand for them. */
export function shares(coverage: FileCoverage): {
  statements: Share;
  branches: Share;
  functions: Share;
  lines: Share;
} {
  const lines = share([...coverage.lines.values()]);
  const branches = share(coverage.branches.flatMap(({ hits }) => [...hits]));
  return { statements: lines, branches, functions: share(coverage.functions.map(({ hits }) => hits)), lines };
}

const share = (hits: readonly number[]): Share => [hits.filter((count) => count > 0).length, hits.length];

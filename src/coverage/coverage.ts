import type { Branch } from '../branches/arms.js';

/** A place in a source file: lines count from 1, columns from 0, as coverage maps have them. */
export interface Position {
  line: number;
  column: number;
}

/** One branch as a coverage file records it. */
export interface BranchRecord {
  line: number;
  /** Tells it from others of the same line. */
  block: number;
  /** The hits of its parts; none where only their number is known. */
  hits: readonly number[];
  /** How many of how many parts were hit, where the file does not say which. */
  partly?: Share;
  /** What kind of branch it is, in formats that tell. */
  kind?: Branch['kind'];
  /** Where it starts and where its parts do, in formats that tell. */
  at?: Position;
  parts?: readonly Position[];
  /** A range of code that the engine counted by itself, up to here: not one part of a known branch. */
  rangeEnd?: Position;
}

/** How often the parts of one source file ran. Lines count from 1. */
export interface FileCoverage {
  /** The path as the coverage file writes it. */
  path: string;
  /** Hits by line. */
  lines: ReadonlyMap<number, number>;
  /** Hits of statements, in formats that have them. */
  statements?: readonly number[];
  /** Branches in the order of the file: parts of one branch share line and block. */
  branches: readonly BranchRecord[];
  functions: readonly { name: string; line: number; hits: number }[];
}

/** Coverage of a project: files by their absolute path, and where it came from. */
export interface Coverage {
  /** The coverage files that were used, by absolute path. */
  source: readonly string[];
  files: ReadonlyMap<string, FileCoverage>;
  /** Recorded paths that no file of the project answers to, with the coverage file that names them. */
  unmatched: readonly { path: string; in: string }[];
  /** Files whose records can't be theirs, with the coverage file and a line that they do not have, or that is empty. */
  unusable: readonly { file: string; in: string; line: number; isEmpty: boolean }[];
}

/** How many of a kind were hit, and how many there are. */
export type Share = readonly [hit: number, all: number];

/** The shares of statements, branches, functions and lines. Where a format has no statements, lines stand for them. */
export function shares({ lines, branches, functions, statements }: FileCoverage): {
  statements: Share;
  branches: Share;
  functions: Share;
  lines: Share;
} {
  const byLine = share([...lines.values()]);
  return {
    statements: statements ? share(statements) : byLine,
    branches: sum(branches.map(({ hits, partly }) => partly ?? share(hits))),
    functions: share(functions.map(({ hits }) => hits)),
    lines: byLine,
  };
}

const share = (hits: readonly number[]): Share => [hits.filter((count) => count > 0).length, hits.length];

const sum = (all: readonly Share[]): Share => [
  all.reduce((total, [hit]) => total + hit, 0),
  all.reduce((total, [, count]) => total + count, 0),
];

/** Whether anything of a file ran: its functions, or, where none is recorded, its lines. */
export const ranAtAll = ({ functions, lines }: FileCoverage): boolean =>
  functions.length ? functions.some(({ hits }) => hits > 0) : [...lines.values()].some((hits) => hits > 0);

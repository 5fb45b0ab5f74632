import type { Rung } from '../specs/model/rungs.js';
import type { Certainty, Family, Level } from '../finding.js';
import type { Share } from '../coverage/coverage.js';

/** The report of an audit, version 1. This shape is a contract: add to it, never change it. */
export interface Report {
  format: 'wexlet-report';
  version: 1;
  tool: { name: 'wexlet'; version: string };
  root: '.';
  /** `unsure`: nothing holds, and what decides whether the suite runs could not be read. */
  verdict: 'ready' | 'hold' | 'unsure';
  /** What could not be read of how the suite runs. */
  undecided: UndecidedFact[];
  counts: {
    packages: number;
    specFiles: number;
    specs: number;
    components: number;
    findings: Record<Level, number>;
  };
  findings: ReportedFinding[];
  /** The findings as they are told: one entry a code and file, or a code and package; first what to mend first. */
  entries: Entry[];
  reach: Record<Rung, number>;
  gaps: Gap[];
  /** The arms of all components, where branches were looked at. */
  branches?: {
    arms: number;
    /** Arms that nothing takes, by their conditions and types. */
    unreachable: number;
    /** Branch records of the coverage files for these components, and those that fit no branch. */
    records: number;
    unmapped: number;
    /** Arms of which a run and the values that specs give say different things. */
    disagree: number;
    components: ArmCounts[];
  };
  coverage?: { source: string[]; files: CoveredFile[]; unmatched: number };
  environment: PackageFacts[];
  unread: Unread[];
}

/** A fact that decides whether a suite runs, and that could not be read. */
export interface UndecidedFact {
  /** Relative to the root, with `/`. */
  package: string;
  fact: string;
  reason: string;
  file?: string;
  line?: number;
  /** What would tell it, as it would stand in `wexlet.json`. */
  opens: string;
}

export interface ReportedFinding {
  code: string;
  family: Family;
  level: Level;
  certainty: Certainty;
  /** Relative to the root, with `/`. */
  file: string;
  line: number;
  column: number;
  endLine: number;
  endColumn: number;
  group: string[];
  spec?: string;
  message: string;
  advice: string;
  evidence: { file: string; line: number; column: number; note: string }[];
  mend?: {
    summary: string;
    safe: boolean;
    edits: { file: string; start: number; end: number; text: string }[];
  };
  suggestion?: string;
  /** The codes of what follows from it and is not said: there only where something does. */
  hides?: string[];
  fingerprint: string;
}

/** Findings of one code and level that are said together. */
export interface Entry {
  code: string;
  family: Family;
  level: Level;
  /** `sure` where one of them is. */
  certainty: Certainty;
  /** Of one file, or a habit all over a package. */
  scope: 'file' | 'package';
  /** The file or the package. */
  at: string;
  files: number;
  /** How many specs or places would be better for a mend. */
  specs: number;
  /** Positions in `findings`, from 0. */
  findings: number[];
  /** Of a habit: the places to look at first. */
  best: number[];
}

/** The arms of one component. Those neither taken nor gaps can't be told. */
export interface ArmCounts {
  component: string;
  file: string;
  arms: number;
  taken: number;
  gaps: number;
}

export interface Gap {
  kind: 'arm' | 'component' | 'event' | 'output';
  component: string;
  file: string;
  line: number;
  column: number;
  /** The branch as it is written. */
  branch?: string;
  /** All that must hold for the arm. */
  condition?: string;
  arm?: string;
  event?: string;
  basis: 'measured' | 'computed';
  /** A run did not take the arm, though what specs give does. */
  computed?: 'taken';
  /** Values that take the arm: of props and of state, by name; those at a boundary follow. */
  inputs: Record<string, unknown>[];
  /** Whether inputs could be worked out. */
  solved: boolean;
}

export interface CoveredFile {
  file: string;
  statements: Share;
  branches: Share;
  functions: Share;
  lines: Share;
}

export interface PackageFacts {
  package: string;
  runner: string;
  document: string;
  facts: Record<string, unknown>;
  /** How many reaches of its specs stand on each rung. */
  reach: Record<Rung, number>;
  sizes: Sizes;
  sight: Sight;
}

/** How much of the specs of a package is in sight. */
export interface Sight {
  /** How many queries there are, and of how many of them the element is known, or is known not to be there. */
  queries: number;
  elements: number;
  renders: number;
  /** What could not be seen, each cause once, worst first. */
  unseen: Unseen[];
}

export interface Unseen {
  /** An import that leads nowhere, a render of something unknown, a call that may render, or a query whose element is unknown. */
  what: 'import' | 'render' | 'call' | 'element';
  name: string;
  reason: string;
  /** What would let it be seen. */
  opens?: string;
  count: number;
  files: number;
  /** The first place. */
  file: string;
  line: number;
}

/** The middle of many figures, and the one that nine in ten of them don't pass. */
export interface Spread {
  median: number;
  p90: number;
}

/** How large the specs of a package are that run, and how many of them say little; left out where that was not looked for. */
export interface Sizes {
  specs: number;
  assertions: Spread;
  rounds: Spread;
  cannotFail?: number;
  vagueTitles?: number;
}

export interface Unread {
  file: string;
  reason: string;
  line?: number;
}

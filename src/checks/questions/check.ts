import type { FileContext, FileFact, ProjectContext } from './context.js';
import type { Family, Finding, Level } from '../../finding.js';

/** What `explain` and the catalogue say of a check. */
export interface CheckText {
  code: string;
  family: Family;
  title: string;
  /** The level that it has unless the settings, or the finding, say another. */
  level: Level;
  /** What it is for, in a sentence or two. */
  why: string;
  /** The facts that a sure finding stands on; where one of them is not known, it is likely at most, or not made. */
  certain: string;
  /** Code that it objects to, and the same code mended. */
  trouble: string;
  mended: string;
  /** Facts of each spec file that it asks for across files. */
  facts?: readonly FileFact<unknown>[];
  /** A figure of the report that its findings are counted for: those that `counts` takes, or all. */
  tally?: { name: Tally; counts?: (finding: Finding) => boolean };
  /** It speaks of arms that no spec takes: the report lists them where such a check is on. */
  listsArms?: boolean;
}

/** Figures of a suite's shape that are counts of findings. */
export type Tally = 'cannotFail' | 'vagueTitles';

export interface FileCheck extends CheckText {
  scope: 'file';
  run(context: FileContext): Finding[];
  /** What it objects to across files. */
  across?: (context: ProjectContext) => Finding[];
}

export interface ProjectCheck extends CheckText {
  scope: 'project';
  run(context: ProjectContext): Finding[];
}

export type Check = FileCheck | ProjectCheck;

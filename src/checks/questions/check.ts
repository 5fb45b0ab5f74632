import type { FileContext, ProjectContext } from './context.js';
import type { Family, Level, Certainty, Evidence, Mend, Place } from '../../finding.js';
import type { Block } from '../../specs/model/blocks.js';

/** One place that a check objects to. Places are UTF-16 offsets in files with absolute paths. */
export interface Finding {
  place: Place;
  /** The group or spec that it belongs to. */
  block?: Block;
  level?: Level;
  certainty: Certainty;
  message: string;
  advice: string;
  evidence?: readonly Evidence[];
  mend?: Mend;
  suggestion?: string;
  /** What no spec exercises, for the list of gaps. */
  gap?: { kind: 'component' | 'event'; component: string; event?: string };
}

/** What `explain` and the catalogue say of a check. */
export interface CheckText {
  code: string;
  family: Family;
  title: string;
  /** The level that it has unless the settings, or the finding, say another. */
  level: Level;
  /** What it is for, in a sentence or two. */
  why: string;
  /** Code that it objects to, and the same code mended. */
  trouble: string;
  mended: string;
}

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

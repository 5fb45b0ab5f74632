/** A range of UTF-16 offsets, from 0, in a file that is known. */
export interface Span {
  start: number;
  end: number;
}

/** A range of UTF-16 offsets, from 0, in a file named by its absolute path. */
export interface Place extends Span {
  file: string;
}

/** One change of a file: the text between two UTF-16 offsets is replaced. */
export interface Edit extends Place {
  text: string;
}

/** A change that removes a finding. `safe`: it can't change what a passing spec proves. */
export interface Mend {
  summary: string;
  safe: boolean;
  edits: readonly Edit[];
}

export const FAMILIES = [
  'environment',
  'queries',
  'state',
  'cleanup',
  'overload',
  'branches',
  'allowances',
] as const;

export type Family = (typeof FAMILIES)[number];

export const LEVELS = ['blocker', 'risk', 'hint'] as const;

export type Level = (typeof LEVELS)[number];

export type Certainty = 'sure' | 'likely';

/** Another place that proves a finding. */
export interface Evidence extends Place {
  note: string;
}

/** The titles of the groups around a place, and of the spec that it stands in. */
export interface Titles {
  group: string[];
  spec?: string;
}

/** One place that a check objects to. Places are UTF-16 offsets in files with absolute paths. */
export interface Finding {
  place: Place;
  /** The group or spec that it belongs to. */
  within?: Titles;
  level?: Level;
  certainty: Certainty;
  message: string;
  advice: string;
  evidence?: readonly Evidence[];
  mend?: Mend;
  suggestion?: string;
  /** The place of what it follows from, where another check objects to that: the cause alone is said then. */
  follows?: Place;
  /** What no spec exercises, for the list of gaps. */
  gap?: { kind: 'component' | 'event' | 'output'; component: string; event?: string };
}

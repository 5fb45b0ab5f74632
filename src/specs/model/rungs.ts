import type { SpecFile } from './blocks.js';
import type { Reach } from './steps.js';

/** The rung of the ladder that a reach stands on. */
export const RUNG_OF: Readonly<Record<Reach['by'], Rung>> = {
  role: 'role',
  label: 'label',
  text: 'text',
  placeholder: 'text',
  value: 'text',
  alt: 'alternative',
  title: 'alternative',
  testId: 'testId',
  // A handle that is made for specs, too.
  harness: 'testId',
  selector: 'structure',
  component: 'structure',
  hop: 'structure',
  id: 'structure',
  class: 'structure',
  tag: 'structure',
};

/** How many reaches stand on each rung. */
export type ReachCounts = Record<Rung, number>;

/** The counts of one spec file. A pick by position belongs to the query that it picks from. */
export function reachCounts({ reaches, insides }: SpecFile): ReachCounts {
  const counts = noReaches();
  for (const { by, position } of reaches) if (position === undefined) counts[RUNG_OF[by]]++;
  counts.internals += insides.length;
  return counts;
}

/** Several counts as one. */
export function summed(all: readonly ReachCounts[]): ReachCounts {
  const counts = noReaches();
  for (const each of all) for (const rung of RUNGS) counts[rung] += each[rung];
  return counts;
}

const noReaches = (): ReachCounts => Object.fromEntries(RUNGS.map((rung) => [rung, 0])) as ReachCounts;
/** The ladder of reaches, best first. */
export const RUNGS = ['role', 'label', 'text', 'alternative', 'testId', 'structure', 'internals'] as const;

export type Rung = (typeof RUNGS)[number];

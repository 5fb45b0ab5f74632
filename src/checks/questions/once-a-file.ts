import type { Finding } from '../../finding.js';

/** One finding for all of a file: the first, with the places of the others as evidence, each with the note. */
export function onceAFile([first, ...others]: readonly Finding[], note: string): Finding[] {
  if (!first) return [];
  const places = others.map(({ place }) => ({ ...place, note }));
  return [{ ...first, evidence: [...(first.evidence ?? []), ...places] }];
}

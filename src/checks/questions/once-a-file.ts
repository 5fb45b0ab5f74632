import type { Finding, Mend } from '../../finding.js';

/** One finding for all of a file: the first, with the places of the others as evidence, each with the note. */
export function onceAFile([first, ...others]: readonly Finding[], note: string): Finding[] {
  if (!first) return [];
  const places = others.map(({ place }) => ({ ...place, note }));
  return [{ ...first, evidence: [...(first.evidence ?? []), ...places] }];
}

/** The same, with what mends each of them in one mend: all are mended in one way. */
export function onceAFileMended(findings: readonly Finding[], note: string): Finding[] {
  const mends = findings.flatMap(({ mend }) => mend ?? []);
  const [first] = mends;
  const mend: Mend | undefined = first && { ...first, edits: mends.flatMap(({ edits }) => edits) };
  return onceAFile(findings, note).map((each) => ({ ...each, mend }));
}

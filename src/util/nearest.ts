import { distance } from 'fastest-levenshtein';

/** The candidate with the fewest edits from `name`, if those are at most a third of its length, or two from four letters on; else undefined. */
export function nearest(name: string, candidates: Iterable<string>): string | undefined {
  let best: string | undefined;
  let least = Math.max(name.length < 4 ? 1 : 2, Math.floor(name.length / 3)) + 1;
  for (const candidate of candidates) {
    const edits = distance(name.toLowerCase(), candidate.toLowerCase());
    if (edits < least) {
      best = candidate;
      least = edits;
    }
  }
  return best;
}

/** The end of a message about a name that does not exist: the nearest that does. */
export function orNearest(name: string, known: readonly string[]): string {
  const near = nearest(name, known);
  return near ? `; did you mean ${near}?` : '';
}

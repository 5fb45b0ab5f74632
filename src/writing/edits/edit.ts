import type { Edit } from '../../finding.js';

/** Which of several mends are taken, in order: one that overlaps an earlier one is left for the next run. */
export function withoutOverlaps<T extends { edits: readonly Edit[] }>(
  mends: readonly T[],
): { taken: T[]; left: T[] } {
  const taken: T[] = [];
  const left: T[] = [];
  const used: Edit[] = [];
  for (const mend of mends) {
    const clashes = mend.edits.some((edit) => used.some((other) => overlap(edit, other)));
    if (clashes) left.push(mend);
    else {
      taken.push(mend);
      used.push(...mend.edits.filter((edit) => !used.some((other) => same(edit, other))));
    }
  }
  return { taken, left };
}

const same = (a: Edit, b: Edit): boolean =>
  a.file === b.file && a.start === b.start && a.end === b.end && a.text === b.text;

// Two insertions at one place follow each other; the same edit asked for twice is made once.
function overlap(a: Edit, b: Edit): boolean {
  if (a.file !== b.file || same(a, b)) return false;
  if (a.start === a.end && b.start === b.end) return false;
  return a.start < b.end && b.start < a.end;
}

/** A text with edits applied; of equal edits one is. They must not overlap. */
export function applied(text: string, edits: readonly Edit[]): string {
  const unique = edits.filter((edit, i) => edits.findIndex((other) => same(edit, other)) === i);
  const order = unique
    .map((edit, i) => ({ edit, i }))
    .sort((a, b) => a.edit.start - b.edit.start || a.i - b.i);
  let result = '';
  let at = 0;
  const merged: Edit[] = [];
  for (const { edit } of order) {
    const last = merged.at(-1);
    const one = last?.end === edit.start ? asOne(last, edit) : undefined;
    if (one === undefined) merged.push(edit);
    else merged.splice(-1, 1, { ...edit, text: one });
  }
  for (const edit of merged) {
    result += text.slice(at, edit.start) + edit.text;
    at = edit.end;
  }
  return result + text.slice(at);
}

// Two insertions at one place that open and close a block with the same lines make one block: both are hooks of one kind.
function asOne(a: Edit, b: Edit): string | undefined {
  if (a.start !== a.end || b.start !== b.end) return undefined;
  const [first, second] = [a, b].map(({ text }) => {
    const lines = text.split('\n');
    const isFull = (line: string): boolean => line.trim() !== '';
    return { lines, open: lines.findIndex(isFull), close: lines.findLastIndex(isFull) };
  });
  if (!first || !second) return undefined;
  const opening = first.lines[first.open];
  const isBlock = opening?.trimEnd().endsWith('{') && first.close > first.open;
  if (!isBlock || opening !== second.lines[second.open]) return undefined;
  if (first.lines[first.close] !== second.lines[second.close]) return undefined;
  return first.lines
    .toSpliced(first.close, 0, ...second.lines.slice(second.open + 1, second.close))
    .join('\n');
}

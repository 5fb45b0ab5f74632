import { applied, withoutOverlaps } from './edits/edit.js';
import { type Edit } from '../finding.js';
import { withoutUnused } from './unused-names.js';

/** A mend with the code of its finding. */
export interface CodedMend {
  code: string;
  summary: string;
  safe: boolean;
  edits: readonly Edit[];
}

/** What becomes of the files: the new text of each, the mends that make it, and those left for the next run. */
export interface Plan {
  texts: ReadonlyMap<string, { before: string; after: string }>;
  taken: readonly CodedMend[];
  left: readonly CodedMend[];
}

/** Applies mends to texts. `textOf` gives the text of a file; a mend of a file without one is left. */
export function planMends(mends: readonly CodedMend[], textOf: (file: string) => string | undefined): Plan {
  const readable = mends.filter((mend) => mend.edits.every((edit) => textOf(edit.file) !== undefined));
  const { taken, left } = withoutOverlaps(readable);
  const texts = new Map<string, { before: string; after: string }>();
  for (const file of new Set(taken.flatMap((mend) => mend.edits.map((edit) => edit.file)))) {
    const before = textOf(file) ?? '';
    const edits = taken.flatMap((mend) => mend.edits.filter((edit) => edit.file === file));
    texts.set(file, { before, after: withoutUnused(file, before, applied(before, edits)) });
  }
  return { texts, taken, left };
}

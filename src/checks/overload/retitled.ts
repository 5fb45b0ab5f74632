import { quoted } from '../../mends/style.js';
import type { Mend } from '../../mends/edit.js';
import { below, type Block } from '../../model/specs/blocks.js';
import { inFile, type FileContext } from '../check.js';

/** A mend that gives a spec another title; `likely`, as words are a matter of taste. Undefined where the title is no literal. */
export function retitled(spec: Block, title: string, context: FileContext): Mend | undefined {
  const { titlePlace } = spec;
  if (!titlePlace || storesSnapshots(spec)) return undefined;
  const text = quoted(title, quoteFor(title, context));
  return {
    summary: `Call it “${title}”`,
    safe: false,
    edits: [{ ...inFile(context, titlePlace), text }],
  };
}

/** Whether a block's specs compare with snapshots, which are stored by their titles. */
export const storesSnapshots = (block: Block): boolean =>
  [block, ...below(block)].some(({ steps }) =>
    steps.some((step) => step.kind === 'assert' && step.assertion.asks === 'snapshot'),
  );

/** The file's own quotes, or the others where the text has those in it. */
export const quoteFor = (text: string, { style }: FileContext): '"' | "'" =>
  text.includes(style.quote) && !text.includes(style.quote === '"' ? "'" : '"')
    ? style.quote === '"'
      ? "'"
      : '"'
    : style.quote;

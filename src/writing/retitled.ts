import { quoted } from './edits/style.js';
import type { Mend, Place } from '../finding.js';
import { blocksBelow, type Block } from '../specs/model/blocks.js';
import { inFile, type FileContext } from '../checks/questions/context.js';

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
  [block, ...blocksBelow(block)].some(({ steps }) =>
    steps.some((step) => step.kind === 'assert' && step.assertion.asks === 'snapshot'),
  );

/** The place of a spec's title, or of its call where the title is no literal. */
export const titlePlaceOf = ({ titlePlace, callee }: Block, context: FileContext): Place =>
  inFile(context, titlePlace ?? callee);

/** The file's own quotes, or the others where the text has those in it. */
export function quoteFor(text: string, { style: { quote } }: FileContext): '"' | "'" {
  const other = quote === '"' ? "'" : '"';
  return text.includes(quote) && !text.includes(other) ? other : quote;
}

import { titlesOf, hooksFor, blocksAround, type Block } from '../../specs/model/blocks.js';
import type { Mend, Finding } from '../../finding.js';
import { wholeLines } from '../../writing/edits/style.js';
import type { StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningBlocks } from '../questions/order.js';

const message = (name: string): string =>
  `${name} prints while the spec runs, and nothing reads what it prints.`;
const advice = 'Take it out.';

/** Debug output that was left in specs. */
export const O10: FileCheck = {
  code: 'O10',
  family: 'overload',
  scope: 'file',
  title: 'Debug output left',
  level: 'hint',
  why: 'Output of a hunt that is over hides the output of the next failure.',
  certain: 'Sure where the call is the platform’s or the library’s own.',
  trouble: 'render(<KilnCard />);\nscreen.debug();',
  mended: 'render(<KilnCard />);',
  run: (context) =>
    runningBlocks(context.file)
      .filter(({ kind }) => kind === 'spec' || kind === 'hook')
      .flatMap((block) =>
        block.steps.flatMap((step) => (step.kind === 'print' ? check(step, block, context) : [])),
      ),
};

function check(step: StepOf<'print'>, block: Block, context: FileContext): Finding[] {
  // Helpers print for all who call them, handlers when the event comes; a stand-in for the console reads what is printed.
  if (step.via || step.inCallback || (step.name.startsWith('console.') && isReplaced(block, context)))
    return [];
  return [
    {
      place: inFile(context, step.place),
      within: titlesOf(block),
      certainty: 'sure',
      message: message(step.name),
      advice,
      mend: removed(step, context),
    },
  ];
}

const isReplaced = (block: Block, { file }: FileContext): boolean =>
  file.standIns.some(
    ({ objectText, block: at }) =>
      objectText !== undefined &&
      /(?:^|\.)console$/.test(objectText) &&
      (blocksAround(block).includes(at) || hooksFor(block, 'before-all', 'before-each').includes(at)),
  );

// The statement goes with its line, if it has one of its own.
function removed({ statement, place, awaited }: StepOf<'print'>, context: FileContext): Mend | undefined {
  const lines = wholeLines(context.source.text, place);
  if (!statement || awaited || !lines) return undefined;
  return { summary: 'Take it out', safe: true, edits: [{ ...inFile(context, lines), text: '' }] };
}

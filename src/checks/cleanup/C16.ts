import type { Finding, Mend } from '../../finding.js';
import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { onceAFileMended } from '../questions/once-a-file.js';
import { runningBlocks } from '../questions/order.js';

const message = (kind: string): string =>
  `The function of this ${kind} is async, and nothing in it is awaited.`;
const advice = 'Await what it starts, or leave the async out.';

/** An async spec or hook that awaits nothing. One finding a file. */
export const C16: FileCheck = {
  code: 'C16',
  family: 'cleanup',
  scope: 'file',
  title: 'Async for nothing',
  level: 'hint',
  why: 'It looks as if something were waited for: an await was forgotten, or is no longer needed.',
  certain:
    'Sure: what the function does is all in sight, and there is no await and no promise that it returns.',
  trouble:
    "it('opens', async () => {\n  render(<Lid />);\n  expect(screen.getByText('Open')).toBeVisible();\n});",
  mended: "it('opens', () => {\n  render(<Lid />);\n  expect(screen.getByText('Open')).toBeVisible();\n});",
  run: (context) =>
    onceAFileMended(
      runningBlocks(context.file).flatMap((block) => check(block, context) ?? []),
      'and here',
    ),
};

function check(block: Block, context: FileContext): Finding | undefined {
  const { fn, kind, statements, body } = block;
  if (!fn?.async || !body || block.empty || (kind !== 'spec' && kind !== 'hook')) return undefined;
  if (statements.length === 0 || statements.some(({ awaits, returns }) => awaits || returns))
    return undefined;
  // A promise that is left to itself is another matter.
  if (block.steps.some(({ kind }) => kind === 'unwaited')) return undefined;
  return {
    place: inFile(context, block.callee),
    within: titlesOf(block),
    certainty: 'sure',
    message: message(kind),
    advice,
    mend: mend(fn.start, context),
  };
}

// The word and the space after it. Hooks and cleanup come a turn earlier without it.
function mend(start: number, { file, source: { text } }: FileContext): Mend | undefined {
  const word = /^async\s+/.exec(text.slice(start, start + 40))?.[0];
  if (word === undefined) return undefined;
  const edit = { file: file.path, start, end: start + word.length, text: '' };
  return { summary: 'Leave the async out', safe: false, edits: [edit] };
}

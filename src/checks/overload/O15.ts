import { blocksBelow, titlesOf, type Block } from '../../specs/model/blocks.js';
import type { FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningBlocks } from '../questions/order.js';

const message = 'This group has no spec: what its title promises is tested by nobody.';
const messageFails = 'This group has no spec, and the runner fails the file for that.';
const advice = 'Write its specs, mark them as still to be written, or take the group out.';

/** A group without a spec. */
export const O15: FileCheck = {
  code: 'O15',
  family: 'overload',
  scope: 'file',
  title: 'Group without a spec',
  level: 'hint',
  why: 'In the list of groups it looks as if its subject were covered.',
  certain: 'Sure where nothing in the group could make a spec.',
  trouble: "describe('when the lid is open', () => {});",
  mended: "describe('when the lid is open', () => {\n  it.todo('does not fire');\n});",
  run(context) {
    // The bundler's runner takes an empty group for an error: its `runSuite` says “No test found in suite”.
    const fails = context.runners.some(({ runner }) => runner === 'vitest');
    return runningBlocks(context.file)
      .filter((block) => isEmpty(block, context))
      .map((group) => ({
        place: inFile(context, group.callee),
        within: titlesOf(group),
        level: fails ? ('risk' as const) : undefined,
        certainty: 'sure' as const,
        message: fails ? messageFails : message,
        advice,
      }));
  },
};

// A call that can't be read may well make specs, and so may a body that is not in sight.
function isEmpty(block: Block, { file }: FileContext): boolean {
  if (block.kind !== 'group' || block.body === undefined || block.maybe) return false;
  const inside = blocksBelow(block);
  return (
    !file.unknownEffects &&
    inside.every(({ kind }) => kind === 'hook') &&
    ![block, ...inside].some(({ steps }) => steps.some(({ kind }) => kind === 'unknown-call'))
  );
}

import {
  hooksFor,
  isOff,
  blocksAround,
  specsOf,
  type Block,
  type SpecFile,
} from '../../specs/model/blocks.js';
import { grouped } from '../../util/grouped.js';

/** The specs that run, in order: those that are switched off or still to be written are left out. */
export const runningSpecs = (file: SpecFile): Block[] => specsOf(file).filter((spec) => !isOff(spec));

/** The groups, hooks and specs that run, in the order of the file. */
export const runningBlocks = (file: SpecFile): Block[] => file.blocks.filter((block) => !isOff(block));

/** The specs that run, by the group or file that they stand in, in order. */
export const runningByGroup = (file: SpecFile): Map<Block | undefined, Block[]> =>
  grouped(runningSpecs(file), ({ parent }) => parent);

/** The specs that run after something that a spec or hook does, and outside of the hook's own group. */
export function specsAfter(file: SpecFile, block: Block): Block[] {
  const specs = runningSpecs(file);
  if (block.kind === 'spec') return specs.slice(specs.indexOf(block) + 1);
  const group = block.parent;
  if (!group || group.kind === 'file') return [];
  const last = specs.findLastIndex((spec) => blocksAround(spec).includes(group));
  return last < 0 ? [] : specs.slice(last + 1);
}

/** The each-hooks that run around a spec, or, for a hook, around the specs of its group. */
export const eachHooksAround = (block: Block): Block[] => hooksFor(block, 'before-each', 'after-each');

/** What runs up to the end of a spec: its before-each hooks, and the spec itself. */
export const withHooksBefore = (spec: Block): Block[] => [...hooksFor(spec, 'before-each'), spec];

/** A title as it is quoted in messages. */
export const quotedTitle = (block: Block): string =>
  block.kind === 'spec' ? `“${block.title.text}”` : hookName(block);

function hookName(block: Block): string {
  if (block.kind === 'hook') return `the ${block.hook ?? ''} hook`;
  return block.kind === 'group' ? `the group “${block.title.text}”` : 'the file';
}

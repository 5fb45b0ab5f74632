import { blocksAround, type Block } from '../../specs/model/blocks.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import { inFile, truePlace, type FileContext } from './context.js';
import type { Evidence, Finding } from '../../finding.js';
import { eachHooksAround, quotedTitle, runningBlocks, specsAfter } from './order.js';
import { saysUndone, unreadAround } from './unread-calls.js';

// How something that outlives its spec ends: in a hook or whatever happens, never, or by a step that a failure skips.
type Ending = { is: 'ended' } | { is: 'never' } | { is: 'skipped'; by: Step };

/** Whether a step ends something. `byHook`: it may know it by a name that another spec gave a value. */
type Ends = (step: Step, byHook: boolean) => boolean;

// What ends something that a step of a block has begun: in the hooks around, in set-up files, or later in the block.
function endingOf(block: Block, begun: Step, ends: Ends, { setup }: Pick<FileContext, 'setup'>): Ending {
  const hooks = eachHooksAround(block).filter((hook) => hook !== block);
  const around = [...hooks, ...(block.kind === 'hook' ? afterAllOf(block) : [])].flatMap(
    ({ steps }) => steps,
  );
  if ([...around, ...(setup?.steps ?? [])].some((step) => ends(step, true) || saysUndone(step)))
    return { is: 'ended' };
  const at = block.steps.indexOf(begun);
  const by = block.steps.findLast((step, i) => i > at && ends(step, false));
  const isAssert = ({ kind }: Step): boolean => kind === 'assert';
  // What is followed by an assertion is part of what the spec does: another value is no way back.
  const isAct = by !== undefined && block.steps.slice(block.steps.indexOf(by)).some(isAssert);
  if (!by || (isAct && by.kind === 'lasting' && by.lasting.does === 'set')) return { is: 'never' };
  if (isAct) return { is: 'ended' };
  const asserts = block.steps.slice(at, block.steps.indexOf(by)).some(isAssert);
  return by.inFinally || !asserts ? { is: 'ended' } : { is: 'skipped', by };
}

const afterAllOf = (hook: Block): Block[] =>
  blocksAround(hook).flatMap((group) => group.children.filter((child) => child.hook === 'after-all'));

/** Something that a step of a spec or hook leaves behind, with how it ends and the first spec that runs on it. */
export interface Left<Kind extends Step['kind']> {
  block: Block;
  step: StepOf<Kind>;
  ending: Ending;
  later: Block;
  certainty: Finding['certainty'];
  /** Calls that can't be read, and may end it. */
  unread: readonly Evidence[];
}

/**
 * What steps of one kind begin in the specs and hooks of a file and do not surely end, as long as another spec follows.
 * `begins` tells what ends a step, or that it begins nothing.
 */
export function leftBy<Kind extends Step['kind']>(
  context: FileContext,
  kind: Kind,
  begins: (step: StepOf<Kind>, block: Block) => Ends | undefined,
): Left<Kind>[] {
  const isOfKind = (step: Step): step is StepOf<Kind> => step.kind === kind;
  const left: Left<Kind>[] = [];
  for (const block of runningBlocks(context.file)) {
    if (block.kind !== 'spec' && block.kind !== 'hook') continue;
    for (const step of block.steps) {
      const ends = isOfKind(step) ? begins(step, block) : undefined;
      const later = ends && laterThan(block, context);
      if (!ends || !later || !isOfKind(step)) continue;
      const ending = endingOf(block, step, ends, context);
      if (ending.is === 'ended') continue;
      const unread = unreadAround([block], context);
      const isKnown = !step.maybe && !context.file.unknownEffects && context.setup && unread.length === 0;
      left.push({ block, step, ending, later, certainty: isKnown ? 'sure' : 'likely', unread });
    }
  }
  return left;
}

/** Where something is left behind by a helper, in the words of `note`, the spec that runs on it, and what may end it. */
export const traces = (
  { step, later, unread }: { step: Step } & Pick<Left<Step['kind']>, 'later' | 'unread'>,
  note: string,
  context: FileContext,
): Evidence[] => [
  ...(step.via ? [{ ...truePlace(context, step), note }] : []),
  { ...inFile(context, later.place), note: `${quotedTitle(later)} runs later` },
  ...unread,
];

// A spec that rows or a loop make several of comes after itself.
const laterThan = (block: Block, { file }: FileContext): Block | undefined =>
  block.kind === 'spec' && block.repeated ? block : specsAfter(file, block)[0];

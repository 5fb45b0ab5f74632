import type { Span } from '../../finding.js';
import type { Block } from '../../specs/model/blocks.js';
import type { Step } from '../../specs/model/steps.js';
import { grouped } from '../../util/grouped.js';
import type { FileContext } from './context.js';
import { runningBlocks } from './order.js';

/** The waits of a file that run a callback again and again, written in the block itself, with the steps of the callback. */
export const retriedWaits = ({ file }: FileContext): { wait: Span; steps: readonly Step[]; block: Block }[] =>
  runningBlocks(file).flatMap((block) =>
    [...grouped(block.steps.filter(isRetried), ({ retried }) => retried)].flatMap(([wait, steps]) =>
      wait ? [{ wait, steps, block }] : [],
    ),
  );

const isRetried = (step: Step): boolean => step.retried !== undefined && !step.dead && !step.via;

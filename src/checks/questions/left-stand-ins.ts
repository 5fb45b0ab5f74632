import { assigns, isReplacedImport, type Block } from '../../specs/model/blocks.js';
import type { StandIn, Step } from '../../specs/model/steps.js';
import type { FileContext } from './context.js';
import { isOfKit, undoneBySettings, type Undone } from './kits.js';
import { eachHooksAround } from './order.js';
import { leftBy, type Left } from './ending.js';
import { saysUndone } from './unread-calls.js';

/** Stand-ins on what outlives their spec or hook, that nothing surely takes off. */
export function leftStandIns(context: FileContext): Left<'stand-in'>[] {
  const left = leftBy(context, 'stand-in', (step, block) =>
    step.standIn.target === 'member' && !step.standIn.onceOnly && outlives(step.standIn, block, context)
      ? (other) => restores(other, step.standIn)
      : undefined,
  );
  return left.flatMap((each) => {
    const { undone, certainty } = undoneByRun(each.step.standIn, context);
    return undone ? [] : [certainty === 'sure' ? each : { ...each, certainty }];
  });
}

// Something global, imported, or built once outside of the specs; not what a hook builds anew.
function outlives({ binding, object, objectText }: StandIn, block: Block, { file }: FileContext): boolean {
  if (!binding) return object?.is === 'global' || objectText === 'document';
  // A module that the runner replaces is a stand-in as a whole.
  if (binding.kind === 'import') return !isReplacedImport(binding, file);
  if (!['instance', 'made', 'literal', 'closure', 'constant'].includes(binding.holds)) return false;
  return ![...eachHooksAround(block), block].some((each) => assigns(each, binding));
}

// The runner's settings or a set-up file restore it.
const undoneByRun = ({ maker, made }: StandIn, context: FileContext): Undone =>
  context.setup?.steps.some(saysUndone) || isJasmines(made)
    ? { undone: true, certainty: 'sure' }
    : undoneBySettings(maker, ['restores', 'resets'], ['restore'], context);

// jasmine 2 to 6 take their spies off after each spec, under whatever runner they run: jest did so up to 26.
const isJasmines = ({ by, module }: StandIn['made']): boolean =>
  module === '' && (by === 'spyOn' || by === 'spyOnProperty');

// A step takes a stand-in off, or turns its answer off.
function restores(step: Step, standIn: StandIn): boolean {
  // Switching the clock back writes the platform's own functions over a spy on them.
  if (step.kind === 'clock') return !step.on && CLOCK_FUNCTIONS.has(standIn.member ?? '');
  if (step.kind !== 'restore' || step.what === 'clear') return false;
  if (step.scope === 'all') return isOfKit(step.maker, standIn);
  if (step.scope !== 'own') return false;
  return step.standIn === standIn || step.standIn === undefined || sameTarget(step.standIn, standIn);
}

const CLOCK_FUNCTIONS: ReadonlySet<string> = new Set(
  'setTimeout clearTimeout setInterval clearInterval setImmediate clearImmediate requestAnimationFrame cancelAnimationFrame Date'.split(
    ' ',
  ),
);

const sameTarget = (a: StandIn, b: StandIn): boolean =>
  a.objectText === b.objectText && a.member === b.member;

const RESTORING: Readonly<Record<string, string>> = {
  'vi.spyOn': 'vi.restoreAllMocks()',
  'vitest.spyOn': 'vitest.restoreAllMocks()',
  'jest.spyOn': 'jest.restoreAllMocks()',
  'mock.method': 'mock.restoreAll()',
};

/** The call that takes a stand-in off, with all others of its kit; undefined where there is none by name. */
export function restoring({ made, maker }: StandIn): string | undefined {
  if (Object.hasOwn(RESTORING, made.by)) return RESTORING[made.by];
  return maker === 'runner' || maker === '' ? undefined : `${maker}.restore()`;
}

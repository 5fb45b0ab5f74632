import { agreed } from '../../environment/environment.js';
import type { Mend } from '../../mends/edit.js';
import type { Binding, Block } from '../../model/specs/blocks.js';
import type { StandIn, Step, StepOf } from '../../model/specs/steps.js';
import { inFile, truePlace, type FileCheck, type FileContext, type Found } from '../check.js';
import { inEachHook } from '../hook-edits.js';
import { eachHooksAround, quoted } from '../order.js';
import { leftBy, type Left } from './ending.js';

const message = (what: string, later: string): string =>
  `The stand-in for ${what} is never restored: ${later} gets it, too.`;
const messageWatch = (what: string): string =>
  `The spy on ${what} is never taken off; later specs are counted by it as well.`;
const advice = 'Restore it in an after-each hook, or let the runner restore all of them by its settings.';

/** A stand-in on something that outlives the spec, which nothing takes off. */
export const C01: FileCheck = {
  code: 'C01',
  family: 'cleanup',
  scope: 'file',
  title: 'Stand-in not restored',
  level: 'risk',
  why: 'The next spec talks to the stand-in and believes that it talks to the real thing.',
  trouble: "it('loads', () => {\n  vi.spyOn(kilns, 'load').mockResolvedValue([]);\n  …\n});",
  mended: 'afterEach(() => {\n  vi.restoreAllMocks();\n});',
  run: (context) =>
    leftStandIns(context)
      .filter(({ ending }) => ending.is === 'never')
      .map((left) => found(left, context)),
};

type StandInLeft = Left & { step: StepOf<'stand-in'> };

/** Stand-ins on what outlives their spec or hook, that nothing surely takes off. */
export function leftStandIns(context: FileContext): StandInLeft[] {
  const left = leftBy(context, (step, block) =>
    step.kind === 'stand-in' &&
    step.standIn.target === 'member' &&
    !step.standIn.onceOnly &&
    outlives(step.standIn, block, context) &&
    !isAutomatic(step.standIn, context)
      ? (other) => restores(other, step.standIn)
      : undefined,
  );
  return left.filter((each): each is StandInLeft => each.step.kind === 'stand-in');
}

function found({ step, block, later }: StandInLeft, context: FileContext): Found {
  const { standIn } = step;
  const what = `${standIn.objectText ?? ''}.${standIn.member ?? '…'}`;
  return {
    place: inFile(context, step.place),
    block,
    level: standIn.answers ? undefined : 'hint',
    certainty: step.maybe || context.file.unknownEffects ? 'likely' : 'sure',
    message: standIn.answers ? message(what, quoted(later)) : messageWatch(what),
    advice,
    evidence: [
      ...(step.via ? [{ ...truePlace(context, step), note: 'made in this helper' }] : []),
      { ...inFile(context, later.place), note: `${quoted(later)} runs later` },
    ],
    mend: step.via ? undefined : mend(standIn, block, context),
  };
}

// Something global, imported, or built once outside of the specs; not what a hook builds anew.
function outlives({ binding, object, objectText }: StandIn, block: Block, { file }: FileContext): boolean {
  if (!binding) return object?.is === 'global' || objectText === 'document';
  if (binding.kind === 'import') return !isReplacedModule(binding, file.replaced, file.imports);
  if (!['instance', 'made', 'literal', 'closure', 'constant'].includes(binding.holds)) return false;
  const rebuilt = [...eachHooksAround(block), block].some((each) =>
    each.steps.some(
      (step) => step.kind === 'use' && step.use.how === 'assign' && step.use.binding === binding,
    ),
  );
  return !rebuilt;
}

// A module that the runner replaces is a stand-in as a whole.
function isReplacedModule(
  binding: Binding,
  replaced: ReadonlySet<string>,
  imports: FileContext['file']['imports'],
): boolean {
  const from = imports.get(binding.name);
  return from !== undefined && replaced.has(from.specifier);
}

// The runner restores it, or, as far as can be told, may do so.
function isAutomatic({ maker }: StandIn, { runners, setup }: FileContext): boolean {
  const facts =
    maker === 'runner'
      ? [agreed(runners, ({ restores }) => restores), agreed(runners, ({ resets }) => resets)]
      : [];
  return (
    setup === undefined ||
    facts.some((fact) => fact !== false) ||
    setup.steps.some(({ kind }) => kind === 'unknown-call')
  );
}

/** Whether a step takes a stand-in off, or turns its answer off. */
export function restores(step: Step, standIn: StandIn): boolean {
  // Switching the clock back writes the platform's own functions over a spy on them.
  if (step.kind === 'clock') return !step.on && CLOCK_FUNCTIONS.has(standIn.member ?? '');
  if (step.kind !== 'restore' || step.what === 'clear') return false;
  if (step.scope === 'all') return step.maker === standIn.maker || step.maker === '' || standIn.maker === '';
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

function mend(standIn: StandIn, block: Block, context: FileContext): Mend | undefined {
  const call = restoring(standIn);
  const [kit = ''] = call?.split('.') ?? [];
  // A kit that the spec makes for itself is not there in a hook.
  if (call === undefined || !block.parent || block.names.has(kit)) return undefined;
  const edits = inEachHook(context, block.parent, 'after-each', [call + context.style.semicolon]);
  // Some kits take the answers of all stand-ins with them, those made for the whole file too.
  const keeps = context.file.standIns.some(
    (other) =>
      other.answers && other.block !== block && (other.block.kind === 'file' || other.block.kind === 'group'),
  );
  return edits && { summary: 'Restore stand-ins after each spec', safe: !keeps, edits };
}

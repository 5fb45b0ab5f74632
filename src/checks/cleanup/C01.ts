import { agreed } from '../../environment/environment.js';
import { pathOf, type Binding, type Block } from '../../model/specs/blocks.js';
import type { StandIn, Step, StepOf } from '../../model/specs/steps.js';
import { inFile, truePlace, type FileCheck, type FileContext, type Found } from '../check.js';
import { eachHooksAround, quoted, specsAfter } from '../order.js';

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
  run(context) {
    const blocks = context.file.blocks.filter((block) => block.kind === 'spec' || block.kind === 'hook');
    return blocks.flatMap((block) =>
      block.steps.filter(isStandIn).flatMap((step) => check(step, block, context)),
    );
  },
};

type StandInStep = StepOf<'stand-in'>;
const isStandIn = (step: Step): step is StandInStep =>
  step.kind === 'stand-in' && step.standIn.target === 'member';

function check(step: StandInStep, block: Block, context: FileContext): Found[] {
  const { standIn } = step;
  const [later] = specsAfter(context.file, block);
  if (!later || standIn.onceOnly || !outlives(standIn, block, context) || isRestored(standIn, block, context))
    return [];
  const what = `${standIn.objectText ?? ''}.${standIn.member ?? '…'}`;
  return [
    {
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
    },
  ];
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

function isRestored(standIn: StandIn, block: Block, context: FileContext): boolean {
  const { runners, setup } = context;
  const automatic = standIn.maker === 'runner' ? agreed(runners, ({ restores }) => restores) : false;
  const reset = standIn.maker === 'runner' ? agreed(runners, ({ resets }) => resets) : false;
  // What can't be read may well restore.
  if (automatic !== false || reset !== false || setup === undefined) return true;
  const hooks = eachHooksAround(block);
  const around = [...hooks.flatMap((hook) => hook.steps), ...setup.steps];
  const own = block.kind === 'spec' ? block.steps : afterAll(block);
  return (
    around.some((step) => step.kind === 'unknown-call') ||
    [...around, ...own].some((step) => restores(step, standIn))
  );
}

const afterAll = (hook: Block): Step[] =>
  pathOf(hook).flatMap((group) =>
    group.children.filter((child) => child.hook === 'after-all').flatMap((child) => child.steps),
  );

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

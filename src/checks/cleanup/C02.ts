import { pathOf, type Block } from '../../model/specs/blocks.js';
import type { Step, StepOf } from '../../model/specs/steps.js';
import { agreed } from '../../environment/environment.js';
import { inFile, truePlace, type FileCheck, type FileContext, type Found } from '../check.js';
import { eachHooksAround, quoted, specsAfter } from '../order.js';

const message = (call: string, later: string): string =>
  `${call} switches the clock to a fake one and nothing switches it back: ${later} runs on it.`;
const advice = 'Switch back to the real clock in an after-each hook.';

/** A fake clock that stays on. */
export const C02: FileCheck = {
  code: 'C02',
  family: 'cleanup',
  scope: 'file',
  title: 'Fake clock left running',
  level: 'risk',
  why: 'On a clock that stands still, waiting never ends: the spec that hangs is not the one that forgot to switch back.',
  trouble: "it('cools down', () => {\n  vi.useFakeTimers();\n  …\n});",
  mended: 'afterEach(() => {\n  vi.useRealTimers();\n});',
  run(context) {
    if (agreed(context.runners, ({ fakesClock }) => fakesClock) === true) return [];
    const blocks = context.file.blocks.filter((block) => block.kind === 'spec' || block.kind === 'hook');
    return blocks.flatMap((block) => {
      const on = block.steps.find((step): step is StepOf<'clock'> => step.kind === 'clock' && step.on);
      return on ? check(on, block, context) : [];
    });
  },
};

function check(on: StepOf<'clock'>, block: Block, context: FileContext): Found[] {
  const later = specsAfter(context.file, block).find((spec) => !switchesOn(spec));
  if (!later || isSwitchedOff(block, context)) return [];
  return [
    {
      place: inFile(context, on.place),
      block,
      certainty: on.maybe || context.setup === undefined ? 'likely' : 'sure',
      message: message(on.name, quoted(later)),
      advice,
      evidence: [
        ...(on.via ? [{ ...truePlace(context, on), note: 'switched on in this helper' }] : []),
        { ...inFile(context, later.place), note: `${quoted(later)} runs later` },
      ],
    },
  ];
}

// A spec that fakes the clock itself does not mind.
const switchesOn = (spec: Block): boolean =>
  [...eachHooksAround(spec), spec].some((block) =>
    block.steps.some((step) => step.kind === 'clock' && step.on),
  );

function isSwitchedOff(block: Block, { file, setup }: FileContext): boolean {
  const hooks = eachHooksAround(block).flatMap((hook) => hook.steps);
  const last = pathOf(block).flatMap((group) =>
    group.children.filter((child) => child.hook === 'after-all').flatMap((child) => child.steps),
  );
  const own = block.kind === 'spec' ? block.steps : last;
  // What runs in the file's own body runs before all specs: a clock switched on there is meant for them all.
  const wholeFile = file.root.steps.some((step) => step.kind === 'clock' && step.on);
  return (
    wholeFile ||
    [...hooks, ...own, ...(setup?.steps ?? [])].some(switchesOff) ||
    hooks.some((step) => step.kind === 'unknown-call')
  );
}

const switchesOff = (step: Step): boolean =>
  (step.kind === 'clock' && !step.on) ||
  (step.kind === 'restore' && step.scope === 'all' && step.what === 'restore' && step.maker !== 'runner');

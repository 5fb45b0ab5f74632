import { titlesOf, assigns, type Block } from '../../specs/model/blocks.js';
import { staysRendered } from '../questions/teardown.js';
import type { Reach, Render, Step } from '../../specs/model/steps.js';
import { libraryObjectOf } from '../../specs/model/values.js';
import type { Mend, Finding } from '../../finding.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { quotedTitle, runningSpecs, withHooksBefore } from '../questions/order.js';
import { ranEachTime, rebuiltEachTime } from '../../writing/rebuild.js';

const message = (actor: string, user: string): string =>
  `Rendered once for all specs; ${actor} acts on it, and ${user} sees what is left.`;
const messageRead = (count: number): string =>
  `Rendered once for ${count} specs: if the render fails, all of them fail, and none can be run on a fresh one.`;
const advice = 'Render in a before-each hook, or in each spec.';

/** One render for several specs, at least one of which acts on it. */
export const S02: FileCheck = {
  code: 'S02',
  family: 'state',
  scope: 'file',
  title: 'Rendered once, acted on by several',
  level: 'blocker',
  why: 'A click in one spec is still clicked in the next one.',
  certain: 'Sure where a spec always acts on the shared render, and nothing unread is done outside of specs.',
  trouble:
    "const wrapper = mount(KilnCard);\nit('opens', () => { wrapper.find('button').trigger('click'); … });\nit('starts closed', () => { expect(wrapper.text()).toContain('Closed'); });",
  mended: 'let wrapper;\nbeforeEach(() => { wrapper = mount(KilnCard); });',
  run: (context) =>
    context.file.renders
      .filter((render) => isShared(render, context))
      .flatMap((render) => check(render, context)),
};

// Where the library takes renders down after each spec, a shared one is gone before the second: other rules count there.
const isShared = (render: Render, context: FileContext): boolean =>
  (render.block.kind === 'file' || render.block.kind === 'group' || render.block.hook === 'before-all') &&
  staysRendered(render, context);

function check(render: Render, context: FileContext): Finding[] {
  const onlyOne = context.file.renders.length === 1;
  const users = runningSpecs(context.file).flatMap((spec) => {
    const steps = spec.steps.filter((step) => concerns(step, render, onlyOne));
    return steps.length && !isRenewed(spec, render) ? [{ spec, steps }] : [];
  });
  if (users.length < 2) return [];
  for (const [i, { spec, steps }] of users.entries()) {
    const act = steps.find((step) => step.kind === 'act');
    const later = users.slice(i + 1).find(({ spec: other }) => other !== spec);
    if (act && later)
      return [found(render, context, { spec, step: act }, { spec: later.spec, step: later.steps[0] ?? act })];
  }
  const base = {
    place: inFile(context, render.place),
    within: titlesOf(render.block),
    certainty: 'likely' as const,
  };
  return [{ ...base, level: 'hint', message: messageRead(users.length), advice }];
}

// The spec, or a hook before it, gives the name that holds it another value.
const isRenewed = (spec: Block, render: Render): boolean =>
  withHooksBefore(spec).some((block) =>
    [...block.uses.keys()].some((binding) => binding.render === render && assigns(block, binding)),
  );

/** Whether a step acts on, looks into or asserts about a render. `onlyOne`: what the page shows can only be this one. */
function concerns(step: Step, render: Render, onlyOne: boolean): boolean {
  const isFrom = (reach: Reach | undefined): boolean => {
    const root = rootOf(reach);
    return root === render || (onlyOne && root === 'page');
  };
  switch (step.kind) {
    case 'act':
      return step.render === render || isFrom(step.reach);
    case 'reach':
      return isFrom(step.reach);
    case 'assert':
      return libraryObjectOf(step.assertion.subject)?.render === render;
    case 'use':
      return step.use.binding.render === render && step.use.how !== 'assign';
    default:
      return false;
  }
}

function rootOf(reach: Reach | undefined): Reach['from'] | undefined {
  let at = reach?.from;
  while (at && typeof at === 'object' && 'from' in at) at = at.from;
  return at;
}

interface Side {
  spec: Block;
  step: Step;
}

const found = (render: Render, context: FileContext, act: Side, use: Side): Finding => ({
  place: inFile(context, render.place),
  within: titlesOf(render.block),
  certainty: context.file.unknownEffects || act.step.maybe ? 'likely' : 'sure',
  message: message(quotedTitle(act.spec), quotedTitle(use.spec)),
  advice,
  evidence: [
    { ...inFile(context, render.place), note: 'rendered here, once' },
    { ...truePlace(context, act.step), note: `acted on here by ${quotedTitle(act.spec)}` },
    { ...truePlace(context, use.step), note: `used here by ${quotedTitle(use.spec)}` },
  ],
  mend: renderedEachTime(render, context),
});

// The name that holds it is given a new render before each spec.
function renderedEachTime(render: Render, context: FileContext): Mend | undefined {
  const { block, place } = render;
  if (block.hook === 'before-all') return ranEachTime(block, context);
  const binding = context.file.bindings.find(
    (binding) => binding.render === render && binding.declaration?.value,
  );
  return binding && rebuiltEachTime(binding, { place, holds: 'render' }, context);
}

import { usesInBlock, type Binding, type Block } from '../../specs/model/blocks.js';
import type { StandIn, Step, StepOf } from '../../specs/model/steps.js';
import type { Finding } from '../../finding.js';
import { grouped } from '../../util/grouped.js';
import { plural } from '../../util/plural.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { quotedTitle, runningBlocks, runningSpecs } from '../questions/order.js';

const message = (name: string, first: string, others: number): string =>
  `${name} gives this answer to one call in all: whichever of ${first} and ${plural(others, 'other spec')} calls it first takes it.`;
const advice = 'Let it give the answer to every call, or give it anew in a before-each hook.';

/** An answer for one call that is given once, for specs of which each may be the one to call. */
export const S13: FileCheck = {
  code: 'S13',
  family: 'state',
  scope: 'file',
  title: 'One answer for several specs',
  level: 'risk',
  why: 'The first spec that calls gets the answer, and all others get nothing: run alone, or in another order, they meet something else.',
  certain: 'Likely at most: which specs call it is worked out from what they use.',
  trouble:
    "const load = vi.fn().mockResolvedValueOnce([raku]);\nit('shows the kilns', () => { render(<Board load={load} />); … });\nit('shows the racks', () => { render(<Racks load={load} />); … });",
  mended: 'const load = vi.fn().mockResolvedValue([raku]);',
  run(context) {
    const once = onceAnswers(context).flatMap((step) => {
      const binding = bindingOf(step, context);
      return binding ? [{ step, binding }] : [];
    });
    return [...grouped(once, ({ binding }) => binding)].flatMap(([binding, all]) => {
      const steps = all.map(({ step }) => step);
      return check(binding, steps, context);
    });
  },
};

// Given where the file is loaded, where a group is made, or before all specs of one.
const onceAnswers = ({ file }: FileContext): StepOf<'answer'>[] =>
  [file.root, ...runningBlocks(file)]
    .filter(({ kind, hook }) => kind === 'file' || kind === 'group' || hook === 'before-all')
    .flatMap(({ steps }) => steps)
    .filter((step): step is StepOf<'answer'> => step.kind === 'answer' && step.once && !step.via);

function bindingOf({ standIn, binding }: StepOf<'answer'>, { file }: FileContext): Binding | undefined {
  return binding ?? file.bindings.find(({ name }) => name === rootOf(standIn));
}

// `store` of `store.open`.
const rootOf = (standIn: StandIn | undefined): string | undefined => standIn?.path?.split('.')[0];

function check(binding: Binding, steps: readonly StepOf<'answer'>[], context: FileContext): Finding[] {
  const [first, ...more] = steps;
  const users = runningSpecs(context.file).filter((spec) => takesIt(spec, binding));
  const [user, ...others] = users;
  if (!first || !user || others.length === 0) return [];
  return [
    {
      place: inFile(context, first.place),
      certainty: 'likely',
      message: message(first.standIn?.path ?? binding.name, quotedTitle(user), others.length),
      advice,
      evidence: [
        ...more.map((step) => ({ ...inFile(context, step.place), note: 'the same here' })),
        ...users
          .slice(0, 2)
          .map((spec) => ({ ...inFile(context, spec.callee), note: `${quotedTitle(spec)} uses it` })),
      ],
    },
  ];
}

// A spec that uses it, and tells it nothing of its own.
const takesIt = (spec: Block, binding: Binding): boolean =>
  usesInBlock(spec, binding).length > 0 && !spec.steps.some((step) => tells(step, binding));

const tells = (step: Step, binding: Binding): boolean =>
  (step.kind === 'answer' || step.kind === 'restore') &&
  (step.binding === binding || rootOf(step.standIn) === binding.name);

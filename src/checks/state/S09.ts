import { titlesOf, hooksFor, isReplacedImport, type Binding, type Block } from '../../specs/model/blocks.js';
import { stands } from '../../specs/model/rounds.js';
import type { StandIn, Step, StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf } from '../../specs/model/values.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { quotedTitle, runningSpecs } from '../questions/order.js';
import {
  clearedByHook,
  clearedBySettings,
  clears,
  isShared,
  standInName,
} from '../questions/stand-in-calls.js';
import { callerOf } from '../questions/rendered-user.js';
import { unreadAround } from '../questions/unread-calls.js';

const message = (name: string, setter: string, user: string): string =>
  `${setter} gives ${name} an answer that stays; ${user} calls it and gets that one.`;
const advice = (name: string): string =>
  `Give an answer for one call only, or give ${name} its usual answer in a before-each hook.`;

/** An answer that one spec gives to a shared stand-in and that a later one gets. */
export const S09: FileCheck = {
  code: 'S09',
  family: 'state',
  scope: 'file',
  title: 'A stand-in’s answer stays behind',
  level: 'risk',
  why: 'The later spec works with data that another one has chosen.',
  certain: 'Likely at most: answers may be set elsewhere by what can’t be read.',
  trouble:
    "const load = vi.fn();\nit('shows none', () => { load.mockReturnValue([]); … });\nit('shows kilns', () => { render(<Board load={load} />); … });",
  mended: "it('shows none', () => { load.mockReturnValueOnce([]); … });",
  run: (context) => sharedOf(context).flatMap((shared) => check(shared, context)),
};

// A stand-in that the file makes, or an import of a module that the runner replaces.
interface Shared {
  name: string;
  maker: string;
  binding?: Binding;
  standIn?: StandIn;
}

function sharedOf(context: FileContext): Shared[] {
  const { file } = context;
  const made = file.standIns
    .filter(isShared)
    .map((standIn) => ({ ...standIn, standIn, name: standInName(standIn, context) }));
  const known = new Set(
    made.map(({ standIn }) => (standIn.target === 'module' ? standIn.binding : undefined)),
  );
  const replaced = file.bindings.filter((binding) => isReplacedImport(binding, file) && !known.has(binding));
  return [...made, ...replaced.map((binding) => ({ binding, name: binding.name, maker: 'runner' }))];
}

function check(shared: Shared, context: FileContext): Finding[] {
  const isUse = useOf(shared, context);
  let left: { spec: Block; step: Step } | undefined;
  for (const spec of runningSpecs(context.file)) {
    const isAnewHere = clearedByHook(spec, shared, 'answers') || answeredByHook(spec, shared);
    const step = left && !isAnewHere && !isDenied(spec, shared) ? firstUse(spec, shared, isUse) : undefined;
    if (left && step) {
      if (clearedBySettings(shared, 'answers', context).undone) return [];
      return [found(shared, context, left, { spec, step })];
    }
    const answer = lastingAnswer(spec, shared);
    if (answer) left = isAnewHere ? undefined : { spec, step: answer };
    else if (spec.steps.some((each) => clears(each, shared, 'answers'))) left = undefined;
  }
  return [];
}

const isAnswer = (step: Step, { standIn, binding }: Shared): step is StepOf<'answer'> =>
  step.kind === 'answer' && (standIn ? step.standIn === standIn : step.binding === binding);

function lastingAnswer(spec: Block, shared: Shared): StepOf<'answer'> | undefined {
  const steps = spec.steps.filter((step): step is StepOf<'answer'> => isAnswer(step, shared));
  const last = steps.findLast(({ once, inCallback }) => !once && !inCallback);
  const after = last ? spec.steps.slice(spec.steps.indexOf(last)) : [];
  return after.some((step) => clears(step, shared, 'answers')) ? undefined : last;
}

const answeredByHook = (spec: Block, shared: Shared): boolean =>
  hooksFor(spec, 'before-each').some((hook) => hook.steps.some((step) => isAnswer(step, shared)));

// A spec that asserts that it is not called calls nothing.
const isDenied = (spec: Block, { standIn, name }: Shared): boolean =>
  spec.steps.some(
    (step) =>
      step.kind === 'assert' &&
      step.assertion.asks === 'called' &&
      step.assertion.not &&
      ((standIn !== undefined && libraryObjectOf(step.assertion.subject)?.standIn === standIn) ||
        step.assertion.subjectPath[0] === name),
  );

// A spec uses the stand-in before it gives an answer of its own.
function firstUse(spec: Block, shared: Shared, isUse: (step: Step) => boolean): Step | undefined {
  const own = spec.steps.findIndex((step) => isAnswer(step, shared) || clears(step, shared, 'answers'));
  const setting = spec.steps[own]?.place;
  // `vi.mocked(load).mockReturnValue(…)` hands it on for its own setting only.
  return (own < 0 ? spec.steps : spec.steps.slice(0, own)).find(
    (step) => isUse(step) && !(setting && stands(step, setting)),
  );
}

// It hands the stand-in on, calls it, asserts on it, or renders what loads its module.
function useOf({ standIn, binding }: Shared, context: FileContext): (step: Step) => boolean {
  const isLater = standIn !== undefined && isCalledAtEvents(standIn, context);
  const isImport = !standIn || standIn.target === 'module';
  const calls = isImport && binding ? callerOf(binding, context) : undefined;
  return (step) => {
    if (step.kind === 'render') return isImport && calls?.(step) !== false;
    if (step.kind === 'act') return calls?.(step) === true;
    if (standIn && step.kind === 'assert')
      return libraryObjectOf(step.assertion.subject)?.standIn === standIn && !step.assertion.not;
    // Handed to a component that calls it when something happens, it may never be called.
    if (isLater && step.kind === 'use' && step.use.how === 'pass') return false;
    return (
      step.kind === 'use' &&
      step.use.binding === binding &&
      (step.use.how === 'call' || step.use.how === 'pass') &&
      step.use.path.length === 0 &&
      (standIn === undefined || standIn.path === binding?.name)
    );
  };
}

// Whether the components that the file renders call it at events alone, by all names that it is handed to them by.
function isCalledAtEvents({ handedAs }: StandIn, { file, rendering }: FileContext): boolean {
  const components = file.renders.map((render) => rendering.subject(render));
  return (
    handedAs.size > 0 &&
    [...handedAs].every((name) => components.every((component) => component?.eventProps?.has(name) === true))
  );
}

interface Side {
  spec: Block;
  step: Step;
}

const found = ({ standIn, name }: Shared, context: FileContext, answer: Side, use: Side): Finding => ({
  place: inFile(context, answer.step.place),
  within: titlesOf(answer.spec),
  certainty: 'likely',
  message: message(name, quotedTitle(answer.spec), quotedTitle(use.spec)),
  advice: advice(name),
  evidence: [
    ...(standIn ? [{ ...truePlace(context, standIn), note: 'made here, once for all specs' }] : []),
    { ...truePlace(context, answer.step), note: 'answers from here on' },
    { ...truePlace(context, use.step), note: `used here by ${quotedTitle(use.spec)}` },
    ...unreadAround([answer.spec, use.spec], context),
  ],
});

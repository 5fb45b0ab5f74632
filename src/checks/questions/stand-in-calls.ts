import type { Binding, Block } from '../../specs/model/blocks.js';
import type { StandIn, Step, StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf } from '../../specs/model/values.js';
import type { FileContext } from './context.js';
import { isOfKit, undoneBySettings, type Undone } from './kits.js';
import { eachHooksAround } from './order.js';
import { saysUndone } from './unread-calls.js';

/** Whether a stand-in is made once for several specs. */
export const isShared = ({ block }: StandIn): boolean =>
  block.kind === 'file' || block.kind === 'group' || block.hook === 'before-all';

/** Whether another module makes a stand-in as it is loaded: the spec file has no place of its making. */
export const isMadeElsewhere = ({ block }: StandIn, { file }: FileContext): boolean =>
  block.kind === 'file' && block !== file.root;

/**
 * Whether the runner's settings, or a set-up file, clear the calls of stand-ins or reset their answers before each spec.
 * Of a call that can't be read, its name tells.
 */
export function clearedBySettings(
  { maker }: Pick<StandIn, 'maker'>,
  what: 'calls' | 'answers',
  context: FileContext,
): Undone {
  if (context.setup?.steps.some((step) => step.kind === 'restore' || saysUndone(step)))
    return { undone: true, certainty: 'sure' };
  return what === 'calls'
    ? undoneBySettings(maker, ['restores', 'resets', 'clears'], ['clear', 'reset'], context)
    : undoneBySettings(maker, ['restores', 'resets'], ['reset'], context);
}

/** What may be cleared: a stand-in that the file makes, or one that goes by an import. */
interface Clearable {
  maker: string;
  binding?: Binding;
  standIn?: StandIn;
}

/** Whether a hook around a spec clears, resets or makes anew a stand-in. */
export const clearedByHook = (spec: Block, standIn: Clearable, what: 'calls' | 'answers'): boolean =>
  eachHooksAround(spec).some((hook) =>
    hook.steps.some((step) => clears(step, standIn, what) || saysUndone(step)),
  );

/** Whether a step clears the calls of a stand-in, or its answers too. */
export function clears(step: Step, standIn: Clearable, what: 'calls' | 'answers'): boolean {
  if (step.kind === 'use') return step.use.how === 'assign' && step.use.binding === standIn.binding;
  if (step.kind !== 'restore' || (what === 'answers' && step.what === 'clear')) return false;
  if (step.scope === 'all') return isOfKit(step.maker, standIn);
  if (step.scope !== 'own') return step.scope === 'modules';
  return (
    (step.standIn !== undefined && step.standIn === standIn.standIn) ||
    (step.standIn === undefined && step.binding === undefined) ||
    (step.binding !== undefined && step.binding === standIn.binding)
  );
}

/** The assertions of a block about the calls of a stand-in. */
export const callsAsserted = (block: Block, standIn: StandIn): StepOf<'assert'>[] =>
  block.steps.filter(
    (step): step is StepOf<'assert'> =>
      step.kind === 'assert' && libraryObjectOf(step.assertion.subject)?.standIn === standIn,
  );

const COUNTS = /times|once|count|length|^calledTwice$|^notCalled$/i;

/** Whether an assertion asks how often, or that never: what earlier calls change for sure. */
export const asksCount = ({ assertion: { not, matcher, subject, asks } }: StepOf<'assert'>): boolean =>
  (not && asks === 'called') ||
  COUNTS.test(matcher ?? '') ||
  (subject.is === 'read' && subject.name === 'length');

/** Whether an assertion says that a stand-in was called. */
export const saysCalled = ({ assertion: { not, args, matcher } }: StepOf<'assert'>): boolean =>
  !not && matcher !== 'notCalled' && !args.some((each) => each.is === 'constant' && each.value === 0);

/** The name that a stand-in goes by in its file, for messages and mends. */
export function standInName(standIn: StandIn, { source: { text } }: FileContext): string {
  if (standIn.path) return standIn.path;
  if (standIn.member !== undefined) return `${standIn.objectText ?? ''}.${standIn.member}`;
  return text.slice(standIn.place.start, standIn.place.end).split('\n')[0] ?? '';
}

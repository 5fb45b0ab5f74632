import { usesInBlock, type Binding, type Block, type Kind, type SpecFile } from '../../specs/model/blocks.js';
import type { Effect, StepOf } from '../../specs/model/steps.js';
import { holding } from '../../specs/model/values.js';
import type { Span, Evidence } from '../../finding.js';
import { truePlace, type FileContext } from './context.js';
import { eachHooksAround, quotedTitle, runningSpecs, withHooksBefore } from './order.js';

export type UseStep = StepOf<'use'>;
type Fields = Effect['writes'];

/** A spec, and what it does with a name. */
export interface Side {
  spec: Block;
  step: UseStep;
}

/** A change by one spec that a later one sees. */
export interface Leak {
  change: Side;
  read: Side;
}

/** Where a value is built once for several specs. */
export interface Built {
  place: Span;
  holds: Kind;
  /** The before-all hook that builds it; none where its declaration does. */
  hook?: Block;
}

/** Whether a use gives the name another value, whatever happens. */
export const surelyAssigns = ({ use, maybe, inCallback }: UseStep): boolean =>
  use.how === 'assign' && !use.compound && !maybe && !inCallback;

/** Where the value of a name is built once: by its declaration, or by a before-all hook. */
export function builtOnce(binding: Binding, file: SpecFile): Built | undefined {
  if (binding.declaration?.value && binding.holds !== 'constant')
    return { place: binding.place, holds: binding.holds };
  for (const hook of file.blocks.filter((block) => block.hook === 'before-all')) {
    const step = usesInBlock(hook, binding).find(surelyAssigns);
    if (step?.use.value) return { place: step.place, holds: holding(step.use.value), hook };
  }
  return undefined;
}

/** The specs that change what a name holds, with no hook around them that puts it back. */
export function changesOf(binding: Binding, file: SpecFile): (Side & { fields: Fields })[] {
  // Most names are changed by nobody.
  if (!file.blocks.some((block) => block.kind === 'spec' && usesInBlock(block, binding).some(writesOf)))
    return [];
  const all = runningSpecs(file).flatMap((spec) => usesInBlock(spec, binding));
  const areFilled = all.some((step) => writesOf(step) !== undefined && !isTaking(step));
  return runningSpecs(file).flatMap((spec) => {
    const uses = usesInBlock(spec, binding);
    const change = firstChange(areFilled ? uses.filter((step) => !isTaking(step)) : uses);
    return change && !isPutBack(spec, binding) ? [{ spec, ...change }] : [];
  });
}

// Taking out what specs put in is the way back, not the change.
const isTaking = ({ use: { how, path } }: UseStep): boolean => how === 'call' && path.join() === 'delete';

/** The first change of what a name holds that a later spec sees. */
export function leakOf(binding: Binding, file: SpecFile): Leak | undefined {
  const changes = changesOf(binding, file);
  const specs = changes.length > 0 ? runningSpecs(file) : [];
  for (const { spec, step, fields } of changes) {
    // A spec that rows or a loop make several of comes after itself.
    const after = specs.slice(specs.indexOf(spec) + (spec.repeated ? 0 : 1));
    for (const later of after) {
      const read = firstRead(usesBefore(later, binding), fields);
      if (read) return { change: { spec, step }, read: { spec: later, step: read } };
    }
  }
  return undefined;
}

/** The uses of a name by the before-each hooks of a spec, and then by the spec itself. */
export const usesBefore = (spec: Block, binding: Binding): UseStep[] =>
  withHooksBefore(spec).flatMap((block) => usesInBlock(block, binding));

// A hook that assigns it, writes to it, or calls it to some end that can't be told.
function isPutBack(spec: Block, binding: Binding): boolean {
  return eachHooksAround(spec).some((hook) =>
    usesInBlock(hook, binding).some(
      (step) => mayReset(step) || hook.steps.some((other) => isUnread(other, step)),
    ),
  );
}

function mayReset({ use }: UseStep): boolean {
  if (use.how === 'assign' || use.how === 'write') return true;
  return use.how === 'call' && (use.effect === undefined || hasSome(use.effect.writes));
}

// A call that can't be read gets the whole of it.
const isUnread = (other: Block['steps'][number], { place, use }: UseStep): boolean =>
  other.kind === 'unknown-call' &&
  use.how === 'pass' &&
  other.place.start <= place.start &&
  place.end <= other.place.end;

function firstChange(steps: readonly UseStep[]): { step: UseStep; fields: Fields } | undefined {
  // A spec that assigns the name works on a value of its own from there on.
  const own = steps.findIndex(surelyAssigns);
  let first: UseStep | undefined;
  let fields: Set<string> | 'all' = new Set<string>();
  for (const step of own < 0 ? steps : steps.slice(0, own)) {
    const written = writesOf(step);
    if (written === undefined || !hasSome(written)) continue;
    first ??= step;
    fields = fields === 'all' || written === 'all' ? 'all' : new Set([...fields, ...written]);
  }
  return first && { step: first, fields };
}

const hasSome = (fields: Fields): boolean => fields === 'all' || fields.size > 0;

/** The fields that a use writes; undefined where it writes none, or none that can be told. */
export function writesOf({ use }: UseStep): Fields | undefined {
  if (use.how === 'write') return use.effect?.writes ?? new Set(use.path.slice(0, 1));
  return use.how === 'call' ? use.effect?.writes : undefined;
}

// A read of a field that the reading spec itself has not set before.
function firstRead(steps: readonly UseStep[], changed: Fields): UseStep | undefined {
  const set = new Set<string>();
  for (const step of steps) {
    const { how, path } = step.use;
    if (surelyAssigns(step)) return undefined;
    if (how === 'call' && (path.at(-1) === 'clear' || path.at(-1) === 'reset')) return undefined;
    const read = readsOf(step);
    if (read && touches(read, changed, set)) return step;
    const written = writesOf(step);
    if (written === 'all' && how === 'write') return undefined;
    const { compound, effect } = step.use;
    const adds = effect?.adds ?? new Set();
    if (written && written !== 'all' && adds !== 'all' && !compound)
      for (const field of written) if (!adds.has(field)) set.add(field);
  }
  return undefined;
}

function readsOf({ use: { how, path, effect, reads } }: UseStep): Fields | undefined {
  switch (how) {
    case 'call':
      return effect?.reads ?? (path.length > 1 ? new Set(path.slice(0, 1)) : undefined);
    case 'read':
      return reads ?? (path[0] === undefined ? 'all' : new Set([path[0]]));
    case 'pass':
      // A property that is handed over was read before, as a property.
      return path.length === 0 ? 'all' : undefined;
    default:
      return undefined;
  }
}

function touches(read: Fields, changed: Fields, set: ReadonlySet<string>): boolean {
  if (changed === 'all') return read === 'all' || [...read].some((field) => !set.has(field));
  return [...changed].some((field) => !set.has(field) && (read === 'all' || read.has(field)));
}

/** Whether a use takes the whole of it, to hand it on or to look at all of it. */
export const takesWhole = ({ use }: UseStep): boolean =>
  use.how === 'pass' || (use.how === 'read' && use.path.length === 0);

/** Whether a name can hold something that specs change. */
export const isMutable = (binding: Binding): boolean => !binding.frozen && binding.kind !== 'import';

/** The places that prove a leak: changed here by one spec, used there by another. */
export function leakChain({ change, read }: Leak, context: FileContext): Evidence[] {
  const inside = change.step.use.effect?.at;
  return [
    { ...truePlace(context, change.step), note: `changed here by ${quotedTitle(change.spec)}` },
    ...(inside ? [{ ...inside, note: 'where it writes' }] : []),
    { ...truePlace(context, read.step), note: `used here by ${quotedTitle(read.spec)}` },
  ];
}

import type { Binding, Block } from '../../model/specs/blocks.js';
import type { StepOf } from '../../model/specs/steps.js';
import { inFile, truePlace, type FileCheck, type FileContext, type Found } from '../check.js';
import { eachHooksAround, quoted, runningSpecs } from '../order.js';
import { rebuiltEachTime } from './rebuild.js';

const message = (name: string, changer: string, reader: string): string =>
  `${name} is built once; ${changer} changes it, and ${reader} runs on what is left.`;
const advice = (name: string): string => `Build ${name} anew in a before-each hook.`;

type UseStep = StepOf<'use'>;
type Fields = ReadonlySet<string> | 'all';

/** A fresh object outside of the specs that one spec changes and a later one uses. */
export const S01: FileCheck = {
  code: 'S01',
  family: 'state',
  scope: 'file',
  title: 'Built once, changed by a spec',
  level: 'blocker',
  why: 'What one spec leaves behind is what the next one starts from: alone, or in another order, the second one has another result.',
  trouble:
    "const kiln = new Kiln();\nit('fires', () => { kiln.fire(); … });\nit('is cold', () => { expect(kiln.temp).toBe(20); });",
  mended: 'let kiln: Kiln;\nbeforeEach(() => { kiln = new Kiln(); });',
  run: (context) => context.file.bindings.filter(isCandidate).flatMap((binding) => check(binding, context)),
};

const isCandidate = (binding: Binding): boolean =>
  (binding.holds === 'instance' || binding.holds === 'made' || binding.holds === 'closure') &&
  !binding.frozen &&
  binding.declaration?.value !== undefined;

function check(binding: Binding, context: FileContext): Found[] {
  const specs = runningSpecs(context.file);
  if (specs.some((spec) => eachHooksAround(spec).some((hook) => uses(hook, binding).length > 0))) return [];
  for (const [i, spec] of specs.entries()) {
    const change = firstChange(uses(spec, binding));
    if (!change) continue;
    for (const later of specs.slice(i + 1)) {
      const read = firstRead(uses(later, binding), change.fields);
      if (read) return [found(binding, context, { spec, step: change.step }, { spec: later, step: read })];
    }
  }
  return [];
}

const uses = (block: Block, binding: Binding): UseStep[] =>
  block.steps.filter((step): step is UseStep => step.kind === 'use' && step.use.binding === binding);

function firstChange(steps: readonly UseStep[]): { step: UseStep; fields: Fields } | undefined {
  // A spec that assigns the name works on a value of its own from there on.
  const own = steps.findIndex((step) => step.use.how === 'assign');
  const before = own < 0 ? steps : steps.slice(0, own);
  let first: UseStep | undefined;
  let fields: Set<string> | 'all' = new Set<string>();
  for (const step of before) {
    const written = writesOf(step);
    if (written === undefined || (written !== 'all' && written.size === 0)) continue;
    first ??= step;
    fields = fields === 'all' || written === 'all' ? 'all' : new Set([...fields, ...written]);
  }
  return first && { step: first, fields };
}

function writesOf({ use }: UseStep): Fields | undefined {
  if (use.how === 'write') return new Set(use.path.slice(0, 1));
  return use.how === 'call' ? use.effect?.writes : undefined;
}

// A read of a field that the reading spec itself has not set before.
function firstRead(steps: readonly UseStep[], changed: Fields): UseStep | undefined {
  const set = new Set<string>();
  for (const step of steps) {
    const { how, path } = step.use;
    if (how === 'assign') return undefined;
    if (how === 'call' && (path.at(-1) === 'clear' || path.at(-1) === 'reset')) return undefined;
    const read = readsOf(step);
    if (read && touches(read, changed, set)) return step;
    const written = writesOf(step);
    if (written && written !== 'all') for (const field of written) set.add(field);
  }
  return undefined;
}

function readsOf({ use: { how, path, effect, reads } }: UseStep): Fields | undefined {
  switch (how) {
    case 'call':
      return effect?.reads ?? (path.length > 1 ? new Set(path.slice(0, 1)) : undefined);
    case 'read':
      return reads ?? 'all';
    case 'pass':
      // A property that is handed over was read before, as a property.
      return path.length === 0 ? 'all' : undefined;
    default:
      return undefined;
  }
}

function touches(read: Fields, changed: Fields, set: ReadonlySet<string>): boolean {
  if (read === 'all') return true;
  if (changed === 'all') return [...read].some((field) => !set.has(field));
  return [...read].some((field) => changed.has(field) && !set.has(field));
}

interface Side {
  spec: Block;
  step: UseStep;
}

function found(binding: Binding, context: FileContext, change: Side, read: Side): Found {
  const inside = change.step.use.effect?.at;
  return {
    place: inFile(context, binding.place),
    block: binding.block,
    certainty: isSure(binding, change.step, read.step, context) ? 'sure' : 'likely',
    message: message(binding.name, quoted(change.spec), quoted(read.spec)),
    advice: advice(binding.name),
    evidence: [
      { ...inFile(context, binding.place), note: 'built here, once for all specs' },
      { ...truePlace(context, change.step), note: `changed here by ${quoted(change.spec)}` },
      ...(inside ? [{ ...inside, note: 'where it writes' }] : []),
      { ...truePlace(context, read.step), note: `used here by ${quoted(read.spec)}` },
    ],
    mend: rebuiltEachTime(binding, context),
  };
}

const isSure = (binding: Binding, change: UseStep, read: UseStep, { file }: FileContext): boolean =>
  binding.holds === 'instance' && !change.maybe && !read.maybe && !file.unknownEffects;

import {
  titlesOf,
  isReplacedImport,
  usesInBlock,
  type Binding,
  type Block,
} from '../../specs/model/blocks.js';
import type { StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { eachHooksAround, quotedTitle, runningSpecs, withHooksBefore } from '../questions/order.js';
import { userOf } from '../questions/rendered-user.js';
import { assignedLeak } from '../questions/assigned.js';
import type { Value } from '../../specs/model/values.js';
import { changesOf, leakOf, surelyAssigns, writesOf, type Side, type UseStep } from '../questions/leak.js';

const message = (name: string, changer: string, reader: string): string =>
  `${changer} changes ${name}, which its module keeps for the whole file; ${reader} gets it changed.`;
const advice = (name: string): string => `Put ${name} back in an after-each hook.`;

/** Something that a module keeps, changed by a spec. */
export const S05: FileCheck = {
  code: 'S05',
  family: 'state',
  scope: 'file',
  title: 'Shared module or store changed',
  level: 'risk',
  why: 'A module is loaded once for a file: what one spec writes into it is there for all that follow.',
  certain:
    'Sure where the module that keeps it is in the project, and the change and the read always happen.',
  trouble:
    "import { settings } from './settings';\nit('shows Fahrenheit', () => { settings.unit = 'F'; … });\nit('shows Celsius', () => { … });",
  mended: "afterEach(() => { settings.unit = 'C'; });",
  run(context) {
    const { file } = context;
    const imported = file.bindings.filter(
      (binding) => binding.kind === 'import' && !isReplacedImport(binding, file),
    );
    const kept = [...file.outside, ...imported];
    const found = kept.flatMap((binding) => check(binding, context));
    // An import, and the value that it stands for, are one thing.
    return found.filter(
      ({ place }, i) => found.findIndex((other) => other.place.start === place.start) === i,
    );
  },
};

interface Seen {
  spec: Block;
  step: UseStep | StepOf<'render'>;
}

function check(binding: Binding, context: FileContext): Finding[] {
  const { file } = context;
  // A module's own variable is kept as well where a function of it gives it another value.
  const isVariable = file.outside.includes(binding);
  const set = isVariable ? assigning(binding, file) : undefined;
  const leak = leakOf(binding, file) ?? (set && assignedLeak(binding, context));
  const change = leak?.change ?? changesOf(binding, file)[0] ?? set;
  if (!change || binding.frozen || isPutBack(change, binding) || isReset(binding, context)) return [];
  const read: Seen | undefined = leak?.read ?? showing(binding, change, context);
  if (!read) return [];
  const isSure = leak !== undefined && binding.file !== undefined && !change.step.maybe && !read.step.maybe;
  return [
    {
      place: inFile(context, change.step.place),
      within: titlesOf(change.spec),
      certainty: isSure ? 'sure' : 'likely',
      message: message(binding.name, quotedTitle(change.spec), quotedTitle(read.spec)),
      advice: advice(binding.name),
      evidence: [
        ...(binding.file === undefined ? [] : [{ file: binding.file, ...binding.place, note: 'kept here' }]),
        { ...truePlace(context, change.step), note: `changed here by ${quotedTitle(change.spec)}` },
        { ...truePlace(context, read.step), note: `used here by ${quotedTitle(read.spec)}` },
      ],
    },
  ];
}

// The module is loaded anew for each spec, or a set-up file looks after what it keeps.
const isReset = (binding: Binding, { file, setup }: FileContext): boolean =>
  runningSpecs(file).some((spec) =>
    eachHooksAround(spec).some((hook) =>
      hook.steps.some((step) => step.kind === 'restore' && step.scope === 'modules'),
    ),
  ) ||
  (setup?.steps ?? []).some(
    (step) =>
      step.kind === 'use' &&
      (step.use.binding.file === binding.file || step.use.binding.name === binding.name) &&
      step.use.how !== 'read',
  );

// Written to again, or taken back, later in the same spec.
function isPutBack({ spec, step }: Side, binding: Binding): boolean {
  const uses = usesInBlock(spec, binding);
  return uses.slice(uses.indexOf(step) + 1).some(({ use }) => {
    const isWrite = use.how === 'write' || use.how === 'assign';
    return (
      (use.how === 'assign' && isFresh(use.value)) ||
      undoing(step.use.path) === use.path.join('.') ||
      (isWrite && use.path.join('.') === step.use.path.join('.'))
    );
  });
}

const UNDOING: ReadonlyMap<string, string> = new Map([
  ['appendChild', 'removeChild'],
  ['setAttribute', 'removeAttribute'],
  ['add', 'delete'],
  ['push', 'pop'],
]);

// The path of the call that takes back what a call does: `list.push(…)`, `list.pop()`.
function undoing(path: readonly string[]): string | undefined {
  const back = UNDOING.get(path.at(-1) ?? '');
  return back && [...path.slice(0, -1), back].join('.');
}

const sets = (step: UseStep): boolean => step.use.how === 'assign' || writesOf(step) !== undefined;

// The first spec that gives a variable another value, where nothing that is assigned is a way back.
function assigning(binding: Binding, file: FileContext['file']): Side | undefined {
  const specs = runningSpecs(file).map((spec) => ({
    spec,
    steps: usesInBlock(spec, binding).filter(({ use }) => use.how === 'assign'),
  }));
  const isSet = (step: UseStep): boolean => surelyAssigns(step) && !isFresh(step.use.value);
  if (!specs.every(({ steps }) => steps.every(isSet))) return undefined;
  const first = specs.find(({ steps }) => steps.length > 0);
  const [step] = first?.steps ?? [];
  if (!first || !step) return undefined;
  const isReset = eachHooksAround(first.spec).some((hook) => usesInBlock(hook, binding).some(sets));
  return isReset ? undefined : { spec: first.spec, step };
}

// `new Map()`, `[]`, `{}`: what a module starts anew with.
const isFresh = (value: Value | undefined): boolean =>
  value?.is === 'instance' ||
  (value?.is === 'list' && value.items.length === 0) ||
  (value?.is === 'object' && value.entries.size === 0);

// A later spec that renders a component which uses what was changed.
function showing(binding: Binding, change: Side, context: FileContext): Seen | undefined {
  const specs = runningSpecs(context.file);
  const uses = userOf(binding, context);
  for (const spec of specs.slice(specs.indexOf(change.spec) + 1)) {
    const own = withHooksBefore(spec);
    if (own.some((block) => usesInBlock(block, binding).some(sets))) continue;
    const step = own.flatMap(({ steps }) => steps).find((each) => each.kind === 'render' && uses(each));
    if (step?.kind === 'render') return { spec, step };
  }
  return undefined;
}

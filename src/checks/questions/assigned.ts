import { isInside } from '../../util/spans.js';
import { assigns, usesInBlock, type Binding, type Block, type SpecFile } from '../../specs/model/blocks.js';
import type { Step } from '../../specs/model/steps.js';
import type { Span } from '../../finding.js';
import type { FileContext } from './context.js';
import { eachHooksAround, runningSpecs } from './order.js';
import { builtOnce, surelyAssigns, usesBefore, type Leak, type UseStep } from './leak.js';

/** A name that one spec assigns and a later one reads. `callback`: the later one has assigned it before, but only in a callback. */
export interface AssignedLeak extends Leak {
  callback: boolean;
}

type Asked = Pick<FileContext, 'file' | 'project'>;

/** Whether a name has a value before the first spec. */
export const hasValue = (binding: Binding, file: SpecFile): boolean =>
  binding.declaration?.value !== undefined || builtOnce(binding, file) !== undefined;

/** The first such pair, where no hook assigns the name around either of them. */
export function assignedLeak(binding: Binding, context: Asked): AssignedLeak | undefined {
  const { file } = context;
  if (binding.kind !== 'let' && binding.kind !== 'var') return undefined;
  const isAssigned = ({ use }: UseStep): boolean => use.how === 'assign';
  if (!file.blocks.some((block) => block.kind === 'spec' && assigns(block, binding))) return undefined;
  const specs = runningSpecs(file);
  for (const [i, spec] of specs.entries()) {
    const step = usesInBlock(spec, binding).find(isAssigned);
    if (!step || eachHooksAround(spec).some((hook) => usesInBlock(hook, binding).some(surelyAssigns)))
      continue;
    for (const later of specs.slice(spec.repeated ? i : i + 1)) {
      const uses = usesBefore(later, binding);
      const read = readBefore(uses) ?? readApart(binding, step, uses, later, context);
      if (read)
        return { change: { spec, step }, read: { spec: later, step: read.step }, callback: read.callback };
    }
  }
  return undefined;
}

// What a spec reads of a name before it surely gives it a value of its own. Counting on is no reading by itself.
function readBefore(steps: readonly UseStep[]): { step: UseStep; callback: boolean } | undefined {
  let callback = false;
  for (const step of steps) {
    // A component of the spec file sets it each time it is rendered, or in a callback of its own: which, is not told.
    const isSet = surelyAssigns(step) || (step.use.how === 'assign' && step.inComponent);
    if (isSet) return undefined;
    if (step.use.how !== 'assign') return { step, callback };
    callback ||= !step.use.compound;
  }
  return undefined;
}

// What a spec renders, or a function of the project that it calls, may call the stand-in that reads the name.
function readApart(
  { readApart: place }: Binding,
  changed: UseStep,
  uses: readonly UseStep[],
  spec: Block,
  context: Asked,
): { step: UseStep; callback: boolean } | undefined {
  if (!place || uses.some(surelyAssigns)) return undefined;
  if (!spec.steps.some((step) => step.kind === 'render' || callsReplaced(step, place, context)))
    return undefined;
  const use = { ...changed.use, how: 'read' as const };
  return { step: { ...changed, use, place, via: undefined, maybe: true }, callback: false };
}

// A call of what the replaced module gives, or of what a module declares that imports it.
function callsReplaced(step: Step, place: Span, { file, project }: Asked): boolean {
  if (step.kind !== 'use' || step.use.how !== 'call' || step.use.binding.kind !== 'import') return false;
  const replaced = file.replacements.find((each) => isInside(place, each.place));
  const from = file.imports.get(step.use.binding.name);
  if (!replaced || !from) return false;
  const isReplaced = (importer: string, specifier: string): boolean =>
    replaced.file === undefined
      ? specifier === replaced.specifier
      : project.resolve(importer, specifier) === replaced.file;
  const declared = project.imported(file.path, from)?.file;
  return (
    isReplaced(file.path, from.specifier) ||
    (declared !== undefined &&
      (project.summary(declared)?.modules.some(({ specifier }) => isReplaced(declared, specifier)) ?? false))
  );
}

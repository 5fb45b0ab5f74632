import type { Binding } from '../../specs/model/blocks.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import type { EventPlace } from '../../components/view.js';
import { eventsCalling, namesWithin } from '../../project/module-questions.js';
import { modulesUsed, takesIn, usesExport } from '../../project/modules-used.js';
import { reachableFrom } from '../../project/reachable.js';
import { remembered } from '../../util/remembered.js';
import type { FileContext } from './context.js';
import { surelyFires } from './fired.js';

type Rendered = NonNullable<ReturnType<FileContext['rendering']['subject']>>;

/**
 * Whether the component that a step renders uses what a name stands for: is it, names it, or loads the module that keeps
 * it. Undefined where the component is not known.
 */
export function userOf(
  binding: Binding,
  { file, project, rendering }: FileContext,
): (step: StepOf<'render'>) => boolean | undefined {
  const from = file.imports.get(binding.name);
  const declared = from && project.imported(file.path, from);
  const isUser = remembered((component: Rendered): boolean => {
    if (declared?.file === component.file) return declared.name === component.name;
    if (!from && binding.file === component.file) return namesWithin(project, component, binding.name);
    if (!from) return binding.file !== undefined && loads(project, component.file, binding.file);
    return usesExport(project, component.file, declared ?? from);
  });
  return ({ render }) => {
    const component = rendering.subject(render);
    return component && isUser(component);
  };
}

/**
 * Whether a step may call what a name stands for: a render of a component that uses it; where that calls it at events of
 * its elements alone, an act that surely fires one of them. Undefined where the component is not known.
 */
export function callerOf(binding: Binding, context: FileContext): (step: Step) => boolean | undefined {
  const isUser = userOf(binding, context);
  const eventsOf = eventsUsing(binding, context);
  const later: { file: string; events: readonly EventPlace[] }[] = [];
  return (step) => {
    if (step.kind === 'act')
      return later.some(({ file, events }) => surelyFires(step, file, events, context));
    if (step.kind !== 'render') return false;
    const component = context.rendering.subject(step.render);
    const events = component && eventsOf(component);
    if (!component || !events) return isUser(step);
    later.push({ file: component.file, events });
    return false;
  };
}

// The events of elements at which a component calls what a name stands for; undefined where it, or what it uses, may call it at any other time.
function eventsUsing(
  binding: Binding,
  { file, project }: FileContext,
): (component: Rendered) => readonly EventPlace[] | undefined {
  const from = file.imports.get(binding.name);
  const wanted = from && (project.imported(file.path, from) ?? from);
  return remembered((component: Rendered): readonly EventPlace[] | undefined =>
    !wanted ||
    component.framework !== 'react' ||
    [...modulesUsed(project, [component.file])].some((each) => takesIn(project, each, wanted))
      ? undefined
      : eventsCalling(project, component.file, {
          specifier: 'file' in wanted ? wanted.file : wanted.specifier,
          name: wanted.name,
        }),
  );
}

const loads = (project: FileContext['project'], from: string, module: string): boolean =>
  reachableFrom(project, [from]).files.has(module);

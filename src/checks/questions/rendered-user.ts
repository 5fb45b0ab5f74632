import type { Binding } from '../../specs/model/blocks.js';
import type { StepOf } from '../../specs/model/steps.js';
import { usesExport } from '../../project/modules-used.js';
import { reachableFrom } from '../../project/reachable.js';
import { remembered } from '../../util/remembered.js';
import type { FileContext } from './context.js';

type Rendered = NonNullable<ReturnType<FileContext['rendering']['component']>>;

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
    if (!from) return binding.file !== undefined && loads(project, component.file, binding.file);
    return usesExport(project, component.file, declared ?? from);
  });
  return ({ render }) => {
    const component = rendering.component(render);
    return component && isUser(component);
  };
}

const loads = (project: FileContext['project'], from: string, module: string): boolean =>
  from !== module && reachableFrom(project, [from]).files.has(module);

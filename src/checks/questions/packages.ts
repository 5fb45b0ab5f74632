import { compilersUp } from '../../environment/leads.js';
import type { CompilerSettings } from '../../environment/compiler-settings.js';
import type { Environment, RunnerFacts } from '../../environment/facts/environment.js';
import { dirname } from '../../util/paths.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext, SpecFileFacts } from './context.js';

/** One package with its spec files. */
export interface Package {
  environment: Environment;
  specFiles: readonly SpecFileFacts[];
}

/** The packages that hold spec files. */
export function packagesWithSpecs({ environments, specFiles }: ProjectContext): Package[] {
  return environments
    .map((environment) => ({
      environment,
      specFiles: specFiles.filter((file) => file.package === environment.folder),
    }))
    .filter((each) => each.specFiles.length > 0);
}

/** The compiler settings from a file's folder up to its package's, inner first. */
export const compilersAround = (
  file: string,
  { folder }: Environment,
  { compilersIn }: ProjectContext,
): CompilerSettings[] => compilersUp(dirname(file), folder, compilersIn);

/** One finding of those at the same place: a setting at a workspace root is seen from each of its packages. */
export function unique(all: readonly Finding[]): Finding[] {
  const placed = all.map((each) => [`${each.place.file}:${each.place.start}:${each.message}`, each] as const);
  return [...new Map(placed).values()];
}

/** `and 3 more spec files`, or nothing. */
export const andMore = (files: readonly unknown[]): string =>
  files.length > 1 ? ` (and in ${files.length - 1} more spec file${files.length > 2 ? 's' : ''})` : '';

/** The spec files of a package by the runners that take them; those that none takes are left out. */
export function byRunners({
  environment,
  specFiles,
}: Package): { runners: readonly RunnerFacts[]; files: SpecFileFacts[] }[] {
  const found = new Map<string, { runners: readonly RunnerFacts[]; files: SpecFileFacts[] }>();
  for (const file of specFiles) {
    const runners = environment.runnersOf(file.path);
    const key = runners.map((each) => environment.runners.indexOf(each)).join();
    const group = found.get(key) ?? { runners, files: [] };
    group.files.push(file);
    if (runners.length > 0) found.set(key, group);
  }
  return [...found.values()];
}

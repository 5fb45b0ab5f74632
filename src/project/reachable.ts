import type { Project } from './project.js';

/** What some modules load, directly and through files of the project. */
interface Reachable {
  /** Files of the project, the first ones among them. */
  files: ReadonlySet<string>;
  /** Imports that lead to no script of the project: packages, styles, assets. */
  others: ReadonlySet<string>;
}

/** Follows imports from some files, but not to those that are left out. */
export function reachableFrom(
  project: Project,
  from: Iterable<string>,
  without: ReadonlySet<string> = new Set(),
): Reachable {
  const files = new Set(from);
  const others = new Set<string>();
  for (const path of files) {
    for (const { specifier } of project.summary(path)?.modules ?? []) {
      const target = project.resolve(path, specifier);
      if (target && without.has(target)) continue;
      if (target && project.summary(target)) files.add(target);
      else others.add(specifier);
    }
  }
  return { files, others };
}

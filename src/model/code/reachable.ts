import type { Project } from '../project.js';

/** What a module loads, directly and through files of the project. */
export interface Reachable {
  /** Files of the project, the first one among them, with the file that imports each. */
  files: ReadonlyMap<string, string | undefined>;
  /** Imports that lead to no script of the project: packages, styles, assets. */
  others: readonly { specifier: string; from: string }[];
}

const MOST_FILES = 400;

/** Follows imports from a file; files that are `replaced` by stand-ins are not entered. */
export function reachableFrom(
  project: Project,
  file: string,
  replaced: ReadonlySet<string> = new Set(),
): Reachable {
  const files = new Map<string, string | undefined>([[file, undefined]]);
  const others: { specifier: string; from: string }[] = [];
  for (const path of files.keys()) {
    for (const { specifier } of project.summary(path)?.modules ?? []) {
      const target = project.resolve(path, specifier);
      if (replaced.has(specifier) || (target && replaced.has(target))) continue;
      const isCode = target && project.summary(target) !== undefined;
      if (!isCode) others.push({ specifier, from: path });
      else if (!files.has(target) && files.size < MOST_FILES) files.set(target, path);
    }
  }
  return { files, others };
}

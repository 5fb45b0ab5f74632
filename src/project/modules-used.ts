import type { Project } from './project.js';

/**
 * The modules of the project that some files use, directly and through others, the files themselves left out. Names are
 * followed to where they are declared: an index file that only hands them on uses nothing else.
 */
export function modulesUsed(project: Project, from: Iterable<string>): Set<string> {
  const used = new Set<string>();
  const waiting = [...from];
  for (let file = waiting.pop(); file !== undefined; file = waiting.pop())
    for (const next of usedBy(project, file)) {
      if (used.has(next)) continue;
      used.add(next);
      waiting.push(next);
    }
  return used;
}

/** An export: of a file of the project, or of a package. */
type Exported = { file: string; name: string } | { specifier: string; name: string };

/** Whether a module, or one that it uses, takes in an export. */
export const usesExport = (project: Project, from: string, wanted: Exported): boolean =>
  [from, ...modulesUsed(project, [from])].some((file) => takesIn(project, file, wanted));

/** Whether a module itself imports an export. */
export const takesIn = (project: Project, file: string, wanted: Exported): boolean =>
  [...(project.summary(file)?.imports.values() ?? [])].some((each) => {
    if (each.typeOnly) return false;
    if ('specifier' in wanted)
      return each.specifier === wanted.specifier && (each.name === '*' || each.name === wanted.name);
    if (each.name === '*') return project.resolve(file, each.specifier) === wanted.file;
    const found = project.imported(file, each);
    return found?.file === wanted.file && found.name === wanted.name;
  });

function usedBy(project: Project, file: string): string[] {
  const summary = project.summary(file);
  if (!summary) return [];
  const named = new Set([...summary.imports.values()].map(({ specifier }) => specifier));
  const declared = [...summary.imports.values()].flatMap((each): string[] => {
    const target = each.typeOnly ? undefined : project.resolve(file, each.specifier);
    if (!target) return [];
    // Of a whole module, any part may be used.
    return each.name === '*'
      ? [target, ...handedOn(project, target)]
      : [project.imported(file, each)?.file ?? target];
  });
  const loaded = summary.modules.flatMap(({ specifier }) =>
    named.has(specifier) || isHandedOn(summary, specifier) ? [] : (project.resolve(file, specifier) ?? []),
  );
  return [...declared, ...loaded];
}

type Summary = NonNullable<ReturnType<Project['summary']>>;

const isHandedOn = ({ exports, stars }: Summary, specifier: string): boolean =>
  stars.includes(specifier) ||
  [...exports.values()].some((each) => 'specifier' in each && each.specifier === specifier);

function handedOn(project: Project, file: string): string[] {
  const summary = project.summary(file);
  const names = [...(summary?.exports.values() ?? [])].flatMap((each) =>
    'specifier' in each ? (project.imported(file, each)?.file ?? []) : [],
  );
  return [...names, ...(summary?.stars ?? []).flatMap((each) => project.resolve(file, each) ?? [])];
}

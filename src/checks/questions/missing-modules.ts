import { isBuiltin } from 'node:module';
import type { Environment } from '../../environment/facts/environment.js';
import { majorOf } from '../../environment/versions.js';
import { notIgnored } from '../../host/ignored.js';
import type { Project } from '../../project/project.js';
import { isScript } from '../../syntax/script.js';
import type { Import, ImportedModule } from '../../syntax/module-facts.js';
import type { Problem } from '../../syntax/source.js';
import { dirname, isInstalled, isTypeScript, isWithin, join } from '../../util/paths.js';
import type { ProjectContext, SpecFileFacts } from './context.js';
import { KEPT_OUT, REPLACED } from './facts.js';
import { isThere } from './is-there.js';
import { isNoPackage, isNoPart } from './missing-packages.js';
import type { Package } from './packages.js';

/** An import that leads to nothing; the place is that of the quoted name. */
export interface MissingModule extends ImportedModule {
  /** It names a package, and no file. */
  isPackage: boolean;
}

/** The imports of a file that surely lead to nothing, by themselves: aliases and replacements are the caller's. */
export function unresolvedIn(
  path: string,
  environment: Environment,
  context: ProjectContext,
): MissingModule[] {
  const missing = (context.project.summary(path)?.modules ?? []).flatMap((each): MissingModule[] => {
    const { specifier } = each;
    const isPackage = !specifier.startsWith('.');
    if (isNoModule(path, specifier, environment, context)) return [{ ...each, isPackage }];
    return isPackage && isNoPart(path, specifier, environment, context)
      ? [{ ...each, isPackage: false }]
      : [];
  });
  // That asks for the tree again: of the few that are missing alone.
  return missing.filter(({ specifier }) => !isErased(path, specifier, context.project));
}

/** Whether what a file names as a module surely leads to nothing, by itself: aliases are the caller's. */
export const isNoModule = (
  from: string,
  specifier: string,
  environment: Environment,
  context: ProjectContext,
): boolean => (specifier.startsWith('.') ? isNoFile : isNoPackage)(from, specifier, environment, context);

/** Whether a file of TypeScript imports a module for its types alone: that is gone before it runs. */
export function isErased(path: string, specifier: string, project: Project): boolean {
  if (!isTypeScript(path)) return false;
  const names = [...(project.summary(path)?.imports ?? [])].filter(
    ([, from]) => from.specifier === specifier,
  );
  return names.length > 0 && names.every(([local]) => project.onlyCompares(path, local));
}

/** A name that a file imports, and that the module does not export. */
export interface MissingName extends Import {
  local: string;
  /** The file of the module, undefined for a package, and what that gives. */
  target: string | undefined;
  given: ReadonlySet<string>;
  /** The file does no more than keep it: nothing throws there. */
  isKept: boolean;
}

/** The names that a file imports from modules of the project which surely do not export them. */
export function missingNamesIn(
  from: string,
  replaced: ReadonlySet<string>,
  context: ProjectContext,
): MissingName[] {
  const { project } = context;
  return [...(project.summary(from)?.imports ?? [])].flatMap(([local, imported]) => {
    const { specifier, name, typeOnly } = imported;
    const isAsked = !typeOnly && name !== '*' && !replaced.has(specifier);
    const target = isAsked ? project.resolve(from, specifier) : undefined;
    if (!target || replaced.has(target)) return [];
    const given = project.givenNames(target);
    // What is only spoken of as a type is gone before it runs.
    if (!given || given.has(name) || isMade(target, context) || project.onlyCompares(from, local)) return [];
    return [{ ...imported, local, target, given, isKept: project.onlyKeeps(from, local) }];
  });
}

/** The names that a file imports from installed packages which surely do not export them. */
export function missingPackageNamesIn(
  from: string,
  replaced: ReadonlySet<string>,
  { project }: ProjectContext,
): MissingName[] {
  return [...(project.summary(from)?.imports ?? [])].flatMap(([local, imported]) => {
    const { specifier, name, typeOnly } = imported;
    const isAsked = !typeOnly && name !== '*' && name !== 'default' && !replaced.has(specifier);
    if (!isAsked || specifier.startsWith('.') || isBuiltin(specifier)) return [];
    const given = project.resolve(from, specifier)
      ? undefined
      : project.packageWithout(name, from, specifier);
    if (!given || project.onlyCompares(from, local)) return [];
    return [{ ...imported, local, target: undefined, given, isKept: project.onlyKeeps(from, local) }];
  });
}

// What other tools write before a run, and the folders that they write to.
const GENERATED = /generated|\.gen\b/i;
const BUILT = /\/(?:dist|build|lib|esm|es|cjs|out|target)(?=\/|$)/gi;

/** Whether a path, with or without its ending, may be one of what other tools write before a run: it need not lie in the repository. */
export function isMade(path: string, { files, root }: ProjectContext): boolean {
  const below = path.slice(root.length);
  if (GENERATED.test(below)) return true;
  const folders = [...below.matchAll(BUILT)].map(
    ({ index, 0: name }) => root + below.slice(0, index + name.length),
  );
  // A folder of the same name that holds sources lies there before any run.
  if (folders.some((folder) => files.kind(folder) !== 'folder')) return true;
  return notIgnored(files, root, [path, `${path}.ts`, `${path}.js`]).length < 3;
}

function isNoFile(
  from: string,
  specifier: string,
  environment: Environment,
  context: ProjectContext,
): boolean {
  const { project, files, root } = context;
  const clean = specifier.replace(/[?#].*$/, '');
  const wanted = join(dirname(from), clean);
  const top = environment.outer.at(-1)?.folder ?? environment.folder;
  if (!environment.isWhole || !isWithin(root, wanted) || !isWithin(top, wanted)) return false;
  if (project.resolve(from, specifier) ?? project.resolve(from, clean)) return false;
  return !isThere(wanted, files) && !isMade(wanted, context);
}

/**
 * Spec files, their set-up files and all modules of the project that they load, those left out that specs replace; each
 * with the first spec file that loads it.
 */
export function loadedBy(
  specFiles: readonly SpecFileFacts[],
  replaced: ReadonlySet<string>,
  { project, setupOf }: ProjectContext,
): Map<string, SpecFileFacts> {
  const loaded = new Map(specFiles.map((file) => [file.path, file]));
  for (const file of specFiles)
    for (const path of setupOf(file.path)?.files ?? []) if (!loaded.has(path)) loaded.set(path, file);
  for (const [from, file] of loaded) {
    for (const { specifier } of project.summary(from)?.modules ?? []) {
      const target = replaced.has(specifier) ? undefined : project.resolve(from, specifier);
      if (!target || loaded.has(target) || replaced.has(target) || !project.summary(target)) continue;
      loaded.set(target, file);
    }
  }
  return loaded;
}

/** The scripts that some spec files load, or that the settings of their runs name, and that can't be parsed. */
export function brokenScripts({ specFiles, environment }: Package, context: ProjectContext): Problem[] {
  const { project } = context;
  const replaced = replacedIn(specFiles);
  const scripts = environment.runners
    .flatMap(({ named, setupFiles }) => [...named, ...(setupFiles.known ? setupFiles.value : [])])
    .flatMap(({ candidates }) => candidates)
    .filter((path) => isScript(path) && !isInstalled(path));
  // To ask for its summary is to parse it.
  const loaded = scripts.filter((path) => context.files.kind(path) === 'file' && !project.summary(path));
  if (project.problems.length === 0) return [];
  for (const from of loadedBy(specFiles, replaced, context).keys())
    for (const { specifier } of project.summary(from)?.modules ?? []) {
      const target = replaced.has(specifier) ? undefined : project.resolve(from, specifier);
      if (target && !replaced.has(target)) loaded.push(target);
    }
  const wanted = new Set(loaded);
  // Templates are read by the rules of Vue 3; Vue 2 forgives more.
  const isNewVue = (majorOf(context.versionOf(environment, 'vue')) ?? 0) >= 3;
  // Annotations of Flow are compiled away, and are no slip.
  return project.problems.filter(
    ({ file, reason }) =>
      wanted.has(file) &&
      (reason.startsWith('syntax error') || (isNewVue && reason.startsWith('template error'))) &&
      !project.source(file)?.text.includes('@flow'),
  );
}

/** What spec files keep from being loaded, all of them together. */
export const keptOutIn = (specFiles: readonly SpecFileFacts[]): ReadonlySet<string> =>
  new Set(specFiles.flatMap((file) => [...file.get(KEPT_OUT)]));

/** What spec files replace by stand-ins, all of them together. */
export const replacedIn = (specFiles: readonly SpecFileFacts[]): ReadonlySet<string> =>
  new Set(specFiles.flatMap((file) => [...file.get(REPLACED)]));

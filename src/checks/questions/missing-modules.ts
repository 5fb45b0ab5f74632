import { isBuiltin } from 'node:module';
import { isMissing } from '../../environment/brought.js';
import { manifestsOf, type Environment } from '../../environment/facts/environment.js';
import { settingAt, textOf, type Setting } from '../../environment/settings/setting.js';
import type { Files } from '../../host/files.js';
import { installedAt } from '../../environment/versions.js';
import { notIgnored } from '../../host/ignored.js';
import type { Project } from '../../project/project.js';
import type { Import, ImportedModule } from '../../syntax/module-facts.js';
import { dirname, isTypeScript, isWithin, join, packageOf, isInstalled } from '../../util/paths.js';
import { isScript } from '../../syntax/script.js';
import type { Problem } from '../../syntax/source.js';
import type { ProjectContext, SpecFileFacts } from './context.js';
import type { Package } from './packages.js';
import { REPLACED } from './facts.js';

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
    const isNone = isPackage ? isNoPackage : isNoFile;
    if (isNone(path, specifier, environment, context)) return [{ ...each, isPackage }];
    return isPackage && isNoPart(path, specifier, environment, context)
      ? [{ ...each, isPackage: false }]
      : [];
  });
  // That asks for the tree again: of the few that are missing alone.
  return missing.filter(({ specifier }) => !isErased(path, specifier, context.project));
}

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
  /** The file of the module, and what that gives. */
  target: string;
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

const PACKAGE_NAME = /^(?:@[a-z0-9][\w.-]*\/)?[a-z0-9][\w.-]*$/;
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

// Files that some runs choose by platform, and declarations, stand behind a name that leaves that out.
const ENDINGS = ['', '.d.ts', '.native', '.web', '.ios', '.android', '.node'].flatMap((kind) => [
  kind,
  ...(kind === '.d.ts'
    ? []
    : ['.ts', '.tsx', '.js', '.jsx', '.mjs', '.cjs', '.mts', '.cts', '.json', '.vue'].map(
        (each) => kind + each,
      )),
]);

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

/** Whether a path, written with or without its ending, is one of a file or folder. */
export const isThere = (wanted: string, files: Files): boolean =>
  [wanted, wanted.replace(/\.[cm]?jsx?$/, '')].some((path) =>
    ENDINGS.some((ending) => files.kind(path + ending) !== undefined),
  );

function isNoPackage(
  from: string,
  specifier: string,
  environment: Environment,
  { project }: ProjectContext,
): boolean {
  const name = packageOf(specifier);
  if (!environment.hasInstalls || !PACKAGE_NAME.test(name) || isBuiltin(specifier)) return false;
  if (manifestsOf(environment).some((each) => each.name === name)) return false;
  return isMissing(environment, name) && project.resolve(from, specifier) === undefined;
}

// What a run may go by: a part that none of these finds is not there.
const CONDITIONS = ['import', 'require', 'node', 'browser', 'module', 'development', 'production'];
const OTHER_CONDITIONS = ['style', 'sass', 'less', 'svelte', 'vue', 'types'];

// Node 12 and the bundler, and jest from 28 on.
const goesByExports = ({ runners }: Environment): boolean =>
  runners.length > 0 &&
  runners.every(
    ({ runner, major, aliases }) =>
      runner === 'vitest' || (runner === 'jest' && major !== undefined && major >= 28 && aliases.known),
  );

// Whether a package says what it exports, and that part is not among it; `part`: with its slash.
function isLeftOut(part: string, manifest: Setting | undefined): boolean {
  const exported = settingAt(manifest, 'exports');
  if (exported?.is !== 'object' || exported.open) return textOf(exported) !== undefined;
  const keys = [...exported.entries.keys()];
  // Conditions alone choose what the package itself is.
  if (!keys.some((key) => key.startsWith('.'))) return true;
  return !keys.some((key) => {
    const [start = '', end] = key.slice(1).split('*');
    if (key.endsWith('/')) return part.startsWith(start);
    return end === undefined ? part === start : part.startsWith(start) && part.endsWith(end);
  });
}

/** What to do about an import of a part that its package does not have. */
export const advicePart = (specifier: string): string =>
  `Name a part that ${packageOf(specifier)} has: what its manifest exports, or a file of it.`;

/** Whether what an import of a file names of a package is surely not there, whichever of its exports a run goes by. */
export function isNoPart(
  from: string,
  specifier: string,
  environment: Environment,
  context: ProjectContext,
): boolean {
  const { installedAt, folder, runners } = environment;
  const { files, project } = context;
  const clean = specifier.replace(/[?#].*$/, '');
  const name = packageOf(clean);
  const installed = PACKAGE_NAME.test(name) && name !== clean ? installedAt(name) : undefined;
  if (installed === undefined) return false;
  const part = clean.slice(name.length);
  const leftOut =
    goesByExports(environment) && isLeftOut(part, context.setting(join(installed, 'package.json')));
  if (!leftOut && isThere(installed + part, files)) return false;
  const found = (conditions: readonly string[], wanted: string): string | undefined =>
    files.resolver({ conditions: [...conditions, 'default'] })(folder, wanted);
  const manifest = found(CONDITIONS, `${installed}/package.json`);
  const target = project.resolve(from, specifier);
  if (manifest === undefined || (target && !isWithin(dirname(manifest), target))) return false;
  // That leads to the sources of a package of the workspace, whether it exports them or not.
  if (leftOut) return target === undefined || !runners.some(({ readsPaths }) => readsPaths);
  // A package of the workspace may be built before the run.
  if (target || !isInstalled(manifest)) return false;
  return [CONDITIONS, ...[...CONDITIONS, ...OTHER_CONDITIONS].map((each) => [each])].every(
    (conditions) => found(conditions, clean) === undefined,
  );
}

/** The peers that an installed package must have, and that are not installed. */
export function lackingPeers(name: string, environment: Environment, { setting }: ProjectContext): string[] {
  const folder = environment.hasInstalls ? environment.installedAt(name) : undefined;
  const manifest = folder === undefined ? undefined : setting(join(folder, 'package.json'));
  const peers = settingAt(manifest, 'peerDependencies');
  if (!manifest || peers?.is !== 'object') return [];
  return [...peers.entries.keys()].filter((peer) => {
    const optional = settingAt(manifest, 'peerDependenciesMeta', peer, 'optional');
    const isOptional = optional?.is === 'value' && optional.value === true;
    return !isOptional && !peer.startsWith('@types/') && environment.installedAt(peer) === undefined;
  });
}

const MOST_LOADED = 300;

/** Of some packages, those that an installed one loads, itself or by its own files; all of them where it has no entry to read. */
export function loadedOf(
  wanted: readonly string[],
  from: string,
  specifier: string,
  { project, files }: ProjectContext,
): string[] {
  if (wanted.length === 0) return [];
  const resolve = files.resolver({});
  const entry = resolve(dirname(from), specifier);
  if (!entry || !isScript(entry)) return [...wanted];
  const found = new Set<string>();
  const own = new Set([entry]);
  for (const path of own) {
    if (own.size > MOST_LOADED || found.size === wanted.length) break;
    for (const each of project.loadsOf(path)) {
      const target = each.startsWith('.') ? resolve(dirname(path), each) : undefined;
      if (target && isScript(target)) own.add(target);
      else if (wanted.includes(packageOf(each))) found.add(packageOf(each));
    }
  }
  return [...found];
}

const MOST_FILES = 8;

/** The packages that an installed one loads as soon as it is loaded itself, and that it would not find. */
export function lackingBehind(
  from: string,
  specifier: string,
  environment: Environment,
  { project, files }: ProjectContext,
): string[] {
  if (!environment.hasInstalls) return [];
  const resolve = files.resolver({ conditions: ['require', 'node', 'import', 'default'] });
  const entry = resolve(dirname(from), specifier);
  const own = new Set(entry && isInstalled(entry) ? [entry] : []);
  const lacking = new Set<string>();
  for (const path of own) {
    if (own.size > MOST_FILES) return [];
    for (const each of project.loadsOf(path)) {
      const target = resolve(dirname(path), each);
      if (each.startsWith('.') && target) own.add(target);
      const name = packageOf(each);
      const isPackage = PACKAGE_NAME.test(name) && !isBuiltin(each) && name !== packageOf(specifier);
      if (isPackage && !target && installedAt(files, dirname(path), name) === undefined) lacking.add(name);
    }
  }
  return [...lacking];
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
  // Annotations of Flow are compiled away, and are no slip.
  return project.problems.filter(
    ({ file, reason }) =>
      wanted.has(file) && reason.startsWith('syntax error') && !project.source(file)?.text.includes('@flow'),
  );
}

/** What spec files replace by stand-ins, all of them together. */
export const replacedIn = (specFiles: readonly SpecFileFacts[]): ReadonlySet<string> =>
  new Set(specFiles.flatMap((file) => [...file.get(REPLACED)]));

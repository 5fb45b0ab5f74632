import { isBuiltin } from 'node:module';
import { isMissing } from '../../environment/brought.js';
import { manifestsOf, type Environment } from '../../environment/facts/environment.js';
import { settingAt, textOf, type Setting } from '../../environment/settings/setting.js';
import { installedAt } from '../../environment/versions.js';
import { isScript } from '../../syntax/script.js';
import { dirname, isInstalled, isWithin, join, packageOf } from '../../util/paths.js';
import type { ProjectContext } from './context.js';
import { isThere } from './is-there.js';

const PACKAGE_NAME = /^(?:@[a-z0-9][\w.-]*\/)?[a-z0-9][\w.-]*$/;

/** Whether a package that a file imports is surely not there. */
export function isNoPackage(
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

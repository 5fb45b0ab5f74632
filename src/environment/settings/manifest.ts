import type { Place } from '../../finding.js';
import { join } from '../../util/paths.js';
import { type Setting, settingAt, textOf } from './setting.js';

/** A package manifest. */
export interface Manifest {
  /** The folder of the package. */
  folder: string;
  file: string;
  name: string | undefined;
  setting: Setting;
  /** Declared packages of every kind, with the range. */
  dependencies: ReadonlyMap<string, string>;
  /** Packages that whoever uses this one must have. */
  peerDependencies: ReadonlySet<string>;
  scripts: ReadonlyMap<string, { command: string; at: Place }>;
  /** Whether it lists packages below it. */
  workspaces: boolean;
}

/** The keys under which a manifest declares packages. */
export const DEPENDENCY_KINDS = [
  'dependencies',
  'devDependencies',
  'peerDependencies',
  'optionalDependencies',
] as const;

/** Reads what matters of a manifest. */
export function manifestOf(file: string, folder: string, setting: Setting): Manifest {
  const dependencies = new Map<string, string>();
  for (const kind of DEPENDENCY_KINDS)
    for (const [name, range] of texts(settingAt(setting, kind))) dependencies.set(name, range.text);
  const scripts = new Map(
    [...texts(settingAt(setting, 'scripts'))].map(([name, { text, at }]) => [name, { command: text, at }]),
  );
  const name = settingAt(setting, 'name');
  return {
    folder,
    file,
    name: textOf(name),
    setting,
    dependencies,
    peerDependencies: new Set(texts(settingAt(setting, 'peerDependencies')).keys()),
    scripts,
    workspaces: settingAt(setting, 'workspaces') !== undefined,
  };
}

/** The manifest of a folder that has none. */
export const emptyManifest = (folder: string): Manifest => {
  const file = join(folder, 'package.json');
  const at = { file, start: 0, end: 0 };
  return manifestOf(file, folder, { is: 'object', entries: new Map(), open: false, at });
};

/** Whether a manifest is one of a package: others only mark a folder, for publishing or for the module kind. */
export const isPackage = (manifest: Manifest): boolean =>
  manifest.dependencies.size > 0 || manifest.scripts.size > 0 || manifest.workspaces;

function texts(setting: Setting | undefined): Map<string, { text: string; at: Place }> {
  const found = new Map<string, { text: string; at: Place }>();
  if (setting?.is !== 'object') return found;
  for (const [key, value] of setting.entries) {
    if (value.is === 'value' && typeof value.value === 'string')
      found.set(key, { text: value.value, at: value.at });
  }
  return found;
}

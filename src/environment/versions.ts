import semver from 'semver';
import type { Files } from '../host/files.js';
import { dirname, foldersUp, join } from '../util/paths.js';
import type { Manifest } from './settings/manifest.js';
import { settingAt, textOf, type Setting } from './settings/setting.js';

/** Reads a settings file; undefined where it is not there or broken. */
export type ReadSetting = (file: string) => Setting | undefined;

/** A version as far as it is known: the range that a manifest declares, and what is installed or locked. */
export interface PackageVersion {
  range: string;
  manifest: Manifest;
  /** The version in `node_modules`, or else in the lock file of the package manager npm. */
  exact: string | undefined;
}

/** The folder up from another one where a package is installed. */
export function installedAt(files: Files, folder: string, name: string): string | undefined {
  return foldersUp(folder)
    .map((at) => join(at, 'node_modules', name))
    .find((place) => files.kind(join(place, 'package.json')) === 'file');
}

/** The manifest that decides which kind of modules a script is, as Node looks for it: the nearest above. */
export const nearestManifest = (files: Files, file: string): string | undefined =>
  foldersUp(dirname(file))
    .map((at) => join(at, 'package.json'))
    .find((path) => files.kind(path) === 'file');

/** Whether every version that a project may have of a package lies in a range; no where that can't be told. */
export function allVersionsWithin(version: PackageVersion | undefined, range: string): boolean {
  if (!version) return false;
  const options = { includePrerelease: true, loose: true };
  if (version.exact !== undefined) return semver.satisfies(version.exact, range, options);
  // A range takes versions before a first one only where it names them.
  return semver.validRange(version.range) !== null && semver.subset(version.range, range, { loose: true });
}

/** The version of a package that some manifests declare, inner first. */
export function versionOf(
  files: Files,
  read: ReadSetting,
  manifests: readonly Manifest[],
  name: string,
): PackageVersion | undefined {
  const manifest = manifests.find((manifest) => manifest.dependencies.has(name));
  const range = manifest?.dependencies.get(name);
  if (!manifest || range === undefined) return undefined;
  const place = installedAt(files, manifest.folder, name);
  const installed = place && textOf(settingAt(read(join(place, 'package.json')), 'version'));
  return { range, manifest, exact: installed ?? locked(files, read, manifests, name) };
}

// package-lock.json, versions 2 and 3 of its format: `packages` by their place.
function locked(
  files: Files,
  read: ReadSetting,
  manifests: readonly Manifest[],
  name: string,
): string | undefined {
  for (const { folder } of manifests) {
    const file = join(folder, 'package-lock.json');
    if (files.kind(file) === 'file')
      return textOf(settingAt(read(file), 'packages', `node_modules/${name}`, 'version'));
  }
  return undefined;
}

/** The major of a version, or the lowest that its range allows; undefined for tags, links and aliases. */
export function majorOf(version: PackageVersion | undefined): number | undefined {
  if (!version) return undefined;
  if (version.exact !== undefined) return semver.coerce(version.exact)?.major;
  return semver.validRange(version.range) === null || version.range === '*' || version.range === ''
    ? undefined
    : (semver.minVersion(version.range)?.major ?? undefined);
}

import semver from 'semver';
import { join } from '../util/paths.js';
import { manifestsOf, type Environment } from './facts/environment.js';
import { settingAt, textOf, type Setting } from './settings/setting.js';
import { majorOf, type PackageVersion } from './versions.js';

/** The major of the bundler under vitest, by what is installed or declared; undefined where it may be another package by that name. `runner`: the major of vitest, 1 to 3 of which go with none above 7. */
export function bundlerMajor(
  environment: Environment,
  runner: number | undefined,
  {
    setting,
    versionOf,
  }: {
    setting: (file: string) => Setting | undefined;
    versionOf: (environment: Environment, name: string) => PackageVersion | undefined;
  },
): number | undefined {
  const place = environment.installedAt('vite');
  const manifest = place === undefined ? undefined : setting(join(place, 'package.json'));
  if (manifest)
    return textOf(settingAt(manifest, 'name')) === 'vite'
      ? semver.coerce(textOf(settingAt(manifest, 'version')))?.major
      : undefined;
  const isReplaced = manifestsOf(environment).some(({ setting: each }) =>
    [['overrides'], ['resolutions'], ['pnpm', 'overrides']].some((keys) => settingAt(each, ...keys, 'vite')),
  );
  const version = versionOf(environment, 'vite');
  if (isReplaced || version?.range.startsWith('npm:')) return undefined;
  return majorOf(version) ?? (runner !== undefined && runner < 4 ? 7 : undefined);
}

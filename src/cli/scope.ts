import { existsSync, readFileSync, realpathSync } from 'node:fs';
import { resolve } from 'node:path';
import { globSync } from 'tinyglobby';
import { CATALOGUE } from '../checks/index.js';
import { checksNamed, unknownName } from '../checks/names.js';
import { settingsFromJson } from '../config/load.js';
import { settingsFrom, type Settings } from '../config/settings.js';
import { dirname, isWithin, slashed } from '../util/paths.js';
import { printable } from '../util/printable.js';
import { UsageError } from './exit.js';

/** What a command works on: a root, and the paths below it. Absolute, with `/`. */
export interface CommandScope {
  root: string;
  paths: string[];
  settings: Settings;
}

const CONFIG = 'wexlet.json';

/** The scope of a command: the current folder, or the given paths; throws UsageError for one that is not there. */
export function commandScope(given: readonly string[], cwd = process.cwd()): CommandScope {
  const here = slashed(realpathSync(cwd));
  const paths = (given.length ? given : ['.']).flatMap((path) => {
    const found = pathsOf(path, cwd);
    if (found.length === 0) throw new UsageError(`${printable(path)} is not there`);
    return found.map((each) => slashed(realpathSync(each)));
  });
  const inside = paths.every((path) => isWithin(here, path));
  const root = inside ? here : commonFolder(paths);
  return { root, paths, settings: loadSettings(root) };
}

// A path as it is, or with the slashes of another system; else a pattern that no shell has filled in.
function pathsOf(path: string, cwd: string): string[] {
  const found = [path, slashed(path)].map((each) => resolve(cwd, each)).find((each) => existsSync(each));
  if (found !== undefined) return [found];
  if (!/[*?{[]/.test(path)) return [];
  return globSync(slashed(path), { cwd, absolute: true, ignore: ['**/node_modules/**'] }).sort();
}

function commonFolder(paths: readonly string[]): string {
  let folder = paths[0] ?? '/';
  const isFolder = existsSync(`${folder}/.`);
  if (!isFolder) folder = dirname(folder);
  while (!paths.every((path) => isWithin(folder, path))) folder = dirname(folder);
  return folder;
}

function loadSettings(root: string): Settings {
  const file = `${root}/${CONFIG}`;
  if (!existsSync(file)) return settingsFrom();
  return settingsFromJson(
    CONFIG,
    readFileSync(file),
    CATALOGUE.map(({ code }) => code),
  );
}

/** Checks names of codes and families; throws UsageError, with the nearest name, for one that does not exist. */
export function namesOfChecks(names: readonly string[] | undefined): string[] | undefined {
  return names?.map((name) => {
    const found = checksNamed(name);
    if (found === undefined) throw new UsageError(unknownName(name));
    return found;
  });
}

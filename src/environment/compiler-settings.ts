import picomatch from 'picomatch';
import type { Files } from '../discover/files.js';
import { dirname, isAbsolute, join, relativeTo, resolve } from '../util/paths.js';
import {
  known,
  settingAt,
  textsFact,
  UNKNOWN_FACT,
  type Known,
  type PlacedText,
  type Setting,
} from './setting.js';
import { installedAt, type ReadSetting } from './versions.js';

/** What a file of compiler settings says, `extends` followed (TypeScript 5, tsconfig reference). */
export interface CompilerSettings {
  file: string;
  /** The type packages that it lists; `undefined` where there is no list, so that all are known. */
  types: Known<readonly PlacedText[] | undefined>;
  /** The names that `paths` maps, with `*` for any text. */
  paths: Known<readonly PlacedText[]>;
  /** Whether the compiler reads a file; unknown patterns take everything. */
  takes(file: string): boolean;
}

const DEEPEST = 8;
const NAMES = [
  '',
  '.spec',
  '.test',
  '.tests',
  '.vitest',
  '.jest',
  '.unit',
  '.app',
  '.node',
  '.lib',
  '.build',
].map((kind) => `tsconfig${kind}.json`);

/** The compiler settings of a folder: those by the usual names, and those that they refer to. */
export function compilerSettingsIn(files: Files, read: ReadSetting, folder: string): CompilerSettings[] {
  const paths = new Set(
    NAMES.map((name) => join(folder, name)).filter((path) => files.kind(path) === 'file'),
  );
  for (const path of paths) {
    const references = settingAt(read(path), 'references');
    for (const each of references?.is === 'list' ? references.items : []) {
      const to = text(settingAt(each, 'path'));
      const target = to && resolve(dirname(path), to);
      if (target && files.kind(target) === 'file') paths.add(target);
    }
  }
  return [...paths].flatMap((path) => {
    const chain = chainOf(files, read, path);
    return chain ? [settingsOf(path, chain)] : [];
  });
}

interface Link {
  file: string;
  setting: Setting;
}

// A file and those that it extends, the nearest first; undefined where one of them can't be read.
function chainOf(files: Files, read: ReadSetting, path: string, depth = 0): Link[] | undefined {
  const setting = depth < DEEPEST ? read(path) : undefined;
  if (!setting) return undefined;
  const from = settingAt(setting, 'extends');
  const names = from === undefined ? [] : from.is === 'list' ? from.items.map(text) : [text(from)];
  const links: Link[] = [{ file: path, setting }];
  // Of several, the last one wins.
  for (const name of names.toReversed()) {
    const target = name && extended(files, dirname(path), name);
    const above = target ? chainOf(files, read, target, depth + 1) : undefined;
    if (!above) return undefined;
    links.push(...above);
  }
  return links;
}

function extended(files: Files, folder: string, name: string): string | undefined {
  const candidates = (path: string): string[] => [path, `${path}.json`, join(path, 'tsconfig.json')];
  if (name.startsWith('.') || isAbsolute(name))
    return candidates(resolve(folder, name)).find((path) => files.kind(path) === 'file');
  const [first = '', second = '', ...rest] = name.split('/');
  const scoped = first.startsWith('@');
  const place = installedAt(files, folder, scoped ? `${first}/${second}` : first);
  const inside = (scoped ? rest : [second, ...rest]).filter(Boolean).join('/');
  return place && candidates(join(place, inside)).find((path) => files.kind(path) === 'file');
}

function settingsOf(file: string, chain: readonly Link[]): CompilerSettings {
  const option = (...keys: string[]): (Link & { found: Setting }) | undefined => {
    for (const link of chain) {
      const found = settingAt(link.setting, ...keys);
      if (found) return { ...link, found };
    }
    return undefined;
  };
  const types = option('compilerOptions', 'types')?.found;
  const paths = option('compilerOptions', 'paths')?.found;
  return {
    file,
    types: types === undefined ? known(undefined) : textsFact(types, [], types.at),
    paths: pathsIn(paths),
    takes: taker(option('include'), option('files'), option('exclude'), dirname(file)),
  };
}

function pathsIn(paths: Setting | undefined): Known<readonly PlacedText[]> {
  if (paths === undefined) return known([]);
  if (paths.is !== 'object') return UNKNOWN_FACT;
  return known([...paths.entries].map(([name, { at }]) => ({ text: name, at })));
}

type Listed = (Link & { found: Setting }) | undefined;

// Patterns start from the folder of the file that they stand in.
function taker(include: Listed, files: Listed, exclude: Listed, home: string): (file: string) => boolean {
  const given = [listed(include), listed(files)];
  const out = listed(exclude) ?? [];
  if (given.every((each) => each === undefined)) {
    return (file) => file.startsWith(`${home}/`) && !matches(out, file);
  }
  return (file) => matches(given[1] ?? [], file) || (matches(given[0] ?? [], file) && !matches(out, file));
}

function listed(from: Listed): string[] | undefined {
  if (!from) return undefined;
  const texts = textsFact(from.found, [], from.found.at);
  // What can't be read may take everything.
  if (!texts.known) return ['/**'];
  return texts.value.map(({ text: each }) => resolve(dirname(from.file), each));
}

function matches(patterns: readonly string[], file: string): boolean {
  return patterns.some((pattern) => {
    const folder = /[*?]/.test(pattern) || /\.[cm]?[jt]sx?$/.test(pattern) ? pattern : `${pattern}/**`;
    return picomatch(relativeTo('/', folder), { dot: true })(relativeTo('/', file));
  });
}

const text = (setting: Setting | undefined): string | undefined =>
  setting?.is === 'value' && typeof setting.value === 'string' ? setting.value : undefined;

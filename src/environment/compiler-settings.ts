import picomatch from 'picomatch';
import type { Files } from '../host/files.js';
import { dirname, isAbsolute, isWithin, join, packageOf, resolve } from '../util/paths.js';
import {
  known,
  settingAt,
  textOf,
  textsFact,
  UNKNOWN_FACT,
  type Known,
  type PlacedText,
  type Setting,
} from './settings/setting.js';
import { pathRules, type AliasRule, type Leads } from '../host/leads.js';
import { installedAt, type ReadSetting } from './versions.js';

/** What a file of compiler settings says, `extends` followed (TypeScript 5, tsconfig reference). */
export interface CompilerSettings {
  file: string;
  /** The type packages that it lists; `undefined` where there is no list, so that all are known. */
  types: Known<readonly PlacedText[] | undefined>;
  /** The names that `paths` maps, with `*` for any text. */
  paths: Known<readonly PlacedText[]>;
  /** The folder in which it looks for names that are no paths. */
  baseUrl: PlacedText | undefined;
  /** Where it finds what `paths` and `baseUrl` name. */
  leads: Leads;
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
// For editors alone, of projects without TypeScript.
const SCRIPT_NAME = 'jsconfig.json';

/** The compiler settings of a folder: those by the usual names, and those that they refer to. */
export function compilerSettingsIn(files: Files, read: ReadSetting, folder: string): CompilerSettings[] {
  const paths = new Set(
    [...NAMES, SCRIPT_NAME].map((name) => join(folder, name)).filter((path) => files.kind(path) === 'file'),
  );
  for (const path of paths) {
    const references = settingAt(read(path), 'references');
    for (const each of references?.is === 'list' ? references.items : []) {
      const to = textOf(settingAt(each, 'path'));
      const target = to && resolve(dirname(path), to);
      if (target && files.kind(target) === 'file') paths.add(target);
    }
  }
  return [...paths].map((path) => settingsOf(path, chainOf(files, read, path)));
}

interface Link {
  file: string;
  setting: Setting;
}

type Listed = (Link & { found: Setting }) | undefined;

/** A file and those that it extends, the nearest first, as far as they can be read. */
interface Chain {
  links: Link[];
  isWhole: boolean;
}

function chainOf(files: Files, read: ReadSetting, path: string, depth = 0): Chain {
  const setting = depth < DEEPEST ? read(path) : undefined;
  if (!setting) return { links: [], isWhole: false };
  const from = settingAt(setting, 'extends');
  const names = from === undefined ? [] : from.is === 'list' ? from.items.map(textOf) : [textOf(from)];
  const links: Link[] = [{ file: path, setting }];
  let isWhole = true;
  // Of several, the last one wins.
  for (const name of names.toReversed()) {
    const target = name && extended(files, dirname(path), name);
    const above = target ? chainOf(files, read, target, depth + 1) : undefined;
    isWhole &&= above?.isWhole ?? false;
    links.push(...(above?.links ?? []));
  }
  return { links, isWhole };
}

function extended(files: Files, folder: string, name: string): string | undefined {
  const candidates = (path: string): string[] => [path, `${path}.json`, join(path, 'tsconfig.json')];
  if (name.startsWith('.') || isAbsolute(name))
    return candidates(resolve(folder, name)).find((path) => files.kind(path) === 'file');
  const owner = packageOf(name);
  const place = installedAt(files, folder, owner);
  return (
    place && candidates(join(place, name.slice(owner.length))).find((path) => files.kind(path) === 'file')
  );
}

function settingsOf(file: string, { links, isWhole }: Chain): CompilerSettings {
  const option = (...keys: string[]): Listed => {
    for (const link of links) {
      const found = settingAt(link.setting, ...keys);
      if (found) return { ...link, found };
    }
    return undefined;
  };
  const types = option('compilerOptions', 'types')?.found;
  const paths = option('compilerOptions', 'paths');
  const base = option('compilerOptions', 'baseUrl');
  const text = textOf(base?.found);
  const baseUrl = base && text !== undefined ? resolve(dirname(base.file), text) : undefined;
  return {
    file,
    types: !isWhole ? UNKNOWN_FACT : types ? textsFact(types, [], types.at) : known(undefined),
    paths: pathsIn(paths?.found, isWhole),
    baseUrl: base && baseUrl !== undefined ? { text: baseUrl, at: base.found.at } : undefined,
    leads: {
      rules: paths ? rulesOf(paths.found, baseUrl ?? dirname(paths.file)) : [],
      folders: baseUrl === undefined ? [] : [{ folder: baseUrl }],
    },
    // What can't be read may leave out any file, or name it.
    takes: isWhole ? taker(option('include'), option('files'), option('exclude'), dirname(file)) : () => true,
  };
}

// What `paths` name starts from `baseUrl`, or from the folder of the file that they stand in.
function rulesOf(paths: Setting, base: string): AliasRule[] {
  if (paths.is !== 'object') return [];
  return [...paths.entries].flatMap(([name, targets]) => {
    const texts = textsFact(targets, [], targets.at);
    return pathRules(name, texts.known ? texts.value.map(({ text }) => text) : [], base, targets.at);
  });
}

function pathsIn(paths: Setting | undefined, isWhole: boolean): Known<readonly PlacedText[]> {
  if (paths === undefined) return isWhole ? known([]) : UNKNOWN_FACT;
  if (paths.is !== 'object') return UNKNOWN_FACT;
  return known([...paths.entries].map(([name, { at }]) => ({ text: name, at })));
}

// Patterns start from the folder of the file that they stand in.
function taker(include: Listed, files: Listed, exclude: Listed, home: string): (file: string) => boolean {
  const included = matcher(listed(include));
  const named = matcher(listed(files));
  const out = matcher(listed(exclude)) ?? (() => false);
  if (!included && !named) return (file) => isWithin(home, file) && !out(file);
  return (file) => named?.(file) === true || (included?.(file) === true && !out(file));
}

function listed(from: Listed): string[] | undefined {
  if (!from) return undefined;
  const texts = textsFact(from.found, [], from.found.at);
  // What can't be read may take everything.
  if (!texts.known) return ['/**'];
  return texts.value.map(({ text: each }) => resolve(dirname(from.file), each));
}

// A folder stands for all files below it.
function matcher(patterns: readonly string[] | undefined): ((file: string) => boolean) | undefined {
  if (!patterns) return undefined;
  const globs = patterns.map((pattern) =>
    /[*?]/.test(pattern) || /\.[cm]?[jt]sx?$/.test(pattern) ? pattern : `${pattern}/**`,
  );
  return globs.length > 0 ? picomatch(globs, { dot: true }) : () => false;
}

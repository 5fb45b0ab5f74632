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
  /** What it says of JSX. */
  jsx: Known<JsxSettings>;
  /** The files of other settings that it refers to. */
  references: readonly string[];
  /** What it extends, or refers to, and that is not there. */
  missing: readonly MissingSettings[];
  /** Files of it, itself or what it extends, that are there and can't be read. */
  broken: readonly string[];
  /** Whether the compiler reads a file; unknown patterns take everything. */
  takes(file: string): boolean;
}

/** The keys of the compiler that decide what becomes of JSX; those that are not written are left out. */
interface JsxSettings {
  jsx?: PlacedText;
  jsxFactory?: PlacedText;
  jsxImportSource?: PlacedText;
}

/** Settings that others name, and that are not there. */
export interface MissingSettings extends PlacedText {
  key: 'extends' | 'references';
  /** The package that they would lie in; undefined for a path. */
  package: string | undefined;
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
  for (const path of paths)
    for (const { text, file } of referencesOf(path, files, read(path)))
      if (file !== undefined && file === resolve(dirname(path), text)) paths.add(file);
  return [...paths].map((path) => settingsOf(path, files, read));
}

function referencesOf(path: string, files: Files, setting: Setting | undefined): Referred[] {
  const references = settingAt(setting, 'references');
  return (references?.is === 'list' ? references.items : []).flatMap((each) => {
    const named = settingAt(each, 'path');
    const text = textOf(named);
    if (!named || text === undefined) return [];
    const place = resolve(dirname(path), text);
    const file = [place, join(place, 'tsconfig.json')].find((to) => files.kind(to) === 'file');
    return [{ text, at: named.at, file }];
  });
}

interface Referred extends PlacedText {
  file: string | undefined;
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
  missing: MissingSettings[];
  broken: string[];
}

function chainOf(files: Files, read: ReadSetting, path: string, depth = 0): Chain {
  const setting = depth < DEEPEST ? read(path) : undefined;
  if (!setting) return { links: [], isWhole: false, missing: [], broken: depth < DEEPEST ? [path] : [] };
  const from = settingAt(setting, 'extends');
  const names = from === undefined ? [] : from.is === 'list' ? from.items : [from];
  const chain: Chain = { links: [{ file: path, setting }], isWhole: true, missing: [], broken: [] };
  // Of several, the last one wins.
  for (const name of names.toReversed()) {
    const text = textOf(name);
    const target = text && extended(files, dirname(path), text);
    const above = target ? chainOf(files, read, target, depth + 1) : undefined;
    chain.isWhole &&= above?.isWhole ?? false;
    chain.links.push(...(above?.links ?? []));
    chain.broken.push(...(above?.broken ?? []));
    chain.missing.push(...(above?.missing ?? []));
    if (text && !target)
      chain.missing.push({
        text,
        at: name.at,
        key: 'extends',
        package: isPath(text) ? undefined : packageOf(text),
      });
  }
  return chain;
}

const isPath = (name: string): boolean => name.startsWith('.') || isAbsolute(name);

function extended(files: Files, folder: string, name: string): string | undefined {
  const candidates = (path: string): string[] => [path, `${path}.json`, join(path, 'tsconfig.json')];
  if (isPath(name)) return candidates(resolve(folder, name)).find((path) => files.kind(path) === 'file');
  const owner = packageOf(name);
  const place = installedAt(files, folder, owner);
  return (
    place && candidates(join(place, name.slice(owner.length))).find((path) => files.kind(path) === 'file')
  );
}

function settingsOf(file: string, files: Files, read: ReadSetting): CompilerSettings {
  const { links, isWhole, missing, broken } = chainOf(files, read, file);
  const references = referencesOf(file, files, read(file));
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
    jsx: jsxIn(
      ['jsx', 'jsxFactory', 'jsxImportSource'].map((key) => [key, option('compilerOptions', key)?.found]),
      isWhole,
    ),
    references: references.flatMap((each) => each.file ?? []),
    missing: [
      ...missing,
      ...references
        .filter((each) => each.file === undefined)
        .map(({ text: path, at }) => ({ text: path, at, key: 'references' as const, package: undefined })),
    ],
    broken,
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

// A key that is written counts, though what the file extends can't be read.
function jsxIn(options: [string, Setting | undefined][], isWhole: boolean): Known<JsxSettings> {
  const written = options.flatMap(([key, found]) => (found ? [[key, found] as const] : []));
  const texts = written.flatMap(([key, found]) => {
    const text = textOf(found);
    return text === undefined ? [] : [[key, { text, at: found.at }] as const];
  });
  if (texts.length < written.length || (!isWhole && !written.some(([key]) => key === 'jsx')))
    return UNKNOWN_FACT;
  return known(Object.fromEntries(texts));
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

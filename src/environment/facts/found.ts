import type { Place } from '../../finding.js';
import type { SpecBundle } from '../settings/spec-bundles.js';
import { allKnown } from '../../util/all-known.js';
import { isAbsolute, resolve } from '../../util/paths.js';
import { flagOf, valuesOf, type Command } from '../settings/commands.js';
import { NO_LEADS } from '../../host/leads.js';
import type { RunnerName } from '../tables/runners.js';
import type { Collection, RunnerFacts, NamedModule } from './environment.js';
import {
  known,
  textOf,
  textsFact,
  UNKNOWN_FACT,
  type Known,
  type PlacedText,
  type Setting,
} from '../settings/setting.js';

/** Settings that were found for a runner, with what they set. */
export interface FoundSettings {
  setting: Setting;
  file: string;
  folder: string;
}

/** All that a table and the settings say of a runner; the rest comes from elsewhere. */
export type Facts = Omit<RunnerFacts, 'runner' | 'commands' | 'major'>;

/** What the facts of a runner are read from. */
export interface RunnerSources {
  found: FoundSettings;
  commands: readonly Command[];
  major: number | undefined;
  /** The packages that the manifest beside the settings declares. */
  declared: readonly string[];
  /** Whether a file exists. */
  exists: (path: string) => boolean;
  /** A settings file, by its path; undefined where it is broken. */
  setting: (path: string) => Setting | undefined;
  /** What a script bundles; undefined where that can't be told. */
  bundleAt: (path: string) => SpecBundle | undefined;
  /** The files below a folder that a pattern from it takes. */
  filesAt: (folder: string, pattern: string) => readonly string[];
  /** The settings of the projects that an entry names: folders and files, by their paths or by a pattern from a folder. */
  membersAt: (folder: string, pattern: string) => readonly FoundSettings[];
}

export const UNREAD = {
  settings: undefined,
  named: [],
  setupFiles: UNKNOWN_FACT,
  collects: UNKNOWN_FACT,
  restores: UNKNOWN_FACT,
  resets: UNKNOWN_FACT,
  clears: UNKNOWN_FACT,
  unstubs: UNKNOWN_FACT,
  isolates: UNKNOWN_FACT,
  fakesClock: UNKNOWN_FACT,
  globals: UNKNOWN_FACT,
  globalNames: UNKNOWN_FACT,
  document: UNKNOWN_FACT,
  endings: UNKNOWN_FACT,
  aliases: UNKNOWN_FACT,
  leads: NO_LEADS,
  readsPaths: false,
  transforms: UNKNOWN_FACT,
  coverage: UNKNOWN_FACT,
} satisfies Partial<Facts>;

/** A project whose settings stand elsewhere, or can't be read. */
export const unreadProject = ({ found: { file, folder } }: RunnerSources): Facts => ({
  ...UNREAD,
  folder,
  settingsFile: file,
});

/** The facts of a runner that takes nothing off and fakes no clock by itself. */
export const UNDOES_NOTHING = {
  restores: known(false),
  resets: known(false),
  clears: known(false),
  unstubs: known(false),
  fakesClock: known(false),
};

/** The modules that flags of the commands, or of node's own options, load before the specs: all must say the same. */
export function setupsOfCommands(
  commands: readonly Command[],
  flags: readonly string[],
  candidates: (text: string) => string[],
): Known<NamedModule[]> {
  const lists = commands.map((command) => {
    const options = (command.env.get('NODE_OPTIONS') ?? '').split(/\s+/);
    return [...valuesOf(command, ...flags), ...valuesOf({ ...command, args: options }, ...flags)];
  });
  const [first = []] = lists;
  const [command] = commands;
  if (lists.some((each) => each.join('\0') !== first.join('\0'))) return UNKNOWN_FACT;
  return known(
    command
      ? first.map((text) => ({ text, at: command.at, key: 'the script', candidates: candidates(text) }))
      : [],
  );
}

/** The projects that an entry of a list names: each by its settings; where there is none, the entry itself is what is missing. */
export function members(
  item: Setting,
  runner: RunnerName,
  asked: RunnerSources,
  facts: (member: RunnerSources) => Facts,
): Facts[] {
  const pattern = textOf(item);
  if (pattern === undefined) return [unreadProject(asked)];
  const { folder } = asked.found;
  const path = pattern.replace(/^<rootDir>\/?/, './');
  if (path.startsWith('!')) return [];
  const found = asked.membersAt(folder, path);
  if (found.length > 0) return found.map((each) => facts({ ...asked, found: each }));
  // Before version 3, a workspace without members was no error.
  const isPattern = /[*?{[(]/.test(pattern);
  if (isPattern && runner === 'vitest' && (asked.major ?? 0) < 3) return [unreadProject(asked)];
  const missing = { text: pattern, at: item.at, key: 'projects', candidates: [resolve(folder, path)] };
  return [{ ...unreadProject(asked), named: [{ ...missing, mayBeFolder: true }] }];
}

/** A collection of which the commands take a part alone: what matches one of some patterns over the path; all where there is none. */
export const filtered = (
  collection: Known<Collection>,
  filters: readonly string[] | undefined,
): Known<Collection> =>
  collection.known && filters && filters.length > 0
    ? known({ ...collection.value, filters }, collection.at)
    : collection;

/** Whether any of the commands has one of the flags. */
export const hasFlag = (commands: readonly Command[], ...names: readonly string[]): boolean =>
  commands.some((command) => flagOf(command, ...names) !== undefined);

/** The value that all commands give to a flag; `undefined` where none has it, unknown where they differ. */
export function flagValue(
  commands: readonly Command[],
  ...names: readonly string[]
): Known<string | true | undefined> {
  const [first, ...rest] = commands.map((command) => flagOf(command, ...names));
  return rest.every((each) => each === first) ? known(first, commands[0]?.at) : UNKNOWN_FACT;
}

/** A set-up path that is bare may be a package; one with an extension is a file. */
export const looksLikePath = (text: string): boolean =>
  !text.startsWith('@') && !text.startsWith('$') && /\/.*\.[cm]?[jt]sx?$|^[\w-]+\.[cm]?[jt]sx?$/.test(text);

export const isPath = (text: string): boolean =>
  text.startsWith('.') || isAbsolute(text) || looksLikePath(text);

export const withExtensions = (path: string): string[] => [
  path,
  ...['.js', '.ts', '.mjs', '.cjs', '.mts', '.cts', '.tsx', '.jsx', '.json'].map(
    (extension) => path + extension,
  ),
  ...['js', 'ts', 'mjs'].map((extension) => `${path}/index.${extension}`),
];

/** The set-up files of one setting. */
export function setupList(
  setting: Setting | undefined,
  key: string,
  candidates: (text: string) => string[],
): Known<NamedModule[]> {
  const texts: Known<PlacedText[]> = setting ? textsFact(setting, [], setting.at) : known([]);
  if (!texts.known) return UNKNOWN_FACT;
  return known(texts.value.map(({ text, at }) => ({ text, at, key, candidates: candidates(text) })));
}

/** Several lists as one; unknown where one of them is. */
export function joinedFacts<T>(lists: readonly Known<readonly T[]>[]): Known<T[]> {
  const values = allKnown(lists.map((list) => (list.known ? list.value : undefined)));
  return values ? known(values.flat()) : UNKNOWN_FACT;
}

/** A list of texts without their places; `undefined` where it is not set. */
export function plainTexts(setting: Setting | undefined, at: Place): Known<string[] | undefined> {
  if (setting === undefined) return known(undefined);
  const texts = textsFact(setting, [], at);
  return texts.known ? known(texts.value.map(({ text }) => text)) : UNKNOWN_FACT;
}

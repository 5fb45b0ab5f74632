import type { Place } from '../parse/place.js';
import { dirname, isAbsolute, join, resolve } from '../util/paths.js';
import type { Command } from './commands.js';
import { flagOf } from './commands.js';
import type { Collection, RunnerFacts, SetupFile } from './environment.js';
import type { RunnerRow } from './runners.js';
import {
  flagFact,
  known,
  settingAt,
  textFact,
  textsFact,
  UNKNOWN_FACT,
  type Known,
  type PlacedText,
  type Setting,
} from './setting.js';

/** A settings file that was found for a runner, with what it sets. */
export interface Found {
  setting: Setting;
  file: string;
  folder: string;
}

type Facts = Omit<RunnerFacts, 'runner' | 'commands'>;

const UNREAD = {
  setupFiles: UNKNOWN_FACT,
  collects: UNKNOWN_FACT,
  restores: UNKNOWN_FACT,
  resets: UNKNOWN_FACT,
  clears: UNKNOWN_FACT,
  unstubs: UNKNOWN_FACT,
  isolates: UNKNOWN_FACT,
  fakesClock: UNKNOWN_FACT,
  globals: UNKNOWN_FACT,
  document: UNKNOWN_FACT,
};

/** The facts of one runner, from its row, its settings and the commands that start it. */
export function runnerFacts(
  row: RunnerRow,
  found: Found | undefined,
  folder: string,
  commands: readonly Command[],
): Facts {
  const base: Facts = {
    ...UNREAD,
    folder,
    settingsFile: found?.file,
    globals: row.globals ? known(true) : UNKNOWN_FACT,
  };
  if (row.restores) base.restores = known(true);
  switch (row.name) {
    case 'jest':
      return found ? { ...base, ...jest(row, found, commands) } : base;
    case 'vitest':
      return found ? { ...base, ...vitest(row, found, commands) } : base;
    case 'mocha':
      return { ...base, ...mocha(found, folder, commands) };
    case 'jasmine':
      return found ? { ...base, ...jasmine(found) } : base;
    case 'angular':
      return base;
    case 'react-scripts':
      return { ...base, ...reactScripts(row, folder, commands) };
    default:
      return base;
  }
}

function jest(
  row: RunnerRow,
  { setting, file, folder }: Found,
  commands: readonly Command[],
): Partial<Facts> {
  const at = setting.at;
  const preset = settingAt(setting, 'preset');
  // A preset may set anything that the project does not set itself.
  const own: Setting =
    preset && setting.is === 'object'
      ? {
          ...setting,
          open: setting.open || !HARMLESS_PRESETS.has(String(preset.is === 'value' ? preset.value : '')),
        }
      : setting;
  const rootDir = textFact(settingAt(setting, 'rootDir'), undefined);
  const root = rootDir.known ? resolve(folder, rootDir.value ?? '.') : undefined;
  if (
    root === undefined ||
    settingAt(setting, 'projects') !== undefined ||
    flags(commands, '--projects', '--config', '-c')
  )
    return { settingsFile: file };
  const from = (text: string): string => resolve(root, text.replace(/^<rootDir>\/?/, './'));
  const setups = ['setupFiles', 'setupFilesAfterEnv'].map((key) =>
    setupList(settingAt(own, key), key, (text) => jestCandidates(text, root, from)),
  );
  const once = ['globalSetup', 'globalTeardown'].map((key) =>
    setupList(settingAt(own, key), key, (text) => jestCandidates(text, root, from)),
  );
  return {
    setupFiles: together([...setups, ...once]),
    collects: jestCollection(row, own, root, from, at),
    restores: flagFact(settingAt(own, 'restoreMocks'), false),
    resets: flagFact(settingAt(own, 'resetMocks'), false),
    clears: flagFact(settingAt(own, 'clearMocks'), false),
    unstubs: known(false),
    isolates: known(true),
    fakesClock: fakeTimers(own),
    globals: flagFact(settingAt(own, 'injectGlobals'), true),
    document: textFact(settingAt(own, 'testEnvironment'), 'node'),
  };
}

// Presets that set transforms and nothing else that a fact is made of (ts-jest 27 to 29).
const HARMLESS_PRESETS = new Set([
  'ts-jest',
  'ts-jest/presets/default',
  'ts-jest/presets/js-with-ts',
  'ts-jest/presets/js-with-babel',
]);

function fakeTimers(setting: Setting): Known<boolean> {
  const timers = settingAt(setting, 'timers');
  if (timers)
    return timers.is === 'value'
      ? known(timers.value === 'fake' || timers.value === 'modern' || timers.value === 'legacy')
      : UNKNOWN_FACT;
  return flagFact(settingAt(setting, 'fakeTimers', 'enableGlobally'), false);
}

// A set-up path is a module name for the runner: a bare one may be a package.
function jestCandidates(text: string, root: string, from: (text: string) => string): string[] {
  if (text.startsWith('<rootDir>') || text.startsWith('.') || isAbsolute(text))
    return withExtensions(from(text));
  return looksLikePath(text) ? withExtensions(resolve(root, text)) : [];
}

const looksLikePath = (text: string): boolean =>
  !text.startsWith('@') && !text.startsWith('$') && /\/.*\.[cm]?[jt]sx?$|^[\w-]+\.[cm]?[jt]sx?$/.test(text);

const withExtensions = (path: string): string[] => [
  path,
  ...['.js', '.ts', '.mjs', '.cjs', '.mts', '.cts', '.tsx', '.jsx', '.json'].map(
    (extension) => path + extension,
  ),
  ...['js', 'ts', 'mjs'].map((extension) => `${path}/index.${extension}`),
];

function jestCollection(
  row: RunnerRow,
  setting: Setting,
  root: string,
  from: (text: string) => string,
  at: Place,
): Known<Collection> {
  const match = textsFact(settingAt(setting, 'testMatch'), [], at);
  const regex = regexes(settingAt(setting, 'testRegex'));
  const ignored = textsFact(settingAt(setting, 'testPathIgnorePatterns'), ['/node_modules/'], at);
  const roots = textsFact(settingAt(setting, 'roots'), ['<rootDir>'], at);
  if (!match.known || !regex || !ignored.known || !roots.known) return UNKNOWN_FACT;
  const globs = match.value.map(({ text }) => text.replace(/^<rootDir>\/?/, ''));
  const byDefault = globs.length === 0 && regex.length === 0;
  const first = match.value[0]?.at ?? settingAt(setting, 'testRegex')?.at ?? at;
  return known({
    folder: root,
    include: byDefault ? (row.include ?? []) : globs,
    exclude: [],
    patterns: regex,
    leftOut: ignored.value.map(({ text }) => text.replaceAll('<rootDir>', root)),
    roots: roots.value.map(({ text }) => from(text)),
    at: byDefault ? at : first,
    byDefault,
  });
}

function regexes(setting: Setting | undefined): string[] | undefined {
  if (setting === undefined) return [];
  const items = setting.is === 'list' && !setting.open ? setting.items : [setting];
  const texts = items.map((each) =>
    each.is === 'value' && typeof each.value === 'string'
      ? each.value
      : each.is === 'pattern'
        ? each.source
        : undefined,
  );
  return texts.some((each) => each === undefined) ? undefined : texts.filter((each) => each !== undefined);
}

function vitest(
  row: RunnerRow,
  { setting, file, folder }: Found,
  commands: readonly Command[],
): Partial<Facts> {
  const test = settingAt(setting, 'test');
  const at = test?.at ?? setting.at;
  if (setting.is !== 'object' && setting.is !== 'either') return { settingsFile: file };
  const several = ['projects', 'workspace'].some((key) => settingAt(test, key) !== undefined);
  const moved = flags(commands, '--config', '-c', '--dir', '--root', '-r', '--project', '--workspace');
  const rootSetting = textFact(settingAt(test, 'root') ?? settingAt(setting, 'root'), undefined);
  if (several || moved || !rootSetting.known) return { settingsFile: file };
  const root = rootSetting.value ? resolve(folder, rootSetting.value) : folder;
  const candidates = (text: string): string[] =>
    isAbsolute(text) || text.startsWith('.') || looksLikePath(text)
      ? withExtensions(resolve(root, text))
      : [];
  const setups = ['setupFiles', 'globalSetup'].map((key) => setupList(settingAt(test, key), key, candidates));
  return {
    setupFiles: together(setups),
    collects: vitestCollection(row, test, root, at),
    restores: flagFact(settingAt(test, 'restoreMocks'), false),
    resets: flagFact(settingAt(test, 'mockReset'), false),
    clears: flagFact(settingAt(test, 'clearMocks'), false),
    unstubs: flagFact(settingAt(test, 'unstubGlobals'), false),
    isolates: flagFact(settingAt(test, 'isolate'), true),
    fakesClock: known(false),
    globals: commands.some((each) => flagOf(each, '--globals'))
      ? known(true)
      : flagFact(settingAt(test, 'globals'), false),
    document: textFact(settingAt(test, 'environment'), 'node'),
  };
}

function vitestCollection(
  row: RunnerRow,
  test: Setting | undefined,
  root: string,
  at: Place,
): Known<Collection> {
  const include = textsFact(settingAt(test, 'include'), row.include ?? [], at);
  const exclude = textsFact(settingAt(test, 'exclude'), row.exclude ?? [], at);
  const dir = textFact(settingAt(test, 'dir'), undefined);
  const typecheck = settingAt(test, 'typecheck');
  if (!include.known || !exclude.known || !dir.known || settingAt(test, 'includeSource') || typecheck)
    return UNKNOWN_FACT;
  const folder = dir.value ? resolve(root, dir.value) : root;
  const byDefault = settingAt(test, 'include') === undefined;
  return known({
    folder,
    include: include.value.map(({ text }) => text),
    exclude: exclude.value.map(({ text }) => text),
    patterns: [],
    leftOut: [],
    roots: [folder],
    at: byDefault ? at : (include.at ?? at),
    byDefault,
  });
}

function mocha(found: Found | undefined, folder: string, commands: readonly Command[]): Partial<Facts> {
  const setting = found?.setting;
  const base = found?.folder ?? folder;
  const facts: Partial<Facts> = {
    restores: known(false),
    resets: known(false),
    clears: known(false),
    unstubs: known(false),
    fakesClock: known(false),
    isolates: known(false),
    document: UNKNOWN_FACT,
  };
  if (!setting) return { ...facts, collects: mochaCollection(undefined, base, commands) };
  const candidates = (text: string): string[] =>
    text.startsWith('.') || isAbsolute(text) || looksLikePath(text)
      ? withExtensions(resolve(base, text))
      : [];
  const setups = ['require', 'file'].map((key) => setupList(settingAt(setting, key), key, candidates));
  return { ...facts, setupFiles: together(setups), collects: mochaCollection(setting, base, commands) };
}

// Scripts may add patterns to those of the settings; where a script can't be followed, nothing is known.
function mochaCollection(
  setting: Setting | undefined,
  folder: string,
  commands: readonly Command[],
): Known<Collection> {
  const at = setting?.at ?? commands[0]?.at;
  const spec = at && textsFact(settingAt(setting, 'spec'), [], at);
  if (!at || !spec?.known || commands.length === 0) return UNKNOWN_FACT;
  if (commands.some((each) => each.args.some((arg) => arg.startsWith('-')))) return UNKNOWN_FACT;
  const given = commands.flatMap((each) => each.args);
  const include = [...spec.value.map(({ text }) => text), ...given].map((text) => text.replace(/^\.\//, ''));
  const folders = include.map((text) =>
    /[*?{[]|\.[cm]?[jt]sx?$/.test(text) ? text : `${text.replace(/\/$/, '')}/*`,
  );
  if (include.length === 0)
    return known({
      folder,
      include: ['test/*.{js,cjs,mjs}'],
      exclude: [],
      patterns: [],
      leftOut: [],
      roots: [folder],
      at,
      byDefault: true,
    });
  return known({
    folder,
    include: folders,
    exclude: [],
    patterns: [],
    leftOut: [],
    roots: [folder],
    at,
    byDefault: false,
  });
}

function jasmine({ setting, file, folder }: Found): Partial<Facts> {
  const base = file.includes('/spec/support/') ? dirname(dirname(dirname(file))) : folder;
  const dir = textFact(settingAt(setting, 'spec_dir'), '.');
  const files = textsFact(settingAt(setting, 'spec_files'), [], setting.at);
  if (!dir.known || !files.known || files.value.length === 0) return { settingsFile: file };
  const root = resolve(base, dir.value ?? '.');
  const texts = files.value.map(({ text }) => text);
  return {
    collects: known({
      folder: root,
      include: texts.filter((text) => !text.startsWith('!')),
      exclude: texts.filter((text) => text.startsWith('!')).map((text) => text.slice(1)),
      patterns: [],
      leftOut: [],
      roots: [root],
      at: files.at ?? setting.at,
      byDefault: false,
    }),
  };
}

function reactScripts(row: RunnerRow, folder: string, commands: readonly Command[]): Partial<Facts> {
  const at = commands[0]?.at;
  return {
    restores: known(false),
    // createJestConfig.js sets `resetMocks`.
    resets: known(true),
    clears: known(true),
    isolates: known(true),
    document: known('jsdom'),
    collects: at
      ? known({
          folder,
          include: row.include ?? [],
          exclude: [],
          patterns: [],
          leftOut: ['/node_modules/'],
          roots: [join(folder, 'src')],
          at,
          byDefault: true,
        })
      : UNKNOWN_FACT,
  };
}

const flags = (commands: readonly Command[], ...names: readonly string[]): boolean =>
  commands.some((each) => flagOf(each, ...names) !== undefined);

function setupList(
  setting: Setting | undefined,
  key: string,
  candidates: (text: string) => string[],
): Known<SetupFile[]> {
  const texts: Known<PlacedText[]> = setting ? textsFact(setting, [], setting.at) : known([]);
  if (!texts.known) return UNKNOWN_FACT;
  return known(texts.value.map(({ text, at }) => ({ text, at, key, candidates: candidates(text) })));
}

function together(lists: readonly Known<SetupFile[]>[]): Known<SetupFile[]> {
  const values = lists.map((each) => (each.known ? each.value : undefined));
  if (values.some((each) => each === undefined)) return UNKNOWN_FACT;
  return known(values.flatMap((each) => each ?? []));
}

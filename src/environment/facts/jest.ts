import type { Place } from '../../finding.js';
import { isAbsolute, join, resolve } from '../../util/paths.js';
import type { AliasRule, Collection, CoverageFacts, TransformRule, Transforms } from './environment.js';
import { withPreset } from './presets.js';
import type { RunnerRow } from '../tables/runners.js';
import {
  flagFact,
  known,
  settingAt,
  textFact,
  textOf,
  textsFact,
  UNKNOWN_FACT,
  type Known,
  type Setting,
} from '../settings/setting.js';
import {
  flagValue,
  hasFlag,
  looksLikePath,
  plainTexts,
  setupList,
  joinedFacts,
  UNREAD,
  unreadProject,
  withExtensions,
  type RunnerSources,
  type Facts,
} from './found.js';

/** The facts of jest's settings: one set for each project that stands in them as an object. */
export function jest(row: RunnerRow, asked: RunnerSources): Facts[] {
  const { setting } = asked.found;
  const projects = settingAt(setting, 'projects');
  if (projects === undefined) return [one(row, asked, setting)];
  if (projects.is !== 'list' || projects.open) return [unreadProject(asked)];
  // A path is a project with settings of its own: they are found where they stand.
  return projects.items.map((item) =>
    item.is === 'object' ? { ...one(row, asked, item), project: nameOf(item) } : unreadProject(asked),
  );
}

function nameOf(project: Setting): string | undefined {
  const shown = settingAt(project, 'displayName');
  const name = shown?.is === 'object' ? settingAt(shown, 'name') : shown;
  return textOf(name);
}

function one(row: RunnerRow, { found, commands, major, exists }: RunnerSources, setting: Setting): Facts {
  const { file, folder } = found;
  const base: Facts = { ...UNREAD, folder, settingsFile: file, settings: setting };
  const own = withPreset(setting, settingAt(setting, 'preset'));
  const rootDir = textFact(settingAt(setting, 'rootDir'), undefined);
  if (!rootDir.known || hasFlag(commands, '--projects', '--rootDir', '--roots')) return base;
  const root = resolve(folder, (rootDir.value ?? '.').replace(/^<rootDir>\/?/, './'));
  const from = (text: string): string => resolve(root, text.replace(/^<rootDir>\/?/, './'));
  const list = (key: string): ReturnType<typeof setupList> =>
    setupList(settingAt(own, key), key, (text) => candidates(text, root, from));
  const env = flagValue(commands, '--env', '--testEnvironment');
  const asksFor = textFact(settingAt(own, 'testEnvironment'), defaultDocument(major));
  return {
    ...base,
    folder: root,
    setupFiles: joinedFacts(['setupFiles', 'setupFilesAfterEnv', 'globalSetup', 'globalTeardown'].map(list)),
    collects: collection(row, own, root, from, setting.at),
    restores: flagFact(settingAt(own, 'restoreMocks'), false),
    resets: flagFact(settingAt(own, 'resetMocks'), false),
    clears: flagFact(settingAt(own, 'clearMocks'), false),
    unstubs: known(false),
    isolates: known(true),
    fakesClock: fakeTimers(own),
    globals: flagFact(settingAt(own, 'injectGlobals'), true),
    document: !env.known ? UNKNOWN_FACT : typeof env.value === 'string' ? known(env.value, env.at) : asksFor,
    aliases: aliases(settingAt(own, 'moduleNameMapper'), own),
    transforms: transforms(own, setting.at, root, exists),
    coverage: coverage(own, setting.at, root, hasFlag(commands, '--coverage', '--collectCoverage')),
  };
}

// jest-config 27 made `node` the default; before, it was `jsdom`.
const defaultDocument = (major: number | undefined): string | undefined =>
  major === undefined ? undefined : major >= 27 ? 'node' : 'jsdom';

function fakeTimers(setting: Setting): Known<boolean> {
  const timers = settingAt(setting, 'timers');
  if (timers)
    return timers.is === 'value'
      ? known(timers.value === 'fake' || timers.value === 'modern' || timers.value === 'legacy')
      : UNKNOWN_FACT;
  return flagFact(settingAt(setting, 'fakeTimers', 'enableGlobally'), false);
}

// A set-up path is a module name for the runner: a bare one may be a package.
function candidates(text: string, root: string, from: (text: string) => string): string[] {
  if (text.startsWith('<rootDir>') || text.startsWith('.') || isAbsolute(text))
    return withExtensions(from(text));
  return looksLikePath(text) ? withExtensions(resolve(root, text)) : [];
}

function collection(
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
    include: byDefault ? (row.include ?? []) : globs.filter((glob) => !glob.startsWith('!')),
    exclude: globs.filter((glob) => glob.startsWith('!')).map((glob) => glob.slice(1)),
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
  const texts = items.map((item) =>
    item.is === 'value' && typeof item.value === 'string'
      ? item.value
      : item.is === 'pattern'
        ? item.source
        : undefined,
  );
  return texts.some((text) => text === undefined) ? undefined : texts.filter((text) => text !== undefined);
}

// Folders that bare imports are looked for in are as good as aliases that can't be listed.
function aliases(mapper: Setting | undefined, setting: Setting): Known<AliasRule[]> {
  const more = ['modulePaths', 'moduleDirectories', 'resolver', 'haste'].some(
    (key) => settingAt(setting, key) !== undefined,
  );
  if (more) return UNKNOWN_FACT;
  if (mapper === undefined || (mapper.is === 'value' && mapper.value == null)) return known([]);
  if (mapper.is !== 'object' || mapper.open) return UNKNOWN_FACT;
  return known([...mapper.entries].map(([pattern, { at }]) => ({ pattern, at })));
}

// jest-config 27 to 30, `transform`: scripts go to babel-jest, and node_modules to nobody.
function transforms(
  setting: Setting,
  at: Place,
  root: string,
  exists: (path: string) => boolean,
): Known<Transforms> {
  const transform = settingAt(setting, 'transform');
  const mapper = settingAt(setting, 'moduleNameMapper');
  const mapped = aliases(mapper, setting);
  if (!mapped.known || settingAt(setting, 'resolver')) return UNKNOWN_FACT;
  const rules: TransformRule[] = [];
  if (transform === undefined || (transform.is === 'object' && !transform.open)) {
    for (const [pattern, value] of transform?.entries ?? []) {
      const first = value.is === 'list' ? value.items[0] : value;
      const by = first?.is === 'value' && typeof first.value === 'string' ? first.value : undefined;
      if (by === undefined) return UNKNOWN_FACT;
      rules.push({ pattern, by, at: value.at });
    }
  } else return UNKNOWN_FACT;
  if (!transform) rules.push({ pattern: '\\.[jt]sx?$', by: hasBabel(root, exists) ? 'babel-jest' : '', at });
  return known({
    by: 'rules',
    rules,
    mapped: mapped.value.map(({ pattern }) => pattern),
    at: transform?.at ?? at,
  });
}

const BABEL_FILES = [
  ...['js', 'cjs', 'mjs', 'json', 'cts', 'ts'].map((extension) => `babel.config.${extension}`),
  '.babelrc',
  ...['js', 'cjs', 'mjs', 'json'].map((extension) => `.babelrc.${extension}`),
];

// The nearest folders above count as well: a root's settings hold for all packages.
function hasBabel(root: string, exists: (path: string) => boolean): boolean {
  const folders = [root, join(root, '..'), join(root, '../..'), join(root, '../../..')];
  return folders.some((folder) => BABEL_FILES.some((name) => exists(join(folder, name))));
}

function coverage(setting: Setting, at: Place, folder: string, flag: boolean): Known<CoverageFacts> {
  const on = flagFact(settingAt(setting, 'collectCoverage'), false);
  const include = plainTexts(settingAt(setting, 'collectCoverageFrom'), at);
  const exclude = plainTexts(settingAt(setting, 'coveragePathIgnorePatterns'), at);
  const threshold = settingAt(setting, 'coverageThreshold');
  const global = settingAt(threshold, 'global');
  if (!on.known || !include.known || !exclude.known || threshold?.is === 'unknown') return UNKNOWN_FACT;
  const place =
    settingAt(setting, 'collectCoverageFrom') ?? settingAt(setting, 'collectCoverage') ?? threshold;
  return known({
    collected: on.value || flag || threshold !== undefined,
    include: include.value,
    // These are regular expressions over paths, not globs: what they leave out can't be compared.
    exclude: undefined,
    loadedOnly: include.value === undefined,
    thresholds: global?.is === 'object' && !global.open ? [...global.entries.keys()] : undefined,
    folder,
    at: place?.at ?? at,
  });
}

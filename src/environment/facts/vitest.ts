import { escaped } from '../../util/pattern.js';
import type { Place } from '../../finding.js';
import { resolve } from '../../util/paths.js';
import type { AliasRule, Collection, CoverageFacts, Transforms } from './environment.js';
import { leavesNames, leavesSettings } from '../tables/plugins.js';
import type { RunnerRow } from '../tables/runners.js';
import { merged } from '../settings/setting-values.js';
import {
  flagFact,
  known,
  madeBy,
  settingAt,
  textFact,
  textsFact,
  UNKNOWN_FACT,
  type Known,
  type Setting,
} from '../settings/setting.js';
import {
  flagValue,
  hasFlag,
  isPath,
  plainTexts,
  setupList,
  joinedFacts,
  UNREAD,
  unreadProject,
  withExtensions,
  type RunnerSources,
  type Facts,
} from './found.js';

/** The facts of vitest's settings: one set for each project that stands in them as an object. */
export function vitest(row: RunnerRow, asked: RunnerSources, workspace: Setting | undefined): Facts[] {
  const { setting } = asked.found;
  const projects =
    workspace ?? settingAt(setting, 'test', 'projects') ?? settingAt(setting, 'test', 'workspace');
  if (projects === undefined) return [one(row, asked, setting)];
  if (projects.is !== 'list' || projects.open) return [unreadProject(asked)];
  return projects.items.map((item) => {
    if (item.is !== 'object') return unreadProject(asked);
    // `extends: true` takes the settings around it; a path takes those of another file.
    const from = settingAt(item, 'extends');
    const whole =
      from?.is === 'value' && from.value === true ? merged(without(setting), item, item.at) : item;
    const readable = from === undefined || (from.is === 'value' && typeof from.value === 'boolean');
    const name = textFact(settingAt(item, 'test', 'name'), undefined);
    const facts = readable ? one(row, asked, whole) : unreadProject(asked);
    return { ...facts, project: name.known ? name.value : undefined };
  });
}

// What stands around the projects, the list of them left out.
function without(setting: Setting): Setting {
  if (setting.is !== 'object') return setting;
  const test = setting.entries.get('test');
  if (test?.is !== 'object') return setting;
  const entries = new Map([...test.entries].filter(([key]) => key !== 'projects' && key !== 'workspace'));
  return { ...setting, entries: new Map(setting.entries).set('test', { ...test, entries }) };
}

function one(row: RunnerRow, { found, commands, major }: RunnerSources, setting: Setting): Facts {
  const { file, folder } = found;
  const base: Facts = { ...UNREAD, folder, settingsFile: file };
  const written = settingAt(setting, 'test');
  const test = testSettings(setting);
  const at = test?.at ?? setting.at;
  const rootSetting = textFact(settingAt(written, 'root') ?? settingAt(setting, 'root'), undefined);
  const rootFlag = flagValue(commands, '--root', '-r');
  const moved = hasFlag(commands, '--project', '--workspace') || !rootFlag.known;
  if (setting.is !== 'object' || moved || !rootSetting.known) return base;
  const root = resolve(
    folder,
    typeof rootFlag.value === 'string' ? rootFlag.value : (rootSetting.value ?? '.'),
  );
  const candidates = (text: string): string[] => (isPath(text) ? withExtensions(resolve(root, text)) : []);
  const list = (key: string): ReturnType<typeof setupList> =>
    setupList(settingAt(test, key), key, candidates);
  const shared = commands.find((command) => hasFlag([command], '--no-isolate'));
  const isolated = shared ? known('false' as const, shared.at) : flagValue(commands, '--isolate');
  return {
    ...base,
    folder: root,
    settings: setting,
    setupFiles: joinedFacts(['setupFiles', 'globalSetup'].map(list)),
    collects: collection(row, test, root, at, flagValue(commands, '--dir')),
    restores: flagFact(settingAt(test, 'restoreMocks'), false),
    resets: flagFact(settingAt(test, 'mockReset'), false),
    clears: flagFact(settingAt(test, 'clearMocks'), false),
    unstubs: flagFact(settingAt(test, 'unstubGlobals'), false),
    isolates: byFlag(isolated, isolation(test)),
    fakesClock: known(false),
    globals: byFlag(flagValue(commands, '--globals'), flagFact(settingAt(test, 'globals'), false)),
    document: document(written, test, commands),
    aliases: aliases(setting, test),
    transforms: plugins(setting),
    coverage: coverage(test, at, root, major, hasFlag(commands, '--coverage')),
  };
}

// A plugin that is not known may set what the file does not.
function testSettings(setting: Setting): Setting | undefined {
  const test = settingAt(setting, 'test');
  const used = plugins(setting);
  const isSure = used.known && used.value.by === 'plugins' && used.value.plugins.every(leavesSettings);
  if (isSure || (test && test.is !== 'object')) return test;
  return { is: 'object', entries: test?.entries ?? new Map(), open: true, at: test?.at ?? setting.at };
}

// A flag of the script wins over the file.
function byFlag(flag: Known<string | true | undefined>, otherwise: Known<boolean>): Known<boolean> {
  if (!flag.known) return UNKNOWN_FACT;
  return flag.value === undefined ? otherwise : known(flag.value !== 'false', flag.at);
}

function isolation(test: Setting | undefined): Known<boolean> {
  const own = flagFact(settingAt(test, 'isolate'), true);
  const pools = ['forks', 'threads'].map((pool) =>
    flagFact(settingAt(test, 'poolOptions', pool, 'isolate'), true),
  );
  return [own, ...pools].find((each) => !each.known || !each.value) ?? own;
}

// No plugin moves the specs into a browser; one may well choose a document.
function document(
  written: Setting | undefined,
  test: Setting | undefined,
  commands: RunnerSources['commands'],
): Known<string | undefined> {
  const inBrowser = flagFact(settingAt(written, 'browser', 'enabled'), false);
  if (hasFlag(commands, '--browser') || (inBrowser.known && inBrowser.value)) return known('browser');
  if (!inBrowser.known || settingAt(written, 'environmentMatchGlobs')) return UNKNOWN_FACT;
  if (hasFlag(commands, '--dom')) return known('happy-dom');
  const flag = flagValue(commands, '--environment');
  if (!flag.known || flag.value === true) return UNKNOWN_FACT;
  return flag.value ? known(flag.value, flag.at) : textFact(settingAt(test, 'environment'), 'node');
}

function collection(
  row: RunnerRow,
  test: Setting | undefined,
  root: string,
  at: Place,
  dirFlag: Known<string | true | undefined>,
): Known<Collection> {
  const include = textsFact(settingAt(test, 'include'), row.include ?? [], at);
  const exclude = textsFact(settingAt(test, 'exclude'), row.exclude ?? [], at);
  const given = dirFlag.known && typeof dirFlag.value === 'string' ? dirFlag.value : undefined;
  const dir = given === undefined && dirFlag.known ? textFact(settingAt(test, 'dir'), undefined) : dirFlag;
  const typecheck = settingAt(test, 'typecheck');
  if (!include.known || !exclude.known || !dir.known || settingAt(test, 'includeSource') || typecheck)
    return UNKNOWN_FACT;
  const folder = typeof dir.value === 'string' ? resolve(root, dir.value) : root;
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

// `resolve.alias` and `test.alias`, as an object or as a list; the compiler's paths where a switch or plugin reads them.
function aliases(setting: Setting, test: Setting | undefined): Known<AliasRule[]> {
  const shared = settingAt(setting, 'resolve', 'tsconfigPaths');
  if (shared && !(shared.is === 'value' && !shared.value)) return UNKNOWN_FACT;
  const plugs = plugins(setting);
  if (
    !plugs.known ||
    plugs.value.by !== 'plugins' ||
    plugs.value.plugins.some((plugin) => !leavesNames(plugin))
  )
    return UNKNOWN_FACT;
  return joinedFacts([settingAt(setting, 'resolve', 'alias'), settingAt(test, 'alias')].map(rules));
}

function rules(alias: Setting | undefined): Known<AliasRule[]> {
  if (alias === undefined) return known([]);
  if (alias.is === 'object' && !alias.open)
    return known([...alias.entries].map(([name, { at }]) => ({ pattern: `^${escaped(name)}(?:/|$)`, at })));
  if (alias.is !== 'list' || alias.open) return UNKNOWN_FACT;
  const found = alias.items.map((item): AliasRule | undefined => {
    const find = settingAt(item, 'find');
    if (find?.is === 'pattern') return { pattern: find.source, at: find.at };
    if (find?.is !== 'value' || typeof find.value !== 'string') return undefined;
    return { pattern: `^${escaped(find.value)}(?:/|$)`, at: find.at };
  });
  return found.some((each) => !each) ? UNKNOWN_FACT : known(found.filter((each) => each !== undefined));
}

function plugins(setting: Setting): Known<Transforms> {
  const list = settingAt(setting, 'plugins');
  if (list === undefined) return known({ by: 'plugins', plugins: [], at: setting.at });
  if (list.is !== 'list' || list.open) return UNKNOWN_FACT;
  const names = list.items.map(madeBy);
  if (names.some((each) => each === undefined)) return UNKNOWN_FACT;
  return known({ by: 'plugins', plugins: names.filter((each) => each !== undefined), at: list.at });
}

// `coverage.all` is true up to 3, and gone in 4: there, files count that specs load, or that `include` names.
function coverage(
  test: Setting | undefined,
  at: Place,
  folder: string,
  major: number | undefined,
  flag: boolean,
): Known<CoverageFacts> {
  const setting = settingAt(test, 'coverage');
  const on = flagFact(settingAt(setting, 'enabled'), false);
  const include = plainTexts(settingAt(setting, 'include'), at);
  const exclude = plainTexts(settingAt(setting, 'exclude'), at);
  const all = flagFact(settingAt(setting, 'all'), true);
  const threshold = settingAt(setting, 'thresholds');
  const readable = on.known && include.known && exclude.known && all.known && major !== undefined;
  if (setting?.is === 'unknown' || threshold?.is === 'unknown' || !readable) return UNKNOWN_FACT;
  const loadedOnly = major >= 4 ? include.value === undefined : !all.value;
  return known({
    collected: on.value || flag || threshold !== undefined,
    include: include.value,
    exclude: exclude.value,
    loadedOnly,
    thresholds: threshold?.is === 'object' && !threshold.open ? [...threshold.entries.keys()] : undefined,
    folder,
    at: setting?.at ?? at,
  });
}

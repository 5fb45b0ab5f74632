import { escaped } from '../../util/pattern.js';
import { inBrowser, namedForBrowser, runsInBrowser } from './vitest-browser.js';
import type { Place } from '../../finding.js';
import { basename, join, resolve } from '../../util/paths.js';
import { leadingWords, valuesOf } from '../settings/commands.js';
import type { Collection, CoverageFacts, NamedModule, Transforms } from './environment.js';
import { prefixRule, type AliasRule } from '../../host/leads.js';
import { compilerFiles, jsxChosen, pluginEffects, pluginsIn } from './vite-plugins.js';
import type { RunnerRow } from '../tables/runners.js';
import { merged } from '../settings/setting-values.js';
import {
  flagFact,
  known,
  madeBy,
  settingAt,
  textFact,
  textOf,
  textsFact,
  UNKNOWN_FACT,
  type Known,
  type Setting,
} from '../settings/setting.js';
import {
  filtered,
  flagValue,
  hasFlag,
  isPath,
  plainTexts,
  setupList,
  joinedFacts,
  members,
  UNREAD,
  unreadProject,
  withExtensions,
  type RunnerSources,
  type Facts,
} from './found.js';

/** The facts of vitest's settings: one set for each project that stands in them as an object. */
export function vitest(row: RunnerRow, asked: RunnerSources, workspace: Setting | undefined): Facts[] {
  const { setting } = asked.found;
  // From version 3 on they stand in the settings; before, the runner passes over them there.
  const inSettings =
    asked.major === undefined || asked.major >= 3
      ? (settingAt(setting, 'test', 'projects') ?? settingAt(setting, 'test', 'workspace'))
      : undefined;
  const projects = workspace ?? inSettings;
  if (projects === undefined) return [one(row, asked, setting)];
  if (projects.is !== 'list' || projects.open) return [unreadProject(asked)];
  const facts = projects.items.flatMap((item): Facts[] => {
    if (item.is !== 'object')
      return members(item, 'vitest', asked, (member) => ({
        ...one(row, member, member.found.setting),
        project: projectName(member),
      }));
    const name = textFact(settingAt(item, 'test', 'name'), undefined);
    const extended = extendedBy(item, setting, asked);
    const facts = extended.setting ? one(row, asked, extended.setting) : unreadProject(asked);
    return [
      {
        ...facts,
        project: name.known ? name.value : undefined,
        named: [...facts.named, ...extended.named],
      },
    ];
  });
  return chosen(facts, asked.commands);
}

// A project that the script asks for and that none of those is called by, its name being given for each.
function chosen(facts: Facts[], commands: RunnerSources['commands']): Facts[] {
  const [first, ...others] = facts;
  if (!first || facts.some(({ settings }) => !settings)) return facts;
  const missing = commands.flatMap((command) =>
    valuesOf(command, '--project')
      .filter((name) => /^[\w@/-]+$/.test(name))
      .filter((name) => !facts.some(({ project }) => project === undefined || project === name))
      .map((text) => ({ text, at: command.at, key: 'the script', candidates: [], absent: true })),
  );
  return [{ ...first, named: [...first.named, ...missing] }, ...others];
}

// vitest 1 to 4: a project is called as it says, or as its package, or as its folder.
function projectName({
  found: { setting, folder },
  setting: read,
  exists,
}: RunnerSources): string | undefined {
  const own = textFact(settingAt(setting, 'test', 'name'), undefined);
  if (!own.known || own.value !== undefined) return own.known ? own.value : undefined;
  const manifest = join(folder, 'package.json');
  return (exists(manifest) ? textOf(settingAt(read(manifest), 'name')) : undefined) ?? basename(folder);
}

// `extends: true` takes the settings around a project; a path takes those of another file.
function extendedBy(
  item: Setting,
  around: Setting,
  { found: { folder }, setting: read, exists }: RunnerSources,
): { setting: Setting | undefined; named: NamedModule[] } {
  const from = settingAt(item, 'extends');
  // The word itself is no setting of the project.
  const own: Setting =
    item.is === 'object'
      ? { ...item, entries: new Map([...item.entries].filter(([key]) => key !== 'extends')) }
      : item;
  if (from === undefined || (from.is === 'value' && from.value === false)) return { setting: own, named: [] };
  if (from.is === 'value' && from.value === true)
    return { setting: merged(without(around), own, item.at), named: [] };
  const text = textOf(from);
  if (text === undefined) return { setting: undefined, named: [] };
  const file = resolve(folder, text);
  const other = exists(file) ? read(file) : undefined;
  return {
    setting: other && merged(without(other), own, item.at),
    named: [{ text, at: from.at, key: 'extends', candidates: [file] }],
  };
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
  const moved = hasFlag(commands, '--workspace') || !rootFlag.known;
  if (setting.is !== 'object' || moved || !rootSetting.known) return base;
  const root = resolve(
    folder,
    typeof rootFlag.value === 'string' ? rootFlag.value : (rootSetting.value ?? '.'),
  );
  // vite takes a name of JavaScript for one of TypeScript as well.
  const candidates = (text: string): string[] =>
    isPath(text)
      ? [...withExtensions(resolve(root, text)), resolve(root, text).replace(/\.([cm]?)js(x?)$/, '.$1ts$2')]
      : [];
  const list = (key: string): ReturnType<typeof setupList> =>
    setupList(settingAt(test, key), key, candidates);
  const shared = commands.find((command) => hasFlag([command], '--no-isolate'));
  const isolated = shared ? known('false' as const, shared.at) : flagValue(commands, '--isolate');
  const setups = ['setupFiles', 'globalSetup'].map(list);
  return {
    ...base,
    folder: root,
    settings: setting,
    setupFiles: joinedFacts(setups),
    collects: filtered(collection(row, test, root, at, flagValue(commands, '--dir')), filters(commands)),
    restores: flagFact(settingAt(test, 'restoreMocks'), false),
    resets: flagFact(settingAt(test, 'mockReset'), false),
    clears: flagFact(settingAt(test, 'clearMocks'), false),
    unstubs: flagFact(settingAt(test, 'unstubGlobals'), false),
    isolates: byFlag(isolated, isolation(test)),
    fakesClock: known(false),
    globals: byFlag(flagValue(commands, '--globals'), flagFact(settingAt(test, 'globals'), false)),
    document: document(written, test, commands),
    endings: endings(setting),
    aliases: aliases(setting, test, root),
    readsPaths: readsPaths(setting),
    leads: {
      rules: [settingAt(test, 'alias'), settingAt(setting, 'resolve', 'alias')].flatMap((alias) =>
        readRules(alias, root),
      ),
      folders: [],
    },
    transforms: plugins(setting),
    coverage: coverage(test, at, root, major, hasFlag(commands, '--coverage')),
    // What the file names must be there, whatever a plugin adds.
    named: [
      ...aliasPaths(setting, test, root),
      ...setups.flatMap((each) => (each.known ? each.value : [])),
      ...coverageProvider(test, at, commands),
      ...compilerFiles(setting, root),
      ...namedForBrowser(written, major),
    ],
  };
}

// A plugin that is not known may set what the file does not.
function testSettings(setting: Setting): Setting | undefined {
  const test = settingAt(setting, 'test');
  if (pluginEffects(setting).leavesSettings || (test && test.is !== 'object')) return test;
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
  if (hasFlag(commands, '--browser') || runsInBrowser(written)) return known('browser');
  if (!inBrowser(written).known || settingAt(written, 'environmentMatchGlobs')) return UNKNOWN_FACT;
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

// vite 2 to 7, constants: DEFAULT_EXTENSIONS.
function endings(setting: Setting): Known<string[]> {
  const usual = ['.mjs', '.js', '.mts', '.ts', '.jsx', '.tsx', '.json'];
  const texts = textsFact(settingAt(setting, 'resolve', 'extensions'), usual, setting.at);
  return texts.known ? known(texts.value.map(({ text }) => text)) : UNKNOWN_FACT;
}

// Words behind the program are parts of paths.
function filters(commands: RunnerSources['commands']): readonly string[] | undefined {
  const lists = commands.map((command) => {
    const [first, ...rest] = leadingWords(command);
    return first === 'run' || first === 'watch' || first === 'dev'
      ? rest
      : first === undefined
        ? []
        : [first, ...rest];
  });
  return lists.some((each) => each.length === 0)
    ? undefined
    : lists.flat().map((text) => escaped(text.replace(/^\.\//, '')));
}

// `resolve.alias` and `test.alias`, as an object or as a list; the compiler's paths where a switch or plugin reads them.
function aliases(setting: Setting, test: Setting | undefined, root: string): Known<AliasRule[]> {
  const { takes, at } = pluginEffects(setting);
  if (!takes) return UNKNOWN_FACT;
  const own = takes.map((pattern) => ({ pattern, to: undefined, at }));
  return joinedFacts([
    ...[settingAt(setting, 'resolve', 'alias'), settingAt(test, 'alias')].map((alias) => rules(alias, root)),
    known(own),
  ]);
}

function readsPaths(setting: Setting): boolean {
  const shared = settingAt(setting, 'resolve', 'tsconfigPaths');
  return (
    (shared !== undefined && !(shared.is === 'value' && !shared.value)) || pluginEffects(setting).readsPaths
  );
}

// Where aliases lead, as far as they are written as paths.
const aliasPaths = (setting: Setting, test: Setting | undefined, root: string): NamedModule[] =>
  [settingAt(setting, 'resolve', 'alias'), settingAt(test, 'alias')].flatMap((alias) => {
    const values =
      alias?.is === 'object'
        ? [...alias.entries.values()]
        : alias?.is === 'list'
          ? alias.items.map((item) => settingAt(item, 'replacement'))
          : [];
    return values.flatMap((value): NamedModule[] => {
      const text = rooted(textOf(value), root)?.replace(/(?:\/\$1|\/)$/, '');
      if (!value || !text?.startsWith('/') || text.includes('$')) return [];
      return [{ text, at: value.at, key: 'alias', candidates: withExtensions(text), mayBeFolder: true }];
    });
  });

function rules(alias: Setting | undefined, root: string): Known<AliasRule[]> {
  if (alias === undefined) return known([]);
  const isWhole =
    (alias.is === 'object' && !alias.open) ||
    (alias.is === 'list' && !alias.open && readRules(alias, root).length === alias.items.length);
  return isWhole ? known(readRules(alias, root)) : UNKNOWN_FACT;
}

// vite 4 to 8: a path that starts with a slash is looked for below the root first. One that shares its first folder with
// the root is taken for absolute.
const rooted = (to: string | undefined, root: string): string | undefined =>
  to?.startsWith('/') && to.split('/')[1] !== root.split('/')[1] ? join(root, to) : to;

// The rules of aliases, as far as they can be read.
function readRules(alias: Setting | undefined, root: string): AliasRule[] {
  if (alias?.is === 'object')
    return [...alias.entries].map(([name, value]) => aliasRule(name, rooted(textOf(value), root), value.at));
  if (alias?.is !== 'list') return [];
  return alias.items.flatMap((item): AliasRule[] => {
    const find = settingAt(item, 'find');
    const to = rooted(textOf(settingAt(item, 'replacement')), root);
    if (find?.is === 'pattern') return [{ pattern: find.source, to, part: true, at: find.at }];
    const name = textOf(find);
    return find && name !== undefined ? [aliasRule(name, to, find.at)] : [];
  });
}

// vite 4 to 8: a slash at the end of both sides counts for none.
const aliasRule = (name: string, to: string | undefined, at: Place): AliasRule =>
  name.endsWith('/') && to?.endsWith('/')
    ? prefixRule(name.slice(0, -1), to.slice(0, -1), at)
    : prefixRule(name, to, at);

function plugins(setting: Setting): Known<Transforms> {
  const list = settingAt(setting, 'plugins');
  if (list === undefined)
    return known({ by: 'plugins', plugins: [], jsx: jsxChosen(setting, []), at: setting.at });
  const all = pluginsIn(list);
  const names = all?.map(madeBy);
  if (!all || !names || names.some((each) => each === undefined)) return UNKNOWN_FACT;
  const plugins = names.filter((each) => each !== undefined);
  return known({ by: 'plugins', plugins, jsx: jsxChosen(setting, all), at: list.at });
}

// vitest 0.34 to 4: what counts is a package of its own, by the name of the provider.
function coverageProvider(
  test: Setting | undefined,
  at: Place,
  commands: RunnerSources['commands'],
): NamedModule[] {
  const setting = settingAt(test, 'coverage');
  const enabled = flagFact(settingAt(setting, 'enabled'), false);
  const asks = commands.find((command) => hasFlag([command], '--coverage', '--coverage.enabled'));
  const flag = flagValue(commands, '--coverage.provider');
  const set = textFact(settingAt(setting, 'provider'), 'v8');
  const provider =
    flag.known && typeof flag.value === 'string' ? flag.value : set.known ? set.value : undefined;
  const isOn = asks !== undefined || (enabled.known && enabled.value);
  if (!isOn || (provider !== 'v8' && provider !== 'istanbul')) return [];
  const place = asks?.at ?? settingAt(setting, 'provider')?.at ?? setting?.at ?? at;
  return [{ text: `@vitest/coverage-${provider}`, at: place, key: 'coverage', candidates: [] }];
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

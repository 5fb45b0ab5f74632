import type { Place } from '../../finding.js';
import { isAbsolute, join, resolve } from '../../util/paths.js';
import type { Collection, CoverageFacts, NamedModule, TransformRule, Transforms } from './environment.js';
import type { AliasRule } from '../../host/leads.js';
import { leadingWords } from '../settings/commands.js';
import { neededByPreset, withBuilder, withPreset } from './presets.js';
import { babelSettings, type BabelSettings } from '../settings/babel-settings.js';
import type { RunnerRow } from '../tables/runners.js';
import { resolverBy } from '../tables/resolvers.js';
import {
  flagFact,
  madeBy,
  known,
  settingAt,
  textFact,
  textOf,
  textsFact,
  UNKNOWN_FACT,
  type Known,
  type PlacedText,
  type Setting,
} from '../settings/setting.js';
import {
  filtered,
  flagValue,
  hasFlag,
  looksLikePath,
  members,
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
  return projects.items.flatMap((item) =>
    item.is === 'object'
      ? [{ ...one(row, asked, item), project: nameOf(item) }]
      : members(item, 'jest', asked, (member) => ({
          ...one(row, member, member.found.setting),
          project: nameOf(member.found.setting),
        })),
  );
}

function nameOf(project: Setting): string | undefined {
  const shown = settingAt(project, 'displayName');
  const name = shown?.is === 'object' ? settingAt(shown, 'name') : shown;
  return textOf(name);
}

const one = (row: RunnerRow, asked: RunnerSources, setting: Setting): Facts =>
  jestFacts(row, asked, setting, (root) => babelSettings(root, asked.exists, asked.setting));

/** The facts of one set of settings; `babelAt`: what Babel is told to do, by the root of the project. */
export function jestFacts(
  row: RunnerRow,
  asked: RunnerSources,
  setting: Setting,
  babelAt: (root: string) => Known<BabelSettings | undefined>,
): Facts {
  const { found, commands, major } = asked;
  const { file, folder } = found;
  const base: Facts = { ...UNREAD, folder, settingsFile: file, settings: setting };
  const built = withBuilder(setting, commands);
  const own = withPreset(built, folder, asked.exists, asked.setting);
  const rootDir = textFact(settingAt(setting, 'rootDir'), undefined);
  if (!rootDir.known || hasFlag(commands, '--projects', '--rootDir', '--roots')) return base;
  const root = resolve(folder, (rootDir.value ?? '.').replace(/^<rootDir>\/?/, './'));
  const from = (text: string): string => resolve(root, text.replace(/^<rootDir>\/?/, './'));
  const list = (key: string): ReturnType<typeof setupList> =>
    setupList(settingAt(own, key), key, (text) => candidates(text, root, from));
  // babel-jest 27 to 30 looks for them from the root of the project alone: `root: rootDir`.
  const babel = babelAt(root);
  const env = flagValue(commands, '--env', '--testEnvironment');
  const asksFor = textFact(settingAt(own, 'testEnvironment'), defaultDocument(major));
  return {
    ...base,
    folder: root,
    setupFiles: joinedFacts(['setupFiles', 'setupFilesAfterEnv', 'globalSetup', 'globalTeardown'].map(list)),
    collects: filtered(collection(row, own, root, from, setting.at), filters(commands)),
    restores: flagFact(settingAt(own, 'restoreMocks'), false),
    resets: flagFact(settingAt(own, 'resetMocks'), false),
    clears: flagFact(settingAt(own, 'clearMocks'), false),
    unstubs: known(false),
    isolates: known(true),
    fakesClock: fakeTimers(own),
    globals: flagFact(settingAt(own, 'injectGlobals'), true),
    document: !env.known ? UNKNOWN_FACT : typeof env.value === 'string' ? known(env.value, env.at) : asksFor,
    endings: endings(settingAt(own, 'moduleFileExtensions'), setting.at),
    ...imports(own, from, babel),
    readsPaths: readsPaths(own),
    transforms: transforms(own, setting.at, root, from, babel, asked),
    coverage: coverage(own, setting.at, root, hasFlag(commands, '--coverage', '--collectCoverage')),
    named: namedModules(own, from, asked.setting(join(folder, 'package.json'))),
  };
}

// Presets, transforms and the like by their names, stand-ins by their paths, and folders.
function namedModules(
  setting: Setting,
  from: (text: string) => string,
  manifest: Setting | undefined,
): NamedModule[] {
  const textsAt = (key: string): readonly PlacedText[] => {
    const texts = textsFact(settingAt(setting, key), [], setting.at);
    return texts.known ? texts.value : [];
  };
  // What a preset of a package names, it brings.
  const preset = settingAt(setting, 'preset')?.at;
  const isFolder = (text: string): boolean => /^<rootDir>|^\.{1,2}(?:\/|$)/.test(text);
  const modules = MODULE_KEYS.flatMap((key) =>
    textsAt(key)
      .filter(({ at }) => key === 'preset' || at !== preset)
      .map((each) => ({ ...each, key })),
  );
  const ownAt = (key: string): Setting[] =>
    valuesOf(settingAt(setting, key)).filter(({ at }) => at !== preset);
  const listed = settingAt(setting, 'reporters');
  const reporters = (listed?.is === 'list' ? listed.items : []).flatMap((value) =>
    placed(value.is === 'list' ? value.items[0] : value, 'reporters'),
  );
  const own = settingAt(setting, 'testEnvironment');
  const environments = placed(own, 'testEnvironment').filter(({ text }) => isFolder(text));
  const transforms = ownAt('transform').flatMap((value) =>
    placed(value.is === 'list' ? value.items[0] : value, 'transform'),
  );
  const stubs = ownAt('moduleNameMapper').flatMap((value) => placed(value, 'moduleNameMapper'));
  return [
    ...[...modules, ...environments, ...transforms, ...reporters]
      .filter(({ text }) => !OWN_PARTS.has(text))
      .map((each): NamedModule => {
        const path = from(each.text);
        const presets = ['', '/jest-preset.json', '/jest-preset.js', '/jest-preset.cjs', '/jest-preset.mjs'];
        return {
          ...each,
          candidates: !isFolder(each.text)
            ? []
            : each.key === 'preset'
              ? presets.map((name) => path + name)
              : withExtensions(path),
        };
      }),
    // A path with a part of the import in it stands for all below the folder before that part.
    ...stubs.flatMap((each): NamedModule[] => {
      const [whole = ''] = each.text.split('$');
      const isWhole = whole === each.text;
      if (!isFolder(whole)) return isWhole && !looksLikePath(whole) ? [{ ...each, candidates: [] }] : [];
      const path = from(isWhole ? whole : whole.replace(/\/[^/]*$/, ''));
      const mayBeFolder = !isWhole || !/\.\w+$/.test(whole);
      return [{ ...each, candidates: isWhole ? withExtensions(path) : [path], mayBeFolder }];
    }),
    ...neededByPreset(textOf(settingAt(setting, 'preset')), manifest).map((text) => ({
      text,
      key: 'the preset',
      at: settingAt(setting, 'preset')?.at ?? setting.at,
      candidates: text.startsWith('<') ? [from(text)] : [],
    })),
    ...textsAt('roots').map((each) => ({
      ...each,
      key: 'roots',
      candidates: [from(each.text)],
      mayBeFolder: true,
    })),
  ];
}

const MODULE_KEYS = [
  'preset',
  'resolver',
  'runner',
  'snapshotSerializers',
  'testResultsProcessor',
  'testRunner',
  'testSequencer',
];
// Those of jest 27 to 30 that go by a word of its own.
const OWN_PARTS: ReadonlySet<string> = new Set([
  'default',
  'summary',
  'github-actions',
  'agent',
  'jasmine2',
  'jest-circus',
]);

const valuesOf = (setting: Setting | undefined): readonly Setting[] =>
  setting?.is === 'object' ? [...setting.entries.values()] : [];

function placed(setting: Setting | undefined, key: string): { text: string; at: Place; key: string }[] {
  const text = textOf(setting);
  return setting && text !== undefined ? [{ text, at: setting.at, key }] : [];
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

// jest-config 24 to 30, resolve: a set-up path is a module name, so that a bare one is looked for among the packages alone.
function candidates(text: string, root: string, from: (text: string) => string): string[] {
  if (text.startsWith('<rootDir>') || text.startsWith('.') || isAbsolute(text))
    return withExtensions(from(text));
  return looksLikePath(text) ? [join(root, 'node_modules', text)] : [];
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
  // jest-haste-map 27 to 30: files of other endings are not in its list.
  const seen = textsFact(settingAt(setting, 'moduleFileExtensions'), [], at);
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
    ...(seen.known && seen.value.length > 0 ? { endings: seen.value.map(({ text }) => `.${text}`) } : {}),
    at: byDefault ? at : first,
    byDefault,
  });
}

// jest-config 27 to 30, defaults: `moduleFileExtensions`; 30 has those of TypeScript's two kinds of modules as well.
function endings(setting: Setting | undefined, at: Place): Known<string[]> {
  const usual = ['js', 'mjs', 'cjs', 'jsx', 'ts', 'mts', 'cts', 'tsx', 'json', 'node'];
  const texts = textsFact(setting, usual, at);
  return texts.known ? known(texts.value.map(({ text }) => `.${text}`)) : UNKNOWN_FACT;
}

// Words behind the program are patterns over paths.
function filters(commands: RunnerSources['commands']): readonly string[] | undefined {
  const lists = commands.map(leadingWords);
  return lists.some((each) => each.length === 0)
    ? undefined
    : lists.flat().map((text) => text.replace(/^\.\//, ''));
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

// Transforms that read the compiler's paths themselves, next 13 to 16, and resolvers that do.
const readsPaths = (setting: Setting): boolean =>
  resolverOf(setting)?.readsPaths === true ||
  valuesOf(settingAt(setting, 'transform')).some((each) =>
    textOf(each.is === 'list' ? each.items[0] : each)?.startsWith('next/'),
  );

const resolverOf = (setting: Setting): ReturnType<typeof resolverBy> =>
  resolverBy(textOf(settingAt(setting, 'resolver')) ?? '');

// Whether imports may be resolved in a way that nobody knows.
const resolvesFreely = (setting: Setting): boolean =>
  settingAt(setting, 'haste') !== undefined ||
  (settingAt(setting, 'resolver') !== undefined && !resolverOf(setting));

// What Babel's plugins rename is renamed before the runner's own mapper sees it.
function imports(
  setting: Setting,
  from: (text: string) => string,
  babel: Known<BabelSettings | undefined>,
): Pick<Facts, 'aliases' | 'leads'> {
  const names = babel.known ? babel.value?.names : undefined;
  const isOpen = resolvesFreely(setting) || settingAt(setting, 'moduleDirectories') !== undefined;
  const paths = textsFact(settingAt(setting, 'modulePaths'), [], setting.at);
  const directories = textsFact(settingAt(setting, 'moduleDirectories'), [], setting.at);
  // A name alone is looked for beside every file, and most often lies at the root.
  const folders = [paths, directories]
    .flatMap((texts) => (texts.known ? texts.value : []))
    .filter(({ text }) => text !== 'node_modules')
    .map(({ text }) => ({ folder: from(text) }));
  const own = mapperRules(setting, from);
  const isWhole = !isOpen && paths.known && babel.known;
  return {
    aliases: isWhole ? joinedFacts([...(names ? [names.rules] : []), own.known]) : UNKNOWN_FACT,
    leads: {
      rules: [...(names?.leads.rules ?? []), ...own.read],
      folders: [...(names?.leads.folders ?? []), ...folders],
    },
  };
}

// The rules of the mapper, and of a resolver behind it: all of them, where they are known, and those that can be read.
function mapperRules(
  setting: Setting,
  from: (text: string) => string,
): { known: Known<AliasRule[]>; read: AliasRule[] } {
  const mapper = settingAt(setting, 'moduleNameMapper');
  const replaced = resolverOf(setting)?.replaces;
  const behind = replaced ? [{ ...replaced, at: settingAt(setting, 'resolver')?.at ?? setting.at }] : [];
  if (mapper === undefined || (mapper.is === 'value' && mapper.value == null))
    return { known: known(behind), read: behind };
  if (mapper.is !== 'object') return { known: UNKNOWN_FACT, read: behind };
  const read = [...mapper.entries].map(([pattern, value]): AliasRule => {
    const text = textOf(value);
    const isPath = text !== undefined && /^<rootDir>|^\.{1,2}\//.test(text);
    return { pattern, to: isPath ? from(text) : text, at: value.at };
  });
  const all = [...read, ...behind];
  return { known: mapper.open ? UNKNOWN_FACT : known(all), read: all };
}

const BABEL_JEST = 'babel-jest';

// jest-config 27 to 30, `transform`: scripts go to babel-jest, and node_modules to nobody.
function transforms(
  setting: Setting,
  at: Place,
  root: string,
  from: (text: string) => string,
  babel: Known<BabelSettings | undefined>,
  { exists, setting: read, major }: RunnerSources,
): Known<Transforms> {
  const transform = settingAt(setting, 'transform');
  const mapped = mapperRules(setting, from).known;
  // Which files a name alone may lead to must be known.
  const isSearched = ['modulePaths', 'moduleDirectories'].every(
    (key) => textsFact(settingAt(setting, key), [], at).known,
  );
  if (!mapped.known || !isSearched || resolvesFreely(setting)) return UNKNOWN_FACT;
  const rules: TransformRule[] = [];
  if (transform === undefined || (transform.is === 'object' && !transform.open)) {
    for (const [pattern, value] of transform?.entries ?? []) {
      const by = textOf(value.is === 'list' ? value.items[0] : value);
      if (by === undefined) return UNKNOWN_FACT;
      const options = value.is === 'list' ? value.items[1] : undefined;
      // A file of the project that only tells a transform what to do: `babelJest.createTransformer({…})`.
      const own = /^[./<]/.test(by) ? withExtensions(from(by)).find(exists) : undefined;
      const told = own === undefined ? undefined : read(own);
      rules.push(
        told && madeBy(told) === BABEL_JEST
          ? { pattern, by: BABEL_JEST, options: told, at: value.at }
          : { pattern, by, options, at: value.at },
      );
    }
  } else return UNKNOWN_FACT;
  const isTold = !babel.known || babel.value !== undefined;
  if (!transform) rules.push({ pattern: '\\.[jt]sx?$', by: isTold ? BABEL_JEST : '', at });
  const ignored = textsFact(settingAt(setting, 'transformIgnorePatterns'), ['/node_modules/'], at);
  const conditions = plainTexts(settingAt(setting, 'testEnvironmentOptions', 'customExportConditions'), at);
  return known({
    by: 'rules',
    rules,
    mapped: mapped.value.map(({ pattern }) => pattern),
    babel,
    ignored: ignored.known
      ? known(ignored.value.map(({ text }) => text.replaceAll('<rootDir>', root)))
      : UNKNOWN_FACT,
    // Exports count since version 28.
    conditions: major === undefined ? UNKNOWN_FACT : major < 28 ? known('none') : conditions,
    at: transform?.at ?? at,
  });
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

import { bundled } from './karma-webpack.js';
import { allKnown } from '../../util/all-known.js';
import { join, resolve } from '../../util/paths.js';
import { escaped } from '../../util/pattern.js';
import { flagOf, type Command } from '../settings/commands.js';
import {
  known,
  madeBy,
  settingAt,
  textFact,
  textOf,
  textsFact,
  type PlacedText,
  type Setting,
} from '../settings/setting.js';
import { broughtByPackage, OWN_REPORTERS, pluginsFor } from '../tables/karma-plugins.js';
import type { RequiredContext } from '../settings/spec-bundles.js';
import type { Collection, NamedModule } from './environment.js';
import { UNREAD, type Facts, type RunnerSources } from './found.js';

/** The facts of karma's settings (karma 6): specs run in a browser, under the framework that is named. */
export function karma(asked: RunnerSources): Facts {
  const { setting, file, folder } = asked.found;
  const frameworks = textsFact(settingAt(setting, 'frameworks'), [], setting.at);
  const withJasmine = frameworks.known && frameworks.value.some(({ text }) => text === 'jasmine');
  const withChai =
    frameworks.known && frameworks.value.some(({ text }) => /^(?:sinon-)?chai(?:-sinon)?$/.test(text));
  return {
    ...UNREAD,
    folder,
    settingsFile: file,
    settings: setting,
    globals: known(true),
    ...(withChai && !withJasmine ? { expects: 'chai' } : {}),
    restores: withJasmine ? known(true) : UNREAD.restores,
    document: known('browser'),
    named: namedByKarma(setting, asked),
    ...bundled(asked),
    ...loaded(asked),
  };
}

/** What karma's settings name, and the commands that start it: plugins, and the frameworks, reporters and browsers that these bring. */
export function namedByKarma(
  setting: Setting,
  { commands, declared }: Pick<RunnerSources, 'commands' | 'declared'>,
): NamedModule[] {
  const own = settingAt(setting, 'plugins');
  const plugins = own?.is === 'list' ? own.items : [];
  const listed = plugins.flatMap((plugin) => {
    const text = nameOf(plugin);
    return text === undefined || text.includes('*')
      ? []
      : [{ text, at: plugin.at, key: 'plugins', candidates: [] }];
  });
  const missing = WANTED.flatMap((key) =>
    wantedOf(key, setting, commands).flatMap((each) =>
      own === undefined ? unlisted(key, each, declared) : leftOut(key, each, own),
    ),
  );
  return [...listed, ...missing];
}

// Where no list stands, karma loads every package that is called karma-…, and others may bring more of them: but hardly one more kind of a known browser.
function unlisted(
  key: Wanted,
  each: PlacedText & { key: string },
  declared: readonly string[],
): NamedModule[] {
  const [only, ...others] = pluginsFor(key, each.text);
  if (only !== undefined)
    return others.length === 0 ? [{ text: only, at: each.at, key, candidates: [] }] : [];
  const plugins = declared.filter((name) => name.startsWith('karma-'));
  return key === 'browsers' && BROWSER.test(each.text) && plugins.every((name) => broughtByPackage(name))
    ? [{ ...each, candidates: [], absent: true }]
    : [];
}

// What none of the listed plugins brings, where it is known of each what it does.
function leftOut(key: Wanted, each: PlacedText & { key: string }, list: Setting): NamedModule[] {
  const brought = list.is === 'list' && !list.open ? allKnown(list.items.map(broughtBy))?.flat() : undefined;
  if (!brought || brought.includes(`${key}:${each.text}`)) return [];
  const [plugin] = pluginsFor(key, each.text);
  return [{ ...each, candidates: [], absent: true, plugin }];
}

const nameOf = (plugin: Setting): string | undefined => textOf(plugin) ?? madeBy(plugin);

// The names of what plugins register, as karma writes them: `launcher:Chrome`.
const KINDS: Readonly<Record<string, string>> = {
  framework: 'frameworks',
  reporter: 'reporters',
  launcher: 'browsers',
};

// What a plugin brings, by the setting that names it; of one that is written out, or whose module can be read, it says so itself.
function broughtBy(plugin: Setting): readonly string[] | undefined {
  if (plugin.is !== 'object') return broughtByPackage(nameOf(plugin) ?? '');
  if (plugin.open) return undefined;
  return [...plugin.entries.keys()].flatMap((each) => {
    const [kind = '', name = ''] = each.split(/:(.*)/s);
    return KINDS[kind] === undefined ? [] : [`${KINDS[kind]}:${name}`];
  });
}

const BROWSER = /^(?:Chrom|Firefox|Safari|Edge)/;

const WANTED = ['frameworks', 'reporters', 'browsers'] as const;
type Wanted = (typeof WANTED)[number];

// What a setting, or the flag of that name, asks for; the flag stands in its place.
function wantedOf(
  key: Wanted,
  setting: Setting,
  commands: readonly Command[],
): (PlacedText & { key: string })[] {
  const flags = commands.flatMap((command) => {
    const flag = flagOf(command, `--${key}`);
    return typeof flag === 'string'
      ? flag.split(',').map((text) => ({ text, at: command.at, key: 'the script' }))
      : [];
  });
  const texts = textsFact(settingAt(setting, key), [], setting.at);
  const set = texts.known ? texts.value.map((each) => ({ ...each, key })) : [];
  const launchers = settingAt(setting, 'customLaunchers');
  const isSet = (name: string): boolean =>
    key === 'browsers' ? settingAt(launchers, name) !== undefined : OWN_REPORTERS.has(name);
  const isPlain = (name: string): boolean => /^[\w@/-]+$/.test(name);
  return (flags.length > 0 ? flags : set).filter(({ text }) => isPlain(text) && !isSet(text));
}

const SCRIPT = /\.[cm]?[jt]sx?$/;

// What `files` puts into the page: specs by globs, and scripts that take specs in or set something up.
function loaded({ found: { setting, folder }, exists, bundleAt }: RunnerSources): Partial<Facts> {
  const base = textFact(settingAt(setting, 'basePath'), '');
  const entries = base.known
    ? entriesOf(settingAt(setting, 'files'), resolve(folder, base.value ?? ''))
    : undefined;
  const exclude = textsFact(settingAt(setting, 'exclude'), [], setting.at);
  if (!entries || !exclude.known) return {};
  const scripts = entries.filter(({ path }) => SCRIPT.test(path) && exists(path));
  const bundles = scripts.map(({ path }) => bundleAt(path));
  // A script may take in specs by their names, or hand this on to another.
  if (bundles.some((bundle) => !bundle || (bundle.contexts.length === 0 && bundle.imports.length > 0)))
    return {};
  const contexts = bundles.flatMap((bundle) => bundle?.contexts ?? []);
  const globs = entries.filter(({ path }) => /[*?{]/.test(path)).map(({ path }) => path);
  if (contexts.length === 0 && globs.length === 0) return {};
  const { value: excluded } = exclude;
  const collection: Collection = {
    folder,
    include: globs,
    exclude: excluded.map(({ text }) => text),
    patterns: contexts.map(patternOf),
    leftOut: contexts.flatMap(({ folder: at, below }) => (below ? [] : [`^${escaped(at)}/[^/]+/`])),
    roots: [...contexts.map(({ folder: at }) => at), ...(globs.length > 0 ? [folder] : [])],
    at: settingAt(setting, 'files')?.at ?? setting.at,
    byDefault: false,
  };
  const setups: NamedModule[] = scripts.map(({ text, path, at }) => ({
    text,
    at,
    key: 'files',
    candidates: [path],
  }));
  return { collects: known(collection), setupFiles: known(setups) };
}

const patternOf = ({ folder, pattern }: RequiredContext): string =>
  pattern.replace(/^\^(?:\\\.\\?\/)?/, () => `^${escaped(folder)}/`);

// Texts, and objects with a pattern, as absolute paths.
function entriesOf(
  files: Setting | undefined,
  base: string,
): { text: string; path: string; at: NamedModule['at'] }[] | undefined {
  if (files?.is !== 'list' || files.open) return undefined;
  return allKnown(
    files.items.map((item) => {
      const text = textOf(item) ?? textOf(settingAt(item, 'pattern'));
      return text === undefined ? undefined : { text, path: join(base, text), at: item.at };
    }),
  );
}

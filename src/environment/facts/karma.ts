import { allKnown } from '../../util/all-known.js';
import { join, resolve } from '../../util/paths.js';
import { escaped } from '../../util/pattern.js';
import {
  known,
  settingAt,
  textFact,
  textOf,
  textsFact,
  type PlacedText,
  type Setting,
} from '../settings/setting.js';
import type { RequiredContext } from '../settings/spec-bundles.js';
import type { Collection, NamedModule } from './environment.js';
import { UNREAD, type Facts, type RunnerSources } from './found.js';

/** The facts of karma's settings (karma 6): specs run in a browser, under the framework that is named. */
export function karma(asked: RunnerSources): Facts {
  const { setting, file, folder } = asked.found;
  const frameworks = textsFact(settingAt(setting, 'frameworks'), [], setting.at);
  const withJasmine = frameworks.known && frameworks.value.some(({ text }) => text === 'jasmine');
  return {
    ...UNREAD,
    folder,
    settingsFile: file,
    settings: setting,
    globals: known(true),
    restores: withJasmine ? known(true) : UNREAD.restores,
    document: known('browser'),
    named: pluginsOf(setting),
    ...loaded(asked),
  };
}

// karma 6 loads every package that is called karma-…: which of them brings what its settings name.
const PLUGINS: readonly { key: string; names: RegExp; by: string }[] = [
  ...['jasmine', 'mocha', 'chai', 'sinon', 'qunit', 'webpack', 'browserify', 'parcel'].map((name) => ({
    key: 'frameworks',
    names: new RegExp(`^${name}$`),
    by: `karma-${name}`,
  })),
  ...['Chrome', 'Firefox', 'Edge', 'Safari', 'IE'].map((name) => ({
    key: 'browsers',
    names: new RegExp(name === 'Chrome' ? '^Chrom(?:e|ium)' : `^${name}`),
    by: `karma-${name.toLowerCase()}-launcher`,
  })),
];

// Plugins by their names, and what frameworks and browsers need where no list of plugins stands.
function pluginsOf(setting: Setting): NamedModule[] {
  const textsAt = (key: string): readonly PlacedText[] => {
    const texts = textsFact(settingAt(setting, key), [], setting.at);
    return texts.known ? texts.value : [];
  };
  const own = settingAt(setting, 'plugins');
  const listed = textsAt('plugins')
    .filter(({ text }) => !text.includes('*'))
    .map((each): NamedModule => ({ ...each, key: 'plugins', candidates: [] }));
  if (own) return listed;
  const custom = settingAt(setting, 'customLaunchers');
  return PLUGINS.flatMap(({ key, names, by }) =>
    textsAt(key)
      .filter(({ text }) => names.test(text) && (key !== 'browsers' || settingAt(custom, text) === undefined))
      .map(({ at }): NamedModule => ({ text: by, at, key, candidates: [] })),
  );
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

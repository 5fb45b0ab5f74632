import { join, relativeTo, resolve } from '../../util/paths.js';
import { babelSettingsOf, type BabelSettings } from '../settings/babel-settings.js';
import { merged, openSetting, settingOf } from '../settings/setting-values.js';
import { known, settingAt, textOf, UNKNOWN_FACT, type Known, type Setting } from '../settings/setting.js';
import type { RunnerRow } from '../tables/runners.js';
import { plainTexts, type Facts, type RunnerSources } from './found.js';
import { jestFacts } from './jest.js';

type Section = Extract<Setting, { is: 'object' }>;

/** What a project adds to the settings that react-scripts make. */
interface Own {
  /** All of them together, as the runner gets them. */
  whole: Section;
  /** The file of the project that adds to them, and the object there that further ones would be added to. */
  file: string;
  at: Setting | undefined;
  babel: Known<BabelSettings | undefined>;
}

/**
 * The facts of react-scripts 4 and 5, from their createJestConfig.js: settings of their own making, to which the
 * manifest adds, or the settings file of the program that starts them.
 */
export function reactScripts(row: RunnerRow, asked: RunnerSources): Facts {
  const { found, commands, setting: read } = asked;
  const { folder } = found;
  const base = settingOf(usual(folder, asked), found.setting.at) as Section;
  const manifest = read(join(folder, 'package.json'));
  const programs = new Set(commands.map(({ program }) => program));
  const own = programs.has('craco')
    ? byCraco(base, manifest, asked)
    : programs.has('react-app-rewired')
      ? byRewired(base, manifest, asked)
      : byManifest(base, manifest, found.file);
  const whole = programs.size > 1 ? openSetting(own.whole) : own.whole;
  const facts = jestFacts(row, { ...asked, found: { ...found, setting: whole } }, whole, () => own.babel);
  const { at } = found.setting;
  const ignored = plainTexts(settingAt(whole, 'transformIgnorePatterns'), at);
  return {
    ...facts,
    settingsFile: own.file,
    settings: own.at,
    // What it names of its own making, it brings.
    named: facts.named.filter((each) => each.at !== at),
    // What compiles, and what stands for styles and assets, they bring themselves.
    transforms: known({
      by: 'rules',
      rules: [{ pattern: '.', by: 'react-scripts', at }],
      mapped: [],
      babel: UNKNOWN_FACT,
      ignored: ignored.known ? known(ignored.value ?? []) : UNKNOWN_FACT,
      // Versions 4 and 5 bring versions of the runner that know no exports.
      conditions: known('none'),
      at,
    }),
  };
}

// createJestConfig.js; `src/setupTests` is loaded by its name, TypeScript or not.
function usual(folder: string, { exists, setting: read }: RunnerSources): Parameters<typeof settingOf>[0] {
  const setup = ['ts', 'tsx', 'js']
    .map((each) => `src/setupTests.${each}`)
    .find((name) => exists(join(folder, name)));
  // config/modules.js: `baseUrl` makes folders of `src` names, or `src` itself one.
  const compiler = ['tsconfig.json', 'jsconfig.json'].map((name) => join(folder, name)).find(exists);
  const baseUrl = compiler && textOf(settingAt(read(compiler), 'compilerOptions', 'baseUrl'));
  const base = baseUrl === undefined ? undefined : relativeTo(folder, resolve(folder, baseUrl));
  return {
    roots: ['<rootDir>/src'],
    setupFilesAfterEnv: setup === undefined ? [] : [`<rootDir>/${setup}`],
    testEnvironment: 'jsdom',
    transformIgnorePatterns: IGNORED,
    modulePaths: base === 'src' ? ['<rootDir>/src'] : [],
    moduleNameMapper: {
      '^react-native$': 'react-native-web',
      '^.+\\.module\\.(css|sass|scss)$': 'identity-obj-proxy',
      ...(base === '.' ? { '^src/(.*)$': '<rootDir>/src/$1' } : {}),
    },
    moduleFileExtensions: [
      'web.js',
      'js',
      'web.ts',
      'ts',
      'web.tsx',
      'tsx',
      'json',
      'web.jsx',
      'jsx',
      'node',
    ],
    resetMocks: true,
  };
}

const IGNORED = ['/node_modules/.+\\.(js|jsx|mjs|cjs|ts|tsx)$', '^.+\\.module\\.(css|sass|scss)$'];

// Objects of the manifest are added to those that are there; all else is replaced.
function byManifest(base: Section, manifest: Setting | undefined, file: string): Own {
  const at = settingAt(manifest, 'jest');
  const entries = new Map(base.entries);
  for (const [key, value] of at?.is === 'object' ? at.entries : []) {
    const before = entries.get(key);
    const isBoth = before?.is === 'object' && value.is === 'object';
    entries.set(key, isBoth ? { ...value, entries: new Map([...before.entries, ...value.entries]) } : value);
  }
  const isOpen = at !== undefined && (at.is !== 'object' || at.open);
  return { whole: { ...base, entries, open: isOpen }, file, at, babel: known(undefined) };
}

const CRACO_FILES = [
  'craco.config.ts',
  'craco.config.js',
  'craco.config.cjs',
  '.cracorc.ts',
  '.cracorc.js',
  '.cracorc',
];

// craco 6 and 7, merge-jest-config.js: `jest.configure` is merged in, lists joined; a function and plugins may change all.
function byCraco(
  base: Section,
  manifest: Setting | undefined,
  { found, exists, setting: read }: RunnerSources,
): Own {
  const { whole, file: own } = byManifest(base, manifest, found.file);
  const file = CRACO_FILES.map((name) => join(found.folder, name)).find(exists) ?? own;
  const setting = file === own ? settingAt(manifest, 'craco') : (read(file) ?? UNREADABLE);
  const configure = settingAt(setting, 'jest', 'configure');
  const plugins = settingAt(setting, 'plugins');
  const babel = settingAt(setting, 'babel');
  const isPlugged =
    plugins !== undefined && !(plugins.is === 'list' && !plugins.open && plugins.items.length === 0);
  const joined = configure?.is === 'object' ? (merged(whole, configure, configure.at) as Section) : whole;
  const isOpen = isPlugged || (configure !== undefined && configure.is !== 'object');
  return {
    whole: isOpen ? openSetting(joined) : joined,
    file,
    at: configure,
    babel: babel ? babelSettingsOf([babel], file, found.folder) : known(undefined),
  };
}

// react-app-rewired 2, rewireJestConfig.js: lists of the manifest stand before those that are there; `jest` of its own
// file is a function that may change all.
function byRewired(
  base: Section,
  manifest: Setting | undefined,
  { found, exists, setting: read }: RunnerSources,
): Own {
  const at = settingAt(manifest, 'jest');
  const whole =
    at?.is === 'object' ? (merged(base, at, at.at) as Section) : { ...base, open: at !== undefined };
  const file = ['config-overrides.js', 'config-overrides/index.js']
    .map((name) => join(found.folder, name))
    .find(exists);
  const jest = file === undefined ? undefined : settingAt(read(file) ?? UNREADABLE, 'jest');
  return {
    whole: jest ? openSetting(whole) : whole,
    file: jest && file !== undefined ? file : found.file,
    at: jest ?? at,
    // `.babelrc` is read where the overrides say so.
    babel: UNKNOWN_FACT,
  };
}

const UNREADABLE: Setting = { is: 'unknown', at: { file: '', start: 0, end: 0 } };

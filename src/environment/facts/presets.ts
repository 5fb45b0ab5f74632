import semver from 'semver';
import { join, resolve } from '../../util/paths.js';
import { settingOf } from '../settings/setting-values.js';
import { settingAt, textOf, type Setting } from '../settings/setting.js';
import { NX_PRESET } from '../tables/nx.js';
import type { Command } from '../settings/commands.js';
import type { SettingsData } from '../tables/runners.js';

/** What a preset of a package sets; the project's own settings win. */
interface Preset {
  transform: Readonly<Record<string, SettingsData>>;
  moduleNameMapper?: Readonly<Record<string, string>>;
  testEnvironment?: string;
  testMatch?: readonly string[];
  moduleFileExtensions?: readonly string[];
  transformIgnorePatterns?: readonly string[];
  snapshotSerializers?: readonly string[];
  resolver?: string;
  /** Files that it names. */
  needs?: readonly string[];
  /** The first major of its package that it holds for. */
  since?: { name: string; major: number };
}

// @vue/cli-plugin-unit-jest 5: presets.
const VUE_CLI: Preset = {
  transform: {
    '^.+\\.vue$': 'vue-jest',
    '.+\\.(css|styl|less|sass|scss|jpg|jpeg|png|svg|gif|eot|otf|webp|ttf|woff|woff2|mp4|webm|wav|mp3|m4a|aac|oga|avif)$':
      'jest-transform-stub',
    '^.+\\.jsx?$': 'babel-jest',
  },
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  testEnvironment: 'jsdom',
  testMatch: ['**/tests/unit/**/*.spec.[jt]s?(x)', '**/__tests__/*.[jt]s?(x)'],
  moduleFileExtensions: ['js', 'jsx', 'json', 'vue'],
  transformIgnorePatterns: ['/node_modules/'],
  snapshotSerializers: ['jest-serializer-vue'],
  since: { name: '@vue/cli-plugin-unit-jest', major: 5 },
};
const VUE_CLI_TS: Preset = {
  ...VUE_CLI,
  transform: { ...VUE_CLI.transform, '^.+\\.tsx?$': 'ts-jest' },
  moduleFileExtensions: ['js', 'jsx', 'json', 'vue', 'ts', 'tsx'],
};

// ts-jest 27 to 29: presets/create-jest-preset.js. jest-preset-angular 13 to 16: build/presets.
const PRESETS: ReadonlyMap<string, Preset> = new Map<string, Preset>([
  ['@vue/cli-plugin-unit-jest', VUE_CLI],
  ['@vue/cli-plugin-unit-jest/presets/default', VUE_CLI],
  ['@vue/cli-plugin-unit-jest/presets/no-babel', VUE_CLI],
  ['@vue/cli-plugin-unit-jest/presets/typescript', VUE_CLI_TS],
  ['@vue/cli-plugin-unit-jest/presets/typescript-and-babel', VUE_CLI_TS],
  ['@nx/jest/preset', NX_PRESET],
  ['@nrwl/jest/preset', NX_PRESET],
  ['ts-jest', { transform: { '^.+\\.tsx?$': 'ts-jest' } }],
  ['ts-jest/presets/default', { transform: { '^.+\\.tsx?$': 'ts-jest' } }],
  ['ts-jest/presets/js-with-ts', { transform: { '^.+\\.[tj]sx?$': 'ts-jest' } }],
  ['ts-jest/presets/js-with-babel', { transform: { '^.+\\.tsx?$': 'ts-jest', '^.+\\.jsx?$': 'babel-jest' } }],
  [
    'jest-preset-angular',
    {
      transform: { '^.+\\.(ts|js|mjs|html|svg)$': 'jest-preset-angular' },
      testEnvironment: 'jsdom',
      transformIgnorePatterns: ['node_modules/(?!(.*\\.mjs$|@angular/common/locales/.*\\.js$))'],
      needs: ['<rootDir>/tsconfig.spec.json'],
    },
  ],
]);

/** Whether a table says what a preset of a package sets. */
export const isKnownPreset = (name: string): boolean => PRESETS.has(name);

const LOCAL_FILES = ['jest-preset.json', 'jest-preset.js', 'jest-preset.cjs', 'jest-preset.mjs'];

// @angular-builders/jest 17 to 20, jest-config/default-config.js: its own file sets the test bed up as that of the preset does.
const ANGULAR_BUILDER: SettingsData = {
  preset: 'jest-preset-angular',
  setupFilesAfterEnv: ['jest-preset-angular/setup-env/zone'],
  moduleNameMapper: { '\\.(jpg|jpeg|png)$': '@angular-builders/jest/dist/jest-config/mock-module.js' },
};

/** The settings with what the builder that runs them sets before. */
export function withBuilder(setting: Setting, commands: readonly Command[]): Setting {
  const isBuilt = commands.length > 0 && commands.every(({ program }) => program === 'ng');
  const own = isBuilt ? settingOf(ANGULAR_BUILDER, setting.at) : undefined;
  return own?.is === 'object' && setting.is === 'object' ? added(setting, own, setting) : setting;
}

/** The settings with what their preset sets; one that no table knows may set anything that they do not. */
export function withPreset(
  setting: Setting,
  folder: string,
  exists: (path: string) => boolean,
  read: (path: string) => Setting | undefined,
): Setting {
  const name = settingAt(setting, 'preset');
  if (!name || setting.is !== 'object') return setting;
  const text = textOf(name);
  const preset = PRESETS.get(text ?? '');
  if (preset?.since && !isSince(preset.since, read(join(folder, 'package.json'))))
    return { ...setting, open: true };
  if (preset) return added(setting, settingsOf(preset, name), name);
  const local = text?.startsWith('.') || text?.startsWith('<rootDir>');
  const path = resolve(folder, (text ?? '').replace(/^<rootDir>\/?/, './'));
  const file = local ? [path, ...LOCAL_FILES.map((each) => `${path}/${each}`)].find(exists) : undefined;
  const given = file === undefined ? undefined : read(file);
  return given?.is === 'object' ? added(setting, given, name) : { ...setting, open: true };
}

function isSince({ name, major }: NonNullable<Preset['since']>, manifest: Setting | undefined): boolean {
  const version = rangeOf(name, manifest);
  return semver.validRange(version) !== null && (semver.minVersion(version ?? '')?.major ?? 0) >= major;
}

type Section = Extract<Setting, { is: 'object' }>;

const settingsOf = ({ needs: _needs, since: _since, ...settings }: Preset, { at }: Setting): Section =>
  settingOf({ ...settings }, at) as Section;

// jest-config 27 to 30, setupPreset: objects of transforms and mappers are joined, the own ones first; all else is replaced.
function added(own: Section, preset: Section, { at }: Setting): Setting {
  const entries = new Map([...preset.entries, ...own.entries]);
  for (const key of ['transform', 'moduleNameMapper', 'globals']) {
    const [mine, theirs] = [own.entries.get(key), preset.entries.get(key)];
    if (mine?.is === 'object' && theirs?.is === 'object')
      entries.set(key, { ...mine, entries: new Map([...mine.entries, ...without(theirs, mine)]) });
    else if (mine && theirs && mine.is !== 'object') entries.set(key, { is: 'unknown', at });
  }
  for (const key of ['setupFiles', 'setupFilesAfterEnv', 'modulePathIgnorePatterns']) {
    const [mine, theirs] = [own.entries.get(key), preset.entries.get(key)];
    if (mine?.is === 'list' && theirs?.is === 'list')
      entries.set(key, { ...mine, items: [...theirs.items, ...mine.items], open: mine.open || theirs.open });
  }
  return { ...own, entries, open: own.open || preset.open };
}

const without = (theirs: Section, mine: Section): [string, Setting][] =>
  [...theirs.entries].filter(([key]) => !mine.entries.has(key));

/** The files, and packages, that a preset of a package names; `manifest`: of the project. */
export function neededByPreset(name: string | undefined, manifest: Setting | undefined): readonly string[] {
  const { needs = [], since } = PRESETS.get(name ?? '') ?? {};
  const vue = since && rangeOf('vue', manifest);
  const major = semver.validRange(vue) === null ? undefined : semver.minVersion(vue ?? '')?.major;
  // These presets choose the compiler of views by the Vue at hand.
  return since && major !== undefined ? [...needs, `@vue/vue${major}-jest`] : needs;
}

const rangeOf = (name: string, manifest: Setting | undefined): string | undefined =>
  ['devDependencies', 'dependencies']
    .map((kind) => textOf(settingAt(manifest, kind, name)))
    .find((each) => each !== undefined);

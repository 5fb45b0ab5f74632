import { resolve } from '../../util/paths.js';
import { settingAt, textOf, type Setting } from '../settings/setting.js';

/** What a preset of a package sets; the project's own settings win. */
interface Preset {
  transform: Readonly<Record<string, string>>;
  testEnvironment?: string;
  transformIgnorePatterns?: readonly string[];
  /** Files that it names. */
  needs?: readonly string[];
}

// ts-jest 27 to 29: presets/create-jest-preset.js. jest-preset-angular 13 to 16: build/presets.
const PRESETS: ReadonlyMap<string, Preset> = new Map<string, Preset>([
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

const LOCAL_FILES = ['jest-preset.json', 'jest-preset.js', 'jest-preset.cjs', 'jest-preset.mjs'];

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
  if (preset) return added(setting, settingsOf(preset, name), name);
  const local = text?.startsWith('.') || text?.startsWith('<rootDir>');
  const path = resolve(folder, (text ?? '').replace(/^<rootDir>\/?/, './'));
  const file = local ? [path, ...LOCAL_FILES.map((each) => `${path}/${each}`)].find(exists) : undefined;
  const given = file === undefined ? undefined : read(file);
  return given?.is === 'object' ? added(setting, given, name) : { ...setting, open: true };
}

type Section = Extract<Setting, { is: 'object' }>;

function settingsOf(
  { transform, testEnvironment, transformIgnorePatterns }: Preset,
  { at }: Setting,
): Section {
  const text = (value: string): Setting => ({ is: 'value', value, at });
  const rules = Object.entries(transform).map(([pattern, by]) => [pattern, text(by)] as const);
  const entries = new Map<string, Setting>([
    ['transform', { is: 'object', entries: new Map(rules), open: false, at }],
  ]);
  if (testEnvironment !== undefined) entries.set('testEnvironment', text(testEnvironment));
  if (transformIgnorePatterns)
    entries.set('transformIgnorePatterns', {
      is: 'list',
      items: transformIgnorePatterns.map(text),
      open: false,
      at,
    });
  return { is: 'object', entries, open: false, at };
}

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

/** The files that a preset of a package names. */
export const neededByPreset = (name: string | undefined): readonly string[] =>
  PRESETS.get(name ?? '')?.needs ?? [];

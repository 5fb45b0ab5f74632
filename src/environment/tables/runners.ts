import { NX_PRESET, NX_PRESET_MODULES } from './nx.js';

/** The package of a builder of Angular that runs jest. */
export const JEST_BUILDER = '@angular-builders/jest';

/** The runners that are known. */
export const RUNNER_NAMES = [
  'jest',
  'vitest',
  'mocha',
  'jasmine',
  'karma',
  'angular',
  'react-scripts',
  'vue-cli',
  'node',
  'bun',
] as const;

/** A runner of specs, as it is found in a project. */
export type RunnerName = (typeof RUNNER_NAMES)[number];

/** What is true of a runner before any setting of the project. Versions: the majors that the row describes. */
export interface RunnerRow {
  name: RunnerName;
  /** Packages that bring it. */
  packages: readonly string[];
  /** Programs that a script starts it by; with the first argument, where one must follow; `by`: where a package is declared; `from`: the package that brings the program, where it is another. */
  programs: readonly { program: string; argument?: string; by?: string; from?: string }[];
  /** Settings files of its own, in the order in which it looks for them. */
  files: readonly string[];
  /** Where its settings stand inside its file: vitest keeps them under `test`. */
  inside?: string;
  /** Flags that name another settings file. */
  configFlags?: readonly string[];
  /** Files that list the projects of a workspace. */
  workspaceFiles?: readonly string[];
  /** Without settings nothing is known of it. */
  needsSettings?: boolean;
  /** A key of the manifest that holds settings. */
  manifestKey?: string;
  /** Patterns of spec files when nothing is set; globs from the folder of the settings. */
  include?: readonly string[];
  exclude?: readonly string[];
  /** Whether stand-ins are restored after each spec with no setting. */
  restores?: boolean;
  /** Whether its functions are global with no setting. */
  globals: boolean;
}

const SCRIPT = '?(c|m)[jt]s';

const VITEST_EXCLUDE = [
  '**/node_modules/**',
  '**/.git/**',
  '**/dist/**',
  '**/cypress/**',
  '**/.{idea,cache,output,temp}/**',
];

export const RUNNERS: readonly RunnerRow[] = [
  {
    // jest 27 to 30: `testMatch` of jest-config's defaults; `globals` of @jest/globals are injected unless `injectGlobals` is off.
    name: 'jest',
    packages: ['jest', 'jest-cli'],
    programs: [
      { program: 'jest' },
      // @vue/cli-plugin-unit-jest 4 and 5, index.js: its arguments are handed on as they are.
      { program: 'vue-cli-service', argument: 'test:unit', by: '@vue/cli-plugin-unit-jest' },
      // @angular-builders/jest 17 to 20: its builder runs the settings of the workspace's root, over its own.
      { program: 'ng', argument: 'test', by: JEST_BUILDER },
    ],
    files: [
      'jest.config.js',
      'jest.config.ts',
      'jest.config.mjs',
      'jest.config.cjs',
      'jest.config.mts',
      'jest.config.cts',
      'jest.config.json',
    ],
    manifestKey: 'jest',
    configFlags: ['--config', '-c'],
    include: ['**/__tests__/**/*.?([mc])[jt]s?(x)', '**/?(*.)+(spec|test).?([mc])[jt]s?(x)'],
    globals: true,
  },
  {
    // vitest 1 to 4: `defaultInclude` and `defaultExclude` of vitest/config. 4 leaves out less: what lies there is of no interest.
    name: 'vitest',
    packages: ['vitest'],
    programs: [
      { program: 'vitest' },
      // @analogjs/vitest-angular 1 and 2: its builder runs the settings of the project's root.
      { program: 'ng', argument: 'test', by: '@analogjs/vitest-angular' },
    ],
    files: ['vitest.config', 'vite.config'].flatMap((name) =>
      ['ts', 'mts', 'cts', 'js', 'mjs', 'cjs'].map((extension) => `${name}.${extension}`),
    ),
    inside: 'test',
    configFlags: ['--config', '-c'],
    // vitest 1 to 3; in 4 the projects stand in the settings.
    workspaceFiles: ['ts', 'mts', 'js', 'mjs', 'json'].flatMap((extension) => [
      `vitest.workspace.${extension}`,
      `vitest.projects.${extension}`,
    ]),
    include: ['**/*.{test,spec}.?(c|m)[jt]s?(x)'],
    exclude: VITEST_EXCLUDE,
    globals: false,
  },
  {
    // mocha 8 to 12: lib/mocharc.json, and `spec` of lib/cli/run.js.
    name: 'mocha',
    packages: ['mocha'],
    programs: [{ program: 'mocha' }, { program: '_mocha' }],
    files: [
      '.mocharc.js',
      '.mocharc.cjs',
      '.mocharc.yaml',
      '.mocharc.yml',
      '.mocharc.jsonc',
      '.mocharc.json',
    ],
    manifestKey: 'mocha',
    configFlags: ['--config'],
    globals: true,
  },
  {
    // jasmine 3 to 5: spies are removed after each spec.
    name: 'jasmine',
    packages: ['jasmine'],
    programs: [{ program: 'jasmine' }],
    files: [
      'spec/support/jasmine.json',
      'spec/support/jasmine.mjs',
      'spec/support/jasmine.js',
      'jasmine.json',
    ],
    configFlags: ['--config'],
    needsSettings: true,
    restores: true,
    globals: true,
  },
  {
    // karma 6: the framework that it runs decides the rest.
    name: 'karma',
    packages: ['karma'],
    programs: [{ program: 'karma' }],
    files: ['karma.conf.js', 'karma.conf.cjs', 'karma.conf.mjs', 'karma.conf.ts'],
    needsSettings: true,
    globals: true,
  },
  {
    // @angular/build and @angular-devkit/build-angular 15 to 21: `include` of the test builders.
    name: 'angular',
    packages: ['@angular/build', '@angular-devkit/build-angular'],
    programs: [{ program: 'ng', argument: 'test' }],
    files: ['angular.json', '.angular.json'],
    needsSettings: true,
    globals: true,
  },
  {
    // react-scripts 4 and 5: createJestConfig.js, with what starts it with other settings.
    name: 'react-scripts',
    packages: ['react-scripts'],
    programs: [
      { program: 'react-scripts', argument: 'test' },
      { program: 'craco', argument: 'test', from: '@craco/craco' },
      { program: 'react-app-rewired', argument: 'test', from: 'react-app-rewired' },
    ],
    files: [],
    include: ['src/**/__tests__/**/*.{js,jsx,ts,tsx}', 'src/**/*.{spec,test}.{js,jsx,ts,tsx}'],
    globals: true,
  },
  {
    // @vue/cli-plugin-unit-mocha 4 and 5: the bundler's settings, which are code, make what mocha runs.
    name: 'vue-cli',
    needsSettings: true,
    packages: ['@vue/cli-plugin-unit-mocha'],
    programs: [{ program: 'vue-cli-service', argument: 'test:unit', by: '@vue/cli-plugin-unit-mocha' }],
    files: [],
    globals: true,
  },
  {
    // node 20 to 24, `node --test` without arguments.
    name: 'node',
    packages: [],
    programs: [{ program: 'node', argument: '--test' }],
    files: [],
    include: ['**/*.test', '**/*-test', '**/*_test', '**/test-*', '**/test', '**/test/**/*'].map(
      (name) => `${name}.${SCRIPT}`,
    ),
    globals: false,
  },
  {
    // bun 1: docs of `bun test`.
    name: 'bun',
    needsSettings: true,
    packages: [],
    programs: [{ program: 'bun', argument: 'test' }],
    files: [],
    include: ['**/*{.test,.spec,_test,_spec}.{js,jsx,ts,tsx,mjs,cjs,mts,cts}'],
    globals: true,
  },
];

/** What stands in settings, as plain data. */
export type SettingsData = string | readonly SettingsData[] | { readonly [key: string]: SettingsData };

interface ExportedSettings {
  /** Only those that projects read from them are here. */
  open: boolean;
  names: Readonly<Record<string, SettingsData>>;
}

/** Settings that packages export for others to add to, by their names. */
export const EXPORTED_SETTINGS: ReadonlyMap<string, ExportedSettings> = new Map<string, ExportedSettings>([
  [
    'vitest/config',
    {
      open: true,
      names: {
        configDefaults: { include: ['**/*.{test,spec}.?(c|m)[jt]s?(x)'], exclude: VITEST_EXCLUDE },
      },
    },
  ],
  ['jest-config', { open: true, names: { defaults: { testPathIgnorePatterns: ['/node_modules/'] } } }],
  ...NX_PRESET_MODULES.map((module): [string, ExportedSettings] => [
    module,
    { open: false, names: { default: NX_PRESET, nxPreset: NX_PRESET } },
  ]),
]);

// They load what they are told to load before, and nothing else touches the files.
const LOADERS: ReadonlySet<string> = new Set(['mocha', 'jasmine', 'node']);

/** Whether a runner leaves it to Node to load the specs. */
export const isLoadedByNode = (runner: string): boolean => LOADERS.has(runner);

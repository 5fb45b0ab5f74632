// @nx/jest 16 to 22 (@nrwl/jest before): what its shipped code sets and does.

/** preset/jest-preset.js; the endings and patterns of its newest form, which takes all that the others take. */
export const NX_PRESET = {
  testMatch: ['**/?(*.)+(spec|test).?([mc])[jt]s?(x)'],
  resolver: '@nx/jest/plugins/resolver',
  moduleFileExtensions: ['ts', 'js', 'mts', 'mjs', 'cts', 'cjs', 'html'],
  transform: {
    '^.+\\.(ts|js|mts|mjs|cts|cjs|html)$': ['ts-jest', { tsconfig: '<rootDir>/tsconfig.spec.json' }],
  },
  testEnvironment: 'jsdom',
  testEnvironmentOptions: { customExportConditions: ['node', 'require', 'default'] },
} as const;

const PACKAGES = ['@nx/jest', '@nrwl/jest'];

/** The modules that export its preset, by default and as `nxPreset`. */
export const NX_PRESET_MODULES = PACKAGES.flatMap((name) => [`${name}/preset`, `${name}/preset/jest-preset`]);

/** Its functions that list the projects of a workspace: each folder below the root with settings of the runner. */
export const listsProjects = ({ module, name }: { module: string; name: string }): boolean =>
  PACKAGES.includes(module) && (name === 'getJestProjects' || name === 'getJestProjectsAsync');

/** What it takes for a project's settings; a glob from the root. */
export const PROJECT_SETTINGS = '*/**/jest.config.{ts,js,mts,mjs,cts,cjs}';

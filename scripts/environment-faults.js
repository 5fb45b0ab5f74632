// The projects and the faults of `npm run verify:environment`, as data.
const manifest = (test, more = {}) =>
  JSON.stringify({ name: 'kilnroom', private: true, type: 'module', scripts: { test }, ...more });
const common = (test, more = {}) =>
  JSON.stringify({ name: 'kilnroom', private: true, scripts: { test }, ...more });

const reactParts = {
  'src/KilnCard.tsx':
    "import { cone } from './cone';\n\nexport const KilnCard = ({ name }: { name: string }) => <h2>{name}, {cone}</h2>;\n",
  'src/cone.ts': "export const cone: string = 'cone 6';\n",
  'src/KilnCard.spec.tsx': `import { render, screen } from '@testing-library/react';
import { KilnCard } from './KilnCard';

describe('KilnCard', () => {
  it('shows the cone', () => {
    render(<KilnCard name="Big Bertha" />);
    expect(screen.getByRole('heading')).toHaveTextContent('Big Bertha, cone 6');
  });
});
`,
};

const vueParts = {
  'src/GlazeCard.vue':
    '<script setup>\ndefineProps({ name: String });\n</script>\n\n<template>\n  <h2>{{ name }}</h2>\n</template>\n',
  'src/GlazeCard.spec.js': `import { mount } from '@vue/test-utils';
import GlazeCard from './GlazeCard.vue';

describe('GlazeCard', () => {
  it('shows the name', () => {
    expect(mount(GlazeCard, { props: { name: 'Celadon' } }).text()).toBe('Celadon');
  });
});
`,
};

const vitestSettings = (test, more = '') =>
  `import { defineConfig } from 'vitest/config';\n\nexport default defineConfig({\n  esbuild: { jsx: 'automatic' },\n  oxc: { jsx: { runtime: 'automatic' } },${more}\n  test: {\n${test.map((line) => `    ${line},\n`).join('')}  },\n});\n`;
const DOM = "environment: 'jsdom'";
const GLOBALS = 'globals: true';
const SETUP = "setupFiles: ['./test/setup.ts']";

const jestSettings = (lines) => `module.exports = {\n${lines.map((line) => `  ${line},\n`).join('')}};\n`;
const JEST = ["testEnvironment: 'jsdom'", "setupFilesAfterEnv: ['<rootDir>/test/setup.js']"];
const BABEL =
  "module.exports = {\n  presets: [\n    ['@babel/preset-env', { targets: { node: 'current' } }],\n    ['@babel/preset-react', { runtime: 'automatic' }],\n    '@babel/preset-typescript',\n  ],\n};\n";
const PATHS = '{ "compilerOptions": { "jsx": "react-jsx", "paths": { "@/*": ["./src/*"] } } }\n';
const byAlias = {
  'src/KilnCard.spec.tsx': reactParts['src/KilnCard.spec.tsx'].replace("'./KilnCard'", "'@/KilnCard'"),
  'tsconfig.json': PATHS,
};

export const PROJECTS = [
  {
    name: 'React, vitest',
    runner: 'vitest',
    packages: {
      vitest: '^4.0.0',
      jsdom: '^26.0.0',
      react: '^19.0.0',
      'react-dom': '^19.0.0',
      '@testing-library/react': '^16.1.0',
      '@testing-library/dom': '^10.4.0',
      '@testing-library/jest-dom': '^6.6.0',
    },
    files: {
      ...reactParts,
      'package.json': manifest('vitest run'),
      'vitest.config.ts': vitestSettings([DOM, GLOBALS, SETUP]),
      'test/setup.ts': "import '@testing-library/jest-dom/vitest';\n",
    },
  },
  {
    name: 'Vue, vitest',
    runner: 'vitest',
    packages: {
      vitest: '^4.0.0',
      jsdom: '^26.0.0',
      vue: '^3.5.0',
      '@vue/test-utils': '^2.4.0',
      '@vitejs/plugin-vue': '^6.0.0',
    },
    files: {
      ...vueParts,
      'package.json': manifest('vitest run'),
      'vitest.config.ts': vitestSettings([DOM, GLOBALS], '\n  plugins: [vue()],').replace(
        '\n\n',
        "\nimport vue from '@vitejs/plugin-vue';\n\n",
      ),
    },
  },
  {
    name: 'React, jest',
    runner: 'jest',
    packages: {
      jest: '^29.7.0',
      'jest-environment-jsdom': '^29.7.0',
      '@babel/core': '^7.26.0',
      '@babel/preset-env': '^7.26.0',
      '@babel/preset-react': '^7.26.0',
      '@babel/preset-typescript': '^7.26.0',
      react: '^19.0.0',
      'react-dom': '^19.0.0',
      '@testing-library/react': '^16.1.0',
      '@testing-library/dom': '^10.4.0',
      '@testing-library/jest-dom': '^6.6.0',
    },
    files: {
      ...reactParts,
      'package.json': common('jest'),
      'babel.config.js': BABEL,
      'jest.config.js': jestSettings(JEST),
      'test/setup.js': "require('@testing-library/jest-dom');\n",
    },
  },
  {
    name: 'Vue, jest',
    runner: 'jest',
    packages: {
      jest: '^29.7.0',
      'jest-environment-jsdom': '^29.7.0',
      '@babel/core': '^7.26.0',
      '@babel/preset-env': '^7.26.0',
      vue: '^3.5.0',
      '@vue/test-utils': '^2.4.0',
      '@vue/vue3-jest': '^29.2.0',
      'babel-jest': '^29.7.0',
    },
    files: {
      ...vueParts,
      'package.json': common('jest'),
      'babel.config.js':
        "module.exports = { presets: [['@babel/preset-env', { targets: { node: 'current' } }]] };\n",
      'jest.config.js': jestSettings([
        "testEnvironment: 'jsdom'",
        "testEnvironmentOptions: { customExportConditions: ['node', 'node-addons'] }",
        "moduleFileExtensions: ['js', 'json', 'vue']",
        "transform: { '^.+\\\\.vue$': '@vue/vue3-jest', '^.+\\\\.js$': 'babel-jest' }",
      ]),
    },
  },
];

const spec = reactParts['src/KilnCard.spec.tsx'];

export const FAULTS = [
  {
    project: 'React, vitest',
    code: 'E01',
    name: 'the runner of the script is not declared',
    lacks: ['vitest'],
    cure: {},
  },
  {
    project: 'React, vitest',
    code: 'E03',
    name: 'the document package is missing',
    lacks: ['jsdom'],
    cure: {},
  },
  {
    project: 'React, vitest',
    code: 'E02',
    name: 'no document is chosen',
    files: { 'vitest.config.ts': vitestSettings([GLOBALS, SETUP]) },
    cure: { 'vitest.config.ts': vitestSettings([DOM, GLOBALS, SETUP]) },
  },
  {
    project: 'React, vitest',
    code: 'E04',
    name: 'a slip in the path of the set-up file',
    files: { 'vitest.config.ts': vitestSettings([DOM, GLOBALS, "setupFiles: ['./test/setpu.ts']"]) },
    cure: 'mend',
  },
  {
    project: 'React, vitest',
    code: 'E05',
    name: 'the set-up file is named by no setting',
    files: { 'vitest.config.ts': vitestSettings([DOM, GLOBALS]) },
    cure: 'mend',
  },
  {
    project: 'React, vitest',
    code: 'E06',
    name: 'the matchers are not registered',
    files: { 'test/setup.ts': "import { afterEach } from 'vitest';\n\nafterEach(() => {});\n" },
    cure: 'mend',
  },
  {
    project: 'React, vitest',
    code: 'E07',
    name: 'the globals are off',
    files: { 'vitest.config.ts': vitestSettings([DOM, SETUP]) },
    cure: 'mend',
  },
  {
    project: 'React, vitest',
    code: 'E09',
    name: 'the name is not collected',
    files: { 'src/KilnCard.spec.tsx': undefined, 'src/KilnCard.specs.tsx': spec },
    cure: { 'src/KilnCard.specs.tsx': undefined, 'src/KilnCard.spec.tsx': spec },
  },
  {
    project: 'React, vitest',
    code: 'E13',
    name: 'an alias that only the compiler knows',
    files: byAlias,
    cure: {
      'vitest.config.ts': vitestSettings(
        [DOM, GLOBALS, SETUP],
        "\n  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },",
      ).replace('\n\n', "\nimport { fileURLToPath } from 'node:url';\n\n"),
    },
  },
  {
    project: 'Vue, vitest',
    code: 'E10',
    name: 'no plugin for single-file components',
    files: { 'vitest.config.ts': vitestSettings([DOM, GLOBALS]) },
    cure: {
      'vitest.config.ts': vitestSettings([DOM, GLOBALS], '\n  plugins: [vue()],').replace(
        '\n\n',
        "\nimport vue from '@vitejs/plugin-vue';\n\n",
      ),
    },
  },
  {
    project: 'Vue, vitest',
    code: 'E14',
    name: 'the settings stand in the file that loses',
    files: {
      'vite.config.ts': vitestSettings([DOM, GLOBALS], '\n  plugins: [vue()],').replace(
        '\n\n',
        "\nimport vue from '@vitejs/plugin-vue';\n\n",
      ),
      'vitest.config.ts': vitestSettings([GLOBALS], '\n  plugins: [vue()],').replace(
        '\n\n',
        "\nimport vue from '@vitejs/plugin-vue';\n\n",
      ),
    },
    cure: { 'vitest.config.ts': undefined },
  },
  {
    project: 'React, jest',
    code: 'E03',
    name: 'the document package is missing',
    lacks: ['jest-environment-jsdom'],
    cure: {},
  },
  {
    project: 'React, jest',
    code: 'E02',
    name: 'no document is chosen',
    files: { 'jest.config.js': jestSettings(JEST.slice(1)) },
    cure: { 'jest.config.js': jestSettings(JEST) },
  },
  {
    project: 'React, jest',
    code: 'E04',
    name: 'a slip in the path of the set-up file',
    files: { 'jest.config.js': jestSettings([JEST[0], "setupFilesAfterEnv: ['<rootDir>/tests/setup.js']"]) },
    cure: 'mend',
  },
  {
    project: 'React, jest',
    code: 'E06',
    name: 'the matchers are not registered',
    files: { 'test/setup.js': 'globalThis.kiln = 1;\n' },
    cure: 'mend',
  },
  {
    project: 'React, jest',
    code: 'E10',
    name: 'nothing takes style sheets',
    files: {
      'src/KilnCard.tsx': `import './kiln-card.css';\n${reactParts['src/KilnCard.tsx']}`,
      'src/kiln-card.css': 'h2 { color: red }\n',
    },
    cure: {
      'test/file-stub.js': 'module.exports = {};\n',
      'jest.config.js': jestSettings([
        ...JEST,
        "moduleNameMapper: { '\\\\.css$': '<rootDir>/test/file-stub.js' }",
      ]),
    },
  },
  {
    project: 'React, jest',
    code: 'E10',
    name: 'nothing takes TypeScript',
    files: { 'babel.config.js': undefined },
    cure: { 'babel.config.js': BABEL },
  },
  {
    project: 'React, jest',
    code: 'E13',
    name: 'an alias that only the compiler knows',
    files: byAlias,
    cure: {
      'jest.config.js': jestSettings([...JEST, "moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' }"]),
    },
  },
  {
    project: 'React, jest',
    code: 'E14',
    name: 'settings in two places',
    files: { 'package.json': common('jest', { jest: { testEnvironment: 'jsdom' } }) },
    cure: { 'package.json': common('jest') },
  },
  {
    project: 'Vue, jest',
    code: 'E09',
    name: 'the name is not collected',
    files: {
      'src/GlazeCard.spec.js': undefined,
      'src/GlazeCard.check.js': vueParts['src/GlazeCard.spec.js'],
    },
    cure: { 'src/GlazeCard.check.js': undefined, 'src/GlazeCard.spec.js': vueParts['src/GlazeCard.spec.js'] },
  },
  {
    project: 'Vue, jest',
    code: 'E10',
    name: 'no transform for single-file components',
    files: {
      'jest.config.js': jestSettings([
        "testEnvironment: 'jsdom'",
        "testEnvironmentOptions: { customExportConditions: ['node', 'node-addons'] }",
        "moduleFileExtensions: ['js', 'json', 'vue']",
        "transform: { '^.+\\\\.js$': 'babel-jest' }",
      ]),
    },
    cure: {
      'jest.config.js': jestSettings([
        "testEnvironment: 'jsdom'",
        "testEnvironmentOptions: { customExportConditions: ['node', 'node-addons'] }",
        "moduleFileExtensions: ['js', 'json', 'vue']",
        "transform: { '^.+\\\\.vue$': '@vue/vue3-jest', '^.+\\\\.js$': 'babel-jest' }",
      ]),
    },
  },
];

// Sound projects of the kinds that `npm run verify:environment` breaks: each passes, and Wexlet calls it ready.
const json = (value) => `${JSON.stringify(value, null, 2)}\n`;
const manifest = (test, more = {}) =>
  json({ name: 'kilnroom', private: true, type: 'module', scripts: { test }, ...more });
const common = (test, more = {}) => json({ name: 'kilnroom', private: true, scripts: { test }, ...more });

const card = {
  'src/KilnCard.tsx': `import { cone } from './cone';

export const KilnCard = ({ name }: { name: string }) => (
  <h2>
    {name}, {cone}
  </h2>
);
`,
  'src/cone.ts': "export const cone: string = 'cone 6';\n",
};

const cardSpec = `import { render, screen } from '@testing-library/react';
import { KilnCard } from './KilnCard';

describe('KilnCard', () => {
  it('shows the cone', () => {
    render(<KilnCard name="Big Bertha" />);
    expect(screen.getByRole('heading')).toHaveTextContent('Big Bertha, cone 6');
  });
});
`;

const vueCard = {
  'src/GlazeCard.vue': `<script setup>
defineProps({ name: String });
</script>

<template>
  <h2>{{ name }}</h2>
</template>
`,
  'src/GlazeCard.spec.js': `import { mount } from '@vue/test-utils';
import GlazeCard from './GlazeCard.vue';

describe('GlazeCard', () => {
  it('shows the name', () => {
    expect(mount(GlazeCard, { props: { name: 'Celadon' } }).text()).toBe('Celadon');
  });
});
`,
};

const bundled = (plugin) => `import { defineConfig } from 'vitest/config';
${plugin === 'react' ? "import react from '@vitejs/plugin-react';" : "import vue from '@vitejs/plugin-vue';"}

export default defineConfig({
  plugins: [${plugin}()],
  test: {
    environment: 'jsdom',
    globals: true,
${plugin === 'react' ? "    setupFiles: ['./test/setup.ts'],\n" : ''}  },
});
`;

const bundledReact = {
  ...card,
  'src/KilnCard.spec.tsx': cardSpec,
  'package.json': manifest('vitest run'),
  'vitest.config.ts': bundled('react'),
  'test/setup.ts': "import '@testing-library/jest-dom/vitest';\n",
  'tsconfig.json': json({ compilerOptions: { jsx: 'react-jsx', strict: true } }),
};

const reactPackages = {
  react: '^19.0.0',
  'react-dom': '^19.0.0',
  '@testing-library/react': '^16.1.0',
  '@testing-library/dom': '^10.4.0',
  '@testing-library/jest-dom': '^6.6.0',
};

const babel = (presets) =>
  `module.exports = {\n  presets: [\n${presets.map((each) => `    ${each},\n`).join('')}  ],\n};\n`;
const PRESET_ENV = "['@babel/preset-env', { targets: { node: 'current' } }]";
const PRESET_REACT = "['@babel/preset-react', { runtime: 'automatic' }]";
const babelPackages = {
  '@babel/core': '^7.26.0',
  '@babel/preset-env': '^7.26.0',
  '@babel/preset-react': '^7.26.0',
  'babel-jest': '^29.7.0',
};

const jestReact = {
  ...card,
  'src/KilnCard.tsx': `import './kiln-card.css';\n${card['src/KilnCard.tsx']}`,
  'src/kiln-card.css': 'h2 {\n  color: red;\n}\n',
  'src/KilnCard.spec.tsx': cardSpec,
  'package.json': common('jest'),
  'babel.config.js': babel([PRESET_ENV, PRESET_REACT, "'@babel/preset-typescript'"]),
  'jest.config.js': `module.exports = {
  testEnvironment: 'jsdom',
  setupFilesAfterEnv: ['<rootDir>/test/setup.js'],
  moduleNameMapper: { '\\\\.css$': '<rootDir>/test/style-stub.js' },
};
`,
  'test/setup.js': "require('@testing-library/jest-dom');\n",
  'test/style-stub.js': 'module.exports = {};\n',
};

// A component and its spec without JSX, for runs that compile nothing.
const plainSpec = (head, assertion) => `${head}
${assertion.suite}('KilnCard', () => {
  ${assertion.spec}('shows the cone', () => {
    const { container } = render(React.createElement(KilnCard, { name: 'Big Bertha' }));
    ${assertion.line}
  });
});
`;

const ANGULAR = {
  '@angular/core': '^20.0.0',
  '@angular/common': '^20.0.0',
  '@angular/compiler': '^20.0.0',
  '@angular/platform-browser': '^20.0.0',
  '@angular/compiler-cli': '^20.0.0',
  rxjs: '^7.8.0',
  'zone.js': '^0.15.0',
  tslib: '^2.8.0',
  typescript: '~5.8.0',
};

const angularCard = {
  'src/app/kiln-card.ts': `import { Component, input } from '@angular/core';

@Component({ selector: 'app-kiln-card', template: '<h2>{{ name() }}</h2>' })
export class KilnCard {
  readonly name = input('');
}
`,
  'src/app/kiln-card.spec.ts': `import { TestBed } from '@angular/core/testing';
import { KilnCard } from './kiln-card';

describe('KilnCard', () => {
  it('shows the name', async () => {
    await TestBed.configureTestingModule({ imports: [KilnCard] }).compileComponents();
    const fixture = TestBed.createComponent(KilnCard);
    fixture.componentRef.setInput('name', 'Big Bertha');
    fixture.detectChanges();
    expect(fixture.nativeElement.querySelector('h2').textContent).toContain('Big Bertha');
  });
});
`,
};

const shelfCones = "export const cones: string[] = ['6', '10'];\n";

// A component with state; `hooks`, `cones`: the modules that it takes these from.
const shelf = (hooks, cones, more = '') => `import { useState } from '${hooks}';
import { cones } from '${cones}';
${more}
export function Shelf({ kiln }: { kiln: string }) {
  const [open, setOpen] = useState(false);
  return (
    <section>
      <button onClick={() => setOpen(!open)}>{kiln}</button>
      {open && <p>{cones.join(', ')}</p>}
    </section>
  );
}
`;

const hookedPackages = {
  chai: '^4.5.0',
  sinon: '^20.0.0',
  'sinon-chai': '^3.7.0',
  jsdom: '^26.0.0',
  'global-jsdom': '^26.0.0',
  '@babel/core': '^7.26.0',
  '@babel/register': '^7.25.0',
  '@babel/preset-env': '^7.26.0',
  '@babel/preset-react': '^7.26.0',
  'ignore-styles': '^5.0.0',
  react: '^19.0.0',
  'react-dom': '^19.0.0',
  '@testing-library/react': '^16.1.0',
  '@testing-library/dom': '^10.4.0',
};

const hookedFiles = {
  'src/KilnCard.jsx': `import './kiln-card.css';

export const KilnCard = ({ name, onFire }) => (
  <button type="button" onClick={onFire}>
    {name}
  </button>
);
`,
  'src/kiln-card.css': 'button {\n  color: red;\n}\n',
  'test/KilnCard.test.jsx': `import { expect } from 'chai';
import sinon from 'sinon';
import { fireEvent, render } from '@testing-library/react';
import { KilnCard } from '../src/KilnCard';

suite('KilnCard', () => {
  test('fires once', () => {
    const onFire = sinon.spy();
    const { getByRole } = render(<KilnCard name="Big Bertha" onFire={onFire} />);
    fireEvent.click(getByRole('button', { name: 'Big Bertha' }));
    expect(onFire).to.have.been.calledOnce;
  });
});
`,
  'test/setup.js': `const chai = require('chai');
const sinonChai = require('sinon-chai');

chai.use(sinonChai);
`,
  'test/register.js': "require('@babel/register')({ extensions: ['.js', '.jsx'] });\n",
  'package.json': common('mocha'),
  '.babelrc': json({
    presets: [
      ['@babel/preset-env', { targets: { node: 'current' } }],
      ['@babel/preset-react', { runtime: 'automatic' }],
    ],
  }),
  '.mocharc.json': json({
    ui: 'tdd',
    require: ['./test/register.js', 'ignore-styles', 'global-jsdom/register', './test/setup.js'],
    spec: ['test/**/*.test.jsx'],
  }),
};

const NODE_TEST =
  'node --import tsx --import global-jsdom/register --import ./test/setup.ts --test src/*.test.tsx';

/** What its generator writes for a package of the workspace. */
const nxPackage = (name) => ({
  [`packages/${name}/jest.config.ts`]: `/* eslint-disable */
export default {
  displayName: '${name}',
  preset: '../../jest.preset.js',
  setupFilesAfterEnv: ['<rootDir>/src/test-setup.ts'],
  transform: {
    '^(?!.*\\\\.(js|jsx|ts|tsx|css|json)$)': '@nx/react/plugins/jest',
    '^.+\\\\.[tj]sx?$': ['babel-jest', { presets: ['@nx/react/babel'] }],
  },
  moduleFileExtensions: ['ts', 'tsx', 'js', 'jsx'],
  coverageDirectory: '../../coverage/packages/${name}',
};
`,
  [`packages/${name}/.babelrc`]: `{
  "presets": [["@nx/react/babel", { "runtime": "automatic", "useBuiltIns": "usage" }]],
  "plugins": []
}
`,
  [`packages/${name}/tsconfig.json`]: `{
  "compilerOptions": { "jsx": "react-jsx", "allowJs": false, "esModuleInterop": true, "strict": true },
  "files": [],
  "include": [],
  "references": [{ "path": "./tsconfig.lib.json" }, { "path": "./tsconfig.spec.json" }],
  "extends": "../../tsconfig.base.json"
}
`,
  [`packages/${name}/tsconfig.spec.json`]: `{
  "extends": "./tsconfig.json",
  "compilerOptions": { "outDir": "../../dist/out-tsc", "module": "commonjs", "moduleResolution": "node10", "types": ["jest", "node"] },
  "files": ["src/test-setup.ts"],
  "include": ["jest.config.ts", "src/**/*.spec.ts", "src/**/*.spec.tsx", "src/**/*.d.ts"]
}
`,
  [`packages/${name}/tsconfig.lib.json`]: `{ "extends": "./tsconfig.json", "compilerOptions": { "outDir": "../../dist/out-tsc", "types": ["node"] }, "include": ["src/**/*.ts", "src/**/*.tsx"], "exclude": ["jest.config.ts", "src/**/*.spec.tsx"] }
`,
  [`packages/${name}/project.json`]: `{
  "name": "${name}",
  "$schema": "../../node_modules/nx/schemas/project-schema.json",
  "sourceRoot": "packages/${name}/src",
  "projectType": "library",
  "tags": [],
  "targets": {}
}
`,
  [`packages/${name}/src/test-setup.ts`]: `import '@testing-library/jest-dom';
`,
});

/** `install`: the folder of packages that projects share; `lock`: the lock file that stands for a whole project; the first of `packages` is the runner that the table names. */
export const PROJECTS = [
  {
    name: 'React, vitest 4',
    install: 'vitest4',
    packages: { vitest: '^4.0.0', jsdom: '^26.0.0', '@vitejs/plugin-react': '^5.0.0', ...reactPackages },
    files: bundledReact,
  },
  {
    name: 'React, vitest 1',
    install: 'vitest1',
    packages: {
      vitest: '^1.6.0',
      vite: '^5.4.0',
      jsdom: '^24.0.0',
      '@vitejs/plugin-react': '^4.3.0',
      ...reactPackages,
      react: '^18.3.0',
      'react-dom': '^18.3.0',
      '@testing-library/react': '^14.3.0',
      '@testing-library/dom': '^9.3.0',
    },
    files: bundledReact,
  },
  {
    name: 'React, vitest 2',
    install: 'vitest2',
    packages: {
      vitest: '^2.1.0',
      vite: '^5.4.0',
      jsdom: '^25.0.0',
      '@vitejs/plugin-react': '^4.3.0',
      ...reactPackages,
    },
    files: bundledReact,
  },
  {
    name: 'Vue, vitest 4',
    install: 'vitest4',
    packages: {
      vitest: '^4.0.0',
      jsdom: '^26.0.0',
      vue: '^3.5.0',
      '@vue/test-utils': '^2.4.0',
      '@vitejs/plugin-vue': '^6.0.0',
    },
    files: { ...vueCard, 'package.json': manifest('vitest run'), 'vitest.config.ts': bundled('vue') },
  },
  {
    name: 'Workspace, vitest 3',
    install: 'vitest3',
    packages: {
      vitest: '^3.2.0',
      vite: '^6.0.0',
      jsdom: '^26.0.0',
      '@vitejs/plugin-react': '^4.3.0',
      ...reactPackages,
    },
    files: {
      'package.json': manifest('vitest run', { workspaces: ['packages/*'] }),
      'vitest.config.ts': `import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: ['packages/*'],
  },
});
`,
      'packages/board/package.json': json({ name: '@kilnroom/board', private: true, type: 'module' }),
      'packages/board/vitest.config.ts': bundled('react'),
      'packages/board/test/setup.ts': bundledReact['test/setup.ts'],
      'packages/board/src/KilnCard.tsx': card['src/KilnCard.tsx'],
      'packages/board/src/cone.ts': card['src/cone.ts'],
      'packages/board/src/KilnCard.spec.tsx': cardSpec,
      'packages/clock/package.json': json({ name: '@kilnroom/clock', private: true, type: 'module' }),
      'packages/clock/vitest.config.ts': `import { defineConfig } from 'vitest/config';

export default defineConfig({ test: { environment: 'node' } });
`,
      'packages/clock/src/hours.ts': 'export const hours = (minutes: number): number => minutes / 60;\n',
      'packages/clock/src/hours.spec.ts': `import { expect, it } from 'vitest';
import { hours } from './hours';

it('gives hours', () => {
  expect(hours(90)).toBe(1.5);
});
`,
    },
  },
  {
    name: 'React, jest 29',
    install: 'jest29',
    packages: {
      jest: '^29.7.0',
      'jest-environment-jsdom': '^29.7.0',
      ...babelPackages,
      '@babel/preset-typescript': '^7.26.0',
      'lodash-es': '^4.17.0',
      nanoid: '^3.3.0',
      ...reactPackages,
    },
    files: jestReact,
  },
  {
    name: 'React, jest 30 and ts-jest',
    install: 'jest30',
    packages: {
      jest: '^30.0.0',
      'jest-environment-jsdom': '^30.0.0',
      'ts-jest': '^29.4.0',
      typescript: '^5.8.0',
      'identity-obj-proxy': '^3.0.0',
      '@types/react': '^19.0.0',
      '@types/jest': '^30.0.0',
      ...reactPackages,
    },
    files: {
      ...card,
      'src/KilnCard.tsx': `import styles from './kiln-card.module.css';
import { cone } from '@/cone';

export const KilnCard = ({ name }: { name: string }) => (
  <h2 className={styles.title}>
    {name}, {cone}
  </h2>
);
`,
      'src/kiln-card.module.css': '.title {\n  color: red;\n}\n',
      'src/styles.d.ts':
        "declare module '*.css' {\n  const names: Record<string, string>;\n  export default names;\n}\n",
      'src/KilnCard.test.tsx': cardSpec,
      'package.json': common('jest'),
      'jest.config.js': `/** @type {import('jest').Config} */
module.exports = {
  preset: 'ts-jest',
  testEnvironment: 'jsdom',
  setupFilesAfterEnv: ['<rootDir>/jest.setup.ts'],
  moduleNameMapper: {
    '^@/(.*)$': '<rootDir>/src/$1',
    '\\\\.css$': 'identity-obj-proxy',
  },
};
`,
      'jest.setup.ts': "import '@testing-library/jest-dom';\n",
      'tsconfig.json': json({
        compilerOptions: {
          jsx: 'react-jsx',
          module: 'commonjs',
          moduleResolution: 'node',
          target: 'es2020',
          esModuleInterop: true,
          strict: true,
          skipLibCheck: true,
          paths: { '@/*': ['./src/*'] },
        },
        include: ['src', 'jest.setup.ts'],
      }),
    },
  },
  {
    name: 'Vue, jest 29',
    install: 'jest29',
    packages: {
      jest: '^29.7.0',
      'jest-environment-jsdom': '^29.7.0',
      '@babel/core': '^7.26.0',
      '@babel/preset-env': '^7.26.0',
      'babel-jest': '^29.7.0',
      vue: '^3.5.0',
      '@vue/test-utils': '^2.4.0',
      '@vue/vue3-jest': '^29.2.0',
    },
    files: {
      ...vueCard,
      'package.json': common('jest'),
      'babel.config.js': babel([PRESET_ENV]),
      'jest.config.js': `module.exports = {
  testEnvironment: 'jsdom',
  testEnvironmentOptions: { customExportConditions: ['node', 'node-addons'] },
  moduleFileExtensions: ['js', 'json', 'vue'],
  transform: {
    '^.+\\\\.vue$': '@vue/vue3-jest',
    '^.+\\\\.js$': 'babel-jest',
  },
};
`,
    },
  },
  {
    name: 'Workspaces, jest 29 with projects',
    install: 'jest29',
    packages: {
      jest: '^29.7.0',
      'jest-environment-jsdom': '^29.7.0',
      ...babelPackages,
      '@babel/preset-typescript': '^7.26.0',
      ...reactPackages,
    },
    files: {
      'package.json': common('jest', { workspaces: ['packages/*'] }),
      'jest.config.js': `module.exports = {
  projects: ['<rootDir>/packages/*'],
};
`,
      'babel.config.js': babel([PRESET_ENV, PRESET_REACT, "'@babel/preset-typescript'"]),
      'packages/board/package.json': json({ name: '@kilnroom/board', private: true }),
      'packages/board/jest.config.js': `module.exports = {
  displayName: 'board',
  testEnvironment: 'jsdom',
  setupFilesAfterEnv: ['<rootDir>/test/setup.js'],
};
`,
      'packages/board/babel.config.js': "module.exports = require('../../babel.config.js');\n",
      'packages/clock/babel.config.js': "module.exports = require('../../babel.config.js');\n",
      'packages/board/test/setup.js': jestReact['test/setup.js'],
      'packages/board/src/KilnCard.tsx': card['src/KilnCard.tsx'],
      'packages/board/src/cone.ts': card['src/cone.ts'],
      'packages/board/src/KilnCard.spec.tsx': cardSpec,
      'packages/clock/package.json': json({ name: '@kilnroom/clock', private: true }),
      'packages/clock/jest.config.js':
        "module.exports = { displayName: 'clock', testEnvironment: 'node' };\n",
      'packages/clock/src/hours.ts': 'export const hours = (minutes: number): number => minutes / 60;\n',
      'packages/clock/src/hours.spec.ts': `import { hours } from './hours';

it('gives hours', () => {
  expect(hours(90)).toBe(1.5);
});
`,
    },
  },
  {
    name: 'React, mocha 11 with a compile hook',
    install: 'mocha11',
    packages: { mocha: '^11.0.0', ...hookedPackages },
    files: hookedFiles,
  },
  {
    name: 'React, mocha 10 with a compile hook',
    install: 'mocha10',
    packages: { mocha: '^10.0.0', ...hookedPackages },
    files: hookedFiles,
  },
  {
    name: 'React, mocha 12 with no compile hook',
    install: 'mocha12',
    packages: {
      mocha: '^12.0.0',
      chai: '^6.0.0',
      jsdom: '^26.0.0',
      react: '^19.0.0',
      'react-dom': '^19.0.0',
      '@testing-library/react': '^16.1.0',
      '@testing-library/dom': '^10.4.0',
    },
    files: {
      'src/kiln-card.js': `import React from 'react';

export const KilnCard = ({ name }) => React.createElement('h2', null, name);
`,
      'test/kiln-card.spec.js': plainSpec(
        `import React from 'react';
import { expect } from 'chai';
import { render } from '@testing-library/react';
import { KilnCard } from '../src/kiln-card.js';
`,
        {
          suite: 'describe',
          spec: 'it',
          line: "expect(container.querySelector('h2').textContent).to.equal('Big Bertha');",
        },
      ),
      'test/setup.js': `import { JSDOM } from 'jsdom';

const { window } = new JSDOM('<!doctype html>', { url: 'http://localhost/' });

globalThis.window = window;
globalThis.document = window.document;
globalThis.navigator ??= window.navigator;
globalThis.IS_REACT_ACT_ENVIRONMENT = true;
`,
      'package.json': manifest('mocha'),
      '.mocharc.json': json({ require: ['./test/setup.js'], spec: 'test/**/*.spec.js' }),
    },
  },
  {
    name: 'Angular, its own builder',
    install: 'angular',
    packages: {
      vitest: '^3.2.0',
      '@angular/build': '^20.3.0',
      '@angular/cli': '^20.3.0',
      jsdom: '^26.0.0',
      ...ANGULAR,
    },
    files: {
      ...angularCard,
      'src/main.ts':
        "import { bootstrapApplication } from '@angular/platform-browser';\nimport { KilnCard } from './app/kiln-card';\n\nbootstrapApplication(KilnCard);\n",
      'src/index.html':
        '<!doctype html>\n<html lang="en">\n  <head>\n    <title>Kiln room</title>\n  </head>\n  <body>\n    <app-kiln-card></app-kiln-card>\n  </body>\n</html>\n',
      'package.json': common('ng test --watch=false'),
      'angular.json': json({
        version: 1,
        cli: { analytics: false },
        projects: {
          kilnroom: {
            projectType: 'application',
            root: '',
            sourceRoot: 'src',
            architect: {
              build: {
                builder: '@angular/build:application',
                options: {
                  browser: 'src/main.ts',
                  index: 'src/index.html',
                  tsConfig: 'tsconfig.app.json',
                  polyfills: ['zone.js'],
                },
                configurations: { development: { optimization: false, sourceMap: true } },
              },
              test: {
                builder: '@angular/build:unit-test',
                options: { tsConfig: 'tsconfig.spec.json', buildTarget: '::development', runner: 'vitest' },
              },
            },
          },
        },
      }),
      'tsconfig.json': json({
        compilerOptions: {
          strict: true,
          skipLibCheck: true,
          experimentalDecorators: true,
          target: 'ES2022',
          module: 'preserve',
          moduleResolution: 'bundler',
        },
      }),
      'tsconfig.app.json': json({
        extends: './tsconfig.json',
        files: ['src/main.ts'],
        compilerOptions: { types: [] },
      }),
      'tsconfig.spec.json': json({
        extends: './tsconfig.json',
        include: ['src/**/*.ts'],
        compilerOptions: { types: ['vitest/globals'] },
      }),
    },
  },
  {
    name: 'Angular, jest 29 and a preset',
    install: 'angular',
    packages: {
      jest: '^29.7.0',
      'jest-environment-jsdom': '^29.7.0',
      'jest-preset-angular': '^14.6.0',
      '@angular/platform-browser-dynamic': '^20.0.0',
      '@types/jest': '^29.5.0',
      ...ANGULAR,
    },
    files: {
      ...angularCard,
      'package.json': common('jest'),
      'jest.config.js': `module.exports = {
  preset: 'jest-preset-angular',
  setupFilesAfterEnv: ['<rootDir>/setup-jest.ts'],
};
`,
      'setup-jest.ts': `import { setupZoneTestEnv } from 'jest-preset-angular/setup-env/zone';

setupZoneTestEnv();
`,
      'tsconfig.json': json({
        compilerOptions: {
          strict: true,
          skipLibCheck: true,
          experimentalDecorators: true,
          target: 'ES2022',
          module: 'ES2022',
          moduleResolution: 'node',
          esModuleInterop: true,
        },
      }),
      'tsconfig.spec.json': json({
        extends: './tsconfig.json',
        include: ['src/**/*.ts', 'setup-jest.ts'],
        compilerOptions: { types: ['jest'] },
      }),
    },
  },
  {
    name: 'React, a framework’s wrapper of settings',
    install: 'next',
    packages: { jest: '^29.7.0', 'jest-environment-jsdom': '^29.7.0', next: '^15.0.0', ...reactPackages },
    files: {
      'src/KilnCard.jsx': `import styles from './kiln-card.module.css';

export const KilnCard = ({ name }) => <h2 className={styles.title}>{name}</h2>;
`,
      'src/kiln-card.module.css': '.title {\n  color: red;\n}\n',
      'src/pages/index.jsx': "export { KilnCard as default } from '../KilnCard';\n",
      'src/KilnCard.test.jsx': `import { render, screen } from '@testing-library/react';
import { KilnCard } from '@/KilnCard';

describe('KilnCard', () => {
  it('shows the name', () => {
    render(<KilnCard name="Big Bertha" />);
    expect(screen.getByRole('heading')).toHaveTextContent('Big Bertha');
  });
});
`,
      'package.json': common('jest'),
      'jest.config.js': `const nextJest = require('next/jest');

const createJestConfig = nextJest({ dir: './' });

/** @type {import('jest').Config} */
const config = {
  testEnvironment: 'jsdom',
  setupFilesAfterEnv: ['<rootDir>/jest.setup.js'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
};

module.exports = createJestConfig(config);
`,
      'jest.setup.js': "import '@testing-library/jest-dom';\n",
    },
  },
  {
    name: 'Design system, jest 29 with shims and an adapter',
    install: 'enzyme',
    packages: {
      jest: '^29.7.0',
      'jest-environment-jsdom': '^29.7.0',
      ...babelPackages,
      react: '^16.14.0',
      'react-dom': '^16.14.0',
      enzyme: '^3.11.0',
      // Later ones load what this document does not have.
      cheerio: '1.0.0-rc.12',
      'enzyme-adapter-react-16': '^1.15.0',
      'enzyme-to-json': '^3.6.0',
      'identity-obj-proxy': '^3.0.0',
    },
    files: {
      'src/KilnCard.jsx': `import React from 'react';
import styles from './kiln-card.scss';
import flame from './flame.svg';

export const KilnCard = ({ name }) => (
  <h2 className={styles.title}>
    <img src={flame} alt="" />
    {name}
    {window.matchMedia('print').matches && ', printed'}
  </h2>
);
`,
      'src/kiln-card.scss': '.title {\n  color: red;\n}\n',
      'src/flame.svg': '<svg xmlns="http://www.w3.org/2000/svg" />\n',
      'src/__tests__/KilnCard.test.jsx': `import React from 'react';
import { mount } from 'enzyme';
import { KilnCard } from '../KilnCard';

describe('KilnCard', () => {
  it('shows the name', () => {
    expect(mount(<KilnCard name="Big Bertha" />).text()).toBe('Big Bertha');
  });
});
`,
      'package.json': common('jest --config config/jest.config.js'),
      'babel.config.js': babel([PRESET_ENV, "'@babel/preset-react'"]),
      'config/jest.config.js': `module.exports = {
  rootDir: '..',
  testEnvironment: 'jsdom',
  testEnvironmentOptions: { customExportConditions: ['node', 'node-addons'] },
  setupFiles: ['<rootDir>/config/shims.js'],
  setupFilesAfterEnv: ['<rootDir>/config/adapter.js'],
  snapshotSerializers: ['enzyme-to-json/serializer'],
  moduleNameMapper: {
    '\\\\.scss$': 'identity-obj-proxy',
    '\\\\.svg$': '<rootDir>/config/asset-stub.js',
  },
};
`,
      'config/shims.js':
        'window.matchMedia = () => ({ matches: false, addListener() {}, removeListener() {} });\n',
      'config/adapter.js': `import { configure } from 'enzyme';
import Adapter from 'enzyme-adapter-react-16';

configure({ adapter: new Adapter() });
`,
      'config/asset-stub.js': "module.exports = 'asset';\n",
    },
  },

  {
    name: 'React, a starter with settings of its own',
    install: 'cra',
    packages: {
      'react-scripts': '^5.0.1',
      'lodash-es': '^4.17.0',
      react: '^18.3.0',
      'react-dom': '^18.3.0',
      '@testing-library/react': '^16.1.0',
      '@testing-library/dom': '^10.4.0',
      '@testing-library/jest-dom': '^6.6.0',
    },
    files: {
      'package.json': json({
        name: 'kilnroom',
        private: true,
        scripts: { start: 'react-scripts start', test: 'react-scripts test --watchAll=false' },
        browserslist: ['last 1 chrome version'],
        browserslist: { production: ['>0.2%'], development: ['last 1 chrome version'] },
      }),
      'public/index.html':
        '<!doctype html><html lang="en"><head><title>Kiln room</title></head><body><div id="root"></div></body></html>\n',
      'src/index.js':
        "import ReactDOM from 'react-dom/client';\nimport { KilnCard } from './KilnCard';\n\nReactDOM.createRoot(document.getElementById('root')).render(<KilnCard name=\"Big Bertha\" />);\n",
      'src/KilnCard.js':
        "import './kiln-card.css';\nimport { cone } from './cone';\n\nexport const KilnCard = ({ name }) => (\n  <h2>\n    {name}, {cone}\n  </h2>\n);\n",
      'src/kiln-card.css': 'h2 {\n  color: red;\n}\n',
      'src/cone.js': "export const cone = 'cone 6';\n",
      'src/KilnCard.test.js':
        "import { render, screen } from '@testing-library/react';\nimport { KilnCard } from './KilnCard';\n\ntest('shows the cone', () => {\n  render(<KilnCard name=\"Big Bertha\" />);\n  expect(screen.getByRole('heading')).toHaveTextContent('Big Bertha, cone 6');\n});\n",
      'src/setupTests.js': "import '@testing-library/jest-dom';\n",
    },
  },
  {
    name: 'React, jasmine 5 in Node',
    install: 'jas',
    packages: {
      jasmine: '^5.1.0',
      jsdom: '^26.0.0',
      react: '^19.0.0',
      'react-dom': '^19.0.0',
      '@testing-library/react': '^16.1.0',
      '@testing-library/dom': '^10.4.0',
    },
    files: {
      'package.json': json({ name: 'kilnroom', private: true, type: 'module', scripts: { test: 'jasmine' } }),
      'spec/support/jasmine.json': json({
        spec_dir: 'spec',
        spec_files: ['**/*.spec.js'],
        helpers: ['helpers/**/*.js'],
      }),
      'spec/helpers/document.js':
        "import { JSDOM } from 'jsdom';\n\nconst { window } = new JSDOM('<!doctype html>', { url: 'http://localhost/' });\n\nglobalThis.window = window;\nglobalThis.document = window.document;\nglobalThis.navigator ??= window.navigator;\nglobalThis.IS_REACT_ACT_ENVIRONMENT = true;\n",
      'src/kiln-card.js':
        "import React from 'react';\n\nexport const KilnCard = ({ name }) => React.createElement('h2', null, name);\n",
      'spec/kiln-card.spec.js':
        "import React from 'react';\nimport { render } from '@testing-library/react';\nimport { KilnCard } from '../src/kiln-card.js';\n\ndescribe('KilnCard', () => {\n  it('shows the name', () => {\n    const { container } = render(React.createElement(KilnCard, { name: 'Big Bertha' }));\n    expect(container.querySelector('h2').textContent).toBe('Big Bertha');\n  });\n});\n",
    },
  },

  {
    name: 'React, jest 30 with a preset of its own',
    install: 'jest30',
    packages: {
      jest: '^30.0.0',
      'jest-environment-jsdom': '^30.0.0',
      '@swc/core': '^1.0.0',
      '@swc/jest': '^0.2.0',
      'identity-obj-proxy': '^3.0.0',
      typescript: '^5.8.0',
      react: '^19.0.0',
      'react-dom': '^19.0.0',
      '@testing-library/react': '^16.1.0',
      '@testing-library/dom': '^10.4.0',
      '@testing-library/jest-dom': '^6.6.0',
    },
    files: {
      'package.json': json({
        name: 'kilnroom',
        private: true,
        scripts: { test: 'jest --config apps/board/jest.config.js' },
      }),
      'jest.preset.js':
        "module.exports = {\n  testEnvironment: 'jsdom',\n  transform: { '^.+\\\\.[tj]sx?$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript', tsx: true }, transform: { react: { runtime: 'automatic' } } } }] },\n  moduleNameMapper: { '\\\\.css$': 'identity-obj-proxy' },\n};\n",
      'apps/board/jest.config.js':
        "module.exports = {\n  displayName: 'board',\n  preset: '../../jest.preset.js',\n  setupFilesAfterEnv: ['<rootDir>/src/test-setup.ts'],\n  moduleNameMapper: { '\\\\.css$': 'identity-obj-proxy', '^@kilnroom/cones$': '<rootDir>/../../libs/cones/src/index.ts' },\n};\n",
      'apps/board/src/test-setup.ts': "import '@testing-library/jest-dom';\n",
      'apps/board/src/kiln-card.css': 'h2 { color: red }\n',
      'apps/board/src/KilnCard.tsx':
        "import { cone } from '@kilnroom/cones';\nimport './kiln-card.css';\n\nexport const KilnCard = ({ name }: { name: string }) => <h2>{name}, {cone}</h2>;\n",
      'apps/board/src/KilnCard.spec.tsx':
        "import { render, screen } from '@testing-library/react';\nimport { KilnCard } from './KilnCard';\n\ndescribe('KilnCard', () => {\n  it('shows the cone', () => {\n    render(<KilnCard name=\"Big Bertha\" />);\n    expect(screen.getByRole('heading')).toHaveTextContent('Big Bertha, cone 6');\n  });\n});\n",
      'libs/cones/src/index.ts': "export const cone: string = 'cone 6';\n",
      'tsconfig.base.json': json({
        compilerOptions: { jsx: 'react-jsx', paths: { '@kilnroom/cones': ['./libs/cones/src/index.ts'] } },
      }),
    },
  },
  {
    name: 'Vue, vitest 4 with a project in place',
    install: 'vitest4',
    packages: {
      vitest: '^4.0.0',
      'happy-dom': '^20.0.0',
      vue: '^3.5.0',
      '@vue/test-utils': '^2.4.0',
      '@vitejs/plugin-vue': '^6.0.0',
    },
    files: {
      'package.json': json({
        name: 'kilnroom',
        private: true,
        type: 'module',
        scripts: { test: 'npm run test:unit', 'test:unit': 'vitest run --project unit' },
      }),
      'vite.config.ts':
        "import vue from '@vitejs/plugin-vue';\nimport { fileURLToPath, URL } from 'node:url';\nimport { defineConfig } from 'vite';\n\nexport default defineConfig({\n  plugins: [vue()],\n  resolve: { alias: { '~': fileURLToPath(new URL('./src', import.meta.url)) } },\n});\n",
      'vitest.config.ts':
        "import { defineConfig } from 'vitest/config';\n\nexport default defineConfig({\n  test: {\n    projects: [\n      {\n        extends: './vite.config.ts',\n        test: { name: 'unit', environment: 'happy-dom', include: ['src/**/*.unit.ts'], setupFiles: ['./test/setup.ts'] },\n      },\n    ],\n  },\n});\n",
      'test/setup.ts':
        "import { config } from '@vue/test-utils';\n\nconfig.global.mocks = { $t: (key) => key };\n",
      'src/GlazeCard.vue':
        "<script setup>\ndefineProps({ name: String });\n</script>\n\n<template>\n  <h2>{{ name }} {{ $t('ready') }}</h2>\n</template>\n",
      'src/GlazeCard.unit.ts':
        "import { mount } from '@vue/test-utils';\nimport { expect, it } from 'vitest';\nimport GlazeCard from '~/GlazeCard.vue';\n\nit('shows the name', () => {\n  expect(mount(GlazeCard, { props: { name: 'Celadon' } }).text()).toBe('Celadon ready');\n});\n",
    },
  },
  {
    name: 'React, jest 29 with swc',
    install: 'swc',
    packages: {
      jest: '^29.7.0',
      '@swc/core': '^1.10.0',
      '@swc/jest': '^0.2.37',
      '@testing-library/dom': '^10.4.0',
      '@testing-library/jest-dom': '^6.6.0',
      '@testing-library/react': '^16.1.0',
      '@testing-library/user-event': '^14.5.0',
      'jest-environment-jsdom': '^29.7.0',
      typescript: '^5.8.0',
      react: '^19.0.0',
      'react-dom': '^19.0.0',
    },
    files: {
      'package.json': common('jest'),
      'jest.config.js': `/** @type {import('jest').Config} */
module.exports = {
  testEnvironment: 'jsdom',
  roots: ['<rootDir>/src'],
  transform: {
    '^.+\\\\.tsx?$': ['@swc/jest', { jsc: { transform: { react: { runtime: 'automatic' } } } }],
  },
  moduleNameMapper: {
    '^@/(.*)$': '<rootDir>/src/$1',
    '\\\\.css$': '<rootDir>/test/style.js',
  },
  setupFilesAfterEnv: ['<rootDir>/test/setup.ts'],
};
`,
      'tsconfig.json': `{ "compilerOptions": { "jsx": "react-jsx", "strict": true, "module": "esnext", "moduleResolution": "bundler", "paths": { "@/*": ["./src/*"] } } }
`,
      'src/Shelf.tsx': shelf('react', '@/cones', "import './shelf.css';\n"),
      'src/shelf.css': `section { padding: 1em }
`,
      'src/cones.ts': shelfCones,
      'src/Shelf.test.tsx': `import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Shelf } from '@/Shelf';

describe('Shelf', () => {
  it('shows its cones once it is opened', async () => {
    const user = userEvent.setup();
    render(<Shelf kiln="Big Bertha" />);
    await user.click(screen.getByRole('button', { name: 'Big Bertha' }));
    expect(screen.getByText('6, 10')).toBeInTheDocument();
  });
});
`,
      'test/setup.ts': `import '@testing-library/jest-dom';
`,
      'test/style.js': `module.exports = {};
`,
    },
  },
  {
    name: 'React, Node’s own runner',
    install: 'node-test',
    packages: {
      tsx: '^4.19.0',
      '@testing-library/dom': '^10.4.0',
      '@testing-library/react': '^16.1.0',
      'global-jsdom': '^26.0.0',
      jsdom: '^26.0.0',
      typescript: '^5.8.0',
      react: '^19.0.0',
      'react-dom': '^19.0.0',
    },
    files: {
      'package.json': manifest(NODE_TEST),
      'tsconfig.json': `{ "compilerOptions": { "jsx": "react-jsx", "strict": true, "module": "nodenext" } }
`,
      'src/Shelf.tsx': shelf('react', './cones.js'),
      'src/cones.ts': shelfCones,
      'src/Shelf.test.tsx': `import assert from 'node:assert/strict';
import { describe, it } from 'node:test';
import { fireEvent, render, screen } from '@testing-library/react';
import { Shelf } from './Shelf.js';

describe('Shelf', () => {
  it('shows its cones once it is opened', () => {
    render(<Shelf kiln="Big Bertha" />);
    fireEvent.click(screen.getByRole('button', { name: 'Big Bertha' }));
    assert.ok(screen.getByText('6, 10'));
  });
});
`,
      'test/setup.ts': `import { afterEach } from 'node:test';
import { cleanup } from '@testing-library/react';

afterEach(cleanup);
`,
    },
  },
  {
    name: 'Preact, vitest 3 with joined settings',
    install: 'preact',
    packages: {
      vitest: '^3.2.0',
      '@preact/preset-vite': '^2.9.0',
      '@testing-library/preact': '^3.2.4',
      '@testing-library/jest-dom': '^6.6.0',
      'happy-dom': '^15.11.0',
      typescript: '^5.8.0',
      vite: '^6.0.0',
      preact: '^10.25.0',
    },
    files: {
      'package.json': manifest('vitest run'),
      'vite.config.ts': `import { fileURLToPath } from 'node:url';
import preact from '@preact/preset-vite';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [preact()],
  resolve: { alias: { '~': fileURLToPath(new URL('./src', import.meta.url)) } },
});
`,
      'vitest.config.ts': `import { configDefaults, defineConfig, mergeConfig } from 'vitest/config';
import viteConfig from './vite.config';

export default mergeConfig(
  viteConfig,
  defineConfig({
    test: {
      environment: 'happy-dom',
      setupFiles: 'src/test/setup.ts',
      exclude: [...configDefaults.exclude, 'e2e/**'],
    },
  }),
);
`,
      'tsconfig.json': `{ "compilerOptions": { "jsx": "react-jsx", "jsxImportSource": "preact", "module": "esnext", "moduleResolution": "bundler", "strict": true, "paths": { "~/*": ["./src/*"] } } }
`,
      'src/test/setup.ts': `import '@testing-library/jest-dom/vitest';
import { cleanup } from '@testing-library/preact';
import { afterEach } from 'vitest';

afterEach(cleanup);
`,
      'src/cones.ts': shelfCones,
      'src/shelf/Shelf.tsx': shelf('preact/hooks', '~/cones'),
      'src/shelf/Shelf.test.tsx': `import { fireEvent, render, screen } from '@testing-library/preact';
import { describe, expect, it } from 'vitest';
import { Shelf } from './Shelf';

describe('Shelf', () => {
  it('shows its cones once it is opened', async () => {
    render(<Shelf kiln="Big Bertha" />);
    fireEvent.click(screen.getByRole('button', { name: 'Big Bertha' }));
    expect(await screen.findByText('6, 10')).toBeInTheDocument();
  });
});
`,
    },
  },
  {
    name: 'React, jest 30 in ES modules',
    install: 'jest30-modules',
    packages: {
      jest: '^30.0.0',
      '@jest/globals': '^30.0.0',
      '@testing-library/dom': '^10.4.0',
      '@testing-library/jest-dom': '^6.6.0',
      '@testing-library/react': '^16.1.0',
      '@types/react': '^19.0.0',
      'jest-environment-jsdom': '^30.0.0',
      'ts-jest': '^29.4.0',
      typescript: '^5.8.0',
      react: '^19.0.0',
      'react-dom': '^19.0.0',
    },
    files: {
      'package.json': manifest('NODE_OPTIONS=--experimental-vm-modules jest'),
      'jest.config.js': `/** @type {import('ts-jest').JestConfigWithTsJest} */
export default {
  testEnvironment: 'jsdom',
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: { '^.+\\\\.tsx?$': ['ts-jest', { useESM: true }] },
  moduleNameMapper: { '^(\\\\.{1,2}/.*)\\\\.js$': '$1' },
  setupFilesAfterEnv: ['<rootDir>/test/setup.ts'],
};
`,
      'tsconfig.json': `{ "compilerOptions": { "jsx": "react-jsx", "module": "esnext", "moduleResolution": "bundler", "strict": true, "esModuleInterop": true, "skipLibCheck": true, "target": "es2022" } }
`,
      'test/setup.ts': `import '@testing-library/jest-dom/jest-globals';
`,
      'src/cones.ts': shelfCones,
      'src/Shelf.tsx': shelf('react', './cones.js'),
      'src/Shelf.test.tsx': `import { describe, expect, it, jest } from '@jest/globals';
import { fireEvent, render, screen } from '@testing-library/react';
import { Shelf } from './Shelf.js';

describe('Shelf', () => {
  it('shows its cones once it is opened', () => {
    jest.useRealTimers();
    render(<Shelf kiln="Big Bertha" />);
    fireEvent.click(screen.getByRole('button', { name: 'Big Bertha' }));
    expect(screen.getByText('6, 10')).toBeInTheDocument();
  });
});
`,
    },
  },
  {
    name: 'Vue, vue-cli 5 with jest 27',
    install: 'vue-cli',
    packages: {
      '@vue/cli-service': '~5.0.0',
      '@babel/core': '^7.12.16',
      '@vue/cli-plugin-babel': '~5.0.0',
      '@vue/cli-plugin-unit-jest': '~5.0.0',
      '@vue/test-utils': '^2.0.0-0',
      '@vue/vue3-jest': '^27.0.0-alpha.1',
      'babel-jest': '^27.0.6',
      jest: '^27.0.5',
      vue: '^3.2.13',
      'core-js': '^3.8.3',
    },
    files: {
      'package.json': common('vue-cli-service test:unit'),
      'jest.config.js': `module.exports = {
  preset: '@vue/cli-plugin-unit-jest'
}
`,
      'babel.config.js': `module.exports = { presets: ['@vue/cli-plugin-babel/preset'] }
`,
      'src/components/GlazeCard.vue': `<template>
  <h2>{{ name }}</h2>
</template>

<script>
export default { name: 'GlazeCard', props: { name: String } };
</script>
`,
      'tests/unit/glaze-card.spec.js': `import { shallowMount } from '@vue/test-utils'
import GlazeCard from '@/components/GlazeCard.vue'

describe('GlazeCard', () => {
  it('shows the name', () => {
    const wrapper = shallowMount(GlazeCard, { props: { name: 'Celadon' } })
    expect(wrapper.text()).toMatch('Celadon')
  })
})
`,
    },
  },
  {
    name: 'React, jest 29 with names from Babel',
    install: 'babel',
    packages: {
      react: '^18.3.1',
      'react-dom': '^18.3.1',
      '@babel/core': '^7.24.0',
      '@babel/preset-env': '^7.24.0',
      '@babel/preset-react': '^7.24.0',
      '@babel/preset-typescript': '^7.24.0',
      '@testing-library/dom': '^10.0.0',
      '@testing-library/jest-dom': '^6.4.0',
      '@testing-library/react': '^16.0.0',
      '@testing-library/user-event': '^14.5.0',
      'babel-plugin-module-resolver': '^5.0.0',
      'identity-obj-proxy': '^3.0.0',
      jest: '^29.7.0',
      'jest-environment-jsdom': '^29.7.0',
      typescript: '^5.5.0',
    },
    files: {
      'package.json': json({
        name: 'kilnroom',
        private: true,
        scripts: { test: 'jest' },
        jest: {
          testEnvironment: 'jsdom',
          setupFilesAfterEnv: ['<rootDir>/test/setup.js'],
          moduleNameMapper: { '\\.module\\.css$': 'identity-obj-proxy' },
          transform: { '\\.[jt]sx?$': 'babel-jest', '\\.svg$': '<rootDir>/test/svg.js' },
          restoreMocks: true,
        },
      }),
      '.babelrc': `{
  "presets": [
    ["@babel/preset-env", { "targets": { "node": "current" } }],
    ["@babel/preset-react", { "runtime": "automatic" }],
    "@babel/preset-typescript"
  ],
  "plugins": [["module-resolver", { "root": ["./src"], "extensions": [".js", ".ts", ".tsx"], "alias": { "@parts": "./src/parts" } }]]
}
`,
      'src/kilns.ts': `export const kilns = [
  { id: 'a', name: 'Big Bertha', cone: 6 },
  { id: 'b', name: 'Little Ash', cone: 10 },
];
`,
      'src/parts/KilnShelf.test.tsx': `import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { KilnShelf } from '@parts/KilnShelf';
import { kilns } from 'kilns';

describe('KilnShelf', () => {
  it('lights the kiln that is chosen', async () => {
    const user = userEvent.setup();
    render(<KilnShelf kilns={kilns} />);
    expect(screen.queryByRole('img')).not.toBeInTheDocument();
    await user.click(screen.getByRole('button', { name: 'Big Bertha' }));
    expect(screen.getByRole('img', { name: 'Big Bertha is lit' })).toHaveAttribute('src', 'flame.svg');
  });

  it('shows a button for each kiln', () => {
    render(<KilnShelf kilns={kilns} />);
    expect(screen.getAllByRole('button')).toHaveLength(2);
  });
});
`,
      'src/parts/KilnShelf.tsx': `import { useState } from 'react';
import flame from './flame.svg';
import styles from './shelf.module.css';

export function KilnShelf({ kilns }: { kilns: { id: string; name: string; cone: number }[] }) {
  const [lit, setLit] = useState<string | null>(null);
  return (
    <ul className={styles.shelf}>
      {kilns.map((kiln) => (
        <li key={kiln.id}>
          <button type="button" onClick={() => setLit(kiln.id)}>
            {kiln.name}
          </button>
          {lit === kiln.id && <img src={flame} alt={\`\${kiln.name} is lit\`} />}
        </li>
      ))}
    </ul>
  );
}
`,
      'src/parts/flame.svg': `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><path d="M4 0l4 8H0z"/></svg>
`,
      'src/parts/shelf.module.css': `.shelf { display: flex; }
`,
      'test/setup.js': `import '@testing-library/jest-dom';
import { configure } from '@testing-library/react';

configure({ testIdAttribute: 'data-part' });
`,
      'test/svg.js': `module.exports = {
  process: (text, file) => ({ code: \`module.exports = \${JSON.stringify(require('path').basename(file))};\` }),
};
`,
      'tsconfig.json': `{
  "compilerOptions": { "jsx": "react-jsx", "strict": true, "baseUrl": "src", "paths": { "@parts/*": ["parts/*"] }, "module": "esnext", "moduleResolution": "bundler", "types": ["jest", "@testing-library/jest-dom"] }
}
`,
    },
  },
  {
    name: 'React, a starter with another one’s settings',
    install: 'craco',
    packages: {
      react: '^18.3.1',
      'react-dom': '^18.3.1',
      'react-scripts': '5.0.1',
      '@craco/craco': '^7.1.0',
      '@testing-library/dom': '^10.0.0',
      '@testing-library/jest-dom': '^6.4.0',
      '@testing-library/react': '^16.0.0',
      '@testing-library/user-event': '^14.5.0',
      typescript: '^4.9.5',
    },
    files: {
      'package.json': json({
        name: 'kilnroom',
        private: true,
        scripts: { start: 'craco start', test: 'craco test --watchAll=false' },
        browserslist: {
          production: ['>0.2%'],
          test: ['last 1 chrome version'],
          development: ['last 1 chrome version'],
        },
      }),
      'craco.config.js': `const path = require('path');

module.exports = {
  webpack: { alias: { '~parts': path.resolve(__dirname, 'src/parts') } },
  jest: {
    configure: {
      moduleNameMapper: {
        '^~parts/(.*)$': '<rootDir>/src/parts/$1',
      },
    },
  },
};
`,
      'public/index.html': `<!doctype html><div id="root"></div>
`,
      'src/index.tsx': `import { createRoot } from 'react-dom/client';
import { GlazeTable } from './parts/GlazeTable';

createRoot(document.getElementById('root')!).render(<GlazeTable glazes={[]} />);
`,
      'src/parts/GlazeTable.test.tsx': `import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { GlazeTable } from '~parts/GlazeTable';

const glazes = [
  { name: 'Celadon', cone: 6 },
  { name: 'Shino', cone: 10 },
];

test('puts the highest first', async () => {
  render(<GlazeTable glazes={glazes} />);
  await userEvent.click(screen.getByRole('button', { name: 'Highest first' }));
  expect(screen.getAllByRole('listitem')[0]).toHaveTextContent('Shino');
});

test('shows them as they come', () => {
  const warn = jest.fn();
  render(<GlazeTable glazes={glazes} />);
  expect(screen.getAllByRole('listitem')[0]).toHaveTextContent('Celadon');
  expect(warn).not.toHaveBeenCalled();
});
`,
      'src/parts/GlazeTable.tsx': `import { useState } from 'react';
import './glaze.css';

export const GlazeTable = ({ glazes }: { glazes: { name: string; cone: number }[] }) => {
  const [highest, setHighest] = useState(false);
  const shown = highest ? [...glazes].sort((a, b) => b.cone - a.cone) : glazes;
  return (
    <section aria-label="Glazes">
      <button onClick={() => setHighest(!highest)}>Highest first</button>
      <ol>
        {shown.map((glaze) => (
          <li className="glaze" key={glaze.name}>
            {glaze.name}
          </li>
        ))}
      </ol>
    </section>
  );
};
`,
      'src/parts/glaze.css': `.glaze { color: teal; }
`,
      'src/react-app-env.d.ts': `/// <reference types="react-scripts" />
`,
      'src/setupTests.ts': `import '@testing-library/jest-dom';
`,
      'tsconfig.json': `{
  "compilerOptions": { "target": "es2020", "lib": ["dom", "esnext"], "jsx": "react-jsx", "strict": true, "module": "esnext", "moduleResolution": "node", "isolatedModules": true, "noEmit": true, "skipLibCheck": true, "esModuleInterop": true, "resolveJsonModule": true, "allowJs": true },
  "include": ["src"]
}
`,
    },
  },
  {
    name: 'Vue 2, vitest 1 with names from a plugin',
    install: 'vue2',
    packages: {
      vue: '^2.7.16',
      vuex: '^3.6.2',
      '@vitejs/plugin-vue2': '^2.3.1',
      '@vue/test-utils': '^1.3.6',
      jsdom: '^24.0.0',
      'unplugin-auto-import': '^0.17.0',
      vite: '^5.4.0',
      vitest: '^1.6.0',
      'vue-template-compiler': '^2.7.16',
    },
    files: {
      'package.json': json({
        name: 'kilnroom',
        private: true,
        type: 'module',
        scripts: { test: 'vitest run', dev: 'vite' },
      }),
      'src/parts/FiringCard.vue': `<template>
  <article class="firing">
    <h3>{{ title }}</h3>
    <p>{{ cone | cone }}</p>
    <p v-if="hot" role="status">{{ $t('hot') }}</p>
    <button type="button" @click="toggle">{{ label }}</button>
  </article>
</template>

<script setup>
const props = defineProps({ title: String, cone: Number })
const hot = ref(false)
const label = computed(() => (hot.value ? 'Cool' : 'Fire'))
const toggle = () => {
  hot.value = !hot.value
}
</script>
`,
      'src/store.js': `import Vue from 'vue'
import Vuex from 'vuex'

Vue.use(Vuex)

export const createStore = () =>
  new Vuex.Store({
    state: { firings: [{ id: 1, title: 'Bisque', cone: 4 }] },
    getters: { first: (state) => state.firings[0] },
  })
`,
      'tests/unit/firing-card.spec.js': `import { mount } from '@vue/test-utils'
import FiringCard from '@/parts/FiringCard.vue'
import { createStore } from '@/store'

describe('FiringCard', () => {
  it('fires', async () => {
    const { title, cone } = createStore().getters.first
    const wrapper = mount(FiringCard, { propsData: { title, cone } })
    expect(wrapper.text()).toContain('cone 4')
    await wrapper.find('button').trigger('click')
    expect(wrapper.find('[role=status]').text()).toBe('hot')
  })

  it('is cold at first', () => {
    const onFire = vi.fn()
    const wrapper = mount(FiringCard, { propsData: { title: 'Bisque', cone: 4 } })
    expect(wrapper.find('[role=status]').exists()).toBe(false)
    expect(onFire).not.toHaveBeenCalled()
  })
})
`,
      'tests/unit/setup.js': `import Vue from 'vue'
import { config } from '@vue/test-utils'

Vue.config.productionTip = false
Vue.filter('cone', (value) => \`cone \${value}\`)
config.mocks.$t = (key) => key
`,
      'vite.config.js': `import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue2'
import AutoImport from 'unplugin-auto-import/vite'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [vue(), AutoImport({ imports: ['vue'], dts: false })],
  resolve: {
    alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) },
  },
  test: {
    environment: 'jsdom',
    globals: true,
    setupFiles: ['tests/unit/setup.js'],
    include: ['tests/unit/**/*.spec.js'],
  },
})
`,
    },
  },
  {
    name: 'React, vitest 3 with the compiler’s paths',
    install: 'vtp',
    packages: {
      react: '^18.3.1',
      'react-dom': '^18.3.1',
      zustand: '^5.0.0',
      '@testing-library/dom': '^10.4.0',
      '@testing-library/jest-dom': '^6.6.0',
      '@testing-library/react': '^16.1.0',
      '@testing-library/user-event': '^14.5.0',
      '@vitejs/plugin-react': '^4.3.0',
      '@vitest/coverage-v8': '^3.0.0',
      jsdom: '^26.0.0',
      msw: '^2.7.0',
      typescript: '^5.7.0',
      vite: '^6.0.0',
      'vite-plugin-svgr': '^4.3.0',
      'vite-tsconfig-paths': '^5.1.0',
      vitest: '^3.0.0',
    },
    files: {
      'package.json': json({
        name: 'kilnroom',
        private: true,
        type: 'module',
        scripts: { test: 'vitest run --coverage' },
      }),
      'src/Board.test.tsx': `import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Board } from '#/Board';
import { useBoard } from '#/board';

beforeEach(() => useBoard.setState({ firings: [] }));

describe('Board', () => {
  it('lists the firings once they are loaded', async () => {
    render(<Board />);
    await userEvent.click(screen.getByRole('button', { name: 'Load' }));
    expect(await screen.findByText('Celadon')).toBeInTheDocument();
  });

  it('is empty before', () => {
    const warn = vi.fn();
    render(<Board />);
    expect(screen.queryByRole('listitem')).not.toBeInTheDocument();
    expect(warn).not.toHaveBeenCalled();
  });
});
`,
      'src/Board.tsx': `import { useBoard } from '#/board';
import styles from './board.module.css';
import Flame from './flame.svg?react';

export function Board() {
  const { firings, load } = useBoard();
  return (
    <section className={styles.board} aria-label="Firings">
      <button type="button" onClick={() => void load()}>
        <Flame aria-hidden="true" /> Load
      </button>
      <ul>
        {firings.map((firing) => (
          <li key={firing.id}>{firing.glaze}</li>
        ))}
      </ul>
    </section>
  );
}
`,
      'src/board.module.css': `.board { color: teal; }
`,
      'src/board.ts': `import { create } from 'zustand';

interface Board {
  firings: { id: number; glaze: string }[];
  load: () => Promise<void>;
}

export const useBoard = create<Board>((set) => ({
  firings: [],
  load: async () => {
    const answer = await fetch('http://kilns.test/firings');
    set({ firings: await answer.json() });
  },
}));
`,
      'src/flame.svg': `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><path d="M4 0l4 8H0z" /></svg>
`,
      'test/server.ts': `import { http, HttpResponse } from 'msw';
import { setupServer } from 'msw/node';

export const server = setupServer(
  http.get('http://kilns.test/firings', () => HttpResponse.json([{ id: 1, glaze: 'Celadon' }])),
);
`,
      'test/setup.ts': `import '@testing-library/jest-dom/vitest';
import { server } from './server';

beforeAll(() => server.listen({ onUnhandledRequest: 'error' }));
afterEach(() => server.resetHandlers());
afterAll(() => server.close());
`,
      'tsconfig.json': `{ "compilerOptions": { "jsx": "react-jsx", "strict": true, "module": "esnext", "moduleResolution": "bundler", "baseUrl": ".", "paths": { "#/*": ["src/*"] }, "types": ["vitest/globals", "@testing-library/jest-dom", "vite-plugin-svgr/client"] }, "include": ["src", "test"] }
`,
      'vite.config.ts': `/// <reference types="vitest/config" />
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import svgr from 'vite-plugin-svgr';
import paths from 'vite-tsconfig-paths';

export default defineConfig(({ mode }) => ({
  plugins: [react(), svgr(), paths()],
  test: {
    environment: 'jsdom',
    globals: true,
    setupFiles: './test/setup.ts',
    css: mode === 'test',
    coverage: { provider: 'v8', include: ['src/**/*.tsx'] },
  },
}));
`,
    },
  },
  {
    name: 'React, jest 29 with a mapper made of paths',
    install: 'tsj',
    packages: {
      '@emotion/react': '^11.14.0',
      react: '^18.3.1',
      'react-dom': '^18.3.1',
      '@testing-library/dom': '^10.4.0',
      '@testing-library/jest-dom': '^6.6.0',
      '@testing-library/react': '^16.1.0',
      '@types/jest': '^29.5.0',
      '@types/react': '^18.3.0',
      '@types/react-dom': '^18.3.0',
      jest: '^29.7.0',
      'jest-environment-jsdom': '^29.7.0',
      'ts-jest': '^29.2.0',
      typescript: '^5.7.0',
    },
    files: {
      'package.json': json({
        name: 'kilnroom',
        private: true,
        scripts: { pretest: 'tsc --noEmit', test: 'jest --ci' },
      }),
      'jest.config.js': `const { pathsToModuleNameMapper } = require('ts-jest');
const { compilerOptions } = require('./tsconfig.json');

/** @type {import('jest').Config} */
module.exports = {
  preset: 'ts-jest',
  testEnvironment: 'jsdom',
  roots: ['<rootDir>/src'],
  moduleNameMapper: {
    ...pathsToModuleNameMapper(compilerOptions.paths, { prefix: '<rootDir>/' }),
    '\\\\.(png|jpg)$': '<rootDir>/test/file.js',
  },
  setupFilesAfterEnv: ['<rootDir>/test/setup.ts'],
};
`,
      'src/data/index.ts': `export interface Kiln {
  name: string;
  hot: boolean;
}

export const kilns: Kiln[] = [
  { name: 'Big Bertha', hot: true },
  { name: 'Little Ash', hot: false },
];
`,
      'src/parts/KilnList.tsx': `import type { Kiln } from '@data';
import lid from './lid.png';

export const KilnList = ({ kilns, onOpen }: { kilns: Kiln[]; onOpen: (name: string) => void }) => (
  <ul>
    {kilns.map(({ name, hot }) => (
      <li key={name}>
        <img src={lid} alt={hot ? 'closed' : 'open'} />
        <button type="button" disabled={hot} onClick={() => onOpen(name)}>
          {name}
        </button>
      </li>
    ))}
  </ul>
);
`,
      'src/parts/__tests__/KilnList.test.tsx': `import { fireEvent, render, screen } from '@testing-library/react';
import { kilns } from '@data';
import { KilnList } from '@parts/KilnList';

describe('KilnList', () => {
  it('opens the kiln that is cold', () => {
    const onOpen = jest.fn();
    render(<KilnList kilns={kilns} onOpen={onOpen} />);
    fireEvent.click(screen.getByRole('button', { name: 'Little Ash' }));
    expect(onOpen).toHaveBeenCalledWith('Little Ash');
    expect(screen.getByRole('button', { name: 'Big Bertha' })).toBeDisabled();
  });
});
`,
      'src/parts/lid.png': `png
`,
      'src/types.d.ts': `declare module '*.png' {
  const url: string;
  export default url;
}
`,
      'test/file.js': `module.exports = 'file';
`,
      'test/setup.ts': `import '@testing-library/jest-dom';
`,
      'tsconfig.json': `{
  "compilerOptions": {
    "target": "es2020",
    "lib": ["dom", "es2022"],
    "jsx": "react-jsx",
    "strict": true,
    "module": "commonjs",
    "moduleResolution": "node",
    "esModuleInterop": true,
    "skipLibCheck": true,
    "baseUrl": ".",
    "paths": { "@parts/*": ["src/parts/*"], "@data": ["src/data/index.ts"] }
  },
  "include": ["src", "test"]
}
`,
    },
  },
  {
    name: 'React, Nx and jest 30',
    install: 'nx',
    // Its graph asks the package manager whose lock file is there.
    lock: 'package-lock.json',
    packages: {
      jest: '^30.0.0',
      react: '^19.0.0',
      'react-dom': '^19.0.0',
      '@babel/core': '^7.14.5',
      '@babel/preset-react': '^7.14.5',
      '@nx/jest': '^22.0.0',
      '@nx/js': '^22.0.0',
      '@nx/react': '^22.0.0',
      '@swc/core': '^1.15.0',
      '@swc/helpers': '^0.5.0',
      '@testing-library/dom': '^10.4.0',
      '@testing-library/jest-dom': '^6.0.0',
      '@testing-library/react': '^16.3.0',
      '@types/jest': '^30.0.0',
      '@types/node': '^20.0.0',
      '@types/react': '^19.0.0',
      '@types/react-dom': '^19.0.0',
      'babel-jest': '^30.0.0',
      'jest-environment-jsdom': '^30.0.0',
      'jest-util': '^30.0.0',
      nx: '^22.0.0',
      'ts-jest': '^29.4.0',
      'ts-node': '^10.9.0',
      typescript: '~5.9.0',
    },
    files: {
      'package.json': common('jest'),
      'nx.json': `{
  "$schema": "./node_modules/nx/schemas/nx-schema.json",
  "namedInputs": {
    "default": ["{projectRoot}/**/*", "sharedGlobals"],
    "production": ["default", "!{projectRoot}/**/?(*.)+(spec|test).[jt]s?(x)?(.snap)"],
    "sharedGlobals": []
  },
  "plugins": [{ "plugin": "@nx/jest/plugin", "options": { "targetName": "test" } }]
}
`,
      'jest.preset.js': `const nxPreset = require('@nx/jest/preset').default;

module.exports = { ...nxPreset };
`,
      'jest.config.ts': `import type { Config } from 'jest';
import { getJestProjectsAsync } from '@nx/jest';

export default async (): Promise<Config> => ({
  projects: await getJestProjectsAsync(),
});
`,
      'tsconfig.base.json': `{
  "compileOnSave": false,
  "compilerOptions": {
    "rootDir": ".",
    "sourceMap": true,
    "moduleResolution": "node",
    "emitDecoratorMetadata": true,
    "experimentalDecorators": true,
    "target": "es2015",
    "module": "esnext",
    "lib": ["es2020", "dom"],
    "skipLibCheck": true,
    "baseUrl": ".",
    "paths": {
      "@studio/glazes": ["packages/glazes/src/index.ts"],
      "@studio/kilns": ["packages/kilns/src/index.ts"]
    }
  },
  "exclude": ["node_modules", "tmp"]
}
`,
      ...nxPackage('kilns'),
      'packages/kilns/src/index.ts': `export * from './lib/kiln-door';
`,
      ...nxPackage('glazes'),
      'packages/glazes/src/index.ts': `export * from './lib/glaze-chip';
`,
      'packages/kilns/src/lib/kiln-door.tsx': `import { useState } from 'react';
import { GlazeChip } from '@studio/glazes';
import plan from './plan.svg';

export function KilnDoor({ glaze }: { glaze: string }) {
  const [open, setOpen] = useState(false);
  return (
    <section aria-label="Kiln">
      <img src={plan} alt="Plan of the kiln" />
      <button onClick={() => setOpen(!open)}>{open ? 'Close the door' : 'Open the door'}</button>
      {open && <GlazeChip name={glaze} />}
    </section>
  );
}
`,
      'packages/kilns/src/lib/kiln-door.spec.tsx': `import { fireEvent, render, screen } from '@testing-library/react';
import { KilnDoor } from './kiln-door';

describe('KilnDoor', () => {
  it('shows the glaze behind the open door', () => {
    render(<KilnDoor glaze="Shino" />);
    expect(screen.queryByText('Shino')).not.toBeInTheDocument();
    fireEvent.click(screen.getByRole('button', { name: 'Open the door' }));
    expect(screen.getByText('Shino')).toBeVisible();
  });
});
`,
      'packages/kilns/src/lib/plan.svg': `<svg xmlns="http://www.w3.org/2000/svg"/>
`,
      'packages/kilns/src/lib/assets.d.ts': `declare module '*.svg' { const src: string; export default src; }
declare module '*.module.css' { const classes: Record<string, string>; export default classes; }
`,
      'packages/glazes/src/lib/glaze-chip.tsx': `import styles from './glaze-chip.module.css';

export interface GlazeChipProps {
  name: string;
  dry?: boolean;
}

export function GlazeChip({ name, dry = false }: GlazeChipProps) {
  return <span className={styles['chip']}>{dry ? \`\${name}, dry\` : name}</span>;
}
`,
      'packages/glazes/src/lib/glaze-chip.spec.tsx': `import { render, screen } from '@testing-library/react';
import { GlazeChip } from './glaze-chip';

describe('GlazeChip', () => {
  it('names the glaze', () => {
    render(<GlazeChip name="Celadon" />);
    expect(screen.getByText('Celadon')).toBeInTheDocument();
  });

  it('says that the glaze is dry', () => {
    render(<GlazeChip name="Tenmoku" dry />);
    expect(screen.getByText('Tenmoku, dry')).toBeInTheDocument();
  });
});
`,
      'packages/glazes/src/lib/glaze-chip.module.css': `.chip { border-radius: 4px; }
`,
    },
  },
  {
    name: 'Angular, vitest 3 by a plugin',
    install: 'analog',
    packages: {
      vitest: '^3.0.0',
      '@angular/common': '^20.0.0',
      '@angular/compiler': '^20.0.0',
      '@angular/core': '^20.0.0',
      '@angular/forms': '^20.0.0',
      '@angular/platform-browser': '^20.0.0',
      rxjs: '~7.8.0',
      tslib: '^2.3.0',
      'zone.js': '~0.15.0',
      '@analogjs/vite-plugin-angular': '^2.0.0',
      '@analogjs/vitest-angular': '^2.0.0',
      '@angular/build': '^20.0.0',
      '@angular/cli': '^20.0.0',
      '@angular/compiler-cli': '^20.0.0',
      '@testing-library/angular': '^18.0.0',
      '@testing-library/dom': '^10.4.0',
      jsdom: '^26.0.0',
      typescript: '~5.9.0',
      vite: '^7.0.0',
    },
    files: {
      'package.json': common('vitest run'),
      'vite.config.mts': `/// <reference types="vitest" />

import angular from '@analogjs/vite-plugin-angular';

import { defineConfig } from 'vite';

// https://vitejs.dev/config/
export default defineConfig(({ mode }) => {
  return {
    plugins: [angular()],
    test: {
      globals: true,
      setupFiles: ['src/test-setup.ts'],
      environment: 'jsdom',
      include: ['src/**/*.{test,spec}.{js,mjs,cjs,ts,mts,cts,jsx,tsx}'],
      reporters: ['default'],
    },
    define: {
      'import.meta.vitest': mode !== 'production',
    },
  };
});
`,
      'tsconfig.json': `{
  "compileOnSave": false,
  "compilerOptions": {
    "outDir": "./dist/out-tsc", "strict": true, "skipLibCheck": true, "experimentalDecorators": true,
    "importHelpers": true, "target": "ES2022", "module": "preserve", "moduleResolution": "bundler"
  },
  "angularCompilerOptions": { "strictTemplates": true },
  "files": [],
  "references": [{ "path": "./tsconfig.app.json" }, { "path": "./tsconfig.spec.json" }]
}
`,
      'tsconfig.app.json': `{ "extends": "./tsconfig.json", "compilerOptions": { "outDir": "./out-tsc/app", "types": [] }, "include": ["src/**/*.ts"], "exclude": ["src/**/*.spec.ts"] }
`,
      'tsconfig.spec.json': `{
  "extends": "./tsconfig.json",
  "compilerOptions": { "outDir": "./out-tsc/spec", "target": "es2016", "types": ["vitest/globals", "node"] },
  "files": ["src/test-setup.ts"],
  "include": ["src/**/*.spec.ts", "src/**/*.d.ts"]
}
`,
      'src/test-setup.ts': `import '@angular/compiler';
import '@analogjs/vitest-angular/setup-zone';

import {
  BrowserTestingModule,
  platformBrowserTesting,
} from '@angular/platform-browser/testing';
import { getTestBed } from '@angular/core/testing';

getTestBed().initTestEnvironment(
  BrowserTestingModule,
  platformBrowserTesting()
);
`,
      'src/app/glaze-shelf.ts': `import { Component, inject, input, output } from '@angular/core';
import { GlazePrices } from './glaze-prices';

@Component({
  selector: 'app-glaze-shelf',
  templateUrl: './glaze-shelf.html',
})
export class GlazeShelf {
  readonly glaze = input.required<string>();
  readonly taken = output<string>();
  private readonly prices = inject(GlazePrices);

  price() {
    return this.prices.of(this.glaze());
  }
}
`,
      'src/app/glaze-shelf.html': `<h2>{{ glaze() }}</h2>
@if (price(); as price) {
  <p>{{ price }} a jar</p>
}
<button (click)="taken.emit(glaze())">Take it</button>
`,
      'src/app/glaze-prices.ts': `import { Injectable } from '@angular/core';

@Injectable({ providedIn: 'root' })
export class GlazePrices {
  of(glaze: string) {
    return glaze === 'Shino' ? 12 : 0;
  }
}
`,
      'src/app/glaze-shelf.spec.ts': `import { TestBed } from '@angular/core/testing';
import { GlazeShelf } from './glaze-shelf';

describe('GlazeShelf', () => {
  function shelf(glaze: string) {
    const fixture = TestBed.createComponent(GlazeShelf);
    fixture.componentRef.setInput('glaze', glaze);
    fixture.detectChanges();
    return fixture;
  }

  it('says what a jar costs', () => {
    const page: HTMLElement = shelf('Shino').nativeElement;
    expect(page.textContent).toContain('12 a jar');
  });

  it('says no price where there is none', () => {
    const page: HTMLElement = shelf('Celadon').nativeElement;
    expect(page.textContent).not.toContain('a jar');
  });

  it('hands over the glaze that is taken', () => {
    const fixture = shelf('Shino');
    const taken = vi.fn();
    fixture.componentInstance.taken.subscribe(taken);
    fixture.nativeElement.querySelector('button').click();
    expect(taken).toHaveBeenCalledWith('Shino');
  });
});
`,
    },
  },
];

// The faults of `npm run verify:environment`: small edits of a sound project, each with the code that must name it.
// `edit`: by path, what to replace and by what, a whole new text, or `null` for no file; `lacks`: packages that are
// neither declared nor installed.
const V4 = 'React, vitest 4';
const V1 = 'React, vitest 1';
const V2 = 'React, vitest 2';
const VUE_V = 'Vue, vitest 4';
const SPACE = 'Workspace, vitest 3';
const J29 = 'React, jest 29';
const J30 = 'React, jest 30 and ts-jest';
const VUE_J = 'Vue, jest 29';
const PROJECTS_J = 'Workspaces, jest 29 with projects';
const M11 = 'React, mocha 11 with a compile hook';
const M10 = 'React, mocha 10 with a compile hook';
const M12 = 'React, mocha 12 with no compile hook';
const NG = 'Angular, its own builder';
const NG_J = 'Angular, jest 29 and a preset';
const NEXT = 'React, a framework’s wrapper of settings';
const OLD = 'Design system, jest 29 with shims and an adapter';

const STARTER = 'React, a starter with settings of its own';
const JASMINE = 'React, jasmine 5 in Node';

const SWC = 'React, jest 29 with swc';
const NODE = 'React, Node’s own runner';
const PREACT = 'Preact, vitest 3 with joined settings';
const MODULES = 'React, jest 30 in ES modules';
const VUE_CLI = 'Vue, vue-cli 5 with jest 27';
const NAMES = 'React, jest 29 with names from Babel';
const CRACO = 'React, a starter with another one’s settings';
const VUE2 = 'Vue 2, vitest 1 with names from a plugin';
const PATHS = 'React, vitest 3 with the compiler’s paths';
const MADE_MAP = 'React, jest 29 with a mapper made of paths';
const PRESET = 'React, jest 30 with a preset of its own';
const NX = 'React, Nx and jest 30';
const ANALOG = 'Angular, vitest 3 by a plugin';
const IN_PLACE = 'Vue, vitest 4 with a project in place';

const ASKS_WIDTH = [
  [
    '=> (',
    '=> {\n  useEffect(() => {\n    document.title = String(window.matchMedia("(width < 40em)").matches);\n  }, []);\n  return (',
  ],
  ["import { cone } from './cone';", "import { useEffect } from 'react';\nimport { cone } from './cone';"],
  ['\n);\n', '\n);\n};\n'],
];
const LOADS = (name, module, file = 'src/KilnCard.tsx') => ({
  [file]: [
    "import { cone } from './cone';",
    `import { ${name} } from '${module}';\nimport { cone } from './cone';\n\nexport const word = ${name}('ab');`,
  ],
});
const BUNDLED = [V4, V2, V1];
const CONFIG = 'vitest.config.ts';
const JEST = 'jest.config.js';
const SPEC = 'src/KilnCard.spec.tsx';
const DOM = ["    environment: 'jsdom',\n", ''];

const NX_KILNS = 'packages/kilns/jest.config.ts';
const VITE = 'vite.config.mts';

const on = (projects, faults) =>
  [projects].flat().flatMap((project) => faults.map((fault) => ({ on: project, ...fault })));

const SETTINGS = 'tsconfig.json';
const NO_PLUGIN = [
  ["import react from '@vitejs/plugin-react';\n", ''],
  ['  plugins: [react()],\n', ''],
];
const ATOP_SPEC = (text) => ({
  [SPEC]: ["import { KilnCard } from './KilnCard';", `${text}\nimport { KilnCard } from './KilnCard';`],
});

/** Faults that every project of the bundler’s runner can have. */
const bundled = [
  {
    code: 'E10',
    name: 'JSX is kept for another compiler, and no plugin compiles it',
    edit: { [CONFIG]: NO_PLUGIN, [SETTINGS]: ['react-jsx', 'preserve'] },
  },
  {
    code: 'E10',
    name: 'JSX becomes calls of a name, by the compiler’s settings',
    edit: { [CONFIG]: NO_PLUGIN, [SETTINGS]: ['react-jsx', 'react'] },
  },
  {
    code: 'E10',
    name: 'the plugin is told to make calls of a name',
    edit: { [CONFIG]: ['react()', "react({ jsxRuntime: 'classic' })"] },
  },
  {
    code: 'E10',
    name: 'JSX in a .js file',
    edit: {
      'src/KilnCard.tsx': null,
      'src/KilnCard.js': 'export const KilnCard = ({ name }) => <h2>{name}, cone 6</h2>;\n',
    },
  },
  {
    code: 'E10',
    name: 'the component is asked for by require',
    edit: {
      [SPEC]: ["import { KilnCard } from './KilnCard';", "const { KilnCard } = require('./KilnCard');"],
    },
  },
  {
    code: 'E21',
    name: 'the package that JSX becomes imports of is missing',
    edit: { [SETTINGS]: ['"react-jsx"', '"react-jsx",\n    "jsxImportSource": "clay"'] },
  },
  {
    code: 'E04',
    name: 'the compiler’s settings extend what is not there',
    edit: { [SETTINGS]: ['{\n', '{\n  "extends": "./tsconfig.base.json",\n'] },
  },
  {
    code: 'E04',
    name: 'the compiler’s settings refer to what is not there',
    edit: { [SETTINGS]: ['{\n', '{\n  "references": [{ "path": "./tsconfig.node.json" }],\n'] },
  },
  {
    code: 'E19',
    name: 'the compiler’s settings lack a comma',
    edit: { [SETTINGS]: ['"react-jsx",', '"react-jsx"'] },
  },
  {
    code: 'E19',
    name: 'a spec waits and is not async',
    edit: { [SPEC]: ['    render(', '    await Promise.resolve();\n    render('] },
  },
  {
    code: 'E20',
    name: 'the script has an option of another runner',
    edit: { 'package.json': ['vitest run', 'vitest run --watchAll=false'] },
  },
  {
    code: 'E22',
    name: 'a callback of another runner',
    edit: {
      [SPEC]: [
        ["cone', () => {", "cone', (done) => {"],
        ["cone 6');\n", "cone 6');\n    done();\n"],
      ],
    },
  },
  {
    code: 'E23',
    name: 'a factory reads what is not there yet',
    edit: ATOP_SPEC("\nconst hot = 'cone 6';\nvi.mock('./cone', () => ({ cone: hot }));"),
  },
  {
    code: 'E26',
    name: 'a stand-in does not give what the spec asks for',
    edit: ATOP_SPEC(
      "import { cone } from './cone';\n\nvi.mock('./cone', () => ({ heat: 1 }));\nString(cone);",
    ),
  },
  {
    code: 'E26',
    name: 'a name that the library has no more',
    edit: {
      [SPEC]: [
        ['render, screen }', 'render, screen, waitForElement }'],
        ['    expect(', '    waitForElement(() => screen.getByRole("heading"));\n    expect('],
      ],
    },
  },
  {
    code: 'E29',
    name: 'a helper that is named like a spec file',
    edit: { 'src/kilns.spec.ts': 'export const kilns = [];\n' },
  },
  { code: 'E01', name: 'the runner of the script is not declared', lacks: ['vitest'] },
  { code: 'E03', name: 'the document package is missing', lacks: ['jsdom'] },
  { code: 'E02', name: 'no document is chosen', edit: { [CONFIG]: DOM } },
  {
    code: 'E04',
    name: 'a slip in the path of the set-up file',
    edit: { [CONFIG]: ['setup.ts', 'setpu.ts'] },
  },
  {
    code: 'E05',
    name: 'the set-up file is named by no setting',
    edit: { [CONFIG]: ["    setupFiles: ['./test/setup.ts'],\n", ''] },
  },
  {
    code: 'E06',
    name: 'the matchers are not registered',
    edit: { 'test/setup.ts': "import { afterEach } from 'vitest';\n\nafterEach(() => {});\n" },
  },
  { code: ['E07', 'E06'], name: 'the globals are off', edit: { [CONFIG]: ['    globals: true,\n', ''] } },
  {
    code: 'E09',
    name: 'the pattern leaves the specs out',
    edit: { [CONFIG]: ['globals: true', "globals: true,\n    include: ['src/**/*.test.tsx']"] },
  },
  {
    code: 'E13',
    name: 'an alias that only the compiler knows',
    edit: {
      [SPEC]: ["'./KilnCard'", "'@/KilnCard'"],
      'tsconfig.json': ['"jsx"', '"paths": { "@/*": ["./src/*"] },\n    "jsx"'],
    },
  },
  {
    code: 'E26',
    name: 'a component is taken by default, and given by its name',
    edit: { [SPEC]: ['import { KilnCard }', 'import KilnCard'] },
  },
  {
    code: 'E27',
    name: 'a component asks how wide the page is',
    edit: { 'src/KilnCard.tsx': ASKS_WIDTH },
  },
];

export const FAULTS = [
  ...on(BUNDLED, bundled),
  ...on(V4, [
    { code: 'E20', name: 'a misspelt key: enviroment', edit: { [CONFIG]: ['environment:', 'enviroment:'] } },
    {
      code: 'E20',
      name: 'a key of the other runner: testEnvironment',
      edit: { [CONFIG]: ['environment:', 'testEnvironment:'] },
    },
    {
      code: 'E20',
      name: 'a key of the other runner: setupFilesAfterEnv',
      edit: { [CONFIG]: ['setupFiles:', 'setupFilesAfterEnv:'] },
    },
    {
      code: 'E20',
      name: 'the environment stands beside the section',
      edit: {
        [CONFIG]: [
          ["    environment: 'jsdom',\n", ''],
          ['  test: {', "  environment: 'jsdom',\n  test: {"],
        ],
      },
    },
    {
      code: 'E20',
      name: 'the globals stand beside the section',
      edit: {
        [CONFIG]: [
          ['    globals: true,\n', ''],
          ['  test: {', '  globals: true,\n  test: {'],
        ],
      },
    },
    { code: 'E03', name: 'a document that there is not: jsdm', edit: { [CONFIG]: ["'jsdom'", "'jsdm'"] } },
    {
      code: 'E03',
      name: 'another document, not installed',
      edit: { [CONFIG]: ["'jsdom'", "'happy-dom'"] },
      lacks: ['happy-dom'],
    },
    {
      code: 'E23',
      name: 'globalSetup where a set-up file was meant',
      edit: { [CONFIG]: ['setupFiles:', 'globalSetup:'] },
    },
    {
      code: 'E09',
      name: 'an exclude entry takes the specs',
      edit: { [CONFIG]: ['globals: true', "globals: true,\n    exclude: ['src/**']"] },
    },
    {
      code: 'E09',
      name: 'the folder that is searched is another',
      edit: { [CONFIG]: ['globals: true', "globals: true,\n    dir: 'test'"] },
    },
    {
      code: ['E04', 'E09'],
      name: 'the root is another',
      edit: { [CONFIG]: ['globals: true', "globals: true,\n    root: './test'"] },
    },
    {
      code: 'E09',
      name: 'the name is not collected',
      edit: {
        [SPEC]: null,
        'src/KilnCard.specs.tsx':
          "import { render } from '@testing-library/react';\nimport { KilnCard } from './KilnCard';\n\nit('renders', () => {\n  expect(render(<KilnCard name=\"A\" />).container).toBeTruthy();\n});\n",
      },
    },
    {
      code: 'E09',
      name: 'the script names a folder without specs',
      edit: { 'package.json': ['vitest run', 'vitest run test/unit'] },
    },
    {
      code: 'E09',
      name: 'the script searches another folder',
      edit: { 'package.json': ['vitest run', 'vitest run --dir test'] },
    },
    {
      code: ['E01', 'E04'],
      name: 'the script names settings that are not there',
      edit: { 'package.json': ['vitest run', 'vitest run --config vitest.unit.config.ts'] },
    },
    {
      code: 'E02',
      name: 'the script chooses node',
      edit: { 'package.json': ['vitest run', 'vitest run --environment node'] },
    },
    {
      code: 'E02',
      name: 'a comment chooses node',
      edit: { [SPEC]: ['import { render', '// @vitest-environment node\nimport { render'] },
    },
    {
      code: 'E14',
      name: 'the settings stand in the file that loses',
      edit: {
        'vite.config.ts':
          "import { defineConfig } from 'vitest/config';\n\nexport default defineConfig({ test: { environment: 'jsdom', globals: true, setupFiles: ['./test/setup.ts'] } });\n",
        [CONFIG]:
          "import { defineConfig } from 'vitest/config';\n\nexport default defineConfig({ test: { globals: true } });\n",
      },
    },
    {
      code: 'E22',
      name: 'functions of the other runner',
      edit: { [SPEC]: ["describe('KilnCard'", "jest.fn();\n\ndescribe('KilnCard'"] },
    },
    {
      code: 'E21',
      name: 'a package that is not declared or there',
      edit: {
        [SPEC]: ['import { KilnCard }', "import '@testing-library/user-events';\nimport { KilnCard }"],
      },
    },
    {
      code: 'E21',
      name: 'the set-up file loads a package that is not there',
      edit: { 'test/setup.ts': "import '@testing-library/jest-dom/vitest';\nimport 'vitest-kiln-fail';\n" },
    },
    {
      code: 'E21',
      name: 'a component loads a file that is not there',
      edit: { 'src/KilnCard.tsx': ["'./cone'", "'./cones'"] },
    },
    {
      code: 'E21',
      name: 'a spec loads a component that is not there',
      edit: { [SPEC]: ["'./KilnCard'", "'./KilnCards'"] },
    },
    {
      code: 'E26',
      name: 'an export that is not there',
      edit: {
        'test/setup.ts':
          "import '@testing-library/jest-dom/vitest';\nimport { warmUp } from './warm';\n\nwarmUp();\n",
        'test/warm.ts': 'export const heatUp = () => {};\n',
      },
    },
    {
      code: ['E06', 'E07'],
      name: 'the matchers by the entry that needs globals',
      edit: {
        'test/setup.ts': "import '@testing-library/jest-dom';\n",
        [CONFIG]: ['    globals: true,\n', ''],
        [SPEC]: ['import { render', "import { describe, expect, it } from 'vitest';\nimport { render"],
      },
    },
    {
      code: ['E04', 'E21'],
      name: 'an alias that leads nowhere',
      edit: {
        [CONFIG]: [
          '  test: {',
          "  resolve: { alias: { '@': new URL('./source', import.meta.url).pathname } },\n  test: {",
        ],
        [SPEC]: ["'./KilnCard'", "'@/KilnCard'"],
      },
    },
    { code: 'E21', name: 'a package that the component loads is missing', lacks: ['react-dom'] },
    { code: 'E21', name: 'a peer of the render library is missing', lacks: ['@testing-library/dom'] },
    {
      code: ['E04', 'E21'],
      name: 'the plugin that the settings load is missing',
      lacks: ['@vitejs/plugin-react'],
    },
    {
      code: 'E19',
      name: 'settings with a slip in the syntax',
      edit: { [CONFIG]: ['globals: true,', 'globals: true,,'] },
    },
    {
      code: 'E05',
      name: 'the set-up files are an empty list',
      edit: { [CONFIG]: ["['./test/setup.ts']", '[]'] },
    },
    {
      code: 'E20',
      name: 'a value that is none of the known ones: pool',
      edit: { [CONFIG]: ['globals: true', "globals: true,\n    pool: 'fork'"] },
    },
  ]),
  ...on(V1, [
    {
      code: ['E02', 'E20'],
      name: 'projects in the settings, before there were any',
      edit: {
        [CONFIG]: [
          ["    environment: 'jsdom',\n", ''],
          [
            'globals: true',
            "globals: true,\n    projects: [{ extends: true, test: { environment: 'jsdom' } }]",
          ],
        ],
      },
    },
  ]),
  ...on(VUE_V, [
    {
      code: 'E10',
      name: 'no plugin for single-file components',
      edit: { [CONFIG]: ['  plugins: [vue()],\n', ''] },
    },
    {
      code: 'E10',
      name: 'the plugin is of another framework',
      edit: { [CONFIG]: ["@vitejs/plugin-vue';", "@vitejs/plugin-react';"] },
    },
    { code: 'E02', name: 'no document is chosen', edit: { [CONFIG]: DOM } },
    { code: 'E03', name: 'the document package is missing', lacks: ['jsdom'] },
    { code: 'E07', name: 'the globals are off', edit: { [CONFIG]: ['    globals: true,\n', ''] } },
    { code: 'E21', name: 'the mount library is missing', lacks: ['@vue/test-utils'] },
    {
      code: ['E04', 'E21'],
      name: 'the plugin that the settings load is missing',
      lacks: ['@vitejs/plugin-vue'],
    },
    {
      code: 'E13',
      name: 'an alias that nobody sets',
      edit: { 'src/GlazeCard.spec.js': ["'./GlazeCard.vue'", "'@/GlazeCard.vue'"] },
    },
    {
      code: 'E21',
      name: 'an import that lacks its extension',
      edit: { 'src/GlazeCard.spec.js': ["'./GlazeCard.vue'", "'./GlazeCard'"] },
    },
    {
      code: 'E01',
      name: 'the script calls a script that is not there',
      edit: { 'package.json': ['vitest run', 'npm run test:unit'] },
    },
    {
      code: 'E01',
      name: 'the script starts another runner',
      edit: { 'package.json': ['vitest run', 'jest'] },
    },
    {
      code: 'E09',
      name: 'nothing is collected: a folder that there is not',
      edit: { [CONFIG]: ['globals: true', "globals: true,\n    include: ['tests/**/*.spec.js']"] },
    },
  ]),
  ...on(SPACE, [
    {
      code: ['E04', 'E09'],
      name: 'the pattern of the projects leads nowhere',
      edit: { [CONFIG]: ['packages/*', 'package/*'] },
    },
    { code: 'E02', name: 'a member chooses no document', edit: { 'packages/board/vitest.config.ts': DOM } },
    {
      code: 'E04',
      name: 'a member’s set-up file is missing',
      edit: { 'packages/board/vitest.config.ts': ['setup.ts', 'setpu.ts'] },
    },
    {
      code: 'E07',
      name: 'a member’s globals are off',
      edit: { 'packages/board/vitest.config.ts': ['    globals: true,\n', ''] },
    },
    {
      code: 'E02',
      name: 'the settings of a member are gone',
      edit: { 'packages/board/vitest.config.ts': null },
    },
    {
      code: ['E02', 'E07'],
      name: 'a member in place inherits nothing',
      edit: {
        [CONFIG]:
          "import { defineConfig } from 'vitest/config';\n\nexport default defineConfig({\n  test: {\n    environment: 'jsdom',\n    globals: true,\n    setupFiles: ['./packages/board/test/setup.ts'],\n    projects: [{ test: { name: 'board', root: './packages/board' } }],\n  },\n});\n",
        'packages/board/vitest.config.ts': null,
      },
    },
    {
      code: ['E04', 'E09'],
      name: 'the script asks for a project that there is not',
      edit: { 'package.json': ['vitest run', 'vitest run --project bord'] },
    },
    {
      code: 'E06',
      name: 'a member’s set-up does not load the matchers',
      edit: { 'packages/board/test/setup.ts': 'export {};\n' },
    },
    { code: 'E03', name: 'the document package is missing', lacks: ['jsdom'] },
    {
      code: 'E21',
      name: 'a member loads a file that is not there',
      edit: { 'packages/clock/src/hours.spec.ts': ["'./hours'", "'./hour'"] },
    },
  ]),
  ...on(J29, [
    {
      code: 'E20',
      name: 'a text where a list is asked for',
      edit: { [JEST]: ["['<rootDir>/test/setup.js']", "'<rootDir>/test/setup.js'"] },
    },
    {
      code: 'E20',
      name: 'two patterns for one thing',
      edit: {
        [JEST]: [
          '  moduleNameMapper',
          "  testMatch: ['**/*.spec.tsx'],\n  testRegex: 'spec',\n  moduleNameMapper",
        ],
      },
    },
    {
      code: 'E04',
      name: 'a global set-up exports nothing',
      edit: {
        [JEST]: ['  moduleNameMapper', "  globalSetup: '<rootDir>/test/start.js',\n  moduleNameMapper"],
        'test/start.js': "process.env.TZ = 'UTC';\n",
      },
    },
    {
      code: 'E04',
      name: 'a transform exports nothing',
      edit: {
        [JEST]: [
          '  moduleNameMapper',
          "  transform: { '\\\\.tsx?$': '<rootDir>/test/compile.js' },\n  moduleNameMapper",
        ],
        'test/compile.js': "const compile = require('babel-jest');\n",
      },
    },
    {
      code: 'E04',
      name: 'a reporter is not installed',
      edit: { [JEST]: ['  moduleNameMapper', "  reporters: ['default', 'jest-junit'],\n  moduleNameMapper"] },
    },
    {
      code: 'E21',
      name: 'a stand-in for a module that is not there',
      edit: ATOP_SPEC("\njest.mock('./cones', () => ({ cone: 'cone 6' }));"),
    },
    {
      code: 'E22',
      name: 'a group that waits',
      edit: { [SPEC]: ["'KilnCard', () =>", "'KilnCard', async () =>"] },
    },
    {
      code: 'E10',
      name: 'import.meta, where modules become CommonJS',
      edit: { 'src/cone.ts': "export const cone: string = import.meta.env?.CONE ?? 'cone 6';\n" },
    },
    {
      code: 'E29',
      name: 'a helper in a folder of specs',
      edit: { 'src/__tests__/kilns.ts': 'export const kilns = [];\n' },
    },
    {
      code: 'E10',
      name: 'a package that has nothing but ES modules',
      edit: LOADS('capitalize', 'lodash-es'),
    },
    {
      code: 'E10',
      name: 'a package that has ES modules for browsers',
      edit: LOADS('nanoid', 'nanoid'),
    },
    { code: 'E27', name: 'a component asks how wide the page is', edit: { 'src/KilnCard.tsx': ASKS_WIDTH } },
    {
      code: 'E26',
      name: 'a component is taken by default, and given by its name',
      edit: { [SPEC]: ['import { KilnCard }', 'import KilnCard'] },
    },
    { code: 'E01', name: 'the runner of the script is not declared', lacks: ['jest'] },
    { code: 'E03', name: 'the document package is missing', lacks: ['jest-environment-jsdom'] },
    { code: 'E02', name: 'no document is chosen', edit: { [JEST]: ["  testEnvironment: 'jsdom',\n", ''] } },
    {
      code: 'E04',
      name: 'a slip in the path of the set-up file',
      edit: { [JEST]: ['/test/setup.js', '/tests/setup.js'] },
    },
    {
      code: 'E04',
      name: 'a set-up path that does not start from the root',
      edit: { [JEST]: ['<rootDir>/test/setup.js', 'test/setup.js'] },
    },
    {
      code: 'E05',
      name: 'the set-up file is named by no setting',
      edit: { [JEST]: ["  setupFilesAfterEnv: ['<rootDir>/test/setup.js'],\n", ''] },
    },
    {
      code: 'E23',
      name: 'the set-up runs before the runner is there',
      edit: { [JEST]: ['setupFilesAfterEnv', 'setupFiles'] },
    },
    {
      code: 'E20',
      name: 'a misspelt key: setupFilesAfterEnvironment',
      edit: { [JEST]: ['setupFilesAfterEnv', 'setupFilesAfterEnvironment'] },
    },
    {
      code: 'E20',
      name: 'a misspelt key: testEnviroment',
      edit: { [JEST]: ['testEnvironment', 'testEnviroment'] },
    },
    {
      code: 'E20',
      name: 'a key of the other runner: environment',
      edit: { [JEST]: ['testEnvironment', 'environment'] },
    },
    {
      code: 'E20',
      name: 'a misspelt key: moduleNameMaper',
      edit: { [JEST]: ['moduleNameMapper', 'moduleNameMaper'] },
    },
    {
      code: 'E06',
      name: 'the matchers are not registered',
      edit: { 'test/setup.js': 'globalThis.kiln = 1;\n' },
    },
    {
      code: 'E07',
      name: 'the globals are off',
      edit: {
        [JEST]: ["  testEnvironment: 'jsdom',\n", "  testEnvironment: 'jsdom',\n  injectGlobals: false,\n"],
      },
    },
    {
      code: 'E10',
      name: 'nothing takes style sheets',
      edit: { [JEST]: ["  moduleNameMapper: { '\\\\.css$': '<rootDir>/test/style-stub.js' },\n", ''] },
    },
    {
      code: ['E04', 'E21'],
      name: 'the stand-in of the style sheets is missing',
      edit: { 'test/style-stub.js': null },
    },
    { code: 'E10', name: 'nothing compiles', edit: { 'babel.config.js': null } },
    {
      code: 'E10',
      name: 'the compiler has no preset for TypeScript',
      edit: { 'babel.config.js': ["    '@babel/preset-typescript',\n", ''] },
    },
    {
      code: 'E10',
      name: 'the compiler has no preset for JSX',
      edit: { 'babel.config.js': ["    ['@babel/preset-react', { runtime: 'automatic' }],\n", ''] },
    },
    {
      code: 'E10',
      name: 'JSX in the classic way, and no name for it',
      edit: {
        'babel.config.js': ["['@babel/preset-react', { runtime: 'automatic' }]", "'@babel/preset-react'"],
      },
    },
    {
      code: 'E10',
      name: 'the compiler leaves imports as they are',
      edit: {
        'babel.config.js': [
          "{ targets: { node: 'current' } }",
          "{ targets: { node: 'current' }, modules: false }",
        ],
      },
    },
    {
      code: 'E10',
      name: 'the transform is an empty object',
      edit: { [JEST]: ["  testEnvironment: 'jsdom',\n", "  testEnvironment: 'jsdom',\n  transform: {},\n"] },
    },
    {
      code: 'E10',
      name: 'the transform leaves out .tsx',
      edit: {
        [JEST]: [
          "  testEnvironment: 'jsdom',\n",
          "  testEnvironment: 'jsdom',\n  transform: { '\\\\.js$': 'babel-jest' },\n",
        ],
      },
    },
    {
      code: ['E04', 'E21'],
      name: 'a preset of the compiler is missing',
      lacks: ['@babel/preset-typescript'],
    },
    { code: 'E21', name: 'the package of the matchers is missing', lacks: ['@testing-library/jest-dom'] },
    { code: 'E21', name: 'a peer of the render library is missing', lacks: ['@testing-library/dom'] },
    {
      code: 'E13',
      name: 'an alias that only the compiler knows',
      edit: {
        [SPEC]: ["'./KilnCard'", "'@/KilnCard'"],
        'tsconfig.json': '{ "compilerOptions": { "jsx": "react-jsx", "paths": { "@/*": ["./src/*"] } } }\n',
      },
    },
    {
      code: ['E04', 'E21'],
      name: 'an alias that leads nowhere',
      edit: {
        [JEST]: ['moduleNameMapper: {', "moduleNameMapper: {\n    '^@/(.*)$': '<rootDir>/source/$1',"],
        [SPEC]: ["'./KilnCard'", "'@/KilnCard'"],
      },
    },
    {
      code: 'E14',
      name: 'settings in two places',
      edit: { 'package.json': ['"scripts"', '"jest": { "testEnvironment": "jsdom" },\n  "scripts"'] },
    },
    {
      code: 'E09',
      name: 'the pattern leaves the specs out',
      edit: {
        [JEST]: [
          "  testEnvironment: 'jsdom',\n",
          "  testEnvironment: 'jsdom',\n  testMatch: ['**/*.test.tsx'],\n",
        ],
      },
    },
    {
      code: 'E09',
      name: 'the roots leave the specs out',
      edit: {
        [JEST]: [
          "  testEnvironment: 'jsdom',\n",
          "  testEnvironment: 'jsdom',\n  roots: ['<rootDir>/test'],\n",
        ],
      },
    },
    {
      code: 'E09',
      name: 'an ignored path takes the specs',
      edit: {
        [JEST]: [
          "  testEnvironment: 'jsdom',\n",
          "  testEnvironment: 'jsdom',\n  testPathIgnorePatterns: ['/src/'],\n",
        ],
      },
    },
    {
      code: 'E04',
      name: 'the roots name a folder that is not there',
      edit: {
        [JEST]: [
          "  testEnvironment: 'jsdom',\n",
          "  testEnvironment: 'jsdom',\n  roots: ['<rootDir>/source'],\n",
        ],
      },
    },
    {
      code: ['E01', 'E04'],
      name: 'the script names settings that are not there',
      edit: { 'package.json': ['"jest"', '"jest --config config/jest.config.js"'] },
    },
    {
      code: 'E02',
      name: 'the script chooses node',
      edit: { 'package.json': ['"jest"', '"jest --env=node"'] },
    },
    {
      code: 'E02',
      name: 'a comment chooses node',
      edit: { [SPEC]: ['import { render', '/** @jest-environment node */\nimport { render'] },
    },
    {
      code: 'E22',
      name: 'functions of the other runner',
      edit: { [SPEC]: ["describe('KilnCard'", "const onFire = vi.fn();\n\ndescribe('KilnCard'"] },
    },
    {
      code: 'E24',
      name: 'CommonJS settings in a package of ES modules',
      edit: { 'package.json': ['"private"', '"type": "module",\n  "private"'] },
    },
    {
      code: 'E04',
      name: 'a preset that is not there',
      edit: {
        [JEST]: [
          "  testEnvironment: 'jsdom',\n",
          "  testEnvironment: 'jsdom',\n  preset: 'jest-kiln-preset',\n",
        ],
      },
    },
    {
      code: 'E24',
      name: 'settings in TypeScript without their loader',
      edit: {
        [JEST]: null,
        'jest.config.ts':
          "export default {\n  testEnvironment: 'jsdom',\n  setupFilesAfterEnv: ['<rootDir>/test/setup.js'],\n  moduleNameMapper: { '\\\\.css$': '<rootDir>/test/style-stub.js' },\n};\n",
      },
      lacks: ['ts-node', 'typescript', 'esbuild-register'],
    },
    {
      code: 'E21',
      name: 'a component loads a package that nobody declares',
      edit: { 'src/cone.ts': "import { label } from 'kiln-labels';\n\nexport const cone: string = label;\n" },
    },
  ]),
  ...on(J30, [
    { code: 'E03', name: 'the document package is missing', lacks: ['jest-environment-jsdom'] },
    { code: 'E02', name: 'no document is chosen', edit: { [JEST]: ["  testEnvironment: 'jsdom',\n", ''] } },
    { code: 'E10', name: 'the preset is gone', edit: { [JEST]: ["  preset: 'ts-jest',\n", ''] } },
    { code: ['E04', 'E21'], name: 'the package of the preset is missing', lacks: ['ts-jest'] },
    { code: ['E04', 'E21'], name: 'the compiler is missing', lacks: ['typescript'] },
    {
      code: ['E04', 'E21'],
      name: 'the stand-in of the style sheets is not installed',
      lacks: ['identity-obj-proxy'],
    },
    {
      code: 'E13',
      name: 'the alias is not mapped',
      edit: { [JEST]: ["    '^@/(.*)$': '<rootDir>/src/$1',\n", ''] },
    },
    {
      code: 'E10',
      name: 'the mapping does not match style sheets',
      edit: { [JEST]: ["'\\\\.css$'", "'\\\\.scss$'"] },
    },
    { code: 'E10', name: 'the compiler keeps JSX', edit: { 'tsconfig.json': ['react-jsx', 'preserve'] } },
    { code: 'E04', name: 'the set-up file is missing', edit: { 'jest.setup.ts': null } },
    {
      code: 'E05',
      name: 'the set-up file is named by no setting',
      edit: { [JEST]: ["  setupFilesAfterEnv: ['<rootDir>/jest.setup.ts'],\n", ''] },
    },
    {
      code: 'E09',
      name: 'the pattern leaves the specs out',
      edit: {
        [JEST]: ["  preset: 'ts-jest',\n", "  preset: 'ts-jest',\n  testRegex: '\\\\.spec\\\\.tsx?$',\n"],
      },
    },
    {
      code: 'E09',
      name: 'a flag of the script is misspelt for its folder',
      edit: { 'package.json': ['"jest"', '"jest tests/"'] },
    },
    {
      code: ['E13', 'E21'],
      name: 'a mapper that swallows other packages',
      edit: { [JEST]: ["'^@/(.*)$': '<rootDir>/src/$1'", "'^@(.*)$': '<rootDir>/src/$1'"] },
    },
  ]),
  ...on(VUE_J, [
    {
      code: 'E10',
      name: 'no transform for single-file components',
      edit: { [JEST]: ["    '^.+\\\\.vue$': '@vue/vue3-jest',\n", ''] },
    },
    {
      code: ['E04', 'E21'],
      name: 'the transform of single-file components is missing',
      lacks: ['@vue/vue3-jest'],
    },
    {
      code: 'E10',
      name: 'no transform for scripts',
      edit: { [JEST]: ["    '^.+\\\\.js$': 'babel-jest',\n", ''] },
    },
    { code: 'E10', name: 'nothing compiles', edit: { 'babel.config.js': null } },
    {
      code: 'E09',
      name: 'the name is not collected',
      edit: {
        'src/GlazeCard.spec.js': null,
        'src/GlazeCard.check.js':
          "import { mount } from '@vue/test-utils';\nimport GlazeCard from './GlazeCard.vue';\n\nit('shows the name', () => {\n  expect(mount(GlazeCard).text()).toBe('');\n});\n",
      },
    },
    { code: 'E02', name: 'no document is chosen', edit: { [JEST]: ["  testEnvironment: 'jsdom',\n", ''] } },
    {
      code: 'E21',
      name: 'an import that lacks its extension',
      edit: {
        [JEST]: ["moduleFileExtensions: ['js', 'json', 'vue']", "moduleFileExtensions: ['js', 'json']"],
        'src/GlazeCard.spec.js': ["'./GlazeCard.vue'", "'./GlazeCard'"],
      },
    },
  ]),
  ...on(PROJECTS_J, [
    {
      code: ['E04', 'E09'],
      name: 'the pattern of the projects leads nowhere',
      edit: { [JEST]: ['packages/*', 'package/*'] },
    },
    {
      code: 'E02',
      name: 'a member chooses no document',
      edit: { 'packages/board/jest.config.js': ["  testEnvironment: 'jsdom',\n", ''] },
    },
    {
      code: 'E04',
      name: 'a member’s set-up file is missing',
      edit: { 'packages/board/test/setup.js': null },
    },
    {
      code: 'E06',
      name: 'a member’s set-up does not load the matchers',
      edit: { 'packages/board/test/setup.js': 'module.exports = {};\n' },
    },
    {
      code: 'E20',
      name: 'a misspelt key of a member',
      edit: { 'packages/board/jest.config.js': ['setupFilesAfterEnv', 'setupFileAfterEnv'] },
    },
    {
      code: 'E02',
      name: 'the root’s document does not hold for members',
      edit: {
        [JEST]: ['  projects', "  testEnvironment: 'jsdom',\n  projects"],
        'packages/board/jest.config.js': ["  testEnvironment: 'jsdom',\n", ''],
      },
    },
    { code: 'E03', name: 'the document package is missing', lacks: ['jest-environment-jsdom'] },
    {
      code: 'E10',
      name: 'the root’s compiler settings hold for the root alone',
      edit: { 'packages/board/babel.config.js': null },
    },
    {
      code: 'E04',
      name: 'what a member’s compiler settings name is gone',
      edit: {
        'packages/board/babel.config.js': [
          "require('../../babel.config.js')",
          "{ presets: ['@babel/preset-reactive'] }",
        ],
      },
    },
  ]),
  ...on(
    [M11, M10],
    [
      { code: 'E10', name: 'no compile hook', edit: { '.mocharc.json': ['"./test/register.js",', ''] } },
      { code: 'E10', name: 'the compiler has no settings', edit: { '.babelrc': null } },
      {
        code: 'E10',
        name: 'the compiler has no preset for JSX',
        edit: {
          '.babelrc': '{ "presets": [["@babel/preset-env", { "targets": { "node": "current" } }]] }\n',
        },
      },
      {
        code: 'E10',
        name: 'nothing takes style sheets',
        edit: { '.mocharc.json': ['"ignore-styles",', ''] },
      },
      { code: 'E02', name: 'no document', edit: { '.mocharc.json': ['"global-jsdom/register",', ''] } },
      {
        code: 'E04',
        name: 'a slip in the path of the set-up file',
        edit: { '.mocharc.json': ['./test/setup.js', './test/setpu.js'] },
      },
      {
        code: 'E06',
        name: 'the matchers are not registered',
        edit: {
          '.mocharc.json': [
            /* the last one */ '"global-jsdom/register",\n    "./test/setup.js"',
            '"global-jsdom/register"',
          ],
        },
      },
      {
        code: 'E22',
        name: 'the words of the other interface',
        edit: { '.mocharc.json': ['"tdd"', '"bdd"'] },
      },
      {
        code: 'E09',
        name: 'the pattern leaves the specs out',
        edit: { '.mocharc.json': ['*.test.jsx', '*.spec.jsx'] },
      },
      { code: ['E04', 'E21'], name: 'a package that the set-up names is missing', lacks: ['global-jsdom'] },
      { code: ['E04', 'E21'], name: 'the compile hook is missing', lacks: ['@babel/register'] },
      { code: 'E01', name: 'the runner of the script is not declared', lacks: ['mocha'] },
      {
        code: 'E22',
        name: 'assertions of another library',
        edit: {
          'test/KilnCard.test.jsx': [
            'expect(onFire).to.have.been.calledOnce',
            'expect(onFire).toHaveBeenCalledTimes(1)',
          ],
        },
      },
      {
        code: 'E20',
        name: 'a misspelt key: requires',
        edit: { '.mocharc.json': ['"require"', '"requires"'] },
      },
      {
        code: 'E19',
        name: 'settings with a slip in the syntax',
        edit: { '.mocharc.json': ['"tdd",', '"tdd"'] },
      },
    ],
  ),
  ...on(M12, [
    {
      code: 'E02',
      name: 'no document',
      edit: { '.mocharc.json': ['"require": [\n    "./test/setup.js"\n  ],\n  ', ''] },
    },
    {
      code: 'E04',
      name: 'a slip in the path of the set-up file',
      edit: { '.mocharc.json': ['./test/setup.js', './test/setpu.js'] },
    },
    {
      code: 'E10',
      name: 'JSX, and no compile hook',
      edit: {
        'test/kiln-card.spec.js': [
          "React.createElement(KilnCard, { name: 'Big Bertha' })",
          '<KilnCard name="Big Bertha" />',
        ],
      },
    },
    {
      code: 'E21',
      name: 'an import without its extension',
      edit: { 'test/kiln-card.spec.js': ["'../src/kiln-card.js'", "'../src/kiln-card'"] },
    },
    {
      code: 'E09',
      name: 'the pattern leaves the specs out',
      edit: { '.mocharc.json': ['*.spec.js', '*.check.js'] },
    },
    {
      code: 'E10',
      name: 'a package of scripts, and imports',
      edit: {
        'package.json': ['"type": "module"', '"type": "commonjs"'],
        'test/kiln-card.spec.js': [
          "import React from 'react';",
          "const React = require('react');\nimport './x.css';",
        ],
      },
    },
    { code: ['E04', 'E21'], name: 'the package of the document is missing', lacks: ['jsdom'] },
    {
      code: 'E22',
      name: 'functions of another runner',
      edit: { 'test/kiln-card.spec.js': ["describe('KilnCard'", "jest.fn();\n\ndescribe('KilnCard'"] },
    },
    { code: 'E21', name: 'the assertion library is missing', lacks: ['chai'] },
    {
      code: 'E22',
      name: 'the words of the other interface',
      edit: { '.mocharc.json': ['"spec"', '"ui": "tdd",\n  "spec"'] },
    },
  ]),
  ...on(NG, [
    { code: 'E03', name: 'the document package is missing', lacks: ['jsdom'] },
    { code: ['E01', 'E04'], name: 'the runner behind the builder is missing', lacks: ['vitest'] },
    { code: 'E04', name: 'the compiler settings are missing', edit: { 'tsconfig.spec.json': null } },
    {
      code: 'E09',
      name: 'the pattern leaves the specs out',
      edit: {
        'angular.json': [
          '"runner": "vitest"',
          '"runner": "vitest",\n            "include": ["src/**/*.test.ts"]',
        ],
      },
    },
    {
      code: 'E04',
      name: 'a set-up file that is not there',
      edit: {
        'angular.json': [
          '"runner": "vitest"',
          '"runner": "vitest",\n            "setupFiles": ["src/setup.ts"]',
        ],
      },
    },
    {
      code: 'E20',
      name: 'an option that the builder does not know',
      edit: {
        'angular.json': [
          '"runner": "vitest"',
          '"runner": "vitest",\n            "setupFile": ["src/setup.ts"]',
        ],
      },
    },
    {
      code: 'E08',
      name: 'the compiler does not know the test types',
      edit: { 'tsconfig.spec.json': ['vitest/globals', 'node'] },
    },
    {
      code: 'E21',
      name: 'a spec loads a component that is not there',
      edit: { 'src/app/kiln-card.spec.ts': ["'./kiln-card'", "'./kiln-cards'"] },
    },
    {
      code: 'E04',
      name: 'a build target that is not there',
      edit: { 'angular.json': ['::development', '::testing'] },
    },
    { code: ['E04', 'E21'], name: 'the zone is missing', lacks: ['zone.js'] },
    {
      code: 'E22',
      name: 'functions of another runner',
      edit: {
        'src/app/kiln-card.spec.ts': [
          "describe('KilnCard'",
          "const spy = jasmine.createSpy('fire');\n\ndescribe('KilnCard'",
        ],
      },
    },
  ]),
  ...on(NG_J, [
    { code: 'E03', name: 'the document package is missing', lacks: ['jest-environment-jsdom'] },
    {
      code: ['E05', 'E25'],
      name: 'the set-up of the test bed is named by no setting',
      edit: { [JEST]: ["  setupFilesAfterEnv: ['<rootDir>/setup-jest.ts'],\n", ''] },
    },
    {
      code: 'E04',
      name: 'a slip in the path of the set-up file',
      edit: { [JEST]: ['setup-jest.ts', 'jest-setup.ts'] },
    },
    {
      code: 'E10',
      name: 'the preset is gone',
      edit: { [JEST]: ["  preset: 'jest-preset-angular',\n", "  testEnvironment: 'jsdom',\n"] },
    },
    { code: ['E04', 'E21'], name: 'the package of the preset is missing', lacks: ['jest-preset-angular'] },
    {
      code: 'E25',
      name: 'the set-up file does not set the test bed up',
      edit: { 'setup-jest.ts': 'export {};\n' },
    },
    {
      code: 'E02',
      name: 'the environment is node',
      edit: { [JEST]: ['module.exports = {', "module.exports = {\n  testEnvironment: 'node',"] },
    },
    { code: 'E04', name: 'the compiler settings are missing', edit: { 'tsconfig.spec.json': null } },
    {
      code: 'E23',
      name: 'the set-up runs before the runner is there',
      edit: { [JEST]: ['setupFilesAfterEnv', 'setupFiles'] },
    },
    { code: ['E04', 'E21'], name: 'the zone is missing', lacks: ['zone.js'] },
  ]),
  ...on(NEXT, [
    { code: 'E03', name: 'the document package is missing', lacks: ['jest-environment-jsdom'] },
    { code: 'E02', name: 'no document is chosen', edit: { [JEST]: ["  testEnvironment: 'jsdom',\n", ''] } },
    {
      code: 'E04',
      name: 'a slip in the path of the set-up file',
      edit: { [JEST]: ['jest.setup.js', 'jest.setpu.js'] },
    },
    {
      code: 'E05',
      name: 'the set-up file is named by no setting',
      edit: { [JEST]: ["  setupFilesAfterEnv: ['<rootDir>/jest.setup.js'],\n", ''] },
    },
    {
      code: 'E20',
      name: 'a misspelt key: testEnviroment',
      edit: { [JEST]: ['testEnvironment', 'testEnviroment'] },
    },
    {
      code: ['E10', 'E20'],
      name: 'the wrapper is not called',
      edit: { [JEST]: ['createJestConfig(config)', 'config'] },
    },
    {
      code: 'E13',
      name: 'the alias is not mapped',
      edit: { [JEST]: ["  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },\n", ''] },
    },
    { code: ['E04', 'E21'], name: 'the framework is missing', lacks: ['next'] },
    {
      code: 'E06',
      name: 'the matchers are not registered',
      edit: { 'jest.setup.js': 'module.exports = {};\n' },
    },
  ]),
  ...on(OLD, [
    {
      code: 'E25',
      name: 'the adapter is registered by a file that nothing loads',
      edit: { 'config/jest.config.js': ["  setupFilesAfterEnv: ['<rootDir>/config/adapter.js'],\n", ''] },
    },
    {
      code: 'E25',
      name: 'the file of the adapter registers nothing',
      edit: { 'config/adapter.js': "import 'enzyme';\n" },
    },
    { code: 'E21', name: 'the adapter is missing', lacks: ['enzyme-adapter-react-16'] },
    { code: ['E04', 'E21'], name: 'the snapshot serializer is missing', lacks: ['enzyme-to-json'] },
    {
      code: ['E05', 'E27'],
      name: 'the shims are named by no setting',
      edit: { 'config/jest.config.js': ["  setupFiles: ['<rootDir>/config/shims.js'],\n", ''] },
    },
    {
      code: 'E04',
      name: 'the root is the folder of the settings',
      edit: { 'config/jest.config.js': ["  rootDir: '..',\n", ''] },
    },
    {
      code: ['E04', 'E21'],
      name: 'the stand-in of the assets is missing',
      edit: { 'config/asset-stub.js': null },
    },
    {
      code: 'E10',
      name: 'nothing takes assets',
      edit: { 'config/jest.config.js': ["    '\\\\.svg$': '<rootDir>/config/asset-stub.js',\n", ''] },
    },
    {
      code: 'E10',
      name: 'nothing takes style sheets of this kind',
      edit: { 'config/jest.config.js': ["'\\\\.scss$'", "'\\\\.css$'"] },
    },
    {
      code: ['E01', 'E04', 'E02'],
      name: 'the script names no settings',
      edit: { 'package.json': ['jest --config config/jest.config.js', 'jest'] },
    },
    {
      code: 'E04',
      name: 'the script names settings that are not there',
      edit: { 'package.json': ['config/jest.config.js', 'configs/jest.config.js'] },
    },
    { code: 'E03', name: 'the document package is missing', lacks: ['jest-environment-jsdom'] },
    {
      code: 'E02',
      name: 'no document is chosen',
      edit: { 'config/jest.config.js': ["  testEnvironment: 'jsdom',\n", ''] },
    },
    { code: 'E10', name: 'nothing compiles', edit: { 'babel.config.js': null } },
  ]),

  ...on(STARTER, [
    {
      code: 'E10',
      name: 'a package that has nothing but ES modules',
      edit: LOADS('capitalize', 'lodash-es', 'src/KilnCard.js'),
    },
    {
      code: ['E06', 'E05'],
      name: 'setupTests has another name',
      edit: { 'src/setupTests.js': null, 'src/setupTest.js': "import '@testing-library/jest-dom';\n" },
    },
    { code: 'E06', name: 'setupTests is empty', edit: { 'src/setupTests.js': 'export {};\n' } },
    { code: ['E04', 'E01', 'E21'], name: 'react-scripts is not installed', lacks: ['react-scripts'] },
    {
      code: 'E21',
      name: 'a component imports a file that is not there',
      edit: { 'src/KilnCard.js': ["'./cone'", "'./cones'"] },
    },
    {
      code: 'E02',
      name: 'the script chooses node',
      edit: { 'package.json': ['--watchAll=false', '--watchAll=false --env=node'] },
    },
    {
      code: 'E22',
      name: 'functions of another runner',
      edit: { 'src/KilnCard.test.js': ["test('shows", "vi.fn();\n\ntest('shows"] },
    },
    { code: 'E21', name: 'the matchers are not installed', lacks: ['@testing-library/jest-dom'] },
    {
      code: 'E20',
      name: 'a setting in the manifest that it does not support',
      edit: {
        'package.json': [
          '"browserslist"',
          '"jest": { "setupFilesAfterEnv": ["<rootDir>/src/setupTests.js"] },\n  "browserslist"',
        ],
      },
    },
    {
      code: 'E09',
      name: 'the specs lie outside of src',
      edit: {
        'src/KilnCard.test.js': null,
        'tests/KilnCard.test.js':
          "import { render, screen } from '@testing-library/react';\nimport { KilnCard } from '../src/KilnCard';\n\ntest('shows the cone', () => {\n  render(<KilnCard name=\"Big Bertha\" />);\n  expect(screen.getByRole('heading')).toHaveTextContent('Big Bertha, cone 6');\n});\n",
      },
    },
    {
      code: ['E13', 'E21'],
      name: 'an alias that nobody resolves',
      edit: { 'src/KilnCard.test.js': ["'./KilnCard'", "'@/KilnCard'"] },
    },
  ]),
  ...on(JASMINE, [
    {
      code: 'E02',
      name: 'no document: the helpers lead nowhere',
      edit: { 'spec/support/jasmine.json': ['helpers/**/*.js', 'helper/**/*.js'] },
    },
    {
      code: 'E09',
      name: 'the pattern leaves the specs out',
      edit: { 'spec/support/jasmine.json': ['*.spec.js', '*[sS]pecs.js'] },
    },
    {
      code: ['E09', 'E04'],
      name: 'another folder of specs',
      edit: { 'spec/support/jasmine.json': ['"spec_dir": "spec"', '"spec_dir": "specs"'] },
    },
    {
      code: 'E22',
      name: 'functions of another runner',
      edit: { 'spec/kiln-card.spec.js': ["describe('KilnCard'", "jest.fn();\n\ndescribe('KilnCard'"] },
    },
    {
      code: ['E06', 'E22'],
      name: 'matchers of another library',
      edit: {
        'spec/kiln-card.spec.js': [
          "expect(container.querySelector('h2').textContent).toBe('Big Bertha')",
          "expect(container.querySelector('h2')).toHaveTextContent('Big Bertha')",
        ],
      },
    },
    {
      code: 'E10',
      name: 'JSX, and nothing compiles',
      edit: {
        'spec/kiln-card.spec.js': [
          "React.createElement(KilnCard, { name: 'Big Bertha' })",
          '<KilnCard name="Big Bertha" />',
        ],
      },
    },
    {
      code: 'E21',
      name: 'an import without its ending',
      edit: { 'spec/kiln-card.spec.js': ["'../src/kiln-card.js'", "'../src/kiln-card'"] },
    },
    { code: 'E21', name: 'the document package is missing', lacks: ['jsdom'] },
    { code: 'E01', name: 'the runner is not installed', lacks: ['jasmine'] },
    {
      code: ['E04', 'E20'],
      name: 'the script names settings that are not there',
      edit: { 'package.json': ['"jasmine"', '"jasmine --config=spec/jasmine.json"'] },
    },
  ]),

  ...on(PRESET, [
    {
      code: 'E04',
      name: 'the local preset has moved',
      edit: { 'apps/board/jest.config.js': ['../../jest.preset.js', '../jest.preset.js'] },
    },
    {
      code: ['E02'],
      name: 'the preset chooses no document',
      edit: { 'jest.preset.js': ["  testEnvironment: 'jsdom',\n", ''] },
    },
    {
      code: 'E10',
      name: 'the preset transforms JavaScript alone',
      edit: { 'jest.preset.js': ['[tj]sx?$', 'jsx?$'] },
    },
    {
      code: ['E13', 'E21'],
      name: 'the library of the workspace is not mapped',
      edit: {
        'apps/board/jest.config.js': [", '^@kilnroom/cones$': '<rootDir>/../../libs/cones/src/index.ts'", ''],
      },
    },
    {
      code: ['E04', 'E21'],
      name: 'the mapping of the library leads nowhere',
      edit: { 'apps/board/jest.config.js': ['libs/cones/src', 'libs/cones/source'] },
    },
    { code: 'E04', name: 'the transform is not installed', lacks: ['@swc/jest'] },
    { code: 'E04', name: 'what the transform stands on is not installed', lacks: ['@swc/core'] },
    { code: 'E04', name: 'the set-up file is missing', edit: { 'apps/board/src/test-setup.ts': null } },
    { code: 'E04', name: 'the stand-in of styles is not installed', lacks: ['identity-obj-proxy'] },
    {
      code: ['E09', 'E04'],
      name: 'the script names another app',
      edit: { 'package.json': ['apps/board/jest', 'apps/boards/jest'] },
    },
  ]),
  ...on(IN_PLACE, [
    { code: 'E03', name: 'the document package is missing', lacks: ['happy-dom'] },
    {
      code: 'E02',
      name: 'the project chooses no document',
      edit: { [CONFIG]: ["environment: 'happy-dom', ", ''] },
    },
    {
      code: 'E04',
      name: 'the settings that it extends are missing',
      edit: { [CONFIG]: ['./vite.config.ts', './vite.base.config.ts'] },
    },
    {
      code: 'E10',
      name: 'it extends nothing',
      edit: { [CONFIG]: ["        extends: './vite.config.ts',\n", ''] },
    },
    {
      code: 'E10',
      name: 'what it extends has no plugin',
      edit: { 'vite.config.ts': ['  plugins: [vue()],\n', ''] },
    },
    {
      code: ['E13', 'E21'],
      name: 'what it extends has no alias',
      edit: {
        'vite.config.ts': [
          "  resolve: { alias: { '~': fileURLToPath(new URL('./src', import.meta.url)) } },\n",
          '',
        ],
      },
    },
    {
      code: ['E04', 'E09'],
      name: 'the script asks for a project that there is not',
      edit: { 'package.json': ['--project unit', '--project units'] },
    },
    { code: 'E09', name: 'the pattern leaves the specs out', edit: { [CONFIG]: ['*.unit.ts', '*.spec.ts'] } },
    { code: 'E04', name: 'the set-up file is missing', edit: { 'test/setup.ts': null } },
    {
      code: 'E01',
      name: 'the script calls a script that is not there',
      edit: { 'package.json': ['"npm run test:unit"', '"npm run test:units"'] },
    },
  ]),
  ...on(SWC, [
    {
      code: 'E13',
      name: 'an alias that only the compiler knows',
      edit: { [JEST]: ["    '^@/(.*)$': '<rootDir>/src/$1',\n", ''] },
    },
    {
      code: 'E09',
      name: 'the roots are another folder',
      edit: { [JEST]: ["['<rootDir>/src'],", "['<rootDir>/test'],"] },
    },
    { code: 'E02', name: 'no document is chosen', edit: { [JEST]: ["  testEnvironment: 'jsdom',\n", ''] } },
    { code: ['E04', 'E21'], name: 'the compiler itself is missing', lacks: ['@swc/core'] },
    {
      code: 'E10',
      name: 'the transform leaves this ending out',
      edit: { [JEST]: ["'^.+\\\\.tsx?$'", "'^.+\\\\.ts$'"] },
    },
    { code: 'E04', name: 'the stand-in of the styles is missing', edit: { 'test/style.js': null } },
    {
      code: 'E20',
      name: 'a misspelt key: setupFileAfterEnv',
      edit: { [JEST]: ['setupFilesAfterEnv', 'setupFileAfterEnv'] },
    },
    { code: 'E21', name: 'a library of user actions is missing', lacks: ['@testing-library/user-event'] },
    {
      code: 'E10',
      name: 'JSX becomes calls of a name that is not there',
      edit: {
        [JEST]: ["['@swc/jest', { jsc: { transform: { react: { runtime: 'automatic' } } } }]", "'@swc/jest'"],
      },
    },
    {
      code: 'E04',
      name: 'the script names settings that are not there',
      edit: { 'package.json': ['"test": "jest"', '"test": "jest --config jest.conf.js"'] },
    },
  ]),
  ...on(NODE, [
    { code: 'E10', name: 'no compile hook', edit: { 'package.json': ['--import tsx ', ''] } },
    { code: 'E02', name: 'no document', edit: { 'package.json': ['--import global-jsdom/register ', ''] } },
    {
      code: 'E21',
      name: 'a spec loads a component that is not there',
      edit: { 'src/Shelf.test.tsx': ['./Shelf.js', './Shelve.js'] },
    },
    {
      code: 'E04',
      name: 'a slip in the path of the set-up file',
      edit: { 'package.json': ['setup.ts', 'setpu.ts'] },
    },
    { code: ['E04', 'E21'], name: 'the compile hook is missing', lacks: ['tsx'] },
    { code: ['E04', 'E21'], name: 'the document package is missing', lacks: ['global-jsdom'] },
    {
      code: 'E22',
      name: 'expect, where there is none',
      edit: {
        'src/Shelf.test.tsx': [
          "assert.ok(screen.getByText('6, 10'))",
          "expect(screen.getByText('6, 10')).toBeTruthy()",
        ],
      },
    },
    {
      code: 'E09',
      name: 'the script names a folder without specs',
      edit: { 'package.json': ['src/*.test', 'tests/*.test'] },
    },
    {
      code: 'E22',
      name: 'words of another runner',
      edit: { 'src/Shelf.test.tsx': ['render(<Shelf', 'const onOpen = jest.fn();\n    render(<Shelf'] },
    },
    {
      code: ['E21', 'E22'],
      name: 'the set-up of another runner',
      edit: { 'test/setup.ts': ["'node:test'", "'vitest'"] },
    },
  ]),
  ...on(PREACT, [
    { code: 'E03', name: 'the document package is missing', lacks: ['happy-dom'] },
    {
      code: 'E04',
      name: 'a slip in the path of the set-up file',
      edit: { 'vitest.config.ts': ['test/setup.ts', 'test/setpu.ts'] },
    },
    {
      code: 'E13',
      name: 'an alias that only the compiler knows',
      edit: {
        'vite.config.ts': [
          "  resolve: { alias: { '~': fileURLToPath(new URL('./src', import.meta.url)) } },\n",
          '',
        ],
      },
    },
    {
      code: 'E02',
      name: 'no document is chosen',
      edit: { 'vitest.config.ts': ["      environment: 'happy-dom',\n", ''] },
    },
    {
      code: 'E07',
      name: 'functions of the runner with no import',
      edit: { 'src/shelf/Shelf.test.tsx': ["import { describe, expect, it } from 'vitest';\n", ''] },
    },
    {
      code: 'E09',
      name: 'an exclude entry takes the specs',
      edit: { 'vitest.config.ts': ["'e2e/**'", "'src/**'"] },
    },
    { code: 'E21', name: 'the library of the specs is missing', lacks: ['@testing-library/preact'] },
    {
      code: ['E04', 'E21', 'E24'],
      name: 'a plugin of the settings is missing',
      lacks: ['@preact/preset-vite'],
    },
    {
      code: 'E06',
      name: 'the matchers are not registered',
      edit: { 'src/test/setup.ts': ["import '@testing-library/jest-dom/vitest';\n", ''] },
    },
    {
      code: 'E26',
      name: 'a component is taken by default, and given by its name',
      edit: { 'src/shelf/Shelf.test.tsx': ['import { Shelf }', 'import Shelf'] },
    },
  ]),
  ...on(MODULES, [
    {
      code: ['E21', 'E13'],
      name: 'nothing takes the written ending off',
      edit: { 'jest.config.js': ["  moduleNameMapper: { '^(\\\\.{1,2}/.*)\\\\.js$': '$1' },\n", ''] },
    },
    {
      code: 'E02',
      name: 'no document is chosen',
      edit: { 'jest.config.js': ["  testEnvironment: 'jsdom',\n", ''] },
    },
    { code: 'E03', name: 'the document package is missing', lacks: ['jest-environment-jsdom'] },
    {
      code: 'E24',
      name: 'settings of the other kind of modules',
      edit: { 'jest.config.js': ['export default {', 'module.exports = {'] },
    },
    {
      code: ['E22', 'E07'],
      name: 'the object of the runner with no import',
      edit: { 'src/Shelf.test.tsx': ['expect, it, jest }', 'expect, it }'] },
    },
    {
      code: 'E04',
      name: 'a slip in the path of the set-up file',
      edit: { 'jest.config.js': ['setup.ts', 'setpu.ts'] },
    },
    { code: 'E21', name: 'the library of the specs is missing', lacks: ['@testing-library/react'] },
    { code: ['E04', 'E21'], name: 'the compiler is missing', lacks: ['ts-jest'] },
    {
      code: 'E10',
      name: 'the transform leaves this ending out',
      edit: { 'jest.config.js': ['tsx?$', 'ts$'] },
    },
    {
      code: 'E26',
      name: 'a component is taken by default, and given by its name',
      edit: { 'src/Shelf.test.tsx': ['import { Shelf }', 'import Shelf'] },
    },
  ]),
  ...on(VUE_CLI, [
    { code: ['E04', 'E21'], name: 'the compiler of views is missing', lacks: ['@vue/vue3-jest'] },
    { code: 'E04', name: 'the preset is missing', lacks: ['@vue/cli-plugin-unit-jest'] },
    { code: 'E10', name: 'the compiler has no settings', edit: { 'babel.config.js': null } },
    {
      code: ['E21', 'E13'],
      name: 'an alias that nobody sets',
      edit: { 'tests/unit/glaze-card.spec.js': ["'@/components", "'~/components"] },
    },
    {
      code: 'E02',
      name: 'the environment is node',
      edit: {
        'jest.config.js': [
          "preset: '@vue/cli-plugin-unit-jest'",
          "preset: '@vue/cli-plugin-unit-jest',\n  testEnvironment: 'node'",
        ],
      },
    },
    {
      code: 'E09',
      name: 'the pattern leaves the specs out',
      edit: {
        'jest.config.js': [
          "preset: '@vue/cli-plugin-unit-jest'",
          "preset: '@vue/cli-plugin-unit-jest',\n  testMatch: ['**/src/**/*.spec.js']",
        ],
      },
    },
    {
      code: 'E04',
      name: 'a preset that its package does not have',
      edit: { 'jest.config.js': ["unit-jest'", "unit-jest/presets/typescripts'"] },
    },
    {
      code: 'E21',
      name: 'a spec loads a component that is not there',
      edit: { 'tests/unit/glaze-card.spec.js': ['GlazeCard.vue', 'GlazeCards.vue'] },
    },
    { code: ['E01', 'E04'], name: 'the starter is missing', lacks: ['@vue/cli-service'] },
  ]),
  ...on(NAMES, [
    {
      code: 'E13',
      name: 'the plugin has no alias for it',
      edit: { '.babelrc': [', "alias": { "@parts": "./src/parts" }', ''] },
    },
    {
      code: 'E13',
      name: 'the plugin does not try the endings',
      edit: { '.babelrc': ['"extensions": [".js", ".ts", ".tsx"], ', ''] },
    },
    { code: 'E04', name: 'the plugin is not installed', lacks: ['babel-plugin-module-resolver'] },
    {
      code: 'E10',
      name: 'no transform takes pictures',
      edit: { 'package.json': [',\n      "\\\\.svg$": "<rootDir>/test/svg.js"', ''] },
    },
    {
      code: 'E10',
      name: 'no preset takes the types out',
      edit: { '.babelrc': [',\n    "@babel/preset-typescript"', ''] },
    },
    {
      code: 'E10',
      name: 'JSX becomes calls of a name',
      edit: { '.babelrc': ['["@babel/preset-react", { "runtime": "automatic" }]', '"@babel/preset-react"'] },
    },
    { code: 'E04', name: 'the stand-in of the styles is not installed', lacks: ['identity-obj-proxy'] },
    {
      code: 'E10',
      name: 'nothing stands for the styles',
      edit: {
        'package.json': [
          '\n    "moduleNameMapper": {\n      "\\\\.module\\\\.css$": "identity-obj-proxy"\n    },',
          '',
        ],
      },
    },
    {
      code: 'E23',
      name: 'matchers are registered in the wrong phase',
      edit: { 'package.json': ['setupFilesAfterEnv', 'setupFiles'] },
    },
    { code: 'E19', name: 'a slip in the syntax of a transform', edit: { 'test/svg.js': ['({ code: ', '('] } },
  ]),
  ...on(CRACO, [
    {
      code: 'E13',
      name: 'only the compiler of the page has the alias',
      edit: {
        'craco.config.js': [
          "  jest: {\n    configure: {\n      moduleNameMapper: {\n        '^~parts/(.*)$': '<rootDir>/src/parts/$1',\n      },\n    },\n  },\n",
          '',
        ],
      },
    },
    {
      code: 'E13',
      name: 'the script starts what knows no alias',
      edit: { 'package.json': ['craco test', 'react-scripts test'] },
    },
    { code: 'E01', name: 'the starter is not installed', lacks: ['@craco/craco'] },
    {
      code: 'E04',
      name: 'a slip in where the alias leads',
      edit: { 'craco.config.js': ['src/parts/$1', 'src/part/$1'] },
    },
    { code: 'E06', name: 'the set-up file is gone', edit: { 'src/setupTests.ts': null } },
    { code: 'E21', name: 'a library of user actions is missing', lacks: ['@testing-library/user-event'] },
    {
      code: 'E22',
      name: 'functions of the other runner',
      edit: { 'src/parts/GlazeTable.test.tsx': ['jest.fn', 'vi.fn'] },
    },
    { code: 'E21', name: 'a library that another one needs is missing', lacks: ['@testing-library/dom'] },
    {
      code: 'E13',
      name: 'the alias stands beside its section',
      edit: {
        'craco.config.js': [
          "    configure: {\n      moduleNameMapper: {\n        '^~parts/(.*)$': '<rootDir>/src/parts/$1',\n      },\n    },\n",
          "    moduleNameMapper: {\n      '^~parts/(.*)$': '<rootDir>/src/parts/$1',\n    },\n",
        ],
      },
    },
  ]),
  ...on(VUE2, [
    {
      code: 'E04',
      name: 'the plugin of the other version',
      edit: { 'vite.config.js': ["@vitejs/plugin-vue2'", "@vitejs/plugin-vue'"] },
    },
    { code: 'E07', name: 'the globals are off', edit: { 'vite.config.js': ['    globals: true,\n', ''] } },
    { code: 'E03', name: 'the document package is missing', lacks: ['jsdom'] },
    {
      code: 'E05',
      name: 'no setting names the set-up file',
      edit: { 'vite.config.js': ["    setupFiles: ['tests/unit/setup.js'],\n", ''] },
    },
    {
      code: 'E09',
      name: 'the pattern leaves the specs out',
      edit: { 'vite.config.js': ['tests/unit/**', 'test/unit/**'] },
    },
    {
      code: 'E13',
      name: 'nobody has an alias for it',
      edit: {
        'vite.config.js': [
          "  resolve: {\n    alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) },\n  },\n",
          '',
        ],
      },
    },
    { code: 'E21', name: 'the store is not installed', lacks: ['vuex'] },
    {
      code: 'E22',
      name: 'functions of the other runner',
      edit: { 'tests/unit/firing-card.spec.js': ['vi.fn', 'jest.fn'] },
    },
  ]),
  ...on(PATHS, [
    {
      code: 'E13',
      name: 'nothing reads the compiler’s paths',
      edit: { 'vite.config.ts': [', paths()', ''] },
    },
    {
      code: 'E10',
      name: 'nothing makes components of pictures',
      edit: { 'vite.config.ts': [', svgr()', ''] },
    },
    {
      code: 'E13',
      name: 'the compiler has no path for it',
      edit: { 'tsconfig.json': ['"#/*": ["src/*"]', '"~/*": ["src/*"]'] },
    },
    { code: 'E04', name: 'what counts coverage is not installed', lacks: ['@vitest/coverage-v8'] },
    { code: 'E21', name: 'the library of the server is not installed', lacks: ['msw'] },
    { code: 'E04', name: 'a plugin of the settings is not installed', lacks: ['vite-plugin-svgr'] },
    { code: 'E21', name: 'the set-up file loads a file that is not there', edit: { 'test/server.ts': null } },
    {
      code: 'E20',
      name: 'a misspelt key: setupFile',
      edit: { 'vite.config.ts': ['setupFiles:', 'setupFile:'] },
    },
    { code: 'E07', name: 'the globals are off', edit: { 'vite.config.ts': ['    globals: true,\n', ''] } },
    {
      code: 'E26',
      name: 'a component is taken by default, and given by its name',
      edit: { 'src/Board.test.tsx': ['import { Board }', 'import Board'] },
    },
  ]),
  ...on(MADE_MAP, [
    {
      code: 'E13',
      name: 'the mapper is not made',
      edit: {
        'jest.config.js': [
          "    ...pathsToModuleNameMapper(compilerOptions.paths, { prefix: '<rootDir>/' }),\n",
          '',
        ],
      },
    },
    {
      code: ['E04', 'E21'],
      name: 'the mapper leads to another folder',
      edit: { 'jest.config.js': ["'<rootDir>/' }", "'<rootDir>/app/' }"] },
    },
    { code: 'E10', name: 'the compiler keeps JSX', edit: { 'tsconfig.json': ['"react-jsx"', '"preserve"'] } },
    { code: 'E04', name: 'the preset is not installed', lacks: ['ts-jest'] },
    { code: 'E03', name: 'the document package is missing', lacks: ['jest-environment-jsdom'] },
    {
      code: ['E06', 'E05'],
      name: 'no setting names the set-up file',
      edit: { 'jest.config.js': ["  setupFilesAfterEnv: ['<rootDir>/test/setup.ts'],\n", ''] },
    },
    {
      code: 'E04',
      name: 'a slip in the path of a stand-in',
      edit: { 'jest.config.js': ['test/file.js', 'test/files.js'] },
    },
    {
      code: ['E04', 'E09'],
      name: 'the roots are another folder',
      edit: { 'jest.config.js': ["<rootDir>/src'", "<rootDir>/lib'"] },
    },
    {
      code: 'E24',
      name: 'settings of two kinds of modules',
      edit: { 'jest.config.js': ['module.exports =', 'export default'] },
    },
    {
      code: 'E26',
      name: 'a name that the module does not export',
      edit: {
        'src/parts/__tests__/KilnList.test.tsx': ['import { KilnList }', 'import { KilnLists as KilnList }'],
      },
    },
  ]),
  ...on(NX, [
    {
      code: 'E06',
      name: 'the set-up file is named by no setting',
      edit: { [NX_KILNS]: ["  setupFilesAfterEnv: ['<rootDir>/src/test-setup.ts'],\n", ''] },
    },
    { code: 'E03', name: 'the document package is missing', lacks: ['jest-environment-jsdom'] },
    {
      code: 'E02',
      name: 'node is chosen',
      edit: { [NX_KILNS]: ['  transform: {', "  testEnvironment: 'node',\n  transform: {"] },
    },
    {
      code: 'E04',
      name: 'a slip in the path of the preset',
      edit: { [NX_KILNS]: ['../../jest.preset.js', '../jest.preset.js'] },
    },
    {
      code: 'E04',
      name: 'the preset asks a package for what it does not have',
      edit: { 'jest.preset.js': ['@nx/jest/preset', '@nx/jest/presets'] },
    },
    {
      code: ['E21', 'E13'],
      name: 'the path of another package is not told',
      edit: {
        'tsconfig.base.json': ['      "@studio/glazes": ["packages/glazes/src/index.ts"],\n', ''],
      },
    },
    {
      code: 'E10',
      name: 'nothing takes the pictures',
      edit: {
        [NX_KILNS]: ["    '^(?!.*\\\\.(js|jsx|ts|tsx|css|json)$)': '@nx/react/plugins/jest',\n", ''],
      },
    },
    {
      code: 'E04',
      name: 'a slip in the path of the set-up file',
      edit: { [NX_KILNS]: ['src/test-setup.ts', 'src/test-setpu.ts'] },
    },
    { code: 'E21', name: 'a peer of the render library is missing', lacks: ['@testing-library/dom'] },
    {
      code: 'E22',
      name: 'functions of the other runner',
      edit: {
        'packages/kilns/src/lib/kiln-door.spec.tsx': [
          'render(<KilnDoor glaze="Shino" />);',
          'vi.fn();\n    render(<KilnDoor glaze="Shino" />);',
        ],
      },
    },
    {
      code: 'E21',
      name: 'an index hands on a file that is not there',
      edit: { 'packages/glazes/src/index.ts': ['glaze-chip', 'glaze-chips'] },
    },
    {
      code: 'E10',
      name: 'nothing compiles the views',
      edit: {
        [NX_KILNS]: ["    '^.+\\\\.[tj]sx?$': ['babel-jest', { presets: ['@nx/react/babel'] }],\n", ''],
      },
    },
  ]),
  ...on(ANALOG, [
    {
      code: ['E25', 'E05'],
      name: 'the set-up file is named by no setting',
      edit: { [VITE]: ["      setupFiles: ['src/test-setup.ts'],\n", ''] },
    },
    {
      code: 'E10',
      name: 'nothing compiles the components',
      edit: {
        [VITE]: [
          ['plugins: [angular()],', 'plugins: [],'],
          ["import angular from '@analogjs/vite-plugin-angular';\n", ''],
        ],
      },
    },
    { code: 'E02', name: 'node is chosen', edit: { [VITE]: ["'jsdom'", "'node'"] } },
    { code: 'E03', name: 'the document package is missing', lacks: ['jsdom'] },
    { code: 'E07', name: 'the globals are off', edit: { [VITE]: ['      globals: true,\n', ''] } },
    {
      code: 'E25',
      name: 'nothing loads the zone',
      edit: { 'src/test-setup.ts': ["import '@analogjs/vitest-angular/setup-zone';\n", ''] },
    },
    {
      code: 'E25',
      name: 'nothing sets the test bed up',
      edit: {
        'src/test-setup.ts': "import '@angular/compiler';\nimport '@analogjs/vitest-angular/setup-zone';\n",
      },
    },
    {
      code: 'E09',
      name: 'the pattern leaves the specs out',
      edit: { [VITE]: ['{test,spec}', '{test,specs}'] },
    },
    {
      code: 'E21',
      name: 'a template that is not there',
      edit: { 'src/app/glaze-shelf.ts': ['./glaze-shelf.html', './glaze-shelves.html'] },
    },
    { code: 'E21', name: 'the zone is missing', lacks: ['zone.js'] },
    { code: 'E21', name: 'the package of the set-up is missing', lacks: ['@analogjs/vitest-angular'] },
    {
      code: 'E22',
      name: 'functions of the other runner',
      edit: { 'src/app/glaze-shelf.spec.ts': ['vi.fn', 'jest.fn'] },
    },
    {
      code: 'E04',
      name: 'the settings of the compiler are missing',
      edit: { 'tsconfig.spec.json': null },
    },
  ]),
  ...on(
    [V4, V1, J29],
    [
      {
        code: 'E31',
        name: 'a query of the page that nobody imports',
        edit: { [SPEC]: ['{ render, screen }', '{ render }'] },
      },
      {
        code: 'E31',
        name: 'data that nobody declares',
        edit: { [SPEC]: ['name="Big Bertha"', '{...kiln}'] },
      },
      {
        code: 'E31',
        name: 'a component reads a name that it has not',
        edit: { 'src/KilnCard.tsx': ['{name}, {cone}', '{shown(name)}, {cone}'] },
      },
      {
        code: 'E31',
        name: 'a module reads a name as it is loaded',
        edit: { 'src/cone.ts': ["'cone 6'", 'CONE'] },
      },
      {
        code: 'E32',
        name: 'a real function is told to answer',
        edit: {
          'src/cone.ts': "export const cone: string = 'cone 6';\nexport const heat = () => 6;\n",
          [SPEC]: [
            ['import { KilnCard }', "import { heat } from './cone';\nimport { KilnCard }"],
            ['    render(', '    (heat as any).mockReturnValue(10);\n    render('],
          ],
        },
      },
    ],
  ),
  ...on(
    [V4, V1],
    [
      {
        code: 'C14',
        name: 'a query waits on a clock that stands still',
        edit: {
          [SPEC]: [
            ["shows the cone', () => {", "shows the cone', async () => {\n    vi.useFakeTimers();"],
            ["screen.getByRole('heading')", "await screen.findByRole('heading')"],
          ],
        },
      },
    ],
  ),
  ...on(
    [J29],
    [
      {
        code: 'S16',
        name: 'the settings take the answer of a stand-in away',
        edit: {
          'src/cone.ts':
            "export const cone: string = 'cone 6';\nexport const heat = () => ({ degrees: 6 });\n",
          'src/KilnCard.tsx': [
            ['import { cone }', 'import { cone, heat }'],
            ['=> (', '=> {\n  const { degrees } = heat();\n  return ('],
            ['\n);\n', '\n);\n};\n'],
            ['{name}, {cone}', '{name}, {cone} {degrees}'],
          ],
          [SPEC]: [
            'describe(',
            "jest.mock('./cone', () => ({ cone: 'cone 6', heat: jest.fn(() => ({ degrees: 6 })) }));\n\ndescribe(",
          ],
          [JEST]: ["testEnvironment: 'jsdom',", "testEnvironment: 'jsdom',\n  resetMocks: true,"],
        },
      },
    ],
  ),
  ...on(
    [VUE_V],
    [
      {
        code: 'E31',
        name: 'a function of the framework that nobody imports',
        edit: { 'src/GlazeCard.vue': ['defineProps', 'const open = ref(false);\ndefineProps'] },
      },
    ],
  ),
  ...on(
    [NODE],
    [
      {
        code: 'E07',
        name: 'a function of the runner that nobody imports',
        edit: { 'src/Shelf.test.tsx': ['{ describe, it }', '{ describe }'] },
      },
      {
        code: 'E13',
        name: 'an alias that nobody knows',
        edit: { 'src/Shelf.tsx': ["'./cones.js'", "'@/cones'"] },
      },
      {
        code: 'E27',
        name: 'a part of the platform that jsdom lacks',
        edit: {
          'src/Shelf.tsx': [
            '  return (',
            "  const wide = window.matchMedia('(width > 40em)').matches;\n  return (",
          ],
        },
      },
      {
        code: 'E31',
        name: 'values that only a bundler has',
        edit: { 'src/cones.ts': ["= ['6', '10'];", "= ['6', import.meta.env.MODE];"] },
      },
      {
        code: 'E23',
        name: 'the queries are loaded before the document',
        edit: {
          'test/setup.ts':
            "import { cleanup } from '@testing-library/react';\nimport 'global-jsdom/register';\nimport { afterEach } from 'node:test';\n\nafterEach(cleanup);\n",
          'package.json': [' --import global-jsdom/register', ''],
        },
      },
    ],
  ),
  ...on(J29, [
    {
      code: 'E24',
      name: 'Babel is not told how long its settings may be kept',
      edit: {
        'babel.config.js': [
          ['module.exports = {', 'module.exports = () => ({'],
          ['};\n', '});\n'],
        ],
      },
    },
    {
      code: 'E19',
      name: 'broken settings of Babel',
      edit: { 'babel.config.js': ['module.exports = {', 'module.exports = ({'] },
    },
  ]),
  ...on(
    [V4, V1],
    [
      {
        code: 'E24',
        name: 'joined settings of which one is a function',
        edit: {
          [CONFIG]: [
            ['import { defineConfig } from', 'import { defineConfig, mergeConfig } from'],
            ['export default defineConfig({', 'export default mergeConfig(() => ({}), {'],
          ],
        },
      },
    ],
  ),
  ...on(VUE_V, [
    {
      code: 'E07',
      name: 'a set-up that uses functions of the runner as globals',
      edit: {
        [CONFIG]: ['    globals: true,\n', "    setupFiles: ['./setup.js'],\n"],
        'setup.js': 'afterEach(() => {});\n',
        'src/GlazeCard.spec.js': [
          'import { mount }',
          "import { describe, expect, it } from 'vitest';\nimport { mount }",
        ],
      },
    },
  ]),
  ...on(SWC, [
    {
      code: 'E10',
      name: 'TypeScript that is told to be plain scripts',
      edit: { [JEST]: ['jsc: {', "jsc: { parser: { syntax: 'ecmascript', jsx: true },"] },
    },
  ]),
];

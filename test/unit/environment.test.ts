import { expect } from 'chai';
import { DiskFiles } from '#src/index.js';
import { collector } from '#src/environment/collects.js';
import { commandsOf, flagOf } from '#src/environment/settings/commands.js';
import { jsonSettings } from '#src/environment/settings/json-settings.js';
import { manifestOf } from '#src/environment/settings/manifest.js';
import { Environments } from '#src/environment/read.js';
import { scriptSettings } from '#src/environment/settings/script-settings.js';
import type { Setting } from '#src/environment/settings/setting.js';
import { yamlSettings } from '#src/environment/settings/yaml-settings.js';
import { decodeSource, type Source } from '#src/syntax/source.js';
import type { RunnerFacts } from '#src/environment/facts/environment.js';
import { written } from '../support/samples.js';

const source = (path: string, text: string): Source => decodeSource(path, Buffer.from(text)) as Source;

/** A setting in plain JSON: `?` for unknown, `a|b` for a choice, `…` where more may be set. */
function plain(setting: Setting | { reason: string }): unknown {
  if ('reason' in setting) return setting.reason;
  switch (setting.is) {
    case 'value':
      return setting.value;
    case 'list':
      return [...setting.items.map(plain), ...(setting.open ? ['…'] : [])];
    case 'object':
      return {
        ...Object.fromEntries([...setting.entries].map(([key, value]) => [key, plain(value)])),
        ...(setting.open ? { '…': true } : {}),
      };
    case 'made':
      return `by ${setting.by}`;
    case 'pattern':
      return `/${setting.source}/`;
    case 'either':
      return setting.options.map(plain).join('|');
    case 'unknown':
      return '?';
  }
}

const settings = (text: string, others: Record<string, Setting> = {}): unknown =>
  plain(scriptSettings(source('/p/vite.config.ts', text), (_, name) => others[name]));

const DEFINE = "import { defineConfig } from 'vite'; ";

describe('settings files', () => {
  const rows: [string, string, unknown][] = [
    ['an object', 'export default { a: 1, b: ["x", true, null] }', { a: 1, b: ['x', true, null] }],
    ['CommonJS', 'module.exports = { a: 1 }', { a: 1 }],
    ['a constant', 'const config = { a: 1 }; export default config', { a: 1 }],
    ['a helper around it', `${DEFINE}export default defineConfig({ a: 1 })`, { a: 1 }],
    [
      'a helper of the same name from elsewhere',
      "import { defineConfig } from '@kiln/config'; export default defineConfig({ a: { b: 1 } })",
      { a: { b: 1, '…': true }, '…': true },
    ],
    [
      'defaults that a runner exports',
      "import { configDefaults } from 'vitest/config'; export default { a: [...configDefaults.exclude, 'b'] }",
      {
        a: [
          '**/node_modules/**',
          '**/.git/**',
          '**/dist/**',
          '**/cypress/**',
          '**/.{idea,cache,output,temp}/**',
          'b',
        ],
      },
    ],
    ['what a package makes', "import vue from 'kiln-vue'; export default [vue()]", ['by kiln-vue']],
    ['where a package lies', "module.exports = { a: require.resolve('kiln/b') }", { a: 'kiln/b' }],
    ['an unknown helper may add', 'export default withKiln({ a: 1 })', { a: 1, '…': true }],
    ['a function', 'export default () => ({ a: 1 })', { a: 1 }],
    [
      'an async function with constants',
      `${DEFINE}export default defineConfig(async () => { const b = 2; return { a: b }; })`,
      { a: 2 },
    ],
    ['several returns', 'export default ({ mode }) => { if (mode) return "x"; return "y"; }', 'x|y'],
    ['spreads', 'const base = { a: 1, b: 1 }; export default { ...base, b: 2 }', { a: 1, b: 2 }],
    [
      'an unknown spread may win over what stands before it',
      'export default { a: 1, ...load(), b: 2 }',
      { a: '?', b: 2, '…': true },
    ],
    ['spreads of lists', 'const base = ["a"]; export default [...base, "b", ...more]', ['a', 'b', '…']],
    [
      'templates and sums',
      'const d = "src"; export default [`${d}/a`, d + "/b", `${x}/c`]',
      ['src/a', 'src/b', '?'],
    ],
    [
      'path helpers',
      'import path, { resolve, dirname } from "node:path"; export default [path.join(__dirname, "a"), resolve("b"), path.resolve(__dirname, "../c"), dirname(__filename)]',
      ['/p/a', '/p/b', '/c', '/p'],
    ],
    [
      'URLs of the module',
      'import { fileURLToPath } from "node:url"; export default [fileURLToPath(new URL("./src", import.meta.url)), new URL("./a", import.meta.url).pathname, import.meta.dirname]',
      ['/p/src', '/p/a', '/p'],
    ],
    ['conditions keep both', 'export default { a: ci ? 1 : 2, b: x || "y" }', { a: '1|2', b: '?|y' }],
    [
      'members of constants',
      'const a = { b: { c: 3 } }; export default { d: a.b.c, e: a.x }',
      { d: 3, e: undefined },
    ],
    ['negation', 'export default { a: !0, b: -1, c: void 0 }', { a: true, b: -1, c: undefined }],
    ['patterns', 'export default { a: /x+/i }', { a: '/x+/' }],
    [
      'what karma hands to set',
      'module.exports = function (config) { config.set({ files: ["a"] }); }',
      { files: ['a'] },
    ],
    ['a local function', 'const make = () => ({ a: 1 }); export default make()', { a: 1 }],
    ['environment values', 'export default { a: process.env.A }', { a: '?' }],
    ['a variable that may change', 'let a = 1; export default { a }', { a: '?' }],
    ['casts', 'export default { a: 1 } as UserConfig', { a: 1 }],
    ['nothing exported', 'const a = 1', '?'],
    ['broken', 'export default {', 'syntax error: Expected `}` but found `EOF`'],
  ];
  for (const [title, text, wanted] of rows)
    it(`read ${title}`, () => expect(settings(text)).to.deep.equal(wanted));

  it('read others that they import or require, and merge them', () => {
    const at = { file: '', start: 0, end: 0 };
    const base: Setting = {
      is: 'object',
      open: false,
      at,
      entries: new Map([['a', { is: 'list', open: false, at, items: [{ is: 'value', value: 'x', at }] }]]),
    };
    expect(
      settings("import base from './base'; export default mergeConfig(base, { a: ['y'], b: 1 })", {
        './base': base,
      }),
    ).to.deep.equal({ a: ['x', 'y'], b: 1 });
    expect(
      settings("const base = require('./base'); module.exports = { ...base, b: 1 }", { './base': base }),
    ).to.deep.equal({ a: ['x'], b: 1 });
  });

  it('read JSON with comments and YAML, and say where they are broken', () => {
    expect(plain(jsonSettings(source('a.json', '{ "a": [1, "x"], // c\n }')))).to.deep.equal({ a: [1, 'x'] });
    expect(jsonSettings(source('a.json', '{\n "a" 1 }'))).to.include({
      line: 2,
      reason: 'not valid JSON: colon expected',
    });
    expect(plain(yamlSettings(source('a.yml', 'a:\n  - 1\n  - x\nb: true')))).to.deep.equal({
      a: [1, 'x'],
      b: true,
    });
    expect(yamlSettings(source('a.yml', 'a: [1')))
      .to.have.property('reason')
      .that.includes('not valid YAML');
  });
});

describe('scripts of a manifest', () => {
  const commands = (scripts: Record<string, string>): string[] => {
    const setting = jsonSettings(source('/p/package.json', JSON.stringify({ scripts })));
    if ('reason' in setting) throw new Error(setting.reason);
    return commandsOf(manifestOf('/p/package.json', '/p', setting)).map(
      ({ script, program, args, env }) =>
        `${script}: ${[...env].map(([key, value]) => `${key}=${value} `).join('')}${[program, ...args].join(' ')}`,
    );
  };
  const rows: [string, Record<string, string>, string[]][] = [
    ['plain', { test: 'vitest run --globals' }, ['test: vitest run --globals']],
    [
      'chains',
      { test: 'tsc && jest --ci || true; echo done' },
      ['test: tsc', 'test: jest --ci', 'test: true', 'test: echo done'],
    ],
    ['prefixes', { test: 'cross-env NODE_ENV=test CI=1 npx jest' }, ['test: NODE_ENV=test CI=1 jest']],
    ['paths of programs', { test: 'node_modules/.bin/mocha "test/**/*.js"' }, ['test: mocha test/**/*.js']],
    [
      'scripts that call scripts',
      { test: 'npm run unit -- --watch', unit: 'jest' },
      ['test: jest --watch', 'unit: jest'],
    ],
    [
      'the other package managers',
      { a: 'yarn b', b: 'pnpm run c', c: 'vitest' },
      ['a: vitest', 'b: vitest', 'c: vitest'],
    ],
    [
      'programs run by a manager',
      { a: 'pnpm exec vitest run', b: 'yarn dlx jest' },
      ['a: vitest run', 'b: jest'],
    ],
    ['a circle', { a: 'npm run b', b: 'npm run a' }, []],
    [
      'several at once',
      { a: 'run-s b c', b: 'jest', c: 'mocha' },
      ['a: jest', 'a: mocha', 'b: jest', 'c: mocha'],
    ],
    [
      'quotes and variables',
      { a: "jest --testPathPattern='a b' $EXTRA" },
      ['a: jest --testPathPattern=a b $EXTRA'],
    ],
  ];
  for (const [title, scripts, wanted] of rows)
    it(`follow ${title}`, () => expect(commands(scripts)).to.deep.equal(wanted));

  it('give the values of flags', () => {
    const command = {
      script: 'a',
      program: 'vitest',
      args: ['--config', 'a.ts', '--dir=src', '--globals', '-c'],
      env: new Map(),
      at: { file: '', start: 0, end: 0 },
    };
    expect([
      flagOf(command, '--config'),
      flagOf(command, '--dir'),
      flagOf(command, '--globals'),
      flagOf(command, '-c'),
      flagOf(command, '--x'),
    ]).to.deep.equal(['a.ts', 'src', true, true, undefined]);
  });
});

describe('environments', () => {
  const factsOf = (files: Record<string, string>, at = 'src/a.spec.ts'): RunnerFacts[] => {
    const folder = written({ ...files, '.git/HEAD': '' });
    return [...new Environments(new DiskFiles()).of(`${folder}/${at}`).runners];
  };
  const value = (fact: { known: boolean; value?: unknown } | undefined): unknown =>
    fact?.known ? fact.value : '?';

  it('read the facts of vitest', () => {
    const [facts] = factsOf({
      'package.json': '{"devDependencies":{"vitest":"3"}}',
      'vite.config.ts':
        "export default { test: { environment: 'jsdom', globals: true, restoreMocks: true, mockReset: flag, setupFiles: './a.ts' } }",
    });
    expect([
      facts?.runner,
      value(facts?.document),
      value(facts?.globals),
      value(facts?.restores),
      value(facts?.resets),
      value(facts?.clears),
      value(facts?.isolates),
    ]).to.deep.equal(['vitest', 'jsdom', true, true, '?', false, true]);
    expect(
      facts?.setupFiles.known && facts.setupFiles.value.map(({ text, key }) => `${key} ${text}`),
    ).to.deep.equal(['setupFiles ./a.ts']);
  });

  it('read the facts of jest, from its file or the manifest', () => {
    const inFile = factsOf({
      'package.json': '{"devDependencies":{"jest":"29"}}',
      'jest.config.js': "module.exports = { testEnvironment: 'jsdom', resetMocks: true }",
    })[0];
    const inside = factsOf({
      'package.json':
        '{"devDependencies":{"jest":"29"},"jest":{"testEnvironment":"jsdom","resetMocks":true}}',
    })[0];
    for (const facts of [inFile, inside])
      expect([
        facts?.runner,
        value(facts?.document),
        value(facts?.resets),
        value(facts?.restores),
        value(facts?.globals),
      ]).to.deep.equal(['jest', 'jsdom', true, false, true]);
  });

  it('know nothing where projects stand elsewhere, settings are computed, or a preset is named', () => {
    const extras: Record<string, string>[] = [
      { 'vitest.config.ts': "export default { test: { projects: ['a'] } }" },
      { 'vitest.config.ts': 'export default make()' },
      { 'vitest.config.ts': 'export default {' },
    ];
    for (const extra of extras) {
      const [facts] = factsOf({ 'package.json': '{"devDependencies":{"vitest":"3"}}', ...extra });
      expect([value(facts?.restores), value(facts?.collects)], JSON.stringify(extra)).to.deep.equal([
        '?',
        '?',
      ]);
    }
    const [preset] = factsOf({
      'package.json': '{"devDependencies":{"jest":"29"},"jest":{"preset":"kiln"}}',
    });
    expect(value(preset?.restores)).to.equal('?');
    const [harmless] = factsOf({
      'package.json': '{"devDependencies":{"jest":"29"},"jest":{"preset":"ts-jest"}}',
    });
    expect(value(harmless?.restores)).to.equal(false);
  });

  it('find runners by programs, and take what the workspace root runs', () => {
    const files = {
      'package.json': '{"workspaces":["packages/*"],"scripts":{"test":"jest"},"jest":{}}',
      'packages/a/package.json': '{"name":"a","scripts":{"test":"mocha src"}}',
    };
    expect(factsOf(files, 'packages/a/src/a.spec.ts').map(({ runner }) => runner)).to.deep.equal([
      'mocha',
      'jest',
    ]);
    expect(
      factsOf({
        'package.json': '{"scripts":{"a":"ng test","b":"node --test","c":"bun test","d":"karma start"}}',
      }).map(({ runner }) => runner),
    ).to.deep.equal(['karma', 'angular', 'node', 'bun']);
  });

  it('pass over manifests that only mark a folder', () => {
    const folder = written({
      'package.json': '{"name":"whole","devDependencies":{"jest":"29"}}',
      'src/package.json': '{"type":"module"}',
      '.git/HEAD': '',
    });
    expect(new Environments(new DiskFiles()).of(`${folder}/src/a.ts`).manifest?.name).to.equal('whole');
  });

  it('collect as the runners do', () => {
    const base = {
      folder: '/p',
      exclude: [],
      patterns: [],
      leftOut: [],
      roots: ['/p'],
      at: { file: '', start: 0, end: 0 },
      byDefault: false,
    };
    const takes = (extra: object, path: string): boolean =>
      collector({ ...base, include: [], ...extra })(path);
    const jest = {
      include: ['**/__tests__/**/*.?([mc])[jt]s?(x)', '**/?(*.)+(spec|test).?([mc])[jt]s?(x)'],
      leftOut: ['/node_modules/'],
    };
    expect(
      ['/p/a.spec.ts', '/p/spec.js', '/p/a/__tests__/b.tsx', '/p/a.test.mjs'].map((path) =>
        takes(jest, path),
      ),
    ).to.deep.equal([true, true, true, true]);
    expect(
      ['/p/a.specs.ts', '/p/aspec.ts', '/p/node_modules/a.spec.ts', '/q/a.spec.ts'].map((path) =>
        takes(jest, path),
      ),
    ).to.deep.equal([false, false, false, false]);
    expect(
      takes({ include: ['src/**/*.spec.{ts,tsx}'], exclude: ['src/old/**'] }, '/p/src/a.spec.tsx'),
    ).to.equal(true);
    expect(takes({ include: ['./src/**'], exclude: ['src/old/**'] }, '/p/src/old/a.ts')).to.equal(false);
    expect(takes({ patterns: ['\\.unit\\.js$'] }, '/p/a.unit.js')).to.equal(true);
    expect(takes({ patterns: ['('] }, '/p/a.js'), 'a pattern that is not valid').to.equal(true);
    expect(takes({ include: ['/p/src/*.ts'] }, '/p/src/a.ts')).to.equal(true);
  });
});

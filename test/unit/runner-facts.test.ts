import { expect } from 'chai';
import { DiskFiles } from '#src/index.js';
import { compilerSettingsIn } from '#src/environment/compiler-settings.js';
import type { RunnerFacts } from '#src/environment/facts/environment.js';
import { manifestOf } from '#src/environment/settings/manifest.js';
import { Environments } from '#src/environment/read.js';
import type { Known } from '#src/environment/settings/setting.js';
import { majorOf } from '#src/environment/versions.js';
import { written } from '../support/samples.js';

const runnersIn = (files: Record<string, string>, at = 'a.spec.ts'): readonly RunnerFacts[] =>
  new Environments(new DiskFiles()).of(`${written({ 'yarn.lock': '', '.git/HEAD': '', ...files })}/${at}`)
    .runners;
const value = <T>(fact: Known<T> | undefined): T | '?' | undefined => (fact?.known ? fact.value : '?');

const VITEST = '{"scripts":{"test":"vitest run FLAGS"},"devDependencies":{"vitest":"^3"}}';
const JEST = '{"scripts":{"test":"jest FLAGS"},"devDependencies":{"jest":"^29"}}';

describe('the facts of a runner', () => {
  type Fact = (facts: RunnerFacts | undefined) => unknown;
  const document: Fact = (facts) => value(facts?.document);
  const globals: Fact = (facts) => value(facts?.globals);
  const isolates: Fact = (facts) => value(facts?.isolates);
  const setups: Fact = (facts) =>
    facts?.setupFiles.known ? facts.setupFiles.value.map(({ text }) => text) : '?';
  const folder: Fact = (facts) =>
    facts?.collects.known ? facts.collects.value.folder.split('/').at(-1) : '?';
  const aliases: Fact = (facts) =>
    facts?.aliases.known ? facts.aliases.value.map(({ pattern }) => pattern) : '?';
  const rules: Fact = (facts) =>
    facts?.transforms.known && facts.transforms.value.by === 'rules'
      ? facts.transforms.value.rules.map(({ by }) => by)
      : '?';
  const plugins: Fact = (facts) =>
    facts?.transforms.known && facts.transforms.value.by === 'plugins' ? facts.transforms.value.plugins : '?';
  const loadedOnly: Fact = (facts) => (facts?.coverage.known ? facts.coverage.value.loadedOnly : '?');

  const rows: [string, string, string, string, Fact, unknown][] = [
    ['vitest', '', 'export default {}', 'the default document', document, 'node'],
    ['vitest', '--environment=jsdom', 'export default {}', 'a flag', document, 'jsdom'],
    ['vitest', '--dom', 'export default {}', 'a short flag', document, 'happy-dom'],
    ['vitest', '--globals', 'export default {}', 'globals by a flag', globals, true],
    [
      'vitest',
      '--globals=false',
      'export default { test: { globals: true } }',
      'globals off by a flag',
      globals,
      false,
    ],
    ['vitest', '--no-isolate', 'export default {}', 'isolation off by a flag', isolates, false],
    [
      'vitest',
      '',
      'export default { test: { poolOptions: { threads: { isolate: false } } } }',
      'isolation off for a pool',
      isolates,
      false,
    ],
    ['vitest', '--dir src', 'export default {}', 'a folder by a flag', folder, 'src'],
    ['vitest', '--root ui', 'export default {}', 'a root by a flag', folder, 'ui'],
    [
      'vitest',
      '',
      "export default { resolve: { alias: [{ find: /^~/, replacement: '/src' }] } }",
      'aliases in a list',
      aliases,
      ['^~'],
    ],
    [
      'vitest',
      '',
      "export default { test: { alias: { '@': '/src' } } }",
      'aliases of specs',
      aliases,
      ['^@(?=/|$)'],
    ],
    [
      'vitest',
      '',
      'export default { resolve: { tsconfigPaths: true } }',
      "the compiler's paths",
      (facts) => [value(facts?.aliases), facts?.readsPaths],
      [[], true],
    ],
    [
      'vitest',
      '',
      "import vue from '@vitejs/plugin-vue'; export default { plugins: [vue()] }",
      'plugins',
      plugins,
      ['@vitejs/plugin-vue'],
    ],
    [
      'vitest',
      '',
      "import kiln from 'kiln'; export default { plugins: [kiln()] }",
      'a plugin that may set globals',
      globals,
      '?',
    ],
    [
      'vitest',
      '',
      "import kiln from 'kiln'; export default { plugins: [kiln()], test: { globals: true } }",
      'beside one that sets them',
      globals,
      true,
    ],
    [
      'vitest',
      '',
      "import kiln from 'kiln'; export default { plugins: [kiln()] }",
      'a plugin that may load files',
      setups,
      '?',
    ],
    [
      'vitest',
      '',
      String.raw`export default { plugins: [{ name: 'a', resolveId(id) { if (/\.css$/.test(id) || id === 'b') return 'c'; return null; }, load(id) { if (id.startsWith('x') && id.length) { return ''; } } }] }`,
      'a plugin that is written there, and takes some imports',
      (facts) => [aliases(facts), globals(facts)],
      [[String.raw`\.css$`, '^b$', '^x'], false],
    ],
    [
      'vitest',
      '',
      "export default { plugins: [{ name: 'a', resolveId: (id) => { if (id.endsWith('b') || kiln) return 'c'; } }] }",
      'a plugin that is written there, and may take any',
      aliases,
      '?',
    ],
    [
      'vitest',
      '',
      "export default { plugins: [{ name: 'a', config() { return { test: { globals: true } }; } }] }",
      'a plugin that is written there, and may set anything',
      globals,
      '?',
    ],
    ['vitest', '', 'export default { test: { coverage: { all: false } } }', 'coverage', loadedOnly, true],
    ['jest', '', 'module.exports = {}', 'the default document of 27 and later', document, 'node'],
    ['jest', '--env=jsdom', 'module.exports = {}', 'a flag of jest', document, 'jsdom'],
    ['jest', '', "module.exports = { preset: 'ts-jest' }", 'a preset', rules, ['ts-jest']],
    [
      'jest',
      '',
      "module.exports = { preset: 'ts-jest/presets/js-with-babel', transform: { a: ['b', {}] } }",
      'a preset, and more',
      rules,
      ['b', 'ts-jest', 'babel-jest'],
    ],
    ['jest', '', "module.exports = { preset: 'kiln' }", 'a preset that nobody knows', rules, '?'],
    ['jest', '', 'module.exports = {}', 'babel without settings', rules, ['']],
    ['jest', '', "module.exports = { moduleNameMapper: { '^@': 'a' } }", 'mapped names', aliases, ['^@']],
    ['jest', '', "module.exports = { modulePaths: ['src'] }", 'folders for bare names', aliases, []],
    ['jest', '', 'module.exports = {}', 'coverage of jest', loadedOnly, true],
  ];
  for (const [runner, flags, settings, title, fact, wanted] of rows) {
    it(`${title} (${runner})`, () => {
      const isJest = runner === 'jest';
      const [facts] = runnersIn({
        'package.json': (isJest ? JEST : VITEST).replace('FLAGS', flags),
        [isJest ? 'jest.config.js' : 'vitest.config.ts']: settings,
      });
      expect(fact(facts)).to.deep.equal(wanted);
    });
  }

  it('stand apart for each project, and for each file that a script names', () => {
    const several = runnersIn({
      'package.json': VITEST.replace('FLAGS', ''),
      'vitest.config.ts':
        "export default { test: { globals: true, projects: [{ extends: true, test: { name: 'ui', environment: 'jsdom' } }, { test: { name: 'lib' } }, 'packages/*'] } }",
    });
    expect(several.map((each) => [each.project, globals(each), document(each)])).to.deep.equal([
      ['ui', true, 'jsdom'],
      ['lib', false, 'node'],
      [undefined, '?', '?'],
    ]);
    const named = runnersIn({
      'package.json':
        '{"scripts":{"test":"jest","more":"jest -c more.config.js"},"devDependencies":{"jest":"^29"}}',
      'jest.config.js': "module.exports = { projects: [{ displayName: 'a', testEnvironment: 'jsdom' }] }",
      'more.config.js': 'module.exports = { resetMocks: true }',
    });
    expect(named.map((each) => [each.project, document(each), value(each.resets)])).to.deep.equal([
      ['a', 'jsdom', false],
      [undefined, 'node', true],
    ]);
  });

  it('take the projects of a workspace file', () => {
    const [facts] = runnersIn({
      'package.json': VITEST.replace('FLAGS', ''),
      'vitest.workspace.ts':
        "import { defineWorkspace } from 'vitest/config'; export default defineWorkspace([{ test: { name: 'ui', globals: true } }])",
    });
    expect([facts?.project, globals(facts)]).to.deep.equal(['ui', true]);
  });

  it('are the defaults where all of a project is in sight, and unknown where it is not', () => {
    const files = { 'package.json': VITEST.replace('FLAGS', '') };
    expect(globals(runnersIn(files)[0])).to.equal(false);
    const published = new Environments(new DiskFiles()).of(`${written(files)}/a.spec.ts`);
    expect([published.isWhole, globals(published.runners[0])]).to.deep.equal([false, '?']);
  });

  it("are Angular's own, for its test builders", () => {
    const workspace = (builder: string): string =>
      JSON.stringify({
        projects: { log: { root: '', sourceRoot: 'src', architect: { test: { builder } } } },
      });
    const read = (builder: string): unknown[] => {
      const [facts, ...others] = runnersIn({
        'package.json':
          '{"scripts":{"test":"ng test"},"devDependencies":{"@angular/build":"^21","karma":"6","vitest":"4"}}',
        'angular.json': workspace(builder),
      });
      return [document(facts), globals(facts), value(facts?.restores), others.length];
    };
    expect(read('@angular/build:karma')).to.deep.equal(['browser', true, true, 0]);
    expect(read('@angular/build:unit-test')).to.deep.equal(['jsdom', true, '?', 0]);
    expect(read('@kiln/build:test')).to.deep.equal(['?', true, '?', 0]);
  });
});

describe('compiler settings', () => {
  const read = (files: Record<string, string>): ReturnType<typeof compilerSettingsIn> => {
    const folder = written(files);
    const environments = new Environments(new DiskFiles());
    return compilerSettingsIn(new DiskFiles(), (file) => environments.setting(file), folder);
  };
  const types = (files: Record<string, string>): unknown => {
    const fact = read(files)[0]?.types;
    return fact?.known ? fact.value?.map(({ text }) => text) : '?';
  };

  it('follow what they extend, and end where that goes round', () => {
    const list = '{"compilerOptions":{"types":["node"]}}';
    expect(types({ 'tsconfig.json': '{"extends":"./a"}', 'a.json': list })).to.deep.equal(['node']);
    expect(
      types({ 'tsconfig.json': '{"extends":["./b","./a"]}', 'a.json': list, 'b.json': '{}' }),
    ).to.deep.equal(['node']);
    expect(
      types({
        'tsconfig.json': '{"extends":"@kiln/tsconfig/a.json"}',
        'node_modules/@kiln/tsconfig/a.json': list,
        'node_modules/@kiln/tsconfig/package.json': '{}',
      }),
    ).to.deep.equal(['node']);
    expect(types({ 'tsconfig.json': '{"extends":"./tsconfig.json"}' })).to.equal('?');
    expect(types({ 'tsconfig.json': '{"extends":"@kiln/not-there"}' })).to.equal('?');
    expect(types({ 'tsconfig.json': '{ // a comment\n "compilerOptions": {}, }' })).to.equal(undefined);
  });

  it('say which files they take', () => {
    const takes = (settings: object, ...paths: string[]): boolean[] => {
      const [found] = read({ 'tsconfig.json': JSON.stringify(settings) });
      const folder = found?.file.slice(0, -'/tsconfig.json'.length);
      return paths.map((path) => found?.takes(`${folder}/${path}`) ?? false);
    };
    expect(takes({}, 'a.ts', 'b/c.ts')).to.deep.equal([true, true]);
    expect(takes({ include: ['src'] }, 'a.ts', 'src/b/c.ts')).to.deep.equal([false, true]);
    expect(
      takes({ include: ['src/**/*.ts'], exclude: ['**/*.spec.ts'] }, 'src/a.ts', 'src/a.spec.ts'),
    ).to.deep.equal([true, false]);
    expect(takes({ files: [] }, 'a.ts')).to.deep.equal([false]);
  });
});

const NO_MANIFEST = manifestOf('', '', { is: 'unknown', at: { file: '', start: 0, end: 0 } });

describe('versions', () => {
  const major = (range: string, exact?: string): unknown => majorOf({ range, exact, manifest: NO_MANIFEST });
  it('give the lowest major that a range allows, or the one that is there', () => {
    expect([major('^3.2.0'), major('>=2 <5'), major('18.x || 19.x'), major('~1.2')]).to.deep.equal([
      3, 2, 18, 1,
    ]);
    expect([major('latest'), major('workspace:*'), major('*'), major('catalog:')]).to.deep.equal([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
    expect(major('>=2', '3.4.5')).to.equal(3);
  });

  it('are read from the install, else from the lock file', () => {
    const manifest = '{"devDependencies":{"vitest":">=1"}}';
    const read = (files: Record<string, string>): unknown => {
      const folder = written({ 'package.json': manifest, ...files });
      const environments = new Environments(new DiskFiles());
      const own = environments.of(`${folder}/a.ts`).manifest;
      return own && environments.version([own], 'vitest')?.exact;
    };
    const lock = '{"packages":{"node_modules/vitest":{"version":"2.1.0"}}}';
    expect(read({})).to.equal(undefined);
    expect(read({ 'package-lock.json': lock })).to.equal('2.1.0');
    expect(
      read({ 'package-lock.json': lock, 'node_modules/vitest/package.json': '{"version":"3.0.1"}' }),
    ).to.equal('3.0.1');
  });
});

import { expect } from 'chai';
import { DiskFiles } from '#src/index.js';
import { Environments } from '#src/environment/read.js';
import { Project } from '#src/project/project.js';
import { written } from '../support/samples.js';

/** The file that an import of `src/a.spec.ts` leads to, from the root of some files. */
function ledTo(specifier: string, files: Record<string, string>): string | undefined {
  const folder = written({ '.git/HEAD': '', 'src/lid.ts': '', 'src/parts/lid.ts': '', ...files });
  const environments = new Environments(new DiskFiles());
  const project = new Project(new DiskFiles(), undefined, {
    sources: () => [],
    leads: (file) => environments.leads(file),
  });
  return project.resolve(`${folder}/src/a.spec.ts`, specifier)?.slice(folder.length + 1);
}

const JEST = '{"scripts":{"test":"jest"},"devDependencies":{"jest":"^29"},"jest":SETTINGS}';
const jest = (settings: object, more: Record<string, string> = {}): Record<string, string> => ({
  'package.json': JEST.replace('SETTINGS', JSON.stringify(settings)),
  ...more,
});
const vitest = (settings: string): Record<string, string> => ({
  'package.json': '{"scripts":{"test":"vitest"},"devDependencies":{"vitest":"^3"}}',
  'vitest.config.ts': `export default ${settings}`,
});
const compiled = (options: object, more: Record<string, string> = {}): Record<string, string> => ({
  'package.json': '{}',
  'tsconfig.json': JSON.stringify(options),
  ...more,
});
const babel = (plugin: unknown, more: Record<string, string> = {}): Record<string, string> =>
  jest({}, { '.babelrc': JSON.stringify({ plugins: [plugin] }), ...more });
const RESOLVER = 'module-resolver';

describe('imports that are no paths lead', () => {
  const rows: [string, string, Record<string, string>, string | undefined][] = [
    ['by a mapper', '@/lid', jest({ moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' } }), 'src/lid.ts'],
    [
      'by a mapper that takes a part',
      'a@lid',
      jest({ moduleNameMapper: { '@(.*)': './src/$1' } }),
      'src/lid.ts',
    ],
    ['by one of two', '@/lid', jest({ moduleNameMapper: { '^@/(.*)$': ['<rootDir>/x/$1'] } }), undefined],
    [
      'past a mapper to a package',
      './lid',
      jest({ moduleNameMapper: { lid: 'identity-stub' } }),
      'src/lid.ts',
    ],
    ['below module paths', 'parts/lid', jest({ modulePaths: ['<rootDir>/src'] }), 'src/parts/lid.ts'],
    ['below module folders', 'lid', jest({ moduleDirectories: ['node_modules', 'src'] }), 'src/lid.ts'],
    ['nowhere', 'lid', jest({}), undefined],
    [
      'by an alias',
      '@/lid',
      vitest("{ resolve: { alias: { '@': new URL('./src', import.meta.url).pathname } } }"),
      'src/lid.ts',
    ],
    [
      'by an alias of specs',
      '@/lid',
      vitest("{ test: { alias: { '@': __dirname + '/src' } } }"),
      'src/lid.ts',
    ],
    [
      'by a pattern',
      '~lid',
      vitest('{ resolve: { alias: [{ find: /^~/, replacement: __dirname + "/src/" }] } }'),
      'src/lid.ts',
    ],
    ['by paths', '@/lid', compiled({ compilerOptions: { paths: { '@/*': ['./src/*'] } } }), 'src/lid.ts'],
    [
      'by the second of two paths',
      'lid',
      compiled({ compilerOptions: { paths: { lid: ['x', 'src/lid'] } } }),
      'src/lid.ts',
    ],
    [
      'by paths from a base',
      'p/lid',
      compiled({ compilerOptions: { baseUrl: 'src', paths: { 'p/*': ['parts/*'] } } }),
      'src/parts/lid.ts',
    ],
    ['below a base', 'parts/lid', compiled({ compilerOptions: { baseUrl: 'src' } }), 'src/parts/lid.ts'],
    [
      'by paths that are extended',
      '@/lid',
      compiled({ extends: './a.json' }, { 'a.json': '{"compilerOptions":{"paths":{"@/*":["src/*"]}}}' }),
      'src/lid.ts',
    ],
    [
      'by paths beside what can’t be read',
      '@/lid',
      compiled({ extends: '@kiln/none', compilerOptions: { paths: { '@/*': ['src/*'] } } }),
      'src/lid.ts',
    ],
    [
      'by paths of a script’s settings',
      '@/lid',
      { 'package.json': '{}', 'jsconfig.json': '{"compilerOptions":{"paths":{"@/*":["src/*"]}}}' },
      'src/lid.ts',
    ],
    ['by a plugin', '@p/lid', babel([RESOLVER, { alias: { '@p': './src/parts' } }]), 'src/parts/lid.ts'],
    [
      'by a plugin’s pattern',
      '@p-lid',
      babel([RESOLVER, { alias: { '^@p-(.+)': './src/parts/\\1' } }]),
      'src/parts/lid.ts',
    ],
    ['below a plugin’s folder', 'lid', babel([RESOLVER, { root: ['./src'] }]), 'src/lid.ts'],
    ['from a plugin’s root', '~/src/lid', babel('root-import'), 'src/lid.ts'],
    [
      'from a plugin’s root below',
      '#lid',
      babel(['root-import', { rootPathPrefix: '#', rootPathSuffix: 'src' }]),
      'src/lid.ts',
    ],
  ];
  for (const [title, specifier, files, expected] of rows)
    it(title, () => expect(ledTo(specifier, files)).to.equal(expected));
});

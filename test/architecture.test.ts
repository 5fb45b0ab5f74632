import { expect } from 'chai';
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { parseSync } from 'oxc-parser';
import { TEST_FOLDER } from './support/samples.js';

const SRC = join(TEST_FOLDER, '../src');

/** Which folder may import which; `util` and `parse/place` are open to all. */
const MAY: Record<string, readonly string[]> = {
  util: [],
  parse: [],
  mends: ['parse'],
  discover: [],
  config: ['parse'],
  dialects: ['parse', 'discover'],
  environment: ['parse', 'discover'],
  model: ['parse', 'discover', 'dialects', 'config'],
  branches: ['model', 'parse'],
  coverage: ['model', 'parse', 'branches', 'discover'],
  checks: [
    'model',
    'environment',
    'branches',
    'coverage',
    'mends',
    'dialects',
    'parse',
    'discover',
    'config',
  ],
  audit: [
    'checks',
    'model',
    'environment',
    'branches',
    'coverage',
    'mends',
    'dialects',
    'parse',
    'discover',
    'config',
  ],
  report: ['audit', 'checks'],
};

interface File {
  path: string;
  folder: string;
  text: string;
  imports: { specifier: string; typeOnly: boolean }[];
}

const files: File[] = readdirSync(SRC, { recursive: true, encoding: 'utf8' })
  .filter((path) => path.endsWith('.ts'))
  .map((path) => path.replaceAll('\\', '/'))
  .map((path) => {
    const text = readFileSync(join(SRC, path), 'utf8');
    const { module } = parseSync(path, text);
    const imports = module.staticImports.map(({ moduleRequest, entries }) => ({
      specifier: moduleRequest.value,
      typeOnly: entries.length > 0 && entries.every(({ isType }) => isType),
    }));
    const dynamic = module.dynamicImports.map(({ moduleRequest }) => ({
      specifier: text.slice(moduleRequest.start + 1, moduleRequest.end - 1),
      typeOnly: false,
    }));
    return {
      path,
      folder: path.includes('/') ? (path.split('/')[0] ?? '') : '',
      text,
      imports: [...imports, ...dynamic],
    };
  });

const targetOf = (file: File, specifier: string): string =>
  join(file.path, '..', specifier).replaceAll('\\', '/');

describe('architecture', () => {
  it('imports only in the directions of the table', () => {
    const wrong = files.flatMap((file) => {
      const may = MAY[file.folder];
      if (!may) return [];
      return file.imports
        .filter(({ specifier }) => specifier.startsWith('.'))
        .map(({ specifier }) => targetOf(file, specifier).split('/')[0] ?? '')
        .filter((folder) => folder !== file.folder && folder !== 'util' && !may.includes(folder))
        .map((folder) => `${file.path} -> ${folder}`);
    });
    expect(wrong).to.deep.equal([]);
  });

  it('has nothing that imports the command line', () => {
    const wrong = files.filter(
      (file) =>
        file.folder !== 'cli' &&
        file.imports.some(({ specifier }) => targetOf(file, specifier).startsWith('cli/')),
    );
    expect(wrong.map(({ path }) => path)).to.deep.equal([]);
  });

  it('touches process, console, clock and disk only at the command line and in the one disk', () => {
    const inner = files.filter((file) => file.folder !== 'cli' && file.path !== 'discover/disk-files.ts');
    for (const { path, text, imports } of inner) {
      const { program } = parseSync(path, text);
      const names = new Set(
        JSON.stringify(program).match(
          /"type":"Identifier"[^}]*?"name":"(?:process|console|performance|Date)"/g,
        ) ?? [],
      );
      expect([...names], path).to.deep.equal([]);
      const disk = imports.filter(({ specifier }) => /^node:(?!crypto|path|module)/.test(specifier));
      expect(disk, path).to.deep.equal([]);
    }
  });

  it('has a file for each check, named by its code, in the folder of its family', async () => {
    const { CHECKS } = await import('#src/checks/index.js');
    const found = files
      .map(({ path }) => /^checks\/(\w+)\/([A-Z]\d\d)\.ts$/.exec(path))
      .filter((match) => match !== null);
    const known = CHECKS.map(({ family, code }) => `${family}/${code}`);
    expect(found.map((match) => `${match[1]}/${match[2]}`).sort()).to.deep.equal([...known].sort());
    expect(new Set(known).size).to.equal(known.length);
  });

  it('keeps checks away from syntax trees', () => {
    const wrong = files.filter(
      (file) =>
        file.folder === 'checks' &&
        file.imports.some(
          ({ specifier }) => specifier.includes('oxc-parser') || specifier.includes('parse/tree'),
        ),
    );
    expect(wrong.map(({ path }) => path)).to.deep.equal([]);
  });
});

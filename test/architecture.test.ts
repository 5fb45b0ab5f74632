import { expect } from 'chai';
import { readFileSync, readdirSync } from 'node:fs';
import { join, posix } from 'node:path';
import { parseSync } from 'oxc-parser';
import { TEST_FOLDER } from './support/samples.js';

const SRC = join(TEST_FOLDER, '../src');

/** Which folder may import which, lowest first; `util` and `finding.ts` are open to all, the command line to none. */
const MAY: Record<string, string> = {
  syntax: '',
  language: 'syntax',
  components: 'language syntax',
  host: '',
  'components/frameworks/angular': 'components host language syntax',
  'components/frameworks/react': 'components language syntax',
  'components/frameworks/vue': 'components components/frameworks/react language syntax',
  libraries: '',
  project:
    'components components/frameworks/angular components/frameworks/react components/frameworks/vue host libraries syntax',
  branches:
    'components components/frameworks/angular components/frameworks/react components/frameworks/vue language project syntax',
  'environment/tables': '',
  config: 'environment/tables syntax',
  'specs/model': 'components language libraries project syntax',
  'specs/reader':
    'components components/frameworks/react components/frameworks/vue config language libraries project specs/model syntax',
  rendering: 'components components/frameworks/react libraries project specs/model specs/reader',
  coverage: 'branches components host project rendering syntax',
  'environment/settings': 'environment/tables host language syntax',
  'environment/facts': 'environment/settings environment/tables host',
  environment: 'environment/facts environment/settings environment/tables host syntax',
  'writing/edits': '',
  'checks/questions':
    'components config coverage environment environment/facts environment/settings environment/tables host libraries project rendering specs/model specs/reader syntax writing/edits',
  writing:
    'branches checks/questions components coverage environment environment/settings libraries project rendering specs/model syntax writing/edits',
  'checks/branches': 'checks/questions components coverage project rendering writing',
  'checks/cleanup':
    'checks/questions environment environment/facts libraries specs/model writing writing/edits',
  'checks/environment':
    'checks/questions components environment environment/facts environment/settings environment/tables host libraries project specs/reader writing writing/edits',
  'checks/overload': 'checks/questions rendering specs/model writing writing/edits',
  'checks/queries': 'checks/questions components libraries rendering specs/model writing',
  'checks/state': 'checks/questions project specs/model writing',
  checks:
    'checks/branches checks/cleanup checks/environment checks/overload checks/queries checks/questions checks/state',
  audit:
    'branches checks checks/questions components config coverage environment environment/facts environment/settings environment/tables host libraries project rendering specs/model specs/reader syntax writing writing/edits',
  formats: 'audit checks checks/questions specs/model',
  util: '',
};

/** Files that are one model together: their types refer to one another. */
const ONE_MODEL = [
  ['specs/model/blocks.ts', 'specs/model/env.ts', 'specs/model/steps.ts', 'specs/model/values.ts'],
];

interface Import {
  /** The path below `src`, or the package. */
  target: string;
  names: readonly string[];
}

interface File {
  path: string;
  folder: string;
  text: string;
  imports: Import[];
  exports: readonly string[];
}

const files: File[] = below('../src').map((path) => {
  const text = readFileSync(join(SRC, path), 'utf8');
  const { module } = parseSync(path, text);
  const target = (specifier: string): string =>
    specifier.startsWith('.') ? posix.join(path, '..', specifier).replace(/\.js$/, '.ts') : specifier;
  const entries = module.staticExports.flatMap((each) => each.entries);
  return {
    path,
    folder: posix.dirname(path),
    text,
    imports: [
      ...module.staticImports.map((each) => ({
        target: target(each.moduleRequest.value),
        names: each.entries.map(({ importName }) => importName.name ?? '*'),
      })),
      ...entries.flatMap(({ moduleRequest, importName }) =>
        moduleRequest ? [{ target: target(moduleRequest.value), names: [importName.name ?? '*'] }] : [],
      ),
      ...module.dynamicImports.map(({ moduleRequest: { start, end } }) => ({
        target: target(text.slice(start + 1, end - 1)),
        names: ['*'],
      })),
    ],
    exports: entries.flatMap(({ exportName, moduleRequest }) =>
      exportName.name && !moduleRequest ? [exportName.name] : [],
    ),
  };
});

function below(folder: string): string[] {
  return readdirSync(join(TEST_FOLDER, folder), { recursive: true, encoding: 'utf8' })
    .filter((path) => path.endsWith('.ts'))
    .map((path) => path.replaceAll('\\', '/'));
}

const byPath = new Map(files.map((file) => [file.path, file]));

/** The files that one leads to, itself among them where it stands in a circle. */
function reachedFrom(start: File): Set<string> {
  const found = new Set<string>();
  const open = [start];
  for (let at = open.pop(); at; at = open.pop())
    for (const { target } of at.imports) {
      const file = byPath.get(target);
      if (!file || found.has(target)) continue;
      found.add(target);
      open.push(file);
    }
  return found;
}

describe('architecture', () => {
  it('has a row for each folder, and imports only what its row names', () => {
    const folders = new Set(files.map(({ folder }) => folder).filter((each) => !/^(?:\.|cli.*)$/.test(each)));
    expect(Object.keys(MAY).sort()).to.deep.equal([...folders].sort());
    const wrong = files.flatMap(({ path, folder, imports }) => {
      const may = MAY[folder]?.split(' ');
      return imports
        .map(({ target }) => posix.dirname(target))
        .filter((to) => may && byFolder.has(to) && to !== folder && !may.includes(to) && !OPEN.includes(to))
        .map((to) => `${path} -> ${to}`);
    });
    expect(wrong).to.deep.equal([]);
  });

  it('has rows that only name rows above them, so that folders stand in no circle', () => {
    const rows = Object.keys(MAY);
    const wrong = rows.flatMap((row, i) =>
      (MAY[row]?.split(' ') ?? [])
        .filter((each) => each && each !== 'util' && !rows.slice(0, i).includes(each))
        .map((each) => `${row} -> ${each}`),
    );
    expect(wrong).to.deep.equal([]);
  });

  it('has no circle of files, but for one model in several files', () => {
    const inCircle = files.filter((file) => reachedFrom(file).has(file.path)).map(({ path }) => path);
    expect(inCircle.sort()).to.deep.equal(ONE_MODEL.flat().sort());
  });

  it('exports nothing that nobody takes', () => {
    const taken = new Set(files.flatMap(({ imports }) => imports.flatMap(takenBy)));
    for (const path of below('.')) {
      const { module } = parseSync(path, readFileSync(join(TEST_FOLDER, path), 'utf8'));
      for (const { moduleRequest, entries } of module.staticImports)
        for (const { importName } of entries)
          taken.add(`${moduleRequest.value.replace('#src/', '').replace(/\.js$/, '.ts')} ${importName.name}`);
    }
    const idle = files
      .filter(({ path }) => path !== 'index.ts')
      .flatMap(({ path, exports }) => exports.map((name) => `${path} ${name}`))
      .filter((each) => !taken.has(each) && !taken.has(`${each.split(' ')[0]} *`));
    expect(idle).to.deep.equal([]);
  });

  it('has nothing that imports the command line', () => {
    const wrong = files.filter(
      ({ folder, imports }) =>
        !folder.startsWith('cli') && imports.some(({ target }) => target.startsWith('cli/')),
    );
    expect(wrong.map(({ path }) => path)).to.deep.equal([]);
  });

  it('touches process, console, clock and disk only at the command line and in the one disk', () => {
    const inner = files.filter(
      ({ folder, path }) => !folder.startsWith('cli') && path !== 'host/disk-files.ts',
    );
    for (const { path, text, imports } of inner) {
      const { program } = parseSync(path, text);
      const names = new Set(
        JSON.stringify(program).match(
          /"type":"Identifier"[^}]*?"name":"(?:process|console|performance|Date)"/g,
        ) ?? [],
      );
      expect([...names], path).to.deep.equal([]);
      const disk = imports.filter(({ target }) => /^node:(?!crypto|path|module)/.test(target));
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

  it('keeps checks and their questions away from syntax trees', () => {
    const wrong = files.filter(
      ({ folder, imports }) =>
        folder.startsWith('checks') &&
        imports.some(({ target }) => target === 'oxc-parser' || target === 'syntax/tree.ts'),
    );
    expect(wrong.map(({ path }) => path)).to.deep.equal([]);
  });
});

/** Open to all: `finding.ts`, and `util`. */
const OPEN = ['.', 'util'];
const byFolder = new Set(files.map(({ folder }) => folder));
const takenBy = ({ target, names }: Import): string[] => names.map((name) => `${target} ${name}`);

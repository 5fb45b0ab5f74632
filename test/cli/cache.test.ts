import { expect } from 'chai';
import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { wexlet } from '../support/cli.js';
import { written } from '../support/samples.js';
import { newFolder } from '../support/folders.js';

const SMALL = {
  'package.json': '{"name":"s","scripts":{"test":"jest"},"jest":{"transform":{".":"x"}}}',
  'a.spec.js': "import { lid } from './lid';\nit('a', () => { expect(lid).toBe(1); });\n",
  'lid.js': 'export const lid = 1;\n',
};
const cacheOf = (): string => join(newFolder(), 'kept');
const keptIn = (cache: string): string[] => readdirSync(cache).map((name) => join(cache, name));

describe('kept answers', () => {
  it('are those of a run without them, whatever is changed in between', function () {
    this.timeout(120_000);
    const folder = newFolder();
    cpSync('demo/kilnroom', folder, { recursive: true });
    const cache = cacheOf();
    const sources = readdirSync(folder, { recursive: true, encoding: 'utf8' })
      .filter((path) => /\.(?:tsx?|vue)$/.test(path) && !path.includes('node_modules'))
      .map((path) => join(folder, path));
    const specs = sources.filter((path) => /\.(?:spec|test)\./.test(path));
    const pick = (from: readonly string[], i: number): string => from[(i * 7 + 3) % from.length] ?? '';
    const change = (path: string, by: (text: string) => string): void =>
      writeFileSync(path, by(readFileSync(path, 'utf8')));
    const changes: (() => void)[] = [
      () => undefined,
      () => change(pick(specs, 1), (text) => text.replace(/\bit\(/, 'it.only(')),
      () => change(pick(sources, 2), (text) => `${text}\n`),
      () => rmSync(pick(specs, 3)),
      () => renameSync(pick(sources, 4), `${pick(sources, 4)}.old`),
      () => writeFileSync(join(folder, 'extra.spec.ts'), "it('waits', () => {});\n"),
      () => writeFileSync(join(folder, '.gitignore'), 'extra.spec.ts\n'),
      () => writeFileSync(join(folder, 'wexlet.json'), '{ "holdAt": "hint", "checks": { "O06": "off" } }'),
      () => mkdirSync(join(folder, 'node_modules/react'), { recursive: true }),
    ];
    for (const [i, edit] of changes.entries()) {
      edit();
      const kept = wexlet(folder, 'audit', '--format', 'json', '--cache', cache);
      const anew = wexlet(folder, 'audit', '--format', 'json', '--no-cache');
      expect(kept, `change ${i}`).to.deep.equal(anew);
      expect(wexlet(folder, 'audit', '--format', 'json', '--cache', cache), `again ${i}`).to.deep.equal(anew);
    }
  });

  it('are found by what is in the files, not by when they were changed', () => {
    const folder = written(SMALL);
    const cache = cacheOf();
    const writtenAt = (): number => {
      wexlet(folder, 'audit', '--cache', cache);
      const [file = '', ...others] = keptIn(cache);
      expect(others).to.deep.equal([]);
      return statSync(file).mtimeMs;
    };
    const first = writtenAt();
    utimesSync(join(folder, 'lid.js'), 1, 1);
    expect(writtenAt()).to.equal(first);
    writeFileSync(join(folder, 'lid.js'), 'export const lid = 2;\n');
    expect(writtenAt()).to.be.above(first);
  });

  it('are passed over where they are damaged, and are for this user alone', () => {
    const folder = written(SMALL);
    const cache = cacheOf();
    const first = wexlet(folder, 'audit', '--cache', cache);
    const [file = ''] = keptIn(cache);
    if (process.platform !== 'win32') expect(statSync(file).mode & 0o777).to.equal(0o600);
    for (const text of ['', '{', 'null\nnull', '{"asked":{},"answer":1}']) {
      writeFileSync(file, text);
      expect(wexlet(folder, 'audit', '--cache', cache), text).to.deep.equal(first);
    }
  });

  it('need no folder that can be written, and are few', () => {
    const folder = written({ ...SMALL, taken: 'a file' });
    const first = wexlet(folder, 'audit', '--no-cache');
    expect(wexlet(folder, 'audit', '--cache', join(folder, 'taken/below'))).to.deep.equal(first);
    const cache = cacheOf();
    for (let i = 0; i < 15; i++)
      wexlet(folder, 'audit', '--cache', cache, '--only', `S0${(i % 9) + 1}${i > 8 ? ',C01' : ''}`);
    expect(keptIn(cache)).to.have.lengthOf(12);
  });

  it('are not kept of what is soon worked out, nor where nobody wants it', () => {
    const folder = written({ ...SMALL, 'node_modules/a/package.json': '{}' });
    wexlet(folder, 'audit');
    wexlet(folder, 'audit', '--no-cache');
    expect(existsSync(join(folder, 'node_modules/.cache'))).to.equal(false);
  });
});

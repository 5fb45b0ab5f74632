import { expect } from 'chai';
import { readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { wexlet } from '../support/cli.js';
import { written } from '../support/samples.js';

const KILN = `import { describe, expect, it } from "vitest";

class Kiln { temp = 20; fire() { this.temp = 900 } }

describe("Kiln", () => {
	const kiln = new Kiln()

	it.only("fires", () => { kiln.fire(); expect(kiln.temp).toBe(900) })
	it("is hot", () => { expect(kiln.temp).toBe(900) })
})
`;
const MENDED = `import { describe, expect, it, beforeEach } from "vitest";

class Kiln { temp = 20; fire() { this.temp = 900 } }

describe("Kiln", () => {
	let kiln: Kiln

	beforeEach(() => {
		kiln = new Kiln()
	})

	it("fires", () => { kiln.fire(); expect(kiln.temp).toBe(900) })
	it("is hot", () => { expect(kiln.temp).toBe(900) })
})
`;
const project = (text: string | Uint8Array = KILN): string =>
  written({ 'package.json': '{"name":"s"}', 'kiln.spec.ts': text });
const read = (folder: string): string => readFileSync(join(folder, 'kiln.spec.ts'), 'utf8');

describe('wexlet mend', () => {
  it('prints a unified diff and changes nothing', () => {
    const folder = project();
    const { out, err, code } = wexlet(folder, 'mend');
    expect(code).to.equal(0);
    expect(out).to.match(/^--- a\/kiln\.spec\.ts\n\+\+\+ b\/kiln\.spec\.ts\n@@ -1,10 \+1,14 @@\n-import/);
    expect(out).to.include('-\tconst kiln = new Kiln()\n').and.to.include('+\t\tkiln = new Kiln()\n');
    expect(err).to.equal('wexlet: 2 mends; --write applies them\n');
    expect(read(folder)).to.equal(KILN);
  });

  it('writes in the style of the file, and finds nothing to mend afterwards', () => {
    const folder = project();
    const { out, err } = wexlet(folder, 'mend', '--write');
    expect(out).to.equal('mended kiln.spec.ts\n');
    expect(err).to.equal('wexlet: 2 mends written\n');
    expect(read(folder)).to.equal(MENDED);
    expect(wexlet(folder, 'mend').err).to.equal('wexlet: 0 mends\n');
    expect(wexlet(folder, 'audit', '--only', 'S01,O06').code).to.equal(0);
  });

  it('loads a package in the way of the file: by an import, unless the file only requires', () => {
    const loading = (setup: string): string => {
      const settings =
        "export default { test: { globals: true, environment: 'jsdom', setupFiles: './setup.ts' } };";
      const manifest =
        '{"scripts":{"test":"vitest run"},"devDependencies":{"vitest":"^3","@testing-library/jest-dom":"^6"}}';
      const spec = "it('a', () => { expect(document.body).toBeVisible(); });";
      const folder = written({
        'package.json': manifest,
        'vitest.config.ts': settings,
        'setup.ts': setup,
        'a.spec.ts': spec,
      });
      return wexlet(folder, 'mend', '--only', 'E06').out;
    };
    expect(loading('const kiln = 1;\n')).to.include("+import '@testing-library/jest-dom/vitest';");
    expect(loading("const path = require('path');\n")).to.include(
      "+require('@testing-library/jest-dom/vitest');",
    );
  });

  it('takes the codes that are asked for', () => {
    expect(wexlet(project(), 'mend', '--only', 'O06').out)
      .to.include('+\tit("fires"')
      .and.not.to.include('beforeEach');
  });

  it('keeps line ends, byte order marks and encodings', () => {
    const crlf = KILN.replaceAll('\n', '\r\n');
    const folder = project(`\ufeff${crlf}`);
    wexlet(folder, 'mend', '--write');
    expect(read(folder)).to.equal(`\ufeff${MENDED.replaceAll('\n', '\r\n')}`);
    const wide = project(Buffer.from(`\ufeff${KILN}`, 'utf16le'));
    wexlet(wide, 'mend', '--write');
    expect(
      readFileSync(join(wide, 'kiln.spec.ts')).equals(Buffer.from(`\ufeff${MENDED}`, 'utf16le')),
    ).to.equal(true);
  });

  it('never leaves the root, by a link either', () => {
    const outside = written({ 'kiln.spec.ts': KILN });
    const folder = written({
      'package.json': '{"name":"s"}',
      'a.spec.js': "it('is untitled', () => { expect(document.title).toBe(''); });\n",
    });
    symlinkSync(join(outside, 'kiln.spec.ts'), join(folder, 'linked.spec.ts'));
    wexlet(folder, 'mend', '--write');
    expect(read(outside)).to.equal(KILN);
  });

  it('exits with 3 where there is nothing to mend in', () => {
    expect(wexlet(written({ 'a.js': '' }), 'mend').code).to.equal(3);
  });

  it('leaves a file that cannot be split alone: a value that another one is made from', () => {
    const text = KILN.replace('it.only', 'it').replace(
      '\tconst kiln = new Kiln()\n',
      '\tconst kiln = new Kiln()\n\tconst board = [kiln]\n',
    );
    const folder = project(text);
    expect(wexlet(folder, 'mend').out).to.equal('');
    expect(wexlet(folder, 'audit').out).to.include('S01');
  });

  it('reads a file again before it writes', () => {
    const folder = project();
    writeFileSync(join(folder, 'kiln.spec.ts'), MENDED);
    expect(wexlet(folder, 'mend', '--write').out).to.equal('');
    expect(read(folder)).to.equal(MENDED);
  });
});

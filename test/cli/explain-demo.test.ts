import { expect } from 'chai';
import { existsSync } from 'node:fs';
import { CATALOGUE, type Report } from '#src/index.js';
import { wexlet } from '../support/cli.js';
import { written } from '../support/samples.js';

describe('wexlet explain', () => {
  for (const { code, title, why, level } of CATALOGUE) {
    it(`explains ${code}, in either case of letters`, () => {
      const { out, code: exit } = wexlet('.', 'explain', code.toLowerCase());
      expect(exit).to.equal(0);
      for (const part of [`${code}  ${title}`, why, level, 'The trouble']) expect(out).to.include(part);
    });
  }

  it('lists all of them by family', () => {
    const { out } = wexlet('.', 'explain');
    for (const { code, title, family } of CATALOGUE)
      expect(out).to.include(code).and.to.include(title).and.to.include(family);
  });

  it('names the nearest code', () => {
    const { code, err } = wexlet('.', 'explain', 'S0I');
    expect(code).to.equal(2);
    expect(err).to.match(/no check is called S0I; did you mean S0\d\?/);
  });
});

describe('wexlet demo', () => {
  it('audits a copy, finds trouble of all families, and is no failure', () => {
    const { code, out, err } = wexlet('.', 'demo');
    expect(code).to.equal(0);
    expect(out).to.include('HOLD').and.to.include('3 packages');
    for (const family of ['environment', 'queries', 'state', 'cleanup', 'overload', 'branches'])
      expect(out).to.match(new RegExp(`^ {2}${family} `, 'm'));
    const folder = /The suite is in (\S+):/.exec(err)?.[1];
    expect(folder && existsSync(folder)).to.equal(true);
    expect(wexlet(folder ?? '.', 'audit').code).to.equal(1);
  });

  it('leaves its good specs alone', () => {
    const { out } = wexlet('.', 'demo', '--all');
    for (const good of ['kiln-lid.spec', 'firing-board.spec', 'ColourChip.spec', 'firing-row.component.spec'])
      expect(out).not.to.include(`${good}`);
  });
});

describe('wexlet outline', () => {
  it('says how each package runs, and “unknown” where that can’t be read', () => {
    const settings =
      "export default { test: { environment: 'jsdom', setupFiles: './setup.ts', include: make() } };";
    const files = { 'vitest.config.ts': settings, 'a.spec.ts': "it('a', () => {});", 'yarn.lock': '' };
    const manifest = '{"scripts":{"test":"vitest run"},"devDependencies":{"vitest":"^3"}}';
    const folder = written({ 'package.json': manifest, ...files });
    const { code, out } = wexlet(folder, 'outline');
    expect(code).to.equal(0);
    for (const row of [
      'runner      vitest 3',
      'document    jsdom',
      'set-up      ./setup.ts',
      'collects    unknown',
    ])
      expect(out).to.include(row);
    const [facts] = (JSON.parse(wexlet(folder, 'audit', '--format', 'json').out) as Report).environment;
    expect(facts?.facts['runners']).to.have.nested.property('[0].setupFiles[0]', './setup.ts');
    expect(wexlet(folder, 'outline', 'a.spec.ts').code).to.equal(2);
    expect(wexlet(written({ 'a.js': '' }), 'outline').out).to.include('no runner found');
  });
});

describe('wexlet', () => {
  it('has help worth reading for every command, with an example each', () => {
    for (const command of ['audit', 'mend', 'outline', 'explain', 'demo']) {
      const { out, code } = wexlet('.', command, '--help');
      expect(code).to.equal(0);
      expect(out).to.include('Example:\n').and.to.include(`wexlet ${command}`);
    }
    expect(wexlet('.', '--help').out).to.include('Exit codes: 0 ready · 1 hold');
    expect(wexlet('.', '--version').out).to.match(/^\d+\.\d+\.\d+\n$/);
  });
});

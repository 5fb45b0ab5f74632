import { expect } from 'chai';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, symlinkSync } from 'node:fs';
import { join, posix } from 'node:path';
import type { Report } from '#src/index.js';
import { started, wexlet } from '../support/cli.js';
import { written } from '../support/samples.js';

const GREEN = {
  'package.json':
    '{"name":"s","scripts":{"test":"jest"},"jest":{"testEnvironment":"jsdom","transform":{".":"x"}}}',
  'a.spec.js': "it('is untitled', () => { expect(document.title).toBe(''); });\n",
};
const FOCUSED = {
  ...GREEN,
  'b.spec.js': "it.only('is untitled', () => { expect(document.title).toBe(''); });\n",
};
const SKIPPED = {
  ...GREEN,
  'b.spec.js': "it.skip('is untitled', () => { expect(document.title).toBe(''); });\n",
};

describe('wexlet audit', () => {
  it('exits with 0 and says ready where nothing is found', () => {
    const { code, out, err } = started(written(GREEN), 'audit');
    expect(code).to.equal(0);
    expect(out)
      .to.match(/READY +0 blockers/)
      .and.to.include('1 spec file  ·  1 spec ')
      .and.to.include('Nothing to mend.');
    expect(err).to.equal('');
  });

  it('finds the same where imports go by names of the compiler’s settings', () => {
    const demo = 'demo/kilnroom';
    const files = readdirSync(demo, { recursive: true, encoding: 'utf8' })
      .filter((path) => statSync(join(demo, path)).isFile() && !path.includes('node_modules'))
      .map((path) => [path, readFileSync(join(demo, path), 'utf8')] as const);
    const renamed = files.map(([path, text]) => [
      path,
      text.replace(
        /(from |mock\()'(\.[^']*)'/g,
        (_, before: string, to: string) => `${before}'@@/${posix.join(path, '..', to)}'`,
      ),
    ]);
    const findings = (folder: string): string[] => {
      const { out } = wexlet(folder, 'audit', '--format', 'json');
      const report = JSON.parse(out) as Report;
      return report.findings
        .filter(({ family }) => family !== 'environment')
        .map(({ code, certainty, file, line }) => `${code} ${certainty} ${file}:${line}`);
    };
    const paths = '{"compilerOptions":{"paths":{"@@/*":["./*"]}}}';
    expect(renamed.filter(([path, text], i) => text !== files[i]?.[1] && path).length).to.be.above(20);
    expect(findings(written({ ...Object.fromEntries(renamed), 'tsconfig.json': paths }))).to.deep.equal(
      findings(written(Object.fromEntries(files))),
    );
  });

  it('exits with 1 and says hold, with place, title and mend', () => {
    const { code, out } = started(written(FOCUSED), 'audit');
    expect(code).to.equal(1);
    expect(out).to.match(/HOLD +1 blocker/);
    expect(out).to.match(
      /b\.spec\.js ─+\n\n {2}blocker {2}O06 {2}Left focused, or switched off\n {6}1 {4}This spec is focused/,
    );
    expect(out).to.include('(wexlet mend --only O06)');
  });

  it('says a cause alone, with what follows from it, and what follows where nobody asks for the cause', () => {
    const folder = written({
      'package.json': '{"name":"s","scripts":{"test":"vitest run"},"devDependencies":{"vitest":"^3"}}',
      'yarn.lock': '',
      'vitest.config.ts':
        "export default { test: { enviroment: 'jsdom', globals: true, setupFiles: './test/setpu.ts' } };",
      'test/setup.ts': "import '@testing-library/jest-dom/vitest';",
      'a.spec.js': "it('has a kiln', () => { expect(document.body).toBeVisible(); });",
    });
    const { out } = wexlet(folder, 'audit', '--format', 'json');
    const { findings } = JSON.parse(out) as Report;
    expect(findings.map(({ code, level, hides }) => [code, level, hides])).to.deep.equal([
      ['E20', 'blocker', ['E02']],
      ['E04', 'blocker', ['E05', 'E06']],
    ]);
    expect(wexlet(folder, 'audit').out).to.match(/hides E05, E06, which follow from it/);
    expect(wexlet(folder, 'audit', '--only', 'E02').out).to.include('there is no document');
  });

  it('reads settings and a set-up file from another package of the workspace', () => {
    const folder = written({
      'package.json': '{"name":"s","workspaces":["packages/*"],"devDependencies":{"vitest":"^3"}}',
      'yarn.lock': '',
      'packages/set/package.json': '{"name":"@kiln/set","exports":{".":"./index.js","./setup":"./setup.js"}}',
      'packages/set/index.js':
        "export const shared = { test: { globals: true, setupFiles: ['@kiln/set/setup'] } };",
      'packages/set/setup.js': '',
      'packages/lid/package.json':
        '{"name":"lid","scripts":{"test":"vitest run"},"devDependencies":{"vitest":"^3","@kiln/set":"*"}}',
      'packages/lid/vitest.config.js': "import { shared } from '@kiln/set';\nexport default shared;",
      'packages/lid/a.spec.js': "it('shows a lid', () => { expect(document.body).toBeVisible(); });",
      'node_modules/@kiln/.keep': '',
    });
    symlinkSync(join(folder, 'packages/set'), join(folder, 'node_modules/@kiln/set'));
    const { out } = wexlet(folder, 'audit', '--format', 'json', '--only', 'E02,E06');
    expect((JSON.parse(out) as Report).findings.map(({ code }) => code)).to.have.members(['E02', 'E06']);
  });

  it('exits with 3 where there is nothing to audit, never with a silent green', () => {
    const { code, out, err } = started(written({ 'a.js': 'export {};' }), 'audit');
    expect(code).to.equal(3);
    expect(out).to.include('NOTHING TO AUDIT').and.not.to.include('READY');
    expect(err).to.include('no spec file found');
  });

  it('passes over what git ignores, unless it is asked for by name', () => {
    const ignored = { 'kept/.gitignore': 'made/\n', 'kept/made/b.spec.js': FOCUSED['b.spec.js'] };
    const folder = written({ ...GREEN, ...ignored });
    expect(wexlet(folder, 'audit').out).to.include('1 spec file ');
    expect(wexlet(folder, 'audit', 'kept/made').out).to.include('1 blocker');
  });

  it('passes over what a package ships compiled beside its sources', () => {
    const kiln = 'export const Kiln = () => <p>Raku</p>;\n';
    const spec =
      "import { render, screen } from '@testing-library/react';\nimport { Kiln } from './kiln';\nit('a', () => { render(<Kiln />); expect(screen.getByText('Raku')).toBeVisible(); });\n";
    const all = {
      'src/kiln.jsx': kiln,
      'src/kiln.spec.jsx': spec,
      'lib/kiln.js': kiln,
      'lib/kiln.spec.js': spec,
    };
    const read = (files: Record<string, unknown>): string =>
      wexlet(written({ ...all, 'package.json': JSON.stringify({ name: 'kiln', ...files }) }), 'audit').out;
    expect(read({ main: './lib/kiln.js' }))
      .to.include('1 spec file ')
      .and.include('1 component\n');
    expect(read({ exports: { '.': { import: './lib/kiln.js' } } })).to.include('1 spec file ');
    // Some compilers keep the folder.
    const kept = {
      'src/kiln.jsx': kiln,
      'src/kiln.spec.jsx': spec,
      'es/src/kiln.js': kiln,
      'es/src/kiln.spec.js': spec,
    };
    const manifest = JSON.stringify({ name: 'kiln', main: './es/src/kiln.js' });
    expect(wexlet(written({ ...kept, 'package.json': manifest }), 'audit').out).to.include('1 spec file ');
    // What nobody ships stands there by the same names for a reason of its own.
    expect(read({})).to.include('2 spec files').and.include('2 components');
  });

  it('exits with 2 for bad usage, and names what was meant', () => {
    const folder = written(GREEN);
    expect(wexlet(folder, 'audit', '--frmat', 'json')).to.include({ code: 2 });
    expect(wexlet(folder, 'audit', '--frmat', 'json').err).to.include('--format');
    expect(wexlet(folder, 'audit', 'nowhere')).to.deep.include({
      code: 2,
      err: 'wexlet: nowhere is not there\n',
    });
    expect(wexlet(folder, 'audit', '--only', 'stat').err).to.include('did you mean state?');
    expect(wexlet(folder, 'audit', '--hold-at', 'never').code).to.equal(2);
    expect(started(folder, 'adit').code).to.equal(2);
  });

  it('holds at the level that is asked for, by option or settings', () => {
    const folder = written(SKIPPED);
    expect(wexlet(folder, 'audit').code).to.equal(1);
    expect(wexlet(folder, 'audit', '--hold-at', 'blocker').code).to.equal(0);
    expect(wexlet(written({ ...SKIPPED, 'wexlet.json': '{ "holdAt": "blocker" }' }), 'audit').code).to.equal(
      0,
    );
    expect(
      wexlet(written({ ...SKIPPED, 'wexlet.json': '{ "checks": { "O06": "off" } } // off' }), 'audit').code,
    ).to.equal(0);
    expect(
      wexlet(written({ ...SKIPPED, 'wexlet.json': '{ "checks": { "O06": "hint" }, }' }), 'audit').code,
    ).to.equal(0);
  });

  it('keeps to the limits that the settings set', () => {
    const specs = ['fires', 'cools'].map(
      (title) => `it('${title}', () => { expect(document.title).toBe('a'); });`,
    );
    const files = { ...GREEN, 'b.spec.js': `describe('kiln', () => {\n${specs.join('\n')}\n});\n` };
    const limited = written({ ...files, 'wexlet.json': '{ "limits": { "specs": 1 } }' });
    expect(wexlet(written(files), 'audit', '--only', 'O13').out).not.to.include('O13');
    expect(wexlet(limited, 'audit', '--only', 'O13').out).to.include('2 specs of its own, more than 1');
    const wrong = wexlet(written({ ...files, 'wexlet.json': '{ "limits": { "specs": 0 } }' }), 'audit');
    expect(wrong.code).to.equal(2);
    expect(wrong.err).to.include('specs');
  });

  it('sums the specs of a package up', () => {
    const text =
      "it('works', () => { document.dispatchEvent(e); expect(document.title).toBe('a'); expect(document.dir).toBe(''); });\n" +
      "it('fires', () => { expect(true).toBe(true); });\n";
    const folder = written({ ...GREEN, 'a.spec.js': text });
    const { out } = wexlet(folder, 'audit', '--only', 'overload');
    expect(out).to.match(/specs {8} ?2\b/);
    expect(out).to.include('assertions   median 1 · p90 2');
    expect(out).to.include('rounds       median 0 · p90 1');
    expect(out).to.match(/cannot fail {2}1\b[^]*say nothing {2}1\b/);
    const { environment } = JSON.parse(wexlet(folder, 'audit', '--format', 'json').out) as Report;
    expect(environment[0]?.sizes).to.deep.equal({
      specs: 2,
      assertions: { median: 1, p90: 2 },
      rounds: { median: 0, p90: 1 },
      cannotFail: 1,
      vagueTitles: 1,
    });
    expect(wexlet(folder, 'audit', '--only', 'state').out).not.to.include('cannot fail');
  });

  it('shows a helper module for what several files repeat', () => {
    const spec = (title: string): string =>
      `import { render } from '@testing-library/react';\nimport { Card } from './card';\n` +
      `it('${title}', () => {\n  const kiln = {\n    cone: 6,\n  };\n  const label = 'Raku';\n  render(<Card kiln={kiln} label={label} />);\n  expect(document.title).toBe('${title}');\n});\n`;
    const files = Object.fromEntries(['a', 'b', 'c'].map((name) => [`${name}.spec.jsx`, spec(name)]));
    const { out } = wexlet(written({ ...GREEN, ...files }), 'audit', '--only', 'O08');
    expect(out.replace(/^ {13}/gm, '')).to.include(
      "import { render } from '@testing-library/react';\nimport { Card } from './card';\n\n" +
        'export function arrange() {\n  const kiln = {\n    cone: 6,\n  };\n',
    );
  });

  it('takes codes and families', () => {
    const folder = written(FOCUSED);
    expect(wexlet(folder, 'audit', '--only', 'state,s02').code).to.equal(0);
    expect(wexlet(folder, 'audit', '--only', 'overload').code).to.equal(1);
  });

  it('takes files and folders, and starts paths from the current folder', () => {
    const folder = written({ ...GREEN, 'in/b.spec.js': FOCUSED['b.spec.js'] });
    expect(wexlet(folder, 'audit', 'a.spec.js').code).to.equal(0);
    expect(wexlet(folder, 'audit', 'in').out).to.include('in/b.spec.js');
    expect(wexlet(join(folder, 'in'), 'audit', folder).out).to.include('in/b.spec.js');
  });

  it('prints JSON in the promised shape, byte for byte the same, with no absolute path', () => {
    const folder = written(FOCUSED);
    const { out } = wexlet(folder, 'audit', '--format', 'json');
    const report = JSON.parse(out) as Report;
    expect(report).to.include({ format: 'wexlet-report', version: 1, root: '.', verdict: 'hold' });
    expect(Object.keys(report)).to.include.members([
      'tool',
      'counts',
      'findings',
      'reach',
      'gaps',
      'environment',
      'unread',
    ]);
    expect(Object.keys(report.reach)).to.deep.equal([
      'role',
      'label',
      'text',
      'alternative',
      'testId',
      'structure',
      'internals',
    ]);
    const [finding] = report.findings;
    expect(finding).to.deep.include({
      code: 'O06',
      family: 'overload',
      level: 'blocker',
      certainty: 'sure',
      file: 'b.spec.js',
      line: 1,
      column: 3,
      endLine: 1,
      endColumn: 8,
      group: [],
      spec: 'is untitled',
    });
    expect(finding?.mend).to.deep.equal({
      summary: 'Take the mark off',
      safe: true,
      edits: [{ file: 'b.spec.js', start: 2, end: 7, text: '' }],
    });
    expect(finding?.fingerprint).to.match(/^[0-9a-f]{16}$/);
    expect(out).not.to.include(folder);
    expect(wexlet(folder, 'audit', '--format', 'json').out).to.equal(out);
  });

  it('keeps fingerprints when lines are added above, and tells equal lines apart', () => {
    const prints = (text: string): string[] =>
      (
        JSON.parse(
          wexlet(written({ ...GREEN, 'b.spec.js': text }), 'audit', '--format', 'json').out,
        ) as Report
      ).findings.map((each) => each.fingerprint);
    const before = prints(FOCUSED['b.spec.js']);
    expect(prints(`// one\n\n${FOCUSED['b.spec.js']}`)).to.deep.equal(before);
    const twice = prints(FOCUSED['b.spec.js'] + FOCUSED['b.spec.js']);
    expect(new Set(twice).size).to.equal(twice.length);
  });

  it('writes to a file, and says where it cannot', () => {
    const folder = written(FOCUSED);
    const { out, code } = wexlet(folder, 'audit', '--out', 'report.txt');
    expect(out).to.equal('');
    expect(code).to.equal(1);
    expect(readFileSync(join(folder, 'report.txt'), 'utf8')).to.include('O06');
    expect(wexlet(folder, 'audit', '--out', 'a/new/folder.txt').code).to.equal(1);
    expect(existsSync(join(folder, 'a/new/folder.txt'))).to.equal(true);
    expect(wexlet(folder, 'audit', '--out', 'report.txt/inside.txt').code).to.equal(2);
  });

  it('says what it could not see and what would open it, and claims nothing that rests on it', () => {
    const spec = (imports: string, render: string): string =>
      `import Lid from './lid';\n${imports}\nit('shuts', () => { ${render}; expect(document.title).toBe(''); });\n`;
    const lid = 'export default function Lid({ temp }) { return temp > 600 ? <b>Hot</b> : <i>Cold</i>; }';
    const alarm = lid.replace('Lid', 'Alarm');
    const folder = written({
      ...GREEN,
      'lid.jsx': lid,
      'alarm.jsx': alarm,
      'a.spec.jsx': spec("import { fire } from '@/kiln-room';", 'fire(Lid)'),
    });
    const { out } = wexlet(folder, 'audit');
    expect(out).to.include('not seen');
    expect(out).to.match(/@\/kiln-room {2}leads to no file.*a\.spec\.jsx:2/s);
    expect(out).to.include('→ name it in the compiler’s paths');
    expect(out).to.match(/fire {2}is handed a component/);
    expect(out).not.to.include('B02');
    const seen = written({
      ...GREEN,
      'lid.jsx': lid,
      'alarm.jsx': alarm,
      'a.spec.jsx': spec("import { render } from '@testing-library/react';", 'render(<Lid />)'),
    });
    expect(wexlet(seen, 'audit').out).to.include('No spec renders Alarm.').and.not.to.include('not seen');
  });

  it('says a habit once, with its best places, and all of them with --all', () => {
    const specs = Object.fromEntries(
      Array.from({ length: 40 }, (_, i) => [
        `s${String(i).padStart(2, '0')}.spec.js`,
        "it.only('a', () => { expect(document.title).toBe(''); });\n",
      ]),
    );
    const folder = written({ ...GREEN, ...specs });
    const { out } = wexlet(folder, 'audit', '--only', 'O06');
    expect(out).to.match(
      /throughout the suite[^]+O06 {2}Left focused, or switched off {2}40 places in 40 files/,
    );
    expect(out.match(/s\d\d\.spec\.js:1/g)).to.have.length(3);
    expect(out).to.include('and 37 more places: ');
    expect(wexlet(folder, 'audit', '--only', 'O06', '--all').out.match(/s\d\d\.spec\.js:1/g)).to.have.length(
      40,
    );
  });

  it('shortens long lists and says how to see all', () => {
    const packages = Object.fromEntries(
      Array.from({ length: 30 }, (_, i) => [
        [`p${i}/package.json`, JSON.stringify({ name: `p${i}`, devDependencies: { vitest: '4.0.0' } })],
        [`p${i}/a.spec.js`, "it.only('a', () => { expect(document.title).toBe(''); });\n"],
      ]).flat(),
    );
    const folder = written({ ...GREEN, ...packages });
    expect(wexlet(folder, 'audit', '--only', 'O06').out).to.include(
      '6 more entries (6 blockers): --all shows every one.',
    );
    expect(wexlet(folder, 'audit', '--all').out)
      .to.include('p29/a.spec.js')
      .and.not.to.include('more entries');
    const many = written({
      ...GREEN,
      'b.spec.js': "it.only('a', () => { expect(document.title).toBe(''); });\n".repeat(9),
    });
    expect(wexlet(many, 'audit', '--only', 'O06').out)
      .to.include('9 places')
      .and.to.include('and 6 more places: line 4, 5, 6, 7, 8, 9');
  });

  it('keeps every line within the width, and free of colour where it is no terminal', () => {
    const { out } = wexlet(
      written({
        ...GREEN,
        'b.spec.js': `it.only('${'kiln '.repeat(60)}', () => { expect(document.title).toBe(''); });`,
      }),
      'audit',
    );
    for (const line of out.split('\n')) expect([...line].length, line).to.be.at.most(100);
    expect(out).not.to.include('\u001b');
  });

  it('does not follow links in circles', () => {
    const folder = written(GREEN);
    symlinkSync(folder, join(folder, 'round'));
    expect(wexlet(folder, 'audit').out).to.include('1 spec file ');
  });

  it('explains bad settings with file, line, key and the nearest name', () => {
    const err = (config: string): string => {
      const { code, err: text } = wexlet(written({ ...GREEN, 'wexlet.json': config }), 'audit');
      expect(code, config).to.equal(2);
      return text;
    };
    expect(err('{\n  "holdAtt": "risk"\n}')).to.equal(
      'wexlet: wexlet.json:2: unknown key "holdAtt"; did you mean "holdAt"?\n',
    );
    expect(err('{ "holdAt": "rsik" }'))
      .to.include('"holdAt" is "rsik"')
      .and.to.include('did you mean "risk"?');
    expect(err('{ "specs": "src" }')).to.include('wexlet.json:1: "specs" is "src", but must be Array');
    expect(err('{\n "checks": {\n "S1": "off" } }')).to.include(
      'wexlet.json:3: unknown check "S1"; did you mean "S01"?',
    );
    expect(err('{ "helpers": { "renders": [] } }')).to.include(
      'unknown key "helpers.renders"; did you mean "render"?',
    );
    expect(err('{ "holdAt": ')).to.include('wexlet.json:1: not valid JSON');
    expect(err('')).to.include('not valid JSON');
  });

  it('uses the settings for files, helpers and the test-id attribute', () => {
    const folder = written({
      'package.json': '{"name":"s"}',
      'wexlet.json':
        '{ "specs": ["checks/**/*.js"], "exclude": ["checks/old/**"], "helpers": { "assert": ["mustBeHot"] } }',
      'checks/a.js': "it('is hot', () => { mustBeHot(document); });",
      'checks/old/b.js': "it.only('is hot', () => {});",
      'a.spec.js': "it.only('is no spec file here', () => {});",
    });
    const report = JSON.parse(wexlet(folder, 'audit', '--format', 'json').out) as Report;
    expect(report.findings).to.deep.equal([]);
    expect(report.counts.specFiles).to.equal(1);
  });

  it('is not sure where it can’t read what decides, holds for those who ask, and takes what is stated', () => {
    const files = {
      'package.json': '{"name":"s","scripts":{"test":"jest"},"devDependencies":{"jest":"^29"}}',
      'jest.config.js': "module.exports = require('kiln-settings')({ clearMocks: true });",
      'a.spec.js': "it('is untitled', () => { expect(document.title).toBe(''); });\n",
    };
    const folder = written(files);
    const { out, code } = wexlet(folder, 'audit', '--only', 'environment');
    expect(out)
      .to.match(/NOT SURE/)
      .and.to.match(/jest\.config\.js:1/)
      .and.to.include('in what document they run');
    expect(code).to.equal(0);
    expect(wexlet(folder, 'audit', '--only', 'environment', '--strict').code).to.equal(1);
    const run = {
      document: 'jsdom',
      setupFiles: [],
      collects: ['*.spec.js'],
      transforms: true,
      globals: true,
    };
    const stated = written({ ...files, 'wexlet.json': JSON.stringify({ run }) });
    expect(wexlet(stated, 'audit', '--only', 'environment').out).to.include('READY');
  });

  it('is not sure what a bundler makes of specs whose framework karma is not told of', () => {
    const files = (frameworks: string): Record<string, string> => ({
      'package.json':
        '{"name":"s","scripts":{"test":"karma start"},"devDependencies":{"karma":"^6","karma-mocha":"^2","karma-webpack":"^5"}}',
      'karma.conf.js': `module.exports = (config) => config.set({
  frameworks: [${frameworks}], files: ['*.spec.js'], preprocessors: { '*.spec.js': ['webpack'] }, webpack: {},
});`,
      'a.spec.js': "it('is six', () => { if (6 !== 3 + 3) throw new Error(); });\n",
    });
    const said = (frameworks: string): string =>
      wexlet(written(files(frameworks)), 'audit', '--only', 'environment').out;
    expect(said("'mocha', 'webpack'")).to.include('READY');
    expect(said("'mocha'")).to.include('NOT SURE').and.to.include('what becomes of the files that they load');
  });

  it('is not sure where imports lead that no alias which could be read takes', () => {
    const files = {
      'package.json': '{"name":"s","scripts":{"test":"vitest run"},"devDependencies":{"vitest":"^3"}}',
      'yarn.lock': '',
      'vitest.config.js':
        "import { names } from 'kiln-names';\nexport default { resolve: { alias: names() }, test: { globals: true } };\n",
      'a.spec.js': "import { cone } from '@/cone';\nit('is a cone', () => { expect(cone).toBe(6); });\n",
    };
    const { out } = wexlet(written(files), 'audit', '--only', 'environment');
    expect(out)
      .to.match(/NOT SURE/)
      .and.to.match(/a\.spec\.js:1 /)
      .and.to.include('where imports such as @/cone lead')
      .and.to.include('"aliases"');
    const stated = { ...files, 'src/cone.js': 'export const cone = 6;\n' };
    const said = { 'wexlet.json': '{"run":{"aliases":{"@":"src"}}}' };
    expect(wexlet(written({ ...stated, ...said }), 'audit', '--only', 'environment').out).to.include('READY');
    const lost = wexlet(written({ ...files, ...said }), 'audit', '--only', 'environment').out;
    expect(lost).to.match(/E21[^]*@\/cone/);
  });

  it('names a part that a package of the workspace does not export', () => {
    const folder = written({
      'package.json':
        '{"name":"s","workspaces":["ui"],"scripts":{"test":"vitest run"},"devDependencies":{"vitest":"^3"}}',
      'yarn.lock': '',
      'ui/package.json': '{"name":"@s/ui","exports":{".":"./index.js","./lids/*":"./lids/*.js"}}',
      'ui/index.js': 'export {};\n',
      'ui/lids/flat.js': 'export {};\n',
      'ui/cones.js': 'export {};\n',
      'node_modules/vitest/package.json': '{"name":"vitest","version":"3.0.0"}',
      'a.spec.js': "import '@s/ui/lids/flat';\nimport '@s/ui/cones';\nit('a', () => {});\n",
    });
    mkdirSync(join(folder, 'node_modules/@s'));
    symlinkSync('../../ui', join(folder, 'node_modules/@s/ui'));
    const report = JSON.parse(wexlet(folder, 'audit', '--only', 'E21', '--format', 'json').out) as Report;
    expect(report.findings.map(({ line, message }) => `${line} ${message}`)).to.deep.equal([
      '2 @s/ui/cones leads to no file.',
    ]);
  });

  it('leaves the settings of a package alone that a link leads to, out of the project', () => {
    const outside = written({
      'package.json': '{"name":"kiln-lids","jest":{"setupFilesAfterEnv":["<rootDir>/gone.js"]}}',
      'index.js': "export { Lid } from './lid';\n",
      'lid.js': "import { words } from './words';\nexport const Lid = () => <b>{words}</b>;\n",
      'words.js': "export const words = 'Lid';\n",
    });
    const folder = written({
      'package.json':
        '{"name":"s","scripts":{"test":"jest"},"jest":{},"devDependencies":{"jest":"^29","kiln-lids":"^1"}}',
      'node_modules/jest/package.json': '{"name":"jest","version":"29.7.0"}',
      'a.spec.jsx':
        "import { render, screen } from '@testing-library/react';\nimport { Lid } from 'kiln-lids';\nit('shows the lid', () => { render(<Lid />); expect(screen.getByText('Lid')).toBeVisible(); });\n",
    });
    symlinkSync(outside, join(folder, 'node_modules/kiln-lids'));
    expect(wexlet(folder, 'audit', '--only', 'E04').out).to.not.include('E04');
  });

  it('is not sure where only a package of the set-up that nobody knows could bring what specs need', () => {
    const files = {
      'package.json': '{"name":"s","scripts":{"test":"vitest run"},"devDependencies":{"vitest":"^3"}}',
      'yarn.lock': '',
      'vitest.config.js': "export default { test: { setupFiles: './setup.js' } };",
      'setup.js': "import 'kiln-set';\n",
      'a.spec.js': "it('is untitled', () => { expect(document.title).toBe(''); });\n",
    };
    const { out } = wexlet(written(files), 'audit', '--only', 'E02,E07');
    expect(out)
      .to.match(/NOT SURE/)
      .and.to.match(/setup\.js:1 +the set-up loads kiln-set/)
      .and.to.include('where the document comes from')
      .and.to.include('who makes the runner’s functions global');
  });

  it('takes patterns and the slashes of another system, and names a code that there is not', () => {
    const folder = written({
      ...GREEN,
      'src/a.spec.js': '// wexlet: allow Q99 because of the kiln\n' + GREEN['a.spec.js'],
    });
    for (const path of ['src/*.spec.js', 'src\\a.spec.js'])
      expect(wexlet(folder, 'audit', path).out).to.match(/1 spec file .*A01/s);
    expect(wexlet(folder, 'audit', 'src/*.check.js').code).to.equal(2);
  });
});

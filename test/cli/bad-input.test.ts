import { expect } from 'chai';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Report } from '#src/index.js';
import { auditFolder } from '../support/audits.js';
import { wexlet } from '../support/cli.js';
import { written } from '../support/samples.js';

const GOOD = "it('is untitled', () => { expect(document.title).toBe(''); });\n";
const MANIFEST = { 'package.json': '{"name":"s"}', 'good.spec.js': GOOD };

const unreadOf = async (files: Record<string, string | Uint8Array>): Promise<string[]> => {
  const report = await auditFolder(written({ ...MANIFEST, ...files }));
  expect(report.counts.specFiles, 'the good file is read').to.be.at.least(1);
  return report.unread.map(({ file, reason, line }) => `${file}${line ? `:${line}` : ''} ${reason}`);
};

describe('bad input', () => {
  const cases: [string, Record<string, string | Uint8Array>, RegExp[]][] = [
    ['broken syntax', { 'a.spec.ts': "\n\nit('a', () => {" }, [/^a\.spec\.ts:3 syntax error/]],
    ['binary', { 'a.spec.ts': new Uint8Array([105, 116, 10, 0, 1, 2]) }, [/^a\.spec\.ts:2 binary/]],
    ['not UTF-8', { 'a.spec.ts': new Uint8Array([105, 116, 0xff, 0xfe, 0xc0]) }, [/not valid UTF-8/]],
    ['huge', { 'a.spec.ts': '/'.repeat(4.1 * 1024 * 1024) }, [/larger than 4 MiB/]],
    [
      'brackets in brackets',
      { 'a.spec.ts': `x = ${'['.repeat(50000)}` },
      [/^a\.spec\.ts:1 nested too deeply/],
    ],
    ['operators without an end', { 'a.spec.ts': `x = ${'!'.repeat(90000)}1` }, [/nested too deeply/]],
    ['arrows without an end', { 'a.spec.ts': `x = ${'a=>'.repeat(30000)}1` }, [/nested too deeply/]],
    [
      'conditions without an end',
      { 'a.spec.ts': `${'if(a){}else '.repeat(30000)}{}` },
      [/nested too deeply/],
    ],
    ['types without an end', { 'a.spec.ts': `let x: ${'A<'.repeat(30000)}B` }, [/nested too deeply/]],
    ['markup without an end', { 'a.spec.tsx': `x = ${'<a>'.repeat(60000)}` }, [/nested too deeply/]],
    ['a broken single-file component', { 'A.vue': '<template><p></template>' }, [/^A\.vue:1 template error/]],
    [
      'a broken script in one',
      { 'A.vue': '<template><p/></template>\n<script>const = 1</script>' },
      [/^A\.vue:2 syntax error/],
    ],
    [
      'a broken template in a literal',
      {
        'package.json': '{"name":"s","dependencies":{"@angular/core":"21"}}',
        'a.ts': "@Component({ selector: 'a', template: `\n<p></b>` }) export class A {}",
      },
      [/^a\.ts:2 template error/],
    ],
    [
      'a template that is not there',
      {
        'package.json': '{"name":"s","dependencies":{"@angular/core":"21"}}',
        'a.ts': "@Component({ selector: 'a', templateUrl: './a.html' }) export class A {}",
      },
      [/^a\.ts:1 its template \.\/a\.html is not there/],
    ],
    [
      'a malformed manifest',
      { 'in/package.json': '{\n "name": }', 'in/a.spec.js': GOOD },
      [/^in\/package\.json:2 not valid JSON/],
    ],
    [
      'malformed settings',
      {
        'package.json': '{"name":"s","devDependencies":{"vitest":"3"}}',
        'vitest.config.ts': 'export default {',
      },
      [/^vitest\.config\.ts:1 syntax error/],
    ],
    [
      'malformed YAML',
      { '.mocharc.yml': 'a: [1', 'package.json': '{"name":"s","scripts":{"test":"mocha"}}' },
      [/^\.mocharc\.yml:1 not valid YAML/],
    ],
    [
      'a coverage file of another kind',
      { 'coverage/lcov.info': '<xml/>' },
      [/^coverage\/lcov\.info:1 holds no coverage record/],
    ],
    [
      'a coverage file of hostile content',
      {
        'coverage/lcov.info': `SF:__proto__\nDA:999999999999,1\nBRDA:1,x,${'9'.repeat(400)},-\nend_of_record\nSF:../../../etc/passwd\nDA:1,1\nend_of_record\n`,
      },
      [],
    ],
    ['empty files', { 'a.spec.ts': '', 'c.tsx': '' }, []],
    ['an empty single-file component', { 'b.vue': '' }, [/^b\.vue template error: At least one .* b\.vue$/]],
    [
      'a byte order mark, CR LF and CR',
      { 'a.spec.js': `\ufeff${GOOD.replaceAll('\n', '\r\n')}`, 'b.spec.js': `// x\r${GOOD}` },
      [],
    ],
    [
      'UTF-16',
      {
        'a.spec.js': Buffer.from(`\ufeff${GOOD}`, 'utf16le'),
        'b.spec.js': Buffer.from(`\ufeff${GOOD}`, 'utf16le').swap16(),
      },
      [],
    ],
    [
      'cyclic compiler settings',
      {
        'tsconfig.json': '{"extends":"./b.json"}',
        'b.json': '{"extends":"./tsconfig.json"}',
        'a.spec.ts': "import { x } from './x';\n" + GOOD,
        'x.ts': 'export const x = 1;',
      },
      [],
    ],
    [
      'imports and exports in a circle',
      {
        'a.spec.ts': `import { A } from './a';\n${GOOD}`,
        'a.ts': "export * from './b';",
        'b.ts': "export * from './a'; export { A } from './a';",
      },
      [],
    ],
    [
      'names of the language’s own',
      {
        '__proto__.spec.js':
          "describe('__proto__', () => { it('constructor', () => { const toString = {}; expect(toString.hasOwnProperty).not.toBe(document.valueOf); }); });",
        'constructor.ts': 'export const constructor = 1; export function Valueof() { return <a/>; }',
      },
      [/^constructor\.ts:1 syntax error/],
    ],
  ];
  for (const [title, files, wanted] of cases) {
    it(title, async () => {
      const unread = await unreadOf(files);
      expect(unread).to.have.lengthOf(wanted.length, unread.join('\n'));
      wanted.forEach((each, i) => expect(unread[i]).to.match(each));
    });
  }

  it('reads offsets of UTF-16 and of files with a byte order mark alike', async () => {
    const text = "it.only('a', () => { expect(document.title).toBe(''); });\n";
    for (const content of [text, `\ufeff${text}`, Buffer.from(`\ufeff${text}`, 'utf16le')]) {
      const report = await auditFolder(written({ 'a.spec.js': content }), ['O06']);
      expect(report.findings[0]).to.include({ line: 1, column: 3, endColumn: 8 });
    }
  });

  it('passes no escape of a name, a title or a message on to the terminal', () => {
    const folder = written({
      ...MANIFEST,
      'a\u001b[31m.spec.js': "it.only('red \\u001b[2J', () => { expect(document.title).toBe(''); });",
      'b\u0007.spec.js': 'it(',
    });
    const { out, err, code } = wexlet(folder, 'audit');
    expect(code).to.equal(1);
    expect(out + err).not.to.match(/[\u001b\u0007]/);
    expect(out).to.include('a\\u{1b}[31m.spec.js');
  });

  it('shows no stack trace, and says how to see one', () => {
    const { out, err } = wexlet(written({ ...MANIFEST, 'a.spec.ts': 'it(' }), 'audit');
    expect(out + err).not.to.match(/^\s+at /m);
  });

  it('runs no line of the project: not its settings, set-up files, components or specs', () => {
    const trap = `require('fs').writeFileSync(__dirname + '/ran', '1');\n`;
    const files = Object.fromEntries(
      [
        'vitest.config.js',
        'jest.config.js',
        'karma.conf.js',
        '.mocharc.js',
        'setup.js',
        'a.js',
        'a.spec.js',
      ].map((name) => [
        name,
        `${trap}module.exports = { test: { setupFiles: './setup.js' } };\n${name.includes('spec') ? GOOD : ''}`,
      ]),
    );
    const folder = written({
      'package.json':
        '{"name":"s","scripts":{"pretest":"touch ran","test":"vitest run"},"devDependencies":{"vitest":"3","jest":"29"}}',
      ...files,
    });
    wexlet(folder, 'audit');
    wexlet(folder, 'mend', '--write');
    expect(() => writeFileSync(join(folder, 'ran'), '', { flag: 'wx' }), 'nothing ran').not.to.throw();
  });

  it('survives any bytes', async () => {
    let seed = 11;
    const next = (): number => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648;
    const tokens = [
      'it(',
      "'a'",
      ',',
      '()=>{',
      '}',
      ')',
      'expect(',
      '<A ',
      '/>',
      '{',
      '`',
      '${',
      'class ',
      'render(',
      ';',
      '\n',
      'await ',
      'import ',
      '"',
      '//',
      '=>',
      '[',
      ']',
      '\\',
      '\u2028',
      '<template>',
      '</template>',
      '@Component(',
      '*',
    ];
    const text = (): string =>
      Array.from({ length: 60 }, () => tokens[Math.floor(next() * tokens.length)]).join('');
    const files: Record<string, string> = {};
    for (let i = 0; i < 120; i++) files[`f${i}.spec.${['ts', 'tsx', 'js', 'jsx'][i % 4]}`] = text();
    for (let i = 0; i < 60; i++) files[`c${i}.${['vue', 'tsx', 'ts'][i % 3]}`] = text();
    const report = await auditFolder(written({ ...MANIFEST, ...files }));
    expect(report.counts.specFiles).to.be.at.least(1);
  });

  it('says of no component beside a broken spec file that no spec renders it', async () => {
    const files = {
      'rack/rack.jsx': 'export const Rack = ({ hot }) => (hot ? <b>Hot</b> : <i>Cold</i>);\n',
      'lid.jsx': 'export const Lid = ({ hot }) => (hot ? <b>Hot</b> : <i>Cold</i>);\n',
      'knob.jsx': 'export const Knob = () => <b>Knob</b>;\n',
      'knob.spec.jsx':
        "import { render, screen } from '@testing-library/react';\nimport { Knob } from './knob';\nit('turns', () => { render(<Knob />); expect(screen.getByText('Knob')).toBeVisible(); });\n",
    };
    const missing = async (more: Record<string, string>): Promise<string[]> => {
      const { findings } = await auditFolder(written({ ...MANIFEST, ...files, ...more }));
      return findings.flatMap(({ code, file }) => (code === 'B02' ? file : []));
    };
    expect(await missing({})).to.have.members(['lid.jsx', 'rack/rack.jsx']);
    expect(await missing({ 'rack/__tests__/rack.spec.jsx': "it('a', () => {" })).to.eql(['lid.jsx']);
  });

  it('takes many spec files', async function () {
    this.timeout(60000);
    const files = Object.fromEntries(
      Array.from({ length: 2000 }, (_, i) => [`d${i % 50}/s${i}.spec.js`, GOOD]),
    );
    const report: Report = await auditFolder(written({ ...MANIFEST, ...files }));
    expect(report.counts).to.include({ specFiles: 2001, specs: 2001 });
  });
});

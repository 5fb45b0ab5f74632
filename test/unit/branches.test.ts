import { expect } from 'chai';
import type { Branch } from '#src/branches/arms.js';
import { scriptBranches } from '#src/branches/script-arms.js';
import { ScriptScopes } from '#src/branches/script-scope.js';
import { measuredBranches } from '#src/coverage/arms-hit.js';
import { readCobertura } from '#src/coverage/cobertura.js';
import { readCoverageMap } from '#src/coverage/coverage-map.js';
import { shares, type BranchRecord, type FileCoverage, type Share } from '#src/coverage/coverage.js';
import { readLcov } from '#src/coverage/lcov.js';
import { readCoverage, usualCoverage } from '#src/coverage/read.js';
import { DiskFiles } from '#src/index.js';
import { Project } from '#src/project/project.js';
import type { Problem, Source } from '#src/syntax/source.js';
import { written } from '../support/samples.js';

// The branches of a module that is written to a folder of its own.
function branchesIn(text: string): { branches: Branch[]; source: Source } {
  const root = written({ 'a.tsx': text });
  const project = new Project(new DiskFiles(), undefined);
  const tree = project.tree(`${root}/a.tsx`);
  if (!tree) throw new Error('not read');
  const components = project.summary(tree.path)?.components ?? [];
  return {
    branches: scriptBranches(new ScriptScopes(project, tree, components)).branches,
    source: tree.script.source,
  };
}

/** The branches of a script as lines: kind, arms with their conditions, what they stand under. */
const branches = (text: string): string[] =>
  branchesIn(text).branches.map(({ kind, arms, under }) => {
    const shown = arms.map(({ arm, condition }) => `${arm}: ${condition.text || 'always'}`);
    return `${kind} ${shown.join(' / ')}${under.length ? ` under ${under.map((each) => each.text).join(' and ')}` : ''}`;
  });

describe('branches', () => {
  const rows: [string, string, string[]][] = [
    ['if', 'if (a) b();', ['if then: a / else: not (a)']],
    [
      'if and else if',
      'if (a) b(); else if (c) d(); else e();',
      ['if then: a / else: not (a)', 'if then: c / else: not (c) under not (a)'],
    ],
    ['conditional', 'const x = a > 1 ? b : c;', ['conditional then: a > 1 / else: not (a > 1)']],
    [
      'and, or, nullish',
      'a && b; c || d; e ?? f;',
      [
        'logical left: always / right: a',
        'logical left: always / right: not (c)',
        'logical left: always / right: e is null or undefined',
      ],
    ],
    ['longer chains', 'a && b && c;', ['logical 1: always / 2: a / 3: a && b']],
    [
      'switch',
      "switch (a) { case 'x': b(); break; default: if (c) d(); }",
      [
        "switch case 'x': a is 'x' / default: a is none of the cases",
        'if then: c / else: not (c) under a is none of the cases',
      ],
    ],
    [
      'defaults',
      'function f({ a = 1 }, b = 2) {}',
      [
        'default default: a is not given / given: a is given',
        'default default: b is not given / given: b is given',
      ],
    ],
    [
      'early returns',
      'function f() { if (a) return; if (b) c(); }',
      ['if then: a / else: not (a)', 'if then: b / else: not (b) under not (a)'],
    ],
    [
      'inside a condition',
      'if (a) { if (b) c(); }',
      ['if then: a / else: not (a)', 'if then: b / else: not (b) under a'],
    ],
    [
      'inside markup',
      'const x = <p>{a && <b>{c ? 1 : 2}</b>}</p>;',
      ['logical left: always / right: a', 'conditional then: c / else: not (c) under a'],
    ],
    ['optional chains', 'a?.b;', ['optional nothing: a is null or undefined']],
    [
      'try and catch',
      'try { if (a) b(); } catch { if (c) d(); }',
      [
        'try catch: what is tried fails',
        'if then: a / else: not (a)',
        'if then: c / else: not (c) under what is tried fails',
      ],
    ],
    [
      'switch with fall-through',
      "switch (a) { case 'x': case 'y': b(); case 'z': break; default: }",
      [
        "switch case 'x': a is 'x' / case 'y': a is 'x' or a is 'y' / case 'z': a is 'x' or a is 'y' or a is 'z' / default: a is none of the cases",
      ],
    ],
    ['none', 'const x = 1;', []],
  ];
  for (const [title, text, wanted] of rows) it(title, () => expect(branches(text)).to.deep.equal(wanted));
});

const file = (extra: Partial<FileCoverage>): FileCoverage => ({
  path: 'a',
  lines: new Map(),
  branches: [],
  functions: [],
  ...extra,
});

describe('coverage', () => {
  it('reads LCOV and counts shares', () => {
    const [record] = readLcov(
      'TN:\nSF:src/a.ts\nFN:1,f\nFNDA:0,f\nDA:1,2\nDA:2,0\nBRDA:1,0,0,1\nBRDA:1,0,1,-\nBRDA:2,1,0,0\nend_of_record\n',
    );
    if (!record) throw new Error('no record');
    expect(record.path).to.equal('src/a.ts');
    expect([...record.lines]).to.deep.equal([
      [1, 2],
      [2, 0],
    ]);
    expect(record.branches).to.deep.equal([
      { line: 1, block: 0, hits: [1, 0] },
      { line: 2, block: 1, hits: [0] },
    ]);
    expect(shares(record)).to.deep.equal({
      statements: [1, 2],
      branches: [1, 3],
      functions: [0, 1],
      lines: [1, 2],
    });
  });

  it('maps records to branches by line and number of arms, and leaves what does not fit', () => {
    const text = 'a ? b : c; d ? e : f;\ng && h && i;\nj && k;';
    const { branches: found, source } = branchesIn(text);
    const records = [
      { line: 1, block: 0, hits: [1, 0] },
      { line: 1, block: 1, hits: [0, 1] },
      { line: 2, block: 2, hits: [1, 1, 0] },
      { line: 3, block: 3, hits: [1] },
    ];
    const measured = measuredBranches(found, file({ branches: records }), source);
    expect(measured.unmapped).to.equal(1);
    expect(measured.branches.map(({ branch, hits }) => `${branch.condition} ${hits.join()}`)).to.deep.equal([
      'a 1,0',
      'd 0,1',
      'g && h && i 1,1,0',
    ]);
  });

  it('finds files at their usual places, merges them and matches paths by their tail', () => {
    const lcov = (path: string, hits: string): string =>
      `SF:${path}\nDA:1,1\nBRDA:1,0,0,${hits}\nend_of_record\n`;
    const folder = written({
      'coverage/lcov.info': lcov('src/a.ts', '1'),
      'more.info': lcov('/ci/work/src/a.ts', '2') + lcov('/ci/work/b.ts', '1') + lcov('/ci/gone/x.ts', '1'),
      'src/a.ts': '',
      'in/b.ts': '',
      'out/b.ts': '',
    });
    const files = new DiskFiles();
    expect(usualCoverage(files, folder)).to.deep.equal([`${folder}/coverage/lcov.info`]);
    const shop = written({
      'coverage/shop/lcov.info': '',
      'coverage/shop/cobertura-coverage.xml': '',
      'coverage/studio/lcov.info': '',
    });
    expect(usualCoverage(files, shop).map((path) => path.slice(shop.length))).to.deep.equal([
      '/coverage/shop/lcov.info',
      '/coverage/studio/lcov.info',
    ]);
    const problems: Problem[] = [];
    const sources = [`${folder}/src/a.ts`, `${folder}/in/b.ts`, `${folder}/out/b.ts`];
    const coverage = readCoverage(
      { files, sources, sourceOf: () => undefined, onProblem: (problem) => problems.push(problem) },
      [`${folder}/coverage/lcov.info`, `${folder}/more.info`, `${folder}/none.info`],
    );
    expect(
      [...coverage.files].map(
        ([path, { branches: all }]) => `${path.slice(folder.length)} ${all[0]?.hits.join()}`,
      ),
    ).to.deep.equal(['/src/a.ts 3']);
    expect(coverage.unmatched.map(({ path }) => path)).to.deep.equal(['/ci/work/b.ts', '/ci/gone/x.ts']);
    expect(problems.map(({ reason }) => reason)).to.deep.equal(['cannot be read']);
  });

  it('reads Cobertura: counts by line, and no entity is expanded', () => {
    const text = `<?xml version="1.0"?><!DOCTYPE coverage [<!ENTITY kiln "raku">]><coverage><sources><source>/ci/work</source></sources>
      <packages><package name="&kiln;"><classes><class filename="src/&kiln;.ts"><methods><method name="f" hits="2"><lines><line number="1" hits="2"/></lines></method></methods>
      <lines><line number="1" hits="2"/><line number="2" hits="0" branch="true" condition-coverage="75% (3/4)"/></lines></class></classes></package></packages></coverage>`;
    const [record] = readCobertura(text);
    expect(record).to.deep.include({
      path: '/ci/work/src/&kiln;.ts',
      branches: [{ line: 2, block: 0, hits: [], partly: [3, 4] }],
      functions: [{ name: 'f', line: 1, hits: 2 }],
    });
    expect(record && shares(record).branches).to.deep.equal([3, 4]);
    for (const odd of ['', '<a/>', '<coverage>', '<coverage><packages/></coverage>', 'no'])
      expect(readCobertura(odd), odd).to.deep.equal([]);
  });

  it('tells of a line with one branch how many arms ran, and of more than one only all or none', () => {
    const { branches: found, source } = branchesIn(
      'a ? b : c;\nd ? e : f; g ? h : i;\nj ? k : l; m ? n : o;',
    );
    const record = (line: number, partly: Share): BranchRecord => ({ line, block: 0, hits: [], partly });
    const records = [record(1, [1, 2]), record(2, [3, 4]), record(3, [0, 4])];
    const { branches: measured } = measuredBranches(found, file({ branches: records }), source);
    expect(measured.map(({ hits, partly }) => `${hits.join()} ${partly?.join('/') ?? ''}`)).to.deep.equal([
      ', 1/2',
      ', ',
      ', ',
      '0,0 ',
      '0,0 ',
    ]);
  });

  it('maps a JSON coverage map by place, and ranges of the engine by what they hold', () => {
    const { branches: found, source } = branchesIn(
      'const x = a ? b : c; const y = d ? e : f;\nif (g) { h(); }',
    );
    const range = (line: number, from: number, to: number): object => ({
      start: { line, column: from },
      end: { line, column: to },
    });
    const map = (branchMap: object, b: object): string =>
      JSON.stringify({
        a: {
          path: 'a.tsx',
          statementMap: { 0: range(1, 0, 20) },
          s: { 0: 4 },
          fnMap: {},
          f: {},
          branchMap,
          b,
        },
      });
    const exact = readCoverageMap(
      map(
        { 7: { type: 'cond-expr', loc: range(1, 31, 40), locations: [range(1, 35, 36), range(1, 39, 40)] } },
        { 7: [0, 4] },
      ),
    )[0];
    const ranges = readCoverageMap(
      map({ 0: { type: 'branch', loc: range(2, 7, 15), locations: [range(2, 7, 15)] } }, { 0: [0] }),
    )[0];
    const shown = (coverage: FileCoverage | undefined): string[] =>
      coverage
        ? measuredBranches(found, coverage, source).branches.map(
            ({ branch, hits }) => `${branch.condition} ${hits.join()}`,
          )
        : [];
    expect(shown(exact)).to.deep.equal(['d 0,4']);
    expect(exact && shares(exact).statements).to.deep.equal([1, 1]);
    // A range that is not there says nothing.
    expect(shown(ranges)).to.deep.equal(['a ,', 'd ,', 'g 0,']);
    for (const odd of ['', '[]', 'null', '{"a":1}', '{"a":{"path":3}}'])
      expect(readCoverageMap(odd), odd).to.deep.equal([]);
  });

  it('goes by lines where an engine counts by line, and adds up runs', () => {
    const { branches: found, source } = branchesIn('if (a) {\n  b();\n} else {\n  c();\n}');
    const lines = new Map([
      [1, 2],
      [2, 2],
      [4, 0],
    ] as const);
    const records = [{ line: 1, block: 0, hits: [2] }];
    const [only] = measuredBranches(found, file({ lines, branches: records }), source).branches;
    expect(only?.hits).to.deep.equal([2, 0]);
    const folder = written({
      'one.info': 'SF:a.ts\nDA:1,1\nBRDA:1,0,0,1\nBRDA:1,0,1,0\nend_of_record\n',
      'two.info': 'SF:a.ts\nDA:1,1\nBRDA:1,0,0,0\nBRDA:1,0,1,3\nBRDA:9,4,0,0\nend_of_record\n',
      'a.ts': '',
    });
    const reader = {
      files: new DiskFiles(),
      sources: [`${folder}/a.ts`],
      sourceOf: () => undefined,
      onProblem: () => {},
    };
    const coverage = readCoverage(reader, [`${folder}/one.info`, `${folder}/two.info`]);
    expect(coverage.files.get(`${folder}/a.ts`)?.branches.map(({ hits }) => hits)).to.deep.equal([
      [1, 3],
      [0],
    ]);
  });
});

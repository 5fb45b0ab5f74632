import { expect } from 'chai';
import { branchesOf } from '#src/branches/arms.js';
import { measuredBranches } from '#src/coverage/arms-hit.js';
import { shares, type FileCoverage } from '#src/coverage/coverage.js';
import { readLcov } from '#src/coverage/lcov.js';
import { readCoverage, usualCoverage } from '#src/coverage/read.js';
import { DiskFiles } from '#src/index.js';
import { parseScript } from '#src/parse/script.js';
import { decodeSource, type Problem, type Source } from '#src/parse/source.js';
import { LineIndex } from '#src/util/line-index.js';
import { written } from '../support/samples.js';

/** The branches of a script as lines: kind, arms with their conditions, what they stand under. */
function branches(text: string): string[] {
  const script = parseScript(decodeSource('a.tsx', Buffer.from(text)) as Source);
  if ('reason' in script) throw new Error(script.reason);
  return branchesOf(script.program, 'a.tsx', text).map(
    ({ kind, arms, under }) =>
      `${kind} ${arms.map(({ arm, condition }) => `${arm}: ${condition}`).join(' / ')}${under.length ? ` under ${under.join(' and ')}` : ''}`,
  );
}

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
      ['default default: a is not given', 'default default: b is not given'],
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
    const script = parseScript(decodeSource('a.ts', Buffer.from(text)) as Source);
    if ('reason' in script) throw new Error(script.reason);
    const found = branchesOf(script.program, 'a.ts', text);
    const records = [
      { line: 1, block: 0, hits: [1, 0] },
      { line: 1, block: 1, hits: [0, 1] },
      { line: 2, block: 2, hits: [1, 1, 0] },
      { line: 3, block: 3, hits: [1] },
    ];
    const measured = measuredBranches(found, file({ branches: records }), new LineIndex(text));
    expect(measured.map(({ branch, hits }) => `${branch.condition} ${hits.join()}`)).to.deep.equal([
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
    const problems: Problem[] = [];
    const coverage = readCoverage(
      files,
      [`${folder}/coverage/lcov.info`, `${folder}/more.info`, `${folder}/none.info`],
      [`${folder}/src/a.ts`, `${folder}/in/b.ts`, `${folder}/out/b.ts`],
      (problem) => problems.push(problem),
    );
    expect(
      [...coverage.files].map(
        ([path, { branches: all }]) => `${path.slice(folder.length)} ${all[0]?.hits.join()}`,
      ),
    ).to.deep.equal(['/src/a.ts 3']);
    expect(coverage.unmatched).to.deep.equal(['/ci/work/b.ts', '/ci/gone/x.ts']);
    expect(problems.map(({ reason }) => reason)).to.deep.equal(['cannot be read']);
  });
});

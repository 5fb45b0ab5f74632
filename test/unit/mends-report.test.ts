import { expect } from 'chai';
import { PLAIN, textReport, type Report, type ReportedFinding } from '#src/index.js';
import { allowancesIn, isAllowed } from '#src/audit/allowances.js';
import { entriesOf } from '#src/audit/entries.js';
import { applied, withoutOverlaps } from '#src/writing/edits/edit.js';
import { type Edit } from '#src/finding.js';
import { planMends, type CodedMend } from '#src/writing/plan.js';
import { indentAt, styleOf } from '#src/writing/edits/style.js';
import { decodeSource, type Source } from '#src/syntax/source.js';

const edit = (start: number, end: number, text: string, file = 'a'): Edit => ({ file, start, end, text });
const mend = (...edits: Edit[]): CodedMend => ({ code: 'S01', summary: '', safe: true, edits });

describe('mends', () => {
  it('apply edits in order, equal ones once, insertions one after the other', () => {
    expect(applied('kiln', [edit(4, 4, '!'), edit(0, 1, 'K')])).to.equal('Kiln!');
    expect(applied('kiln', [edit(0, 0, 'a'), edit(0, 0, 'b'), edit(0, 0, 'a')])).to.equal('abkiln');
    expect(applied('kiln', [])).to.equal('kiln');
  });

  it('make one hook of two that open and close alike', () => {
    const hook = (body: string) => edit(0, 0, `afterEach(() => {\n  ${body}\n});\n\n`);
    const one = applied('it();', [hook('a();'), hook('b();'), edit(0, 0, 'beforeEach(() => {\n});\n')]);
    expect(one).to.equal('afterEach(() => {\n  a();\n  b();\n});\n\nbeforeEach(() => {\n});\nit();');
  });

  it('take the first of two that overlap, and leave the other', () => {
    const first = mend(edit(0, 4, 'x'));
    const second = mend(edit(2, 6, 'y'));
    const third = mend(edit(6, 8, 'z'), edit(9, 9, 'w', 'b'));
    expect(withoutOverlaps([first, second, third])).to.deep.equal({ taken: [first, third], left: [second] });
    const same = mend(edit(10, 10, ', it'));
    expect(withoutOverlaps([same, mend(edit(10, 10, ', it'))]).left).to.deep.equal([]);
  });

  it('plan texts by file, and leave files that can’t be read alone', () => {
    const plan = planMends([mend(edit(0, 1, 'K')), mend(edit(0, 0, 'x', 'gone'))], (file) =>
      file === 'a' ? 'kiln' : undefined,
    );
    expect([...plan.texts]).to.deep.equal([['a', { before: 'kiln', after: 'Kiln' }]]);
    expect(plan.taken).to.have.lengthOf(1);
  });

  it('read the style of a file', () => {
    expect(styleOf('a();\n  b();\n')).to.deep.equal({
      newline: '\n',
      indent: '  ',
      semicolon: ';',
      quote: "'",
    });
    expect(styleOf('a()\r\n\tb()\r\n')).to.deep.equal({
      newline: '\r\n',
      indent: '\t',
      semicolon: '',
      quote: "'",
    });
    expect(styleOf('a("b")').quote).to.equal('"');
    expect(styleOf('').indent).to.equal('  ');
    expect([indentAt('a\n    b', 6), indentAt('a', 0), indentAt('\tab', 2)]).to.deep.equal([
      '    ',
      '',
      '\t',
    ]);
  });
});

describe('allowances', () => {
  const read = (text: string) => {
    const source = decodeSource('a.ts', Buffer.from(`\n${text}\n`)) as Source;
    return allowancesIn([{ text, start: 1, end: 1 + text.length }], source);
  };

  it('are read with codes, reason and reach', () => {
    expect(read('// wexlet: allow S01, Q02 because it is slow')[0]).to.deep.include({
      codes: ['S01', 'Q02'],
      reason: 'it is slow',
      line: 3,
    });
    expect(read('<!-- wexlet: allow-file Q11 because it is decorative -->')[0]).to.deep.include({
      reason: 'it is decorative',
      line: undefined,
    });
    expect(read('/* wexlet: allow S01 */')[0]).to.deep.include({ reason: undefined });
    expect(read('// wexlet allows nothing here')).to.deep.equal([]);
  });

  it('take a code at the next line only, and only with a reason', () => {
    const good = read('// wexlet: allow S01 because it is slow');
    expect([isAllowed(good, 'S01', 3), isAllowed(good, 'S01', 4), isAllowed(good, 'S02', 3)]).to.deep.equal([
      true,
      false,
      false,
    ]);
    expect(good[0]?.used).to.equal(true);
    expect(isAllowed(read('// wexlet: allow S01'), 'S01', 3)).to.equal(false);
  });
});

const finding = (extra: Partial<ReportedFinding>): ReportedFinding => ({
  code: 'S01',
  family: 'state',
  level: 'blocker',
  certainty: 'sure',
  file: 'src/kiln.spec.ts',
  line: 5,
  column: 9,
  endLine: 5,
  endColumn: 13,
  group: [],
  message: 'kiln is built once.',
  advice: 'Build it anew.',
  evidence: [],
  fingerprint: '0',
  ...extra,
});

function report(findings: ReportedFinding[], extra: Partial<Report> = {}): Report {
  const count = (level: string): number => findings.filter((each) => each.level === level).length;
  return {
    format: 'wexlet-report',
    version: 1,
    tool: { name: 'wexlet', version: '0' },
    root: '.',
    verdict: findings.length ? 'hold' : 'ready',
    undecided: [],
    counts: {
      packages: 1,
      specFiles: 2,
      specs: 9,
      components: 3,
      findings: { blocker: count('blocker'), risk: count('risk'), hint: count('hint') },
    },
    findings,
    entries: entriesOf(findings, () => '.'),
    reach: { role: 0, label: 0, text: 0, alternative: 0, testId: 0, structure: 0, internals: 0 },
    gaps: [],
    environment: [],
    unread: [],
    ...extra,
  };
}

const text = (value: Report, all = false, width = 80): string =>
  textReport(value, { width, colours: PLAIN, all });

describe('the text report', () => {
  it('shows verdict, counts, families and an entry with its chain', () => {
    const evidence = [
      { file: 'src/kiln.spec.ts', line: 5, column: 9, note: 'built here' },
      { file: 'src/kiln.ts', line: 14, column: 5, note: 'where it writes' },
      { file: 'src/kiln.spec.ts', line: 20, column: 1, note: 'used here' },
    ];
    expect(text(report([finding({ evidence })])).split('\n')).to.deep.equal([
      '',
      '  HOLD   1 blocker  ·  0 risks  ·  0 hints',
      '  read   1 package  ·  2 spec files  ·  9 specs  ·  3 components',
      '',
      '                 blocker     risk     hint',
      '  state                1        ·        ·   S01',
      '',
      'src/kiln.spec.ts ───────────────────────────────────────────────────────────────',
      '',
      '  blocker  S01  Built once, changed by a spec',
      '      5    kiln is built once.',
      '           ┌ line 5  built here',
      '           ├ src/kiln.ts:14  where it writes',
      '           └ line 20  used here',
      '  mend     Build it anew.',
      '',
      '  wexlet explain <code> says what a check is for; wexlet mend prints changes',
      '',
      '',
    ]);
  });

  it('joins places of one code in one file, and puts the gravest files first', () => {
    const out = text(
      report([
        finding({ level: 'hint', code: 'Q01', file: 'a.spec.ts' }),
        finding({ line: 7 }),
        finding({ line: 9, message: 'shelf is built once.' }),
        finding({ line: 5 }),
      ]),
    );
    expect(out.indexOf('src/kiln.spec.ts')).to.be.below(out.indexOf('a.spec.ts ─'));
    expect(out).to.include('S01  Built once, changed by a spec  3 places');
    expect(out.match(/mend {5}Build it anew\./g)).to.have.lengthOf(2);
  });

  it('marks what is likely, and gives each place its own mend where they differ', () => {
    const out = text(
      report([
        finding({ certainty: 'likely' }),
        finding({ certainty: 'likely', line: 8, advice: 'Drop it.' }),
      ]),
    );
    expect(out)
      .to.include('2 places  likely')
      .and.to.include('mend     Build it anew.\n')
      .and.to.include('mend     Drop it.\n');
  });

  it('wraps at its width', () => {
    const long = finding({
      message: 'kiln '.repeat(60),
      advice: 'shelf '.repeat(40),
      evidence: [{ file: 'x', line: 1, column: 1, note: 'glaze '.repeat(40) }],
    });
    for (const width of [80, 120, 160])
      for (const line of text(report([long]), false, width).split('\n'))
        expect(line.length).to.be.at.most(width);
  });

  it('says what was not read', () => {
    const unread = Array.from({ length: 7 }, (_, i) => ({
      file: `f${i}.ts`,
      reason: 'binary',
      line: i || undefined,
    }));
    const out = text(report([], { unread }));
    expect(out)
      .to.include('not read: 7 files')
      .and.to.include('f1.ts:1  binary')
      .and.to.include('and 2 more')
      .and.to.include('Nothing to mend.');
    expect(text(report([], { unread }), true)).to.include('f6.ts:6');
  });
});

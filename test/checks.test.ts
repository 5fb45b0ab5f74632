import { expect } from 'chai';
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { CHECKS } from '#src/checks/index.js';
import { DiskFiles, planMends, type CodedMend, type Plan, type Report } from '#src/index.js';
import { overlaid } from '#src/host/files.js';
import { parseScript, isScript } from '#src/syntax/script.js';
import { decodeSource, isProblem } from '#src/syntax/source.js';
import { auditFolder, placesOf } from './support/audits.js';
import { typeProblems } from './support/type-check.js';
import { samplesIn, TEST_FOLDER, written, type Sample } from './support/samples.js';

const folder = join(TEST_FOLDER, 'checks');
const MANIFEST = JSON.stringify({ name: 'sample', private: true, scripts: { test: 'true' } });

describe('checks', () => {
  it('have a folder of samples each, that fire and that stay quiet', () => {
    const codes = CHECKS.map(({ code }) => code).sort();
    expect(readdirSync(folder).sort()).to.deep.equal(codes);
    for (const code of codes) {
      const samples = samplesIn(join(folder, code));
      expect(
        samples.some(({ expected }) => expected.length > 0),
        `${code} fires`,
      ).to.equal(true);
      expect(
        samples.some(({ expected }) => expected.length === 0),
        `${code} is quiet`,
      ).to.equal(true);
    }
  });

  for (const code of readdirSync(folder)) {
    describe(code, () => {
      const said: string[] = [];
      for (const sample of samplesIn(join(folder, code)))
        it(sample.title, async () => void said.push(...(await check(code, sample))));
      it('says what it said: messages, advice and mends', () => holdsTexts(code, said));
    });
  }
});

// What the samples of a check say stands beside them: a change of a text is seen, and meant. `--update` writes it anew.
function holdsTexts(code: string, said: readonly string[]): void {
  const file = join(folder, code, 'said.json');
  const texts = `${JSON.stringify([...new Set(said)].sort(), null, 1)}\n`;
  if (process.env['WEXLET_UPDATE']) writeFileSync(file, texts);
  expect(texts).to.equal(existsSync(file) ? readFileSync(file, 'utf8') : '');
}

// In short: of a mend, what it does and what it writes.
const inShort = ({ message, advice, suggestion, mend }: Report['findings'][number]): string =>
  [
    message,
    advice,
    ...(suggestion === undefined ? [] : [suggestion]),
    ...(mend
      ? [
          `${mend.safe ? 'safe' : 'likely'}: ${mend.summary}: ${mend.edits.map(({ text }) => text).join(' … ')}`,
        ]
      : []),
  ].join(' | ');

async function check(code: string, sample: Sample): Promise<string[]> {
  const files = new Map(sample.files);
  if (!files.has('package.json')) files.set('package.json', MANIFEST);
  const root = written(files);
  const report = await auditFolder(root, [code, 'A01', 'A02']);
  if (code !== 'E19') expect(report.unread, 'unread').to.deep.equal([]);
  const found = placesOf(report);
  const wanted = sample.expected;
  // A mark may leave out level and certainty; it is compared as far as it goes.
  const shown = found.map(
    (each) => wanted.find((mark) => each === mark || each.startsWith(`${mark} `)) ?? each,
  );
  expect(shown.sort()).to.deep.equal([...wanted].sort());
  const sources = [...files].filter(([path]) => existsSync(join(root, path)));
  await checkMends(root, code, report, new Map(sources));
  return report.findings.map(inShort);
}

// Each mend: the file parses, the finding is gone, and no new one is there.
async function checkMends(
  root: string,
  code: string,
  report: Report,
  sources: ReadonlyMap<string, string>,
): Promise<void> {
  const mended = report.findings.filter(({ mend }) => mend);
  if (mended.length === 0) return;
  const before = await auditFolder(root);
  for (const finding of mended) {
    if (!finding.mend) continue;
    const mend: CodedMend = { code, ...finding.mend };
    const plan = planMends([mend], (file) => sources.get(file));
    const contents = new Map(
      [...plan.texts].map(([file, { after }]) => [`${root}/${file}`, Buffer.from(after)]),
    );
    for (const [path, bytes] of contents) {
      const source = decodeSource(path, bytes);
      if (!isProblem(source) && isScript(path))
        expect(parseScript(source), 'the mended file parses').not.to.have.property('reason');
    }
    if (/^[SCO]/.test(code)) checkTypes(sources, plan.texts);
    const after = await auditFolder(root, undefined, {}, overlaid(new DiskFiles(), contents));
    const known = before.findings.map(keyOf);
    expect(
      after.findings.map(keyOf).filter((each) => !known.includes(each)),
      'new findings',
    ).to.deep.equal([]);
    const count = (findings: Report['findings']): number =>
      findings.filter((each) => keyOf(each) === keyOf(finding)).length;
    expect(count(after.findings), 'the finding is gone').to.be.below(count(before.findings));
  }
}

// The compiler has nothing to say of the mended files that it did not say before.
function checkTypes(sources: ReadonlyMap<string, string>, mended: Plan['texts']): void {
  const after = new Map([...sources].map(([file, text]) => [file, mended.get(file)?.after ?? text]));
  const known = typeProblems(sources);
  expect(
    typeProblems(after).filter((each) => !known.includes(each)),
    'types',
  ).to.deep.equal([]);
}

const keyOf = ({ code, file, message, spec }: Report['findings'][number]): string =>
  `${code} ${file} ${spec ?? ''} ${message}`;

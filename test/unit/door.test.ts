import { Ajv2020 } from 'ajv/dist/2020.js';
import { Ajv } from 'ajv';
import { expect } from 'chai';
import { readFileSync, realpathSync } from 'node:fs';
import { join } from 'node:path';
import * as v from 'valibot';
import {
  audit,
  DiskFiles,
  gaps,
  outline,
  RequestError,
  settingsFrom,
  type AuditOptions,
} from '#src/index.js';
import { ReportSchema } from '../../scripts/report-schema.js';
import { TEST_FOLDER, written } from '../support/samples.js';

const DEMO = realpathSync(join(TEST_FOLDER, '../demo/kilnroom'));
const files = new DiskFiles();

describe('the library', () => {
  it('audits with nothing but a root', async () => {
    const report = await audit(files, { root: DEMO });
    expect(report.verdict).to.equal('hold');
    expect(report.tool.version).to.match(/^\d+\.\d+\.\d+/);
  });

  it('takes settings in part', async () => {
    const settings = { holdAt: 'blocker' as const };
    const report = await audit(files, { root: DEMO, settings, only: ['Q03'] });
    expect(report.verdict).to.equal('ready');
  });

  it('gives gaps and pending specs, and writes nothing', async () => {
    const { report, pending } = await gaps(files, { root: DEMO });
    expect(report.gaps.length).to.be.greaterThan(0);
    expect(pending.flatMap(({ specs }) => specs).length).to.be.greaterThan(0);
    expect(new Set(report.findings.map(({ family }) => family))).to.deep.equal(new Set(['branches']));
  });

  it('tells what it understood of a spec file', async () => {
    const path = `${DEMO}/packages/board/src/kiln-card.spec.tsx`;
    expect(await outline(files, { root: DEMO }, path)).to.have.property('blocks');
  });

  const wrong: [string, Partial<AuditOptions>, RegExp][] = [
    ['a root that is not there', { root: '/no/such/folder' }, /the root is no folder: \/no\/such\/folder/],
    ['a root that is relative', { root: 'src' }, /absolute/],
    ['a path that is not there', { paths: [`${DEMO}/gone.spec.ts`] }, /nothing at .*gone\.spec\.ts/],
    ['an unknown code', { only: ['S0I'] }, /no check or family is called S0I; did you mean S0\d\?/],
    ['an unknown code in the settings', { settings: { checks: new Map([['Q99', 'off']]) } }, /called Q99/],
  ];
  for (const [title, options, message] of wrong)
    it(`refuses ${title}`, async () => {
      const error: unknown = await audit(files, { root: DEMO, ...options }).catch((each: unknown) => each);
      expect(error).to.be.instanceOf(RequestError);
      expect((error as Error).message).to.match(message);
    });
});

describe('the JSON Schema of the report', () => {
  const published = JSON.parse(readFileSync(join(TEST_FOLDER, '../schema/report.schema.json'), 'utf8')) as {
    $schema?: string;
  };
  const checker = published.$schema?.includes('2020') ? new Ajv2020() : new Ajv();
  const isValid = checker.compile(published);

  it('takes the report of the demo, as it is written', async () => {
    const report: unknown = JSON.parse(JSON.stringify(await audit(files, { root: DEMO })));
    expect(v.safeParse(ReportSchema, report).issues).to.equal(undefined);
    expect(isValid(report), JSON.stringify(isValid.errors)).to.equal(true);
  });

  it('takes the report of a suite that can’t be read', async () => {
    const root = realpathSync(written({ 'a.spec.ts': 'it(', 'package.json': '{' }));
    const report: unknown = JSON.parse(
      JSON.stringify(await audit(files, { root, settings: settingsFrom() })),
    );
    expect(isValid(report), JSON.stringify(isValid.errors)).to.equal(true);
  });

  it('refuses what is no report', async () => {
    const report = await audit(files, { root: DEMO });
    expect(isValid({ ...report, verdict: 'perhaps' })).to.equal(false);
    expect(isValid({ ...report, colour: 'red' })).to.equal(false);
  });
});

import { expect } from 'chai';
import { readFileSync, realpathSync } from 'node:fs';
import { audit, DiskFiles, planMends, settingsFrom, type Dialect, type Report } from '#src/index.js';
import { userQueries } from '#src/libraries/queries.js';
import { written } from '../support/samples.js';

/** A library that does not exist, in one table: it renders, asks as a user does, and has words of its own. */
const KILN_KIT: Dialect = {
  name: 'a made-up library',
  modules: ['kiln-kit'],
  userCentred: true,
  exports: {
    show: { kind: 'render', takes: 'element', gives: 'queries', teardown: 'nobody' },
    view: { kind: 'object', type: 'screen' },
    inside: { kind: 'within' },
    clear: { kind: 'unmount', automatic: true },
    ...userQueries(true),
  },
  writes: {
    page: 'view',
    within: 'inside',
    queries: {
      forms: [
        { prefix: 'getBy', missing: 'throws' },
        { prefix: 'queryBy', missing: 'null' },
      ],
      kinds: { Role: 'role', LabelText: 'label', Text: 'text' },
    },
    unmounts: [{ name: 'clear', versions: '>=3' }],
  },
};

const FILES = {
  'package.json': JSON.stringify({
    name: 'room',
    scripts: { test: 'vitest run' },
    devDependencies: { vitest: '^3', react: '^19', 'kiln-kit': '^3.1', jsdom: '^26' },
  }),
  'vitest.config.ts': 'export default { test: { environment: "jsdom", globals: true } };\n',
  'lid.tsx':
    'import { useEffect } from "react";\nexport function Lid({ onFire }) {\n  useEffect(() => { window.addEventListener("keydown", onFire); });\n  return <main><button className="fire" onClick={onFire}>Fire</button></main>;\n}\n',
  'lid.spec.tsx': `import { show } from 'kiln-kit';
import { Lid } from './lid';

describe('Lid', () => {
  it('fires', () => {
    const onFire = vi.fn();
    const { container } = show(<Lid onFire={onFire} />);
    container.querySelector('.fire').click();
    expect(onFire).toHaveBeenCalled();
  });
  it('fires again', () => {
    const onFire = vi.fn();
    const { container } = show(<Lid onFire={onFire} />);
    container.querySelector('.fire').click();
    expect(onFire).toHaveBeenCalled();
  });
});
`,
};

async function audited(
  libraries: readonly Dialect[],
): Promise<{ report: Report; after: (only: string) => string }> {
  const root = realpathSync(written(FILES));
  const settings = settingsFrom();
  const report = await audit(new DiskFiles(), { root, paths: [root], settings, libraries, version: '0' });
  const after = (only: string): string => {
    const mends = report.findings.flatMap(({ code, mend }) =>
      code === only && mend ? [{ code, ...mend }] : [],
    );
    const plan = planMends(mends, (file) => readFileSync(`${root}/${file}`, 'utf8'));
    return plan.texts.get('lid.spec.tsx')?.after ?? '';
  };
  return { report, after };
}

describe('a library is one table', () => {
  it('is not known without it', async () => {
    const { report } = await audited([]);
    expect(report.findings.filter(({ suggestion }) => suggestion)).to.deep.equal([]);
  });

  it('is read by it: what renders, and what a query reaches', async () => {
    const { report } = await audited([KILN_KIT]);
    const found = report.findings.filter(({ code }) => code === 'Q01');
    expect(found.map(({ line, certainty }) => `${line} ${certainty}`)).to.deep.equal(['8 sure', '14 sure']);
  });

  it('is written by it: better queries, with the imports that they need', async () => {
    const { report, after } = await audited([KILN_KIT]);
    const [first] = report.findings.filter(({ code }) => code === 'Q01');
    expect(first?.suggestion).to.equal("view.getByRole('button', { name: 'Fire' })");
    const text = after('Q01');
    expect(text).to.include("import { show, view } from 'kiln-kit';");
    expect(text).to.include("view.getByRole('button', { name: 'Fire' }).click();");
  });

  it('is cleaned up by it', async () => {
    const { after } = await audited([KILN_KIT]);
    const text = after('C03');
    expect(text).to.include("import { show, clear } from 'kiln-kit';");
    expect(text).to.include('clear(afterEach);');
  });

  it('has no words that its table does not have', async () => {
    const { within: _, page: __, ...less } = KILN_KIT.writes ?? {};
    const { report } = await audited([{ ...KILN_KIT, writes: less }]);
    for (const { code, mend, suggestion } of report.findings.filter(({ code }) => code === 'Q01')) {
      expect(mend, code).to.equal(undefined);
      expect(suggestion).not.to.include('screen').and.not.to.include('view');
    }
  });
});

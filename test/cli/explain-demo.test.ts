import { expect } from 'chai';
import { existsSync } from 'node:fs';
import { textOfCode } from '#src/checks/index.js';
import { explainedCheck } from '#src/formats/explain.js';
import { CATALOGUE, PLAIN, type Report } from '#src/index.js';
import { started, wexlet } from '../support/cli.js';
import { written } from '../support/samples.js';

describe('wexlet explain', () => {
  it('writes its examples in the words of the framework around', () => {
    const explained = (name: string, code: string): string =>
      wexlet(
        written({ 'package.json': JSON.stringify({ name: 's', dependencies: { [name]: '*' } }) }),
        'explain',
        code,
      ).out;
    expect(explained('vue', 'B04')).to.include('render(KilnLid, { props: { temp: 20 } });');
    expect(explained('@angular/core', 'O08'))
      .to.include("it('a', async () => {")
      .and.to.include('await render(KilnCard, { on: { fire: onFire } });');
    expect(explained('react', 'O08')).to.include('render(<KilnCard onFire={onFire} />);');
  });

  it('explains a check, in either case of letters', () => {
    for (const code of ['s01', 'A02']) {
      const { out, code: exit } = wexlet('.', 'explain', code);
      const text = textOfCode(code);
      expect(exit).to.equal(0);
      expect(out).to.equal(text && explainedCheck(text, PLAIN));
    }
  });

  for (const text of CATALOGUE)
    it(`has all there is to say of ${text.code}`, () => {
      const out = explainedCheck(text, PLAIN);
      for (const part of [`${text.code}  ${text.title}`, text.why, text.level, 'The trouble'])
        expect(out).to.include(part);
    });

  it('lists all of them by family', () => {
    const { out } = wexlet('.', 'explain');
    for (const { code, title, family } of CATALOGUE)
      expect(out).to.include(code).and.to.include(title).and.to.include(family);
  });

  it('names the nearest code', () => {
    const { code, err } = wexlet('.', 'explain', 'S0I');
    expect(code).to.equal(2);
    expect(err).to.match(/no check or family is called S0I; did you mean S0\d\?/);
  });
});

describe('wexlet demo', () => {
  it('audits a copy, finds trouble of all families, and is no failure', () => {
    const { code, out, err } = started('.', 'demo');
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
      'unread      this is worked out in a way that can’t be followed (vitest.config.ts)',
    ])
      expect(out).to.include(row);
    const ofFile = wexlet(folder, 'outline', 'a.spec.ts').out.replace(/\s+/g, ' ');
    expect(ofFile)
      .to.include('runs in vitest 3 · jsdom · globals off · set-up ./setup.ts · vitest.config.ts')
      .and.to.include('unread which files are run: this is worked out in a way that can’t be followed')
      .and.to.include('(vitest.config.ts:1)');
    const [facts] = (JSON.parse(wexlet(folder, 'audit', '--format', 'json').out) as Report).environment;
    expect(facts?.facts['runners']).to.have.nested.property('[0].setupFiles[0]', './setup.ts');
    expect(wexlet(folder, 'outline', '.').out).to.equal(out);
    expect(wexlet(folder, 'outline', 'gone.spec.ts').code).to.equal(2);
    expect(wexlet(written({ 'a.js': '' }), 'outline').out).to.include('no runner found');
  });
});

describe('wexlet outline <spec file>', () => {
  const files = {
    'package.json': '{"name":"a"}',
    'card.tsx': 'export const Card = ({ name }) => <p><button className="fire">Fire {name}</button></p>;',
    'card.spec.tsx': `import { render, screen } from '@testing-library/react';
import { Card } from './card';
let seen = 0;
describe('Card', () => {
  it('fires', () => {
    const { container } = render(<Card name="East" />);
    container.querySelector('.fire').click();
    seen = 1;
  });
  it('shows', () => { render(<Card name={load()} />); expect(screen.getByText('Cold')).toBeVisible(); expect(seen).toBe(1); });
});
`,
    'broken.spec.ts': 'it(',
  };

  it('tells the steps, the elements reached, the better queries, and what crosses specs', () => {
    const folder = written(files);
    const { code, out } = wexlet(folder, 'outline', 'card.spec.tsx');
    expect(code).to.equal(0);
    const lines = out.split('\n').map((line) => line.trim().replace(/ +/g, ' '));
    expect(lines).to.include.members([
      'card.spec.tsx 2 specs · 2 reaches, the element known of 1',
      'runs in no runner that is in sight',
      'Card',
      'fires 0 assertions',
      'shows 2 assertions',
      '6 render render(<Card name="East" />)',
      "7 reach container.querySelector('.fire')",
      'structure → <button>Fire East</button> button “Fire East” card.tsx:1',
      "better screen.getByRole('button', { name: 'Fire East' })",
      "10 reach screen.getByText('Cold')",
      'text → not known: a part that can’t be read: the prop name',
      'crosses specs',
      '8 changes by “fires”',
      '10 reads by “shows”',
    ]);
  });

  it('tells what there is to reach in a component, and what it may be given', () => {
    const folder = written({
      'package.json': '{"name":"a"}',
      'lid.tsx':
        "export function Lid({ heat, onLift }: { heat: 'low' | 'high'; onLift: () => void }) {\n" +
        '  return <p>{heat === "high" && <b role="alert">Hot</b>}<button onClick={() => onLift()}>Lift</button></p>;\n}\n',
    });
    const { code, out } = wexlet(folder, 'outline', 'lid.tsx');
    const lines = out.split('\n').map((line) => line.trim().replace(/ +/g, ' '));
    expect(code).to.equal(0);
    expect(lines).to.include.members([
      'Lid lid.tsx:1 · 2 props · 3 elements · 1 arm',
      "heat 'low' | 'high'",
      'onLift function',
      '2 <b role="alert">Hot</b> alert',
      'when heat === "high"',
      '2 <button>Lift</button> button “Lift” on click',
      "screen.getByRole('button', { name: 'Lift' })",
      '2 right when heat === "high"',
    ]);
  });

  it('names the elements of a kit once, where they are used, in the words of the code', () => {
    const kit = written({
      'package.json':
        '{ "name": "kiln", "scripts": { "test": "jest" }, "jest": {}, "dependencies": { "clay": "1.0.0", "jest": "29.7.0" } }',
      'node_modules/clay/package.json': '{ "name": "clay", "version": "1.0.0", "main": "index.js" }',
      'node_modules/clay/index.js': `import { jsx } from 'react/jsx-runtime';
export const Plate = ({ hot, children }) => hot ? jsx('div', { children: jsx('button', { children }) }) : jsx('button', { children });`,
      'lid.jsx': `import { FormattedMessage } from 'react-intl';
import { Plate } from 'clay';
export const Lid = ({ hot }) => <Plate hot={hot}><FormattedMessage id="lid.lift" defaultMessage="Lift the lid" /></Plate>;`,
    });
    expect(
      wexlet(kit, 'outline', 'lid.jsx')
        .out.match(/.*<button>.*/g)
        ?.map((line) => line.trim()),
    ).to.deep.equal(['3  <button>Lift the lid</button>  button “Lift the lid”']);
  });

  it('says why a file has none', () => {
    const folder = written({ ...files, 'cone.ts': 'export const cone = 6;' });
    expect(wexlet(folder, 'outline', 'cone.ts')).to.include({
      code: 3,
      err: 'wexlet: cone.ts: no spec and no component in it\n',
    });
    const { code, err } = wexlet(folder, 'outline', 'broken.spec.ts');
    expect(code).to.equal(3);
    expect(err).to.match(/^wexlet: broken.spec.ts: .+, line 1\n$/);
  });

  it('knows the project’s own attribute for test ids', () => {
    const folder = written({
      'package.json': '{"name":"a"}',
      'wexlet.json': '{ "testIdAttribute": "data-at" }',
      'card.tsx': 'export const Card = () => <p><button data-at="fire">Fire</button></p>;',
      'card.spec.tsx':
        "import { render, screen } from '@testing-library/react';\nimport { Card } from './card';\nit('a', () => { render(<Card />); expect(screen.getByTestId('fire')).toBeEnabled(); });\n",
    });
    const { out } = wexlet(folder, 'outline', 'card.spec.tsx');
    expect(out).to.include("better  screen.getByRole('button', { name: 'Fire' })");
  });

  it('goes with counts of each rung, for each package', () => {
    const report = JSON.parse(wexlet(written(files), 'audit', '--format', 'json').out) as Report;
    const counts = { role: 0, label: 0, text: 1, alternative: 0, testId: 0, structure: 1, internals: 0 };
    expect(report.reach).to.deep.equal(counts);
    expect(report.environment[0]?.reach).to.deep.equal(counts);
    const { out } = wexlet(written(files), 'audit');
    expect(out)
      .to.match(/reached by/)
      .and.to.match(/structure +▪+ 1/);
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

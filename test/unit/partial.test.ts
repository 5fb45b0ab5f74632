import { expect } from 'chai';
import { realpathSync } from 'node:fs';
import { join } from 'node:path';
import { CHECKS } from '#src/checks/index.js';
import { audit, DiskFiles, outline, settingsFrom, type Report } from '#src/index.js';
import { TEST_FOLDER, written } from '../support/samples.js';

const FILE_CODES = new Set(CHECKS.filter(({ scope }) => scope === 'file').map(({ code }) => code));

const request = (root: string, paths: readonly string[]) => ({
  root,
  paths,
  settings: settingsFrom(),
  version: '0',
});

const findingsIn = ({ findings }: Report, file: string): Report['findings'] =>
  findings.filter((each) => each.file === file && FILE_CODES.has(each.code));

/** Audits a project as a whole, and each of its spec files alone: what a file has must not differ. */
async function comparesParts(root: string, isSpec: RegExp): Promise<number> {
  const files = new DiskFiles();
  const whole = await audit(files, request(root, [root]));
  const specs = files.list(root, ['**/node_modules/**'], () => undefined).filter((path) => isSpec.test(path));
  for (const path of specs) {
    const file = path.slice(root.length + 1);
    const part = await audit(files, request(root, [path]));
    expect(findingsIn(part, file), file).to.deep.equal(findingsIn(whole, file));
  }
  return specs.length;
}

describe('an audit of a part', () => {
  it('says of each spec file of the demo what the whole audit says', async () => {
    const root = realpathSync(join(TEST_FOLDER, '../demo/kilnroom'));
    expect(await comparesParts(root, /\.(?:spec|test)\.[jt]sx?$/)).to.be.greaterThan(10);
  });

  it('knows components by their selectors, wherever they are declared', async () => {
    const root = realpathSync(written(KILN_ROOM));
    expect(await comparesParts(root, /\.spec\.ts$/)).to.equal(2);
    const path = `${root}/src/board/board.component.spec.ts`;
    const whole = await audit(new DiskFiles(), request(root, [root]));
    expect(findingsIn(whole, 'src/board/board.component.spec.ts').map(({ code }) => code)).to.include('Q01');
    const seen = await outline(new DiskFiles(), request(root, [path]), path);
    const reaches =
      'blocks' in seen ? seen.blocks.flatMap(({ steps }) => steps.flatMap(({ reach }) => reach ?? [])) : [];
    expect(reaches.map(({ found, element }) => `${found} ${element?.markup}`)).to.deep.equal([
      'likely one <button>Fire</button>',
    ]);
  });
});

const spec = (name: string, file: string): string => `
import { TestBed } from '@angular/core/testing';
import { ${name} } from './${file}';
describe('${name}', () => {
  it('fires', () => {
    const fixture = TestBed.createComponent(${name});
    fixture.detectChanges();
    fixture.nativeElement.querySelector('.fire').click();
    expect(fixture.componentInstance).toBeTruthy();
  });
});
`;

const KILN_ROOM = {
  'package.json': JSON.stringify({
    name: 'room',
    scripts: { test: 'ng test' },
    dependencies: { '@angular/core': '^19', '@angular/common': '^19' },
    devDependencies: { karma: '^6', 'jasmine-core': '^5', '@testing-library/angular': '^17' },
  }),
  'src/lid/lid.component.ts':
    "import { Component } from '@angular/core';\n@Component({ selector: 'app-lid', template: '<button class=\"fire\">Fire</button>' })\nexport class LidComponent {}\n",
  'src/lid/lid.component.spec.ts': spec('LidComponent', 'lid.component'),
  'src/board/board.component.ts':
    "import { Component } from '@angular/core';\n@Component({ selector: 'app-board', template: '<main><app-lid /></main>' })\nexport class BoardComponent {}\n",
  'src/board/board.component.spec.ts': spec('BoardComponent', 'board.component'),
};

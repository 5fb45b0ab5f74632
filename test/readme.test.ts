import { expect } from 'chai';
import { cpSync, existsSync, readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { CATALOGUE } from '#src/index.js';
import { settingsFromJson } from '#src/config/load.js';
import { started } from './support/cli.js';
import { TEST_FOLDER } from './support/samples.js';
import { newFolder } from './support/folders.js';

const ROOT = join(TEST_FOLDER, '..');
const readme = readFileSync(join(ROOT, 'README.md'), 'utf8');
const blocks = (lang: string): string[] =>
  [...readme.matchAll(new RegExp(`\`\`\`${lang}\\n(.*?)\`\`\``, 'gs'))].map((match) => match[1] ?? '');

describe('the README', () => {
  const commands = blocks('sh').flatMap((block) => block.trim().split('\n'));
  for (const command of commands.filter((line) => line.startsWith('wexlet '))) {
    it(`runs ${command}`, () => {
      const folder = join(newFolder(), 'kilnroom');
      cpSync(join(ROOT, 'demo/kilnroom'), folder, { recursive: true });
      const { code, out, err } = started(folder, ...command.split(' ').slice(1));
      expect(code, err).to.be.oneOf([0, 1]);
      const printed = command.includes('--out') ? readFileSync(join(folder, 'report.json'), 'utf8') : out;
      expect(printed.length).to.be.above(20);
    });
  }

  it('names scripts that exist', () => {
    const { scripts } = JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8')) as {
      scripts: Record<string, string>;
    };
    for (const command of commands.filter((line) => line.startsWith('npm '))) {
      for (const match of command.matchAll(/npm (?:run )?(\w+)/g))
        expect(match[1] === 'ci' || match[1]! in scripts, command).to.equal(true);
    }
  });

  it('shows settings that hold', () => {
    const [json = ''] = blocks('json');
    const codes = CATALOGUE.map(({ code }) => code);
    expect(settingsFromJson('wexlet.json', Buffer.from(json), codes).holdAt).to.equal('risk');
    const { properties } = JSON.parse(readFileSync(join(ROOT, 'schema/wexlet.schema.json'), 'utf8')) as {
      properties: Record<string, unknown>;
    };
    expect(Object.keys(JSON.parse(json) as object).sort()).to.deep.equal(Object.keys(properties).sort());
  });

  it('names every code, and pictures that are there', () => {
    for (const { code, family } of CATALOGUE) if (family !== 'allowances') expect(readme).to.include(code);
    for (const match of readme.matchAll(/\]\((docs\/[^)]+)\)/g))
      expect(existsSync(join(ROOT, match[1] ?? '')), match[1]).to.equal(true);
    expect(readdirSync(join(ROOT, 'docs/screenshots')).length).to.be.within(1, 19);
  });

  it('has a catalogue beside it that is up to date', () => {
    const page = readFileSync(join(ROOT, 'docs/checks.md'), 'utf8');
    for (const { code, title, why } of CATALOGUE)
      expect(page).to.include(`### ${code} · ${title}`).and.to.include(why);
  });
});

// usage: npm run verify:cannot-fail
// Runs small specs under Mocha against a whole component, and against copies of it that are broken in three ways. Those that
// Wexlet says cannot fail must stay green in all of them; near misses, of which it says nothing above a hint, must be green
// with the whole component and red with at least one of the broken ones. Needs the registry.
import { execFile, execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { readSamples } from '../build/test/support/samples.js';

const here = (path) => fileURLToPath(new URL(path, import.meta.url));
const MAIN = here('../dist/cli/main.js');
const RUNNER = here('run-in-order.js');
const MANIFEST = {
  name: 'suite',
  private: true,
  type: 'module',
  scripts: { test: 'mocha' },
  devDependencies: { mocha: '^12', '@vue/test-utils': '^2', vue: '^3' },
};
const PACKAGES = [
  '@vue/test-utils@2',
  'vue@3',
  '@vue/server-renderer@3',
  '@vue/compiler-dom@3',
  'expect@30',
  'chai@4',
  'sinon@21',
];

const samples = (name) => readSamples(readFileSync(here(`../test/cannot-fail-suites/${name}.txt`), 'utf8'));
const start = promisify(execFile);

// A command that says by its exit code that there are findings has not failed.
const node = (args, cwd) => start(process.execPath, args, { cwd }).catch((error) => error);

const root = mkdtempSync(join(tmpdir(), 'wexlet-cannot-fail-'));
writeFileSync(join(root, 'package.json'), JSON.stringify({ ...MANIFEST, devDependencies: {} }));
execFileSync('npm', ['install', '--no-audit', '--no-fund', '--silent', ...PACKAGES], {
  cwd: root,
  stdio: 'inherit',
});
const [whole, ...broken] = samples('component');

/** Whether the spec passes with a component. */
async function passes(name, spec, component) {
  const folder = join(root, name);
  mkdirSync(folder);
  const files = new Map([...component.files, ...spec.files])
    .set('package.json', JSON.stringify(MANIFEST))
    .set('.mocharc.json', JSON.stringify({ spec: ['*.spec.js'] }));
  for (const [path, text] of files) writeFileSync(join(folder, path), text);
  const { stdout, stderr } = await node([RUNNER, join(folder, 'suite.spec.js'), 'written'], folder);
  const line = stdout.split('\n').find((each) => each.startsWith('{'));
  if (!line) throw new Error(`no results for ${spec.title}: ${stderr}`);
  const results = Object.values(JSON.parse(line));
  return { folder, green: results.length > 0 && results.every((each) => each === 'passed') };
}

async function calledSo(folder) {
  const { stdout } = await node([MAIN, 'audit', '--only', 'O04', '--format', 'json'], folder);
  return JSON.parse(stdout).findings.some(({ level }) => level !== 'hint');
}

const wrong = [];
const tell = (title, fact, holds) => {
  if (!holds) wrong.push(`${title}: ${fact}`);
  return holds ? 1 : 0;
};

async function prove(kind) {
  const count = { specs: 0, called: 0, green: 0, holds: 0 };
  for (const [i, spec] of samples(kind).entries()) {
    const runs = await Promise.all(
      [whole, ...broken].map((component, at) => passes(`${kind}-${i}-${at}`, spec, component)),
    );
    const [first, ...others] = runs;
    const red = others.filter(({ green }) => !green).length;
    const called = await calledSo(first.folder);
    count.specs++;
    count.green += tell(spec.title, 'red with the whole component', first.green);
    count.called += tell(spec.title, called ? 'called so' : 'not called so', called === (kind === 'hollow'));
    count.holds += tell(
      spec.title,
      `red ${red} times of ${broken.length}`,
      kind === 'hollow' ? red === 0 : red > 0,
    );
    console.log(`${kind.padEnd(7)} red ${red} of ${broken.length}  ${spec.title}`);
  }
  return count;
}

const hollow = await prove('hollow');
const sound = await prove('sound');
console.log(`
${hollow.specs} specs that can't fail: Wexlet says so of ${hollow.called}; ${hollow.holds} stay green with the component broken in ${broken.length} ways.
${sound.specs} near misses: Wexlet is quiet on ${sound.called}; ${sound.green} are green with the whole component, ${sound.holds} go red with a broken one.`);
for (const each of wrong) console.log(`wrong: ${each}`);
process.exitCode = wrong.length > 0 ? 1 : 0;

// usage: npm run verify:state
// Runs small suites under Mocha in the written order, in reverse, and each spec alone. Those with a leak must have other
// results in at least one of them, Wexlet must report each, and once its mends are written the results must not differ.
// Those without one must have the same results everywhere, and Wexlet must be quiet. Needs the registry.
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

function install(root) {
  writeFileSync(join(root, 'package.json'), JSON.stringify({ ...MANIFEST, devDependencies: {} }));
  const packages = ['@vue/test-utils@2', 'vue@3', '@vue/server-renderer@3', '@vue/compiler-dom@3'];
  execFileSync('npm', ['install', '--no-audit', '--no-fund', '--silent', ...packages], {
    cwd: root,
    stdio: 'inherit',
  });
}

function write(root, name, files) {
  const folder = join(root, name);
  mkdirSync(folder);
  const all = new Map(files)
    .set('package.json', JSON.stringify(MANIFEST))
    .set('.mocharc.json', JSON.stringify({ spec: ['*.spec.js'] }));
  for (const [path, text] of all) writeFileSync(join(folder, path), text);
  return folder;
}

const start = promisify(execFile);

// A command that says by its exit code that there are findings has not failed.
const node = (args, cwd) => start(process.execPath, args, { cwd }).catch((error) => error);

/** The results of the specs, by title: in the written order, in reverse, and alone. */
async function results(folder) {
  const run = async (...args) => {
    const { stdout, stderr } = await node([RUNNER, join(folder, 'suite.spec.js'), ...args], folder);
    const line = stdout.split('\n').find((each) => each.startsWith('{'));
    if (!line) throw new Error(`no results for ${folder}: ${stderr}`);
    return JSON.parse(line);
  };
  const [written, reverse] = await Promise.all([run('written'), run('reverse')]);
  const alone = await Promise.all(Object.keys(written).map((title) => run('alone', title)));
  return { written, reverse, alone: Object.assign({}, ...alone) };
}

const differ = ({ written, reverse, alone }) =>
  Object.keys(written).some((title) => written[title] !== reverse[title] || written[title] !== alone[title]);

const wexlet = async (folder, ...args) => (await node([MAIN, ...args], folder)).stdout;

const findingsOf = async (folder) =>
  JSON.parse(await wexlet(folder, 'audit', '--only', 'state,cleanup', '--format', 'json')).findings;

const suites = (name) => readSamples(readFileSync(here(`../test/state-suites/${name}.txt`), 'utf8'));
const root = mkdtempSync(join(tmpdir(), 'wexlet-state-'));
install(root);
const wrong = [];
const count = { leaks: 0, differ: 0, reported: 0, mendable: 0, mended: 0, innocent: 0, same: 0, quiet: 0 };
const tell = (title, fact, holds) => {
  if (!holds) wrong.push(`${title}: ${fact}`);
  return holds ? 1 : 0;
};

for (const [i, { title, files }] of suites('leaks').entries()) {
  const folder = write(root, `leak-${i}`, files);
  const before = await results(folder);
  const found = await findingsOf(folder);
  count.leaks++;
  count.differ += tell(title, 'the results do not differ', differ(before));
  count.reported += tell(title, 'not reported', found.length > 0);
  if (!found.every(({ mend }) => mend)) {
    console.log(`leak      ${title} (${found.map(({ code }) => code).join()}): no mend`);
    continue;
  }
  await wexlet(folder, 'mend', '--write', '--only', 'state,cleanup');
  const after = await results(folder);
  count.mendable++;
  count.mended += tell(title, `the results differ after the mend: ${JSON.stringify(after)}`, !differ(after));
  console.log(`leak      ${title} (${found.map(({ code }) => code).join()})`);
}

for (const [i, { title, files }] of suites('innocent').entries()) {
  const folder = write(root, `innocent-${i}`, files);
  count.innocent++;
  const outcome = await results(folder);
  const passes = Object.values(outcome.written).every((each) => each === 'passed');
  count.same += tell(
    title,
    `the results differ or fail: ${JSON.stringify(outcome)}`,
    !differ(outcome) && passes,
  );
  count.quiet += tell(title, 'reported', (await findingsOf(folder)).length === 0);
  console.log(`innocent  ${title}`);
}

console.log(`
${count.leaks} suites with a leak: the results of ${count.differ} depend on the order, ${count.reported} are reported;
${count.mendable} can be mended, and the results of ${count.mended} are the same in any order after mend --write.
${count.innocent} suites without one: the results of ${count.same} are the same in any order, Wexlet is quiet on ${count.quiet}.`);
for (const each of wrong) console.log(`wrong: ${each}`);
process.exitCode = wrong.length > 0 ? 1 : 0;

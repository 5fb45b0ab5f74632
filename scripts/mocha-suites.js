// What the proofs that run small suites under Mocha share: a folder with the packages, a suite in it, its results.
import { execFile, execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { readSamples } from '../build/test/support/samples.js';

const here = (path) => fileURLToPath(new URL(path, import.meta.url));
const RUNNER = here('run-in-order.js');
const MAIN = here('../dist/cli/main.js');
const MANIFEST = {
  name: 'suite',
  private: true,
  type: 'module',
  scripts: { test: 'mocha' },
  devDependencies: { mocha: '^12', '@vue/test-utils': '^2', vue: '^3' },
};
const VUE = ['@vue/test-utils@2', 'vue@3', '@vue/server-renderer@3', '@vue/compiler-dom@3'];

/** The samples of a file in `test/`. */
export const samples = (file) => readSamples(readFileSync(here(`../test/${file}`), 'utf8'));

/** A new folder with Vue, its wrapper library and other packages installed. */
export function install(name, packages = []) {
  const root = mkdtempSync(join(tmpdir(), `wexlet-${name}-`));
  writeFileSync(join(root, 'package.json'), JSON.stringify({ ...MANIFEST, devDependencies: {} }));
  const args = ['install', '--no-audit', '--no-fund', '--silent', ...VUE, ...packages];
  execFileSync('npm', args, { cwd: root, stdio: 'inherit' });
  return root;
}

/** Writes a suite into a folder of its own below `root`, and gives that folder. */
export function write(root, name, files) {
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

/** Runs `suite.spec.js` of a folder in an order; gives the results of its specs, by title. */
export async function results(folder, ...order) {
  const { stdout, stderr } = await node([RUNNER, join(folder, 'suite.spec.js'), ...order], folder);
  const line = stdout.split('\n').find((each) => each.startsWith('{'));
  if (!line) throw new Error(`no results for ${folder}: ${stderr}`);
  return JSON.parse(line);
}

/** What a command of Wexlet prints in a folder. */
export const wexlet = async (folder, ...args) => (await node([MAIN, ...args], folder)).stdout;

/** What Wexlet finds in a folder, of some families or codes. */
export const findingsOf = async (folder, only) =>
  JSON.parse(await wexlet(folder, 'audit', '--only', only, '--format', 'json')).findings;

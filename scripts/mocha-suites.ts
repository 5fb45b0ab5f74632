// What the proofs that run small suites under Mocha share: a folder with the packages, a suite in it, its results.
import { execFile, execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import type { ReportedFinding } from '#src/index.js';
import { readSamples, type Sample } from '../test/support/samples.js';

/** A path of the source tree; compiled scripts stand in `build/scripts/`. */
export const inProject = (path: string): string => fileURLToPath(new URL(`../../${path}`, import.meta.url));
const RUNNER = inProject('scripts/run-in-order.js');
export const MAIN = inProject('dist/cli/main.js');
const MANIFEST = {
  name: 'suite',
  private: true,
  type: 'module',
  scripts: { test: 'mocha' },
  devDependencies: { mocha: '^12', '@vue/test-utils': '^2', vue: '^3' },
};
const VUE = ['@vue/test-utils@2', 'vue@3', '@vue/server-renderer@3', '@vue/compiler-dom@3'];

/** The samples of a file in `test/`. */
export const samples = (file: string): Sample[] =>
  readSamples(readFileSync(inProject(`test/${file}`), 'utf8'));

/** A new folder with Vue, its wrapper library and other packages installed. */
export function install(name: string, packages: readonly string[] = []): string {
  const root = mkdtempSync(join(tmpdir(), `wexlet-${name}-`));
  writeFileSync(join(root, 'package.json'), JSON.stringify({ ...MANIFEST, devDependencies: {} }));
  const args = ['install', '--no-audit', '--no-fund', '--silent', ...VUE, ...packages];
  execFileSync('npm', args, { cwd: root, stdio: 'inherit' });
  return root;
}

/** Writes a suite into a folder of its own below `root`, and gives that folder. */
export function write(root: string, name: string, files: Iterable<readonly [string, string]>): string {
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
const node = (args: readonly string[], cwd: string): Promise<{ stdout: string; stderr: string }> =>
  start(process.execPath, args, { cwd, maxBuffer: 1 << 28 }).catch(
    (error: { stdout: string; stderr: string }) => error,
  );

/** `passed` or what failed, by the title of the spec. */
export type Results = Record<string, string>;

/** Runs `suite.spec.js` of a folder in an order; gives the results of its specs, by title. */
export async function results(folder: string, ...order: string[]): Promise<Results> {
  const { stdout, stderr } = await node([RUNNER, join(folder, 'suite.spec.js'), ...order], folder);
  const line = stdout.split('\n').find((each) => each.startsWith('{'));
  if (!line) throw new Error(`no results for ${folder}: ${stderr}`);
  return JSON.parse(line) as Results;
}

/** What a command of Wexlet prints in a folder. */
export const wexlet = async (folder: string, ...args: string[]): Promise<string> =>
  (await node([MAIN, ...args], folder)).stdout;

/** What Wexlet finds in a folder, of some families or codes. */
export const findingsOf = async (folder: string, only: string): Promise<ReportedFinding[]> =>
  (
    JSON.parse(await wexlet(folder, 'audit', '--only', only, '--format', 'json')) as {
      findings: ReportedFinding[];
    }
  ).findings;

/** Counts facts that must hold, and keeps those that don't. */
export class Judge {
  readonly wrong: string[] = [];

  /** 1 where a fact holds, 0 where it does not: it is kept then. */
  tell(title: string, fact: string, holds: boolean): number {
    if (!holds) this.wrong.push(`${title}: ${fact}`);
    return holds ? 1 : 0;
  }

  /** Prints what does not hold, and says so by the exit code. */
  close(): void {
    for (const each of this.wrong) console.log(`wrong: ${each}`);
    process.exitCode = this.wrong.length > 0 ? 1 : 0;
  }
}

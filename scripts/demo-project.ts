import { execFileSync } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inProject } from './mocha-suites.js';

// A name that no tool looks for by itself: what Wexlet reads of the demo stays what it is.
const CONFIG = 'both-packages.mjs';

/** The demo's packages that run without a builder of their own, installed in a new folder; and what runs their specs. */
export function demoProject(): [folder: string, command: string] {
  const folder = join(mkdtempSync(join(tmpdir(), 'wexlet-demo-')), 'kilnroom');
  cpSync(inProject('demo/kilnroom'), folder, { recursive: true });
  rmSync(join(folder, 'packages/log'), { recursive: true });
  writeFileSync(join(folder, CONFIG), "export default { test: { projects: ['packages/*'] } };\n");
  const args = ['install', '--no-audit', '--no-fund', '--silent', '--legacy-peer-deps'];
  execFileSync('npm', args, { cwd: folder, stdio: 'inherit' });
  return [folder, `npx --no-install vitest run --config ${CONFIG}`];
}

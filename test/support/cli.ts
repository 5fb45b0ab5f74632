import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const MAIN = fileURLToPath(new URL('../../../dist/cli/main.js', import.meta.url));

/** Runs the built program in a folder. Colours are off, since stdout is no terminal. */
export function wexlet(cwd: string, ...args: string[]): { code: number | null; out: string; err: string } {
  const result = spawnSync(process.execPath, [MAIN, ...args], {
    cwd,
    encoding: 'utf8',
    env: { ...process.env, FORCE_COLOR: '', NO_COLOR: '' },
  });
  return { code: result.status, out: result.stdout, err: result.stderr };
}

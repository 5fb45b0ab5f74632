import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { createSyncFn } from 'synckit';

const MAIN = fileURLToPath(new URL('../../../bundle/main.js', import.meta.url));

export interface Ran {
  code: number | null;
  out: string;
  err: string;
}

/** Runs the built program in a folder, as a process of its own. Colours are off, since stdout is no terminal. */
export function started(cwd: string, ...args: string[]): Ran {
  const result = spawnSync(process.execPath, [MAIN, ...args], {
    cwd,
    encoding: 'utf8',
    env: { ...process.env, FORCE_COLOR: '', NO_COLOR: '' },
  });
  return { code: result.status, out: result.stdout, err: result.stderr };
}

const inWarmThread = createSyncFn<(cwd: string, args: string[]) => Promise<Ran>>(
  fileURLToPath(new URL('./cli-thread.js', import.meta.url)),
);

/** Runs the built program's command line in a folder, in a thread that stays warm: a process start costs ten audits. */
export const wexlet = (cwd: string, ...args: string[]): Ran => inWarmThread(cwd, args);

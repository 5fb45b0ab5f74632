import { runAsWorker } from 'synckit';
import { runCommandLine } from '#src/cli/program.js';
import type { Ran } from './cli.js';

process.env['FORCE_COLOR'] = process.env['NO_COLOR'] = '';

const gathering = (into: string[]) =>
  ((text: string | Uint8Array) => into.push(String(text)) > 0) as typeof process.stdout.write;

runAsWorker(async (cwd: string, args: string[]): Promise<Ran> => {
  const out: string[] = [];
  const err: string[] = [];
  process.cwd = () => cwd;
  process.stdout.write = gathering(out);
  process.stderr.write = gathering(err);
  process.exitCode = undefined;
  await runCommandLine(args);
  const code = Number(process.exitCode ?? 0);
  process.exitCode = undefined;
  return { code, out: out.join(''), err: err.join('') };
});

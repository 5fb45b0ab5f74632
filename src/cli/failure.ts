import { ConfigError } from '../config/load.js';
import { inShort, printable } from '../util/printable.js';
import { EXIT, UsageError } from './exit.js';

/** Says on stderr what went wrong, in a line without a stack trace, and gives the exit code. */
export function reportFailure(error: unknown): number {
  if (error instanceof UsageError || error instanceof ConfigError) {
    process.stderr.write(`wexlet: ${printable(error.message)}\n`);
    return EXIT.usage;
  }
  const message = error instanceof Error ? error.message : String(error);
  process.stderr.write(`wexlet: failed: ${inShort(printable(message), 300)}\n`);
  if (process.env['WEXLET_DEBUG'] && error instanceof Error) process.stderr.write(`${error.stack ?? ''}\n`);
  else process.stderr.write('Set WEXLET_DEBUG=1 to see where.\n');
  return EXIT.failed;
}

import { mkdirSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { sync as writeFileAtomic } from 'write-file-atomic';
import { UsageError } from './exit.js';
import { printable } from '../util/printable.js';

/** Writes a whole file, or nothing of it, into a folder that is made where it is not there; throws UsageError where that is not possible. */
export function writeWhole(path: string, content: string | Uint8Array): void {
  try {
    mkdirSync(dirname(resolve(path)), { recursive: true });
    writeFileAtomic(resolve(path), typeof content === 'string' ? content : Buffer.from(content));
  } catch (error) {
    throw new UsageError(
      `${printable(path)} cannot be written (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'})`,
    );
  }
}

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const parent = mkdtempSync(join(tmpdir(), 'wexlet-tests-'));

process.once('exit', () => {
  try {
    rmSync(parent, { recursive: true, force: true });
  } catch {
    // A folder that a test has made unreadable stays.
  }
});

/** A new temporary folder; all of them are gone when the tests have ended. */
export const newFolder = (): string => mkdtempSync(join(parent, 't-'));

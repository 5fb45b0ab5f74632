import envPaths from 'env-paths';
import { mkdirSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { sync as writeFileAtomic } from 'write-file-atomic';
import { DiskFiles } from '../host/disk-files.js';
import type { Files } from '../host/files.js';
import { answersAlike, hashOf, RecordedFiles, type Asked } from '../host/recorded-files.js';
import { ownFolder, ownVersion } from '../util/own-package.js';

/** Where answers are kept: a folder, nowhere, or where the caches of a project are kept. */
export type CacheFlag = string | false | undefined;

interface Kept {
  asked: Asked;
  answer: unknown;
}

// What is worked out sooner than this is not worth a file.
const WORTH = 1000;
const MOST_FILES = 12;
const MOST_BYTES = 256 * 1024 * 1024;

/**
 * An answer that depends on nothing but a key and the files it asks for: the kept one, where the disk would still answer
 * as it did, or else a new one, which is kept. `T` is plain data. A cache that can't be read or written is none.
 * `root`: the absolute folder of the project.
 */
export async function remembered<T>(
  root: string,
  flag: CacheFlag,
  key: readonly unknown[],
  ask: (files: Files) => Promise<T>,
): Promise<T> {
  const build = flag === false ? undefined : ownBuild();
  if (flag === false || build === undefined) return ask(new DiskFiles());
  const folder = flag || usualFolder(root);
  const name = hashOf(JSON.stringify([build, process.version, root, ...key]));
  const file = join(folder, `${name}.json`);
  const kept = readKept(file);
  if (kept && answersAlike(kept.asked, new DiskFiles())) return kept.answer as T;
  const start = performance.now();
  const files = new RecordedFiles(new DiskFiles(), Date.now());
  const answer = await ask(files);
  if (flag !== undefined || performance.now() - start > WORTH)
    keep(folder, file, { asked: files.asked, answer });
  return answer;
}

// What differs from build to build of the program: its version, and the size and time of each of its scripts.
function ownBuild(): string | undefined {
  try {
    const folder = join(ownFolder(), 'bundle');
    const scripts = readdirSync(folder).filter((name) => name.endsWith('.js'));
    const stamps = scripts.map((name) => Object.values(sizeAndTime(join(folder, name))).join(' '));
    return [ownVersion(), ...scripts, ...stamps].join('\n');
  } catch {
    return undefined;
  }
}

// As other tools do: beside the installed packages, where there are any.
function usualFolder(root: string): string {
  const installed = join(root, 'node_modules');
  return isFolder(installed) ? join(installed, '.cache/wexlet') : envPaths('wexlet', { suffix: '' }).cache;
}

const isFolder = (path: string): boolean => statSync(path, { throwIfNoEntry: false })?.isDirectory() ?? false;

// The first line is the hash of the second: what is damaged, or written by another hand, is none.
function readKept(file: string): Kept | undefined {
  try {
    const [hash, text = ''] = readFileSync(file, 'utf8').split('\n');
    return hash === hashOf(text) ? (JSON.parse(text) as Kept) : undefined;
  } catch {
    return undefined;
  }
}

// Whole or not at all, and for this user alone: two runs at once do not disturb each other.
function keep(folder: string, file: string, kept: Kept): void {
  try {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    const text = JSON.stringify(kept);
    writeFileAtomic(file, `${hashOf(text)}\n${text}\n`, { mode: 0o600, fsync: false });
    leaveOut(folder);
  } catch {
    // A full or locked disk costs the next run its time, and this one nothing.
  }
}

// The oldest answers go first.
function leaveOut(folder: string): void {
  const files = readdirSync(folder)
    .filter((name) => /^[\w-]{43}\.json$/.test(name))
    .map((name) => ({ path: join(folder, name), ...sizeAndTime(join(folder, name)) }))
    .sort((a, b) => b.time - a.time);
  let bytes = 0;
  for (const [i, { path, size }] of files.entries()) {
    bytes += size;
    if (i >= MOST_FILES || bytes > MOST_BYTES) rmSync(path, { force: true });
  }
}

function sizeAndTime(path: string): { size: number; time: number } {
  const found = statSync(path, { throwIfNoEntry: false });
  return { size: found?.size ?? 0, time: found?.mtimeMs ?? 0 };
}

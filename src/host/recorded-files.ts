import { createHash } from 'node:crypto';
import type { Files, PathKind, Resolve, ResolverOptions } from './files.js';

/** All that was asked of a disk, and what it answered. Plain data: it goes to a file and back. */
export interface Asked {
  /** Files that were read: the hash of what was in them, none where they could not be; how they stood there then. */
  reads: [path: string, hash: string | null, stamp: Stamp][];
  kinds: [path: string, kind: PathKind | null][];
  /** Listings: the hash of the paths, and of the folders that could not be read. */
  lists: [folder: string, ignore: readonly string[], hash: string][];
  /** Resolvers by their options, and what each name led to from a folder. */
  resolved: [options: ResolverOptions, found: [folder: string, specifier: string, path: string | null][]][];
}

/** What tells of a changed file without reading it: size, time of change in milliseconds, number; none where that is no proof. */
export type Stamp = readonly [size: number, changed: number, number: number] | null;

/** A disk whose files have stamps. */
interface StampedFiles extends Files {
  stamp(path: string): Stamp;
}

// A file that was changed just now may be changed again within the clock's step.
const TOO_NEW = 2000;

/** Files that remember what they were asked. */
export class RecordedFiles implements Files {
  readonly #files: StampedFiles;
  readonly #since: number;
  readonly #reads = new Map<string, Asked['reads'][number]>();
  readonly #kinds = new Map<string, PathKind | undefined>();
  readonly #lists = new Map<string, Asked['lists'][number]>();
  readonly #resolved = new Map<
    string,
    { options: ResolverOptions; found: Map<string, Asked['resolved'][number][1][number]> }
  >();

  /** `since`: now, in milliseconds of the epoch. */
  constructor(files: StampedFiles, since: number) {
    this.#files = files;
    this.#since = since;
  }

  /** All that was asked so far. */
  get asked(): Asked {
    return {
      reads: [...this.#reads.values()],
      kinds: [...this.#kinds].map(([path, kind]) => [path, kind ?? null]),
      lists: [...this.#lists.values()],
      resolved: [...this.#resolved.values()].map(({ options, found }) => [options, [...found.values()]]),
    };
  }

  read(path: string): Uint8Array | undefined {
    const known = this.#reads.has(path);
    // Before it is read: what changes in between is seen as changed.
    const stamp = known ? null : this.#files.stamp(path);
    const bytes = this.#files.read(path);
    if (known) return bytes;
    const isOld = stamp !== null && stamp[1] < this.#since - TOO_NEW;
    this.#reads.set(path, [path, bytes ? hashOf(bytes) : null, isOld ? stamp : null]);
    return bytes;
  }

  kind(path: string): PathKind | undefined {
    const kind = this.#files.kind(path);
    this.#kinds.set(path, kind);
    return kind;
  }

  list(
    folder: string,
    ignore: readonly string[],
    onUnreadable: (folder: string, reason: string) => void,
  ): string[] {
    const { paths, unreadable, hash } = listing(this.#files, folder, ignore);
    this.#lists.set(JSON.stringify([folder, ignore]), [folder, ignore, hash]);
    for (const [at, reason] of unreadable) onUnreadable(at, reason);
    return paths;
  }

  resolver(options: ResolverOptions): Resolve {
    const resolve = this.#files.resolver(options);
    const key = JSON.stringify(options);
    const { found } = this.#resolved.get(key) ?? { found: new Map() };
    this.#resolved.set(key, { options, found });
    return (folder, specifier) => {
      const path = resolve(folder, specifier);
      found.set(`${folder}\0${specifier}`, [folder, specifier, path ?? null]);
      return path;
    };
  }
}

/** Whether a disk would answer today as it did: what is cheap to ask is asked first. */
export function answersAlike({ reads, kinds, lists, resolved }: Asked, files: StampedFiles): boolean {
  return (
    kinds.every(([path, kind]) => (files.kind(path) ?? null) === kind) &&
    reads.every(([path, hash, stamp]) => isSame(path, hash, stamp, files)) &&
    lists.every(([folder, ignore, hash]) => listing(files, folder, ignore).hash === hash) &&
    resolved.every(([options, found]) => {
      const resolve = files.resolver(options);
      return found.every(([folder, specifier, path]) => (resolve(folder, specifier) ?? null) === path);
    })
  );
}

function isSame(path: string, hash: string | null, stamp: Stamp, files: StampedFiles): boolean {
  if (stamp && files.stamp(path)?.join() === stamp.join()) return true;
  const bytes = files.read(path);
  return (bytes ? hashOf(bytes) : null) === hash;
}

function listing(
  files: Files,
  folder: string,
  ignore: readonly string[],
): { paths: string[]; unreadable: [string, string][]; hash: string } {
  const unreadable: [string, string][] = [];
  const paths = files.list(folder, ignore, (at, reason) => unreadable.push([at, reason]));
  return { paths, unreadable, hash: hashOf(JSON.stringify([paths, unreadable])) };
}

/** The SHA-256 of some content, in letters that go into the name of a file. */
export const hashOf = (content: Uint8Array | string): string =>
  createHash('sha256').update(content).digest('base64url');

/** What a path is. Links are followed. */
export type PathKind = 'file' | 'folder';

/** Options of the module resolver; paths absolute. */
export interface ResolverOptions {
  /** What a package's exports are chosen by, where a `require` asks; `none`: they do not count. Else as bundlers choose. */
  conditions?: readonly string[] | 'none';
  /** Whether it is code that is looked for, and never the declarations of its types. */
  code?: boolean;
}

/** Finds the file that an import in a file of `folder` names; undefined where there is none. */
export type Resolve = (folder: string, specifier: string) => string | undefined;

/**
 * All that the core asks of a disk. Paths are absolute, with `/`.
 * No method throws: what can't be read is undefined, and listing reports it.
 */
export interface Files {
  read(path: string): Uint8Array | undefined;
  kind(path: string): PathKind | undefined;
  /** Every file below a folder that no `ignore` glob takes, sorted by path. Links are not followed. */
  list(
    folder: string,
    ignore: readonly string[],
    onUnreadable: (folder: string, reason: string) => void,
  ): string[];
  resolver(options: ResolverOptions): Resolve;
}

/** Files with some contents replaced, as if they were written. */
export function overlaid(files: Files, contents: ReadonlyMap<string, Uint8Array>): Files {
  return {
    read: (path) => contents.get(path) ?? files.read(path),
    kind: (path) => (contents.has(path) ? 'file' : files.kind(path)),
    list: (folder, ignore, onUnreadable) => files.list(folder, ignore, onUnreadable),
    resolver: (options) => files.resolver(options),
  };
}

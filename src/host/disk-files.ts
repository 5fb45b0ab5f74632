import * as fs from 'node:fs';
import { ResolverFactory } from 'oxc-resolver';
import { globSync } from 'tinyglobby';
import type { Stamp } from './recorded-files.js';
import type { Files, Resolve, ResolverOptions } from './files.js';
import { slashed } from '../util/paths.js';

/** The Files of the machine's disk. */
export class DiskFiles implements Files {
  read(path: string): Uint8Array | undefined {
    try {
      return fs.readFileSync(path);
    } catch {
      return undefined;
    }
  }

  kind(path: string): 'file' | 'folder' | undefined {
    const found = stat(path);
    if (found?.isFile()) return 'file';
    return found?.isDirectory() ? 'folder' : undefined;
  }

  /** The size of a file, when it was changed, and its number; null where there is none. */
  stamp(path: string): Stamp {
    const found = stat(path);
    return found ? [found.size, found.mtimeMs, found.ino] : null;
  }

  list(
    folder: string,
    ignore: readonly string[],
    onUnreadable: (folder: string, reason: string) => void,
  ): string[] {
    const found = globSync('**/*', {
      cwd: folder,
      ignore: [...ignore],
      absolute: true,
      dot: true,
      followSymbolicLinks: false,
      expandDirectories: false,
      fs: { readdirSync: reporting(onUnreadable) },
    });
    return found.map(slashed).sort();
  }

  resolver({ conditions, code }: ResolverOptions): Resolve {
    const factory = new ResolverFactory({
      extensions: ['.ts', '.tsx', '.mts', '.js', '.jsx', '.mjs', '.cjs', '.vue', '.json'],
      extensionAlias: {
        '.js': ['.ts', '.tsx', '.js', '.jsx'],
        '.mjs': ['.mts', '.mjs'],
        '.jsx': ['.tsx', '.jsx'],
      },
      ...(conditions === 'none' ? { exportsFields: [] } : {}),
      conditionNames: Array.isArray(conditions)
        ? [...conditions]
        : ['import', 'module', 'browser', 'default', ...(code ? [] : ['types'])],
      mainFields: conditions ? ['main'] : ['module', 'main'],
    });
    return (from, specifier) => {
      try {
        const path = factory.sync(from, specifier).path;
        return path && slashed(path);
      } catch {
        return undefined;
      }
    };
  }
}

function stat(path: string): fs.Stats | undefined {
  try {
    return fs.statSync(path, { throwIfNoEntry: false });
  } catch {
    return undefined;
  }
}

// tinyglobby passes over what it can't read in silence; a reader must learn of it.
function reporting(onUnreadable: (folder: string, reason: string) => void): typeof fs.readdirSync {
  const read = (path: string, options: { withFileTypes: true }): fs.Dirent[] => {
    try {
      return fs.readdirSync(path, options);
    } catch (error) {
      onUnreadable(slashed(path), (error as NodeJS.ErrnoException).code ?? 'unreadable');
      return [];
    }
  };
  return read as typeof fs.readdirSync;
}

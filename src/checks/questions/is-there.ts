import type { Files } from '../../host/files.js';

// Files that some runs choose by platform, and declarations, stand behind a name that leaves that out.
const ENDINGS = ['', '.d.ts', '.native', '.web', '.ios', '.android', '.node'].flatMap((kind) => [
  kind,
  ...(kind === '.d.ts'
    ? []
    : ['.ts', '.tsx', '.js', '.jsx', '.mjs', '.cjs', '.mts', '.cts', '.json', '.vue'].map(
        (each) => kind + each,
      )),
]);

/** Whether a path, written with or without its ending, is one of a file or folder. */
export const isThere = (wanted: string, files: Files): boolean =>
  [wanted, wanted.replace(/\.[cm]?jsx?$/, '')].some((path) =>
    ENDINGS.some((ending) => files.kind(path + ending) !== undefined),
  );

import { posix } from 'node:path';

/** A path with forward slashes. */
export const slashed = (path: string): string => path.replaceAll('\\', '/');

/** `path` relative to `root`, with `/`; `.` for the root itself. Both absolute. */
export const relativeTo = (root: string, path: string): string => posix.relative(root, path) || '.';

/** A path from a folder, as imports write it: `./kiln`, `../lids/lid`. */
export function relativePath(from: string, to: string): string {
  const path = relativeTo(from, to);
  return path.startsWith('.') ? path : `./${path}`;
}

/** Whether `path` is `folder` or lies below it. Both absolute. */
export const isWithin = (folder: string, path: string): boolean =>
  path === folder || path.startsWith(folder.endsWith('/') ? folder : folder + '/');

export const { basename, dirname, extname, join, resolve, isAbsolute } = posix;

/** The package that an import names: `@kiln/glaze/lib` is of `@kiln/glaze`. */
export function packageOf(specifier: string): string {
  const [first = '', second = ''] = specifier.split('/');
  return first.startsWith('@') ? `${first}/${second}` : first;
}

/** Whether a path is that of an installed package's file. */
export const isInstalled = (path: string): boolean => path.includes('/node_modules/');

/** The scope of the package that an installed file is of, or its name where it has none: `@kiln`, `glaze`. */
export const scopeIn = (path: string): string =>
  path.slice(path.lastIndexOf('/node_modules/') + '/node_modules/'.length).split('/')[0] ?? '';

/** Whether a path is that of a TypeScript file, declarations included. */
export const isTypeScript = (path: string): boolean => /\.[cm]?tsx?$/.test(path);

/** A folder and all that hold it, the nearest first. Absolute. */
export function foldersUp(folder: string): string[] {
  const above = dirname(folder);
  return above === folder ? [folder] : [folder, ...foldersUp(above)];
}

import { dirname, foldersUp, join } from '../util/paths.js';
import { counted } from '../util/counted.js';
import type { Files } from './files.js';

const SOURCES = 'src';
// Of ten files of a compiled copy, so many stand in the sources by the same path.
const MOST = 0.8;
const ENTRIES: readonly string[] = ['main', 'module', 'browser', 'types', 'exports', 'files', 'bin', 'unpkg'];

/**
 * Leaves out of some scripts, by their absolute paths, those of folders that a package ships beside `src` and that hold
 * the same files compiled: `lib/kiln/lid.js` of `src/kiln/lid.ts`. Where git leaves them out, nobody sees them.
 */
export function withoutCompiledCopies(files: Files, paths: readonly string[]): string[] {
  const sources = new Set(paths.flatMap((path) => sourceOf(path) ?? []));
  const bases = new Set([...sources].map((each) => each.slice(0, each.indexOf('\0'))));
  if (bases.size === 0) return [...paths];
  const beside = paths.flatMap((path) => {
    const base = foldersUp(dirname(path)).findLast((each) => bases.has(each));
    const [folder, ...rest] = base === undefined ? [] : path.slice(base.length + 1).split('/');
    if (base === undefined || folder === undefined || folder === SOURCES || rest.length === 0) return [];
    // Some compilers keep the folder: `es/src/kiln/lid.js`.
    const below = rest[0] === SOURCES ? rest.slice(1) : rest;
    return [
      { folder: join(base, folder), base, name: folder, isTwin: sources.has(keyOf(base, below.join('/'))) },
    ];
  });
  const all = counted(beside.map(({ folder }) => folder));
  const twins = counted(beside.flatMap(({ folder, isTwin }) => (isTwin ? folder : [])));
  const copies = new Map(
    beside.flatMap(({ folder, base, name }) =>
      (twins.get(folder) ?? 0) >= (all.get(folder) ?? 0) * MOST ? [[folder, { base, name }] as const] : [],
    ),
  );
  const shipped = [...copies].flatMap(([folder, { base, name }]) => (ships(files, base, name) ? folder : []));
  return shipped.length === 0
    ? [...paths]
    : paths.filter((path) => !shipped.some((folder) => path.startsWith(`${folder}/`)));
}

const keyOf = (base: string, path: string): string => `${base}\0${path.replace(/\.\w+$/, '')}`;

// The package's folder, and the path below `src` without its extension.
function sourceOf(path: string): string | undefined {
  const at = path.indexOf(`/${SOURCES}/`);
  return at < 0 ? undefined : keyOf(path.slice(0, at), path.slice(at + SOURCES.length + 2));
}

function ships(files: Files, base: string, folder: string): boolean {
  const bytes = files.read(join(base, 'package.json'));
  if (!bytes) return false;
  try {
    const manifest: unknown = JSON.parse(new TextDecoder().decode(bytes));
    return ENTRIES.some((key) => names(memberOf(manifest, key), folder));
  } catch {
    // What can't be read is said where the settings are.
    return false;
  }
}

const memberOf = (value: unknown, key: string): unknown =>
  typeof value === 'object' && value !== null ? Reflect.get(value, key) : undefined;

function names(entry: unknown, folder: string): boolean {
  if (typeof entry === 'string') return entry.replace(/^\.\//, '').split('/')[0] === folder;
  return (
    typeof entry === 'object' && entry !== null && Object.values(entry).some((each) => names(each, folder))
  );
}

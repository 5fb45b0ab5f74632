import type { Files } from '../host/files.js';
import { dirname, isWithin, join } from '../util/paths.js';

const ENDINGS = ['.ts', '.tsx', '.mts', '.js', '.jsx', '.mjs', '.vue'];
const ENTRIES = [
  'src/index',
  'src/main',
  'src/public-api',
  'src/public_api',
  'src/lib/index',
  'index',
  'lib/index',
];

/** The packages of a workspace, by name, each with its folder: of the root and of the folders that hold sources. */
export function workspacePackages(
  files: Files,
  root: string,
  sources: readonly string[],
  nameOf: (manifest: string) => string | undefined,
): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  const seen = new Set<string>();
  for (const source of sources)
    for (let at = dirname(source); isWithin(root, at) && !seen.has(at); at = dirname(at)) {
      seen.add(at);
      const manifest = join(at, 'package.json');
      const name = files.kind(manifest) === 'file' ? nameOf(manifest) : undefined;
      if (name !== undefined && !found.has(name)) found.set(name, at);
    }
  return found;
}

/**
 * The source that a name of a workspace package stands for, as its own specs and its siblings import it: what is built of it
 * need not be there. `inside`: the path behind the package's name; empty for the package itself.
 */
export function sourceOfPackage(files: Files, folder: string, inside: string): string | undefined {
  const tried =
    inside === '' ? ENTRIES : [inside, `src/${inside}`].flatMap((path) => [path, `${path}/index`]);
  for (const path of tried)
    for (const ending of ['', ...ENDINGS])
      if (files.kind(join(folder, path + ending)) === 'file') return join(folder, path + ending);
  return undefined;
}

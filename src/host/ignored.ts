import ignore, { type Ignore } from 'ignore';
import { dirname, foldersUp, isWithin, join, relativeTo } from '../util/paths.js';
import type { Files } from './files.js';

const NAME = '.gitignore';

/**
 * Keeps the paths below a folder that git would keep: built files that nobody commits are not audited.
 * Reads the ignore files in the folder, below it and above it up to the repository's top. A folder that is
 * itself ignored, and asked for all the same, is audited.
 */
export function notIgnored(files: Files, folder: string, paths: readonly string[]): string[] {
  const below = paths.filter((path) => path.endsWith(`/${NAME}`)).map((path) => dirname(path));
  const rules = [...new Set([...below, ...toTop(files, folder)])].flatMap((at) => rulesAt(files, at));
  const counting = rules.filter(
    ({ at, rule }) => at === folder || !isWithin(at, folder) || !rule.ignores(`${relativeTo(at, folder)}/`),
  );
  if (counting.length === 0) return [...paths];
  return paths.filter(
    (path) => !counting.some(({ at, rule }) => isWithin(at, path) && rule.ignores(relativeTo(at, path))),
  );
}

interface Rules {
  at: string;
  rule: Ignore;
}

// The folders from one up to the top of its repository; just the folder itself where there is none.
function toTop(files: Files, folder: string): string[] {
  const up = foldersUp(folder);
  const top = up.findIndex((at) => files.kind(join(at, '.git')));
  return top < 0 ? [folder] : up.slice(0, top + 1);
}

function rulesAt(files: Files, at: string): Rules[] {
  const bytes = files.read(join(at, NAME));
  return bytes ? [{ at, rule: ignore().add(new TextDecoder().decode(bytes)) }] : [];
}

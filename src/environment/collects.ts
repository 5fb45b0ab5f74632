import picomatch from 'picomatch';
import { isWithin, relativeTo } from '../util/paths.js';
import type { Collection } from './environment.js';

/** Whether a runner's patterns take a file, given by its absolute path. */
export function collects(collection: Collection, file: string): boolean {
  if (!collection.roots.some((root) => isWithin(root, file))) return false;
  const path = relativeTo(collection.folder, file);
  const glob = (patterns: readonly string[]): boolean =>
    patterns.length > 0 &&
    picomatch(
      patterns.map((each) => each.replace(/^\.\//, '')),
      { dot: true },
    )(path);
  if (glob(collection.exclude) || collection.leftOut.some((pattern) => tests(pattern, file))) return false;
  const absolute = collection.include.filter((each) => each.startsWith('/'));
  return (
    glob(collection.include) ||
    (absolute.length > 0 && picomatch(absolute, { dot: true })(file)) ||
    collection.patterns.some((pattern) => tests(pattern, file))
  );
}

// A pattern that is not valid takes everything: on doubt, a file counts as collected.
function tests(pattern: string, file: string): boolean {
  try {
    return new RegExp(pattern).test(file);
  } catch {
    return true;
  }
}

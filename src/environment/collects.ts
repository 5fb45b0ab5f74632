import picomatch from 'picomatch';
import { isWithin, relativeTo } from '../util/paths.js';
import { mayMatch } from '../util/pattern.js';
import type { Collection } from './facts/environment.js';

/** Asks whether a runner's patterns take a file, given by its absolute path. */
export function collector(collection: Collection): (file: string) => boolean {
  const include = globs(collection.include);
  const exclude = globs(collection.exclude);
  const absolute = globs(collection.include.filter((each) => each.startsWith('/')));
  const matches = (patterns: readonly string[], file: string): boolean =>
    patterns.some((pattern) => mayMatch(pattern, file));
  return (file) => {
    if (!collection.roots.some((root) => isWithin(root, file))) return false;
    const path = relativeTo(collection.folder, file);
    if (exclude(path) || matches(collection.leftOut, file)) return false;
    return include(path) || absolute(file) || matches(collection.patterns, file);
  };
}

function globs(patterns: readonly string[]): (path: string) => boolean {
  if (patterns.length === 0) return () => false;
  return picomatch(
    patterns.map((pattern) => pattern.replace(/^\.\//, '')),
    { dot: true },
  );
}

import picomatch from 'picomatch';
import { isWithin, relativeTo } from '../util/paths.js';
import { mayMatch } from '../util/pattern.js';
import type { Collection } from './facts/environment.js';

/** What keeps a file out of a run: where the run looks, the endings that it sees, what its script asks for, an entry that leaves files out, or its patterns. */
type LeftOut =
  { by: 'roots' | 'endings' | 'filters' | 'include' } | { by: 'exclude' | 'leftOut'; entry: string };

/** Asks whether a runner's patterns take a file, given by its absolute path. */
export function collector(collection: Collection): (file: string) => boolean {
  const why = leftOut(collection);
  return (file) => why(file) === undefined;
}

/** Asks what keeps a file, given by its absolute path, out of a run; undefined where it is taken. */
export function leftOut(collection: Collection): (file: string) => LeftOut | undefined {
  const include = globs(collection.include);
  const exclude = globs(collection.exclude);
  const absolute = globs(collection.include.filter((each) => each.startsWith('/')));
  const matching = (patterns: readonly string[], file: string): string | undefined =>
    patterns.find((pattern) => mayMatch(pattern, file));
  return (file) => {
    if (!collection.roots.some((root) => isWithin(root, file))) return { by: 'roots' };
    const { endings } = collection;
    if (endings && !endings.some((each) => file.endsWith(each))) return { by: 'endings' };
    const path = relativeTo(collection.folder, file);
    const ignored = matching(collection.leftOut, file);
    if (ignored !== undefined) return { by: 'leftOut', entry: ignored };
    if (exclude(path))
      return { by: 'exclude', entry: collection.exclude.find((each) => globs([each])(path)) ?? '' };
    const taken = include(path) || absolute(file) || matching(collection.patterns, file) !== undefined;
    if (!taken) return { by: 'include' };
    const { filters } = collection;
    return filters && matching(filters, file) === undefined ? { by: 'filters' } : undefined;
  };
}

function globs(patterns: readonly string[]): (path: string) => boolean {
  if (patterns.length === 0) return () => false;
  return picomatch(
    patterns.map((pattern) => pattern.replace(/^\.\//, '')),
    { dot: true },
  );
}

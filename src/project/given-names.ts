import type { ModuleSummary } from './summary.js';

/** What a module of the project gives out: all names, where every module that it hands on can be read. */
export function givenNames(
  file: string,
  summaryOf: (file: string) => ModuleSummary | undefined,
  resolve: (from: string, specifier: string) => string | undefined,
  above: ReadonlySet<string> = new Set(),
): ReadonlySet<string> | undefined {
  const summary = summaryOf(file);
  // What is written without `export` may give anything; a single-file component has what its macros add.
  if (!summary?.isModule || file.endsWith('.vue') || above.has(file)) return undefined;
  const names = new Set(summary.exports.keys());
  for (const star of summary.stars) {
    const target = resolve(file, star);
    const handed = target && givenNames(target, summaryOf, resolve, new Set([...above, file]));
    if (!handed) return undefined;
    for (const name of handed) if (name !== 'default') names.add(name);
  }
  return names.size > 0 ? names : undefined;
}

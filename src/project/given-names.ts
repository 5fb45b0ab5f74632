import type { ModuleSummary } from './summary.js';

/** What a module of the project gives out: all names, where every module that it hands on can be read. */
export function givenNames(
  file: string,
  summaryOf: (file: string) => ModuleSummary | undefined,
  resolve: (from: string, specifier: string) => string | undefined,
  above: ReadonlySet<string> = new Set(),
): ReadonlySet<string> | undefined {
  const summary = summaryOf(file);
  // Its plain script may give more than the component.
  if (summary && file.endsWith('.vue')) return new Set(summary.exports.keys());
  // What is written without `export` may give anything.
  if (!summary?.isModule || above.has(file)) return undefined;
  const names = new Set(summary.exports.keys());
  for (const star of summary.stars) {
    const target = resolve(file, star);
    const handed = target && givenNames(target, summaryOf, resolve, new Set([...above, file]));
    if (!handed) return undefined;
    for (const name of handed) if (name !== 'default') names.add(name);
  }
  return names.size > 0 ? names : undefined;
}

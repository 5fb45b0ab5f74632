import type { RunnerFacts } from '../../environment/facts/environment.js';
import { isPathsHook, maySendNames } from '../../environment/tables/compile-hooks.js';
import { isLoadedByNode } from '../../environment/tables/runners.js';
import type { Files } from '../../host/files.js';
import { join } from '../../util/paths.js';
import { mayMatch } from '../../util/pattern.js';
import type { AliasRule } from '../../host/leads.js';
import type { PlacedText } from '../../environment/settings/setting.js';
import { isKnown, type SetupEffects } from './setup-effects.js';

/** What makes something else of names that files import. */
interface Aliases {
  rules: readonly AliasRule[];
  /** The compiler’s `paths` count as well. */
  readsPaths: boolean;
}

/** The aliases of a run: those of its settings, or of what Node loads before; undefined where they can't be told. */
export function aliasesOf(
  { runner, aliases, readsPaths }: RunnerFacts,
  setup: SetupEffects | undefined,
): Aliases | undefined {
  if (aliases.known) return { rules: aliases.value, readsPaths };
  const loaded = [...(setup?.packages ?? [])];
  return isLoadedByNode(runner) && isKnown(setup) && !loaded.some(maySendNames)
    ? { rules: [], readsPaths: loaded.some(isPathsHook) }
    : undefined;
}

/** Whether a rule of a runner's settings takes an import. */
export const isMapped = (specifier: string, rules: readonly AliasRule[]): boolean =>
  rules.some(({ pattern }) => mayMatch(pattern, specifier));

/** Whether a rule sends an import to something else than what it names: one that only takes an ending off does not. */
export const isSent = (specifier: string, rules: readonly AliasRule[]): boolean =>
  rules.some(
    ({ pattern, to }) => mayMatch(pattern, specifier) && !(specifier.startsWith('.') && to === '$1'),
  );

/** The entry of the compiler's `paths` that takes an import: `@/*` takes `@/kiln`. */
export function pathFor(specifier: string, paths: readonly PlacedText[]): PlacedText | undefined {
  return paths.find(({ text }) => {
    const [before = '', after] = text.split('*');
    if (after === undefined) return text === specifier;
    return before !== '' && specifier.startsWith(before) && specifier.endsWith(after);
  });
}

/** The folder of the package that an import names by a sign before it, as `@parts/lid` or `~/parts/lid` do; it holds what is asked for. */
export function ownFolderOf(specifier: string, folder: string, files: Files): string | undefined {
  const path = /^[@~#]\/?(.+)$/.exec(specifier)?.[1];
  const [first = ''] = path?.split('/') ?? [];
  if (path === undefined) return undefined;
  return ['src', 'app', '.']
    .map((base) => join(folder, base))
    .filter((base) =>
      ['', '.ts', '.tsx', '.js', '.jsx', '.vue'].some(
        (ending) => files.kind(join(base, path + ending)) !== undefined,
      ),
    )
    .map((base) => join(base, path.includes('/') ? first : '.'))[0];
}

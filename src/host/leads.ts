import type { Place } from '../finding.js';
import { join, packageOf } from '../util/paths.js';
import { escaped, mayMatch } from '../util/pattern.js';
import type { Files } from './files.js';

/** A name that stands for a path: a regular expression over the import, as written in the settings. */
export interface AliasRule {
  pattern: string;
  /** What an import becomes, its parts as $1; an absolute path, or a package. Undefined where it can't be told. */
  to: string | undefined;
  /** Only the part that matches is replaced, and what follows it stays. */
  part?: boolean;
  at: Place;
}

/**
 * Where imports lead that are no paths: in this order by rules, as packages, and below folders. It is what could be
 * read, for following imports alone: whether an import leads nowhere is asked of a runner's `aliases`.
 */
export interface Leads {
  rules: readonly AliasRule[];
  folders: readonly SearchedFolder[];
  /** The folders in which stand-ins for packages may lie; undefined where settings that can't be read may replace any. */
  standIns?: readonly string[];
}

/** Whether a folder of stand-ins, which take the place of packages without a word, has one for an import. */
export const hasStandIn = (files: Files, folders: readonly string[], specifier: string): boolean =>
  folders.some((folder) =>
    [specifier, packageOf(specifier)].some((name) =>
      ['.js', '.ts', '.tsx', '.jsx', ''].some(
        (ending) => files.kind(join(folder, '__mocks__', name + ending)) !== undefined,
      ),
    ),
  );

/** A folder in which names are looked for that are no paths. */
interface SearchedFolder {
  /** Absolute. */
  folder: string;
  /** The endings that are tried there; those of the runner where it is left out. */
  endings?: readonly string[] | undefined;
}

export const NO_LEADS: Leads = { rules: [], folders: [] };

/** Whether a rule that can't be told may take an import. */
export const isUntold = (specifier: string, { pattern, to }: AliasRule): boolean =>
  to === undefined && mayMatch(pattern, specifier);

/** What an import becomes by a rule; undefined where the rule does not take it, or can't be told. */
export function sentTo(specifier: string, { pattern, to, part }: AliasRule): string | undefined {
  if (to === undefined) return undefined;
  let found: RegExpExecArray | null;
  try {
    found = new RegExp(pattern).exec(specifier);
  } catch {
    return undefined;
  }
  if (!found) return undefined;
  const [taken, ...groups] = found;
  const filled = to.replace(/\$(\d)/g, (_, group: string) => groups[Number(group) - 1] ?? '');
  return part ? specifier.replace(taken, () => filled) : filled;
}

/** A name before a path as a rule: `@parts` takes `@parts` and `@parts/lid`. `to`: absolute, or a package. */
export const prefixRule = (name: string, to: string | undefined, at: Place): AliasRule => ({
  pattern: `^${escaped(name)}(?=/|$)`,
  to,
  part: true,
  at,
});

/** An entry of the compiler's `paths` (TypeScript 5), as a rule for each of its targets; `base`: the folder that those start from. */
export const pathRules = (name: string, targets: readonly string[], base: string, at: Place): AliasRule[] =>
  targets.map((target) => ({
    pattern: `^${name.split('*').map(escaped).join('(.*)')}$`,
    to: join(base, target.replace('*', '$1')),
    at,
  }));

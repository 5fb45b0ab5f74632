import { mayMatch } from '../../util/pattern.js';
import type { AliasRule } from '../../environment/facts/environment.js';
import type { PlacedText } from '../../environment/settings/setting.js';

/** Whether a rule of a runner's settings takes an import. */
export const isMapped = (specifier: string, rules: readonly AliasRule[]): boolean =>
  rules.some(({ pattern }) => mayMatch(pattern, specifier));

/** The entry of the compiler's `paths` that takes an import: `@/*` takes `@/kiln`. */
export function pathFor(specifier: string, paths: readonly PlacedText[]): PlacedText | undefined {
  return paths.find(({ text }) => {
    const [before = '', after] = text.split('*');
    if (after === undefined) return text === specifier;
    return before !== '' && specifier.startsWith(before) && specifier.endsWith(after);
  });
}

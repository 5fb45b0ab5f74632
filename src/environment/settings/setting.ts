import type { Place } from '../../finding.js';

/**
 * A value of a settings file, read without running it. Of a function, it is what that returns; `takes`: the patterns of
 * which its first argument must match one for it to do anything.
 */
export type Setting = SettingValue & { takes?: readonly string[] };

type SettingValue =
  | { is: 'value'; value: string | number | boolean | null | undefined; at: Place }
  | { is: 'list'; items: readonly Setting[]; open: boolean; at: Place }
  /** `by`: the module whose function was called with it, where that is one. */
  | { is: 'object'; entries: ReadonlyMap<string, Setting>; open: boolean; by?: string; at: Place }
  /** What a function of a module gives; nothing is known but the module. */
  | { is: 'made'; by: string; at: Place }
  | { is: 'pattern'; source: string; flags: string; at: Place }
  /** A condition decides which. */
  | { is: 'either'; options: readonly Setting[]; at: Place }
  | { is: 'unknown'; at: Place };

/** The module whose function made a setting: `vue()` was made by the package that `vue` comes from. */
export const madeBy = (setting: Setting): string | undefined =>
  setting.is === 'made' || setting.is === 'object' ? setting.by : undefined;

/** Whether a setting is what a function, or a call of a module's function, gives. */
export const isGiven = (setting: Setting): boolean => 'takes' in setting || madeBy(setting) !== undefined;

/** A fact that may not be readable. */
export type Known<T> = { known: true; value: T; at?: Place } | { known: false };

export const known = <T>(value: T, at?: Place): Known<T> => ({ known: true, value, at });
export const UNKNOWN_FACT: { known: false } = { known: false };

/** The setting at a path of keys; undefined where it surely is not set, `unknown` where that can't be told. */
export function settingAt(setting: Setting | undefined, ...keys: string[]): Setting | undefined {
  let at = setting;
  for (const key of keys) {
    if (at === undefined || at.is === 'unknown') return at;
    if (at.is === 'either') {
      const options = at.options.map((option) => settingAt(option, key));
      if (options.every((option) => option === undefined)) return undefined;
      return { is: 'unknown', at: at.at };
    }
    if (at.is !== 'object') return undefined;
    const next: Setting | undefined = at.entries.get(key);
    if (next === undefined && at.open) return { is: 'unknown', at: at.at };
    at = next;
  }
  return at;
}

/** The text that a setting is; undefined for anything else. */
export const textOf = (setting: Setting | undefined): string | undefined =>
  setting?.is === 'value' && typeof setting.value === 'string' ? setting.value : undefined;

/** A setting as a text; unknown where it is anything else. */
export function textFact(
  setting: Setting | undefined,
  otherwise: string | undefined,
): Known<string | undefined> {
  if (setting === undefined) return known(otherwise);
  if (setting.is !== 'value') return UNKNOWN_FACT;
  if (setting.value === undefined || setting.value === null) return known(otherwise);
  return typeof setting.value === 'string' ? known(setting.value, setting.at) : UNKNOWN_FACT;
}

/** A setting as a yes or no. */
export function flagFact(setting: Setting | undefined, otherwise: boolean): Known<boolean> {
  if (setting === undefined) return known(otherwise);
  if (setting.is !== 'value') return UNKNOWN_FACT;
  return known(setting.value === undefined ? otherwise : Boolean(setting.value), setting.at);
}

/** A text of a list, with its place. */
export interface PlacedText {
  text: string;
  at: Place;
}

/** A setting as a list of texts; a single text counts as a list of one. */
export function textsFact(
  setting: Setting | undefined,
  otherwise: readonly string[],
  at: Place,
): Known<PlacedText[]> {
  if (
    setting === undefined ||
    (setting.is === 'value' && (setting.value === undefined || setting.value === null))
  ) {
    return known(otherwise.map((text) => ({ text, at })));
  }
  if (setting.is === 'value')
    return typeof setting.value === 'string'
      ? known([{ text: setting.value, at: setting.at }], setting.at)
      : UNKNOWN_FACT;
  if (setting.is !== 'list' || setting.open) return UNKNOWN_FACT;
  const texts: PlacedText[] = [];
  for (const item of setting.items) {
    if (item.is !== 'value' || typeof item.value !== 'string') return UNKNOWN_FACT;
    texts.push({ text: item.value, at: item.at });
  }
  return known(texts, setting.at);
}

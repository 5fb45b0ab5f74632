import { dataOfAll, dataOfEntries, type Data } from '../../language/operations.js';
import type { Place } from '../../finding.js';
import { dirname, join, resolve } from '../../util/paths.js';
import { EXPORTED_SETTINGS } from '../tables/runners.js';
import type { Setting } from './setting.js';

/** A text as a setting. */
export const text = (value: string, at: Place): Setting => ({ is: 'value', value, at });

/** Data as a setting, all of it at one place. */
export function settingOf(value: Data, at: Place): Setting {
  if (typeof value !== 'object' || value === null) return { is: 'value', value, at };
  if (Array.isArray(value))
    return {
      is: 'list',
      items: (value as readonly Data[]).map((each) => settingOf(each, at)),
      open: false,
      at,
    };
  const entries = Object.entries(value).map(([key, each]) => [key, settingOf(each as Data, at)] as const);
  return { is: 'object', entries: new Map(entries), open: false, at };
}

/** All of a setting as data; undefined where any of it is not known. */
export function dataOfSetting(setting: Setting): { value: Data } | undefined {
  if (setting.is === 'value') return setting;
  if (setting.is !== 'list' && setting.is !== 'object') return undefined;
  if (setting.open) return undefined;
  if (setting.is === 'object') return dataOfEntries([...setting.entries], dataOfSetting);
  const value = dataOfAll(setting.items, dataOfSetting);
  return value && { value };
}

/** What a path helper gives, from a folder; undefined for any other function. */
export function pathSetting(
  name: string,
  args: readonly Setting[],
  folder: string,
  at: Place,
): Setting | undefined {
  if (!['join', 'resolve', 'dirname', 'fileURLToPath'].includes(name)) return undefined;
  const parts = args.map((each) => (each.is === 'value' ? each.value : undefined));
  const texts = parts.filter((part) => typeof part === 'string');
  const [first] = texts;
  if (texts.length < parts.length || first === undefined) return { is: 'unknown', at };
  if (name === 'dirname') return text(dirname(first), at);
  if (name === 'fileURLToPath') return text(first.replace(/^file:\/\//, ''), at);
  return text(name === 'join' ? join(...texts) : resolve(folder, ...texts), at);
}

/** Settings that a package exports, so that others can add to them. */
export function exportedSetting(from: { module: string; name: string } | undefined, at: Place): Setting {
  const exported = from && EXPORTED_SETTINGS.get(from.module);
  const value = exported?.names[from?.name ?? ''];
  if (!exported || value === undefined) return { is: 'unknown', at };
  const setting = settingOf(value, at);
  return setting.is === 'object' ? { ...setting, open: exported.open } : setting;
}

/** The same setting, with all of it said at another place: that of whoever takes it over. */
export function saidAt(setting: Setting, at: Place): Setting {
  switch (setting.is) {
    case 'object': {
      const entries = [...setting.entries].map(([key, each]) => [key, saidAt(each, at)] as const);
      return { ...setting, entries: new Map(entries), at };
    }
    case 'list':
      return { ...setting, items: setting.items.map((each) => saidAt(each, at)), at };
    case 'either':
      return { ...setting, options: setting.options.map((each) => saidAt(each, at)), at };
    default:
      return { ...setting, at };
  }
}

/** An object in which more may be set, at any depth. */
export function openSetting(setting: Extract<Setting, { is: 'object' }>): Extract<Setting, { is: 'object' }> {
  const entries = new Map(
    [...setting.entries].map(
      ([key, each]) => [key, each.is === 'object' ? openSetting(each) : each] as const,
    ),
  );
  return { ...setting, entries, open: true };
}

/** Two settings merged key by key, lists joined, the second winning. */
export function merged(left: Setting, right: Setting, at: Place): Setting {
  if (left.is !== 'object' || right.is !== 'object') {
    if (left.is === 'list' && right.is === 'list')
      return { is: 'list', items: [...left.items, ...right.items], open: left.open || right.open, at };
    return left.is === 'object' || right.is === 'object' ? { is: 'unknown', at } : right;
  }
  const entries = new Map(left.entries);
  for (const [key, value] of right.entries) {
    const before = entries.get(key);
    entries.set(key, before ? merged(before, value, value.at) : value);
  }
  return { is: 'object', entries, open: left.open || right.open, at };
}

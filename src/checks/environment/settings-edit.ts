import type { Setting } from '../../environment/setting.js';
import type { Edit } from '../../mends/edit.js';
import { indentAt, styleOf } from '../../mends/style.js';
import type { Source } from '../../parse/source.js';
import { settingAt } from '../../environment/setting.js';

/** An entry that is added to an object of a settings file, as its first one; undefined where it is no object in the text. */
export function entryAdded(
  object: Setting | undefined,
  key: string,
  value: string,
  source: Source,
): Edit | undefined {
  const { text, path } = source;
  if (object?.is !== 'object' || object.at.file !== path || text[object.at.start] !== '{') return undefined;
  const { newline, indent } = styleOf(text);
  const isJson = /\.jsonc?$/.test(path);
  const entry = `${isJson ? `"${key}"` : key}: ${value}`;
  const start = object.at.start + 1;
  const next = /^\s*/.exec(text.slice(start))?.[0] ?? '';
  const isEmpty = text[start + next.length] === '}';
  const before = next.includes('\n')
    ? `${newline}${isEmpty ? indentAt(text, object.at.start) + indent : next.slice(next.lastIndexOf('\n') + 1)}`
    : ' ';
  const after = isEmpty ? (next.includes('\n') ? '' : ' ') : ',';
  return {
    file: path,
    start,
    end: isEmpty && next.trim() === '' && !next.includes('\n') ? start + next.length : start,
    text: `${before}${entry}${after}`,
  };
}

/** A text that is added to a list of a settings file, as its last item. */
export function itemAdded(list: Setting | undefined, item: string, source: Source): Edit | undefined {
  if (list?.is !== 'list' || list.at.file !== source.path || source.text[list.at.start] !== '[')
    return undefined;
  const last = list.items.at(-1);
  if (!last) return { file: source.path, start: list.at.start + 1, end: list.at.start + 1, text: item };
  if (last.at.file !== source.path) return undefined;
  return { file: source.path, start: last.at.end, end: last.at.end, text: `, ${item}` };
}

/** Adds a text to a list of the settings, or the list with it where there is none. */
export function textAdded(
  object: Setting | undefined,
  key: string,
  text: string,
  source: Source,
): Edit | undefined {
  const { quote } = styleOf(source.text);
  const item = /\.jsonc?$/.test(source.path) ? JSON.stringify(text) : `${quote}${text}${quote}`;
  const list = settingAt(object, key);
  return list ? itemAdded(list, item, source) : entryAdded(object, key, `[${item}]`, source);
}

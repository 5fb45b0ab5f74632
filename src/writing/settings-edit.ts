import { type Setting, settingAt } from '../environment/settings/setting.js';
import type { Edit } from '../finding.js';
import { indentAt, styleOf } from './edits/style.js';
import type { Source } from '../syntax/source.js';

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
  const { start } = object.at;
  const gap = /^\s*/.exec(text.slice(start + 1))?.[0] ?? '';
  const entry = `${/\.jsonc?$/.test(path) ? `"${key}"` : key}: ${value}`;
  // The brace is part of the edit, so that two entries for one object are not added at once.
  if (text[start + 1 + gap.length] !== '}') {
    const isInline = !gap.includes('\n');
    const added = isInline ? `{ ${entry},${gap ? '' : ' '}` : `{${gap}${entry},`;
    return { file: path, start, end: start + 1, text: added };
  }
  const outer = `${newline}${indentAt(text, start)}`;
  const inside = gap.includes('\n') ? `${outer}${indent}${entry},${outer}` : ` ${entry} `;
  return { file: path, start, end: start + gap.length + 2, text: `{${inside}}` };
}

/** A text that is added to a list of a settings file, as its last item. */
function itemAdded(list: Setting | undefined, item: string, source: Source): Edit | undefined {
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

import { parseTree, printParseErrorCode, type Node, type ParseError } from 'jsonc-parser';
import type { Problem, Source } from '../../syntax/source.js';
import type { Setting } from './setting.js';

/** Reads JSON, comments and trailing commas allowed; a Problem with its line where it is broken. */
export function jsonSettings(source: Source): Setting | Problem {
  const errors: ParseError[] = [];
  const root = parseTree(source.text, errors, { allowTrailingComma: true });
  const [error] = errors;
  if (error || !root) {
    const line = source.lines.at(error?.offset ?? 0).line;
    return {
      file: source.path,
      reason: `not valid JSON: ${error ? words(printParseErrorCode(error.error)) : 'empty'}`,
      line,
    };
  }
  return fromJson(root, source.path);
}

// `ValueExpected` reads better as `value expected`.
const words = (code: string): string => code.replace(/\B[A-Z]/g, ' $&').toLowerCase();

function fromJson(node: Node, file: string): Setting {
  const at = { file, start: node.offset, end: node.offset + node.length };
  if (node.type === 'object') {
    const entries = new Map<string, Setting>();
    for (const each of node.children ?? []) {
      const [key, value] = each.children ?? [];
      if (key && value) entries.set(String(key.value), fromJson(value, file));
    }
    return { is: 'object', entries, open: false, at };
  }
  if (node.type === 'array')
    return { is: 'list', items: (node.children ?? []).map((each) => fromJson(each, file)), open: false, at };
  return { is: 'value', value: node.value as string | number | boolean | null, at };
}

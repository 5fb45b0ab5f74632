import {
  findNodeAtLocation,
  getNodeValue,
  parseTree,
  printParseErrorCode,
  type Node,
  type ParseError,
} from 'jsonc-parser';
import * as v from 'valibot';
import { LEVELS } from '../finding.js';
import { decodeSource, isProblem, type Source } from '../syntax/source.js';
import { inShort } from '../util/printable.js';
import { nearest } from '../util/nearest.js';
import { ConfigSchema, type Config } from './schema.js';
import { settingsFrom, type Settings } from './settings.js';

/** A configuration that can't be used. The message names file, line, key, value and the nearest valid name. */
export class ConfigError extends Error {}

const KEYS = { '': Object.keys(ConfigSchema.entries), helpers: ['render', 'act', 'assert'] };
const SETTABLE = [...LEVELS, 'off'];

/**
 * Reads the text of a `wexlet.json`, comments and trailing commas allowed.
 * `codes`: the codes that checks have. Throws ConfigError.
 */
export function settingsFromJson(path: string, bytes: Uint8Array, codes: readonly string[]): Settings {
  const source = decodeSource(path, bytes);
  if (isProblem(source)) throw new ConfigError(`${path}: ${source.reason}`);
  const errors: ParseError[] = [];
  const tree = parseTree(source.text, errors, { allowTrailingComma: true });
  const [error] = errors;
  if (error || !tree) {
    throw new ConfigError(
      `${path}:${source.lines.at(error?.offset ?? 0).line}: not valid JSON (${error ? printParseErrorCode(error.error) : 'empty'})`,
    );
  }
  const result = v.safeParse(ConfigSchema, getNodeValue(tree));
  if (!result.success) throw new ConfigError(explained(result.issues[0], tree, source));
  checkCodes(result.output, tree, source, codes);
  return settingsFrom(result.output);
}

function explained(issue: v.BaseIssue<unknown>, tree: Node, source: Source): string {
  const keys = (issue.path ?? []).map((item) => (item as { key: string | number }).key);
  const place = placeOf(keys, tree, source);
  const key = keys.join('.') || 'the whole file';
  if (issue.type === 'strict_object' && issue.expected === 'never') {
    const known = KEYS[keys.length > 1 ? 'helpers' : ''];
    return `${place}: unknown key "${inShort(key)}"${suggestion(String(keys.at(-1)), known)}`;
  }
  const value = inShort(issue.received, 40);
  const wanted = issue.type === 'picklist' ? suggestion(value.replaceAll('"', ''), SETTABLE) : '';
  return `${place}: "${inShort(key)}" is ${value}, but must be ${issue.expected ?? 'something else'}${wanted}`;
}

function checkCodes(config: Config, tree: Node, source: Source, codes: readonly string[]): void {
  for (const code of Object.keys(config.checks ?? {})) {
    if (codes.includes(code)) continue;
    throw new ConfigError(
      `${placeOf(['checks', code], tree, source)}: unknown check "${inShort(code)}"${suggestion(code, codes)}`,
    );
  }
}

function placeOf(keys: readonly (string | number)[], tree: Node, source: Source): string {
  const node = findNodeAtLocation(tree, [...keys]);
  const at = node?.parent?.type === 'property' ? node.parent : (node ?? tree);
  return `${source.path}:${source.lines.at(at.offset).line}`;
}

function suggestion(name: string, known: readonly string[]): string {
  const near = nearest(name, known);
  return near ? `; did you mean "${near}"?` : '';
}

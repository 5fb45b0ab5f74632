import semver from 'semver';
import type { Place } from '../finding.js';
import { join } from '../util/paths.js';
import { manifestsOf, type Environment } from './facts/environment.js';
import { settingAt, textOf } from './settings/setting.js';

/** The Node that a project says it runs on: a version, or a range where only a part of it is given. */
interface StatedNode {
  text: string;
  range: string;
  at: Place;
}

// Files that version managers read: one line, `v20.11.0`, `20` or a name such as `lts/*`, which tells nothing.
const FILES = ['.nvmrc', '.node-version'];

/**
 * The Node that the nearest of these files or manifests names; undefined where none does, or where it is a name.
 * `textAt`: the text of a file by its absolute path, undefined where it is not there.
 */
export function statedNode(
  environment: Environment,
  textAt: (file: string) => string | undefined,
): StatedNode | undefined {
  for (const { folder, file, setting } of manifestsOf(environment)) {
    const found = FILES.map((name) => join(folder, name)).find((path) => textAt(path) !== undefined);
    const text = found === undefined ? undefined : textAt(found)?.trim();
    if (found !== undefined && text !== undefined)
      return stated(text, { file: found, start: 0, end: text.length });
    const pinned = settingAt(setting, 'volta', 'node');
    const version = textOf(pinned);
    if (pinned && version !== undefined) return stated(version, { ...pinned.at, file });
  }
  return undefined;
}

function stated(text: string, at: Place): StatedNode | undefined {
  const range = semver.validRange(text);
  return range === null || range === '*' ? undefined : { text, range, at };
}

import { mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { newFolder } from './folders.js';

/** The folder `test/` of the source tree; compiled tests stand in `build/test/`. */
export const TEST_FOLDER = fileURLToPath(new URL('../../../test', import.meta.url));

/** One small suite, with the findings that it must give. */
export interface Sample {
  title: string;
  files: Map<string, string>;
  /** `file:line code [level] [certainty]`, from marks at the ends of lines. */
  expected: string[];
}

const MARK = /[ \t]*(?:\/\/|<!--|#)! ([A-Z]\d\d[^\n]*?)(?:-->)?$/;

/**
 * Reads samples from a text: `=== title`, then `--- path` before the lines of each file.
 * A line that ends in `//! S01 blocker sure` expects that finding there; the mark is taken out.
 */
export function readSamples(text: string): Sample[] {
  return text
    .split(/^=== /m)
    .slice(1)
    .map((part) => {
      const [title = '', ...lines] = part.split('\n');
      return { title: title.trim(), ...filesOf(lines) };
    });
}

function filesOf(lines: readonly string[]): Pick<Sample, 'files' | 'expected'> {
  const files = new Map<string, string[]>();
  const expected: string[] = [];
  let name = '';
  for (const line of lines) {
    const header = /^--- (.+)$/.exec(line);
    if (header?.[1]) {
      name = header[1].trim();
      files.set(name, []);
      continue;
    }
    const content = files.get(name);
    if (!content) continue;
    const mark = MARK.exec(line);
    content.push(mark ? line.slice(0, mark.index) : line);
    for (const each of mark?.[1]?.split(',') ?? []) expected.push(`${name}:${content.length} ${each.trim()}`);
  }
  return {
    files: new Map([...files].map(([path, each]) => [path, each.join('\n').trimEnd() + '\n'])),
    expected,
  };
}

/** Every sample of a folder, with the file that it stands in. */
export function samplesIn(folder: string): Sample[] {
  return readdirSync(folder)
    .filter((name) => name.endsWith('.txt'))
    .sort()
    .flatMap((name) =>
      readSamples(readFileSync(join(folder, name), 'utf8')).map((each) => ({
        ...each,
        title: `${name.replace('.txt', '')}: ${each.title}`,
      })),
    );
}

/** Writes files into a new temporary folder and gives its path. */
export function written(
  files: ReadonlyMap<string, string | Uint8Array> | Record<string, string | Uint8Array>,
): string {
  const folder = newFolder();
  const entries = files instanceof Map ? [...files] : Object.entries(files);
  for (const [path, content] of entries) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), content);
  }
  return folder;
}

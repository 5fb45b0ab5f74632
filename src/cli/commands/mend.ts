import { createTwoFilesPatch } from 'diff';
import { lstatSync, readFileSync, realpathSync } from 'node:fs';
import { planMends, type CodedMend, type Plan } from '../../writing/plan.js';
import { decodeSource, encodeSource, isProblem, type Source } from '../../syntax/source.js';
import { isWithin, join, slashed } from '../../util/paths.js';
import { plural } from '../../util/plural.js';
import { printable } from '../../util/printable.js';
import type { Colours } from '../../formats/colours.js';
import type { CacheFlag } from '../cache.js';
import { EXIT } from '../exit.js';
import { commandScope } from '../scope.js';
import { coloursFor } from '../terminal.js';
import { writeWhole } from '../write.js';
import { auditScope } from './audit.js';

export interface MendOptions {
  write: boolean;
  only?: string[];
  likely: boolean;
  cache?: CacheFlag;
  color: boolean;
}

/** `wexlet mend`: prints the mends as a unified diff, or writes them. */
export async function runMend(paths: string[], options: MendOptions): Promise<void> {
  const scope = commandScope(paths);
  const read = new Reader(scope.root);
  const report = await auditScope(scope, options);
  const all = report.findings.flatMap(({ code, mend }): CodedMend[] => (mend ? [{ code, ...mend }] : []));
  const wanted = all.filter((mend) => mend.safe || options.likely);
  const plan = planMends(wanted, (file) => read.source(file)?.text);
  if (options.write) write(plan, read);
  else
    process.stdout.write(
      [...plan.texts]
        .map(([file, { before, after }]) => coloured(patch(file, before, after), coloursFor(options.color)))
        .join(''),
    );
  say(plan, all.length - wanted.length, options.write);
  process.exitCode = report.counts.specFiles === 0 ? EXIT.nothing : EXIT.ready;
}

/** Reads the files that are mended, once, before the audit's result is used on them. */
class Reader {
  readonly #root: string;
  readonly #sources = new Map<string, { source: Source; bytes: Uint8Array } | undefined>();

  constructor(root: string) {
    this.#root = root;
  }

  /** The source of a file below the root; undefined for any other, and for links out of it. */
  source(file: string): Source | undefined {
    if (!this.#sources.has(file)) this.#sources.set(file, this.#read(file));
    return this.#sources.get(file)?.source;
  }

  /** Whether a file still holds what was read. */
  isUnchanged(file: string): boolean {
    const known = this.#sources.get(file);
    return known !== undefined && Buffer.from(known.bytes).equals(readFileSync(this.path(file)));
  }

  path(file: string): string {
    return join(this.#root, file);
  }

  #read(file: string): { source: Source; bytes: Uint8Array } | undefined {
    const path = this.path(file);
    if (!isWithin(this.#root, slashed(realpathSync(path))) || lstatSync(path).isSymbolicLink())
      return undefined;
    const bytes = readFileSync(path);
    const source = decodeSource(file, bytes);
    return isProblem(source) ? undefined : { source, bytes };
  }
}

function write(plan: Plan, read: Reader): void {
  for (const [file, { after }] of plan.texts) {
    const source = read.source(file);
    if (!source) continue;
    if (read.isUnchanged(file)) {
      writeWhole(read.path(file), encodeSource(source, after));
      process.stdout.write(`mended ${printable(file)}\n`);
    } else process.stderr.write(`wexlet: ${printable(file)} has changed since it was read; left as it is\n`);
  }
}

const patch = (file: string, before: string, after: string): string =>
  createTwoFilesPatch(`a/${file}`, `b/${file}`, before, after, '', '', { context: 3 }).replace(/^=+\n/, '');

function coloured(text: string, colours: Colours): string {
  return text
    .split('\n')
    .map((line) =>
      line.startsWith('+')
        ? colours.good(line)
        : line.startsWith('-')
          ? colours.blocker(line)
          : line.startsWith('@')
            ? colours.hint(line)
            : line,
    )
    .join('\n');
}

function say({ taken, left }: Plan, unsafe: number, wrote: boolean): void {
  const lines = [
    `${plural(taken.length, 'mend')}${wrote ? ' written' : taken.length ? '; --write applies them' : ''}`,
  ];
  if (left.length)
    lines.push(`${plural(left.length, 'mend')} left for the next run: they touch the same lines`);
  if (unsafe) lines.push(`${plural(unsafe, 'likely mend')} not taken: --likely takes them as well`);
  process.stderr.write(lines.map((line) => `wexlet: ${line}\n`).join(''));
}

import { existsSync, readFileSync } from 'node:fs';
import { auditWithPending } from '../../audit/audit.js';
import type { PendingFile } from '../../writing/pending-specs.js';
import { DiskFiles } from '../../host/disk-files.js';
import { decodeSource, encodeSource, isProblem } from '../../syntax/source.js';
import { formatted, GAPS_FORMATS } from '../../formats/registry.js';
import { isWithin, relativeTo } from '../../util/paths.js';
import { plural } from '../../util/plural.js';
import { printable } from '../../util/printable.js';
import { EXIT, UsageError } from '../exit.js';
import { commandScope } from '../scope.js';
import { writeWhole } from '../write.js';
import { auditScope, requestFor, textOptions, type AuditFlags } from './audit.js';

export interface GapsOptions extends Pick<
  AuditFlags,
  'format' | 'out' | 'coverage' | 'all' | 'color' | 'cache'
> {
  stubs: boolean;
  write: boolean;
}

const ONLY = ['branches'];

/** `wexlet gaps`: what no spec exercises, and pending specs for it. */
export async function runGaps(paths: string[], options: GapsOptions): Promise<void> {
  if (options.write && !options.stubs) throw new UsageError('--write goes with --stubs');
  const scope = commandScope(paths);
  if (options.stubs) {
    const { report, pending } = await auditWithPending(
      new DiskFiles(),
      requestFor(scope, { ...options, only: ONLY }),
    );
    process.exitCode = report.counts.specFiles === 0 ? EXIT.nothing : EXIT.ready;
    if (options.write) return write(pending, scope.root);
    process.stdout.write(pending.map((each) => shown(each, scope.root)).join('\n'));
    process.stderr.write(
      `wexlet: ${plural(total(pending), 'pending spec')}${pending.length ? '; --write adds them' : ''}\n`,
    );
    return;
  }
  const report = await auditScope(scope, { ...options, only: ONLY });
  process.exitCode = report.counts.specFiles === 0 ? EXIT.nothing : EXIT.ready;
  const text = await formatted(GAPS_FORMATS, options.format ?? 'text', report, textOptions(options));
  if (options.out) writeWhole(options.out, text);
  else process.stdout.write(text);
}

const total = (pending: readonly PendingFile[]): number =>
  pending.reduce((sum, { specs }) => sum + specs.length, 0);

function shown({ file, added, imports, isNew }: PendingFile, root: string): string {
  const head = `// ${printable(relativeTo(root, file))}${isNew ? ' (new)' : ''}\n`;
  return `${head}${imports}${added.replace(/^(?:\r?\n)+/, '').trimEnd()}\n`;
}

function write(pending: readonly PendingFile[], root: string): void {
  let written = 0;
  for (const each of pending) {
    const name = printable(relativeTo(root, each.file));
    if (!isWithin(root, each.file))
      process.stderr.write(`wexlet: ${name} is outside of ${printable(root)}; left as it is\n`);
    else if (each.isNew && existsSync(each.file))
      process.stderr.write(`wexlet: ${name} is there already; left as it is\n`);
    else {
      writeWhole(each.file, each.isNew ? each.added : withAdded(each));
      written += each.specs.length;
      process.stdout.write(`${each.isNew ? 'made' : 'added to'} ${name}\n`);
    }
  }
  process.stderr.write(`wexlet: ${plural(written, 'pending spec')} written\n`);
}

function withAdded({ file, added, at, imports }: PendingFile): Uint8Array {
  const source = decodeSource(file, readFileSync(file));
  if (isProblem(source)) throw new UsageError(`${printable(file)} cannot be read any more`);
  const { text } = source;
  return encodeSource(source, imports + text.slice(0, at) + added + text.slice(at));
}

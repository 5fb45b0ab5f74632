import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import type { Level } from '../../finding.js';
import { audit } from '../../audit/audit.js';
import type { AuditRequest } from '../../audit/prepare.js';
import type { Report } from '../../audit/report.js';
import { AUDIT_FORMATS, formatted } from '../../formats/registry.js';
import type { TextOptions } from '../../formats/text.js';
import { printable } from '../../util/printable.js';
import { remembered, type CacheFlag } from '../cache.js';
import { EXIT, UsageError } from '../exit.js';
import { namesOfChecks, commandScope, type CommandScope } from '../scope.js';
import { coloursFor, progress, widthFor } from '../terminal.js';
import { ownVersion } from '../../util/own-package.js';
import { writeWhole } from '../write.js';

export interface AuditFlags {
  format?: string;
  out?: string;
  only?: string[];
  holdAt?: Level;
  coverage?: string[];
  all?: boolean;
  strict?: boolean;
  color: boolean;
  cache?: CacheFlag;
}

/** `wexlet audit`. */
export async function runAudit(paths: string[], options: AuditFlags): Promise<void> {
  const report = await auditScope(commandScope(paths), options);
  const text = await formatted(AUDIT_FORMATS, options.format ?? 'text', report, textOptions(options));
  process.exitCode = exitCodeOf(report, options.strict ?? false);
  if (report.counts.specFiles === 0) process.stderr.write(nothingFound(report));
  if (options.out) writeWhole(options.out, text);
  else process.stdout.write(text);
}

/** How the flags and the terminal have a text look. */
export function textOptions({ out, color, all }: Pick<AuditFlags, 'out' | 'color' | 'all'>): TextOptions {
  const toFile = out !== undefined;
  return { width: toFile ? 100 : widthFor(), colours: coloursFor(color, toFile), all: all ?? false };
}

type AskedOptions = Pick<AuditFlags, 'only' | 'holdAt' | 'coverage' | 'cache'>;

/** What an audit of a scope is asked for, with what the command line says on top of the settings. */
export function requestFor(scope: CommandScope, options: AskedOptions): AuditRequest {
  const settings = {
    ...scope.settings,
    holdAt: options.holdAt ?? scope.settings.holdAt,
    coverage: options.coverage ?? scope.settings.coverage,
  };
  const { root, paths } = scope;
  for (const path of options.coverage ?? [])
    if (!/[*?{[]/.test(path) && !existsSync(resolve(root, path)))
      throw new UsageError(`the coverage file ${printable(path)} is not there`);
  return {
    root,
    paths,
    settings,
    only: namesOfChecks(options.only),
    version: ownVersion(),
    node: process.versions.node,
  };
}

/** Audits a scope, and shows how far it is. */
export async function auditScope(scope: CommandScope, options: AskedOptions): Promise<Report> {
  const request = requestFor(scope, options);
  const shown = progress();
  try {
    const { paths, settings, only } = request;
    const key = [paths, { ...settings, checks: [...settings.checks] }, only ?? []];
    return await remembered(scope.root, options.cache, key, (files) =>
      audit(files, { ...request, onProgress: (done, all) => shown.at(done, all) }),
    );
  } finally {
    shown.end();
  }
}

// What is not sure holds only for those who ask for it.
function exitCodeOf({ counts, verdict }: Report, strict: boolean): number {
  if (counts.specFiles === 0 && counts.findings.blocker === 0) return EXIT.nothing;
  return verdict === 'hold' || (strict && verdict === 'unsure') ? EXIT.hold : EXIT.ready;
}

const nothingFound = ({ counts }: Report): string =>
  `wexlet: no spec file ${counts.findings.blocker ? 'could be read' : 'found'} here. Name a folder, or set "specs" in wexlet.json.\n`;

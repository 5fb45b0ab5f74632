import { ownVersion } from './util/own-package.js';
import { audit as auditSuite, auditWithPending } from './audit/audit.js';
import { outline as outlineFile, type Outline } from './audit/outline.js';
import type { AuditRequest } from './audit/prepare.js';
import type { Report } from './audit/report.js';
import { checksNamed, unknownName } from './checks/names.js';
import { settingsFrom, type Settings } from './config/settings.js';
import type { Files } from './host/files.js';
import type { Problem } from './syntax/source.js';
import { isAbsolute } from './util/paths.js';
import type { PendingFile } from './writing/pending-specs.js';

/** A request that can't be carried out. The message says what of it is wrong. */
export class RequestError extends Error {}

/** What the library is asked for. `root` and `paths` are absolute, with `/`. */
export interface AuditOptions extends Pick<AuditRequest, 'node' | 'only' | 'libraries' | 'onProgress'> {
  /** The folder that paths in the report start from. */
  root: string;
  /** Files and folders to audit; all below the root where there is none. */
  paths?: readonly string[];
  /** Settings beside the defaults. */
  settings?: Partial<Settings>;
  /** The version that the report names; that of this package by default. */
  version?: string;
}

/** Audits a suite. Reads only; runs nothing of the project. Equal files give equal reports. Throws RequestError. */
export const audit = async (files: Files, options: AuditOptions): Promise<Report> =>
  auditSuite(files, checked(files, options));

/** Audits a suite, and writes pending specs for what none of its specs exercises: texts, no files. Throws RequestError. */
export async function gaps(
  files: Files,
  options: AuditOptions,
): Promise<{ report: Report; pending: PendingFile[] }> {
  return auditWithPending(files, checked(files, { ...options, only: options.only ?? ['branches'] }));
}

/** What is understood of one spec file; a Problem where it can't be read. Throws RequestError. */
export async function outline(files: Files, options: AuditOptions, path: string): Promise<Outline | Problem> {
  return outlineFile(files, checked(files, { ...options, paths: options.paths ?? [path] }), path);
}

function checked(files: Files, options: AuditOptions): AuditRequest {
  const { root, paths = [root], settings, only, version = ownVersion() } = options;
  if (!isAbsolute(root)) throw new RequestError(`the root must be an absolute path: ${root}`);
  if (files.kind(root) !== 'folder') throw new RequestError(`the root is no folder: ${root}`);
  const gone = paths.find((path) => !isAbsolute(path) || files.kind(path) === undefined);
  if (gone !== undefined) throw new RequestError(`there is nothing at ${gone}`);
  for (const name of [...(only ?? []), ...(settings?.checks?.keys() ?? [])])
    if (checksNamed(name) !== name) throw new RequestError(unknownName(name));
  return { ...options, root, paths, version, settings: { ...settingsFrom(), ...settings } };
}

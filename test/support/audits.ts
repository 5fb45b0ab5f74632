import { realpathSync } from 'node:fs';
import { audit, DiskFiles, settingsFrom, type Config, type Files, type Report } from '#src/index.js';

/** Audits a folder with the core, without the command line. */
export function auditFolder(
  folder: string,
  only?: string[],
  config: Config = {},
  files: Files = new DiskFiles(),
): Promise<Report> {
  const root = realpathSync(folder);
  return audit(files, {
    root,
    paths: [root],
    settings: settingsFrom(config),
    only,
    version: '0',
    node: '20.19.0',
  });
}

/** The findings of a report in the words of a sample's marks: only as many as the mark has. */
export const placesOf = (report: Report): string[] =>
  report.findings.map(
    ({ file, line, code, level, certainty }) => `${file}:${line} ${code} ${level} ${certainty}`,
  );

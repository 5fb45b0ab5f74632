import type { Report } from '../audit/report.js';
import type { TextOptions } from './text.js';

/** A way to print something; what only one format needs is loaded with it. */
type Format = () => Promise<(report: Report, options: TextOptions) => string>;

const json: Format = async () => (await import('./json.js')).jsonReport;

/** What `wexlet audit` prints, by the name of the format: a new format is one file, and one line here. */
export const AUDIT_FORMATS: Readonly<Record<string, Format>> = {
  text: async () => (await import('./text.js')).textReport,
  json,
};

/** What `wexlet gaps` prints. */
export const GAPS_FORMATS: Readonly<Record<string, Format>> = {
  text: async () => (await import('./gaps.js')).gapsReport,
  json,
};

/** Prints a report in a format of a table, by its name. */
export async function formatted(
  formats: Readonly<Record<string, Format>>,
  name: string,
  report: Report,
  options: TextOptions,
): Promise<string> {
  const format = formats[name];
  if (!format) throw new Error(`no format is called ${name}`);
  return (await format())(report, options);
}

import type { Report } from '../audit/report.js';

/** The report as JSON, two spaces deep, with a line end. */
export const jsonReport = (report: Report): string => `${JSON.stringify(report, null, 2)}\n`;

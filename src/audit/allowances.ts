import type { Source } from '../syntax/source.js';

/** A comment that allows findings. Lines count from 1. */
export interface Allowance {
  codes: readonly string[];
  reason: string | undefined;
  /** The line whose findings it allows; undefined for the whole file. */
  line: number | undefined;
  start: number;
  end: number;
  used: boolean;
}

const WORDS = /wexlet:\s*(allow(?:-file)?)\s+([A-Z]\d\d(?:\s*,\s*[A-Z]\d\d)*)(?:\s+because\s+(.*))?/s;

/** The allowances among the comments of a file. The one for a line stands on the line before. */
export function allowancesIn(
  comments: readonly { text: string; start: number; end: number }[],
  source: Source,
): Allowance[] {
  return comments.flatMap(({ text, start, end }) => {
    const match = WORDS.exec(text);
    if (!match) return [];
    const [, kind, codes = '', reason] = match;
    const last = source.lines.at(end).line;
    return [
      {
        codes: codes.split(/\s*,\s*/),
        reason: reason?.trim().replace(/\s*(?:\*\/|-->)\s*$/, '') || undefined,
        line: kind === 'allow' ? last + 1 : undefined,
        start,
        end,
        used: false,
      },
    ];
  });
}

/** Whether an allowance takes a finding of a code at a line; marks it as used if so. */
export function isAllowed(allowances: readonly Allowance[], code: string, line: number): boolean {
  const match = allowances.find(
    (allowance) =>
      allowance.reason &&
      allowance.codes.includes(code) &&
      (allowance.line === undefined || allowance.line === line),
  );
  if (match) match.used = true;
  return match !== undefined;
}

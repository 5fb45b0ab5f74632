import type { Finding } from '../finding.js';
import { nearest } from '../util/nearest.js';
import type { CheckText } from './questions/check.js';

const messageIdle = (codes: string): string => `This allowance of ${codes} allows nothing.`;
const messageUnknown = (code: string): string => `No check is called ${code}: this allows nothing.`;
const messageBare = (codes: string): string =>
  `This allowance of ${codes} gives no reason, so it does not count.`;

const IDLE: CheckText = {
  code: 'A01',
  family: 'allowances',
  title: 'Allowance that allows nothing',
  level: 'hint',
  why: 'The trouble that it allowed is gone, or it names another code: it only hides what comes next.',
  certain: 'Sure where the checks of all these codes are on.',
  trouble: '// wexlet: allow S01 because the kiln is rebuilt below\n// … and nothing below is an S01',
  mended: '// (the comment is gone)',
};

const BARE: CheckText = {
  code: 'A02',
  family: 'allowances',
  title: 'Allowance without a reason',
  level: 'hint',
  why: 'An allowance without a reason does not count: the next reader could not know whether it still holds.',
  certain: 'Sure where the comment stands.',
  trouble: '// wexlet: allow Q01',
  mended: '// wexlet: allow Q01 because the chart library draws without roles',
};

/** Findings about the comments that allow findings. */
export const ALLOWANCES: readonly CheckText[] = [IDLE, BARE];

/** A comment that allows findings of some codes. */
interface Allowance {
  codes: readonly string[];
  reason: string | undefined;
  start: number;
  end: number;
  /** Whether there was a finding for it to allow. */
  used: boolean;
}

/** What there is to say of the allowances of a file, once all its findings were held against them. */
export function aboutAllowances(
  allowances: readonly Allowance[],
  file: string,
  codesOfChecks: readonly string[],
): { code: string; found: Finding }[] {
  const isCode = (code: string): boolean => codesOfChecks.includes(code);
  const nearestCode = (code: string): string => {
    const near = nearest(code, codesOfChecks);
    return near ? `Its code is ${near}.` : 'Take it out, or name a code of wexlet explain.';
  };
  return allowances.flatMap(({ codes, reason, used, start, end }) => {
    const at = { place: { file, start, end }, certainty: 'sure' as const };
    const names = codes.join(', ');
    if (!reason)
      return [
        {
          code: BARE.code,
          found: { ...at, message: messageBare(names), advice: 'Add “because” and the reason.' },
        },
      ];
    const unknown = codes.find((code) => !isCode(code));
    if (unknown !== undefined)
      return [
        {
          code: IDLE.code,
          found: { ...at, message: messageUnknown(unknown), advice: nearestCode(unknown) },
        },
      ];
    return used
      ? []
      : [{ code: IDLE.code, found: { ...at, message: messageIdle(names), advice: 'Take it out.' } }];
  });
}

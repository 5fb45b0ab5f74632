import type { CheckText } from './questions/check.js';

/** Findings about the comments that allow findings. */
export const ALLOWANCES: readonly CheckText[] = [
  {
    code: 'A01',
    family: 'allowances',
    title: 'Allowance that allows nothing',
    level: 'hint',
    why: 'The trouble that it allowed is gone, or it names another code: it only hides what comes next.',
    trouble: '// wexlet: allow S01 because the kiln is rebuilt below\n// … and nothing below is an S01',
    mended: '// (the comment is gone)',
  },
  {
    code: 'A02',
    family: 'allowances',
    title: 'Allowance without a reason',
    level: 'hint',
    why: 'An allowance without a reason does not count: the next reader could not know whether it still holds.',
    trouble: '// wexlet: allow Q01',
    mended: '// wexlet: allow Q01 because the chart library draws without roles',
  },
];

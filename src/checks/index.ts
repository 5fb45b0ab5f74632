import { BRANCHES } from './branches/index.js';
import type { Check, CheckText } from './questions/check.js';
import { CLEANUP } from './cleanup/index.js';
import { ENVIRONMENT } from './environment/index.js';
import { OVERLOAD } from './overload/index.js';
import { QUERIES } from './queries/index.js';
import { STATE_CHECKS } from './state/index.js';
import { ALLOWANCES } from './allowances.js';

/** Every check, by family and number. */
export const CHECKS: readonly Check[] = [
  ...ENVIRONMENT,
  ...QUERIES,
  ...STATE_CHECKS,
  ...CLEANUP,
  ...OVERLOAD,
  ...BRANCHES,
];

/** Every code that a finding may have, with what there is to say of it. */
export const CATALOGUE: readonly CheckText[] = [...CHECKS, ...ALLOWANCES];

/** What there is to say of a code, in either case of letters. */
export const textOfCode = (code: string): CheckText | undefined =>
  CATALOGUE.find((each) => each.code === code.toUpperCase());

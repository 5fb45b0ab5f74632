import type { Check } from '../questions/check.js';
import { S01 } from './S01.js';
import { S02 } from './S02.js';
import { S03 } from './S03.js';
import { S04 } from './S04.js';
import { S05 } from './S05.js';
import { S06 } from './S06.js';
import { S07 } from './S07.js';
import { S08 } from './S08.js';
import { S09 } from './S09.js';
import { S10 } from './S10.js';
import { S11 } from './S11.js';
import { S12 } from './S12.js';
import { S13 } from './S13.js';
import { S14 } from './S14.js';
import { S15 } from './S15.js';
import { S16 } from './S16.js';
import { S17 } from './S17.js';

/** The checks of this family, by number. */
export const STATE_CHECKS: readonly Check[] = [
  S01,
  S02,
  S03,
  S04,
  S05,
  S06,
  S07,
  S08,
  S09,
  S10,
  S11,
  S12,
  S13,
  S14,
  S15,
  S16,
  S17,
];

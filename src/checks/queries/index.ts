import type { Check } from '../questions/check.js';
import { Q01 } from './Q01.js';
import { Q02 } from './Q02.js';
import { Q03 } from './Q03.js';
import { Q04 } from './Q04.js';
import { Q05 } from './Q05.js';
import { Q06 } from './Q06.js';
import { Q07 } from './Q07.js';
import { Q08 } from './Q08.js';
import { Q09 } from './Q09.js';
import { Q10 } from './Q10.js';
import { Q11 } from './Q11.js';
import { Q12 } from './Q12.js';
import { Q13 } from './Q13.js';
import { Q14 } from './Q14.js';
import { Q15 } from './Q15.js';
import { Q16 } from './Q16.js';
import { Q17 } from './Q17.js';
import { Q18 } from './Q18.js';
import { Q19 } from './Q19.js';

/** Every check of how specs reach elements. */
export const QUERIES: readonly Check[] = [
  Q01,
  Q02,
  Q03,
  Q04,
  Q05,
  Q06,
  Q07,
  Q08,
  Q09,
  Q10,
  Q11,
  Q12,
  Q13,
  Q14,
  Q15,
  Q16,
  Q17,
  Q18,
  Q19,
];

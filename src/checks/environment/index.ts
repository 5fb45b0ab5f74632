import { E01 } from './E01.js';
import { E02 } from './E02.js';
import { E03 } from './E03.js';
import { E04 } from './E04.js';
import { E05 } from './E05.js';
import { E06 } from './E06.js';
import { E07 } from './E07.js';
import { E08 } from './E08.js';
import { E09 } from './E09.js';
import { E10 } from './E10.js';
import { E11 } from './E11.js';
import { E12 } from './E12.js';
import { E13 } from './E13.js';
import { E14 } from './E14.js';
import { E15 } from './E15.js';
import { E16 } from './E16.js';
import { E17 } from './E17.js';
import { E18 } from './E18.js';
import { E19 } from './E19.js';
import { E20 } from './E20.js';
import { E21 } from './E21.js';
import { E22 } from './E22.js';
import { E23 } from './E23.js';
import { E24 } from './E24.js';
import { E25 } from './E25.js';
import { E26 } from './E26.js';
import { E27 } from './E27.js';
import { E28 } from './E28.js';
import { E29 } from './E29.js';
import { E30 } from './E30.js';
import { E31 } from './E31.js';
import { E32 } from './E32.js';
import type { Check } from '../questions/check.js';

/** The checks of how a suite runs. */
export const ENVIRONMENT: readonly Check[] = [
  E01,
  E02,
  E03,
  E04,
  E05,
  E06,
  E07,
  E08,
  E09,
  E10,
  E11,
  E12,
  E13,
  E14,
  E15,
  E16,
  E17,
  E18,
  E19,
  E20,
  E21,
  E22,
  E23,
  E24,
  E25,
  E26,
  E27,
  E28,
  E29,
  E30,
  E31,
  E32,
];

import type { Check } from '../questions/check.js';
import { C01 } from './C01.js';
import { C02 } from './C02.js';
import { C03 } from './C03.js';
import { C04 } from './C04.js';
import { C05 } from './C05.js';
import { C06 } from './C06.js';
import { C07 } from './C07.js';
import { C08 } from './C08.js';
import { C09 } from './C09.js';
import { C10 } from './C10.js';
import { C11 } from './C11.js';
import { C12 } from './C12.js';
import { C13 } from './C13.js';
import { C14 } from './C14.js';
import { C15 } from './C15.js';
import { C16 } from './C16.js';
import { C17 } from './C17.js';
import { C18 } from './C18.js';

/** The checks of this family, by number. */
export const CLEANUP: readonly Check[] = [
  C01,
  C02,
  C03,
  C04,
  C05,
  C06,
  C07,
  C08,
  C09,
  C10,
  C11,
  C12,
  C13,
  C14,
  C15,
  C16,
  C17,
  C18,
];

import type { Check } from '../questions/check.js';
import { B01 } from './B01.js';
import { B02 } from './B02.js';
import { B03 } from './B03.js';
import { B04 } from './B04.js';
import { B05 } from './B05.js';
import { B06 } from './B06.js';
import { B07 } from './B07.js';
import { B08 } from './B08.js';
import { B09 } from './B09.js';
import { B10 } from './B10.js';
import { B11 } from './B11.js';
import { B12 } from './B12.js';
import { B13 } from './B13.js';

/** Checks of the branches family, by number. */
export const BRANCHES: readonly Check[] = [B01, B02, B03, B04, B05, B06, B07, B08, B09, B10, B11, B12, B13];

import type { Check } from '../questions/check.js';
import { O01 } from './O01.js';
import { O02 } from './O02.js';
import { O03 } from './O03.js';
import { O04 } from './O04.js';
import { O05 } from './O05.js';
import { O06 } from './O06.js';
import { O07 } from './O07.js';
import { O08 } from './O08.js';
import { O09 } from './O09.js';
import { O10 } from './O10.js';
import { O11 } from './O11.js';
import { O12 } from './O12.js';
import { O13 } from './O13.js';
import { O14 } from './O14.js';
import { O15 } from './O15.js';
import { O16 } from './O16.js';
import { O17 } from './O17.js';
import { O18 } from './O18.js';
import { O19 } from './O19.js';
import { O20 } from './O20.js';
import { O21 } from './O21.js';
import { O22 } from './O22.js';
import { O23 } from './O23.js';
import { O24 } from './O24.js';
import { O25 } from './O25.js';
import { O27 } from './O27.js';
import { O26 } from './O26.js';

/** Specs that say too much at once, or nothing. */
export const OVERLOAD: readonly Check[] = [
  O01,
  O02,
  O03,
  O04,
  O05,
  O06,
  O07,
  O08,
  O09,
  O10,
  O11,
  O12,
  O13,
  O14,
  O15,
  O16,
  O17,
  O18,
  O19,
  O20,
  O21,
  O22,
  O23,
  O24,
  O25,
  O26,
  O27,
];

import { FAMILIES } from '../finding.js';
import { orNearest } from '../util/nearest.js';
import { printable } from '../util/printable.js';
import { CATALOGUE } from './index.js';

const NAMES: readonly string[] = [...CATALOGUE.map(({ code }) => code), ...FAMILIES];

/** The code or family that a name means, in either case of letters; undefined where none does. */
export const checksNamed = (name: string): string | undefined =>
  NAMES.find((each) => each.toLowerCase() === name.toLowerCase());

/** What to say of a name that means neither, with the nearest that does. */
export const unknownName = (name: string): string =>
  `no check or family is called ${printable(name)}${orNearest(name, NAMES)}`;

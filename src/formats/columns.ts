import { printable } from '../util/printable.js';
import type { Colours } from './colours.js';

/** How wide a column for one package is. */
export const COLUMN = 22;
const MOST_PACKAGES = 3;

/** Of many packages, those with the largest figure, in their own order. */
export function largest<T>(all: readonly T[], figure: (each: T) => number): T[] {
  const shown = [...all].sort((a, b) => figure(b) - figure(a)).slice(0, MOST_PACKAGES);
  return all.filter((each) => shown.includes(each));
}

/** The line above a chart: what it is of, and the names of the packages. */
export const heading = (title: string, columns: readonly { name: string }[], colours: Colours): string =>
  colours.faint(
    `  ${title.padEnd(13)}${columns.map(({ name }) => shortened(printable(name === '.' ? '' : name)).padEnd(COLUMN)).join('')}`,
  );

/** The line below a chart that does not show all packages. */
export const moreColumns = (left: number, colours: Colours): string[] =>
  left > 0 ? [colours.faint(`  and ${left} more in the JSON report`)] : [];

// The end of a path says most.
const shortened = (name: string): string =>
  name.length < COLUMN - 1 ? name : `…${name.slice(name.length - COLUMN + 3)}`;

import type { PackageFacts, Rung } from '../audit/report.js';
import { RUNGS } from '../audit/report.js';
import { printable } from '../util/printable.js';
import type { Colours } from './colours.js';
import { RUNG_NAMES } from './outline.js';

const BAR = 12;
const MOST_PACKAGES = 3;
const COLUMN = 22;

/** A small chart: how many reaches of each package stand on each rung of the ladder, best rung first. */
export function reachChart(packages: readonly PackageFacts[], colours: Colours): string[] {
  const all = packages
    .map(({ package: name, reach }) => ({ name, reach, sum: sumOf(reach) }))
    .filter(({ sum }) => sum > 0);
  if (all.length === 0) return [];
  // Of many packages, those that reach most.
  const shown = [...all].sort((a, b) => b.sum - a.sum).slice(0, MOST_PACKAGES);
  const columns = all.filter((each) => shown.includes(each));
  const most = Math.max(...columns.flatMap(({ reach }) => RUNGS.map((rung) => reach[rung])));
  const head = columns
    .map(({ name }) => shortened(printable(name === '.' ? '' : name)).padEnd(COLUMN))
    .join('');
  const rows = RUNGS.map(
    (rung) =>
      `  ${RUNG_NAMES[rung].padEnd(13)}${columns.map(({ reach }) => cell(reach[rung], most, colours)).join('')}`,
  );
  const left = all.length - columns.length;
  return [
    colours.faint(`  ${'reached by'.padEnd(13)}${head}`),
    ...rows,
    ...(left > 0 ? [colours.faint(`  and ${left} more in the JSON report`)] : []),
    '',
  ];
}

const sumOf = (reach: Record<Rung, number>): number => RUNGS.reduce((sum, rung) => sum + reach[rung], 0);

function cell(count: number, most: number, colours: Colours): string {
  const length = count === 0 ? 0 : Math.max(1, Math.round((count / most) * BAR));
  const text = count === 0 ? '·' : `${'▪'.repeat(length)} ${count}`;
  return count === 0 ? colours.faint(text.padEnd(COLUMN)) : text.padEnd(COLUMN);
}

// The end of a path says most.
const shortened = (name: string): string =>
  name.length < COLUMN - 1 ? name : `…${name.slice(name.length - COLUMN + 3)}`;

import { type PackageFacts } from '../audit/report.js';
import { type Rung, RUNGS } from '../specs/model/rungs.js';
import type { Colours } from './colours.js';
import { COLUMN, heading, largest, moreColumns } from './columns.js';
import { RUNG_NAMES } from './outline.js';

const BAR = 12;

/** A small chart: how many reaches of each package stand on each rung of the ladder, best rung first. */
export function reachChart(packages: readonly PackageFacts[], colours: Colours): string[] {
  const all = packages
    .map(({ package: name, reach }) => ({ name, reach, sum: sumOf(reach) }))
    .filter(({ sum }) => sum > 0);
  if (all.length === 0) return [];
  const columns = largest(all, ({ sum }) => sum);
  const most = Math.max(...columns.flatMap(({ reach }) => RUNGS.map((rung) => reach[rung])));
  const rows = RUNGS.map(
    (rung) =>
      `  ${RUNG_NAMES[rung].padEnd(13)}${columns.map(({ reach }) => cell(reach[rung], most, colours)).join('')}`,
  );
  return [
    heading('reached by', columns, colours),
    ...rows,
    ...moreColumns(all.length - columns.length, colours),
    '',
  ];
}

const sumOf = (reach: Record<Rung, number>): number => RUNGS.reduce((sum, rung) => sum + reach[rung], 0);

function cell(count: number, most: number, colours: Colours): string {
  const length = count === 0 ? 0 : Math.max(1, Math.round((count / most) * BAR));
  const text = count === 0 ? '·' : `${'▪'.repeat(length)} ${count}`;
  return count === 0 ? colours.faint(text.padEnd(COLUMN)) : text.padEnd(COLUMN);
}

import type { PackageFacts, Sizes, Spread } from '../audit/report.js';
import type { Colours } from './colours.js';
import { COLUMN, heading, largest, moreColumns } from './columns.js';

/** How large the specs of each package are, and how many of them say little. */
export function sizeChart(packages: readonly PackageFacts[], colours: Colours): string[] {
  const all = packages
    .map(({ package: name, sizes }) => ({ name, sizes }))
    .filter(({ sizes }) => sizes.specs > 0);
  const columns = largest(all, ({ sizes }) => sizes.specs);
  if (columns.length === 0) return [];
  const row = (title: string, cell: (sizes: Sizes) => string): string =>
    `  ${title.padEnd(13)}${columns.map(({ sizes }) => padded(cell(sizes), colours)).join('')}`;
  const isKnown = (figure: (sizes: Sizes) => number | undefined): boolean =>
    columns.every(({ sizes }) => figure(sizes) !== undefined);
  return [
    heading('the suite', columns, colours),
    row('specs', ({ specs }) => String(specs)),
    row('assertions', ({ assertions }) => spread(assertions)),
    row('rounds', ({ rounds }) => spread(rounds)),
    ...(isKnown(({ cannotFail }) => cannotFail)
      ? [row('cannot fail', ({ cannotFail }) => count(cannotFail))]
      : []),
    ...(isKnown(({ vagueTitles }) => vagueTitles)
      ? [row('say nothing', ({ vagueTitles }) => count(vagueTitles))]
      : []),
    ...moreColumns(all.length - columns.length, colours),
    '',
  ];
}

const spread = ({ median, p90 }: Spread): string => `median ${median} · p90 ${p90}`;

const count = (figure = 0): string => (figure === 0 ? '·' : String(figure));

const padded = (cell: string, colours: Colours): string =>
  cell === '·' ? colours.faint(cell.padEnd(COLUMN)) : cell.padEnd(COLUMN);

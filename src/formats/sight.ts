import type { PackageFacts, Sight, Unseen } from '../audit/report.js';
import { plural } from '../util/plural.js';
import { printable } from '../util/printable.js';
import type { Colours } from './colours.js';
import { wrapped } from './wrapped.js';

const MOST_CAUSES = 5;
/** Of so few of the queries, and of so small a share, the element may be unknown without a word on it. */
const FEW = 10;
const SMALL = 0.25;

/** What of each package could not be seen, and what would open it; nothing where all that matters is in sight. */
export function sightLines(
  packages: readonly PackageFacts[],
  { colours, width, all }: { colours: Colours; width: number; all: boolean },
): string[] {
  const told = packages.flatMap(({ package: name, sight }) => {
    const causes = worthSaying(sight);
    return causes.length > 0 ? [{ name, sight, causes }] : [];
  });
  return told.flatMap(({ name, sight, causes }) => {
    const shown = all ? causes : causes.slice(0, MOST_CAUSES);
    const of = name === '.' ? '' : ` in ${printable(name)}`;
    const left = causes.length - shown.length;
    return [
      `  ${colours.strong(`not seen${of}`)}   ${colours.faint(share(sight))}`,
      ...shown.flatMap((cause) => causeLines(cause, colours, width)),
      ...(left > 0 ? [colours.faint(`    and ${left} more: --all shows every one.`)] : []),
      '',
    ];
  });
}

const share = ({ queries, elements }: Sight): string =>
  queries === 0 ? '' : `the element is known of ${elements} in ${plural(queries, 'query', 'queries')}`;

// An element that can't be told is worth a word where many can't.
function worthSaying({ queries, elements, unseen }: Sight): Unseen[] {
  const isDim = queries - elements > Math.max(FEW, queries * SMALL);
  return unseen.filter(({ what }) => what !== 'element' || isDim);
}

function causeLines(
  { what, name, reason, opens, count, files, file, line }: Unseen,
  colours: Colours,
  width: number,
): string[] {
  const where = files === 1 ? `${printable(file)}:${line}` : plural(files, 'file');
  const subject =
    what === 'element'
      ? `${plural(count, 'query', 'queries')}: ${printable(reason)}`
      : `${printable(name)}  ${printable(reason)}`;
  const often = count > 1 && what !== 'element' ? `${count} times, ` : '';
  const [first = '', ...rest] = wrapped(`${subject}  ${colours.faint(often + where)}`, 6, width);
  return [
    `    ${first.trimStart()}`,
    ...rest,
    ...(opens ? wrapped(colours.faint(`→ ${opens}`), 6, width) : []),
  ];
}

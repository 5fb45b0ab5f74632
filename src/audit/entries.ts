import { LEVELS, type Family } from '../finding.js';
import { grouped } from '../util/grouped.js';
import type { Entry, ReportedFinding } from './report.js';

/** So many files with findings of one code are no longer single places: it is a habit, and is said once. */
const HABIT = 5;
const BEST = 3;

interface Numbered {
  finding: ReportedFinding;
  index: number;
}

/**
 * What a report says, each thing once: findings of one code in one file are one entry, and those of a habit, all over a
 * package, are one as well. In the order in which one would mend them: blockers, what leaks, what helps most specs, habits.
 */
export function entriesOf(
  findings: readonly ReportedFinding[],
  packageOf: (file: string) => string,
): Entry[] {
  const numbered = findings.map((finding, index) => ({ finding, index }));
  const kinds = grouped(
    numbered,
    ({ finding: { file, code, level } }) => `${packageOf(file)}\0${code}\0${level}`,
  );
  const entries = [...kinds.values()].flatMap((kind) => {
    const byFile = [...grouped(kind, ({ finding }) => finding.file).values()];
    const [first] = kind;
    if (!first) return [];
    return byFile.length < HABIT
      ? byFile.flatMap((own) => entryOf(own, own[0]?.finding.file ?? '', 'file'))
      : entryOf(kind, packageOf(first.finding.file), 'package');
  });
  return entries.sort((a, b) => compare(a, b, findings));
}

function entryOf(own: readonly Numbered[], at: string, scope: Entry['scope']): Entry[] {
  const [first] = own;
  if (!first) return [];
  const { code, level, family } = first.finding;
  return [
    {
      code,
      family,
      level,
      certainty: own.some(({ finding }) => finding.certainty === 'sure') ? 'sure' : 'likely',
      scope,
      at,
      files: new Set(own.map(({ finding }) => finding.file)).size,
      specs: new Set(own.map(({ finding: { file, group, spec } }) => [file, ...group, spec].join('\0'))).size,
      findings: own.map(({ index }) => index),
      best: scope === 'package' ? best(own) : [],
    },
  ];
}

// One place a file, of the files that have most: sure before likely, with a mend before without.
function best(own: readonly Numbered[]): number[] {
  const files = [...grouped(own, ({ finding }) => finding.file).values()].map((places) =>
    [...places].sort((a, b) => weight(b) - weight(a)),
  );
  const ranked = files.sort(
    (a, b) => weight(b[0]) - weight(a[0]) || b.length - a.length || (a[0]?.index ?? 0) - (b[0]?.index ?? 0),
  );
  return ranked.slice(0, BEST).flatMap(([first]) => first?.index ?? []);
}

const weight = (numbered: Numbered | undefined): number =>
  numbered
    ? (numbered.finding.certainty === 'sure' ? 4 : 0) +
      (numbered.finding.mend ? 2 : 0) +
      (numbered.finding.suggestion ? 1 : 0)
    : 0;

const LEAKS: readonly Family[] = ['environment', 'state', 'cleanup'];

function compare(a: Entry, b: Entry, findings: readonly ReportedFinding[]): number {
  const line = ({ findings: [index = 0] }: Entry): number => findings[index]?.line ?? 0;
  return (
    LEVELS.indexOf(a.level) - LEVELS.indexOf(b.level) ||
    Number(a.scope === 'package') - Number(b.scope === 'package') ||
    Number(!LEAKS.includes(a.family)) - Number(!LEAKS.includes(b.family)) ||
    b.specs - a.specs ||
    (a.at < b.at ? -1 : a.at > b.at ? 1 : line(a) - line(b)) ||
    (a.code < b.code ? -1 : 1)
  );
}

import stringWidth from 'string-width';
import wrapAnsi from 'wrap-ansi';
import type { Report, ReportedFinding } from '../audit/report.js';
import { FAMILIES, LEVELS } from '../finding.js';
import { textOfCode } from '../checks/index.js';
import { plural } from '../util/plural.js';
import { printable } from '../util/printable.js';
import type { Colours } from './colours.js';
import { findingEntries, rank, type FindingEntry } from './entries.js';
import { reachChart } from './reach.js';
import { sizeChart } from './sizes.js';

export interface TextOptions {
  /** Columns to fill, 80 to 160. */
  width: number;
  colours: Colours;
  /** Show every entry and every place. */
  all: boolean;
}

const MOST_ENTRIES = 24;
const MOST_PLACES = 3;
const MOST_UNREAD = 5;
const MOST_EVIDENCE = 6;
const MOST_CODE = 12;

/** The report for a terminal or a log file. */
export function textReport(report: Report, options: TextOptions): string {
  const entries = findingEntries(report.findings);
  const shown = options.all ? entries : gravest(entries);
  const lines = [
    ...head(report, entries, options),
    '',
    ...byFile(shown, options),
    ...tail(report, entries, shown, options),
  ];
  return lines.map((line) => line.trimEnd()).join('\n') + '\n';
}

// What does not fit is left out from the least grave end.
const gravest = (entries: readonly FindingEntry[]): FindingEntry[] => entries.slice(0, MOST_ENTRIES);

function head(report: Report, entries: readonly FindingEntry[], { colours }: TextOptions): string[] {
  const { counts, verdict } = report;
  const empty = counts.specFiles === 0 && counts.findings.blocker === 0;
  const seal = empty
    ? colours.risk('NOTHING TO AUDIT')
    : verdict === 'hold'
      ? colours.blocker('HOLD')
      : colours.good('READY');
  const read = [
    plural(counts.packages, 'package'),
    plural(counts.specFiles, 'spec file'),
    plural(counts.specs, 'spec'),
    plural(counts.components, 'component'),
  ];
  const sums = LEVELS.map((level) => colours[level](plural(counts.findings[level], level)));
  return [
    '',
    `  ${colours.strong(seal)}   ${sums.join(colours.faint('  ·  '))}`,
    `  ${colours.faint(`read   ${read.join('  ·  ')}`)}`,
    ...familyTable(report, entries, colours),
  ];
}

function familyTable(report: Report, entries: readonly FindingEntry[], colours: Colours): string[] {
  const rows = FAMILIES.flatMap((family) => {
    const of = report.findings.filter((finding) => finding.family === family);
    if (of.length === 0) return [];
    const cells = LEVELS.map((level) => {
      const count = of.filter((finding) => finding.level === level).length;
      const text = count === 0 ? '·' : String(count);
      return count === 0 ? colours.faint(text.padStart(9)) : colours[level](text.padStart(9));
    });
    const codes = [...new Set(of.map(({ code }) => code))].sort().join(' ');
    return [`  ${family.padEnd(13)}${cells.join('')}   ${colours.faint(codes)}`];
  });
  if (rows.length === 0 || entries.length === 0) return [];
  return [
    '',
    colours.faint(`  ${''.padEnd(13)}${LEVELS.map((level) => level.padStart(9)).join('')}`),
    ...rows,
  ];
}

function byFile(entries: readonly FindingEntry[], options: TextOptions): string[] {
  const files = new Map<string, FindingEntry[]>();
  for (const entry of entries) files.set(entry.file, [...(files.get(entry.file) ?? []), entry]);
  const worst = (each: readonly FindingEntry[]): number => Math.min(...each.map(({ level }) => rank(level)));
  const order = [...files].sort(([a, x], [b, y]) => worst(x) - worst(y) || (a < b ? -1 : 1));
  return order.flatMap(([file, each]) => [
    fileLine(file, options),
    '',
    ...each.flatMap((entry) => [...entryLines(entry, options), '']),
  ]);
}

/** The name of a file, with a rule behind it. */
export function fileLine(file: string, { width, colours }: TextOptions): string {
  const name = printable(file);
  return `${colours.strong(name)} ${colours.faint('─'.repeat(Math.max(3, width - stringWidth(name) - 1)))}`;
}

function entryLines(entry: FindingEntry, options: TextOptions): string[] {
  const { colours, all } = options;
  const { findings, level, code } = entry;
  const places = all ? findings : findings.slice(0, MOST_PLACES);
  const likely = findings.every(({ certainty }) => certainty === 'likely') ? colours.faint('  likely') : '';
  const many = findings.length > 1 ? colours.faint(`  ${findings.length} places`) : '';
  const title = colours.strong(textOfCode(code)?.title ?? '');
  const [first] = findings;
  const shared = first && findings.every(({ advice }) => advice === first.advice);
  return [
    `  ${colours[level](level.padEnd(7))}  ${colours.code(code)}  ${title}${many}${likely}`,
    ...places.flatMap((finding, i) => [
      ...placeLines(finding, places[i - 1], options),
      ...(shared ? [] : mendLine(finding, options)),
    ]),
    ...moreLines(findings.slice(places.length), options),
    ...(shared ? mendLine(first, options) : []),
  ];
}

function moreLines(rest: readonly ReportedFinding[], { colours, width }: TextOptions): string[] {
  if (rest.length === 0) return [];
  const lines = [...new Set(rest.map(({ line }) => line))];
  const listed = lines.slice(0, 12).join(', ') + (lines.length > 12 ? ', …' : '');
  return wrapped(colours.faint(`and ${plural(rest.length, 'more place')}: line ${listed}`), 11, width);
}

function mendLine({ advice, mend, code, suggestion = '' }: ReportedFinding, options: TextOptions): string[] {
  const likely = mend?.safe === false ? ' --likely' : '';
  const command = mend ? options.colours.faint(`  (wexlet mend --only ${code}${likely})`) : '';
  // Code of several lines is shown as it would be written; one line stands in the advice.
  const [, ...more] = suggestion.split('\n');
  const shown = more.length > 0 ? suggestion.split('\n').slice(0, options.all ? undefined : MOST_CODE) : [];
  const cut = more.length + 1 > shown.length && shown.length > 0 ? ['…'] : [];
  return [
    ...labelled('mend', printable(advice) + command, options),
    ...[...shown, ...cut].map(
      (line) => ' '.repeat(13) + options.colours.faint(printable(inWidth(line, options))),
    ),
  ];
}

function inWidth(line: string, { width }: TextOptions): string {
  const chars = [...line.replaceAll('\t', '  ')];
  const most = Math.max(40, width - 13);
  return chars.length <= most ? chars.join('') : chars.slice(0, most - 1).join('') + '…';
}

function placeLines(
  finding: ReportedFinding,
  before: ReportedFinding | undefined,
  options: TextOptions,
): string[] {
  const { colours, width } = options;
  const at = colours.faint(String(finding.line).padStart(7));
  if (before?.message === finding.message)
    return [`${at}    ${colours.faint('the same')}`, ...chain(finding, options)];
  const [head = '', ...rest] = wrapped(printable(finding.message), 11, width);
  return [at + head.slice(7), ...rest, ...chain(finding, options)];
}

// The places that prove a finding, as a chain: first to last.
function chain({ evidence, file }: ReportedFinding, { colours, width }: TextOptions): string[] {
  return evidence.slice(0, MOST_EVIDENCE).flatMap((each, i, all) => {
    const mark = all.length === 1 ? '→' : i === 0 ? '┌' : i === all.length - 1 ? '└' : '├';
    const where = each.file === file ? `line ${each.line}` : `${printable(each.file)}:${each.line}`;
    const [head = '', ...rest] = wrapped(`${where}  ${colours.faint(printable(each.note))}`, 13, width);
    return [`           ${colours.faint(mark)} ${head.slice(13)}`, ...rest];
  });
}

function labelled(label: string, text: string, { colours, width }: TextOptions): string[] {
  const [first = '', ...rest] = wrapped(text, 11, width);
  return [`  ${colours.faint(label.padEnd(9))}${first.slice(11)}`, ...rest];
}

const wrapped = (text: string, indent: number, width: number): string[] =>
  wrapAnsi(text, Math.max(40, width - indent), { hard: true })
    .split('\n')
    .map((line) => ' '.repeat(indent) + line);

function tail(
  report: Report,
  entries: readonly FindingEntry[],
  shown: readonly FindingEntry[],
  options: TextOptions,
): string[] {
  const { colours } = options;
  const lines: string[] = [];
  const hidden = entries.length - shown.length;
  if (hidden > 0) {
    const counts = LEVELS.map(
      (level) =>
        [level, entries.filter((entry) => !shown.includes(entry) && entry.level === level).length] as const,
    ).filter(([, count]) => count > 0);
    lines.push(
      `  ${plural(hidden, 'more entry', 'more entries')} (${counts.map(([level, count]) => plural(count, level)).join(', ')}): --all shows every one.`,
      '',
    );
  }
  lines.push(...sizeChart(report.environment, colours), ...reachChart(report.environment, colours));
  lines.push(...unreadLines(report, options));
  if (report.counts.specFiles === 0) return lines;
  if (entries.length === 0) lines.push(`  ${colours.good('Nothing to mend.')}`, '');
  else
    lines.push(
      colours.faint('  wexlet explain <code> says what a check is for; wexlet mend prints changes'),
      '',
    );
  return lines;
}

/** The files that could not be read, and why. */
export function unreadLines({ unread }: Report, { colours, all }: TextOptions): string[] {
  if (unread.length === 0) return [];
  const shown = all ? unread : unread.slice(0, MOST_UNREAD);
  const left = unread.length - shown.length;
  return [
    colours.strong(`  not read: ${plural(unread.length, 'file')}`),
    ...shown.map(
      ({ file, reason, line }) =>
        `    ${printable(file)}${line ? `:${line}` : ''}  ${colours.faint(printable(reason))}`,
    ),
    ...(left > 0 ? [colours.faint(`    and ${left} more: --all shows every one.`)] : []),
    '',
  ];
}

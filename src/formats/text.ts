import stringWidth from 'string-width';
import type { Entry, Report, ReportedFinding } from '../audit/report.js';
import { FAMILIES, LEVELS } from '../finding.js';
import { textOfCode } from '../checks/index.js';
import { grouped } from '../util/grouped.js';
import { plural } from '../util/plural.js';
import { printable } from '../util/printable.js';
import type { Colours } from './colours.js';
import { reachChart } from './reach.js';
import { sightLines } from './sight.js';
import { sizeChart } from './sizes.js';
import { wrapped } from './wrapped.js';

export interface TextOptions {
  /** Columns to fill, 80 to 160. */
  width: number;
  colours: Colours;
  /** Show every entry and every place. */
  all: boolean;
}

const MOST_ENTRIES = 24;
const MOST_PLACES = 3;
const MOST_FILES = 4;
const MOST_UNREAD = 5;
const MOST_EVIDENCE = 6;
const MOST_CODE = 12;

/** The report for a terminal or a log file. */
export function textReport(report: Report, options: TextOptions): string {
  const shown = options.all ? report.entries : gravest(report.entries);
  const lines = [
    ...head(report, options),
    '',
    ...entriesByPlace(report, shown, options),
    ...tail(report, shown, options),
  ];
  return lines.map((line) => line.trimEnd()).join('\n') + '\n';
}

// What does not fit is left out from the least grave end; what is true of a whole package is always said, unless a hint.
const gravest = (entries: readonly Entry[]): Entry[] => {
  const single = new Set(entries.filter(({ scope }) => scope === 'file').slice(0, MOST_ENTRIES));
  const hasRoom = single.size < MOST_ENTRIES;
  return entries.filter(
    (entry) => single.has(entry) || (entry.scope === 'package' && (hasRoom || entry.level !== 'hint')),
  );
};

function head(report: Report, options: TextOptions): string[] {
  const { colours } = options;
  const { counts, verdict } = report;
  const empty = counts.specFiles === 0 && counts.findings.blocker === 0;
  const seal = empty
    ? colours.risk('NOTHING TO AUDIT')
    : verdict === 'hold'
      ? colours.blocker('HOLD')
      : verdict === 'unsure'
        ? colours.risk('NOT SURE')
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
    ...undecidedLines(report, options),
    ...familyTable(report, colours),
  ];
}

const MOST_UNDECIDED = 5;

// Said where nothing holds: else there is enough to do before.
function undecidedLines({ verdict, undecided }: Report, { colours, width }: TextOptions): string[] {
  if (verdict !== 'unsure') return [];
  const more = undecided.length - MOST_UNDECIDED;
  return [
    '',
    ...wrapped('Nothing is wrong in what was read; whether the suite runs could not be told:', 2, width),
    ...undecided.slice(0, MOST_UNDECIDED).flatMap((each) => {
      const where = each.file === undefined ? each.package : `${each.file}:${each.line ?? 1}`;
      return [
        '',
        ...wrapped(`${colours.faint(printable(where))}  ${each.reason}`, 2, width),
        ...wrapped(`not known: ${each.fact}`, 4, width),
        ...wrapped(`would tell: ${each.opens} in wexlet.json`, 4, width),
      ];
    }),
    ...(more > 0 ? ['', `  and ${plural(more, 'more reason')}`] : []),
  ];
}

function familyTable(report: Report, colours: Colours): string[] {
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
  if (rows.length === 0) return [];
  return [
    '',
    colours.faint(`  ${''.padEnd(13)}${LEVELS.map((level) => level.padStart(9)).join('')}`),
    ...rows,
  ];
}

// Entries of one level and one file stand together, where the first of them does.
function entriesByPlace(report: Report, entries: readonly Entry[], options: TextOptions): string[] {
  const places = grouped(entries, ({ level, scope, at }) => `${level}\0${scope}\0${at}`);
  let before: string | undefined;
  return [...places.values()].flatMap((own) => {
    const [first] = own;
    if (!first) return [];
    const isSame = before === `${first.scope} ${first.at}`;
    before = `${first.scope} ${first.at}`;
    const line =
      first.scope === 'file'
        ? fileLine(first.at, options)
        : ruled(first.at === '.' ? 'throughout the suite' : `throughout ${printable(first.at)}`, options);
    const head = isSame ? [] : [line, ''];
    return [...head, ...own.flatMap((entry) => [...entryLines(entry, report, options), ''])];
  });
}

/** The name of a file, with a rule behind it. */
export const fileLine = (file: string, options: TextOptions): string => ruled(printable(file), options);

function ruled(name: string, { width, colours }: TextOptions): string {
  return `${colours.strong(name)} ${colours.faint('─'.repeat(Math.max(3, width - stringWidth(name) - 1)))}`;
}

function entryLines(entry: Entry, report: Report, options: TextOptions): string[] {
  const { colours, all } = options;
  const { level, code, certainty, scope } = entry;
  const findings = entry.findings.flatMap((index) => report.findings[index] ?? []);
  const best = entry.best.flatMap((index) => report.findings[index] ?? []);
  const places = all ? findings : scope === 'package' ? best : findings.slice(0, MOST_PLACES);
  const likely = certainty === 'likely' ? colours.faint('  likely') : '';
  const title = colours.strong(textOfCode(code)?.title ?? '');
  const [first] = findings;
  const shared = first && findings.every(({ advice }) => advice === first.advice);
  return [
    `  ${colours[level](level.padEnd(7))}  ${colours.code(code)}  ${title}${spreadOf(entry, colours)}${likely}`,
    ...places.flatMap((finding, i) => [
      ...placeLines(finding, places[i - 1], scope, options),
      ...(shared ? [] : mendLine(finding, options)),
    ]),
    ...moreLines(
      findings.filter((finding) => !places.includes(finding)),
      scope,
      options,
    ),
    ...(shared ? mendLine(first, options) : []),
  ];
}

function spreadOf({ scope, findings, files }: Entry, colours: Colours): string {
  if (scope === 'file' && findings.length < 2) return '';
  const inFiles = scope === 'package' ? ` in ${plural(files, 'file')}` : '';
  return colours.faint(`  ${plural(findings.length, 'place')}${inFiles}`);
}

function moreLines(
  rest: readonly ReportedFinding[],
  scope: Entry['scope'],
  { colours, width }: TextOptions,
): string[] {
  if (rest.length === 0) return [];
  if (scope === 'package') return wrapped(colours.faint(`and ${mostIn(rest)}`), 11, width);
  const lines = [...new Set(rest.map(({ line }) => line))];
  const listed = lines.slice(0, 12).join(', ') + (lines.length > 12 ? ', …' : '');
  return wrapped(colours.faint(`and ${plural(rest.length, 'more place')}: line ${listed}`), 11, width);
}

// The files that hold most of them.
function mostIn(findings: readonly ReportedFinding[]): string {
  const files = [...grouped(findings, ({ file }) => file)].sort(([, a], [, b]) => b.length - a.length);
  const named = files.slice(0, MOST_FILES).map(([file, own]) => `${printable(file)} ${own.length}`);
  return `${plural(findings.length, 'more place')}: ${named.join(', ')}${files.length > MOST_FILES ? ', …' : ''}`;
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
  scope: Entry['scope'],
  options: TextOptions,
): string[] {
  const { colours, width } = options;
  if (scope === 'package') {
    const where = colours.faint(`${printable(finding.file)}:${finding.line}`);
    const said = before?.message === finding.message ? [] : wrapped(printable(finding.message), 11, width);
    return [...wrapped(where, 11, width), ...said, ...chain(finding, options)];
  }
  const at = colours.faint(String(finding.line).padStart(7));
  if (before?.message === finding.message)
    return [`${at}    ${colours.faint('the same')}`, ...chain(finding, options)];
  const [head = '', ...rest] = wrapped(printable(finding.message), 11, width);
  return [at + head.slice(7), ...rest, ...chain(finding, options)];
}

// The places that prove a finding, as a chain: first to last.
function chain({ evidence, file, hides }: ReportedFinding, { colours, width }: TextOptions): string[] {
  const last = hides
    ? wrapped(
        colours.faint(`hides ${hides.join(', ')}, which follow${hides.length > 1 ? '' : 's'} from it`),
        11,
        width,
      )
    : [];
  const places = evidence.slice(0, MOST_EVIDENCE).flatMap((each, i, all) => {
    const mark = all.length === 1 ? '→' : i === 0 ? '┌' : i === all.length - 1 ? '└' : '├';
    const where = each.file === file ? `line ${each.line}` : `${printable(each.file)}:${each.line}`;
    const [head = '', ...rest] = wrapped(`${where}  ${colours.faint(printable(each.note))}`, 13, width);
    return [`           ${colours.faint(mark)} ${head.slice(13)}`, ...rest];
  });
  return [...places, ...last];
}

function labelled(label: string, text: string, { colours, width }: TextOptions): string[] {
  const [first = '', ...rest] = wrapped(text, 11, width);
  return [`  ${colours.faint(label.padEnd(9))}${first.slice(11)}`, ...rest];
}

function tail(report: Report, shown: readonly Entry[], options: TextOptions): string[] {
  const { colours } = options;
  const { entries } = report;
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
  lines.push(...sightLines(report.environment, options), ...unreadLines(report, options));
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

import stringWidth from 'string-width';
import wrapAnsi from 'wrap-ansi';
import type { CoveredFile, Gap, Report } from '../audit/report.js';
import { grouped } from '../util/grouped.js';
import { plural } from '../util/plural.js';
import { inShort, printable } from '../util/printable.js';
import type { Colours } from './colours.js';
import { fileLine, unreadLines, type TextOptions } from './text.js';

const MOST_COMPONENTS = 15;
const MOST_GAPS = 30;
const MOST_INPUTS = 3;
const BAR = 10;

/** The gaps of a suite for a terminal: shares by component, then each arm with the inputs that take it. */
export function gapsReport(report: Report, options: TextOptions): string {
  const shown = options.all ? report.gaps : gravest(report.gaps);
  const lines = [
    ...head(report, options.colours),
    '',
    ...table(report, options),
    ...[...grouped(shown, ({ file }) => file)].flatMap(([file, gaps]) => [
      fileLine(file, options),
      '',
      ...gaps.flatMap((gap) => [...gapLines(gap, options), '']),
    ]),
    ...unreadLines(report, options),
    ...tail(report, shown.length, options.colours),
  ];
  return lines.map((line) => line.trimEnd()).join('\n') + '\n';
}

// What a run shows comes before what is only worked out.
const gravest = (gaps: readonly Gap[]): Gap[] => {
  const measured = gaps.filter(({ basis }) => basis === 'measured');
  const kept = new Set(
    [...measured, ...gaps.filter(({ basis }) => basis === 'computed')].slice(0, MOST_GAPS),
  );
  return gaps.filter((gap) => kept.has(gap));
};

function head({ gaps, coverage, branches }: Report, colours: Colours): string[] {
  const count = (kind: Gap['kind']): number => gaps.filter((gap) => gap.kind === kind).length;
  const sums = [
    plural(count('arm'), 'arm'),
    plural(count('component'), 'component'),
    plural(count('event'), 'event'),
    ...(count('output') > 0 ? [plural(count('output'), 'output')] : []),
  ];
  const from = coverage?.source.length
    ? `measured   ${coverage.source.map(printable).join('  ·  ')}`
    : 'no coverage file: worked out from what specs give, fire and render';
  const records = branches?.unmapped
    ? [`${branches.unmapped} of ${plural(branches.records, 'branch record')} fit no branch of these sources`]
    : [];
  const disagree = branches?.disagree
    ? [
        `${plural(branches.disagree, 'arm')} of which the run and the values that specs give say different things`,
      ]
    : [];
  const unmatched = coverage?.unmatched
    ? [`${plural(coverage.unmatched, 'recorded file')} not among these sources`]
    : [];
  return [
    '',
    `  ${colours.strong('GAPS')}   ${sums.join(colours.faint('  ·  '))}${colours.faint('   that no spec exercises')}`,
    ...[from, ...records, ...unmatched, ...disagree].map((line) => colours.faint(`  ${line}`)),
  ];
}

function table({ branches, coverage }: Report, { colours, all }: TextOptions): string[] {
  const rows = branches?.components ?? [];
  const withGaps = rows.filter(({ gaps }) => gaps > 0);
  const shown = all ? rows : withGaps.slice(0, MOST_COMPONENTS);
  if (shown.length === 0) return [];
  const files = new Map(coverage?.files.map((file) => [file.file, file]));
  const width = Math.max(9, ...shown.map(({ component }) => stringWidth(component)));
  const titles = ['arms taken', 'statements', 'branches', 'functions', 'lines'];
  return [
    colours.faint(
      `  ${'component'.padEnd(width)}   ${titles.map((title, i) => title.padEnd(i === 0 ? BAR + 10 : 12)).join('')}`,
    ),
    ...shown.map(({ component, file, arms, taken, gaps }) => {
      const bar = armBar({ arms, taken, gaps }, colours);
      return `  ${printable(component).padEnd(width)}   ${bar}${shareCells(files.get(file), colours)}`;
    }),
    ...(all || withGaps.length <= shown.length
      ? []
      : [colours.faint(`  and ${withGaps.length - shown.length} more with gaps; --all shows them`)]),
    '',
  ];
}

// Taken, not taken, and what can't be told.
function armBar(
  { arms, taken, gaps }: { arms: number; taken: number; gaps: number },
  colours: Colours,
): string {
  const part = (count: number): number => (count === 0 ? 0 : Math.max(1, Math.round((count / arms) * BAR)));
  const [full, missed] = [part(taken), part(gaps)];
  const rest = Math.max(0, BAR - full - missed);
  const bar =
    colours.good('▪'.repeat(full)) + colours.risk('▫'.repeat(missed)) + colours.faint('·'.repeat(rest));
  return (
    bar +
    ' '.repeat(Math.max(0, BAR - full - missed - rest)) +
    ` ${taken}/${arms}`.padEnd(10 - Math.max(0, full + missed - BAR))
  );
}

function shareCells(file: CoveredFile | undefined, colours: Colours): string {
  if (!file) return colours.faint('not measured');
  return [file.statements, file.branches, file.functions, file.lines]
    .map(([hit, all]) => {
      const text = all === 0 ? '·' : `${hit}/${all}`.padEnd(12);
      return hit === all ? colours.faint(text.padEnd(12)) : text;
    })
    .join('');
}

function gapLines(gap: Gap, { width, colours }: TextOptions): string[] {
  const line = `  ${String(gap.line).padStart(6)}  `;
  const basis = colours.faint(
    `  ${gap.basis}${gap.computed ? ', though values that specs give take it' : ''}`,
  );
  const name = printable(gap.component);
  if (gap.kind === 'component') return [`${line}${colours.strong(name)} is rendered by no spec`];
  if (gap.kind === 'event')
    return [`${line}${name} handles ${colours.strong(gap.event ?? '')}, which no spec fires`];
  if (gap.kind === 'output')
    return [`${line}${name} tells of ${colours.strong(gap.event ?? '')}, which no spec listens for`];
  const inside = (title: string, text: string): string[] =>
    wrapAnsi(printable(text), width - 18, { trim: true })
      .split('\n')
      .map((each, i) => `          ${i === 0 ? colours.faint(title.padEnd(6)) : '      '}${each}`);
  return [
    `${line}${colours.strong(gap.arm ?? '')}  of ${inShort(printable(gap.branch ?? ''), 60)}${colours.faint(`  ${name}`)}${basis}`,
    ...(gap.condition && !isPlain(gap) ? inside('when', gap.condition) : []),
    ...gap.inputs
      .slice(0, MOST_INPUTS)
      .flatMap((input, i) => inside(i === 0 ? 'with' : 'or', inputsText(input))),
  ];
}

// The branch itself, or a prop that is given or not, says all.
const isPlain = ({ condition, branch, arm }: Gap): boolean =>
  condition === branch || (arm === 'given' && condition === `${branch} is given`);

const inputsText = (inputs: Record<string, unknown>): string =>
  Object.entries(inputs)
    .map(([name, value]) => `${name} = ${JSON.stringify(value)}`)
    .join(', ') || 'nothing given';

function tail({ gaps, branches }: Report, shown: number, colours: Colours): string[] {
  const left = gaps.length - shown;
  const unreachable = branches?.unreachable
    ? [
        colours.faint(
          `  ${plural(branches.unreachable, 'arm')} more that no inputs take: their conditions or types rule them out`,
        ),
      ]
    : [];
  return [
    ...(left > 0 ? [colours.faint(`  ${left} more; --all shows them`)] : []),
    ...unreachable,
    colours.faint('  wexlet gaps --stubs prints pending specs to fill in'),
  ];
}

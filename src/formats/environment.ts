import type { PackageFacts } from '../audit/report.js';
import { printable } from '../util/printable.js';
import type { Colours } from './colours.js';

type Facts = Record<string, unknown>;

/** How the specs of each package run, as far as the settings tell, for a terminal or a log file. */
export function environmentText(packages: readonly PackageFacts[], colours: Colours): string {
  const blocks = packages.map(({ package: folder, facts }) => {
    const runners = Array.isArray(facts['runners']) ? (facts['runners'] as Facts[]) : [];
    const title = colours.strong(folder === '.' ? 'this package' : printable(folder));
    if (runners.length === 0)
      return `${title}\n\n  ${colours.faint('no runner found: no script starts one, and no manifest declares one')}\n`;
    return [`${title}\n`, ...runners.map((runner) => runnerText(runner, colours))].join('\n');
  });
  return `\n${blocks.join('\n')}`;
}

function runnerText(facts: Facts, colours: Colours): string {
  const name = [facts['runner'], facts['major'] === 'unknown' ? undefined : facts['major']]
    .filter(Boolean)
    .join(' ');
  const rows: [string, string][] = [
    ['runner', facts['project'] === undefined ? name : `${name}, project ${String(facts['project'])}`],
    ['settings', said(facts['settings'])],
    ['scripts', said(facts['scripts'])],
    ['document', said(facts['document'])],
    ['set-up', said(facts['setupFiles'])],
    ['collects', said(part(facts['collects'], 'include'))],
    ['leaves out', said(part(facts['collects'], 'exclude'))],
    ['globals', said(facts['globals'])],
    [
      'stand-ins',
      `restored ${said(facts['restores'])}  ·  reset ${said(facts['resets'])}  ·  cleared ${said(facts['clears'])}`,
    ],
    [
      'isolated',
      facts['isolates'] === true ? 'each spec file has modules of its own' : said(facts['isolates']),
    ],
    ['aliases', said(facts['aliases'])],
    ['transforms', said(facts['transforms'])],
    ['coverage', coverage(facts['coverage'])],
    ...(facts['unread'] === undefined ? [] : [['unread', said(facts['unread'])] as [string, string]]),
  ];
  const lines = rows.map(([label, text]) => {
    const shown = printable(text);
    return `  ${colours.faint(label.padEnd(11))} ${text === 'unknown' ? colours.faint(shown) : shown}`;
  });
  return `${lines.join('\n')}\n`;
}

const part = (value: unknown, key: string): unknown =>
  typeof value === 'object' && value !== null ? (value as Facts)[key] : value;

function said(value: unknown): string {
  if (value === true) return 'yes';
  if (value === false) return 'no';
  if (Array.isArray(value)) return value.length ? value.join(', ') : 'none';
  return value === undefined ? 'none' : String(value);
}

function coverage(value: unknown): string {
  if (typeof value !== 'object' || value === null) return 'unknown';
  const { collected, loadedOnly, include, thresholds } = value as Facts;
  if (collected !== true) return 'not collected';
  const counted =
    include === undefined ? (loadedOnly === true ? 'files that specs load' : 'all files') : said(include);
  return `collected, of ${counted}${thresholds === undefined ? '' : `; thresholds for ${said(thresholds)}`}`;
}

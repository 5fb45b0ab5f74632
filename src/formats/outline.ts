import wrapAnsi from 'wrap-ansi';
import type { Outline, OutlinedRun, OutlinedBlock, OutlinedReach, OutlinedStep } from '../audit/outline.js';
import type { Rung } from '../specs/model/rungs.js';
import { plural } from '../util/plural.js';
import { printable } from '../util/printable.js';
import type { Colours } from './colours.js';

/** The rungs in words. */
export const RUNG_NAMES: Readonly<Record<Rung, string>> = {
  role: 'role',
  label: 'label',
  text: 'text',
  alternative: 'alternative',
  testId: 'test id',
  structure: 'structure',
  internals: 'insides',
};

export interface OutlineOptions {
  width: number;
  colours: Colours;
}

/** What was understood of one spec file: groups, specs, their steps, the elements reached, and what crosses specs. */
export function outlineText(outline: Outline, options: OutlineOptions): string {
  const { colours } = options;
  const reaches = outline.blocks.flatMap(({ steps }) => steps.filter(({ reach }) => reach));
  const found = reaches.filter(({ reach }) => reach?.element).length;
  const sums = `${plural(outline.specs, 'spec')}  ·  ${plural(reaches.length, 'reach', 'reaches')}, the element known of ${found}`;
  const lines = [
    '',
    `  ${colours.strong(printable(outline.file))}   ${colours.faint(sums)}`,
    ...outline.runs.flatMap((run) => runLines(run, options)),
    ...(outline.specs > 0 && outline.runs.length === 0
      ? [`  ${colours.faint('runs in')}  no runner that is in sight`]
      : []),
    '',
    ...outline.blocks.flatMap((block) => blockLines(block, options)),
    ...sharedLines(outline, options),
  ];
  return lines.map((line) => line.trimEnd()).join('\n') + '\n';
}

function runLines(run: OutlinedRun, { colours, width }: OutlineOptions): string[] {
  const { runner, project, settings, document, globals, setupFiles, unread } = run;
  const parts = [
    project === undefined ? runner : `${runner}, ${project}`,
    ...(document === undefined ? [] : [document === 'none' ? 'no document' : document]),
    ...(globals === undefined ? [] : [globals ? 'globals on' : 'globals off']),
    ...(setupFiles?.length ? [`set-up ${setupFiles.join(', ')}`] : []),
    ...(settings === undefined ? [] : [settings]),
  ];
  const line = (label: string, text: string): string[] => {
    const [first = '', ...rest] = wrapped(printable(text), width - 11);
    return [`  ${colours.faint(label.padEnd(9))}${first}`, ...rest.map((each) => ' '.repeat(11) + each)];
  };
  const where = unread?.file === undefined ? '' : ` (${unread.file}:${unread.line ?? 1})`;
  return [
    ...line('runs in', parts.join('  ·  ')),
    ...(unread ? line('unread', `${unread.fact}: ${unread.reason}${where}`) : []),
  ];
}

function blockLines(block: OutlinedBlock, options: OutlineOptions): string[] {
  const { colours } = options;
  const margin = '  '.repeat(block.depth + 1);
  const mark = block.mark ? colours.risk(`  ${block.mark}`) : '';
  const title = block.kind === 'file' ? 'top of the file' : printable(block.title);
  const head = block.kind === 'hook' || block.kind === 'file' ? colours.faint(title) : colours.strong(title);
  const steps = block.steps.flatMap((step) => stepLines(step, margin, options));
  const size = block.size ? colours.faint(`  ${sizeText(block.size)}`) : '';
  return [`${margin}${head}${mark}${size}`, ...steps, ...(block.kind === 'group' ? [] : [''])];
}

const sizeText = ({ rounds, assertions }: NonNullable<OutlinedBlock['size']>): string =>
  (rounds > 0 ? `${plural(rounds, 'round')}, ` : '') + plural(assertions, 'assertion');

function stepLines(step: OutlinedStep, margin: string, options: OutlineOptions): string[] {
  const { colours, width } = options;
  const head = `${margin}${colours.faint(String(step.line).padStart(5))}  ${step.kind.padEnd(9)}`;
  const indent = margin.length + 16;
  const [first = '', ...rest] = wrapped(printable(step.text), width - indent);
  const more = rest.map((line) => ' '.repeat(indent) + line);
  return [`${head}${first}`, ...more, ...(step.reach ? reachLines(step.reach, indent, options) : [])];
}

function reachLines(reach: OutlinedReach, indent: number, { colours, width }: OutlineOptions): string[] {
  const { element, better, found, rung, why } = reach;
  const margin = ' '.repeat(indent);
  const by = `${RUNG_NAMES[rung]} → `;
  if (!element) return [`${margin}${colours.faint(`${by}${why ? `not known: ${printable(why)}` : found}`)}`];
  const role = element.role ? `${element.role}${element.name ? ` “${element.name}”` : ''}` : 'no role';
  const place = `${printable(element.file)}:${element.line}`;
  const sure = found === 'one' ? '' : ', likely';
  const text = `${by}${printable(element.markup)}  ${printable(role)}${sure}  ${place}`;
  const said = wrapped(text, width - indent).map((line) => margin + colours.faint(line));
  return better
    ? [
        ...said,
        ...wrapped(`better  ${printable(better)}`, width - indent).map((line) => margin + colours.hint(line)),
      ]
    : said;
}

function sharedLines({ shared }: Outline, { colours }: OutlineOptions): string[] {
  if (shared.length === 0) return [];
  const lines = shared.flatMap(({ name, line, uses }) => [
    `${colours.faint(String(line).padStart(7))}  ${colours.strong(printable(name))}`,
    ...uses.map(
      (use) =>
        `${colours.faint(String(use.line).padStart(9))}  ${use.how.padEnd(8)} ${colours.faint(`by “${printable(use.spec)}”`)}`,
    ),
  ]);
  return [`  ${colours.strong('crosses specs')}`, ...lines, ''];
}

const wrapped = (text: string, width: number): string[] =>
  wrapAnsi(text, Math.max(40, width), { hard: true }).split('\n');

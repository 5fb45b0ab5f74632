import type { Outline } from '../audit/outline.js';
import type { OutlinedComponent, OutlinedElement } from '../audit/outline-component.js';
import { plural } from '../util/plural.js';
import { printable } from '../util/printable.js';
import type { Colours } from './colours.js';
import type { OutlineOptions } from './outline.js';
import { wrapped } from './wrapped.js';

/** What there is to know of the components of a file before a spec is written. */
export function componentOutlineText({ file, components }: Outline, options: OutlineOptions): string {
  const lines = components.flatMap((component) => componentLines(component, file, options));
  return ['', ...lines].map((line) => line.trimEnd()).join('\n') + '\n';
}

function componentLines(component: OutlinedComponent, file: string, options: OutlineOptions): string[] {
  const { name, line, props, elements, arms } = component;
  const { colours } = options;
  const sums = [plural(props.length, 'prop'), plural(elements.length, 'element'), plural(arms.length, 'arm')];
  const place = `${printable(file)}:${line}`;
  return [
    `  ${colours.strong(printable(name))}   ${colours.faint(`${place}  ·  ${sums.join('  ·  ')}`)}`,
    '',
    ...section('props', propLines(component), colours),
    ...section(
      'shows',
      elements.flatMap((element) => elementLines(element, file, options)),
      colours,
    ),
    ...section(
      'arms',
      arms.flatMap(({ line: at, arm, when }) =>
        row(at, `${printable(arm).padEnd(12)} ${colours.faint(`when ${printable(when)}`)}`, options),
      ),
      colours,
    ),
  ];
}

const section = (title: string, lines: readonly string[], colours: Colours): string[] =>
  lines.length === 0 ? [] : [`  ${colours.faint(title)}`, ...lines, ''];

function propLines({ props }: OutlinedComponent): string[] {
  const width = Math.max(...props.map(({ name }) => name.length), 8);
  return props.map(
    ({ name, values, default: fallback }) =>
      `    ${printable(name).padEnd(width)}  ${printable(values)}${fallback === undefined ? '' : `, ${printable(fallback)} if not given`}`,
  );
}

function elementLines(element: OutlinedElement, file: string, options: OutlineOptions): string[] {
  const { colours, width } = options;
  const { role, name, when, repeated, events, query } = element;
  const called = role ? `  ${role}${name ? ` “${name}”` : ''}` : '';
  const handles = events.length > 0 ? `  on ${events.join(', ')}` : '';
  const where = element.file === file ? '' : `  ${element.file}`;
  const under = [...when, ...(repeated ? ['for each'] : [])];
  return [
    ...row(
      element.line,
      `${printable(element.markup)}${printable(called)}${colours.faint(`${handles}${printable(where)}`)}`,
      options,
    ),
    ...(under.length > 0 ? wrapped(colours.faint(printable(under.join(', '))), INDENT, width) : []),
    ...(query ? wrapped(colours.hint(printable(query)), INDENT, width) : []),
  ];
}

const INDENT = 9;

function row(line: number, text: string, { width, colours }: OutlineOptions): string[] {
  const [first = '', ...rest] = wrapped(text, INDENT, width);
  return [`${colours.faint(String(line).padStart(7))}  ${first.slice(INDENT)}`, ...rest];
}

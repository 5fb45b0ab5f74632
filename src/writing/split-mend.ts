import type { Mend } from '../finding.js';
import { indentAt, quoted } from './edits/style.js';
import type { Block } from '../specs/model/blocks.js';
import { inFile, type FileContext } from '../checks/questions/context.js';
import { groupFunction } from './hook-edits.js';
import { arrangement, chunks, isMovable, type Arrangement } from './arrangement.js';
import { countsAssertions } from '../checks/questions/hollow.js';
import { quoteFor, storesSnapshots } from './retitled.js';
import type { NewSpec, Split } from './split.js';

/** The split as a change of the text: a group with what is shared, and a spec for each round. */
export function splitMend(spec: Block, { shared, specs }: Split, context: FileContext): Mend | undefined {
  const { newline, indent } = context.style;
  const { text } = context.source;
  const titles = specs.map(({ title }) => title);
  const callee = text.slice(spec.callee.start, spec.callee.end);
  const group = groupFunction(context);
  if (!group || !isPlain(spec, titles, callee, context)) return undefined;
  const later = new Set(specs.flatMap((spec) => spec.statements.flatMap(({ uses }) => [...uses])));
  const moved = shared.length > 0 ? arrangement(spec, shared, later, true, context) : undefined;
  if (shared.length > 0 && !moved) return undefined;
  const name = spec.title.text;
  const inside = [
    ...(moved ? [...moved.lines, ''] : []),
    ...specs.flatMap((each, i) => [...(i > 0 ? [''] : []), ...specLines(each, spec, moved, callee, context)]),
  ];
  const lines = [
    `${group}(${quoted(name, quoteFor(name, context))}, () => {`,
    ...inside.map((line) => (line ? indent + line : line)),
    `})`,
  ];
  const margin = indentAt(text, spec.place.start);
  const code = lines.map((line, i) => (i > 0 && line ? margin + line : line)).join(newline);
  return {
    summary: `Split it into ${specs.length} specs`,
    safe: false,
    edits: [{ ...inFile(context, spec.place), text: code }, ...(moved?.edits ?? [])],
  };
}

// What is counted, or stored by the title, stays where it is.
function isPlain(
  spec: Block,
  titles: readonly (string | undefined)[],
  callee: string,
  context: FileContext,
): boolean {
  return (
    !storesSnapshots(spec) &&
    !countsAssertions(spec) &&
    spec.statements.every((statement) => isMovable(statement, context)) &&
    spec.mark === undefined &&
    !spec.waitsForCallback &&
    spec.fn !== undefined &&
    /^\w+$/.test(callee) &&
    titles.every((title) => title !== undefined) &&
    new Set(titles).size === titles.length
  );
}

function specLines(
  { title = '', statements }: NewSpec,
  spec: Block,
  moved: Arrangement | undefined,
  callee: string,
  context: FileContext,
): string[] {
  const { indent, semicolon } = context.style;
  const call = moved?.call?.(new Set(statements.flatMap(({ uses }) => [...uses])));
  const awaits = statements.some((statement) => statement.awaits) || call?.includes('await ');
  const body = [...(call === undefined ? [] : [call]), ...chunks(spec, statements, context)];
  return [
    `${callee}(${quoted(title, quoteFor(title, context))}, ${awaits ? 'async ' : ''}() => {`,
    ...body.map((line) => (line ? indent + line : line)),
    `})${semicolon}`,
  ];
}

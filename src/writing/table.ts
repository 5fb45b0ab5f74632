import { isTypeScript } from '../util/paths.js';
import type { Edit, Mend } from '../finding.js';
import { indentAt, lineStart, quoted as inQuotes } from './edits/style.js';
import { commentsIn, type Block } from '../specs/model/blocks.js';
import type { BodyLiteral } from '../specs/model/leaves.js';
import { inFile, type FileContext } from '../checks/questions/context.js';
import { quoteFor } from './retitled.js';
import { hasEachAndTodo } from '../checks/questions/runner-forms.js';

/** The literals of a spec's body, in order. */
export const literalsOf = ({ statements }: Block): readonly BodyLiteral[] =>
  statements.flatMap(({ literals }) => literals);

/** One value in which rows differ: the places where it stands, the first row's own there, and the text of each row's. */
interface Column<Each = BodyLiteral> {
  slots: number[];
  first: Each;
  values: string[];
}

/** The values in which rows of as many places differ; places with the same texts are one column. */
export function columnsOf<Each>(
  rows: readonly (readonly Each[])[],
  textOf: (each: Each | undefined) => string,
): Column<Each>[] {
  const columns = new Map<string, Column<Each>>();
  rows[0]?.forEach((first, slot) => {
    const values = rows.map((row) => textOf(row[slot]));
    if (new Set(values).size === 1) return;
    const key = values.join('\0');
    const known = columns.get(key);
    if (known) known.slots.push(slot);
    else columns.set(key, { slots: [slot], first, values });
  });
  return [...columns.values()];
}

/** Makes a table of specs that differ in some columns; undefined where they can't be moved together. */
export function tabled(
  specs: readonly Block[],
  columns: readonly Column[],
  context: FileContext,
): Mend | undefined {
  const { text } = context.source;
  const [first, ...others] = specs;
  if (!first?.titlePlace || !first.body || !canMove(specs, context)) return undefined;
  const isTyped = isTypeScript(context.file.path);
  // To the compiler rows are read-only, and so are the lists in them.
  const holdsLists = columns.some(({ values }) => values.some((value) => value.startsWith('[')));
  if (isTyped && holdsLists) return undefined;
  const names = namesFor(first, columns);
  const { indent, newline } = context.style;
  const margin = indentAt(text, first.place.start);
  const title = freeTitle(first);
  const rows = specs.map((spec, i) => {
    const cells = [
      inQuotes(spec.title.text, quoteFor(spec.title.text, context)),
      ...columns.map(({ values }) => values[i] ?? ''),
    ];
    return `${margin}${indent}[${cells.join(', ')}],`;
  });
  const table = `[${newline}${rows.join(newline)}${newline}${margin}]${isTyped ? ' as const' : ''}`;
  const callee = text.slice(first.callee.start, first.callee.end);
  const body = filledBody(first, columns, names, context);
  const fn = `${first.fn?.async ? 'async ' : ''}(`;
  const code = hasEachAndTodo(context)
    ? `${callee}.each(${table})('%s', ${fn}${[`_${title}`, ...names].join(', ')}) => ${body})`
    : `for (const [${[title, ...names].join(', ')}] of ${table}) {${newline}${margin}${indent}${callee}(${title}, ${fn}) => ${body.replaceAll('\n', `\n${indent}`)})${context.style.semicolon}${newline}${margin}}`;
  const edits: Edit[] = [
    { ...inFile(context, { start: first.place.start, end: endOf(first, context) }), text: code },
    ...others.map((each) => ({ ...inFile(context, wholeOf(each, context)), text: '' })),
  ];
  return { summary: `Make a table of ${specs.length} rows`, safe: true, edits };
}

// A loop needs no semicolon of its own.
const endOf = ({ place }: Block, context: FileContext): number =>
  !hasEachAndTodo(context) && context.source.text[place.end] === ';' ? place.end + 1 : place.end;

// The specs stand one behind the other, with nothing but white space between, and none stores a snapshot in its place.
function canMove(specs: readonly Block[], { file, source: { text } }: FileContext): boolean {
  const at = specs.map((spec) => spec.parent?.children.indexOf(spec) ?? 0);
  const isRow = at.every((position, i) => i === 0 || position === (at[i - 1] ?? 0) + 1);
  const isClean = specs.every((spec, i) => {
    const before = specs[i - 1];
    return !before || /^;?\s*$/.test(text.slice(before.place.end, spec.place.start));
  });
  // A comment that is true of one is not true of all.
  const isBare = specs.every((spec) => commentsIn(file, spec.place).length === 0);
  const [first] = specs;
  const callee = first && text.slice(first.callee.start, first.callee.end);
  return (
    isRow &&
    isClean &&
    isBare &&
    /^\w+$/.test(callee ?? '') &&
    specs.every(
      (spec) =>
        spec.titlePlace !== undefined &&
        !spec.waitsForCallback &&
        text.slice(spec.callee.start, spec.callee.end) === callee &&
        text[spec.place.end - 1] === ')' &&
        spec.fn !== undefined &&
        spec.body !== undefined &&
        /^\s*,?\s*$/.test(text.slice(spec.body.end, spec.place.end - 1)) &&
        !text.slice(spec.body.start, spec.body.end).includes('`') &&
        literalsOf(spec).every(({ as, text: literal }) => as === 'value' || !/[&{}\n]/.test(literal)) &&
        spec.steps.every(
          (step) => step.kind !== 'assert' || step.assertion.matcher !== 'toMatchInlineSnapshot',
        ),
    )
  );
}

const RESERVED: ReadonlySet<string> = new Set(
  'class default for in new delete typeof void this null true false if else return switch case do while function var let const import export with'.split(
    ' ',
  ),
);

const FINDING: ReadonlySet<string> = new Set(
  'find findAll get querySelector querySelectorAll findComponent getComponent query queryAll'.split(' '),
);

// Each column has the name of what its value is given to; others are numbered.
function namesFor(spec: Block, columns: readonly Column[]): string[] {
  const taken = new Set(spec.statements.flatMap(({ uses, declares }) => [...uses, ...declares]));
  const names: string[] = [];
  for (const { first } of columns) {
    const given = columnName(first);
    const base = given !== undefined && !taken.has(given) ? given : 'value';
    let name = base;
    for (let i = 2; names.includes(name) || taken.has(name); i++) name = `${base}${i}`;
    names.push(name);
  }
  return names;
}

function columnName({ of }: BodyLiteral): string | undefined {
  if (of !== undefined && FINDING.has(of)) return 'selector';
  const query = /By(Role|Text|LabelText|TestId|Title|AltText|PlaceholderText|DisplayValue)$/.exec(
    of ?? '',
  )?.[1];
  if (query) return query[0]?.toLowerCase() + query.slice(1);
  if (of !== undefined && /^(?:to[A-Z]|equal|eql|be)/.test(of)) return 'expected';
  return of !== undefined && /^[a-z]\w*$/i.test(of) && !RESERVED.has(of) && of.length < 20 ? of : undefined;
}

const freeTitle = ({ statements }: Block): string =>
  statements.some(({ uses }) => uses.has('title')) ? 'specTitle' : 'title';

// The first spec's body with a name in place of each value.
function filledBody(
  spec: Block,
  columns: readonly Column[],
  names: readonly string[],
  { source: { text } }: FileContext,
): string {
  const literals = literalsOf(spec);
  const { start: from = 0, end = 0 } = spec.body ?? {};
  const places = columns
    .flatMap(({ slots }, i) => slots.map((slot) => ({ literal: literals[slot], name: names[i] ?? '' })))
    .flatMap(({ literal, name }) => (literal ? [{ literal, name }] : []))
    .sort((a, b) => a.literal.start - b.literal.start);
  let at = from;
  let body = '';
  for (const { literal, name } of places) {
    const before = text.slice(at, literal.start);
    // `{ name: name }` is written short.
    const short =
      literal.of === name && before.endsWith(` ${name}: `) ? before.slice(0, -2 - name.length) : before;
    body += short + inPlace(name, literal);
    at = literal.end;
  }
  return body + text.slice(at, end);
}

function inPlace(name: string, { as }: BodyLiteral): string {
  if (as === 'flag') return `{...{ [${name}]: true }}`;
  return as === 'value' ? name : `{${name}}`;
}

// A spec with its semicolon, the white space before it and the rest of its line.
function wholeOf({ place }: Block, { source: { text } }: FileContext): { start: number; end: number } {
  let start = lineStart(text, place.start);
  if (/\n[ \t]*\r?\n$/.test(text.slice(0, start))) start = lineStart(text, start - 1);
  const rest = /^;?[ \t]*(?:\r?\n|$)/.exec(text.slice(place.end));
  return { start, end: place.end + (rest?.[0].length ?? 0) };
}

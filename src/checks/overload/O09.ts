import { titlesOf, type Binding, type Block, type SpecFile } from '../../specs/model/blocks.js';
import { quoted as inQuotes } from '../../writing/edits/style.js';
import type { Slot } from '../../specs/model/body.js';
import { unquoted, type BodyLiteral } from '../../specs/model/leaves.js';
import { grouped } from '../../util/grouped.js';
import { plural } from '../../util/plural.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { quotedTitle, runningByGroup } from '../questions/order.js';
import { OUTLINES, specsAgain } from '../questions/specs-again.js';
import { columnsOf, literalsOf, tabled } from '../../writing/table.js';

const message = (count: number, values: number): string =>
  `${count} specs do the same with other values: they differ in their titles and in ${plural(values, 'value')}.`;
const messageGroups = (count: number, values: number): string =>
  `${count} groups hold the same specs, and differ in ${plural(values, 'value')} and their own titles.`;
const advice = 'Make them one table, a row for each.';
const adviceGroups = 'Make them one group over a table, a row for each.';

/** Specs that differ in values only. */
export const O09: FileCheck = {
  code: 'O09',
  family: 'overload',
  scope: 'file',
  facts: [OUTLINES],
  title: 'Specs that differ in values only',
  level: 'hint',
  why: 'In a table one sees which values are tried and which are missing, and what is done with them stands there once.',
  certain: 'Sure where the specs differ in values and titles alone.',
  trouble: "it('shows cone 6', …);\nit('shows cone 9', …);\nit('shows cone 10', …);",
  mended:
    "it.each([\n  ['shows cone 6', 6],\n  ['shows cone 9', 9],\n  ['shows cone 10', 10],\n])('%s', (_title, cone) => { … });",
  run(context) {
    const names = heldValues(context.file);
    const byGroup = runningByGroup(context.file);
    const specs = [...byGroup.values()].flatMap((each) => alike(each.filter(isPlain), names));
    return [...specs.map((each) => each.map(rowOf)), ...groupsAlike(byGroup, names)].flatMap((rows) =>
      check(rows, names, context),
    );
  },
  across: specsAgain,
};

const FEWEST = 3;
// Of long ones, two are enough.
const FEWEST_LONG = 2;
const LONG = 5;
const MOST_COLUMNS = 4;

const isPlain = ({ title, repeated, maybe, mark, statements, steps }: Block): boolean =>
  title.exact &&
  !repeated &&
  !maybe &&
  mark === undefined &&
  steps.length > 0 &&
  statements.length > 0 &&
  statements.every(({ returns }) => !returns);

// Names that hold a value once and for all.
const heldValues = ({ bindings }: SpecFile): ReadonlySet<string> =>
  new Set(
    bindings.filter(({ kind, holds }) => kind === 'const' && VALUES.has(holds)).map(({ name }) => name),
  );

const VALUES: ReadonlySet<Binding['holds']> = new Set(['constant', 'literal', 'instance', 'made'] as const);

// Specs of one shape; only where the steps are as many are the statements compared.
function alike(specs: readonly Block[], names: ReadonlySet<string>): Block[][] {
  const bySteps = grouped(specs, ({ steps, statements, fn }) =>
    [statements.length, steps.length, fn?.async].join(),
  );
  return [...bySteps.values()]
    .filter(isEnough)
    .flatMap((byStep) => [
      ...grouped(byStep, ({ statements }) =>
        statements.map((statement) => statement.outline(names)).join('\n'),
      ).values(),
    ])
    .filter(isEnough);
}

/** What may be a row of a table: a spec, or a group with the specs that stand in it, and nothing else. */
interface Row {
  block: Block;
  specs: readonly Block[];
}

const rowOf = (spec: Block): Row => ({ block: spec, specs: [spec] });

// Groups beside each other whose specs have the same titles, and do the same.
function groupsAlike(
  byGroup: ReadonlyMap<Block | undefined, readonly Block[]>,
  names: ReadonlySet<string>,
): Row[][] {
  const groups = [...byGroup].flatMap(([group, specs]): Row[] =>
    group?.kind === 'group' &&
    group.children.length === specs.length &&
    group.statements.length === specs.length &&
    specs.every(isPlain) &&
    specs.reduce((sum, { statements }) => sum + statements.length, 0) >= LONG
      ? [{ block: group, specs }]
      : [],
  );
  const keyOf = ({ specs }: Row): string =>
    specs
      .flatMap(({ title, fn, statements }) => [
        title.text,
        String(fn?.async),
        ...statements.map((each) => each.outline(names)),
      ])
      .join('\n');
  return [...grouped(groups, ({ block }) => block.parent).values()]
    .filter(({ length }) => length > 1)
    .flatMap((beside) => [...grouped(beside, keyOf).values()])
    .filter(({ length }) => length > 1);
}

const isEnough = (specs: readonly Block[]): boolean =>
  specs.length >= ((specs[0]?.statements.length ?? 0) >= LONG ? FEWEST_LONG : FEWEST);

// A literal as it stands in an expression.
function valueOf(literal: BodyLiteral | undefined, quote: '"' | "'"): string {
  if (!literal) return '';
  const { as, text } = literal;
  if (as === 'value') return text;
  return inQuotes(as === 'attribute' ? unquoted(text) : text, quote);
}

// The names that hold a value, in the order of the text.
const namesIn = ({ statements }: Block, names: ReadonlySet<string>): Slot[] =>
  statements.flatMap((statement) => statement.slots(names)).filter(({ as }) => as === 'name');

function check(rows: readonly Row[], names: ReadonlySet<string>, context: FileContext): Finding[] {
  const [first, ...others] = rows;
  const columns = columnsOf(
    rows.map(({ specs }) => specs.flatMap(literalsOf)),
    (literal) => valueOf(literal, context.style.quote),
  );
  const named = columnsOf(
    rows.map(({ specs }) => specs.flatMap((spec) => namesIn(spec, names))),
    (slot) => slot?.text ?? '',
  );
  const count = columns.length + named.length;
  if (!first || count === 0 || count > MOST_COLUMNS) return [];
  const isGroup = first.block.kind === 'group';
  // A name may not be known yet where a table is made.
  const isTabled = !isGroup && named.length === 0;
  return [
    {
      place: inFile(context, first.block.callee),
      within: titlesOf(first.block),
      certainty: 'sure',
      message: isGroup ? messageGroups(rows.length, count) : message(rows.length, count),
      advice: isGroup ? adviceGroups : advice,
      evidence: others.map(({ block }) => ({ ...inFile(context, block.callee), note: quotedTitle(block) })),
      mend: isTabled
        ? tabled(
            rows.map(({ block }) => block),
            columns,
            context,
          )
        : undefined,
    },
  ];
}

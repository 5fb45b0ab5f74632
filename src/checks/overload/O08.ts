import { titlesOf, commentsIn, type Block } from '../../specs/model/blocks.js';
import type { Edit, Mend, Span, Finding } from '../../finding.js';
import { indentAt, lineStart, pastEmptyLine, wholeLines } from '../../writing/edits/style.js';
import type { Statement } from '../../specs/model/body.js';
import { kindsOf } from '../../specs/model/rounds.js';
import { counted } from '../../util/counted.js';
import { grouped } from '../../util/grouped.js';
import { plural } from '../../util/plural.js';
import { sayingLines } from '../../util/words.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { quotedTitle, runningByGroup } from '../questions/order.js';
import {
  arrangement,
  arrangingIn,
  beginning,
  FEWEST_STATEMENTS,
  type Arrangement,
} from '../../writing/arrangement.js';
import { providersAgain } from '../questions/providers-again.js';
import { PARTS, writtenAgain } from '../questions/written-again.js';
import { acrossFiles, BEGINNINGS } from '../../writing/helper-module.js';

const message = (count: number, specs: number): string =>
  `The same ${count} statements stand at the start of ${plural(specs, 'spec')} of this group.`;
const messageLines = (lines: number, specs: number): string =>
  `The same ${lines} lines lead up to the first assertion in ${specs} specs of this group, each with something of its own in between.`;
const adviceLines = 'Write a helper that takes what differs, and leave the rest to it.';
const advice = (name: string): string => `Write them once, in ${name}.`;

/** Arrangement that many specs of a group, or several files, repeat. */
export const O08: FileCheck = {
  code: 'O08',
  family: 'overload',
  scope: 'file',
  facts: [BEGINNINGS, PARTS],
  title: 'Arrangement repeated',
  level: 'hint',
  why: 'What every spec repeats hides what each is about, and must be changed in every place.',
  certain: 'Sure where the statements are the same, one by one.',
  trouble:
    "it('a', () => {\n  const onFire = vi.fn();\n  const user = userEvent.setup();\n  render(<KilnCard onFire={onFire} />);\n  // and four more specs begin so\n});",
  mended: "it('a', () => {\n  const { onFire, user } = arrange();\n});",
  run(context) {
    const found = [...runningByGroup(context.file)].flatMap(([group, specs]) => {
      const same = group && specs.length >= FEWEST_SPECS ? check(group, specs, context) : [];
      return same.length > 0 ? same : ofLines(specs, context);
    });
    // What leads up to the first assertion has the providers in it.
    return found.length > 0 ? found : [providersAgain(context)].filter((each) => each !== undefined);
  },
  across: (context) => [...acrossFiles(context), ...writtenAgain(context)],
};

const FEWEST_SPECS = 5;

function check(group: Block, specs: readonly Block[], context: FileContext): Finding[] {
  const arranged = specs
    .filter(({ repeated }) => !repeated)
    .map((spec) => ({ spec, statements: arrangingIn(spec) }));
  const begins = grouped(
    arranged.filter(({ statements }) => statements.length >= FEWEST_STATEMENTS),
    ({ statements }) => beginning(statements),
  );
  const [most] = [...begins.values()].sort((a, b) => b.length - a.length);
  const [first, ...others] = most ?? [];
  if (!most || !first || most.length < FEWEST_SPECS) return [];
  const all = most.map(({ spec }) => spec);
  const count = sharedCount(most.map(({ statements }) => statements));
  const shared = first.statements.slice(0, count);
  const every = most.length === specs.length && group.children.every(({ kind }) => kind !== 'group');
  const moved = arrangement(first.spec, shared, namesAfter(all, count), every, context);
  const [start, last] = [shared[0], shared.at(-1)];
  if (!start || !last) return [];
  return [
    {
      place: inFile(context, { start: start.start, end: last.end }),
      within: titlesOf(first.spec),
      certainty: 'sure',
      message: message(count, most.length),
      advice: advice(moved?.name ?? 'a helper'),
      evidence: others.map(({ spec, statements: [at] }) => ({
        ...inFile(context, at ?? spec.callee),
        note: quotedTitle(spec),
      })),
      suggestion: moved?.lines.join('\n'),
      mend: moved && movedOut(all, count, moved, context),
    },
  ];
}

const FEWEST_LINES = 6;
const FEWEST_SPECS_OF_LINES = 2;
// So many lines in all: six in three specs; twenty where there are no more than two.
const FEWEST_IN_ALL = 18;
const FEWEST_IN_TWO = 40;
// `return {`, `props: {` and the like stand anywhere.
const FEWEST_LETTERS = 10;

// What leads up to the first assertion and is written out in spec after spec, with a value or two of its own in between.
function ofLines(specs: readonly Block[], context: FileContext): Finding[] {
  const lined = specs
    .filter(({ repeated }) => !repeated)
    .map((spec) => {
      const statements = leadingIn(spec);
      return { spec, statements, lines: linesOf(statements, context) };
    });
  const counts = counted(lined.flatMap(({ lines }) => [...lines]));
  for (let fewest = lined.length; fewest >= FEWEST_SPECS_OF_LINES; fewest--) {
    const shared = new Set([...counts].flatMap(([line, count]) => (count >= fewest ? [line] : [])));
    if (shared.size < FEWEST_LINES) continue;
    const { alike, common } = mostAlike(lined, shared, fewest);
    const [first, ...others] = alike;
    const [start, last] = [first?.statements[0], first?.statements.at(-1)];
    if (!first || !start || !last || alike.length < fewest || common.length < FEWEST_LINES) continue;
    if (common.length * alike.length < (alike.length > 2 ? FEWEST_IN_ALL : FEWEST_IN_TWO)) continue;
    return [
      {
        place: inFile(context, { start: start.start, end: last.end }),
        within: titlesOf(first.spec),
        certainty: 'sure',
        message: messageLines(common.length, alike.length),
        advice: adviceLines,
        evidence: others.map(({ spec, statements: [at] }) => ({
          ...inFile(context, at ?? spec.callee),
          note: quotedTitle(spec),
        })),
      },
    ];
  }
  return [];
}

interface Lined {
  spec: Block;
  statements: readonly Statement[];
  lines: ReadonlySet<string>;
}

// The specs that have most of some lines, and what all of them have: those that share least are left out, as long as enough are left.
function mostAlike(
  lined: readonly Lined[],
  shared: ReadonlySet<string>,
  fewest: number,
): { alike: Lined[]; common: string[] } {
  const overlap = ({ lines }: Lined): number => [...lines].filter((line) => shared.has(line)).length;
  const alike = lined
    .filter((each) => overlap(each) >= FEWEST_LINES)
    .toSorted((a, b) => overlap(b) - overlap(a));
  const common = (): string[] => [...shared].filter((line) => alike.every(({ lines }) => lines.has(line)));
  while (alike.length > fewest && common().length < FEWEST_LINES) alike.pop();
  return {
    alike: alike.toSorted((a, b) => a.spec.place.start - b.spec.place.start),
    common: common(),
  };
}

// The statements of a spec before its first assertion.
function leadingIn(spec: Block): readonly Statement[] {
  const first = kindsOf(spec).indexOf('assert');
  return spec.statements.slice(0, first < 0 ? undefined : first);
}

// The lines of some statements that say something, without their margins.
const linesOf = (statements: readonly Statement[], { source: { text } }: FileContext): Set<string> =>
  new Set(statements.flatMap(({ start, end }) => sayingLines(text.slice(start, end), FEWEST_LETTERS)));

// How many statements all of them begin with.
function sharedCount(all: readonly (readonly Statement[])[]): number {
  const [first = []] = all;
  let count = FEWEST_STATEMENTS;
  while (count < first.length && all.every((each) => each[count]?.code === first[count]?.code)) count++;
  return count;
}

const namesAfter = (specs: readonly Block[], count: number): Set<string> =>
  new Set(specs.flatMap(({ statements }) => statements.slice(count).flatMap(({ uses }) => [...uses])));

function movedOut(
  specs: readonly Block[],
  count: number,
  moved: Arrangement,
  context: FileContext,
): Mend | undefined {
  const { newline } = context.style;
  const { text } = context.source;
  const names = specs.map(({ statements }) =>
    statements
      .slice(0, count)
      .flatMap(({ declares }) => declares)
      .join(),
  );
  const [first, ...others] = specs;
  // A comment between statements that go would be lost.
  const isBare = others.every(
    ({ statements }) => commentsIn(context.file, spanOf(statements.slice(0, count))).length === 0,
  );
  if (!first || !isBare || new Set(names).size > 1) return undefined;
  const at = lineStart(text, first.place.start);
  if (text.slice(at, first.place.start).trim() !== '') return undefined;
  const margin = indentAt(text, first.place.start);
  const lines = moved.lines.map((line) => (line ? margin + line : line));
  const helper: Edit = {
    file: context.file.path,
    start: at,
    end: at,
    text: lines.join(newline) + newline + newline,
  };
  return {
    summary: `Write the arrangement once, in ${moved.name}`,
    safe: true,
    edits: [helper, ...specs.map((spec) => replaced(spec, count, moved.call, context)), ...moved.edits],
  };
}

const spanOf = (statements: readonly Statement[]): Span => ({
  start: statements[0]?.start ?? 0,
  end: statements.at(-1)?.end ?? 0,
});

function replaced(
  { statements }: Block,
  count: number,
  call: Arrangement['call'],
  context: FileContext,
): Edit {
  const { text } = context.source;
  const file = context.file.path;
  const start = statements[0]?.start ?? 0;
  const end = statements[count - 1]?.end ?? start;
  const used = new Set(statements.slice(count).flatMap(({ uses }) => [...uses]));
  if (call) return { file, start, end, text: call(used) };
  // The lines go as a whole, with the empty one after them.
  const lines = wholeLines(text, { start, end });
  return lines
    ? { file, start: lines.start, end: pastEmptyLine(text, lines.end), text: '' }
    : { file, start, end, text: '' };
}

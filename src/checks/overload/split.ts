import type { Mend } from '../../mends/edit.js';
import { indentAt, quoted } from '../../mends/style.js';
import type { Block } from '../../model/specs/blocks.js';
import type { Statement } from '../../model/specs/body.js';
import { kindsOf, roundsOf, stands, type Round, type StatementKind } from '../../model/specs/rounds.js';
import type { StepOf } from '../../model/specs/steps.js';
import { inFile, type FileContext } from '../check.js';
import { groupFunction } from '../hook-edits.js';
import { titleOf } from './phrases.js';
import { quoteFor } from './retitled.js';
import { arrangement, chunks, isMovable, type Arrangement } from './arrangement.js';

/** One of the specs that a large one is split into. */
export interface NewSpec {
  title: string | undefined;
  /** The statements that it keeps, those of the arrangement left out. */
  statements: readonly Statement[];
  /** How many acts of earlier rounds it repeats. */
  repeats: number;
}

/** How a spec is split: what all new specs share, and what each keeps. */
export interface Split {
  shared: readonly Statement[];
  specs: readonly NewSpec[];
}

interface Part {
  statement: Statement;
  kind: StatementKind;
  round: number;
}

/** Splits a spec by its rounds; undefined where the statements don't show where a round begins. */
export function splitOf(spec: Block, context: FileContext): Split | undefined {
  const kinds = kindsOf(spec);
  if (kinds.length === 0 || spec.statements.some((each) => each.returns || isMixed(each, spec)))
    return undefined;
  const firstStep = kinds.findIndex((kind) => kind !== 'arrange');
  const shared = spec.statements.slice(0, firstStep);
  const parts = numbered(spec, spec.statements.slice(firstStep), kinds.slice(firstStep));
  const rounds = roundsOf(spec);
  const count = (parts.at(-1)?.round ?? 0) + 1;
  if (count !== rounds.length || count < 2) return undefined;
  return { shared, specs: rounds.map((round, i) => newSpec(parts, i, round, spec, context)) };
}

// An assertion before an act belongs to another round: both in one statement can't be taken apart.
const isMixed = (statement: Statement, { steps }: Block): boolean => {
  const inside = steps.filter((step) => stands(step, statement));
  return (
    inside.some(({ kind }) => kind === 'assert') &&
    inside.some(({ kind }) => kind === 'act' || kind === 'render')
  );
};

// A round begins where something is done after an assertion, with the looks at elements that lead to it.
function numbered(spec: Block, statements: readonly Statement[], kinds: readonly StatementKind[]): Part[] {
  let round = 0;
  let asserted = false;
  const doing = statements.map((each, i) => kinds[i] === 'act' || rendersIn(spec, each));
  return statements.map((statement, i) => {
    const kind = kinds[i] ?? 'arrange';
    const next = statements.findIndex((_, at) => at >= i && (doing[at] || kinds[at] === 'assert'));
    if (asserted && kind !== 'assert' && doing[next]) {
      round++;
      asserted = false;
    }
    asserted ||= kind === 'assert';
    return { statement, kind, round };
  });
}

const rendersIn = ({ steps }: Block, statement: Statement): boolean =>
  steps.some((step) => step.kind === 'render' && stands(step, statement));

function newSpec(
  parts: readonly Part[],
  round: number,
  own: Round,
  spec: Block,
  context: FileContext,
): NewSpec {
  const upTo = parts.filter((part) => part.round <= round);
  // A render of its own starts anew: what was done to the one before does not matter.
  const fresh = upTo.findLastIndex(({ statement }) => rendersIn(spec, statement));
  const kept = upTo.filter(
    (part, i) =>
      part.round === round ||
      (part.kind === 'act' && i > fresh && !isReset(part, upTo.slice(i + 1), spec)) ||
      part.kind === 'arrange',
  );
  const needed = kept.filter((part, i) => part.kind !== 'arrange' || isUsed(part, kept.slice(i + 1), spec));
  return {
    title: titleOf(own, context),
    statements: needed.map(({ statement }) => statement),
    repeats: needed.filter((part) => part.kind === 'act' && part.round < round).length,
  };
}

// A declaration that nothing after it uses is left out, if it does nothing else.
function isUsed({ statement }: Part, later: readonly Part[], spec: Block): boolean {
  const { declares } = statement;
  if (declares.length === 0 || statement.awaits || rendersIn(spec, statement)) return true;
  return declares.some((name) => later.some((each) => each.statement.uses.has(name)));
}

// Props that are set again before the assertion are the same whatever they were.
function isReset({ statement }: Part, later: readonly Part[], spec: Block): boolean {
  const keys = propsSet(statement, spec);
  const after = new Set(later.flatMap((each) => propsSet(each.statement, spec) ?? []));
  return keys !== undefined && keys.every((key) => after.has(key));
}

function propsSet(statement: Statement, { steps }: Block): string[] | undefined {
  const acts = steps.filter((step): step is StepOf<'act'> => step.kind === 'act' && stands(step, statement));
  const [only] = acts;
  const [first] = only?.args ?? [];
  return acts.length === 1 && only?.name === 'setProps' && first?.is === 'object' && !first.open
    ? [...first.entries.keys()]
    : undefined;
}

/** The split in words: the titles of the new specs, what they share, what they repeat. */
export function splitText({ shared, specs }: Split): string {
  const titles = specs.map(({ title }, i) => (title === undefined ? `one for round ${i + 1}` : `“${title}”`));
  const repeats = Math.max(...specs.map((each) => each.repeats));
  const parts = [`Split it: ${titles.join(', ')}.`];
  if (shared.length > 0)
    parts.push(
      `The ${shared.length === 1 ? 'statement' : `${shared.length} statements`} before the first act can be shared.`,
    );
  if (repeats > 0) parts.push(`Later ones repeat the acts that they need, ${repeats} at most.`);
  return parts.join(' ');
}

/** The split as a change of the text: a group with what is shared, and a spec for each round. */
export function splitMend(spec: Block, { shared, specs }: Split, context: FileContext): Mend | undefined {
  const { newline, indent } = context.style;
  const { text } = context.source;
  const titles = specs.map(({ title }) => title);
  const callee = text.slice(spec.callee.start, spec.callee.end);
  const group = groupFunction(context.file);
  if (!group || !isPlain(spec, titles, callee, context)) return undefined;
  const later = new Set(specs.flatMap((each) => each.statements.flatMap(({ uses }) => [...uses])));
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
  const isStored = spec.steps.some(
    (step) =>
      step.kind === 'assert' &&
      (step.assertion.asks === 'snapshot' ||
        ['assertions', 'hasAssertions', 'plan'].includes(step.assertion.matcher ?? '')),
  );
  return (
    !isStored &&
    spec.statements.every((each) => isMovable(each, context)) &&
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
  const awaits = statements.some((each) => each.awaits) || call?.includes('await ');
  const body = [...(call === undefined ? [] : [call]), ...chunks(spec, statements, context)];
  return [
    `${callee}(${quoted(title, quoteFor(title, context))}, ${awaits ? 'async ' : ''}() => {`,
    ...body.map((line) => (line ? indent + line : line)),
    `})${semicolon}`,
  ];
}

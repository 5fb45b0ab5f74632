import type { Edit } from '../finding.js';
import { indentAt } from './edits/style.js';
import type { Block, SpecFile } from '../specs/model/blocks.js';
import type { Statement } from '../specs/model/body.js';
import { kindOf } from '../specs/model/rounds.js';
import type { FileContext } from '../checks/questions/context.js';
import { hookName } from './hook-edits.js';

/** Statements that several specs share, written once. */
export interface Arrangement {
  /** The lines of the hook or helper, without a margin. */
  lines: string[];
  /** The statement that takes its place in a spec that uses some names; none for a hook. */
  call?: (used: ReadonlySet<string>) => string;
  /** What it is: `a beforeEach hook`, `arrange()`. */
  name: string;
  /** Edits elsewhere that it needs. */
  edits: readonly Edit[];
}

/**
 * Moves the statements at the start of a spec to a helper, which hands out the names that are used after them.
 * Where none is, and `everySpec` of the group begins with them, they become a before-each hook. Undefined where that is not plain.
 */
export function arrangement(
  spec: Block,
  statements: readonly Statement[],
  usedAfter: ReadonlySet<string>,
  everySpec: boolean,
  context: FileContext,
): Arrangement | undefined {
  const { indent, semicolon } = context.style;
  if (statements.length === 0 || !statements.every((statement) => isMovable(statement, context)))
    return undefined;
  const names = statements.flatMap(({ declares }) => declares).filter((name) => usedAfter.has(name));
  const body = chunks(spec, statements, context).map((line) => (line ? indent + line : line));
  const awaits = statements.some((statement) => statement.awaits);
  const fn = awaits ? 'async ' : '';
  if (names.length === 0 && everySpec) {
    const hook = hookName(context, 'before-each');
    if (!hook) return undefined;
    const lines = [`${hook.name}(${fn}() => {`, ...body, `})${semicolon}`];
    return { lines, name: `a ${hook.name} hook`, edits: hook.edits };
  }
  const name = freeName(context);
  const changes = statements.some(
    ({ keyword, declares }) => keyword !== 'const' && declares.some((declare) => names.includes(declare)),
  );
  const returned = names.length > 0 ? [`${indent}return ${together(names)}${semicolon}`] : [];
  const [only] = names;
  return {
    lines: [`${fn}function ${name}() {`, ...body, ...returned, '}'],
    call(used) {
      const taken = names.filter((each) => used.has(each));
      const called = `${awaits ? 'await ' : ''}${name}()${semicolon}`;
      if (taken.length === 0) return called;
      return `${changes ? 'let' : 'const'} ${names.length === 1 && only ? only : `{ ${taken.join(', ')} }`} = ${called}`;
    },
    name: `${name}()`,
    edits: [],
  };
}

const together = (names: readonly string[]): string =>
  names.length === 1 ? names.join() : `{ ${names.join(', ')} }`;

/** Whether a statement can stand elsewhere: it does not leave the spec, and no line of it is text. */
export function isMovable({ start, end, returns }: Statement, { source: { text } }: FileContext): boolean {
  const code = text.slice(start, end);
  return !returns && !(code.includes('`') && code.includes('\n'));
}

/** The lines of statements with the comments above and behind them, their margin taken off. */
export function chunks(
  spec: Block,
  statements: readonly Statement[],
  { file, source: { text } }: FileContext,
): string[] {
  return statements.flatMap((statement) => {
    const at = spec.statements.indexOf(statement);
    const before = spec.statements[at - 1];
    const start = before ? endWithComment(before, file, text) : (spec.body?.start ?? 0) + 1;
    const margin = indentAt(text, statement.start);
    const lead = text.slice(start, statement.start).trim();
    const code = text.slice(statement.start, endWithComment(statement, file, text));
    return (lead ? `${lead}\n${margin}${code}` : code)
      .split(/\r?\n/)
      .map((line, i) => (i > 0 && line.startsWith(margin) ? line.slice(margin.length) : line));
  });
}

// A comment behind a statement, on the same line, belongs to it.
function endWithComment({ end }: Statement, { comments }: SpecFile, text: string): number {
  const comment = comments.find(
    (comment) => comment.start >= end && /^;?[ \t]*$/.test(text.slice(end, comment.start)),
  );
  return comment?.end ?? end;
}

function freeName({ source: { text } }: FileContext): string {
  const isTaken = (name: string): boolean => new RegExp(`\\b${name}\\b`).test(text);
  const [free = 'arrange'] = ['arrange', 'arrangeSpec', 'arrangeEach', 'arrangeAnew'].filter(
    (name) => !isTaken(name),
  );
  return free;
}

/** The statements at the start of a spec that only arrange. */
export function arrangingIn(spec: Block): Statement[] {
  const end = spec.statements.findIndex((statement) => kindOf(statement, spec) !== 'arrange');
  return spec.statements.slice(0, end < 0 ? undefined : end);
}

/** How many statements make an arrangement that is worth a name. */
export const FEWEST_STATEMENTS = 3;

/** The first statements of a spec as one text, equal for specs that begin alike; undefined where it has fewer. */
export const beginning = (statements: readonly Statement[], count = FEWEST_STATEMENTS): string | undefined =>
  statements.length < count
    ? undefined
    : statements
        .slice(0, count)
        .map(({ code }) => code)
        .join('\n');

import type { HookTime } from '../libraries/meaning.js';
import type { Edit, Mend } from '../finding.js';
import { indentAt, lineStart } from './edits/style.js';
import type { Block } from '../specs/model/blocks.js';
import type { FileContext } from '../checks/questions/context.js';

type EachTime = Extract<HookTime, 'before-each' | 'after-each'>;

const NAMES: Readonly<Record<EachTime, { plain: string; suite: string }>> = {
  'before-each': { plain: 'beforeEach', suite: 'setup' },
  'after-each': { plain: 'afterEach', suite: 'teardown' },
};

/** A hook's function as this file has it, with the edit of an import where it must be added; undefined where that is not plain. */
export function hookName(
  context: Pick<FileContext, 'file' | 'project'>,
  when: EachTime,
): { name: string; edits: Edit[] } | undefined {
  const { file } = context;
  const { plain, suite } = NAMES[when];
  const runner = [...file.imports.entries()].filter(
    ([, each]) => isRunner(each.specifier, context) && !each.typeOnly,
  );
  const imported = runner.find(([, each]) => each.name === plain || each.name === suite);
  if (imported) return { name: imported[0], edits: [] };
  const named = runner.filter(([, each]) => each.name !== 'default' && each.name !== '*');
  const suites =
    named.some(([, each]) => each.name === 'suite') || (runner.length === 0 && file.usesSuiteStyle);
  const name = suites && !named.some(([, each]) => HAS_EACH.has(each.specifier)) ? suite : plain;
  const isImported = named.some(([, each]) => MAKERS.has(each.name));
  const isGlobal = runner.length === 0 || [...file.globals.keys()].some((each) => MAKERS.has(each));
  if (!isImported) return isGlobal ? { name, edits: [] } : undefined;
  const [, last] = named.reduce((a, b) => (a[1].end > b[1].end ? a : b));
  return { name, edits: [{ file: file.path, start: last.end, end: last.end, text: `, ${name}` }] };
}

/** The name that a group's function has in this file; undefined where it has none. */
export function groupFunction(context: Pick<FileContext, 'file' | 'project'>): string | undefined {
  const { file } = context;
  const names = ['describe', 'suite', 'context'];
  const imported = [...file.imports].find(
    ([, each]) => isRunner(each.specifier, context) && names.includes(each.name),
  );
  const used = imported?.[0] ?? names.find((name) => file.globals.has(name));
  return used ?? (file.globals.has('it') ? 'describe' : undefined);
}

const MAKERS: ReadonlySet<string> = new Set(['it', 'test', 'describe', 'suite']);

// Runners whose `suite` groups go with plain names of hooks.
const HAS_EACH: ReadonlySet<string> = new Set(['vitest', 'node:test']);

const isRunner = (specifier: string, { project }: Pick<FileContext, 'project'>): boolean =>
  ['describe', 'suite'].some((name) => project.libraries.of(specifier)?.exports[name]?.kind === 'group');

/**
 * The edits that make statements run in an each-hook of a group: in the hook that is there, or in a new one next to the others.
 * `group` is a group or the file; what is declared stands before a new hook, or before the one that is there.
 * Statements and declarations come without their semicolons. Undefined where that is not plain.
 */
export function inEachHook(
  context: FileContext,
  group: Block,
  when: EachTime,
  statements: readonly string[],
  declared: readonly string[] = [],
): Edit[] | undefined {
  const { newline, indent, semicolon } = context.style;
  const ended = (code: string): string => code + semicolon;
  const there = group.children.find((child) => child.hook === when && hasPlainBody(child, context));
  if (there) return addedTo(there, context, statements.map(ended), declared.map(ended));
  const hook = hookName(context, when);
  const at = placeForHook(group, context);
  if (!hook || !at) return undefined;
  const lines = [
    ...declared.map(ended),
    `${hook.name}(() => {`,
    ...statements.map((statement) => indent + ended(statement)),
    `})${semicolon}`,
  ].map((line) => at.margin + line);
  const text = at.after ? newline + lines.join(newline) : lines.join(newline) + newline + newline;
  return [{ file: context.file.path, start: at.offset, end: at.offset, text }, ...hook.edits];
}

/** A mend that makes statements run after each spec of the group that a spec or hook stands in; see `inEachHook`. */
export function afterEachMend(
  context: FileContext,
  { parent }: Block,
  summary: string,
  statements: readonly string[],
  declared: readonly string[] = [],
): Mend | undefined {
  const edits = parent && inEachHook(context, parent, 'after-each', statements, declared);
  return edits && { summary, safe: true, edits };
}

const hasPlainBody = ({ body, fn }: Block, { source }: FileContext): boolean =>
  fn !== undefined && body !== undefined && source.text[body.start] === '{';

function addedTo(
  hook: Block,
  context: FileContext,
  statements: readonly string[],
  declared: readonly string[],
): Edit[] | undefined {
  const { text } = context.source;
  const { newline, indent } = context.style;
  const file = context.file.path;
  if (!hook.body) return undefined;
  const before = lineStart(text, hook.place.start);
  const margin = indentAt(text, hook.place.start);
  if (declared.length > 0 && text.slice(before, hook.place.start).trim() !== '') return undefined;
  const edits: Edit[] =
    declared.length > 0
      ? [{ file, start: before, end: before, text: declared.map((each) => margin + each + newline).join('') }]
      : [];
  const end = hook.body.end - 1;
  const closing = lineStart(text, end);
  const isOneLine = closing <= hook.body.start;
  if (isOneLine) {
    const space = text[end - 1] === ' ' ? '' : ' ';
    return [...edits, { file, start: end, end, text: `${space}${statements.join(' ')} ` }];
  }
  const lines = statements.map((statement) => indentAt(text, end) + indent + statement + newline).join('');
  return [...edits, { file, start: closing, end: closing, text: lines }];
}

// After the last hook of the group; else before its first group or spec.
function placeForHook(
  group: Block,
  { source: { text } }: FileContext,
): { offset: number; margin: string; after: boolean } | undefined {
  const hooks = group.children.filter((child) => child.kind === 'hook' && child.fn);
  const last = hooks.at(-1);
  const first = group.children.find((child) => child.kind !== 'hook');
  if (last && (!first || last.place.end < first.place.start)) {
    const end = text.indexOf('\n', last.place.end);
    const offset = end < 0 ? text.length : end;
    if (!/^;?[ \t\r]*$/.test(text.slice(last.place.end, offset))) return undefined;
    const back = text[offset - 1] === '\r' ? offset - 1 : offset;
    return { offset: back, margin: indentAt(text, last.place.start), after: true };
  }
  if (!first) return undefined;
  const offset = lineStart(text, first.place.start);
  const margin = indentAt(text, first.place.start);
  return text.slice(offset, first.place.start).trim() === '' ? { offset, margin, after: false } : undefined;
}

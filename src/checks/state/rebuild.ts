import type { Edit, Mend } from '../../mends/edit.js';
import { indentAt, styleOf } from '../../mends/style.js';
import type { Binding, SpecFile } from '../../model/specs/blocks.js';
import { dialectOf } from '../../dialects/index.js';
import type { FileContext } from '../check.js';

/** Splits `const x = value` into a declaration and a before-each hook that assigns it; undefined where that is not plain. */
export function rebuiltEachTime(binding: Binding, context: FileContext): Mend | undefined {
  const { declaration } = binding;
  const { text } = context.source;
  if (!declaration?.alone || !declaration.value || usedOutsideSpecs(binding, context.file)) return undefined;
  const hook = hookName(context.file);
  const type = typeOf(binding, context);
  if (
    !hook ||
    type === undefined ||
    text.slice(declaration.statement.start, declaration.statement.start + 6) === 'export'
  )
    return undefined;
  const { newline, indent, semicolon } = styleOf(text);
  const margin = indentAt(text, declaration.statement.start);
  const value = text.slice(declaration.value.start, declaration.value.end).replaceAll('\n', `\n${indent}`);
  const lines = [
    `let ${binding.name}${type}${semicolon}`,
    '',
    `${margin}${hook.name}(() => {`,
    `${margin}${indent}${binding.name} = ${value}${semicolon}`,
    `${margin}})${semicolon}`,
  ];
  const edit: Edit = { file: context.file.path, ...declaration.statement, text: lines.join(newline) };
  return {
    summary: `Build ${binding.name} in a ${hook.name} hook`,
    safe: true,
    edits: [edit, ...hook.edits],
  };
}

// A value that another one is made from, while the file is read, must be there at that time.
function usedOutsideSpecs(binding: Binding, file: SpecFile): boolean {
  const outside = [
    file.root,
    ...file.blocks.filter((block) => block.kind === 'group' || block.hook === 'before-all'),
  ];
  return outside.some((block) =>
    block.steps.some((step) => step.kind === 'use' && step.use.binding === binding),
  );
}

/** The before-each function as this file has it, with the edit of an import where it must be added. */
export function hookName(file: SpecFile): { name: string; edits: Edit[] } | undefined {
  const runner = [...file.imports.entries()].filter(([, each]) => isRunner(each.specifier) && !each.typeOnly);
  const imported = runner.find(([, each]) => each.name === 'beforeEach' || each.name === 'setup');
  if (imported) return { name: imported[0], edits: [] };
  const named = runner.filter(([, each]) => each.name !== 'default' && each.name !== '*');
  const suites =
    named.some(([, each]) => each.name === 'suite') || (runner.length === 0 && file.usesSuiteStyle);
  const name = suites && !named.some(([, each]) => each.specifier === 'vitest') ? 'setup' : 'beforeEach';
  if (!named.some(([, each]) => ['it', 'test', 'describe', 'suite'].includes(each.name)))
    return runner.length === 0 ? { name, edits: [] } : undefined;
  const [, last] = named.reduce((a, b) => (a[1].end > b[1].end ? a : b));
  return { name, edits: [{ file: file.path, start: last.end, end: last.end, text: `, ${name}` }] };
}

const isRunner = (specifier: string): boolean =>
  ['describe', 'suite'].some((name) => dialectOf(specifier)?.exports[name]?.kind === 'group');

// TypeScript needs the type that the value gave the name.
function typeOf({ declaration }: Binding, { file, source }: FileContext): string | undefined {
  if (!/\.[cm]?tsx?$/.test(file.path)) return '';
  if (declaration?.type) return source.text.slice(declaration.type.start, declaration.type.end);
  const made = declaration?.made;
  if (!made) return undefined;
  if (made.by === 'call') return `: ReturnType<typeof ${made.name}>`;
  return `: ${made.name}${made.typeArguments ?? ''}`;
}

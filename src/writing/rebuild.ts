import { isTypeScript } from '../util/paths.js';
import type { Edit, Mend } from '../finding.js';
import { indentAt } from './edits/style.js';
import { usesInBlock, type Binding, type Block, type SpecFile } from '../specs/model/blocks.js';
import type { FileContext } from '../checks/questions/context.js';
import { hookName } from './hook-edits.js';
import type { Built } from '../checks/questions/leak.js';

/** Builds a value before each spec: its declaration is split, or the before-all hook that builds it made an each-hook. */
export function rebuiltEachTime(binding: Binding, built: Built, context: FileContext): Mend | undefined {
  return built.hook ? ranEachTime(built.hook, context) : splitDeclaration(binding, context);
}

/** Makes a before-all hook a before-each hook. */
export function ranEachTime(hook: Block, context: FileContext): Mend | undefined {
  const name = hookName(context, 'before-each');
  const { start, end } = hook.callee;
  const { text } = context.source;
  if (!name || !hook.fn || !/^\w+$/.test(text.slice(start, end))) return undefined;
  const edit: Edit = { file: context.file.path, start, end, text: name.name };
  return { summary: `Run the hook before each spec`, safe: true, edits: [edit, ...name.edits] };
}

// `const x = value` becomes a declaration and a before-each hook that assigns it.
function splitDeclaration(binding: Binding, context: FileContext): Mend | undefined {
  const { declaration } = binding;
  const { text } = context.source;
  if (!declaration?.alone || !declaration.value || usedOutsideSpecs(binding, context.file)) return undefined;
  const hook = hookName(context, 'before-each');
  if (!hook || text.startsWith('export', declaration.statement.start)) return undefined;
  const { newline, indent, semicolon } = context.style;
  const margin = indentAt(text, declaration.statement.start);
  const written = text.slice(declaration.value.start, declaration.value.end);
  const type = declaredType(binding, context);
  // A type that can't be named is taken from a function that makes the value.
  const maker =
    type === undefined ? `make${binding.name[0]?.toUpperCase()}${binding.name.slice(1)}` : undefined;
  if (maker !== undefined && new RegExp(`\\b${maker}\\b`).test(text)) return undefined;
  const head =
    maker === undefined
      ? [`let ${binding.name}${type}${semicolon}`]
      : [
          `const ${maker} = () => ${written.startsWith('{') ? `(${written})` : written}${semicolon}`,
          `${margin}let ${binding.name}: ReturnType<typeof ${maker}>${semicolon}`,
        ];
  const value = maker === undefined ? indented(written, indent) : `${maker}()`;
  const lines = [
    ...head,
    '',
    `${margin}${hook.name}(() => {`,
    `${margin}${indent}${binding.name} = ${value}${semicolon}`,
    `${margin}})${semicolon}`,
    ...(/^\r?\n[ \t]*\S/.test(text.slice(declaration.statement.end)) ? [''] : []),
  ];
  const edit: Edit = { file: context.file.path, ...declaration.statement, text: lines.join(newline) };
  return {
    summary: `Build ${binding.name} in a ${hook.name} hook`,
    safe: true,
    edits: [edit, ...hook.edits],
  };
}

// Lines inside of a template are text.
const indented = (code: string, indent: string): string =>
  code.includes('`') ? code : code.replaceAll('\n', `\n${indent}`);

/** Whether the value of a name is needed while the file is read: another one may be made from it. */
export function usedOutsideSpecs(binding: Binding, file: SpecFile): boolean {
  const outside = [
    file.root,
    ...file.blocks.filter((block) => block.kind === 'group' || block.hook === 'before-all'),
  ];
  return outside.some((block) => usesInBlock(block, binding).length > 0);
}

/** The type that a name needs once it has no value, with its colon; empty in JavaScript, undefined where it can't be named. */
export function declaredType({ declaration }: Binding, { file, source }: FileContext): string | undefined {
  if (!isTypeScript(file.path)) return '';
  if (declaration?.type) return source.text.slice(declaration.type.start, declaration.type.end);
  if (declaration?.primitive !== undefined) return `: ${declaration.primitive}`;
  const made = declaration?.made;
  if (made?.by === 'new' && !made.typeArguments && GENERIC.has(made.name)) return undefined;
  if (made?.by === 'call') return `: ReturnType<typeof ${made.name}>`;
  return made?.by === 'new' ? `: ${made.name}${made.typeArguments ?? ''}` : undefined;
}

// Without their type arguments these are no types.
const GENERIC: ReadonlySet<string> = new Set(['Map', 'Set', 'WeakMap', 'WeakSet', 'Array', 'Promise']);

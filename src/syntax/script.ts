import { parseSync, type Comment, type OxcError, type Program } from 'oxc-parser';
import type { Problem, Source } from './source.js';
import { LineIndex } from '../util/line-index.js';
import { withoutFlow } from './flow.js';
import { isInstalled } from '../util/paths.js';
import { readCompiledForms } from './compiled-forms.js';
import { mayCreateElements, readCreatedElements } from './created-elements.js';
import { tooDeepAt } from './nesting.js';
import { isFunction, walkTree } from './tree.js';

/** A parsed script: an ESTree program with TypeScript and JSX nodes; spans are UTF-16 offsets into `source.text`. */
export interface Script {
  source: Source;
  program: Program;
  readonly comments: Comment[];
}

export const isScript = (path: string): boolean =>
  /\.[mc]?[jt]sx?$/.test(path) && !/\.d\.[mc]?ts$/.test(path);

/**
 * Parses a script by the extension of its path (`lang` overrides it). JavaScript may hold JSX, and the types of Flow.
 * `text` stands in for the source's own text where only a part of the file is script; offsets must stay the same.
 */
export function parseScript(
  source: Source,
  lang = langOf(source.path),
  text = source.text,
): Script | Problem {
  const deep = tooDeepAt(text);
  if (deep !== undefined) {
    return { file: source.path, reason: 'nested too deeply to be parsed', line: source.lines.at(deep).line };
  }
  const parsed = (each: string): ReturnType<typeof parseSync> =>
    parseSync(`file.${lang}`, each, { lang, preserveParens: false, sourceType: 'unambiguous' });
  let result = parsed(text);
  let error = failureOf(result);
  const plain = error && lang === 'jsx' ? withoutFlow(text) : undefined;
  if (plain !== undefined) {
    result = parsed(plain);
    error = failureOf(result);
  }
  const proposed = error && lang === 'jsx' ? withStandardExports(text) : undefined;
  if (proposed !== undefined) {
    const { errors, program } = parsed(proposed);
    if (errors.length === 0 && program.body.every(({ type }) => HANDING_ON.has(type)))
      return { source: { ...source, text: proposed, lines: new LineIndex(proposed) }, program, comments: [] };
  }
  const program = result.program;
  if (error && (program.body.length === 0 || !isLenient(error, program))) {
    const line = source.lines.at(error.labels[0]?.start ?? 0).line;
    return { file: source.path, reason: `syntax error: ${error.message}`, line };
  }
  if (mayCreateElements(source.path, text)) readCreatedElements(program);
  if (isInstalled(source.path)) readCompiledForms(program);
  // Comments are asked for of few files.
  return {
    source,
    program,
    get comments() {
      return result.comments;
    },
  };
}

const failureOf = ({ errors }: ReturnType<typeof parseSync>): OxcError | undefined =>
  errors.find(({ severity }) => severity === 'Error');

// `export Lid from './lid'`, a proposal that transforms of index files still take, as the standard writes it.
function withStandardExports(text: string): string | undefined {
  const changed = text.replace(
    /^(\s*export\s+)([A-Za-z_$][\w$]*)(\s*)(?:,\s*\{([^}]*)\}\s*)?(from\s*['"])/gm,
    (_, start: string, name: string, gap: string, more: string | undefined, rest: string) =>
      `${start}{ default as ${name}${more === undefined ? '' : `, ${more}`} }${gap || ' '}${rest}`,
  );
  return changed === text ? undefined : changed;
}

// Nothing but imports and exports: no place in such a file is ever shown or changed.
const HANDING_ON: ReadonlySet<string> = new Set([
  'ImportDeclaration',
  'ExportNamedDeclaration',
  'ExportAllDeclaration',
  'ExportDefaultDeclaration',
]);

type Lang = 'ts' | 'tsx' | 'js' | 'jsx';

function langOf(path: string): Lang {
  if (path.endsWith('.tsx')) return 'tsx';
  return /\.[mc]?ts$/.test(path) ? 'ts' : 'jsx';
}

// Early errors of the standard that runners' own transforms let pass; the tree is whole all the same. Nobody waits in a
// function that is not async.
const isLenient = ({ message, labels }: OxcError, program: Program): boolean =>
  /decorator|await|return/i.test(message) &&
  !/unexpected/i.test(message) &&
  !(/await/.test(message) && isInPlainFunction(program, labels[0]?.start ?? 0));

function isInPlainFunction(program: Program, at: number): boolean {
  let isPlain = false;
  walkTree(program, (node) => {
    if (node.start > at || node.end <= at) return false;
    if (isFunction(node)) isPlain = !node.async;
    return true;
  });
  return isPlain;
}

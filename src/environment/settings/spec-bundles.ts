import type { Node } from 'oxc-parser';
import { parseScript } from '../../syntax/script.js';
import type { Source } from '../../syntax/source.js';
import { literalText, memberName, requiredModule, unwrapped, walkTree } from '../../syntax/tree.js';
import { dirname, resolve } from '../../util/paths.js';

/** What a script takes in as a bundle: modules by a pattern, and single ones by their names. */
export interface SpecBundle {
  contexts: readonly RequiredContext[];
  /** Modules of the project that it imports or requires by a path. */
  imports: readonly string[];
}

/** Modules that a bundler puts in by a pattern (webpack 4 and 5): `require.context('../src', true, /\.spec\.ts$/)`. */
export interface RequiredContext {
  /** Absolute. */
  folder: string;
  /** Whether folders below are walked, too. */
  below: boolean;
  /** A regular expression over the path from the folder, which starts with `./`. */
  pattern: string;
}

/** Reads what a script bundles; undefined where it can't be parsed, or asks for something that is not written out. */
export function specBundle(source: Source): SpecBundle | undefined {
  const script = parseScript(source);
  if ('reason' in script) return undefined;
  const contexts: (RequiredContext | undefined)[] = [];
  const imports: string[] = [];
  walkTree(script.program, (node) => {
    const module = node.type === 'ImportDeclaration' ? node.source.value : requiredModule(node);
    if (module?.startsWith('.')) imports.push(module);
    if (isContext(node)) contexts.push(contextOf(node, dirname(source.path)));
  });
  const known = contexts.filter((each) => each !== undefined);
  return known.length === contexts.length ? { contexts: known, imports } : undefined;
}

type CallNode = Extract<Node, { type: 'CallExpression' }>;

function isContext(node: Node): node is CallNode {
  const callee = node.type === 'CallExpression' ? unwrapped(node.callee) : undefined;
  return (
    callee?.type === 'MemberExpression' &&
    memberName(callee) === 'context' &&
    callee.object.type === 'Identifier' &&
    callee.object.name === 'require'
  );
}

function contextOf({ arguments: args }: CallNode, from: string): RequiredContext | undefined {
  const [folder, below, pattern] = args.map((each) => unwrapped(each));
  const path = folder && literalText(folder);
  if (path === undefined || !path.startsWith('.')) return undefined;
  if (below && (below.type !== 'Literal' || typeof below.value !== 'boolean')) return undefined;
  if (pattern && !('regex' in pattern)) return undefined;
  return {
    folder: resolve(from, path),
    below: below?.type === 'Literal' ? below.value !== false : true,
    pattern: pattern && 'regex' in pattern ? pattern.regex.pattern : '^\\./.*$',
  };
}

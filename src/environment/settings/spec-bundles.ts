import type { Node } from 'oxc-parser';
import { parseScript } from '../../syntax/script.js';
import type { Source } from '../../syntax/source.js';
import { literalText, pathOf, requiredModule, unwrapped, walkTree } from '../../syntax/tree.js';
import { allKnown } from '../../util/all-known.js';
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
  const known = allKnown(contexts);
  return known && { contexts: known, imports };
}

type CallNode = Extract<Node, { type: 'CallExpression' }>;

const isContext = (node: Node): node is CallNode =>
  node.type === 'CallExpression' && pathOf(unwrapped(node.callee)) === 'require.context';

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

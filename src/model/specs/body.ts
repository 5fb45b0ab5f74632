import type { Node } from 'oxc-parser';
import { wordsOf } from '../../util/words.js';
import { isFunction, walkTree, type FunctionNode } from '../../parse/tree.js';
import type { Span } from '../components/view.js';
import { namesIn } from '../code/module-facts.js';
import type { ModuleTree } from '../project.js';
import { Leaves, type BodyLiteral } from './leaves.js';

/** One statement of a spec's or hook's own body. Places are offsets of the spec file. */
export interface Statement extends Span {
  /**
   * Equal for statements that do the same: names that the body declares are numbered, white space is left out.
   * Numbers go on from the statements before, so that equal beginnings of two bodies are equal one by one.
   */
  code: string;
  /** The same with the literals left out. */
  shape: string;
  literals: readonly BodyLiteral[];
  /** Names that it declares for the statements after it. */
  declares: readonly string[];
  /** How it declares them; undefined where it declares none. */
  keyword?: 'const' | 'let' | 'var' | 'function';
  /** All names that it uses, those of its own functions left out. */
  uses: ReadonlySet<string>;
  /** The words of all names, keys and literals in it, names also as a whole: `onFire` has `on`, `fire` and `onfire`. */
  words: ReadonlySet<string>;
  /** The words of its literals, and names and keys as a whole. */
  saying: ReadonlySet<string>;
  awaits: boolean;
  returns: boolean;
}

/** The statements of a function that has a block for its body. */
export function statementsOf({ node, tree }: { node: FunctionNode; tree: ModuleTree }): Statement[] {
  if (node.body?.type !== 'BlockStatement') return [];
  const names = new Map<string, number>();
  return node.body.body.map((each) => read(each, tree.script.source.text, names));
}

function read(node: Node, text: string, names: Map<string, number>): Statement {
  const leaves = new Leaves(text);
  walkTree(node, (each) => leaves.visit(each));
  for (const name of leaves.declared) if (!names.has(name)) names.set(name, names.size);
  const { keyword, declares } = declaredBy(node);
  return {
    start: node.start,
    end: node.end,
    code: leaves.written(node, names, (each) => each.text.replace(/^"([^'"\\]*)"$/, "'$1'")),
    shape: leaves.written(node, names, ({ as }) => as),
    literals: leaves.literals,
    declares,
    keyword,
    uses: new Set(
      leaves.names
        .map(({ name }) => name)
        .filter((name) => declares.includes(name) || !leaves.declared.includes(name)),
    ),
    get words() {
      return new Set([
        ...leaves.saying(),
        ...leaves.allNames().flatMap(wordsOf),
        ...leaves.literals.flatMap(({ text }) => wordsOf(text)),
      ]);
    },
    get saying() {
      return leaves.saying();
    },
    ...leavesFunction(node),
  };
}

function declaredBy(node: Node): Pick<Statement, 'keyword' | 'declares'> {
  if (node.type === 'FunctionDeclaration')
    return { keyword: 'function', declares: node.id ? [node.id.name] : [] };
  if (node.type !== 'VariableDeclaration') return { declares: [] };
  const keyword = node.kind === 'let' || node.kind === 'var' ? node.kind : 'const';
  return { keyword, declares: node.declarations.flatMap(({ id }) => namesIn(id)) };
}

// Whether the body's own function waits or returns here.
function leavesFunction(root: Node): Pick<Statement, 'awaits' | 'returns'> {
  let awaits = false;
  let returns = false;
  walkTree(root, (node) => {
    awaits ||= node.type === 'AwaitExpression' || (node.type === 'ForOfStatement' && node.await);
    returns ||= node.type === 'ReturnStatement';
    return !isFunction(node);
  });
  return { awaits, returns };
}

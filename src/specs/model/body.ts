import { completion } from '../../language/completion.js';
import type { Node } from 'oxc-parser';
import { wordsOf } from '../../util/words.js';
import { isFunction, walkTree } from '../../syntax/tree.js';
import type { Span } from '../../finding.js';
import { namesIn } from '../../syntax/module-facts.js';
import { Leaves, type BodyLiteral } from './leaves.js';

/** A name or a literal that may be another one in a statement of the same outline; `of`: what it is given to. */
export interface Slot extends Span {
  text: string;
  as: BodyLiteral['as'] | 'name';
  of?: string;
}

/** One statement of a block's own body. Places are offsets of the spec file. */
export interface Statement extends Span {
  /**
   * Equal for statements that do the same: names that the body declares are numbered, white space is left out.
   * Numbers go on from the statements before, so that equal beginnings of two bodies are equal one by one.
   */
  code: string;
  /** The same with the literals left out, and some names. */
  outline: (names: ReadonlySet<string>) => string;
  /** What an outline leaves out, in the order of the text. */
  slots: (names: ReadonlySet<string>) => readonly Slot[];
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

/** The statements of a body, in the text that they stand in; what is asked of one is worked out then. */
export function statementsOf(nodes: readonly Node[], text: string): Statement[] {
  const body = new Body(nodes, text);
  return nodes.map((each, i) => new OwnStatement(each, i, body));
}

/** The leaves of all statements of one body, and the numbers of the names that it declares. */
class Body {
  readonly #leaves: Leaves[] = [];
  readonly #numbers = new Map<string, number>();

  constructor(
    readonly nodes: readonly Node[],
    readonly text: string,
  ) {}

  /** Numbers go on from statement to statement, so those before are read first. */
  leavesOf(at: number): Leaves {
    for (let i = this.#leaves.length; i <= at; i++) {
      const node = this.nodes[i];
      const leaves = new Leaves(this.text);
      if (node) walkTree(node, (each) => leaves.visit(each));
      for (const name of leaves.declared)
        if (!this.#numbers.has(name)) this.#numbers.set(name, this.#numbers.size);
      this.#leaves.push(leaves);
    }
    return this.#leaves[at] ?? new Leaves(this.text);
  }

  written(
    at: number,
    literal: (each: BodyLiteral) => string,
    without: ReadonlySet<string> = new Set(),
  ): string {
    const leaves = this.leavesOf(at);
    const { start = 0, end = 0 } = this.nodes[at] ?? {};
    const numbers =
      without.size > 0
        ? new Map([...[...without].map((name) => [name, LEFT_OUT] as const), ...this.#numbers])
        : this.#numbers;
    return leaves.written({ start, end }, numbers, literal);
  }
}

// What stands for a name in the place of the number of one that the body declares.
const LEFT_OUT = -1;

class OwnStatement implements Statement {
  readonly start: number;
  readonly end: number;
  readonly #node: Node;
  readonly #at: number;
  readonly #body: Body;
  #code: string | undefined;

  constructor(node: Node, at: number, body: Body) {
    this.start = node.start;
    this.end = node.end;
    this.#node = node;
    this.#at = at;
    this.#body = body;
  }

  get code(): string {
    return (this.#code ??= this.#body.written(this.#at, ({ text }) =>
      text.replace(/^"([^'"\\]*)"$/, "'$1'"),
    ));
  }

  outline(names: ReadonlySet<string>): string {
    return this.#body.written(this.#at, ({ as }) => as, names);
  }

  slots(names: ReadonlySet<string>): readonly Slot[] {
    const { names: all, literals } = this.#leaves;
    const left = all
      .filter(({ name }) => names.has(name))
      .map(({ start, end, name }): Slot => ({ start, end, text: name, as: 'name' }));
    return [...left, ...literals].sort((a, b) => a.start - b.start);
  }

  get literals(): readonly BodyLiteral[] {
    return this.#leaves.literals;
  }

  get keyword(): Statement['keyword'] {
    const node = this.#node;
    if (node.type === 'FunctionDeclaration') return 'function';
    if (node.type !== 'VariableDeclaration') return undefined;
    return node.kind === 'let' || node.kind === 'var' ? node.kind : 'const';
  }

  get declares(): readonly string[] {
    const node = this.#node;
    if (node.type === 'FunctionDeclaration') return node.id ? [node.id.name] : [];
    return node.type === 'VariableDeclaration' ? node.declarations.flatMap(({ id }) => namesIn(id)) : [];
  }

  get uses(): ReadonlySet<string> {
    const { names, declared } = this.#leaves;
    const own = this.declares;
    return new Set(
      names.map(({ name }) => name).filter((name) => own.includes(name) || !declared.includes(name)),
    );
  }

  get words(): ReadonlySet<string> {
    const { literals } = this.#leaves;
    const texts = [...this.#leaves.allNames(), ...literals.map(({ text }) => text)];
    return new Set([...this.saying, ...texts.flatMap(wordsOf)]);
  }

  get saying(): ReadonlySet<string> {
    return this.#leaves.saying();
  }

  // Of the body's own function; what its functions do is theirs.
  get awaits(): boolean {
    return this.#has(
      'await',
      (node) => node.type === 'AwaitExpression' || (node.type === 'ForOfStatement' && node.await),
    );
  }

  get returns(): boolean {
    return completion(this.#node).has('returns');
  }

  get #leaves(): Leaves {
    return this.#body.leavesOf(this.#at);
  }

  // Most statements don't even have the word.
  #has(word: string, wanted: (node: Node) => boolean): boolean {
    let found = false;
    if (!this.#body.text.slice(this.start, this.end).includes(word)) return false;
    walkTree(this.#node, (node) => {
      found ||= wanted(node);
      return !found && !isFunction(node);
    });
    return found;
  }
}

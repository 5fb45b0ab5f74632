import type { Node } from 'oxc-parser';
import { wordsOf } from '../../util/words.js';
import { isFunction, memberName, propertyName, walkTree, type FunctionNode } from '../../parse/tree.js';
import type { Span } from '../components/view.js';
import { namesIn } from '../code/module-facts.js';
import type { ModuleTree } from '../project.js';

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

/** A literal of a statement, as it is written. */
export interface BodyLiteral extends Span {
  text: string;
  /** Where it stands: as an expression, as the value of an attribute, or as text of markup. */
  as: 'value' | 'attribute' | 'markup';
  /** The property, attribute or method that it is given to. */
  of?: string;
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

interface Name extends Span {
  name: string;
  /** `{ kiln }`: the key is the name as well. */
  shorthand: boolean;
}

/** The names and literals of a statement, in the order of the text. */
class Leaves {
  readonly names: Name[] = [];
  readonly literals: BodyLiteral[] = [];
  readonly declared: string[] = [];
  /** Nodes that name a property, not a value. */
  readonly #keys = new Set<Node>();
  readonly #shorthand = new Set<number>();
  readonly #givenTo = new Map<Node, string>();

  constructor(readonly text: string) {}

  visit(node: Node): boolean | void {
    switch (node.type) {
      case 'MemberExpression':
        if (!node.computed) this.#keys.add(node.property);
        break;
      case 'Property':
        this.#property(node);
        break;
      case 'MethodDefinition':
      case 'PropertyDefinition':
        if (!node.computed) this.#keys.add(node.key);
        break;
      case 'CallExpression':
        this.#arguments(node);
        break;
      case 'VariableDeclarator':
        this.declared.push(...namesIn(node.id));
        break;
      case 'FunctionDeclaration':
      case 'FunctionExpression':
      case 'ArrowFunctionExpression':
        if (node.id) this.declared.push(node.id.name);
        this.declared.push(...node.params.flatMap(namesIn));
        break;
      case 'TSLiteralType':
        return false;
      case 'TaggedTemplateExpression':
        this.#keys.add(node.quasi);
        break;
      case 'JSXAttribute':
        return this.#attribute(node);
      case 'JSXText':
        this.#markup(node);
        break;
      case 'Identifier':
      case 'JSXIdentifier':
        if (!this.#keys.has(node)) this.#name(node);
        break;
      default:
        return this.#literal(node);
    }
  }

  /** The code between two offsets: names numbered, literals as told, white space left out. */
  written(
    { start, end }: Span,
    names: ReadonlyMap<string, number>,
    literal: (each: BodyLiteral) => string,
  ): string {
    const parts = [
      ...this.names.map((each) => ({ ...each, code: nameCode(each, names) })),
      ...this.literals.map((each) => ({ ...each, code: literal(each) })),
    ].sort((a, b) => a.start - b.start);
    let at = start;
    let code = '';
    for (const part of parts) {
      code += `${bare(this.text.slice(at, part.start))}\0${part.code}\0`;
      at = part.end;
    }
    return code + bare(this.text.slice(at, end)).replace(/;$/, '');
  }

  /** Names and keys, as they are written. */
  allNames(): string[] {
    const keys = [...this.#keys].flatMap((key) =>
      'name' in key ? [String(key.name)] : 'value' in key ? [String(key.value)] : [],
    );
    return [...this.names.map(({ name }) => name), ...keys];
  }

  saying(): Set<string> {
    return new Set([
      ...this.literals.flatMap(({ text }) => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []),
      ...this.allNames().map((name) => name.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '')),
    ]);
  }

  #name({ start, end, name }: Span & { name: string }): void {
    this.names.push({ start, end, name, shorthand: this.#shorthand.has(start) });
  }

  #property(node: Extract<Node, { type: 'Property' }>): void {
    if (node.computed) return;
    this.#keys.add(node.key);
    const name = propertyName(node.key, false);
    if (name !== undefined) this.#givenTo.set(node.value, name);
    if (node.shorthand) this.#shorthand.add(node.key.start);
  }

  #arguments({ callee, arguments: args }: Extract<Node, { type: 'CallExpression' }>): void {
    const name = callee.type === 'Identifier' ? callee.name : memberName(callee);
    const [first] = args;
    if (name !== undefined && first) this.#givenTo.set(first, name);
  }

  #attribute({ name, value }: Extract<Node, { type: 'JSXAttribute' }>): boolean | void {
    this.#keys.add(name);
    const of = name.type === 'JSXIdentifier' ? name.name : undefined;
    if (value?.type === 'Literal') {
      this.#keep(value, 'attribute', of);
      return false;
    }
    if (value?.type === 'JSXExpressionContainer' && of !== undefined) this.#givenTo.set(value.expression, of);
  }

  // The words of a text, without the white space around them.
  #markup({ start, end }: Span): void {
    const text = this.text.slice(start, end);
    const words = text.trim();
    const from = start + text.indexOf(words);
    if (words) this.#keep({ start: from, end: from + words.length }, 'markup', 'text');
  }

  #literal(node: Node): boolean | void {
    const isNegative =
      node.type === 'UnaryExpression' && node.operator === '-' && node.argument.type === 'Literal';
    const isText = node.type === 'TemplateLiteral' && node.expressions.length === 0;
    if ((node.type !== 'Literal' && !isNegative && !isText) || this.#keys.has(node)) return;
    this.#keep(node, 'value', this.#givenTo.get(node));
    return false;
  }

  #keep({ start, end }: Span, as: BodyLiteral['as'], of: string | undefined): void {
    this.literals.push({ start, end, text: this.text.slice(start, end), as, of });
  }
}

function nameCode({ name, shorthand }: Name, names: ReadonlyMap<string, number>): string {
  const number = names.get(name);
  const code = number === undefined ? name : String(number);
  return shorthand ? `${name}:${code}` : code;
}

// White space, and the commas that a formatter may or may not set.
const bare = (text: string): string => text.replace(/\s+/g, '').replace(/,(?=[)\]}]|$)/g, '');

import type { Node } from 'oxc-parser';
import { propertyName, calledName } from '../../syntax/tree.js';
import type { Span } from '../../finding.js';
import { namesIn } from '../../syntax/module-facts.js';

/** A literal of a statement, as it is written. */
export interface BodyLiteral extends Span {
  text: string;
  /** Where it stands: as an expression, as the value of an attribute, as text of markup, or as an attribute that is only named. */
  as: 'value' | 'attribute' | 'markup' | 'flag';
  /** The property, attribute or method that it is given to. */
  of?: string;
}

interface Name extends Span {
  name: string;
  /** `{ kiln }`: the key is the name as well. */
  shorthand: boolean;
}

interface Pieces {
  gaps: readonly string[];
  parts: readonly (Name | BodyLiteral)[];
}

/** The code of a literal without the quotes around it. */
export const unquoted = (code: string): string => code.trim().replace(/^['"`]|['"`]$/g, '');

/** The names and literals of a statement, in the order of the text. */
export class Leaves {
  readonly names: Name[] = [];
  readonly literals: BodyLiteral[] = [];
  readonly declared: string[] = [];
  #pieces: Pieces | undefined;
  /** Nodes that name a property, not a value. */
  readonly #keys = new Set<Node>();
  /** `error: undefined` says that there is none. */
  readonly #denied = new Set<Node>();
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
        if (this.#keys.has(node)) break;
        // A value as any other, though it is written as a name.
        if (node.name === 'undefined') this.#keep(node, 'value', this.#givenTo.get(node as Node));
        else this.#name(node);
        break;
      default:
        return this.#literal(node);
    }
  }

  /** The code between two offsets: names numbered, literals as told, white space left out. */
  written(
    { start, end }: Span,
    numbers: ReadonlyMap<string, number>,
    literal: (each: BodyLiteral) => string,
  ): string {
    const { gaps, parts } = (this.#pieces ??= this.#taken(start, end));
    let code = '';
    parts.forEach((part, i) => {
      const told = 'as' in part ? literal(part) : nameCode(part, numbers);
      code += `${gaps[i] ?? ''}\0${told}\0`;
    });
    return code + (gaps[parts.length] ?? '');
  }

  // What stands between names and literals.
  #taken(start: number, end: number): Pieces {
    const parts = [...this.names, ...this.literals].sort((a, b) => a.start - b.start);
    const gaps = parts.map((part, i) =>
      bare(this.text.slice(i === 0 ? start : (parts[i - 1]?.end ?? 0), part.start)),
    );
    const last = bare(this.text.slice(parts.at(-1)?.end ?? start, end)).replace(/;$/, '');
    return { gaps: [...gaps, last], parts };
  }

  /** Names and keys, as they are written. */
  allNames(): string[] {
    return [...this.names.map(({ name }) => name), ...[...this.#keys].flatMap(keyName)];
  }

  saying(): Set<string> {
    const keys = [...this.#keys].filter((key) => !this.#denied.has(key));
    return new Set([
      ...this.literals.flatMap(({ text }) => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []),
      ...[...this.names.map(({ name }) => name), ...keys.flatMap(keyName)].map((name) =>
        name.toLowerCase().replace(/[^\p{L}\p{N}]/gu, ''),
      ),
    ]);
  }

  #name({ start, end, name }: Span & { name: string }): void {
    this.names.push({ start, end, name, shorthand: this.#shorthand.has(start) });
  }

  #property(node: Extract<Node, { type: 'Property' }>): void {
    if (node.computed) return;
    this.#keys.add(node.key);
    if (isNothing(node.value)) this.#denied.add(node.key);
    const name = propertyName(node.key, false);
    if (name !== undefined) this.#givenTo.set(node.value, name);
    if (node.shorthand) this.#shorthand.add(node.key.start);
  }

  #arguments(call: Extract<Node, { type: 'CallExpression' }>): void {
    const name = calledName(call);
    const [first] = call.arguments;
    if (name !== undefined && first) this.#givenTo.set(first, name);
  }

  #attribute({ name, value }: Extract<Node, { type: 'JSXAttribute' }>): boolean | void {
    this.#keys.add(name);
    const of = name.type === 'JSXIdentifier' ? name.name : undefined;
    if (!value && of !== undefined) this.#keep(name, 'flag', 'prop');
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
    const isList = node.type === 'ArrayExpression' && isPlain(node);
    if ((node.type !== 'Literal' && !isNegative && !isText && !isList) || this.#keys.has(node)) return;
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

const keyName = (key: Node): string[] =>
  'name' in key ? [String(key.name)] : 'value' in key ? [String(key.value)] : [];

// Values that are written out: a list of them is one value, however many it has.
function isPlain(node: Node | null): boolean {
  switch (node?.type) {
    case 'Literal':
      return true;
    case 'TemplateLiteral':
      return node.expressions.length === 0;
    case 'UnaryExpression':
      return isPlain(node.argument);
    case 'ArrayExpression':
      return node.elements.every(isPlain);
    case 'NewExpression':
      return (
        node.callee.type === 'Identifier' && node.callee.name === 'Date' && node.arguments.every(isPlain)
      );
    default:
      return false;
  }
}

const isNothing = (node: Node): boolean =>
  (node.type === 'Literal' && node.value === null) ||
  (node.type === 'Identifier' && node.name === 'undefined');

import type { Node } from 'oxc-parser';
import { memberName, pathOf, propertyName, unwrapped } from '../syntax/tree.js';
import { dataOfAll, isGlobalFunction, isMethod, isOperator, operate, type Data } from './operations.js';

/** Which of two a choice takes: `then` where its test holds, is truthy, or is not null. */
type Taken = 'then' | 'otherwise';

/** One of two values: of `a ? b : c`, or of a logical operator, one arm of which is its left side. */
export interface Choice<V> {
  operator: '?:' | '&&' | '||' | '??';
  test: V;
  testNode: Node;
  then: () => V;
  otherwise: () => V;
  /** Which it is, where the test is known. */
  taken: Taken | undefined;
}

/** An entry of an object: by its name, by a name that can't be read, or all of what is spread into it, where that may be anything. */
export type Entry<V> =
  | { is: 'named'; key: string; value: V; node: Node }
  | { is: 'unnamed'; key: V | undefined; value: V; node: Node }
  | { is: 'spread'; value: V; node: Node };

/** An item of a list, or all items of what is spread into it. */
export interface Item<V> {
  value: V;
  spread: boolean;
}

/** What somebody who reads expressions makes of them. Each method is given the node, for its place. */
export interface Algebra<V> {
  unknown(node: Node): V;
  /** Data that an operation gives. */
  data(value: Data, node: Node): V;
  /** All of a value as data; undefined where any of it is not known. */
  dataOf(value: V): { value: Data } | undefined;
  pattern(source: string, flags: string, node: Node): V;
  /** What an operator of the table makes of operands that are not all data; a unary one is `unary -`. */
  operation(by: string, of: readonly V[], node: Node): V;
  choice(choice: Choice<V>, node: Node): V;
  object(entries: readonly Entry<V>[], node: Node): V;
  list(items: readonly Item<V>[], node: Node): V;
  /** What the language leaves to its surroundings: names, members, calls, functions, markup, assignments. */
  other(node: Node): V;
  /** A part of an expression, read as far down as the reader goes. */
  read(node: Node): V;
}

/**
 * The one reader of JavaScript expressions: what the language says of an expression, in the values of an algebra.
 * Data is worked out by the operator table; what is not known stays with the algebra.
 */
export function readExpression<V>(node: Node, algebra: Algebra<V>): V {
  const inner = unwrapped(node);
  switch (inner.type) {
    case 'Literal':
      return literal(inner, algebra);
    case 'TemplateLiteral':
      return template(inner, algebra);
    case 'BinaryExpression':
      return operation(inner.operator, [algebra.read(inner.left), algebra.read(inner.right)], inner, algebra);
    case 'UnaryExpression':
      return inner.operator === 'delete'
        ? algebra.other(inner)
        : operation(`unary ${inner.operator}`, [algebra.read(inner.argument)], inner, algebra);
    case 'LogicalExpression':
      return logical(inner, algebra);
    case 'ConditionalExpression':
      return conditional(inner, algebra);
    case 'SequenceExpression':
      return inner.expressions.map((each) => algebra.read(each)).at(-1) ?? algebra.unknown(inner);
    case 'ObjectExpression':
      return algebra.object(
        inner.properties
          .map((property) => entry(property, algebra))
          .filter((each) => each.is !== 'spread' || !spreadsNothing(algebra.dataOf(each.value))),
        inner,
      );
    case 'ArrayExpression':
      return algebra.list(
        inner.elements.map((element): Item<V> => {
          if (element?.type === 'SpreadElement')
            return { value: algebra.read(element.argument), spread: true };
          return { value: element ? algebra.read(element) : algebra.unknown(inner), spread: false };
        }),
        inner,
      );
    default:
      return algebra.other(inner);
  }
}

function template<V>(node: Extract<Node, { type: 'TemplateLiteral' }>, algebra: Algebra<V>): V {
  const parts = node.quasis.flatMap((quasi, i) => {
    const hole = node.expressions[i];
    const text = algebra.data(quasi.value.cooked ?? '', quasi as Node);
    return hole ? [text, algebra.read(hole)] : [text];
  });
  return operation('template', parts, node, algebra);
}

function logical<V>(node: Extract<Node, { type: 'LogicalExpression' }>, algebra: Algebra<V>): V {
  const left = algebra.read(node.left);
  const [kept, right] = [() => left, () => algebra.read(node.right)];
  const [then, otherwise] = node.operator === '&&' ? [right, kept] : [kept, right];
  return choice({ operator: node.operator, test: left, testNode: node.left, then, otherwise }, node, algebra);
}

function conditional<V>(node: Extract<Node, { type: 'ConditionalExpression' }>, algebra: Algebra<V>): V {
  const { test, consequent, alternate } = node;
  const [then, otherwise] = [() => algebra.read(consequent), () => algebra.read(alternate)];
  return choice({ operator: '?:', test: algebra.read(test), testNode: test, then, otherwise }, node, algebra);
}

function choice<V>(made: Omit<Choice<V>, 'taken'>, at: Node, algebra: Algebra<V>): V {
  return algebra.choice({ ...made, taken: takenBy(made.operator, algebra.dataOf(made.test)) }, at);
}

function takenBy(
  operator: Choice<unknown>['operator'],
  test: { value: Data } | undefined,
): Taken | undefined {
  if (!test) return undefined;
  const holds = operator === '??' ? test.value !== null && test.value !== undefined : Boolean(test.value);
  return holds ? 'then' : 'otherwise';
}

function literal<V>(node: Extract<Node, { type: 'Literal' }>, algebra: Algebra<V>): V {
  if ('regex' in node) return algebra.pattern(node.regex.pattern, node.regex.flags, node);
  // A big number is none of the constants; the parser gives null for one that the engine cannot hold.
  return typeof node.value === 'bigint' || 'bigint' in node
    ? algebra.unknown(node)
    : algebra.data(node.value as string | number | boolean | null, node);
}

/** What an operator makes of its operands: data where all of them are, else what the algebra says. */
function operation<V>(by: string, of: readonly V[], node: Node, algebra: Algebra<V>): V {
  if (!isOperator(by)) return algebra.unknown(node);
  const result = operated(by, of, algebra);
  return result ? algebra.data(result.value, node) : algebra.operation(by, of, node);
}

/** The data that an operator, function or method of the table gives; undefined where an operand is not data. */
export function operated<V>(
  by: string,
  of: readonly V[],
  algebra: Pick<Algebra<V>, 'dataOf'>,
): { value: Data } | undefined {
  const operands = dataOfAll(of, (each) => algebra.dataOf(each));
  return operands && operate(by, operands);
}

/** The function or method of the table that a call asks for, and what a method is called on; undefined for any other call. */
export function calledOperation(
  callee: Node,
  isDeclared: (name: string) => boolean,
): { by: string; on?: Node } | undefined {
  const path = pathOf(callee);
  if (path !== undefined && isGlobalFunction(path) && !isDeclared(path.split('.')[0] ?? ''))
    return { by: path };
  const method = callee.type === 'MemberExpression' ? memberName(callee) : undefined;
  return callee.type === 'MemberExpression' && method !== undefined && isMethod(method)
    ? { by: method, on: callee.object }
    : undefined;
}

function entry<V>(
  node: Extract<Node, { type: 'ObjectExpression' }>['properties'][number],
  algebra: Algebra<V>,
): Entry<V> {
  if (node.type === 'SpreadElement') return { is: 'spread', value: spreadPart(node.argument, algebra), node };
  const key = propertyName(node.key, node.computed);
  const read = key === undefined ? algebra.read(node.key) : undefined;
  const known = read === undefined ? undefined : algebra.dataOf(read);
  // What a getter gives is no function, and no data.
  const value = node.kind === 'init' ? algebra.read(node.value) : algebra.unknown(node);
  const name = key ?? (known && !isList(known.value) ? String(known.value) : undefined);
  // `__proto__: …` gives the object another prototype.
  return name === undefined || (name === '__proto__' && !node.computed)
    ? { is: 'unnamed', key: read, value, node }
    : { is: 'named', key: name, value, node };
}

// `...(isLit && { cone })` spreads the object, or something falsy, and so nothing.
function spreadPart<V>(argument: Node, algebra: Algebra<V>): V {
  const inner = unwrapped(argument);
  if (inner.type !== 'LogicalExpression' || inner.operator !== '&&') return algebra.read(argument);
  const test = algebra.read(inner.left);
  const then = (): V => algebra.read(inner.right);
  const otherwise = (): V => algebra.object([], inner);
  return choice({ operator: '?:', test, testNode: inner.left, then, otherwise }, inner, algebra);
}

// Null, a number or a truth value has no properties of its own, and neither has an empty text.
const spreadsNothing = (data: { value: Data } | undefined): boolean =>
  data !== undefined && (typeof data.value === 'string' ? data.value === '' : !isList(data.value));

const isList = (value: Data): boolean => typeof value === 'object' && value !== null;

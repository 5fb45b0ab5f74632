/** A value without parts that is known when the file is read. */
export type Constant = string | number | boolean | null | undefined;

/** Plain data that is known when the file is read: constants, and lists and objects of them. */
export type Data = Constant | readonly Data[] | { readonly [key: string]: Data };

/** What gives a value as data; undefined where any of it is not known. */
type DataOf<V> = (value: V) => { value: Data } | undefined;

/** Several values as data; undefined where any of them is not known. */
export function dataOfAll<V>(values: readonly V[], dataOf: DataOf<V>): Data[] | undefined {
  const all: Data[] = [];
  for (const each of values) {
    const data = dataOf(each);
    if (!data) return undefined;
    all.push(data.value);
  }
  return all;
}

/** An object of these entries as data; undefined where any of them is not known. */
export function dataOfEntries<V>(
  entries: readonly (readonly [string, V])[],
  dataOf: DataOf<V>,
): { value: Data } | undefined {
  const values = dataOfAll(
    entries.map(([, value]) => value),
    dataOf,
  );
  return values && { value: Object.fromEntries(entries.map(([key], i) => [key, values[i]])) };
}

type Operation = (...of: Data[]) => Data;

const NOT_KNOWN = new Error('not known');
const LONGEST_TEXT = 20_000;

// The engine itself works them out, so operands keep their own types: `number` only tells the compiler that there is an operator.
const op =
  (work: (left: number, right: number) => unknown): Operation =>
  (left, right) =>
    work(left as number, right as number) as Data;

// Lists and objects are told apart by what they are, not by what they hold: two that look alike may be one or two.
const comparison =
  (work: (left: number, right: number) => boolean): Operation =>
  (left, right) => {
    if (isComposite(left) && isComposite(right)) throw NOT_KNOWN;
    return work(left as number, right as number);
  };

const numbers =
  (work: (...args: number[]) => number): Operation =>
  (...args) =>
    work(...args.map(Number));

const isComposite = (value: Data): boolean => typeof value === 'object' && value !== null;

/** The operators of ECMAScript, by how they are written; a unary one by `unary` and its sign. */
const OPERATORS: Readonly<Record<string, Operation>> = {
  '+': op((left, right) => left + right),
  '-': op((left, right) => left - right),
  '*': op((left, right) => left * right),
  '/': op((left, right) => left / right),
  '%': op((left, right) => left % right),
  '**': op((left, right) => left ** right),
  '&': op((left, right) => left & right),
  '|': op((left, right) => left | right),
  '^': op((left, right) => left ^ right),
  '<<': op((left, right) => left << right),
  '>>': op((left, right) => left >> right),
  '>>>': op((left, right) => left >>> right),
  '<': op((left, right) => left < right),
  '<=': op((left, right) => left <= right),
  '>': op((left, right) => left > right),
  '>=': op((left, right) => left >= right),
  '===': comparison((left, right) => left === right),
  '!==': comparison((left, right) => left !== right),
  '==': comparison((left, right) => left == right),
  '!=': comparison((left, right) => left != right),
  in: (key, of) => {
    if (!isComposite(of)) throw NOT_KNOWN;
    return String(key) in (of as object);
  },
  'unary -': op((of) => -of),
  'unary +': op((of) => +of),
  'unary ~': op((of) => ~of),
  'unary !': (of) => !of,
  'unary typeof': (of) => typeof of,
  'unary void': () => undefined,
  /** A template literal: each part as a text. */
  template: (...parts) => parts.map((part) => `${part as string}`).join(''),
  /** Whether a text matches a regular expression, given as it is written. */
  matches: (of, pattern) => regExp(String(pattern)).test(String(of)),
};

/** Functions of the global object that give equal results for equal operands. */
const FUNCTIONS: Readonly<Record<string, Operation>> = {
  Boolean: (of) => Boolean(of),
  Number: (...of) => (of.length === 0 ? 0 : Number(of[0])),
  String: (...of) => (of.length === 0 ? '' : String(of[0])),
  isNaN: (of) => Number.isNaN(Number(of)),
  isFinite: (of) => Number.isFinite(Number(of)),
  parseFloat: (of) => Number.parseFloat(String(of)),
  parseInt: (of, radix) => Number.parseInt(String(of), radix as number),
  'Array.isArray': (of) => Array.isArray(of),
  'Math.abs': numbers(Math.abs),
  'Math.ceil': numbers(Math.ceil),
  'Math.floor': numbers(Math.floor),
  'Math.max': numbers(Math.max),
  'Math.min': numbers(Math.min),
  'Math.round': numbers(Math.round),
  'Math.sign': numbers(Math.sign),
  'Math.trunc': numbers(Math.trunc),
  'Number.isFinite': (of) => Number.isFinite(of),
  'Number.isInteger': (of) => Number.isInteger(of),
  'Number.isNaN': (of) => Number.isNaN(of),
  'Object.entries': (of) => Object.entries(of as object) as Data,
  'Object.keys': (of) => Object.keys(of as object),
  'Object.values': (of) => Object.values(of as object) as Data,
};

const methods = (names: string): ReadonlySet<string> => new Set(names.split(' '));

/** Methods that change nothing and ask for nothing outside, by what they are called on. */
const METHODS = {
  string: methods(
    'at charAt charCodeAt codePointAt concat endsWith includes indexOf lastIndexOf padEnd padStart repeat replace replaceAll slice split startsWith substring toLowerCase toString toUpperCase trim trimEnd trimStart',
  ),
  number: methods('toFixed toString'),
  boolean: methods('toString'),
  list: methods('at concat flat includes indexOf join lastIndexOf slice toString'),
} as const;

function kindOf(value: Data): keyof typeof METHODS | undefined {
  if (Array.isArray(value)) return 'list';
  const kind = typeof value;
  return kind === 'string' || kind === 'number' || kind === 'boolean' ? kind : undefined;
}

const has = (table: Readonly<Record<string, Operation>>, name: string): boolean => Object.hasOwn(table, name);

/** Whether a name is an operator of the table. */
export const isOperator = (name: string): boolean => has(OPERATORS, name);
/** Whether a path from the global object is a function of the table. */
export const isGlobalFunction = (path: string): boolean => has(FUNCTIONS, path);
/** Whether a name is a method of the table; what it is called on is its first operand. */
export const isMethod = (name: string): boolean => Object.values(METHODS).some((each) => each.has(name));

/**
 * What an operator, function or method of the table gives for data, by the rules of ECMAScript: the engine works it out.
 * Undefined where it throws, would ask which of two objects is meant, or gives more than can be kept.
 */
export function operate(by: string, of: readonly Data[]): { value: Data } | undefined {
  const work = has(OPERATORS, by) ? OPERATORS[by] : has(FUNCTIONS, by) ? FUNCTIONS[by] : undefined;
  try {
    const value = work ? work(...of) : called(by, of);
    return typeof value === 'string' && value.length > LONGEST_TEXT ? undefined : { value };
  } catch {
    return undefined;
  }
}

function called(name: string, [of, ...args]: readonly Data[]): Data {
  const kind = kindOf(of);
  if (!kind || !METHODS[kind].has(name)) throw NOT_KNOWN;
  if (SEARCHING.has(name) && args.some(isComposite)) throw NOT_KNOWN;
  if (GROWING.has(name) && !(Number(args[0]) * String(of).length <= LONGEST_TEXT)) throw NOT_KNOWN;
  // Reflect keeps what the engine does where the name is known to be there.
  const method: unknown = Reflect.get(Object(of) as object, name);
  return Reflect.apply(method as () => Data, of, args);
}

const SEARCHING = methods('includes indexOf lastIndexOf');
const GROWING = methods('padEnd padStart repeat');

/** A property of data; undefined where it throws, or is one that all values of its kind bring with them. */
export function memberOfData(of: Data, name: string): { value: Data } | undefined {
  if (of === null || of === undefined) return undefined;
  const whole = Object(of) as object;
  if (Object.hasOwn(whole, name)) return { value: Reflect.get(whole, name) as Data };
  return name in whole ? undefined : { value: undefined };
}

/** The regular expression that is written as `/source/flags`; throws where it is none. */
export function regExp(written: string): RegExp {
  const end = written.lastIndexOf('/');
  // A pattern that remembers where it stopped would answer by turns.
  return new RegExp(written.slice(1, end), written.slice(end + 1).replace(/[gy]/g, ''));
}

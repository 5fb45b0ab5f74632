/** A value that is known when the file is read. */
export type Constant = string | number | boolean | null | undefined;

type Operation = (left: Constant, ...right: Constant[]) => Constant;

const text = (work: (of: string, ...args: string[]) => Constant): Operation =>
  function (of, ...args) {
    if (typeof of !== 'string' || args.some((each) => typeof each !== 'string')) throw NOT_KNOWN;
    return work(of, ...(args as string[]));
  };
const numbers = (work: (...args: number[]) => number): Operation =>
  function (...args) {
    return work(...args.map(Number));
  };
const NOT_KNOWN = new Error('not known');

// The operators of the language, with its rules for operands of other types. `any` would be a lie: both are constants.
type Ordered = number;

const OPERATORS: Readonly<Record<string, Operation>> = {
  '+': (left, right) => (left as string) + (right as string),
  '-': (left, right) => Number(left) - Number(right),
  '*': (left, right) => Number(left) * Number(right),
  '/': (left, right) => Number(left) / Number(right),
  '%': (left, right) => Number(left) % Number(right),
  '**': (left, right) => Number(left) ** Number(right),
  '<': (left, right) => (left as Ordered) < (right as Ordered),
  '<=': (left, right) => (left as Ordered) <= (right as Ordered),
  '>': (left, right) => (left as Ordered) > (right as Ordered),
  '>=': (left, right) => (left as Ordered) >= (right as Ordered),
  negative: (of) => -Number(of),
  typeof: (of) => typeof of,
  /** Whether a text matches a regular expression, given as it is written. */
  matches: (of, pattern) => regExp(String(pattern)).test(String(of)),
  'Math.abs': numbers(Math.abs),
  'Math.ceil': numbers(Math.ceil),
  'Math.floor': numbers(Math.floor),
  'Math.max': numbers(Math.max),
  'Math.min': numbers(Math.min),
  'Math.round': numbers(Math.round),
  'Math.trunc': numbers(Math.trunc),
  'Number.isFinite': (of) => Number.isFinite(of),
  'Number.isInteger': (of) => Number.isInteger(of),
  'Number.isNaN': (of) => Number.isNaN(of),
};
const CONVERSIONS: Readonly<Record<string, Operation>> = {
  Boolean: (of) => Boolean(of),
  Number: (of) => Number(of),
  String: (of) => String(of),
  isNaN: (of) => Number.isNaN(Number(of)),
};
const METHODS: Readonly<Record<string, Operation>> = {
  endsWith: text((of, end = '') => of.endsWith(end)),
  includes: text((of, part = '') => of.includes(part)),
  startsWith: text((of, start = '') => of.startsWith(start)),
  toLowerCase: text((of) => of.toLowerCase()),
  toUpperCase: text((of) => of.toUpperCase()),
  trim: text((of) => of.trim()),
};

const has = (table: Readonly<Record<string, Operation>>, name: string): boolean => Object.hasOwn(table, name);

/** Whether a name is an operator or a function of the language that gives equal results for equal operands. */
export const isOperation = (name: string): boolean => has(OPERATORS, name);
/** Whether a name is a global function that converts one value. */
export const isConversion = (name: string): boolean => has(CONVERSIONS, name);
/** Whether a name is a method of texts; the text is its first operand. */
export const isMethod = (name: string): boolean => has(METHODS, name);

/** What an operation gives for constants, by the rules of ECMAScript; undefined where it throws or is not known. */
export function operate(by: string, of: readonly Constant[]): { value: Constant } | undefined {
  const table = [OPERATORS, CONVERSIONS, METHODS].find((each) => has(each, by));
  try {
    return table && { value: table[by]?.(of[0], ...of.slice(1)) };
  } catch {
    return undefined;
  }
}

/** The regular expression that is written as `/source/flags`; throws where it is none. */
export function regExp(written: string): RegExp {
  const end = written.lastIndexOf('/');
  // A pattern that remembers where it stopped would answer by turns.
  return new RegExp(written.slice(1, end), written.slice(end + 1).replace(/[gy]/g, ''));
}

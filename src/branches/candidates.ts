import RandExp from 'randexp';
import { holdsConstant, type Domain } from '../components/domain.js';
import { constant, SOMETHING, type Expr, type Condition } from '../components/expr.js';
import { regExp, type Constant } from '../language/operations.js';
import type { Assignment, AssignedValue } from './assignment.js';
import { comparisonsIn, partsOf, type Variable } from './variables.js';

/** The comparisons in which anything is still open, filled with all that is given. */
const openComparisons = (tests: readonly Condition[], assignment: Assignment): Expr[] =>
  tests
    .flatMap(comparisonsIn)
    .map((sides) => ({ is: 'list', items: sides.map((side) => assignment.filled(side)) }));

// What a variable is compared with, and what that is compared with in turn: where one of them ends, so may the others.
function linkedTo(direct: readonly Expr[], all: readonly Expr[]): Expr[] {
  const linked = new Set(direct);
  const names = new Set<string>();
  for (const each of linked) {
    inputsIn(each, names);
    for (const other of all)
      if (!linked.has(other) && [...inputsIn(other, new Set())].some((name) => names.has(name)))
        linked.add(other);
  }
  return [...linked];
}

function inputsIn(expr: Expr, found: Set<string>): Set<string> {
  if (expr.is === 'prop') found.add(expr.name);
  else partsOf(expr).forEach((part) => inputsIn(part, found));
  return found;
}

/** Whether an expression is a variable itself. */
export const isVariable = (expr: Expr, { path }: Variable): boolean =>
  inputPath(expr)?.join('\0') === path.join('\0');

// Whether an expression reads a variable, or a property of it.
function mentions(expr: Expr, variable: Variable): boolean {
  const path = inputPath(expr);
  if (path) return variable.path.every((name, i) => path[i] === name);
  return partsOf(expr).some((part) => mentions(part, variable));
}

/** The names on the way to an input's property. */
export function inputPath(expr: Expr): string[] | undefined {
  if (expr.is === 'prop') return [expr.name];
  const outer = expr.is === 'member' ? inputPath(expr.of) : undefined;
  return outer && expr.is === 'member' ? [...outer, expr.name] : undefined;
}

function constantsIn(expr: Expr, found: Set<Constant>): Set<Constant> {
  if (expr.is === 'constant') found.add(expr.value);
  partsOf(expr).forEach((part) => constantsIn(part, found));
  return found;
}

const OTHERS: readonly Constant[] = [true, false, 'text', '', 1, 0];
const NOTHING: readonly Constant[] = [undefined, null];
/** The longest list or text that is tried. */
export const LONGEST = 64;

/**
 * Values worth trying for a variable, the likeliest first: the constants that it is compared with and their neighbours,
 * one between each two of them, and one of each kind. Between them they take every way through plain comparisons.
 */
export function candidatesOf(
  variable: Variable,
  tests: readonly Condition[],
  assignment: Assignment,
): AssignedValue[] {
  const { domain } = variable;
  const open = openComparisons(tests, assignment);
  const compared = open.filter((each) => mentions(each, variable));
  const linked = linkedTo(compared, open);
  const constants = [...linked.reduce((all, each) => constantsIn(each, all), new Set<Constant>())];
  const own = [
    ...constants.filter((constant) => typeof constant === 'number'),
    ...compared.flatMap((each) => roots(each, variable, assignment)),
  ];
  // Truth values and null are compared by size as 0 and 1.
  const numbers = [
    ...aroundNumbers(own),
    ...aroundNumbers([...own, ...(linked.some(isOrdered) ? [0, 1] : [])]),
  ];
  if (isLength(variable.path)) {
    const whole = own.flatMap((each) => [Math.floor(each), Math.ceil(each), Math.floor(each) + 1]);
    return numbersOf([...numbers, ...whole, 0, 1, 2]).map((each) => constant(each));
  }
  const strings = [...aroundStrings(constants, compared, domain), ...sized(compared, numbers)];
  const plain: Constant[] = [
    ...domain.values,
    ...numbers,
    ...strings,
    ...OTHERS,
    NaN,
    ...numbers.map(String),
  ];
  const allowed = [...new Set(plain)]
    .filter((value) => holdsConstant(domain, value))
    .map((value) => constant(value));
  const nothing = NOTHING.filter((value) => holdsConstant(domain, value)).map((value) => constant(value));
  const parts: AssignedValue[] = variable.members.size > 0 && mayHaveParts(domain) ? ['parts'] : [];
  const some = [...holders(variable, compared, domain), ...(parts.length ? [] : somethingIn(domain))];
  const [name = ''] = variable.path.slice(-1);
  // By its name alone it is a function.
  if (/^on[A-Z]/.test(name) && some.includes(SOMETHING)) return [SOMETHING, ...parts, ...allowed, ...nothing];
  // A value whose properties are read is an object, before it is anything else.
  return [...parts, ...allowed, ...some, ...nothing];
}

/** Whether a path leads to the length of something. */
export const isLength = (path: readonly string[]): boolean => path.length > 1 && path.at(-1) === 'length';

const mayHaveParts = ({ kinds }: Domain): boolean =>
  kinds.some((kind) => ['anything', 'object', 'list', 'string', 'function'].includes(kind));
// `plates.includes('cracked')`: a list with that one in it.
function holders(variable: Variable, compared: readonly Expr[], { kinds }: Domain): Expr[] {
  if (!kinds.includes('list') && !kinds.includes('anything')) return [];
  const found: Expr[] = [];
  const visit = (expr: Expr): void => {
    const [list, item] = expr.is === 'computed' && expr.by === 'includes' ? expr.of : [];
    if (list && item?.is === 'constant' && isVariable(list, variable))
      found.push({ is: 'list', items: [item] }, EMPTY_LIST);
    partsOf(expr).forEach(visit);
  };
  compared.forEach(visit);
  return found;
}

// Things without a value to compare: an empty list, an object, a function.
const somethingIn = ({ kinds }: Domain): Expr[] => [
  ...(kinds.includes('list') ? [EMPTY_LIST] : []),
  ...(kinds.includes('object') ? [SOME_OBJECT] : []),
  ...(kinds.includes('anything') || kinds.includes('function') ? [SOMETHING] : []),
];
const EMPTY_LIST: Expr = { is: 'list', items: [] };
const SOME_OBJECT: Expr = { is: 'object', entries: [], open: true };

const numbersOf = (numbers: readonly number[]): number[] => [
  ...new Set(numbers.filter((number) => Number.isInteger(number) && number >= 0 && number <= LONGEST)),
];

const decimalsOf = (value: number): number => /\.(\d+)$/.exec(String(value))?.[1]?.length ?? 0;

/** The step from a number to its neighbours: one in its last decimal. */
export const stepOf = (value: number): number => 10 ** -decimalsOf(value);

const rounded = (value: number, like: number): number => Number(value.toFixed(decimalsOf(like)));

// Each number with its neighbours, then one between each two, then one below and above all.
function aroundNumbers(constants: readonly number[]): number[] {
  const sorted = [...new Set(constants)].filter(Number.isFinite).sort((a, b) => a - b);
  const near = sorted.flatMap((each) => [
    each,
    rounded(each + stepOf(each), each),
    rounded(each - stepOf(each), each),
  ]);
  const between = sorted.flatMap((each, i) => {
    const next = sorted[i + 1];
    return next === undefined ? [] : [(each + next) / 2];
  });
  return [...new Set([...near, ...between])];
}

// Where one side of a comparison is a sum or product of the variable: what makes both sides equal.
function roots(sides: Expr, variable: Variable, assignment: Assignment): number[] {
  if (sides.is !== 'list') return [];
  return sides.items.flatMap((side) => {
    const [left, right] = side.is === 'computed' && side.of.length === 2 ? side.of : sides.items;
    if (!left || !right || (!isSum(left) && !isSum(right))) return [];
    const difference = (at: number): number | undefined => {
      assignment.set(variable, constant(at));
      const [a, b] = [assignment.filled(left), assignment.filled(right)];
      assignment.set(variable, undefined);
      return a.is === 'constant' && b.is === 'constant' ? Number(a.value) - Number(b.value) : undefined;
    };
    const [zero, one] = [difference(0), difference(1)];
    if (zero === undefined || one === undefined || zero === one) return [];
    const root = zero / (zero - one);
    return Math.abs(difference(root) ?? 1) < 1e-9 ? [Number(root.toFixed(9))] : [];
  });
}

const isOrdered = (expr: Expr): boolean =>
  (expr.is === 'computed' && /^[<>]=?$/.test(expr.by)) || partsOf(expr).some(isOrdered);

const isSum = (expr: Expr): boolean =>
  expr.is === 'computed' && /^(?:[-+*/]|unary [-+]|Math\..*)$/.test(expr.by);

function aroundStrings(constants: readonly Constant[], compared: readonly Expr[], domain: Domain): string[] {
  const own = constants.filter((constant) => typeof constant === 'string');
  const matching = own.flatMap((each) =>
    usesPattern(compared) && each.startsWith('/') ? sampleOf(each) : [],
  );
  // Texts are changed as little as can be told apart: `open` gives `other`, or `open…` for a longer one.
  const others =
    own.length && holdsConstant(domain, 'x')
      ? [
          'other',
          ...own.map((each) => `${each}x`),
          ...own.map((each) => `x${each}`),
          ...own.map((each) => ` ${each} `),
          ...own.map((each) => each.toUpperCase()),
          ...own.map((each) => each.toLowerCase()),
        ]
      : [];
  return [...matching, ...own, ...others];
}

const usesPattern = (compared: readonly Expr[]): boolean =>
  compared.some(function isPattern(expr: Expr): boolean {
    return (expr.is === 'computed' && expr.by === 'matches') || partsOf(expr).some(isPattern);
  });

// A text that a regular expression matches, always the same one.
function sampleOf(pattern: string): string[] {
  try {
    const maker = new RandExp(regExp(pattern));
    maker.max = 2;
    maker.randInt = (from) => from;
    return [maker.gen()];
  } catch {
    return [];
  }
}

// `name.trim().length > 3`: texts as long as the numbers say.
function sized(compared: readonly Expr[], numbers: readonly number[]): string[] {
  const asksLength = compared.some(function asks(expr: Expr): boolean {
    return (expr.is === 'member' && expr.name === 'length') || partsOf(expr).some(asks);
  });
  return asksLength ? numbersOf(numbers).map((size) => 'x'.repeat(size)) : [];
}

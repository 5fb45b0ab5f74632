import { dataOfAll, dataOfEntries, memberOfData, type Constant, type Data } from '../language/operations.js';
import type { NamedComponent } from './component-ref.js';
import { type Showing } from './shown.js';
import type { Says } from './translations.js';

export type { Constant };

/** What an expression of a component gives, as far as it can be read without running it. */
export type Expr =
  | { is: 'constant'; value: Constant }
  /** A prop or input of the component, by its name, or an item of a list that markup repeats over. */
  | { is: 'prop'; name: string }
  /** `optional`: read by `?.`, which gives undefined where there is nothing to read from. */
  | { is: 'member'; of: Expr; name: string; optional?: boolean }
  /** Texts joined, each part as the language makes a text of it: a template literal, a sum with a string. */
  | { is: 'text'; parts: readonly Expr[] }
  /** What a framework shows for a value. */
  | { is: 'shown'; how: Showing; of: Expr }
  /** One of these, depending on something. */
  | { is: 'choice'; options: readonly Expr[] }
  /** `by`: the operator that makes the choice by the truth of one of the two. */
  | { is: 'if'; test: Condition; then: Expr; otherwise: Expr; by?: '||' | '&&' }
  /**
   * `open`: it may have other entries; `rest`: those are all props of the component but these; `pieces`: what it is made
   * of, where some of that is only known once it is filled in.
   */
  | {
      is: 'object';
      entries: readonly (readonly [string, Expr])[];
      open: boolean;
      rest?: readonly string[];
      pieces?: readonly Piece[];
    }
  | { is: 'list'; items: readonly Expr[] }
  /**
   * Not known, but surely truthy: a function, markup. `type`: what `typeof` says of it, where that is sure; `sets`: the state
   * that it sets, by its key; `component`: the component that it is; `fn`: the function that it is, where a call can tell.
   */
  | {
      is: 'something';
      type?: 'function' | 'object';
      sets?: string;
      component?: NamedComponent;
      fn?: FunctionExpr;
    }
  /** What one of the operations of `operations.ts` makes of its operands. */
  | { is: 'computed'; by: string; of: readonly Expr[] }
  /** `name`: the field or variable that it is read from, where it is one; `path`: the properties read from that. */
  | {
      is: 'unknown';
      name?: string;
      path?: readonly string[];
      /** Of a translation: what is asked for. */
      says?: Says;
      /** What a call of a function of another module gives, what a state holds or an event carries, or a part of that. */
      answer?: Answer;
    };

/** An entry of an object, or all entries of what is spread into it. */
export type Piece = { key: string; value: Expr } | { spread: Expr };

/** A function as a value. */
export interface FunctionExpr {
  /** The keys of its parameters. */
  readonly params: readonly string[];
  /** What it gives over these, read when somebody asks; undefined where it does more than that. */
  readonly gives: Expr | undefined;
}

/**
 * `of`: the key of the function, of the state, of a parameter, or `EVENT`; `path`: the properties read from what it gives;
 * `args`: what the function is called with.
 */
export interface Answer {
  of: string;
  path: readonly string[];
  args?: readonly Expr[];
}

/** The key of a function of a module: `./use-kilns#useKilns` as it is imported, or by the file that declares it. */
export const functionKey = (module: string, name: string): string => `${module}#${name}`;

/** The import that a function's key stands for; undefined of the name of a prop. */
export function importOfKey(key: string): { specifier: string; name: string } | undefined {
  const at = key.lastIndexOf('#');
  return at <= 0 ? undefined : { specifier: key.slice(0, at), name: key.slice(at + 1) };
}

/** What a handler is handed of the event that it handles. */
export const EVENT = '~#event';

const PARAM = '(';

/** The key of a parameter: by the file and the offset of its function, and its place, counted from 0. */
export const paramKey = (file: string, offset: number, at: number): string =>
  functionKey(file, `${PARAM}${offset},${at}`);

/** Whether a key stands for a parameter. */
export const isParamKey = (key: string): boolean => importOfKey(key)?.name.startsWith(PARAM) === true;

/** The operation that calls the first of its operands with the others. */
export const CALL = 'call';

/** What a key gives, which nobody knows before it is filled in. */
export const answered = (of: string, args?: readonly Expr[]): Expr => ({
  is: 'unknown',
  answer: { of, path: [], ...(args?.length ? { args } : {}) },
});

const STATE = '~';

/** The key of what a component keeps between renders: by the file and the offset of the call that declares it. */
export const stateKey = (file: string, offset: number): string => functionKey(file, STATE + offset);

/** Whether a key stands for a state. */
export const isStateKey = (key: string): boolean => importOfKey(key)?.name.startsWith(STATE) === true;

const ID = '%';

/** The key of an id that React makes for a use of a component: by the file and the offset of the call of `useId`. */
export const idKey = (file: string, offset: number): string => functionKey(file, ID + offset);

/** Whether a key stands for such an id. */
export const isIdKey = (key: string): boolean => importOfKey(key)?.name.startsWith(ID) === true;

/** The key of such an id in one use of the component; that of a use is left as it is. */
export const idInUse = (key: string, use: number): string =>
  key.includes('@', key.lastIndexOf('#')) ? key : `${key}@${use}`;

/** A condition, as far as it can be read. */
export type Condition =
  | { is: 'truthy'; expr: Expr }
  /** `loose`: after the conversions of `==`. */
  | { is: 'same'; left: Expr; right: Expr; loose?: boolean }
  | { is: 'not'; of: Condition }
  | { is: 'all' | 'any'; of: readonly Condition[] }
  | { is: 'unsure' };

/** What the names of items start with, which are no props. */
export const ITEM = '@';

export const UNKNOWN: Expr = { is: 'unknown' };
/** What stands for a property that is not there: a spread leaves what was there before. */
export const ABSENT: Expr = { is: 'constant', value: undefined };
export const SOMETHING: Expr = { is: 'something' };
export const FUNCTION: Expr = { is: 'something', type: 'function' };
export const OBJECT: Expr = { is: 'something', type: 'object' };
export const UNSURE: Condition = { is: 'unsure' };
export const constant = (value: Constant): Expr => ({ is: 'constant', value });
export const truthy = (expr: Expr): Condition => ({ is: 'truthy', expr });
export const not = (of: Condition): Condition => (of.is === 'not' ? of.of : { is: 'not', of });
export const both = (...of: Condition[]): Condition => ({ is: 'all', of });

/** A condition that compares nothing in itself: it asks for a truth, or whether two are the same. */
export type Comparison = Extract<Condition, { is: 'truthy' | 'same' }>;

/** A condition with each of its comparisons replaced. */
export function mapComparisons(test: Condition, map: (atom: Comparison) => Condition): Condition {
  switch (test.is) {
    case 'truthy':
    case 'same':
      return map(test);
    case 'not':
      return { is: 'not', of: mapComparisons(test.of, map) };
    case 'all':
    case 'any':
      return { is: test.is, of: test.of.map((each) => mapComparisons(each, map)) };
    default:
      return test;
  }
}

/** Whether an expression is null or undefined. */
export const nullish = (expr: Expr): Condition => ({
  is: 'any',
  of: [null, undefined].map((value): Condition => ({ is: 'same', left: expr, right: constant(value) })),
});

/** A value that is spread over another one: that stays where the property is not there. */
export function spreadOver(value: Expr, before: Expr): Expr {
  if (value === ABSENT) return before;
  if (value.is !== 'if') return value;
  const [then, otherwise] = [spreadOver(value.then, before), spreadOver(value.otherwise, before)];
  return then === value.then && otherwise === value.otherwise ? value : { ...value, then, otherwise };
}

/** The condition that an expression gives undefined. */
export const isUndefined = (expr: Expr): Condition => ({
  is: 'same',
  left: expr,
  right: constant(undefined),
});

/** An expression, or another where that gives undefined. */
export const orElse = (expr: Expr, otherwise: Expr): Expr => ({
  is: 'if',
  test: isUndefined(expr),
  then: otherwise,
  otherwise: expr,
});

/** All of an expression as data; undefined where any of it is not known. */
export function dataOfExpr(expr: Expr): { value: Data } | undefined {
  switch (expr.is) {
    case 'constant':
      return expr;
    case 'list': {
      const value = dataOfAll(expr.items, dataOfExpr);
      return value && { value };
    }
    case 'object':
      return expr.open ? undefined : dataOfEntries(expr.entries, dataOfExpr);
    default:
      return undefined;
  }
}

/** All props of a component but some. */
export const restOfProps = (except: readonly string[]): Expr => ({
  is: 'object',
  entries: [],
  open: true,
  rest: except,
});

/** Data as an expression. */
export function exprOfData(value: Data): Expr {
  if (typeof value !== 'object' || value === null) return constant(value);
  if (Array.isArray(value)) return { is: 'list', items: (value as readonly Data[]).map(exprOfData) };
  const entries = Object.entries(value).map(([key, each]) => [key, exprOfData(each as Data)] as const);
  return { is: 'object', entries, open: false };
}

/** A property of what an expression gives; `optional`: undefined where there is nothing to read it from. */
export function memberOfExpr(expr: Expr, name: string, optional = false): Expr {
  switch (expr.is) {
    case 'object': {
      const entry = expr.entries.findLast(([key]) => key === name);
      if (!entry && expr.rest) return expr.rest.includes(name) ? constant(undefined) : { is: 'prop', name };
      const own = entry?.[1] ?? (expr.open || name in {} ? UNKNOWN : constant(undefined));
      return own === UNKNOWN && expr.pieces ? { is: 'member', of: expr, name, optional } : own;
    }
    case 'list':
      if (name === 'length') return constant(expr.items.length);
      if (!/^(?:0|[1-9]\d*)$/.test(name)) return name in [] ? UNKNOWN : constant(undefined);
      return expr.items[Number(name)] ?? constant(undefined);
    case 'choice':
      return oneOf(expr.options.map((option) => memberOfExpr(option, name, optional)));
    case 'if':
      return {
        ...expr,
        then: memberOfExpr(expr.then, name, optional),
        otherwise: memberOfExpr(expr.otherwise, name, optional),
      };
    case 'prop':
    case 'member':
    case 'computed':
      return optional ? { is: 'member', of: expr, name, optional } : { is: 'member', of: expr, name };
    // What it is a part of is still known by name.
    case 'unknown':
      return partOfUnknown(expr, name);
    case 'constant': {
      if (optional && (expr.value === null || expr.value === undefined)) return constant(undefined);
      const member = memberOfData(expr.value, name);
      return member ? exprOfData(member.value) : UNKNOWN;
    }
    default:
      return UNKNOWN;
  }
}

function partOfUnknown(expr: Extract<Expr, { is: 'unknown' }>, part: string): Expr {
  const { name, path = [], answer } = expr;
  if (name === undefined && !answer) return expr;
  return {
    ...expr,
    ...(name === undefined ? {} : { path: [...path, part] }),
    ...(answer && { answer: { ...answer, path: [...answer.path, part] } }),
  };
}

/** One of several, equal options made one. */
export function oneOf(options: readonly Expr[]): Expr {
  const seen: Expr[] = [];
  for (const option of options.flatMap((option) => (option.is === 'choice' ? option.options : [option]))) {
    if (!seen.some((each) => same(each, option))) seen.push(option);
  }
  const [only] = seen;
  return seen.length === 1 && only ? only : { is: 'choice', options: seen };
}

const same = (a: Expr, b: Expr): boolean =>
  (a.is === 'unknown' && b.is === 'unknown' && !a.answer && !b.answer) || isAlike(a, b);

// Whether two pieces of data are the same, as JSON: most differ in what comes first.
function isAlike(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b))
    return (
      Array.isArray(a) &&
      Array.isArray(b) &&
      a.length === b.length &&
      a.every((each, i) => isAlike(each, b[i]))
    );
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>];
  if (left.is !== right.is) return false;
  for (const key in left) if (!isAlike(left[key], right[key])) return false;
  for (const key in right) if (right[key] !== undefined && left[key] === undefined) return false;
  return true;
}

/** Every constant that an expression may give; undefined where it may give something else. */
export function possibleValues(expr: Expr): Constant[] | undefined {
  if (expr.is === 'constant') return [expr.value];
  const options = choicesOf(expr);
  if (!options) return undefined;
  const all = options.map(possibleValues);
  return all.some((each) => !each) ? undefined : all.flatMap((each) => each ?? []);
}

/** The expressions of which one is given. */
export function choicesOf(expr: Expr): readonly Expr[] | undefined {
  if (expr.is === 'if') return [expr.then, expr.otherwise];
  return expr.is === 'choice' ? expr.options : undefined;
}

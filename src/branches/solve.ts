import type { Domains } from '../components/domain.js';
import {
  constant,
  mapComparisons,
  SOMETHING,
  type Comparison,
  type Expr,
  type Condition,
} from '../components/expr.js';
import { outcome } from '../components/expr-filling.js';
import type { Constant } from '../language/operations.js';
import { Assignment, type AssignedValue } from './assignment.js';
import { candidatesOf, isLength, isVariable, LONGEST, inputPath, stepOf } from './candidates.js';
import {
  conditionOverInputs,
  STATE_PREFIX,
  variablesOf,
  visitCondition,
  type Variable,
} from './variables.js';

/** A value of an input. A function stands for any that does nothing. */
export type InputValue =
  Constant | readonly InputValue[] | { readonly [key: string]: InputValue } | (() => void);

/** Values that take an arm: of props and other inputs, and of state, by name. */
export interface Example {
  props: Readonly<Record<string, InputValue>>;
  state: Readonly<Record<string, InputValue>>;
}

/** What the solver says of a condition. */
export type Answer =
  /** `examples`: the likeliest first, then those that stand at a boundary of the condition. */
  { is: 'inputs'; examples: readonly Example[] } | { is: 'contradiction' } | { is: 'unsolved' };

const MOST_TRIES = 1500;
const MOST_EXAMPLES = 4;

/**
 * Finds inputs for which all conditions hold at once.
 *
 * Takes conditions over props and named state, and the domains of those whose type is known. Gives inputs, which are
 * worked out again before they are given; or a contradiction, where no inputs can be; or that it can't tell.
 * State that may change while the conditions are asked one after another (`mayChange`) never makes a contradiction.
 */
export function solve(
  conditions: readonly Condition[],
  domains: Domains = new Map(),
  mayChange: (state: string) => boolean = () => false,
): Answer {
  const tests = conditions.map(conditionOverInputs);
  const variables = variablesOf(tests, domains);
  const search = new Search(tests, variables);
  if (search.run()) return { is: 'inputs', examples: examplesOf(search) };
  return search.isExhausted && isContradiction(tests, domains, mayChange)
    ? { is: 'contradiction' }
    : { is: 'unsolved' };
}

// What can't be compared exactly is taken to hold: if even then nothing takes the arm, nothing does.
function isContradiction(
  tests: readonly Condition[],
  domains: Domains,
  mayChange: (state: string) => boolean,
): boolean {
  const exact = tests.map((test) => onlyExact(test, mayChange));
  const variables = variablesOf(exact, domains);
  const search = new Search(exact, variables);
  return !search.run(true) && search.isExhausted;
}

/** Gives values to variables one after another, and turns back where a condition fails. */
class Search {
  readonly assignment: Assignment;
  readonly variables: readonly Variable[];
  readonly tests: readonly Condition[];
  #tries = 0;

  constructor(tests: readonly Condition[], variables: readonly Variable[]) {
    this.tests = tests;
    this.variables = variables;
    this.assignment = new Assignment(variables);
  }

  /** Whether every candidate was tried. */
  get isExhausted(): boolean {
    return this.#tries < MOST_TRIES;
  }

  /** `open`: also what can't be told counts as taken, once all variables have a value. */
  run(open = false): boolean {
    return this.#from(0, open);
  }

  holds(): boolean {
    return this.tests.every((test) => this.assignment.outcome(test) === true);
  }

  #from(index: number, open: boolean): boolean {
    const outcomes = this.tests.map((test) => this.assignment.outcome(test));
    if (outcomes.includes(false)) return false;
    if (!outcomes.includes(undefined)) return true;
    const variable = this.variables[index];
    if (!variable) return open;
    if (variable.parent && this.assignment.get(variable.parent) !== 'parts')
      return this.#from(index + 1, open);
    for (const candidate of open ? this.#likeAll(variable) : this.candidates(variable)) {
      if (this.#tries++ >= MOST_TRIES) return false;
      this.assignment.set(variable, candidate);
      if (this.#from(index + 1, open)) return true;
      this.assignment.set(variable, undefined);
    }
    return false;
  }

  // Of what compares by size, a number or its text does for any object; what is only asked for its properties must be there.
  #likeAll(variable: Variable): AssignedValue[] {
    const isSized = this.tests.some((test) => comparesBySize(test, variable));
    return this.candidates(variable).filter((each) => {
      if (each === 'parts') return true;
      if (each.is === 'something') return !isSized;
      const isNothing = each.is === 'constant' && (each.value === null || each.value === undefined);
      return !isNothing || variable.asked || variable.members.size === 0;
    });
  }

  candidates(variable: Variable): AssignedValue[] {
    return candidatesOf(variable, this.tests, this.assignment);
  }
}

function comparesBySize(test: Condition, variable: Variable): boolean {
  let found = false;
  visitCondition(test, (expr) => {
    found ||= expr.is === 'computed' && expr.of.some((each) => isVariable(each, variable));
  });
  return found;
}

function examplesOf(search: Search): Example[] {
  dropNeedless(search);
  const found = new Map<string, Example>();
  const keep = (): unknown => found.set(JSON.stringify(exampleOf(search), named), exampleOf(search));
  keep();
  for (const variable of search.variables) {
    const given = search.assignment.get(variable);
    if (given === undefined || given === 'parts' || given.is !== 'constant') continue;
    search.assignment.set(variable, undefined);
    const others = alternatives(given.value, search.candidates(variable));
    for (const other of others) {
      search.assignment.set(variable, other);
      if (search.holds()) keep();
    }
    search.assignment.set(variable, given);
  }
  return [...found.values()].slice(0, MOST_EXAMPLES);
}

// Undefined and functions have no form of their own in JSON.
const named = (_: string, value: unknown): unknown =>
  value === undefined
    ? '\0undefined'
    : typeof value === 'function'
      ? '\0function'
      : Number.isNaN(value)
        ? '\0NaN'
        : value;

// The neighbours of a number, and the other way of there being nothing.
function alternatives(value: Constant, candidates: readonly AssignedValue[]): Expr[] {
  const constants = candidates.flatMap((candidate) =>
    candidate !== 'parts' && candidate.is === 'constant' ? [candidate] : [],
  );
  if (typeof value === 'number')
    return constants.filter(
      ({ value: other }) =>
        typeof other === 'number' && Math.abs(Math.abs(other - value) - stepOf(value)) < 1e-9,
    );
  if (value === undefined || value === null)
    return constants.filter(({ value: other }) => other === undefined || other === null);
  return [];
}

function dropNeedless(search: Search): void {
  for (const variable of [...search.variables].reverse()) {
    const given = search.assignment.get(variable);
    if (given === undefined) continue;
    search.assignment.set(variable, undefined);
    if (!search.holds()) search.assignment.set(variable, given);
  }
}

function exampleOf({ assignment, variables }: Search): Example {
  const props: Record<string, InputValue> = {};
  const state: Record<string, InputValue> = {};
  for (const { parent, path } of variables) {
    const [name = ''] = path;
    const value = parent ? undefined : assignment.filled({ is: 'prop', name });
    if (!value || value.is === 'prop') continue;
    if (name.startsWith(STATE_PREFIX)) state[name.slice(STATE_PREFIX.length)] = valueOf(value);
    else props[name] = valueOf(value);
  }
  return { props, state };
}

function valueOf(expr: Expr): InputValue {
  switch (expr.is) {
    case 'constant':
      return expr.value;
    case 'list':
      return expr.items.map(itemOf);
    case 'object':
      return Object.fromEntries(
        expr.entries.filter(([, value]) => !inputPath(value)).map(([key, value]) => [key, valueOf(value)]),
      );
    default:
      return () => {};
  }
}

// Of an item, nothing was asked but that it is there.
const itemOf = (expr: Expr): InputValue => (expr.is === 'something' || inputPath(expr) ? {} : valueOf(expr));

const EXACT = new Set(['<', '<=', '>', '>=']);

/** A condition in which all that is not compared exactly is unknown. */
function onlyExact(test: Condition, mayChange: (state: string) => boolean): Condition {
  const isInput = (expr: Expr): boolean => {
    const path = inputPath(expr);
    const name = path?.[0] ?? '';
    return (
      path !== undefined && !(name.startsWith(STATE_PREFIX) && mayChange(name.slice(STATE_PREFIX.length)))
    );
  };
  const isSize = (expr: Expr): boolean => isLength(inputPath(expr) ?? []);
  // Lengths are tried as far as lists are made: a larger bound says nothing.
  const isTried = (expr: Expr): boolean =>
    expr.is !== 'constant' ||
    typeof expr.value !== 'number' ||
    (Number.isInteger(expr.value) && expr.value < LONGEST - 1);
  const isNumber = (expr: Expr): boolean => expr.is === 'constant' && typeof expr.value === 'number';
  const isPair = (left: Expr, right: Expr, isConstant: (expr: Expr) => boolean): boolean =>
    isInput(left)
      ? (isConstant(right) && (!isSize(left) || isTried(right))) ||
        (isInput(right) && !isSize(left) && !isSize(right))
      : isInput(right) && isConstant(left) && (!isSize(right) || isTried(left));
  const isExact = (expr: Expr): boolean => {
    if (expr.is !== 'computed') return isInput(expr) || expr.is === 'constant';
    const [left, right] = expr.of;
    return EXACT.has(expr.by) && left !== undefined && right !== undefined && isPair(left, right, isNumber);
  };
  const isConstant = ({ is }: Expr): boolean => is === 'constant';
  const isKept = (atom: Comparison): boolean =>
    atom.is === 'truthy'
      ? isExact(atom.expr)
      : !atom.loose &&
        (isPair(atom.left, atom.right, isConstant) || (isConstant(atom.left) && isConstant(atom.right)));
  return mapComparisons(test, (atom) => (isKept(atom) ? atom : { is: 'unsure' }));
}

/** Whether a condition holds for an example; undefined where that can't be told. */
export function holdsFor(test: Condition, { props, state }: Example): boolean | undefined {
  return outcome(conditionOverInputs(test), (name) =>
    exprOfInput(name.startsWith(STATE_PREFIX) ? state[name.slice(STATE_PREFIX.length)] : props[name]),
  );
}

/** The value of an input as an expression of the model. */
export function exprOfInput(value: InputValue): Expr {
  if (typeof value === 'function') return SOMETHING;
  if (value === null || typeof value !== 'object') return constant(value);
  if (Array.isArray(value)) return { is: 'list', items: value.map(exprOfInput) };
  const entries = Object.entries(value).map(([key, each]): [string, Expr] => [
    key,
    exprOfInput(each as InputValue),
  ]);
  return { is: 'object', entries, open: false };
}

import type { Node } from 'oxc-parser';
import type { Data } from '../language/operations.js';
import {
  calledOperation,
  readExpression,
  type Algebra,
  type Choice,
  type Entry,
  type Item,
} from '../language/reader.js';
import { joinsObjects } from '../syntax/created-elements.js';
import { isFunction, memberName, pathOf, unwrapped, calledName } from '../syntax/tree.js';
import {
  ABSENT,
  both,
  CALL,
  constant,
  dataOfExpr,
  exprOfData,
  memberOfExpr,
  not,
  nullish,
  FUNCTION,
  OBJECT,
  orElse,
  restOfProps,
  SOMETHING,
  truthy,
  UNKNOWN,
  UNSURE,
  type Expr,
  type Condition,
} from './expr.js';
import { called as calledWith, computed } from './expr-filling.js';
import { isFilledLater, joinedObject } from './objects.js';
import { TRANSLATED } from './translated.js';
import { joined } from './expr-text.js';
import { isTranslatorCall, translationOf } from './translations.js';
import {
  deepestIn,
  isProps,
  isScopeGrowing,
  type NameBinding,
  type ComponentScope,
  type WayOut,
} from './scope.js';

/** What an expression gives, as far as it can be read in its scope. `depth`: how far names and parts were followed to it. */
export const exprOf = (node: Node, scope: ComponentScope, depth = 0): Expr =>
  new Expressions(scope, depth).read(node);

/** What a spread of an expression gives: one literal object of two becomes an object whose entries are of either. */
export function spreadExpr(node: Node, scope: ComponentScope): Expr {
  const value = exprOf(node, scope);
  return value.is === 'if' ? new Expressions(scope, 0).object([{ is: 'spread', value, node }]) : value;
}

/** Whether an expression is truthy, as a condition over props and constants. */
export const conditionOf = (node: Node, scope: ComponentScope, depth = 0): Condition =>
  conditionFrom(exprOf(node, scope, depth));

/** What a name gives; a value that can't be told keeps the name. */
export function named(name: string, scope: ComponentScope, depth = 0): Expr {
  const expr = exprOfBound(scope.lookup(name), depth);
  // What a call gives goes by the name that it is kept under.
  const isAnswer = expr.is === 'unknown' && expr.name === undefined && expr.answer !== undefined;
  return isAnswer ? { ...expr, name } : expr === UNKNOWN ? { is: 'unknown', name } : expr;
}

// What names give, with the depth that they were read at: what was read with more depth left holds for less, too.
const KNOWN_BOUND = new WeakMap<NameBinding, { expr: Expr; depth: number }>();

/** What a name that stands for something gives. */
export function exprOfBound(bound: NameBinding | undefined, depth = 0): Expr {
  if (!bound || !KEPT.has(bound.is) || isScopeGrowing()) return readBound(bound, depth);
  const known = KNOWN_BOUND.get(bound);
  if (known && known.depth <= depth) return known.expr;
  const expr = readBound(bound, depth);
  KNOWN_BOUND.set(bound, { expr, depth });
  return expr;
}

const KEPT: ReadonlySet<NameBinding['is']> = new Set([
  'node',
  'part',
  'either',
  'without',
  'assigned',
  'set-later',
]);

function readBound(bound: NameBinding | undefined, depth: number): Expr {
  switch (bound?.is) {
    case 'prop':
      return { is: 'prop', name: bound.name };
    case 'props':
      return restOfProps([]);
    case 'rest':
      return restOfProps(bound.except);
    case 'expr':
      return bound.expr;
    case 'node':
      return exprOf(bound.node, bound.scope, depth + 1);
    case 'part':
      return memberOfExpr(exprOfBound(bound.of, depth + 1), bound.key);
    case 'set-later': {
      const made = exprOfBound(bound.of, depth + 1);
      if (made.is !== 'object') return UNKNOWN;
      const set = [...bound.keys].map(([key, ways]) => {
        const isThere = made.open || made.entries.some(([name]) => name === key);
        const first = isThere ? memberOfExpr(made, key) : ABSENT;
        return [key, ways ? lastOf(ways, bound.scope, first, depth) : UNKNOWN] as const;
      });
      return { ...made, entries: [...made.entries.filter(([key]) => !bound.keys.has(key)), ...set] };
    }
    case 'without': {
      const whole = exprOfBound(bound.of, depth + 1);
      if (whole.is !== 'object') return UNKNOWN;
      const { entries, rest } = whole;
      return {
        ...whole,
        entries: entries.filter(([key]) => !bound.taken.includes(key)),
        ...(rest ? { rest: [...rest, ...bound.taken] } : {}),
      };
    }
    case 'either':
      return withFallback(exprOfBound(bound.of, depth + 1), { ...bound, fallback: bound.otherwise }, depth);
    case 'assigned': {
      const first = bound.first ? exprOfBound(bound.first, depth + 1) : constant(undefined);
      return lastOf(bound.ways, bound.scope, first, depth);
    }
    default:
      return UNKNOWN;
  }
}

// What the last way that holds gives.
const lastOf = (ways: readonly WayOut[], scope: ComponentScope, first: Expr, depth: number): Expr =>
  ways.reduce<Expr>(
    (before, { node, test, scope: own = scope }) => ({
      is: 'if',
      test,
      then: node ? exprOf(node, own, depth + 1) : UNKNOWN,
      otherwise: before,
    }),
    first,
  );

/** A value with what stands for it where it is undefined: `{ size = 3 }`. */
export function withFallback(
  expr: Expr,
  { fallback, scope }: { fallback?: Node; scope: ComponentScope },
  depth: number,
): Expr {
  return fallback ? orElse(expr, exprOf(fallback, scope, depth + 1)) : expr;
}

/** Expressions of components: what the language says of them, over props, fields and constants. */
class Expressions implements Algebra<Expr> {
  readonly #scope: ComponentScope;
  #depth: number;

  constructor(scope: ComponentScope, depth: number) {
    this.#scope = scope;
    this.#depth = depth;
  }

  read(node: Node): Expr {
    if (this.#depth > deepestIn(this.#scope)) return UNKNOWN;
    this.#depth++;
    const expr = readExpression(node, this);
    this.#depth--;
    return expr;
  }

  unknown(): Expr {
    return UNKNOWN;
  }

  data(value: Data): Expr {
    return exprOfData(value);
  }

  dataOf(value: Expr): { value: Data } | undefined {
    return dataOfExpr(value);
  }

  pattern(): Expr {
    return SOMETHING;
  }

  operation(by: string, of: readonly Expr[]): Expr {
    const [left = UNKNOWN, right = UNKNOWN] = of;
    switch (by) {
      case 'template':
        return joined(of);
      case '+':
        return isText(left) || isText(right) ? joined(of) : { is: 'computed', by, of };
      case '===':
      case '!==':
      case '==':
      case '!=':
        return boolean(comparison(by, left, right));
      case 'unary !':
        return boolean(not(conditionFrom(left)));
      case 'unary void':
        return constant(undefined);
      case 'in':
        return UNKNOWN;
      default:
        return { is: 'computed', by, of };
    }
  }

  choice({ operator, test, then, otherwise, taken }: Choice<Expr>): Expr {
    if (taken) return taken === 'then' ? then() : otherwise();
    if (operator === '??') return { is: 'if', test: nullish(test), then: otherwise(), otherwise: then() };
    const by = operator === '||' || operator === '&&' ? { by: operator } : {};
    return { is: 'if', test: conditionFrom(test), then: then(), otherwise: otherwise(), ...by };
  }

  object(entries: readonly Entry<Expr>[]): Expr {
    return joinedObject(
      entries.map((each) =>
        each.is === 'named'
          ? { key: each.key, value: each.value }
          : { spread: each.is === 'spread' ? each.value : UNKNOWN },
      ),
    );
  }

  list(items: readonly Item<Expr>[]): Expr {
    const found: Expr[] = [];
    for (const { value, spread } of items) {
      const text = value.is === 'constant' && typeof value.value === 'string' ? value.value : undefined;
      if (!spread) found.push(value);
      else if (value.is === 'list') found.push(...value.items);
      else if (text !== undefined) found.push(...[...text].map(constant));
      else return SOMETHING;
    }
    return { is: 'list', items: found };
  }

  other(node: Node): Expr {
    switch (node.type) {
      case 'Identifier':
        return this.#name(node.name);
      case 'MemberExpression':
        return this.#member(node);
      case 'CallExpression':
        return this.#call(node);
      case 'AssignmentExpression':
        return node.operator === '=' ? this.read(node.right) : UNKNOWN;
      case 'ClassExpression':
      case 'ClassDeclaration':
        return FUNCTION;
      case 'NewExpression':
        return SOMETHING;
      case 'JSXElement':
      case 'JSXFragment':
        return OBJECT;
      default:
        return isFunction(node) ? (this.#scope.functionAt?.(node, this.#scope) ?? FUNCTION) : UNKNOWN;
    }
  }

  #name(name: string): Expr {
    const bound = this.#scope.lookup(name);
    const known = KNOWN_NAMES.get(name);
    if (known && !bound) return known;
    return componentNamed(name, bound, this.#scope) ?? named(name, this.#scope, this.#depth);
  }

  #member(node: Extract<Node, { type: 'MemberExpression' }>): Expr {
    const name = memberName(node) ?? this.#key(node.property);
    if (name === undefined)
      return node.computed ? looked(this.read(node.object), this.read(node.property)) : UNKNOWN;
    if (name === 'NODE_ENV' && isEnvironment(node.object)) return TEST;
    if (isProps(node.object, this.#scope)) return { is: 'prop', name };
    if (node.object.type === 'ThisExpression') return named(`this.${name}`, this.#scope, this.#depth);
    return memberOfExpr(this.read(node.object), name, node.optional);
  }

  #key(node: Node): string | undefined {
    const key = this.read(node);
    return key.is === 'constant' ? String(key.value) : undefined;
  }

  // A call of what may be a function, where the scope follows these as values.
  #callOf(callee: Node, given: readonly Expr[]): Expr {
    const fn = this.#scope.functionAt ? this.read(callee) : UNKNOWN;
    if (fn.is === 'something') return calledWith(fn, given) ?? UNKNOWN;
    return isFilledLater(fn) ? computed(CALL, [fn, ...given]) : UNKNOWN;
  }

  // A call of an operation, of a signal, or of a function whose result the scope can tell.
  #call(node: Extract<Node, { type: 'CallExpression' }>): Expr {
    const callee = unwrapped(node.callee);
    if (node.arguments.some(({ type }) => type === 'SpreadElement')) return UNKNOWN;
    const says = translationOf(node);
    if (says) return { is: 'text', parts: [{ is: 'unknown', says }] };
    const given = node.arguments.map((argument) => this.read(argument));
    if (joinsObjects(node))
      return this.object(
        node.arguments.map((each, i) => ({ is: 'spread', value: given[i] ?? UNKNOWN, node: each })),
      );
    const name = calledName(node) ?? '';
    // `defineMessages({ … })` gives back what it is given.
    if (/^defineMessages?$/.test(name) && given[0]) return given[0];
    const result = this.#scope.called?.(node, given, this.#scope, this.#depth);
    if (result) return result;
    // `formatMessage(messages.save)`, `translate(label, { _: label })`
    if (isTranslatorCall(node) && given[0]) return computed(TRANSLATED, given.slice(0, 2));
    const [item] = given;
    const pattern = callee.type === 'MemberExpression' ? unwrapped(callee.object) : callee;
    if (pattern.type === 'Literal' && 'regex' in pattern && memberName(callee) === 'test' && item)
      return computed('matches', [item, constant(pattern.raw ?? '')]);
    const called = calledOperation(callee, (name) => this.#scope.lookup(name) !== undefined);
    if (!called?.on) return called ? computed(called.by, given) : this.#callOf(callee, given);
    const of = this.read(called.on);
    // A method of its own by such a name: `rack.at(2)`.
    if (of.is === 'object') return this.#callOf(callee, given);
    const made = called.by === 'includes' && item && of.is === 'list' ? isOneOf(item, of) : undefined;
    const whole = made ?? computed(called.by, [of, ...given]);
    // `code?.trim()`
    return callee.type === 'MemberExpression' && callee.optional
      ? { is: 'if', test: nullish(of), then: constant(undefined), otherwise: whole }
      : whole;
  }
}

const KNOWN_NAMES: ReadonlyMap<string, Expr> = new Map([
  ['undefined', constant(undefined)],
  ['NaN', constant(NaN)],
  ['Infinity', constant(Infinity)],
]);

// A component as a value: a name in the way of components that another module gives, or that is declared by a function, a
// class or a call.
function componentNamed(
  name: string,
  bound: NameBinding | undefined,
  scope: ComponentScope,
): Expr | undefined {
  const ref = scope.file !== undefined && /^_?[A-Z]\w*[a-z]/.test(name) ? scope.ref(name) : undefined;
  const node = bound?.is === 'node' ? unwrapped(bound.node) : undefined;
  const isMade = node === undefined ? bound === undefined : isFunction(node) || MADE.has(node.type);
  return ref && isMade && scope.file !== undefined
    ? { is: 'something', component: { ref, file: scope.file } }
    : undefined;
}

const MADE: ReadonlySet<string> = new Set([
  'ClassDeclaration',
  'ClassExpression',
  'CallExpression',
  'TaggedTemplateExpression',
]);

const MOST_ENTRIES = 40;

// `LABELS[way]`: one of the entries of a literal object.
function looked(of: Expr, key: Expr): Expr {
  if (of.is === 'if') return { ...of, then: looked(of.then, key), otherwise: looked(of.otherwise, key) };
  if (of.is !== 'object' || of.open || of.entries.length > MOST_ENTRIES || key === UNKNOWN) return UNKNOWN;
  return of.entries.reduceRight<Expr>(
    (otherwise, [name, value]) => ({
      is: 'if',
      test: { is: 'same', left: key, right: constant(name) },
      then: value,
      otherwise,
    }),
    constant(undefined),
  );
}

// Runners set it where nothing else does.
const TEST = constant('test');
const isEnvironment = (node: Node): boolean => pathOf(unwrapped(node)) === 'process.env';

const isText = (expr: Expr): boolean =>
  expr.is === 'text' ||
  (expr.is === 'shown' && expr.how.attribute === undefined) ||
  (expr.is === 'constant' && typeof expr.value === 'string');

const boolean = (test: Condition): Expr => ({
  is: 'if',
  test,
  then: constant(true),
  otherwise: constant(false),
});

function comparison(operator: '===' | '!==' | '==' | '!=', left: Expr, right: Expr): Condition {
  const isNull = (expr: Expr): boolean =>
    expr.is === 'constant' && (expr.value === null || expr.value === undefined);
  const loose = operator === '==' || operator === '!=';
  const nothing = isNull(right) ? nullish(left) : isNull(left) ? nullish(right) : undefined;
  const same: Condition = (loose && nothing) || { is: 'same', left, right, ...(loose ? { loose } : {}) };
  return operator.startsWith('!') ? not(same) : same;
}

// `['open', 'shut'].includes(…)`: one comparison each, for who looks for the value.
function isOneOf(item: Expr, { items }: Extract<Expr, { is: 'list' }>): Expr | undefined {
  if (!items.every((item) => item.is === 'constant' && !Number.isNaN(item.value))) return undefined;
  return boolean({ is: 'any', of: items.map((left): Condition => ({ is: 'same', left, right: item })) });
}

/** The condition that an expression is truthy. */
export function conditionFrom(expr: Expr): Condition {
  if (expr === UNKNOWN) return UNSURE;
  if (expr.is === 'computed' && expr.by === 'Boolean' && expr.of[0]) return conditionFrom(expr.of[0]);
  if (expr.is !== 'if') return truthy(expr);
  const { test, then, otherwise } = expr;
  if (isConstant(then, true) && isConstant(otherwise, false)) return test;
  if (isConstant(then, false) && isConstant(otherwise, true)) return not(test);
  // `a && b`, `a || b`: one of the two is the left side.
  const [yes, no] = [conditionFrom(then), conditionFrom(otherwise)];
  if (isSame(no, test)) return both(test, yes);
  return isSame(yes, test) ? { is: 'any', of: [test, no] } : truthy(expr);
}

const isConstant = (expr: Expr, value: boolean): boolean => expr.is === 'constant' && expr.value === value;

// Whether two conditions ask the same of the same expressions.
function isSame(a: Condition, b: Condition): boolean {
  if (a === b) return true;
  switch (a.is) {
    case 'truthy':
      return b.is === 'truthy' && a.expr === b.expr;
    case 'not':
      return b.is === 'not' && isSame(a.of, b.of);
    case 'all':
    case 'any':
      return (
        b.is === a.is &&
        a.of.length === b.of.length &&
        a.of.every((each, i) => isSame(each, b.of[i] ?? UNSURE))
      );
    case 'same':
      return b.is === 'same' && a.left === b.left && a.right === b.right && a.loose === b.loose;
    default:
      return false;
  }
}

import { joined, shown } from './expr-text.js';
import { TRANSLATED, translated } from './translated.js';
import { operate } from '../language/operations.js';
import { operated } from '../language/reader.js';
import { visitProps } from './expr-names.js';
import { functionExpr } from './function-expr.js';
import { joinedObject } from './objects.js';
import {
  CALL,
  choicesOf,
  isParamKey,
  mapComparisons,
  type Answer,
  type FunctionExpr,
  type Piece,
  UNKNOWN,
  type Expr,
  memberOfExpr,
  oneOf,
  constant,
  dataOfExpr,
  exprOfData,
  type Condition,
  possibleValues,
} from './expr.js';

/** What names of props, and keys, stand for; undefined for those that nothing is known of. `args`: what a key is called with. */
export type GivenProps = (prop: string, args?: readonly Expr[]) => Expr | undefined;

/** What was filled in already: parts of expressions stand in many places. Only for props that stay as they are. */
export type Filled = Map<Expr, Expr>;

/** An expression with its props replaced by what `given` says; names it leaves undefined become unknown. */
export function filledExpr(expr: Expr, given: GivenProps, known?: Filled): Expr {
  if (!known || !isMade(expr)) return filled(expr, given, known);
  const found = known.get(expr);
  if (found) return found;
  const made = filled(expr, given, known);
  known.set(expr, made);
  return made;
}

const isMade = (expr: Expr): boolean => MADE.has(expr.is) || (expr.is === 'something' && !!expr.fn);
const MADE: ReadonlySet<Expr['is']> = new Set(['if', 'computed', 'choice', 'object']);

function filled(expr: Expr, given: GivenProps, known: Filled | undefined): Expr {
  const sub = (each: Expr): Expr => filledExpr(each, given, known);
  switch (expr.is) {
    case 'prop':
      return given(expr.name) ?? UNKNOWN;
    case 'computed': {
      const [callee, ...args] = expr.of;
      if (expr.by !== CALL || !callee) return withParts(expr, sub);
      const fn = sub(callee);
      // A function of elsewhere has no names of this place left in it; what it is called with has.
      return (
        whileCalling(() => {
          const result = called(fn, args);
          return result && sub(result);
        }) ?? { is: 'computed', by: CALL, of: [fn, ...args.map(sub)] }
      );
    }
    case 'if': {
      const holds = outcome(expr.test, given, known);
      if (holds !== undefined) return sub(holds ? expr.then : expr.otherwise);
      const [then, otherwise] = [sub(expr.then), sub(expr.otherwise)];
      // `a || b` gives no falsy `a`, `a && b` no truthy one.
      if (expr.by === '||') return oneOf([...only(then, true), otherwise]);
      if (expr.by === '&&') return oneOf([then, ...only(otherwise, false)]);
      return oneOf([then, otherwise]);
    }
    case 'object':
      return expr.pieces ? filledPieces(expr.pieces, sub) : withParts(expr, sub);
    case 'something':
      return expr.fn
        ? { ...expr, fn: functionWith(expr.fn, (gives) => withoutRest(filledExpr(gives, given))) }
        : expr;
    case 'unknown': {
      const { answer } = expr;
      const whole = answer && given(answer.of, answer.args);
      return whole ? answer.path.reduce((of, name) => memberOfExpr(of, name, true), whole) : expr;
    }
    default:
      return withParts(expr, sub);
  }
}

// An expression made anew of its parts.
function withParts(expr: Expr, sub: (part: Expr) => Expr): Expr {
  switch (expr.is) {
    case 'member':
      return memberOfExpr(sub(expr.of), expr.name, expr.optional);
    case 'computed':
      return computed(expr.by, expr.of.map(sub));
    case 'text':
      return joined(expr.parts.map(sub));
    case 'shown':
      return shown(sub(expr.of), expr.how);
    case 'choice':
      return oneOf(expr.options.map(sub));
    case 'object':
      return expr.pieces
        ? joinedObject(piecesWith(expr.pieces, sub))
        : { ...expr, entries: expr.entries.map(([key, value]) => [key, sub(value)]) };
    case 'list':
      return { ...expr, items: expr.items.map(sub) };
    case 'something':
      return expr.fn ? { ...expr, fn: functionWith(expr.fn, sub) } : expr;
    case 'unknown':
      return expr.answer?.args
        ? { ...expr, answer: { ...expr.answer, args: expr.answer.args.map(sub) } }
        : expr;
    default:
      return expr;
  }
}

// Of the values that an expression may give, those that may be truthy, or falsy.
const only = (expr: Expr, wanted: boolean): Expr[] =>
  (choicesOf(expr) ?? [expr]).filter((each) => truth(each) !== !wanted);

// An expression with each part of it changed, from the innermost on; its conditions stay as far as they are open.
function mapExpr(expr: Expr, change: (part: Expr) => Expr): Expr {
  const sub = (each: Expr): Expr => mapExpr(each, change);
  if (expr.is !== 'if') return change(withParts(expr, sub));
  const test = mapComparisons(expr.test, (atom) =>
    atom.is === 'truthy'
      ? { ...atom, expr: sub(atom.expr) }
      : { ...atom, left: sub(atom.left), right: sub(atom.right) },
  );
  const holds = outcome(test, () => undefined);
  if (holds !== undefined) return sub(holds ? expr.then : expr.otherwise);
  return change({ ...expr, test, then: sub(expr.then), otherwise: sub(expr.otherwise) });
}

/** An expression whose functions nobody calls any more: what differs in these alone is the same then. */
export const withoutFunctions = (expr: Expr): Expr =>
  holdsFunction(expr)
    ? mapExpr(expr, (part) => (part.is === 'something' && part.fn ? { ...part, fn: undefined } : part))
    : expr;

function holdsFunction(expr: Expr): boolean {
  switch (expr.is) {
    case 'something':
      return expr.fn !== undefined;
    case 'object':
      return expr.entries.some(([, value]) => holdsFunction(value)) || expr.pieces !== undefined;
    case 'list':
      return expr.items.some(holdsFunction);
    case 'choice':
      return expr.options.some(holdsFunction);
    case 'if':
      return holdsFunction(expr.then) || holdsFunction(expr.otherwise);
    case 'computed':
      return expr.of.some(holdsFunction);
    case 'unknown':
      return expr.answer?.args?.some(holdsFunction) === true;
    default:
      return false;
  }
}

const piecesWith = (pieces: readonly Piece[], sub: (each: Expr) => Expr): Piece[] =>
  pieces.map((piece) =>
    'spread' in piece ? { spread: sub(piece.spread) } : { key: piece.key, value: sub(piece.value) },
  );

// What is no more than unknown by now stays so, but for what a function is handed that nobody has called yet.
function filledPieces(pieces: readonly Piece[], sub: (each: Expr) => Expr): Expr {
  const made = joinedObject(piecesWith(pieces, sub));
  const entries = made.entries.map(([key, value]) => [key, sub(value)] as const);
  const isOpen = made.pieces && readsParams(made.pieces);
  return { ...made, entries, ...(isOpen ? {} : { pieces: undefined }) };
}

function readsParams(pieces: readonly Piece[]): boolean {
  let found = false;
  const visit = ({ of }: Answer): void => {
    found ||= isParamKey(of);
  };
  for (const piece of pieces) visitProps('spread' in piece ? piece.spread : piece.value, () => {}, visit);
  return found;
}

const functionWith = (fn: FunctionExpr, change: (gives: Expr) => Expr): FunctionExpr =>
  functionExpr(fn.params, () => fn.gives && change(fn.gives));

// What is the rest of the props here is not the rest of those of who calls it.
const withoutRest = (expr: Expr): Expr =>
  mapExpr(expr, (part) => (part.is === 'object' && part.rest ? { ...part, rest: undefined } : part));

const MOST_CALLS = 12;
let calls = 0;

// Functions may call themselves without end.
function whileCalling(call: () => Expr | undefined): Expr | undefined {
  if (calls >= MOST_CALLS) return undefined;
  calls++;
  try {
    return call();
  } finally {
    calls--;
  }
}

/** What a call of a function gives, by what it is called with; without `args` that is not known. */
export function called(fn: Expr, args?: readonly Expr[]): Expr | undefined {
  const options = fn.is === 'choice' ? fn.options.map((each) => called(each, args)) : undefined;
  if (options) return options.includes(undefined) ? undefined : oneOf(options.flatMap((each) => each ?? []));
  const own = fn.is === 'something' ? fn.fn : undefined;
  return whileCalling(() => {
    const gives = own?.gives;
    if (!own || !gives || own.params.length === 0) return gives;
    return mapExpr(gives, (part) => {
      const { of, path } = (part.is === 'unknown' && part.answer) || NO_ANSWER;
      const at = own.params.indexOf(of);
      const arg = args ? (args[at] ?? constant(undefined)) : UNKNOWN;
      return at < 0 ? part : path.reduce((whole, name) => memberOfExpr(whole, name, true), arg);
    });
  });
}

const NO_ANSWER = { of: '', path: [] };

const DATA = { dataOf: dataOfExpr };

/** What an operator, function or method of the table gives: worked out where all operands are data. */
export function computed(by: string, of: readonly Expr[]): Expr {
  const [list, item] = of;
  if (by === CALL && list) return called(list, of.slice(1)) ?? { is: 'computed', by, of };
  if (by === TRANSLATED && list) return translated(list, item);
  if (by === 'includes' && of.length === 2 && list?.is === 'list' && item) {
    const found = isIn(list.items, item);
    return found === undefined ? { is: 'computed', by, of } : constant(found);
  }
  if (list?.is === 'object' && !list.open && of.length === 1) {
    // Its keys are known, whatever they hold.
    const entries = Object.entries(Object.fromEntries(list.entries));
    if (by === 'Object.keys') return exprOfData(entries.map(([key]) => key));
    if (by === 'Object.values') return { is: 'list', items: entries.map(([, value]) => value) };
    if (by === 'Object.entries')
      return {
        is: 'list',
        items: entries.map(([key, value]) => ({ is: 'list', items: [constant(key), value] })),
      };
  }
  if (by === 'unary typeof' && list?.is === 'something' && list.type) return constant(list.type);
  if (by === 'unary typeof' && list && isTranslation(list)) return constant('string');
  if (by === 'unary typeof' && list?.is === 'something' && list.component)
    return oneOf([constant('function'), constant('object')]);
  const result = operated(by, of, DATA);
  return result ? exprOfData(result.value) : { is: 'computed', by, of };
}

// Whether a list holds a value; undefined where that can't be told.
function isIn(items: readonly Expr[], wanted: Expr): boolean | undefined {
  const found = items.map((item) => (item.is === 'something' ? false : equal(item, wanted)));
  if (found.includes(true)) return true;
  return found.includes(undefined) ? undefined : false;
}

/** Whether a condition holds with these props; undefined where that can't be told. */
export function outcome(test: Condition, given: GivenProps, known?: Filled): boolean | undefined {
  switch (test.is) {
    case 'truthy':
      return truth(filledExpr(test.expr, given, known));
    case 'same':
      return equal(filledExpr(test.left, given, known), filledExpr(test.right, given, known), test.loose);
    case 'not': {
      const inner = outcome(test.of, given, known);
      return inner === undefined ? undefined : !inner;
    }
    case 'all':
    case 'any': {
      const decides = test.is === 'any';
      const all = test.of.map((each) => outcome(each, given, known));
      if (all.includes(decides)) return decides;
      return all.includes(undefined) ? undefined : !decides;
    }
    default:
      return undefined;
  }
}

function truth(expr: Expr): boolean | undefined {
  switch (expr.is) {
    case 'constant':
      return Boolean(expr.value);
    case 'text':
      return expr.parts.some((part) => (part.is === 'constant' && part.value !== '') || isTranslation(part))
        ? true
        : undefined;
    case 'unknown':
      return isTranslation(expr) ? true : undefined;
    case 'object':
    case 'list':
    case 'something':
      return true;
    case 'choice': {
      const [first, ...rest] = expr.options.map(truth);
      return rest.every((each) => each === first) ? first : undefined;
    }
    default:
      return undefined;
  }
}

/** Whether an expression is what a translator gives: the key where it has no words. */
export const isTranslation = (expr: Expr): boolean =>
  expr.is === 'unknown' && expr.says !== undefined && expr.says.key !== '' && expr.says.words !== '';

function equal(left: Expr, right: Expr, loose = false): boolean | undefined {
  if (left.is === 'constant' && right.is === 'constant')
    return Boolean(operate(loose ? '==' : '===', [left.value, right.value])?.value);
  const [known, other] = left.is === 'constant' ? [left, right] : [right, left];
  if (known.is !== 'constant') return undefined;
  const values = possibleValues(other);
  if (values) {
    const found = new Set(values.map((one) => equal(known, constant(one), loose)));
    return found.size === 1 ? [...found][0] : undefined;
  }
  if (loose) return undefined;
  if (other.is === 'object' || other.is === 'list') return false;
  return truth(other) === true && !known.value ? false : undefined;
}

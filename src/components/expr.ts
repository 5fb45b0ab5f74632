import { memberOfData, operate, type Constant, type Data } from '../language/operations.js';
import { showsTextAsItIs, shownData, type Showing } from './shown.js';

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
  | { is: 'if'; test: Condition; then: Expr; otherwise: Expr }
  /** `open`: it may have other entries. */
  | { is: 'object'; entries: readonly (readonly [string, Expr])[]; open: boolean }
  | { is: 'list'; items: readonly Expr[] }
  /** Not known, but surely truthy: a function, markup. */
  | { is: 'something' }
  /** What one of the operations of `operations.ts` makes of its operands. */
  | { is: 'computed'; by: string; of: readonly Expr[] }
  /** `name`: the field or variable that it is read from, where it is one; `path`: the properties read from that. */
  | { is: 'unknown'; name?: string; path?: readonly string[] };

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
export const SOMETHING: Expr = { is: 'something' };
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

/** What names of props stand for; undefined for those that nothing is known of. */
export type GivenProps = (prop: string) => Expr | undefined;

/** An expression with its props replaced by what `given` says; names it leaves undefined become unknown. */
export function filledExpr(expr: Expr, given: GivenProps): Expr {
  switch (expr.is) {
    case 'prop':
      return given(expr.name) ?? UNKNOWN;
    case 'member':
      return memberOfExpr(filledExpr(expr.of, given), expr.name, expr.optional);
    case 'computed':
      return computed(
        expr.by,
        expr.of.map((each) => filledExpr(each, given)),
      );
    case 'text':
      return joined(expr.parts.map((part) => filledExpr(part, given)));
    case 'shown':
      return shown(filledExpr(expr.of, given), expr.how);
    case 'choice':
      return oneOf(expr.options.map((option) => filledExpr(option, given)));
    case 'if': {
      const holds = outcome(expr.test, given);
      if (holds !== undefined) return filledExpr(holds ? expr.then : expr.otherwise, given);
      return oneOf([filledExpr(expr.then, given), filledExpr(expr.otherwise, given)]);
    }
    case 'object':
      return { ...expr, entries: expr.entries.map(([key, value]) => [key, filledExpr(value, given)]) };
    case 'list':
      return { ...expr, items: expr.items.map((item) => filledExpr(item, given)) };
    default:
      return expr;
  }
}

/** What an operator, function or method of the table gives: worked out where all operands are data. */
export function computed(by: string, of: readonly Expr[]): Expr {
  const [list, item] = of;
  if (by === 'includes' && of.length === 2 && list?.is === 'list' && item) {
    const found = isIn(list.items, item);
    return found === undefined ? { is: 'computed', by, of } : constant(found);
  }
  const operands: Data[] = [];
  for (const each of of) {
    const data = dataOfExpr(each);
    // Most are asked for again and again with something still open.
    if (!data) return { is: 'computed', by, of };
    operands.push(data.value);
  }
  const result = operate(by, operands);
  return result ? exprOfData(result.value) : { is: 'computed', by, of };
}

/** All of an expression as data; undefined where any of it is not known. */
export function dataOfExpr(expr: Expr): { value: Data } | undefined {
  switch (expr.is) {
    case 'constant':
      return expr;
    case 'list': {
      const items: Data[] = [];
      for (const item of expr.items) {
        const data = dataOfExpr(item);
        if (!data) return undefined;
        items.push(data.value);
      }
      return { value: items };
    }
    case 'object': {
      const entries: Record<string, Data> = {};
      if (expr.open) return undefined;
      for (const [key, value] of expr.entries) {
        const data = dataOfExpr(value);
        if (!data) return undefined;
        entries[key] = data.value;
      }
      return { value: entries };
    }
    default:
      return undefined;
  }
}

/** Data as an expression. */
export function exprOfData(value: Data): Expr {
  if (typeof value !== 'object' || value === null) return constant(value);
  if (Array.isArray(value)) return { is: 'list', items: (value as readonly Data[]).map(exprOfData) };
  const entries = Object.entries(value).map(([key, each]) => [key, exprOfData(each as Data)] as const);
  return { is: 'object', entries, open: false };
}

/** What a framework shows for an expression. */
export function shown(expr: Expr, how: Showing): Expr {
  if (expr.is === 'constant' && typeof expr.value === 'string' && showsTextAsItIs(how)) return expr;
  switch (expr.is) {
    // A text is shown as it is, and so is what was made one.
    case 'text':
    case 'shown':
    case 'unknown':
    case 'something':
      return expr;
    case 'choice':
      return oneOf(expr.options.map((option) => shown(option, how)));
    case 'if':
      return { ...expr, then: shown(expr.then, how), otherwise: shown(expr.otherwise, how) };
    default: {
      const data = dataOfExpr(expr);
      if (!data) return { is: 'shown', how, of: expr };
      const text = shownData(data.value, how);
      return text ? constant(text.value) : UNKNOWN;
    }
  }
}

// Whether a list holds a value; undefined where that can't be told.
function isIn(items: readonly Expr[], wanted: Expr): boolean | undefined {
  const found = items.map((item) => (item.is === 'something' ? false : equal(item, wanted)));
  if (found.includes(true)) return true;
  return found.includes(undefined) ? undefined : false;
}

/** A property of what an expression gives; `optional`: undefined where there is nothing to read it from. */
export function memberOfExpr(expr: Expr, name: string, optional = false): Expr {
  switch (expr.is) {
    case 'object': {
      const entry = expr.entries.findLast(([key]) => key === name);
      return entry?.[1] ?? (expr.open || name in {} ? UNKNOWN : constant(undefined));
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
      return expr.name === undefined ? expr : { ...expr, path: [...(expr.path ?? []), name] };
    case 'constant': {
      if (optional && (expr.value === null || expr.value === undefined)) return constant(undefined);
      const member = memberOfData(expr.value, name);
      return member ? exprOfData(member.value) : UNKNOWN;
    }
    default:
      return UNKNOWN;
  }
}

/** Whether a condition holds with these props; undefined where that can't be told. */
export function outcome(test: Condition, given: GivenProps): boolean | undefined {
  switch (test.is) {
    case 'truthy':
      return truth(filledExpr(test.expr, given));
    case 'same':
      return equal(filledExpr(test.left, given), filledExpr(test.right, given), test.loose);
    case 'not': {
      const inner = outcome(test.of, given);
      return inner === undefined ? undefined : !inner;
    }
    case 'all':
    case 'any': {
      const decides = test.is === 'any';
      const all = test.of.map((each) => outcome(each, given));
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
      return expr.parts.some((part) => part.is === 'constant' && part.value !== '') ? true : undefined;
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

/** Texts joined, neighbouring constants made one. */
export function joined(parts: readonly Expr[]): Expr {
  const flat = parts.flatMap((part) => (part.is === 'text' ? part.parts : [asOneText(part)]));
  const merged: Expr[] = [];
  for (const part of flat) {
    const last = merged.at(-1);
    if (part.is === 'constant' && last?.is === 'constant') {
      merged[merged.length - 1] = constant(String(last.value) + String(part.value));
    } else merged.push(part.is === 'constant' ? constant(String(part.value)) : part);
  }
  const [only] = merged;
  if (!only) return constant('');
  return merged.length === 1 && only.is === 'constant' ? only : { is: 'text', parts: merged };
}

// A list or object that is data is the text that the language makes of it.
function asOneText(part: Expr): Expr {
  const data = part.is === 'list' || part.is === 'object' ? dataOfExpr(part) : undefined;
  return data ? constant(String(data.value)) : part;
}

/** An attribute, by its HTML name, as a framework writes it; undefined where it is left out. */
export const shownAttribute = (
  attribute: string,
  value: Expr,
  how: Pick<Showing, 'framework' | 'property'>,
): Expr => (NO_TEXT.has(attribute) ? value : shown(value, { ...how, attribute }));

// What is no text in the end: class names and styles are read part by part.
const NO_TEXT: ReadonlySet<string> = new Set([
  'class',
  'style',
  'ref',
  'is',
  'innerhtml',
  'dangerouslysetinnerhtml',
]);

/** One of several, equal options made one. */
export function oneOf(options: readonly Expr[]): Expr {
  const seen: Expr[] = [];
  for (const option of options.flatMap((option) => (option.is === 'choice' ? option.options : [option]))) {
    if (!seen.some((each) => same(each, option))) seen.push(option);
  }
  const [only] = seen;
  return seen.length === 1 && only ? only : { is: 'choice', options: seen };
}

function same(a: Expr, b: Expr): boolean {
  if (a.is === 'constant') return b.is === 'constant' && a.value === b.value;
  return a.is === 'unknown' ? b.is === 'unknown' : JSON.stringify(a) === JSON.stringify(b);
}

// What is shown of a value that is left out is nothing.
const asText = (value: Constant): string => (value === undefined ? '' : String(value));

/** A part of a text: literal, one of several literal ones, or a hole. */
export type Piece = string | readonly string[] | undefined;

/** The text that an expression shows, in pieces. */
export function textPieces(expr: Expr): Piece[] {
  return expr.is === 'text' ? expr.parts.flatMap((part) => piecesOf(part, String)) : piecesOf(expr, asText);
}

function piecesOf(expr: Expr, text: (value: Constant) => string): Piece[] {
  if (expr.is === 'constant') return [text(expr.value)];
  if (expr.is === 'text') return textPieces(expr);
  const values = possibleValues(expr);
  return [values && values.length <= MOST_CHOICES ? values.map(text) : undefined];
}

const MOST_CHOICES = 6;

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

/** Takes a prop that is read; `bound`: only which side of that number it is on is asked. */
type VisitProp = (name: string, bound?: number) => void;

/** Calls `visit` for every prop that an expression or condition reads. */
export const propsIn = (expr: Expr, visit: (name: string) => void): void =>
  visitProps(expr, (name) => visit(name));

/** Calls `visit` for every prop that a condition reads. */
export const propsInCondition = (test: Condition, visit: (name: string) => void): void =>
  visitPropsInCondition(test, (name) => visit(name));

/** Calls `visit` for every prop that an expression reads, with the number that it is compared with by size. */
export function visitProps(expr: Expr, visit: VisitProp): void {
  const sub = (each: Expr): void => visitProps(each, visit);
  switch (expr.is) {
    case 'prop':
      return visit(expr.name);
    case 'member':
      return sub(expr.of);
    case 'computed': {
      const [left, right] = expr.of;
      const bound = /^[<>]=?$/.test(expr.by) && right?.is === 'constant' ? right.value : undefined;
      if (left?.is === 'prop' && typeof bound === 'number') return visit(left.name, bound);
      return expr.of.forEach(sub);
    }
    case 'text':
      return expr.parts.forEach(sub);
    case 'shown':
      return sub(expr.of);
    case 'choice':
      return expr.options.forEach(sub);
    case 'if':
      visitPropsInCondition(expr.test, visit);
      sub(expr.then);
      return sub(expr.otherwise);
    case 'object':
      return expr.entries.forEach(([, value]) => sub(value));
    case 'list':
      return expr.items.forEach(sub);
  }
}

/** Calls `visit` for every prop that a condition reads, with the number that it is compared with by size. */
export function visitPropsInCondition(test: Condition, visit: VisitProp): void {
  switch (test.is) {
    case 'truthy':
      return visitProps(test.expr, visit);
    case 'same':
      visitProps(test.left, visit);
      return visitProps(test.right, visit);
    case 'not':
      return visitPropsInCondition(test.of, visit);
    case 'all':
    case 'any':
      return test.of.forEach((each) => visitPropsInCondition(each, visit));
  }
}

const NO_NAMES: readonly string[] = [];

/** The fields and variables that an expression shows, as far as they can't be told. */
export function unknownNames(expr: Expr): readonly string[] {
  switch (expr.is) {
    case 'unknown':
      return expr.name === undefined ? NO_NAMES : [expr.name];
    case 'text':
      return expr.parts.flatMap(unknownNames);
    case 'choice':
      return expr.options.flatMap(unknownNames);
    default:
      return NO_NAMES;
  }
}

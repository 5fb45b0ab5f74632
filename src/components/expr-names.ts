import type { Answer, Condition, Expr } from './expr.js';

/**
 * Takes a prop that is read; `bound`: only which side of that number it is on is asked; `item`: only its first item is,
 * which stands for any.
 */
type VisitProp = (name: string, bound?: number, item?: boolean) => void;

type VisitAnswer = (answer: Answer) => void;

/** Calls `visit` for every prop that an expression or condition reads. */
export const propsIn = (expr: Expr, visit: (name: string) => void): void =>
  visitProps(expr, (name) => visit(name));

/** Calls `visit` for every prop that a condition reads. */
export const propsInCondition = (test: Condition, visit: (name: string) => void): void =>
  visitPropsInCondition(test, (name) => visit(name));

/** Calls `visit` for every prop that an expression reads, with the number that it is compared with by size. */
export function visitProps(expr: Expr, visit: VisitProp, answered?: VisitAnswer): void {
  const sub = (each: Expr): void => visitProps(each, visit, answered);
  switch (expr.is) {
    case 'prop':
      return visit(expr.name);
    case 'member':
      return expr.of.is === 'prop' && expr.name === '0' ? visit(expr.of.name, undefined, true) : sub(expr.of);
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
      visitPropsInCondition(expr.test, visit, answered);
      sub(expr.then);
      return sub(expr.otherwise);
    case 'object':
      expr.pieces?.forEach((piece) => sub('spread' in piece ? piece.spread : piece.value));
      return expr.entries.forEach(([, value]) => sub(value));
    case 'list':
      return expr.items.forEach(sub);
    case 'unknown':
      return expr.answer && answered?.(expr.answer);
  }
}

/** Calls `visit` for every prop that a condition reads, with the number that it is compared with by size. */
export function visitPropsInCondition(test: Condition, visit: VisitProp, answered?: VisitAnswer): void {
  switch (test.is) {
    case 'truthy':
      return visitProps(test.expr, visit, answered);
    case 'same':
      visitProps(test.left, visit, answered);
      return visitProps(test.right, visit, answered);
    case 'not':
      return visitPropsInCondition(test.of, visit, answered);
    case 'all':
    case 'any':
      return test.of.forEach((each) => visitPropsInCondition(each, visit, answered));
  }
}

/** The functions of other modules whose answers a condition reads, by their keys, with the parts of the answers that it reads. */
export function answersIn(test: Condition): Map<string, (readonly string[])[]> {
  const found = new Map<string, (readonly string[])[]>();
  visitPropsInCondition(
    test,
    () => {},
    ({ of, path }) => found.set(of, [...(found.get(of) ?? []), path]),
  );
  return found;
}

type Unknown = Extract<Expr, { is: 'unknown' }>;
const NONE: readonly Unknown[] = [];

/** The fields and variables that an expression shows, as far as they can't be told. */
export const unknownNames = (expr: Expr): readonly string[] =>
  unknownsIn(expr).flatMap(({ name }) => name ?? []);

/** What may stand for the translations that an expression shows, where nothing translates: keys and words. */
export const saysOf = (expr: Expr): readonly string[] =>
  unknownsIn(expr).flatMap(({ says }) => {
    const { key, words } = says ?? {};
    return [
      ...(key === undefined ? [] : [key, ...(words === undefined ? spelled(key) : [])]),
      ...(words === undefined ? [] : [words]),
    ];
  });

// `addKiln` mostly stands for “Add kiln”.
const spelled = (key: string): string[] => {
  if (!/^[a-z][A-Za-z]*$/.test(key)) return [];
  const text = key.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
  return [text.charAt(0).toUpperCase() + text.slice(1)];
};

// What of an expression is shown and can't be told.
function unknownsIn(expr: Expr): readonly Unknown[] {
  switch (expr.is) {
    case 'unknown':
      return [expr];
    case 'text':
      return expr.parts.flatMap(unknownsIn);
    case 'choice':
      return expr.options.flatMap(unknownsIn);
    default:
      return NONE;
  }
}

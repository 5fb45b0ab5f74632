/** A value that is known when the file is read. */
export type Constant = string | number | boolean | null | undefined;

/** What an expression of a component gives, as far as it can be read without running it. */
export type Expr =
  | { is: 'constant'; value: Constant }
  /** A prop or input of the component, by its name. */
  | { is: 'prop'; name: string }
  /** Texts joined: a template literal, a sum of strings, mixed content. */
  | { is: 'text'; parts: readonly Expr[] }
  /** One of these, depending on something. */
  | { is: 'choice'; options: readonly Expr[] }
  | { is: 'unknown' };

export const UNKNOWN: Expr = { is: 'unknown' };
export const constant = (value: Constant): Expr => ({ is: 'constant', value });

/** An expression with its props replaced by what `given` says; names it leaves undefined become unknown. */
export function filled(expr: Expr, given: (prop: string) => Expr | undefined): Expr {
  switch (expr.is) {
    case 'prop':
      return given(expr.name) ?? UNKNOWN;
    case 'text':
      return joined(expr.parts.map((part) => filled(part, given)));
    case 'choice':
      return oneOf(expr.options.map((option) => filled(option, given)));
    default:
      return expr;
  }
}

/** Texts joined, neighbouring constants made one. */
export function joined(parts: readonly Expr[]): Expr {
  const flat = parts.flatMap((part) => (part.is === 'text' ? part.parts : [part]));
  const merged: Expr[] = [];
  for (const part of flat) {
    const last = merged.at(-1);
    if (part.is === 'constant' && last?.is === 'constant') {
      merged[merged.length - 1] = constant(asText(last.value) + asText(part.value));
    } else merged.push(part.is === 'constant' ? constant(asText(part.value)) : part);
  }
  const [only] = merged;
  if (!only) return constant('');
  return merged.length === 1 && only.is === 'constant' ? only : { is: 'text', parts: merged };
}

/** One of several, equal options made one. */
export function oneOf(options: readonly Expr[]): Expr {
  const seen: Expr[] = [];
  for (const option of options.flatMap((each) => (each.is === 'choice' ? each.options : [each]))) {
    if (!seen.some((each) => same(each, option))) seen.push(option);
  }
  const [only] = seen;
  return seen.length === 1 && only ? only : { is: 'choice', options: seen };
}

function same(a: Expr, b: Expr): boolean {
  if (a.is === 'constant') return b.is === 'constant' && a.value === b.value;
  return a.is === 'unknown' ? b.is === 'unknown' : JSON.stringify(a) === JSON.stringify(b);
}

const asText = (value: Constant): string =>
  value === null || value === undefined || typeof value === 'boolean' ? '' : String(value);

/** A part of a text: literal, one of several literal ones, or a hole. */
export type Piece = string | readonly string[] | undefined;

/** The text that an expression shows, in pieces. */
export function textPieces(expr: Expr): Piece[] {
  if (expr.is === 'constant') return [asText(expr.value)];
  if (expr.is === 'text') return expr.parts.flatMap(textPieces);
  const values = possibleValues(expr);
  return [values && values.length <= MOST_CHOICES ? values.map(asText) : undefined];
}

const MOST_CHOICES = 6;

/** Every constant that an expression may give; undefined where it may give something else. */
export function possibleValues(expr: Expr): Constant[] | undefined {
  if (expr.is === 'constant') return [expr.value];
  if (expr.is !== 'choice') return undefined;
  const all = expr.options.map(possibleValues);
  return all.some((each) => !each) ? undefined : all.flatMap((each) => each ?? []);
}

import type { Constant } from '../language/operations.js';
import { oneOf, type Expr, dataOfExpr, constant, UNKNOWN, possibleValues } from './expr.js';
import { showsTextAsItIs, shownData, type Showing } from './shown.js';

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

import { oneOf, type Expr } from './expr.js';
import { firstOf, GIVEN_FOR_NOTHING, saysBy, type Says } from './translations.js';

/** What a translator makes of a key that is only known later. */
export const TRANSLATED = 'translated';

/** What a translator makes of a key or message, and of the words or options beside it. */
export function translated(asked: Expr, given: Expr | undefined): Expr {
  const each = (one: Expr): Expr => translated(one, given);
  if (asked.is === 'choice') return oneOf(asked.options.map(each));
  if (asked.is === 'if')
    return { is: 'if', test: asked.test, then: each(asked.then), otherwise: each(asked.otherwise) };
  const says = askedWith(asked, given);
  return says
    ? { is: 'text', parts: [{ is: 'unknown', says }] }
    : { is: 'computed', by: TRANSLATED, of: given ? [asked, given] : [asked] };
}

// Undefined where what is asked for is not known.
function askedWith(first: Expr, second: Expr | undefined): Says | undefined {
  if (first.is === 'object') return saysBy((name) => textIn(first, name));
  const key = textOf(first);
  if (key === undefined) return undefined;
  const words =
    second &&
    (textOf(second) ??
      (second.is === 'object' ? firstOf(GIVEN_FOR_NOTHING, (name) => textIn(second, name)) : undefined));
  // `translate(label, { _: label })`
  return { key, words: words === key ? undefined : words };
}

const textOf = (expr: Expr | undefined): string | undefined =>
  expr?.is === 'constant' && typeof expr.value === 'string' ? expr.value : undefined;

const textIn = ({ entries }: Extract<Expr, { is: 'object' }>, name: string): string | undefined =>
  textOf(entries.find(([key]) => key === name)?.[1]);

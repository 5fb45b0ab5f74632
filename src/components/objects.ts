import { ABSENT, CALL, constant, orElse, spreadOver, UNKNOWN, type Expr, type Piece } from './expr.js';

/** Whether more of an expression is known once props, contexts and what other modules give are filled in. */
export const isFilledLater = (expr: Expr): boolean =>
  expr.is === 'prop' ||
  expr.is === 'member' ||
  expr.is === 'if' ||
  (expr.is === 'computed' && expr.by === CALL) ||
  (expr.is === 'object' && expr.pieces !== undefined) ||
  (expr.is === 'unknown' && expr.answer !== undefined);

/** The object that is made of its entries and of what is spread into it, in their order. */
export function joinedObject(pieces: readonly Piece[]): Extract<Expr, { is: 'object' }> {
  const found = new Map<string, Expr>();
  let open = false;
  let rest: readonly string[] | undefined;
  for (const piece of pieces) {
    if ('key' in piece) {
      found.set(piece.key, piece.value);
      continue;
    }
    const value = piece.spread;
    const sides = value.is === 'if' ? sidesOf(value) : undefined;
    for (const key of sides?.keys ?? []) {
      const before = found.get(key) ?? (open ? UNKNOWN : constant(undefined));
      found.set(key, sides?.valueOf(key, before) ?? UNKNOWN);
    }
    if (sides) continue;
    // What is no object gives nothing to a spread.
    if (value.is === 'constant' && typeof value.value !== 'string') continue;
    const spread = value.is === 'object' ? value : undefined;
    if (!spread || spread.open) {
      // What can't be read may have set all that stands before it, a spread of props what goes by a prop's name.
      for (const [key, before] of found)
        if (!spread?.rest) found.set(key, UNKNOWN);
        else if (!spread.rest.includes(key)) found.set(key, orElse({ is: 'prop', name: key }, before));
      rest = open ? undefined : spread?.rest;
      open = true;
    }
    spread?.entries.forEach(([key, own]) =>
      found.set(key, spreadOver(own, found.get(key) ?? (open ? UNKNOWN : ABSENT))),
    );
  }
  const isLater = open && pieces.some((piece) => 'spread' in piece && isFilledLater(piece.spread));
  return {
    is: 'object',
    entries: [...found],
    open,
    ...(rest ? { rest } : {}),
    ...(isLater ? { pieces } : {}),
  };
}

// A spread of one of two literal objects: `...(hot ? warnings : {})`, `...(hot && warnings)`.
function sidesOf({
  test,
  then,
  otherwise,
}: Extract<Expr, { is: 'if' }>):
  { keys: ReadonlySet<string>; valueOf: (key: string, before: Expr) => Expr } | undefined {
  const sides = [then, otherwise].map((side) =>
    side.is === 'object' && !side.open
      ? new Map(side.entries)
      : side.is === 'constant' && typeof side.value !== 'string'
        ? new Map<string, Expr>()
        : undefined,
  );
  const [yes, no] = sides;
  if (!yes || !no) return undefined;
  return {
    keys: new Set([...yes.keys(), ...no.keys()]),
    valueOf: (key, before) => ({
      is: 'if',
      test,
      then: yes.get(key) ?? before,
      otherwise: no.get(key) ?? before,
    }),
  };
}

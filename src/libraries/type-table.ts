import type { Meaning } from './meaning.js';

/** What the members of an object of a dialect mean, and what calling the object itself does. */
export interface TypeTable {
  members: Readonly<Record<string, Meaning>>;
  call?: Meaning;
  /** The meaning of members that the table does not name. */
  rest?: Meaning;
}

/** A member that is only read. */
export const reads: Meaning = { kind: 'reads' };
/** A member that is known, and of no importance to any check. */
export const plain: Meaning = { kind: 'plain' };
/** Several names with one meaning. */
export const each = (names: string, meaning: Meaning): Record<string, Meaning> =>
  Object.fromEntries(names.split(' ').map((name) => [name, meaning]));

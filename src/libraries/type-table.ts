import type { Meaning } from './meaning.js';

/** What the members of an object of a dialect mean, and what calling the object itself does. */
export interface TypeTable {
  members: Readonly<Record<string, Meaning>>;
  call?: Meaning;
  /** The form of names of members that are only read. */
  reading?: RegExp;
  /** The meaning of members that the table does not name. */
  rest?: Meaning;
}

/** What a member of an object means; undefined where its table leaves that open. */
export function meaningOfMember({ members, reading, rest }: TypeTable, name: string): Meaning | undefined {
  if (Object.hasOwn(members, name)) return members[name];
  return reading?.test(name) ? reads : rest;
}

/** A member that is only read. */
export const reads: Meaning = { kind: 'reads' };
/** A member that is known, and of no importance to any check. */
export const plain: Meaning = { kind: 'plain' };
/** Several names with one meaning. */
export const each = (names: string, meaning: Meaning): Record<string, Meaning> =>
  Object.fromEntries(names.split(' ').map((name) => [name, meaning]));

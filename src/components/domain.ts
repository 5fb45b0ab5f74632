import type { Constant } from '../language/operations.js';

/** The kinds of value that a domain may hold beside its literal ones. */
export type ValueKind =
  'number' | 'string' | 'bigint' | 'null' | 'undefined' | 'list' | 'object' | 'function' | 'anything';

/** What a value may be by its declared type. */
export interface Domain {
  /** Literal values: members of a union or an enum, `true` and `false` of a boolean. */
  values: readonly Constant[];
  kinds: readonly ValueKind[];
  /** The members of an object, as far as they are declared. */
  members?: ReadonlyMap<string, Domain>;
  /** What the items of a list may be. */
  items?: Domain;
}

/** The domains of props or other names; those that are not in it may be anything. */
export type Domains = ReadonlyMap<string, Domain>;

export const ANYTHING: Domain = { values: [], kinds: ['anything'] };
export const BOOLEAN: Domain = { values: [true, false], kinds: [] };
const UNDEFINED: Domain = { values: [], kinds: ['undefined'] };
export const kindOnly = (...kinds: ValueKind[]): Domain => ({ values: [], kinds });

/** What is in one of several domains. */
export function unionOf(domains: readonly Domain[]): Domain {
  const [only] = domains;
  if (domains.length === 1 && only) return only;
  const objects = domains.filter(({ members }) => members);
  return {
    values: [...new Set(domains.flatMap(({ values }) => values))],
    kinds: [...new Set(domains.flatMap(({ kinds }) => kinds))],
    // Which of two objects it is can't be told: what one of them lacks is not known.
    members: objects.length === 1 ? objects[0]?.members : undefined,
    items: domains.find(({ items }) => items)?.items,
  };
}

export const orUndefined = (domain: Domain): Domain => unionOf([domain, UNDEFINED]);

/** Whether a constant is in a domain. */
export function holdsConstant({ values, kinds }: Domain, value: Constant): boolean {
  if (kinds.includes('anything') || values.includes(value)) return true;
  if (value === null) return kinds.includes('null');
  return kinds.includes(typeof value as ValueKind);
}

/** Whether all that is in a domain is text, number, truth or nothing: never markup. */
export const isPlainDomain = ({ kinds }: Domain): boolean =>
  kinds.every((kind) => ['number', 'string', 'bigint', 'null', 'undefined'].includes(kind));

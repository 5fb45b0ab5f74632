import { userQueries } from '../../libraries/queries.js';
import type { Meaning } from '../../libraries/meaning.js';
import { domFinds } from '../../libraries/types.js';
import type { Value } from '../model/values.js';

// Nothing but a node of the page has these methods, and nothing but what a render gives has those.
const DOM_FINDS: ReadonlyMap<string, Meaning> = new Map(Object.entries(domFinds()));
const USER_FINDS: ReadonlyMap<string, Meaning> = new Map(Object.entries(userQueries(false)));

/** A query of something that is out of sight, told by its name; undefined for any other member. */
export function queryOutOfSight(value: Value, name: string): Value | undefined {
  const dom = DOM_FINDS.get(name);
  const meaning = dom ?? USER_FINDS.get(name);
  if (!meaning || !(dom ? isOutOfSight(value) : isMadeOutOfSight(value))) return undefined;
  const of: Value = { is: 'thing', type: dom ? 'element' : 'queries' };
  return { is: 'library', meaning, module: '', name, of };
}

/** Whether nothing is known of a value but that it is there, or of the call that gave it. */
export function isOutOfSight(value: Value): boolean {
  const { is } = rootOf(value);
  return is === 'unknown' || is === 'replaced' || isMadeOutOfSight(value);
}

// Given by a call of what is not known.
function isMadeOutOfSight(value: Value): boolean {
  const root = rootOf(value);
  return root.is === 'instance' && (root.of.is === 'external' || isOutOfSight(root.of));
}

function rootOf(value: Value): Value {
  let at = value;
  while (at.is === 'read' || at.is === 'promise') at = at.of;
  return at;
}

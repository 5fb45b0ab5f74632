import type { Assertion, Reach, StandIn } from '../specs/steps.js';
import { textOfValue, thingOf, type Value } from '../specs/values.js';
import type { Links } from './links.js';
import { contains } from './name.js';
import type { Placed } from './placed.js';

/** What an assertion is about. */
export type Subject =
  | { is: 'element'; element: Placed; reach: Reach }
  /** An element that a query asks for, but that can't be found in the model. */
  | { is: 'reach'; reach: Reach }
  | { is: 'stand-in'; standIn: StandIn }
  /** A value, by the text and the names that it is read by: `kiln.temp` and `kiln.lid` are parts of one thing. */
  | { is: 'value'; text: string; path: readonly string[] };

/** What an assertion is about: the element by its target in the component, the stand-in, or the value. */
export function subjectOf({ subject, subjectText, subjectPath }: Assertion, links: Links): Subject {
  const thing = thingOf(subject);
  if (thing?.standIn) return { is: 'stand-in', standIn: thing.standIn };
  const reach = thing?.reach;
  if (!reach) return { is: 'value', text: subjectText, path: subjectPath };
  const target = links.target(reach);
  return target.kind === 'one' ? { is: 'element', element: target.element, reach } : { is: 'reach', reach };
}

/** Whether two subjects are the same thing, or parts of one; undefined where that can't be told. */
export function isRelated(a: Subject, b: Subject): boolean | undefined {
  if (a.is === 'element' && b.is === 'element')
    return a.element === b.element || contains(a.element, b.element) || contains(b.element, a.element);
  if (a.is === 'stand-in' && b.is === 'stand-in') return a.standIn === b.standIn;
  if (a.is === 'value' && b.is === 'value') return a.path[0] === b.path[0];
  if (a.is === 'reach' || b.is === 'reach') return isSameQuery(a, b) ? true : undefined;
  return undefined;
}

const isSameQuery = (a: Subject, b: Subject): boolean =>
  'reach' in a && 'reach' in b && a.reach.name === b.reach.name && textsOf(a.reach) === textsOf(b.reach);

const textsOf = ({ args }: Reach): string => args.map((each: Value) => textOfValue(each) ?? '?').join();

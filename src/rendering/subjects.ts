import type { Assertion, Reach, StandIn } from '../specs/model/steps.js';
import { libraryObjectOf } from '../specs/model/values.js';
import type { SpecRendering } from './spec-rendering.js';
import { contains, type RenderedElement } from './rendered-tree.js';

/** An element that a query asks for; `reach` where it can't be found in the model. */
type ElementSubject =
  { is: 'element'; element: RenderedElement; reach: Reach } | { is: 'reach'; reach: Reach };

/** What an assertion is about. */
export type Subject = ElementSubject | { is: 'stand-in'; standIn: StandIn } | { is: 'value' };

/** What an assertion is about: the element by its target in the component, the stand-in, or a value. */
export function subjectOf({ subject }: Assertion, rendering: SpecRendering): Subject {
  const thing = libraryObjectOf(subject);
  if (thing?.standIn) return { is: 'stand-in', standIn: thing.standIn };
  return thing?.reach ? reachedBy(thing.reach, rendering) : { is: 'value' };
}

/** The element that a reach finds, as far as the model tells. */
export function reachedBy(reach: Reach, rendering: SpecRendering): ElementSubject {
  const target = rendering.target(reach);
  return target.kind === 'one' ? { is: 'element', element: target.element, reach } : { is: 'reach', reach };
}

/** Whether two subjects are the same stand-in, or one element and it or a part of it. */
export function isRelated(a: Subject, b: Subject): boolean {
  if (a.is === 'element' && b.is === 'element')
    return a.element === b.element || contains(a.element, b.element) || contains(b.element, a.element);
  return a.is === 'stand-in' && b.is === 'stand-in' && a.standIn === b.standIn;
}

import type { SpecFile } from '../../specs/model/blocks.js';
import { runningBlocks } from './order.js';
import type { Assertion, Reach, Step, StepOf } from '../../specs/model/steps.js';
import { stands } from '../../specs/model/rounds.js';
import { textOfValue, libraryObjectOf } from '../../specs/model/values.js';

/** The reach that an assertion is about: an element, or something read off it. */
export const reachOf = (assertion: Assertion): Reach | undefined => libraryObjectOf(assertion.subject)?.reach;

/** The reach whose element a step acts on or asserts about. */
export function usedBy(step: Step): Reach | undefined {
  if (step.kind === 'act') return step.reach;
  return step.kind === 'assert' ? reachOf(step.assertion) : undefined;
}

/** Whether a reach goes to the first element of all that a render shows: `container.firstChild`. */
export const isOutermost = ({ by, name, from }: Reach): boolean =>
  by === 'hop' && FIRST.has(name) && typeof from === 'object' && 'teardown' in from;

const FIRST: ReadonlySet<string> = new Set(['firstChild', 'firstElementChild']);

/** What a step finds, or fails without. */
export function foundBy(step: Step): Reach[] {
  if (step.kind === 'reach') return step.reach.missing.endsWith('throws') ? [step.reach] : [];
  if (step.kind === 'act') return step.reach ? [step.reach] : [];
  const reach =
    step.kind === 'assert' && !assertsAbsence(step.assertion) ? reachOf(step.assertion) : undefined;
  return reach ? [reach] : [];
}

/** A reach whose element is acted on or asserted about, with the first step that does so. */
export interface Used {
  reach: Reach;
  step: Step;
}

/** The reaches of a file that are acted on or asserted about, one for each place. */
export function usedReaches(file: SpecFile): Used[] {
  const found = new Map<string, Used>();
  for (const { steps } of runningBlocks(file)) {
    for (const step of steps) {
      const reach = usedBy(step);
      const key = reach && `${reach.place.start}:${reach.place.end}`;
      if (reach && key && !found.has(key)) found.set(key, { reach, step });
    }
  }
  return [...found.values()];
}

/** Whether an assertion says that what a reach looks for is there. */
export function assertsPresence({ asks, not, subject }: Assertion): boolean {
  if (asks === 'there') return !not;
  if (subject.is !== 'thing') return false;
  return not
    ? asks === 'null' || asks === 'falsy' || asks === 'undefined'
    : asks === 'truthy' || asks === 'defined';
}

/** Whether an assertion says that what a reach looks for is not there. */
export function assertsAbsence({ asks, not, subject, args, argText }: Assertion): boolean {
  if (asks === 'there') return not;
  if (subject.is === 'thing')
    return (
      (asks === 'null' && !not) ||
      (asks === 'falsy' && !not) ||
      (asks === 'truthy' && not) ||
      (asks === 'count' && !not && argText === '0')
    );
  if (subject.is !== 'read') return false;
  const wanted = args[0]?.is === 'constant' ? args[0].value : undefined;
  if (subject.name === 'exists')
    return (asks === 'falsy' && !not) || (asks === 'truthy' && not) || (asks === 'equal' && wanted === not);
  return subject.name === 'length' && asks === 'equal' && !not && wanted === 0;
}

/** Whether an assertion only says that its subject is not undefined: null, which queries give for nothing, passes as well. */
export const asksNotUndefined = ({ asks, not }: Assertion): boolean =>
  not ? asks === 'undefined' : asks === 'defined';

/** Whether a query is asked right where its result is judged, so that nothing can happen in between. */
const isAskedIn = (reach: Reach, { place }: Assertion): boolean => stands(reach, place);

/** Whether an element is judged right after it was reached: where it is, or under a name with nothing done in between. */
export function isAskedAtOnce(reach: Reach, step: StepOf<'assert'>, steps: readonly Step[]): boolean {
  if (isAskedIn(reach, step.assertion)) return true;
  const from = steps.findIndex((each) => each.kind === 'reach' && each.reach === reach);
  return from >= 0 && steps.slice(from, steps.indexOf(step)).every(({ kind }) => STILL.has(kind));
}

const STILL: ReadonlySet<Step['kind']> = new Set(['reach', 'assert', 'use', 'stand-in'] as const);

/** Whether a reach gives a plain element: queries of wrappers and of test beds give objects of their own. */
export const takesElements = ({ gives, name }: Reach): boolean =>
  !gives.includes('wrapper') && !gives.includes('debug') && name !== 'findByType';

/** Whether a selector asks for a test id: by one of the usual attributes, or the project's own. */
export function isTestIdSelector(reach: Reach, attribute: string): boolean {
  const selector = textOfValue(reach.args[0]) ?? '';
  return [attribute, 'data-testid', 'data-test-id', 'data-test', 'data-cy', 'data-qa'].some((name) =>
    selector.includes(`[${name}`),
  );
}

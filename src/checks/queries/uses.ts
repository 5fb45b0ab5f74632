import type { Block } from '../../model/specs/blocks.js';
import type { Assertion, Reach, Step } from '../../model/specs/steps.js';
import { thingOf } from '../../model/specs/values.js';

/** The reach that an assertion is about: an element, or something read off it. */
export const reachOf = (assertion: Assertion): Reach | undefined => thingOf(assertion.subject)?.reach;

/** Whether the spec acts on, or asserts about, what a reach found. */
export function isUsed(reach: Reach, blocks: readonly Block[]): boolean {
  return blocks.some((block) => block.steps.some((step) => usedBy(step) === reach));
}

/** The reach whose element a step acts on or asserts about. */
export function usedBy(step: Step): Reach | undefined {
  if (step.kind === 'act') return step.reach;
  return step.kind === 'assert' ? reachOf(step.assertion) : undefined;
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

import type { Block } from '../../specs/model/blocks.js';
import type { Assertion, Reach } from '../../specs/model/steps.js';
import { textOfValue } from '../../specs/model/values.js';
import type { FileContext } from './context.js';
import type { HollowAssertion } from './presence.js';
import { givenTo } from './read-back.js';
import { assertsPresence, reachOf } from './used-reaches.js';

// That it hands on what it is given may be just what the spec is about.
const HANDING_ON =
  /\b(?:forward|pass|spread|hand|rest|attribute|prop|test ?id|data-|custom|additional|extra|accept|appl)/i;

/** An assertion that an element is there which the spec has given its test id itself; undefined for all others. */
export function onlyOwnTestId(
  assertion: Assertion,
  spec: Block,
  context: FileContext,
): HollowAssertion | undefined {
  const reach = reachOf(assertion);
  if (!reach || !assertsPresence(assertion) || !asksForOwnTestId(reach, spec, context)) return undefined;
  return {
    reason: 'it asks for nothing but the test id that the spec itself gave',
    advice: 'Assert on what the title says: what a user sees of it, its role, its state.',
    always: false,
    little: true,
    level: 'risk',
  };
}

/** Whether a query asks for the test id that the spec has given to what it renders, under a title about something else. */
export function asksForOwnTestId(
  reach: Reach,
  spec: Block,
  { rendering, testIdAttribute }: FileContext,
): boolean {
  const asked = reach.by === 'testId' && !reach.pickedFrom ? textOfValue(reach.args[0]) : undefined;
  if (asked === undefined || reach.via || HANDING_ON.test(spec.title.text)) return false;
  return rendering.rendersFor(spec).some((render) => {
    // What is given to an element inside, or to one that a prop hands over, is there only if the component shows it.
    const given = render.view?.length === 1 ? givenTo(render, testIdAttribute) : undefined;
    return given?.is === 'constant' && given.value === asked;
  });
}

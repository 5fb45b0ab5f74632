import { hooksFor, type Block } from '../../specs/model/blocks.js';
import type { StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf } from '../../specs/model/values.js';
import type { FileContext } from './context.js';
import type { HollowAssertion } from './presence.js';

/**
 * Where a spec does nothing but render, and asserts that a stand-in was not called which the component calls only where
 * something happens on its elements.
 */
export function nothingCalls(
  { assertion }: StepOf<'assert'>,
  spec: Block,
  { rendering }: FileContext,
): HollowAssertion | undefined {
  const standIn = libraryObjectOf(assertion.subject)?.standIn;
  if (!standIn || !assertion.not || assertion.asks !== 'called' || standIn.handedAs.size === 0)
    return undefined;
  const steps = [...hooksFor(spec, 'before-all', 'before-each'), spec].flatMap((block) => block.steps);
  if (steps.some(({ kind }) => kind === 'act' || kind === 'unknown-call' || kind === 'unmount'))
    return undefined;
  const renders = steps.filter((step) => step.kind === 'render');
  const isOfEvents = renders.every(({ render }) => {
    const events = rendering.component(render)?.eventProps;
    return render.view?.length === 1 && [...standIn.handedAs].every((name) => events?.has(name));
  });
  return renders.length > 0 && isOfEvents
    ? {
        reason: `it is rendered and no more, and only an event has ${[...standIn.handedAs].join(' or ')} called`,
        advice: 'Do what might call it, under the condition that keeps it from being called.',
        always: true,
        little: true,
        level: 'hint',
      }
    : undefined;
}

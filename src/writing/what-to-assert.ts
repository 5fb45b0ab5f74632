import { pageQuery } from './kit.js';
import { bestHandle } from '../rendering/replacement.js';
import { searchScope } from '../rendering/scope.js';
import { hooksFor, type Block } from '../specs/model/blocks.js';
import type { FileContext } from '../checks/questions/context.js';
import { markupOf } from '../checks/questions/element-markup.js';
import { isInstalled } from '../util/paths.js';
import { argsOf } from './rewrite.js';

/** An assertion that a spec without one could make: the element's markup, and the code. */
export interface Proposal {
  markup: string;
  code: string;
}

/**
 * An assertion for a spec that makes none: after an act, on the first element that its component shows under a condition;
 * else on the first that can be asked for. Undefined where the suite has no user-centred queries or matchers, or nothing can be told.
 */
export function whatToAssert(spec: Block, context: FileContext): Proposal | undefined {
  const { rendering, userCentred, documentMatchers, testIdAttribute, style } = context;
  const render = [spec, ...hooksFor(spec, 'before-each')]
    .flatMap(({ steps }) => steps.flatMap((step) => (step.kind === 'render' ? [step.render] : [])))
    .at(0);
  if (
    !render ||
    !userCentred ||
    !documentMatchers ||
    render.gives !== 'queries' ||
    !rendering.component(render)
  )
    return undefined;
  // What its props and its stand-ins rule out is not shown by an act either.
  const scope = searchScope(rendering.tree(render));
  const acts = spec.steps.some(({ kind }) => kind === 'act');
  for (const element of scope.elements) {
    // Of the conditions of a kit's own parts nobody says that this act changes them.
    if (acts !== element.guards.length > 0 || (acts && isInstalled(element.file))) continue;
    const handle = bestHandle(element, scope, testIdAttribute);
    const query =
      handle && handle.by !== 'testId'
        ? pageQuery(context, handle.by, argsOf(handle, style.quote))
        : undefined;
    if (!query) continue;
    return { markup: markupOf(element), code: `expect(${query}).toBeInTheDocument()` };
  }
  return undefined;
}

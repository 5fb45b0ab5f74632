import { titlesOf } from '../../specs/model/blocks.js';
import type { Reach } from '../../specs/model/steps.js';
import { textOfValue } from '../../specs/model/values.js';
import { inShort } from '../../util/printable.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { evidence, markupOf } from '../questions/element-markup.js';
import { betterQuery, certaintyOf } from '../../writing/rewrite.js';
import { isTestIdSelector, takesElements } from '../questions/used-reaches.js';

const message = (id: string, markup: string): string =>
  `${markup} is reached by the test id “${id}”, though a user can name it.`;
const advice = (query: string): string => `Reach it as a user would: ${query}`;

/** A test id in the component's own markup, on an element that has a role and name, a label or a text of its own. */
export const Q02: FileCheck = {
  code: 'Q02',
  family: 'queries',
  scope: 'file',
  title: 'Test id where a better handle exists',
  level: 'hint',
  why: 'A test id says nothing of what a user can find: the button may lose its name, and the spec stays green.',
  certain: 'Sure where the element is known, and nothing unread could be found as well.',
  trouble: "screen.getByTestId('fire')",
  mended: "screen.getByRole('button', { name: 'Fire' })",
  run(context) {
    if (!context.userCentred) return [];
    return context.used.flatMap(({ reach }) => check(reach, context) ?? []);
  },
};

function check(reach: Reach, context: FileContext): Finding | undefined {
  const attribute = context.testIdAttribute;
  // A wrapper or a test bed has nothing better.
  if (!takesElements(reach)) return undefined;
  const isById = reach.by === 'testId' || (reach.by === 'selector' && isTestIdSelector(reach, attribute));
  const target = isById && reach.position === undefined ? context.rendering.target(reach) : undefined;
  if (target?.kind !== 'one') return undefined;
  const { element } = target;
  // Written in the spec, or in a child that the spec makes for itself.
  if (!element.component || element.component.file === context.file.path) return undefined;
  if ([...element.filled].some((name) => name.startsWith('data-'))) return undefined;
  const better = betterQuery(reach, element, context);
  if (!better) return undefined;
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    certainty: certaintyOf(reach, better, context),
    message: message(inShort(textOfValue(reach.args[0]) ?? '', 40), markupOf(element)),
    advice: advice(better.query),
    evidence: evidence(reach, element),
    suggestion: better.query,
    mend: better.mend,
  };
}

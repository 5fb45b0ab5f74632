import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Assertion, StepOf } from '../../specs/model/steps.js';
import { presenceMatcher } from '../../writing/presence-matcher.js';
import type { Finding } from '../../finding.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningBlocks } from '../questions/order.js';
import { assertsPresence, isAskedAtOnce, reachOf } from '../questions/used-reaches.js';

const message = (matcher: string, query: string): string =>
  `${matcher} judges a value that ${query} always gives: what is meant is that the element is in the document.`;
const messageCount = (query: string): string =>
  `${query} throws where it finds nothing: what it gives is never empty, and the count says no more.`;
const messageMore = (query: string): string =>
  `That ${query} finds more than none does not say how many there should be; where it fails, it shows nothing of what was there.`;
const adviceCount = 'Say how many there are.';
const advice = 'Say so: toBeInTheDocument().';

/** Presence asserted by truthiness of what a throwing query gives. */
export const Q09: FileCheck = {
  code: 'Q09',
  family: 'queries',
  scope: 'file',
  title: 'Presence asserted by truthiness',
  level: 'hint',
  why: 'The query throws by itself, so the matcher adds nothing; an element that has left the document is still truthy.',
  certain: 'Sure where the query and the matcher are known by their library.',
  trouble: "expect(screen.getByRole('alert')).toBeTruthy();",
  mended: "expect(screen.getByRole('alert')).toBeInTheDocument();",
  run(context) {
    return runningBlocks(context.file).flatMap((block) =>
      block.steps.flatMap((step) => {
        const found =
          step.kind === 'assert'
            ? (check(step, block, context) ?? ofCount(step.assertion, context))
            : undefined;
        return found ? [{ ...found, within: titlesOf(block) }] : [];
      }),
    );
  },
};

function check(step: StepOf<'assert'>, { steps }: Block, context: FileContext): Finding | undefined {
  const { assertion } = step;
  // Without such a matcher there is no better form.
  if (!context.documentMatchers) return undefined;
  const reach = reachOf(assertion);
  if (!reach || !reach.asUser || reach.missing !== 'throws') return undefined;
  if (assertion.subject.is !== 'thing' || assertion.asks === 'there' || !assertsPresence(assertion))
    return undefined;
  if (!isAskedAtOnce(reach, step, steps)) return undefined;
  const mend = presenceMatcher(assertion, context);
  return {
    place: inFile(context, assertion.place),
    certainty: 'sure',
    message: message(assertion.not ? `not.${assertion.matcher}` : (assertion.matcher ?? ''), reach.name),
    advice,
    suggestion: 'toBeInTheDocument()',
    mend: mend && { summary: 'Assert that it is in the document', safe: true, edits: [mend] },
  };
}

// `expect(getAllByRole('row').length).toBeGreaterThan(0)`
function ofCount(
  { subject, matcher = '', args, not, place }: Assertion,
  context: FileContext,
): Finding | undefined {
  if (subject.is !== 'read' || subject.name !== 'length' || subject.of.is !== 'thing' || not)
    return undefined;
  const { reach } = subject.of;
  if (!reach?.asUser || reach.pickedFrom || !reach.missing.startsWith('many')) return undefined;
  const [bound] = args;
  const least = bound?.is === 'constant' ? LEAST[matcher] : undefined;
  if (least === undefined || bound?.is !== 'constant' || bound.value !== least) return undefined;
  return {
    place: inFile(context, place),
    certainty: 'sure',
    message: (reach.missing === 'many' ? messageMore : messageCount)(reach.name),
    advice: adviceCount,
  };
}

// What is true of every list that is not empty.
const LEAST: Readonly<Record<string, number>> = { toBeGreaterThan: 0, toBeGreaterThanOrEqual: 1 };

import { isInside } from '../../util/spans.js';
import type { Finding, Mend, Span } from '../../finding.js';
import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Reach, Step, StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { onceAFileMended } from '../questions/once-a-file.js';
import { aloneIn } from '../../writing/callback.js';
import { retriedWaits } from '../questions/retried.js';
import { assertsPresence, reachOf } from '../questions/used-reaches.js';

const message = (query: string): string =>
  `A callback is run again and again until ${query} finds its element, and there is a query that waits for it.`;
const advice = (query: string): string => `Ask with ${query}, and assert on what it gives.`;

/** A wait for one element, written out where a query would wait. One finding a file. */
export const C15: FileCheck = {
  code: 'C15',
  family: 'cleanup',
  scope: 'file',
  title: 'Waited for by hand',
  level: 'hint',
  why: 'When it fails, the message is that of the last look, in a callback that says nothing of what was waited for; and what is found is not at hand for the next line.',
  certain: 'Sure where the callback holds nothing but one query and the assertion that it finds something.',
  trouble: "await waitFor(() => expect(screen.getByText('Hot')).toBeInTheDocument());",
  mended: "expect(await screen.findByText('Hot')).toBeInTheDocument();",
  run(context) {
    const found = retriedWaits(context).flatMap(
      ({ wait, steps, block }) => check(wait, steps, block, context) ?? [],
    );
    return onceAFileMended(found, 'and here');
  },
};

function check(wait: Span, steps: readonly Step[], block: Block, context: FileContext): Finding | undefined {
  const [assert, ...others] = steps.filter(isAssert);
  if (!assert || others.length > 0 || !assertsPresence(assert.assertion)) return undefined;
  const reach = reachOf(assert.assertion);
  if (!reach || reach.waits || !reach.asUser || !/^get(?:All)?By/.test(reach.name)) return undefined;
  const rest = steps.filter((step) => step !== assert && step.kind !== 'use');
  const isOwn = rest.some((step) => step.kind === 'reach' && step.reach === reach);
  // `within(screen.getByRole('list')).getByText('Raku')` looks for one element.
  const isOne = rest.every(
    (step) => step.kind === 'reach' && (step.reach === reach || step.reach === reach.from),
  );
  if (!isOwn || !isOne) return undefined;
  return {
    place: inFile(context, wait),
    within: titlesOf(block),
    certainty: 'sure',
    message: message(reach.name),
    advice: advice(waiting(reach.name)),
    suggestion: waiting(reach.name),
    mend: mend(wait, assert, reach, context),
  };
}

const waiting = (name: string): string => name.replace(/^get/, 'find');

// The assertion takes the place of the call that waits for it; the await goes to the query.
function mend(
  wait: Span,
  { assertion: { place } }: StepOf<'assert'>,
  { written, place: asked, receiver }: Reach,
  { file, source: { text } }: FileContext,
): Mend | undefined {
  const start = wait.start - AWAIT.length;
  // A query that is called by its name alone must be taken by another one.
  if (text.slice(start, wait.start) !== AWAIT || !written || !isInside(asked, place) || receiver === '')
    return undefined;
  // A comment, or an option, would be lost.
  if (aloneIn(text, wait, place) !== 'plain') return undefined;
  const query = `${AWAIT}${text.slice(asked.start, written.name.start)}${waiting(text.slice(written.name.start, written.name.end))}${text.slice(written.name.end, asked.end)}`;
  const whole = `${text.slice(place.start, asked.start)}${query}${text.slice(asked.end, place.end)}`;
  return {
    summary: 'Ask with the query that waits',
    safe: true,
    edits: [{ file: file.path, start, end: wait.end, text: whole }],
  };
}

const AWAIT = 'await ';

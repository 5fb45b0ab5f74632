import type { Finding, Mend, Span } from '../../finding.js';
import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { onceAFileMended } from '../questions/once-a-file.js';
import { retriedWaits } from '../questions/retried.js';

const message = (count: number): string =>
  `${count} things are waited for in one callback: all must be so at one moment, and of a failure only the first shows.`;
const ADVICE = 'Wait for each by itself, or for the last one, and assert the others after it.';

/** A wait whose callback asserts several things. One finding a file. */
export const C17: FileCheck = {
  code: 'C17',
  family: 'cleanup',
  scope: 'file',
  title: 'Waits for several things',
  level: 'hint',
  why: 'While the first assertion fails nobody looks at the others, and the time runs out for all of them together.',
  certain: 'Sure: the assertions stand in one callback, and are about different things.',
  trouble:
    "await waitFor(() => {\n  expect(onFire).toHaveBeenCalled();\n  expect(screen.getByRole('status')).toHaveTextContent('Hot');\n});",
  mended:
    "await waitFor(() => expect(onFire).toHaveBeenCalled());\nawait waitFor(() => expect(screen.getByRole('status')).toHaveTextContent('Hot'));",
  run(context) {
    const found = retriedWaits(context).flatMap(
      ({ wait, steps, block }) => check(wait, steps, block, context) ?? [],
    );
    return onceAFileMended(found, 'and here');
  },
};

function check(wait: Span, steps: readonly Step[], block: Block, context: FileContext): Finding | undefined {
  const asserts = steps.filter(isAssert);
  const things = new Set(asserts.map(({ assertion }) => assertion.subjectText));
  if (things.size < 2) return undefined;
  return {
    place: inFile(context, wait),
    within: titlesOf(block),
    certainty: 'sure',
    message: message(things.size),
    advice: ADVICE,
    mend: mend(wait, asserts, context),
  };
}

const HEAD = /^([\w.]+)\(\s*\(\)\s*=>\s*\{\s*$/;
const END = /^\s*;?\s*\}\s*((?:,[^]*)?)\)$/;

// A wait for each, with the same options, where nothing but the assertions stands in the callback.
function mend(
  wait: Span,
  asserts: readonly StepOf<'assert'>[],
  { file, source: { text } }: FileContext,
): Mend | undefined {
  const places = asserts.map(({ assertion }) => assertion.place);
  const [first, last] = [places[0], places.at(-1)];
  if (!first || !last || text.slice(wait.start - AWAIT.length, wait.start) !== AWAIT) return undefined;
  const waits = HEAD.exec(text.slice(wait.start, first.start))?.[1];
  const after = END.exec(text.slice(last.end, wait.end))?.[1];
  const options = after?.replace(/^,\s*/, ', ').replace(/,?\s*$/, '');
  const isPlain = places.every(
    ({ start }, i) => i === 0 || /^[\s;]*$/.test(text.slice(places[i - 1]?.end, start)),
  );
  if (waits === undefined || options === undefined || !isPlain) return undefined;
  const line = text.slice(text.lastIndexOf('\n', wait.start) + 1, wait.start);
  const indent = /^\s*/.exec(line)?.[0] ?? '';
  const end = text[wait.end] === ';' ? ';' : '';
  const all = places.map(({ start, end: to }) => `${waits}(() => ${text.slice(start, to)}${options})`);
  return {
    summary: 'Wait for each by itself',
    safe: true,
    edits: [
      {
        file: file.path,
        start: wait.start,
        end: wait.end,
        text: all.join(`${end}\n${indent}${AWAIT}`),
      },
    ],
  };
}

const AWAIT = 'await ';

import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Reach } from '../../specs/model/steps.js';
import type { Finding, Mend } from '../../finding.js';
import type { FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningBlocks } from '../questions/order.js';

const message = (query: string): string =>
  `${query} stands by itself: that it throws where it finds nothing is all that is asserted here, and nothing says so.`;
const advice =
  'Assert what is meant: that the element is in the document, that it is visible, or what it says.';

/** A query that throws, left as a statement of its own: an assertion that does not look like one. */
export const Q17: FileCheck = {
  code: 'Q17',
  family: 'queries',
  scope: 'file',
  title: 'Query left by itself',
  level: 'hint',
  why: 'A reader takes it for a leftover and deletes it; a change to a query that gives null empties it without a sound.',
  certain: 'Sure: the query and its place are written out.',
  trouble: "screen.getByText('Glaze ready');",
  mended: "expect(screen.getByText('Glaze ready')).toBeInTheDocument();",
  run: (context) => runningBlocks(context.file).flatMap((block) => check(block, context)),
};

function check(block: Block, context: FileContext): Finding[] {
  const starts = new Map(block.statements.map(({ start, end }) => [start, end]));
  return block.steps.flatMap((step): Finding[] => {
    if (step.kind !== 'reach') return [];
    const { reach } = step;
    const end = starts.get(reach.place.start);
    const isWhole = end !== undefined && !reach.via && end - reach.place.end <= 1 && end >= reach.place.end;
    if (!isWhole || !reach.asUser || (reach.missing !== 'throws' && reach.missing !== 'many-throws'))
      return [];
    return [
      {
        place: inFile(context, reach.place),
        within: titlesOf(block),
        certainty: 'sure',
        message: message(reach.name),
        advice,
        mend: mendOf(reach, block, context),
      },
    ];
  });
}

// Where the spec says `expect` already, it may do so here.
function mendOf(
  { missing, place: { start, end } }: Reach,
  block: Block,
  { documentMatchers, file }: FileContext,
): Mend | undefined {
  const says = block.steps.some((step) => isAssert(step) && step.assertion.style === 'expect' && !step.via);
  if (!documentMatchers || !says || missing !== 'throws') return undefined;
  return {
    summary: 'Assert that it is in the document',
    safe: true,
    edits: [
      { file: file.path, start, end: start, text: 'expect(' },
      { file: file.path, start: end, end, text: ').toBeInTheDocument()' },
    ],
  };
}

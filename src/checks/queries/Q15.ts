import { titlesOf } from '../../specs/model/blocks.js';
import type { Assertion } from '../../specs/model/steps.js';
import { libraryObjectOf } from '../../specs/model/values.js';
import { type FileCheck } from '../questions/check.js';
import { inFile } from '../questions/context.js';
import { runningBlocks } from '../questions/order.js';

const message = 'The text of the whole page is searched: the words may stand anywhere in it, and in parts.';
const advice = 'Ask for the element that shows them: screen.getByText(…), or by its role and name.';

/** Words looked for in the text of all that is rendered. */
export const Q15: FileCheck = {
  code: 'Q15',
  family: 'queries',
  scope: 'file',
  title: 'Words sought in the whole page',
  level: 'hint',
  why: 'It stays green when the words stand in the wrong place, in a label that a user never sees together with them, or across two elements.',
  certain: 'Sure where the container of the render or the body of the page is what is asked.',
  trouble: "expect(document.body).toHaveTextContent('Hot');",
  mended: "expect(screen.getByText('Hot')).toBeVisible();",
  run(context) {
    if (!context.userCentred) return [];
    return runningBlocks(context.file).flatMap((block) =>
      block.steps.flatMap((step) =>
        step.kind === 'assert' && !step.via && seeksInAll(step.assertion)
          ? [
              {
                place: inFile(context, step.assertion.place),
                within: titlesOf(block),
                certainty: 'sure' as const,
                message,
                advice,
              },
            ]
          : [],
      ),
    );
  },
};

// Of what is not there, the whole page is the right place to ask.
function seeksInAll({ subject, matcher = '', not, args }: Assertion): boolean {
  const thing = libraryObjectOf(subject);
  const isAll =
    thing?.type === 'element' && !thing.reach && (thing.part === 'body' || thing.render !== undefined);
  if (!isAll || not || args.length === 0) return false;
  if (subject.is === 'thing') return matcher === 'toHaveTextContent';
  return subject.is === 'read' && subject.of === thing && WORDS.has(subject.name) && SEEKING.has(matcher);
}

const WORDS: ReadonlySet<string> = new Set(['textContent', 'innerText']);
const SEEKING: ReadonlySet<string> = new Set(['toContain', 'toMatch', 'contain', 'include', 'match']);

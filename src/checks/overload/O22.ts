import type { Mend, Span } from '../../finding.js';
import { wholeLines } from '../../writing/edits/style.js';
import { titlesOf } from '../../specs/model/blocks.js';
import type { FileCheck } from '../questions/check.js';
import { arrangedBefore, repeatedByHooks } from '../questions/arranged-before.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';

const message = 'The before-each hook has set this to the same already.';
const advice = 'Take it out: what a spec sets for itself should be what it is about.';

const messageHook = 'A hook of a group around this one does the same for each of its specs.';
const adviceHook = 'Take it out.';

/** What a spec sets again that its before-each hook has set. */
export const O22: FileCheck = {
  code: 'O22',
  family: 'overload',
  scope: 'file',
  title: 'Arranged already',
  level: 'hint',
  why: 'A spec that repeats its hook looks as if it were about what it repeats, and the two drift apart.',
  certain: 'Sure where the code is the same, and all that stands in between can be read.',
  trouble:
    "beforeEach(() => {\n  readTemp.mockReturnValue(20);\n});\nit('shows a cold kiln', () => {\n  readTemp.mockReturnValue(20);\n  …\n});",
  mended:
    "beforeEach(() => {\n  readTemp.mockReturnValue(20);\n});\nit('shows a cold kiln', () => {\n  …\n});",
  run: (context) => [
    ...runningSpecs(context.file).flatMap((spec) =>
      arrangedBefore(spec).map(({ statement, before }) => ({
        place: inFile(context, statement),
        within: titlesOf(spec),
        certainty: 'sure' as const,
        message,
        advice,
        evidence: [{ ...inFile(context, before), note: 'set here before each spec' }],
        mend: takenOut(statement, context),
      })),
    ),
    ...repeatedByHooks(context.file).map(({ hook, before }) => ({
      place: inFile(context, hook.callee),
      within: titlesOf(hook),
      certainty: 'sure' as const,
      message: messageHook,
      advice: adviceHook,
      evidence: [{ ...inFile(context, before), note: 'done here for each spec' }],
      mend: takenOut(hook.place, context),
    })),
  ],
};

function takenOut(statement: Span, { file, source: { text } }: FileContext): Mend {
  const { start, end } = wholeLines(text, statement) ?? statement;
  return {
    summary: 'Take out what the hook has set',
    safe: false,
    edits: [{ file: file.path, start, end, text: '' }],
  };
}

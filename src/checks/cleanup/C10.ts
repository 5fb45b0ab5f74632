import { titlesOf } from '../../specs/model/blocks.js';
import { type FileCheck } from '../questions/check.js';
import { inFile } from '../questions/context.js';
import { afterEachMend } from '../../writing/hook-edits.js';
import { quotedTitle } from '../questions/order.js';
import { traces } from '../questions/ending.js';
import { leftLasting, sufferer } from '../questions/outliving.js';

const message = (call: string, later: string): string =>
  `What ${call} says the server answers stays: ${later} gets it, too.`;
const advice = (reset: string): string => `Call ${reset} in an after-each hook.`;

const ANSWERS = new Set(['answers'] as const);

/** Answers of a stand-in server that one spec sets, and all that follow get. */
export const C10: FileCheck = {
  code: 'C10',
  family: 'cleanup',
  scope: 'file',
  title: 'Server answers left behind',
  level: 'risk',
  why: 'A spec that makes the server fail makes it fail for every spec after it.',
  certain: 'Sure where it always runs, and every hook and set-up file around it can be read.',
  trouble:
    "it('says what failed', async () => {\n  server.use(http.get('/kilns', () => new HttpResponse(null, { status: 500 })));\n  …\n});",
  mended: 'afterEach(() => {\n  server.resetHandlers();\n});',
  run: (context) =>
    leftLasting(context, ANSWERS).flatMap((left) => {
      const later = sufferer(left, context);
      if (left.ending.is !== 'never' || !later) return [];
      const { step, block, certainty } = left;
      const { text } = step.lasting;
      const reset = `${text.replace(/\.[^.]*$/, '')}.resetHandlers()`;
      return [
        {
          place: inFile(context, step.place),
          within: titlesOf(block),
          certainty,
          message: message(text, quotedTitle(later)),
          advice: advice(reset),
          evidence: traces({ ...left, later }, 'done in this helper', context),
          mend: step.via
            ? undefined
            : afterEachMend(context, block, 'Reset the answers after each spec', [reset]),
        },
      ];
    }),
};

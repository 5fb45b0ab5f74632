import { titlesOf } from '../../specs/model/blocks.js';
import type { LastingKind } from '../../libraries/platform.js';
import type { Mend } from '../../finding.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { afterEachMend } from '../../writing/hook-edits.js';
import { quotedTitle } from '../questions/order.js';
import { traces } from '../questions/ending.js';
import { leftLasting, sufferer, type LeftLasting } from '../questions/outliving.js';
import { putBack } from '../../writing/put-back.js';

const WHAT: Readonly<Partial<Record<LastingKind, string>>> = {
  storage: 'What is stored',
  cookie: 'The cookie',
  address: 'The address',
  title: 'The title of the page',
};
const message = (what: string, call: string, later: string): string =>
  `${what} by ${call} stays: ${later} starts with it.`;
const advice = 'Clear it in an after-each hook.';

/** Storage, cookies, address or title of the page, changed for all specs that follow. */
export const C06: FileCheck = {
  code: 'C06',
  family: 'cleanup',
  scope: 'file',
  title: 'Browser storage or address left changed',
  level: 'risk',
  why: 'The page stays the same for all specs of a file, and so does what it stores.',
  certain: 'Sure where it always runs, and every hook and set-up file around it can be read.',
  trouble: "it('remembers the unit', () => {\n  localStorage.setItem('unit', 'F');\n  …\n});",
  mended: 'afterEach(() => {\n  localStorage.clear();\n});',
  run: (context) =>
    leftLasting(context, BROWSER).flatMap((left) => {
      const later = sufferer(left, context);
      if (left.ending.is !== 'never' || !later) return [];
      const { step, block, certainty } = left;
      return [
        {
          place: inFile(context, step.place),
          within: titlesOf(block),
          certainty,
          message: message(WHAT[step.lasting.what] ?? 'What is set', step.lasting.text, quotedTitle(later)),
          advice,
          evidence: traces({ ...left, later }, 'done in this helper', context),
          mend: mend(left, context),
        },
      ];
    }),
};

const BROWSER = new Set(['storage', 'cookie', 'address', 'title'] as const);

function mend({ step, block }: LeftLasting, context: FileContext): Mend | undefined {
  const { lasting, via } = step;
  const { quote } = context.style;
  if (lasting.what === 'storage')
    return afterEachMend(context, block, `Clear ${lasting.key} after each spec`, [`${lasting.key}.clear()`]);
  if (lasting.what === 'address' && !lasting.defined) {
    const back = `window.history.replaceState(null, ${quote}${quote}, savedAddress)`;
    const declared = 'const savedAddress = window.location.href';
    return context.source.text.includes('savedAddress')
      ? undefined
      : afterEachMend(context, block, 'Put the address back after each spec', [back], [declared]);
  }
  const isValue = lasting.what === 'title' || lasting.what === 'address';
  return isValue && !via ? putBack(step, block, context) : undefined;
}

import { comparedRender } from '../questions/compared-render.js';
import { titlesOf } from '../../specs/model/blocks.js';
import type { Assertion, Render } from '../../specs/model/steps.js';
import { plural } from '../../util/plural.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningBlocks } from '../questions/order.js';

const message = (what: string, count: number | undefined): string =>
  `The whole markup of ${what} is compared${count === undefined ? '' : `, ${plural(count, 'element')}`}: every change of it fails this spec, and says nothing.`;
const advice = 'Assert on the elements that the spec is about, and on what a user sees of them.';

const SMALL = 5;

/** A snapshot or an equality of all that a render shows. */
export const Q07: FileCheck = {
  code: 'Q07',
  family: 'queries',
  scope: 'file',
  title: 'Whole markup compared',
  level: 'risk',
  why: 'A snapshot of everything fails for every reason but the one that matters, so it is renewed unread; and it passes on markup that was wrong from the start.',
  certain: 'Sure where the whole of a render is compared, whatever it shows.',
  trouble: 'expect(container).toMatchSnapshot();',
  mended: "expect(screen.getByRole('heading')).toHaveTextContent('Kiln 3');",
  run(context) {
    return runningBlocks(context.file).flatMap((block) =>
      block.steps.flatMap((step) => {
        const render = step.kind === 'assert' ? comparedRender(step.assertion) : undefined;
        if (step.kind !== 'assert' || !render) return [];
        const count = elementsOf(step.assertion, render, context);
        const found: Finding = {
          place: inFile(context, step.assertion.place),
          within: titlesOf(block),
          level: count !== undefined && count < SMALL ? 'hint' : undefined,
          certainty: 'sure',
          message: message(render.name === 'createComponent' ? 'a fixture' : 'a render', count),
          advice,
          evidence: [{ ...inFile(context, render.place), note: 'rendered here' }],
        };
        return [found];
      }),
    );
  },
};

// How many elements are compared: those of an inline snapshot, or of the render if all of it can be read.
function elementsOf({ argText }: Assertion, render: Render, { rendering }: FileContext): number | undefined {
  const written = argText.match(/<\w/g)?.length;
  if (written !== undefined) return written;
  const { elements, complete } = rendering.tree(render);
  if (!complete || elements.some(({ repeated }) => repeated)) return undefined;
  const isSure = elements.every(({ guards }) => guards.length === 0);
  return isSure || elements.length < SMALL ? elements.length : undefined;
}

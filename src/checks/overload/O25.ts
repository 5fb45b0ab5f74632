import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Finding } from '../../finding.js';
import type { FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { bodyCode } from '../questions/copies.js';
import { assertedAgain } from '../questions/asserted-again.js';
import { quotedTitle, runningByGroup } from '../questions/order.js';

const message = (other: string): string =>
  `All that this spec does, ${other} does as well, from the first statement on: it can't fail alone.`;
const messageRender = (other: string): string =>
  `All that this spec asserts, ${other} asserts as well, of the same render: it can't fail alone.`;
const advice = 'Assert here what the title says and the other spec does not, or delete it.';

/** A spec that is the beginning of another one. */
export const O25: FileCheck = {
  code: 'O25',
  family: 'overload',
  scope: 'file',
  title: 'Done by another spec',
  level: 'hint',
  why: 'Two specs for one thing read like twice the proof: the second one adds time, and one more place to change.',
  certain: 'Sure: the statements are the same, names that a spec declares aside.',
  trouble:
    "it('shows the kiln', () => {\n  render(<Kiln />);\n  expect(screen.getByText('Cone 6')).toBeVisible();\n});\nit('has a cone', () => {\n  render(<Kiln />);\n  expect(screen.getByText('Cone 6')).toBeVisible();\n  expect(screen.getByText('Raku')).toBeVisible();\n});",
  mended:
    "it('shows the kiln with its cone', () => {\n  render(<Kiln />);\n  expect(screen.getByText('Cone 6')).toBeVisible();\n  expect(screen.getByText('Raku')).toBeVisible();\n});",
  run(context) {
    const found = [...runningByGroup(context.file).values()].flatMap((specs) => check(specs, context));
    const told = new Set(found.map(({ place }) => place.start));
    const again = assertedAgain(context).filter(
      ({ spec, other }) => !told.has(spec.callee.start) && !isCopy(spec, other),
    );
    return [...found, ...again.map((each) => ofRender(each, context))];
  },
};

// In the order of their texts, a text stands right before what begins with it.
function check(specs: readonly Block[], context: FileContext): Finding[] {
  const written = specs
    .filter(isComparable)
    .map((spec) => ({ spec, text: `${bodyCode(spec)}\n` }))
    .sort((a, b) => (a.text < b.text ? -1 : a.text > b.text ? 1 : a.spec.place.start - b.spec.place.start));
  return written.flatMap(({ spec, text }, i): Finding[] => {
    const next = written[i + 1];
    // Two that are the same are told by their titles.
    if (!next?.text.startsWith(text) || next.text === text) return [];
    return [
      {
        place: inFile(context, spec.callee),
        within: titlesOf(spec),
        certainty: 'sure',
        message: message(quotedTitle(next.spec)),
        advice,
        evidence: [{ ...inFile(context, next.spec.callee), note: quotedTitle(next.spec) }],
      },
    ];
  });
}

// Two in one group that are the same are told by their titles.
const isCopy = (a: Block, b: Block): boolean => a.parent === b.parent && bodyCode(a) === bodyCode(b);

function ofRender({ spec, other }: { spec: Block; other: Block }, context: FileContext): Finding {
  return {
    place: inFile(context, spec.callee),
    within: titlesOf(spec),
    certainty: 'likely',
    message: messageRender(quotedTitle(other)),
    advice,
    evidence: [{ ...inFile(context, other.callee), note: quotedTitle(other) }],
  };
}

const isComparable = ({ repeated, maybe, statements, steps }: Block): boolean =>
  !repeated && !maybe && statements.length > 1 && steps.some(isAssert);

import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { kindOf } from '../../specs/model/rounds.js';
import type { Statement } from '../../specs/model/body.js';
import type { Finding } from '../../finding.js';
import { counted } from '../../util/counted.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { quotedTitle, runningByGroup } from '../questions/order.js';

const message = (count: number, specs: number): string =>
  `The same ${count} assertions stand in ${specs} specs of this group, beside what each is about: one change fails them all.`;
const advice = 'Assert them in one spec, and in the others only what their titles say.';

/** Assertions that many specs of a group make beside their own. */
export const O16: FileCheck = {
  code: 'O16',
  family: 'overload',
  scope: 'file',
  title: 'Asserted in spec after spec',
  level: 'hint',
  why: 'What every spec asserts once more hides the one assertion that its title is about, and a single change turns all of them red.',
  certain: 'Sure where the assertions are written alike, word for word.',
  trouble:
    "it('shows the cone', () => {\n  expect(card).toHaveClass('kiln');\n  expect(card).toHaveAttribute('width', '96');\n  expect(card).toHaveAttribute('height', '96');\n  expect(card).toHaveTextContent('Cone 6');\n  // and four more specs assert the class and the size\n});",
  mended: "it('shows the cone', () => {\n  expect(card).toHaveTextContent('Cone 6');\n});",
  run: (context) => [...runningByGroup(context.file).values()].flatMap((specs) => check(specs, context)),
};

const FEWEST_SPECS = 5;
const FEWEST_ASSERTIONS = 3;

interface Asserting {
  spec: Block;
  /** Its statements that assert, by how they are written. */
  said: ReadonlyMap<string, Statement>;
}

function check(specs: readonly Block[], context: FileContext): Finding[] {
  if (specs.length < FEWEST_SPECS) return [];
  const asserting = specs.filter(({ repeated }) => !repeated).map((spec) => assertingIn(spec, context));
  const { common, all } = mostShared(asserting);
  const [first, ...others] = all;
  const places = common.flatMap((text) => first?.said.get(text) ?? []).sort((a, b) => a.start - b.start);
  const [start, last] = [places[0], places.at(-1)];
  if (!first || !start || !last || common.length < FEWEST_ASSERTIONS) return [];
  return [
    {
      place: inFile(context, { start: start.start, end: last.end }),
      within: titlesOf(first.spec),
      certainty: 'sure',
      message: message(common.length, all.length),
      advice,
      evidence: others.map(({ spec, said }) => ({
        ...inFile(context, said.get(common[0] ?? '') ?? spec.callee),
        note: quotedTitle(spec),
      })),
    },
  ];
}

function assertingIn(spec: Block, { source }: FileContext): Asserting {
  const said = spec.statements
    .filter((statement) => kindOf(statement, spec) === 'assert')
    .map((each) => [source.text.slice(each.start, each.end).replace(/\s+/g, ''), each] as const);
  return { spec, said: new Map(said) };
}

// The assertions that most specs share; each of these specs must assert something of its own as well.
function mostShared(asserting: readonly Asserting[]): { common: string[]; all: Asserting[] } {
  const texts = [...counted(asserting.flatMap(({ said }) => [...said.keys()]))]
    .filter(([, count]) => count >= FEWEST_SPECS)
    .sort(([, a], [, b]) => b - a);
  let best: { common: string[]; all: Asserting[] } = { common: [], all: [] };
  const common: string[] = [];
  for (const [text] of texts) {
    common.push(text);
    const all = asserting.filter(
      ({ said }) => said.size > common.length && common.every((each) => said.has(each)),
    );
    if (all.length < FEWEST_SPECS) common.pop();
    else best = { common: [...common], all };
  }
  return best;
}

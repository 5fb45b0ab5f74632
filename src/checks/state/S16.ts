import type { Finding } from '../../finding.js';
import type { FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { lostIn, neededAtOnce, type Lost, type Needed } from '../questions/lost-answers.js';

const message = (name: string, by: string, when: string, component: string): string =>
  `${by} this answer of ${name} away ${when}: ${component} calls it as soon as it is shown, and gets nothing.`;
const advice = 'Give the answer in a before-each hook, or write a plain function in its place.';

/** An answer of a module's stand-in that is given once, and taken away before a spec asks for it. */
export const S16: FileCheck = {
  code: 'S16',
  family: 'state',
  scope: 'file',
  title: 'Answer taken away before it is asked for',
  level: 'blocker',
  why: 'The stand-in is there and gives nothing: the component reads a part of that, and throws.',
  certain: 'Likely at most: that the component needs what the call gives is not certain.',
  trouble:
    "vi.mock('./use-kilns', () => ({ useKilns: vi.fn().mockReturnValue({ kilns: [] }) }));\nafterEach(() => vi.resetAllMocks());",
  mended: 'beforeEach(() => vi.mocked(useKilns).mockReturnValue({ kilns: [] }));',
  run(context) {
    const { replacements } = context.file;
    if (replacements.every(({ told }) => told.size === 0)) return [];
    const lost = lostIn(context);
    return lost ? neededAtOnce(context).map((each) => found(each, lost, context)) : [];
  },
};

const found = (
  { name, component, at, start, end }: Needed,
  { by, when, evidence }: Lost,
  context: FileContext,
): Finding => ({
  place: inFile(context, { start, end }),
  certainty: 'likely',
  message: message(name, by, when, component),
  advice,
  evidence: [...(evidence ?? []), { ...at, note: 'asks for it under no condition' }],
});

import { titlesOf } from '../../specs/model/blocks.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import type { Mend } from '../../finding.js';
import type { FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { onceAFileMended } from '../questions/once-a-file.js';
import { runningBlocks } from '../questions/order.js';

const message = ({ name, prop }: StepOf<'maker-given'>): string =>
  `${name} itself is given as “${prop}”: each call of it makes a stand-in that nobody keeps, and none is ever asked.`;
const advice = (name: string): string => `Call it: ${name}() is the stand-in.`;

/** What makes stand-ins, given where one of them is meant. One finding a file. */
export const O26: FileCheck = {
  code: 'O26',
  family: 'overload',
  scope: 'file',
  title: 'Maker of stand-ins given away',
  level: 'hint',
  why: 'It is a function, so that nothing breaks; what the component hands over is taken for a first answer, and no call is on record.',
  certain: 'Sure: the name is that of the runner, and it is not called.',
  trouble: 'render(<Kiln onFire={jest.fn} />);',
  mended: 'render(<Kiln onFire={jest.fn()} />);',
  run: (context) =>
    onceAFileMended(
      runningBlocks(context.file).flatMap((block) =>
        block.steps.filter(isMakerGiven).map((step) => ({
          place: inFile(context, step.place),
          within: titlesOf(block),
          certainty: 'sure' as const,
          message: message(step),
          advice: advice(step.name),
          mend: mend(step, context),
        })),
      ),
      'and here',
    ),
};

const isMakerGiven = (step: Step): step is StepOf<'maker-given'> =>
  step.kind === 'maker-given' && !step.dead && !step.inComponent && !step.via;

const mend = ({ name, place: { end } }: StepOf<'maker-given'>, { file }: FileContext): Mend => ({
  summary: `Call ${name}`,
  safe: true,
  edits: [{ file: file.path, start: end, end, text: '()' }],
});

import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Loop, Step } from '../../specs/model/steps.js';
import type { Finding } from '../../finding.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';

const message = (turns: number): string =>
  `${turns} cases run in a loop of one spec: the first that fails hides the others, and the report does not say which it was.`;
const advice = 'Make a spec of each: a table of cases, or the loop around the spec.';

/** Cases that a loop in one spec runs, each with its own render or call. */
export const O17: FileCheck = {
  code: 'O17',
  family: 'overload',
  scope: 'file',
  title: 'Cases in a loop of one spec',
  level: 'hint',
  why: 'A runner that knows of the cases reports each by its name, and runs all of them whatever one does.',
  certain: 'Sure where the list is written out, and each turn renders or calls, and asserts.',
  trouble:
    "it('names the cones', () => {\n  for (const cone of ['06', '6', '10']) {\n    render(<KilnCard cone={cone} />);\n    expect(screen.getByText(`Cone ${cone}`)).toBeVisible();\n    cleanup();\n  }\n});",
  mended:
    "it.each(['06', '6', '10'])('names cone %s', (cone) => {\n  render(<KilnCard cone={cone} />);\n  expect(screen.getByText(`Cone ${cone}`)).toBeVisible();\n});",
  run: (context) => runningSpecs(context.file).flatMap((spec) => check(spec, context)),
};

const FEWEST = 2;

function check(spec: Block, context: FileContext): Finding[] {
  const inLoops = spec.steps.filter(({ loop, via }) => loop !== undefined && !via);
  const loops = new Set(inLoops.flatMap(({ loop }) => loop ?? []));
  return [...loops].flatMap((loop) => {
    const turn = inLoops.filter((step) => step.loop === loop);
    return loop.turns >= FEWEST && turn.some(isAssert) && turn.some((step) => isDone(step, context))
      ? [found(loop, spec, context)]
      : [];
  });
}

const found = (loop: Loop, spec: Block, context: FileContext): Finding => ({
  place: inFile(context, loop),
  within: titlesOf(spec),
  certainty: 'sure',
  message: message(loop.turns),
  advice,
});

// Rendered, or a function of the project called: what only acts may well go on from turn to turn.
function isDone(step: Step, { file, project }: FileContext): boolean {
  if (step.kind === 'render') return true;
  if (step.kind !== 'use' || step.use.how !== 'call' || step.use.binding.kind !== 'import') return false;
  const from = file.imports.get(step.use.binding.name);
  return from !== undefined && project.resolve(file.path, from.specifier) !== undefined;
}

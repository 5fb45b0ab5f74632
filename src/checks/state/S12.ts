import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf } from '../../specs/model/values.js';
import type { Finding } from '../../finding.js';
import type { FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';

const message =
  'This answer is set after the render, and nothing follows that could ask for it: what is asserted was shown with the one before.';
const advice = 'Set it before the component is rendered, or render again.';

/** An answer of a stand-in that is set when the component has already asked. */
export const S12: FileCheck = {
  code: 'S12',
  family: 'state',
  scope: 'file',
  title: 'Answer set too late',
  level: 'risk',
  why: 'The component asked before: the spec is green with the answer that another spec, or nobody, has set.',
  certain: 'Likely at most: what the component asks, and when, is worked out from its code alone.',
  trouble:
    "render(<Kiln />);\nreadTemp.mockReturnValue(1200); // the render has read it already\nexpect(screen.getByText('Cold')).toBeVisible();",
  mended:
    "readTemp.mockReturnValue(1200);\nrender(<Kiln />);\nexpect(screen.getByText('Hot')).toBeVisible();",
  run: (context) => runningSpecs(context.file).flatMap((spec) => check(spec, context)),
};

type Answering = StepOf<'answer'> | StepOf<'stand-in'>;

function check(spec: Block, context: FileContext): Finding[] {
  const { steps } = spec;
  const at = steps.findLastIndex(setsAnswer);
  const step = steps[at];
  const rendered = steps.slice(0, at).findLast(({ kind }) => kind === 'render');
  const after = steps.slice(at + 1);
  const asserts = after.filter(isAssert);
  const [first] = asserts;
  if (
    !step ||
    !rendered ||
    !first ||
    step.via ||
    !after.every((each) => isIdle(each, context)) ||
    !asserts.every(isOfPage)
  )
    return [];
  return [
    {
      place: inFile(context, step.place),
      within: titlesOf(spec),
      certainty: 'likely',
      message,
      advice,
      evidence: [
        { ...inFile(context, rendered.place), note: 'rendered before' },
        { ...inFile(context, first.place), note: 'asserted with nothing in between' },
      ],
    },
  ];
}

const setsAnswer = (step: Step): step is Answering =>
  !step.maybe &&
  !step.inCallback &&
  (step.kind === 'answer' ||
    (step.kind === 'stand-in' && step.standIn.answers && step.standIn.target !== 'none'));

// What asks for nothing, and lets no time pass in which something could.
function isIdle(step: Step, { file, project }: FileContext): boolean {
  if (step.awaited) return false;
  if (step.kind === 'reach') return !step.reach.waits;
  if (step.kind !== 'use') return step.kind === 'assert';
  // The page and its queries are used by calls as well.
  const from = file.imports.get(step.use.binding.name)?.specifier;
  return step.use.how === 'read' || (from !== undefined && project.libraries.of(from) !== undefined);
}

function isOfPage({ assertion }: StepOf<'assert'>): boolean {
  const thing = libraryObjectOf(assertion.subject);
  return thing !== undefined && !thing.standIn && (thing.reach !== undefined || thing.render !== undefined);
}

import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';

const message = (hook: string): string =>
  `${hook} gives this answer to one call, and a component calls it each time it renders: from the next render on it gives another.`;
const advice = 'Let it give the answer to every call: the before-each hook, or the runner, sets it back.';

/** An answer for one call of a hook, in a spec that has the component render again. */
export const S14: FileCheck = {
  code: 'S14',
  family: 'state',
  scope: 'file',
  title: 'Answered once, asked at each render',
  level: 'hint',
  why: 'How often a component renders is its own matter: one render more, and the spec is about another state than it says.',
  certain: 'Likely at most: that the act has the component render again is not certain.',
  trouble:
    "useKilns.mockReturnValueOnce({ kilns: [raku] });\nrender(<Board />);\nawait user.click(screen.getByRole('button', { name: 'Fire' }));\nexpect(screen.getByText('Raku')).toBeVisible();",
  mended: 'useKilns.mockReturnValue({ kilns: [raku] });',
  run: (context) => runningSpecs(context.file).flatMap((spec) => check(spec, context)),
};

function check(spec: Block, context: FileContext): Finding[] {
  const rendered = spec.steps.findIndex(({ kind }) => kind === 'render');
  const after = spec.steps.slice(rendered + 1);
  const act = after.find(isAct);
  if (rendered < 0 || !act || !after.slice(after.indexOf(act)).some(isAssert)) return [];
  const once = spec.steps
    .slice(0, rendered)
    .filter((step) => step.kind === 'answer' && step.once && !step.via);
  return once.flatMap((step): Finding[] => {
    const hook = hookOf(step);
    // Several answers one after the other are meant for as many calls.
    if (hook === undefined || once.filter((each) => hookOf(each) === hook).length > 1) return [];
    return [
      {
        place: inFile(context, step.place),
        within: titlesOf(spec),
        certainty: 'likely',
        message: message(hook),
        advice,
        evidence: [{ ...inFile(context, act.place), note: 'what may have it render again' }],
      },
    ];
  });
}

const isAct = (step: Step): step is StepOf<'act'> => step.kind === 'act';

// `useKilns`, and what stands for it: `mockUseKilns`, `mockedUseKilns`.
function hookOf(step: Step): string | undefined {
  if (step.kind !== 'answer') return undefined;
  const name = step.standIn?.path ?? step.binding?.name ?? '';
  return /^(?:use|(?:mock|mocked)Use)[A-Z]/.test(name) ? name : undefined;
}

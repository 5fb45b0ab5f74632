import { ARM_FACTS } from '../questions/answers.js';
import type { ArmFacts } from '../../coverage/arm-facts.js';
import { type ArmGap, placeOf } from '../../coverage/gaps.js';
import { codeHits } from '../../coverage/arms-hit.js';
import { ranAtAll } from '../../coverage/coverage.js';
import { answeringNames, isWaitingOrFailure } from '../questions/arm-causes.js';
import { inputsInWords, takenBy } from '../../writing/inputs.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext } from '../questions/context.js';

const message = (component: string): string => `No spec makes what ${component} tries here fail.`;
const messageAnswered = (names: string, component: string, when: string): string =>
  `Specs never let ${names} answer so that ${component} shows what it shows for ${when}.`;
const advice = 'Let the stand-in reject or throw, and assert on what a user then sees.';

/** A failure that a component handles, and that no spec brings about. */
export const B06: ProjectCheck = {
  code: 'B06',
  family: 'branches',
  scope: 'project',
  facts: ARM_FACTS,
  title: 'Failure or waiting state never shown',
  level: 'risk',
  why: 'What a user sees when something fails is written for the day when it does. Only a spec shows it before.',
  certain: 'Sure where a run measured it. What stand-ins answer is worked out from the code of the specs.',
  trouble:
    'try {\n  setKilns(await loadKilns());\n} catch {\n  setError(true); // loadKilns never rejects in a spec\n}',
  mended:
    "loadKilns.mockRejectedValue(new Error('offline'));\nrender(<FiringBoard />);\nexpect(await screen.findByRole('alert')).toBeInTheDocument();",
  run(context) {
    const { arms, gaps } = context.branches();
    return [
      ...arms.filter(({ branch }) => branch.kind === 'try').flatMap((arm) => found(arm, context)),
      ...gaps.filter((gap) => gap.basis === 'computed' && isWaitingOrFailure(gap)).map(neverAnswered),
    ];
  },
};

const neverAnswered = (gap: ArmGap): Finding => ({
  place: placeOf(gap),
  certainty: 'likely',
  message: messageAnswered(answeringNames(gap) ?? '', gap.component.name, inputsInWords([gap.arm.condition])),
  advice: takenBy(gap),
  evidence: [{ ...gap.branch.place, note: `the branch, in ${gap.component.name}` }],
});

function found(facts: ArmFacts, context: ProjectContext): Finding[] {
  const { branch, arm, component } = facts;
  const certainty = neverRan(facts, context);
  if (!certainty) return [];
  return [
    {
      place: arm.place,
      certainty,
      message: message(component.name),
      advice,
      evidence: [{ ...branch.place, note: 'what is tried' }],
    },
  ];
}

// Sure by the lines of a run; without one, likely where no spec that renders the component speaks of failure at all.
function neverRan(
  { branch, arm, component }: ArmFacts,
  context: ProjectContext,
): Finding['certainty'] | undefined {
  const measured = context.coverage?.files.get(component.file);
  const source = context.sourceOf(component.file);
  if (measured && source) {
    const tried = { ...branch.place, end: arm.place.start };
    const hits = codeHits(arm.place, { start: arm.place.start, end: arm.place.start }, measured, source);
    const isTried = (codeHits(tried, tried, measured, source) ?? 1) > 0;
    return ranAtAll(measured) && hits === 0 && isTried ? 'sure' : undefined;
  }
  const files = context.specFilesOf(component);
  return files?.length && files.every(({ path }) => !context.speaksOfFailure(path)) ? 'likely' : undefined;
}

import { ARM_FACTS } from '../questions/answers.js';
import {
  answeringNames,
  byCause,
  heldText,
  providingNames,
  isWaitingOrFailure,
  isWorthASpec,
  saidOfCause,
  valuesText,
  type ArmCause,
} from '../questions/arm-causes.js';
import { type ArmGap, placeOf } from '../../coverage/gaps.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inputsInWords, takenBy, valueText } from '../../writing/inputs.js';

const message = (component: string, when: string): string =>
  `No values that specs give to ${component} take the arm for ${when}.`;
const messageAnswers = (names: string, component: string, when: string): string =>
  `No answer that specs give for ${names} takes the arm of ${component} for ${when}.`;
const messageAnswersOf = (names: string, component: string, arms: number): string =>
  `No answer that specs give for ${names} takes ${arms} arms of ${component}.`;
const messageProvided = (names: string, component: string, when: string): string =>
  `No value of ${names} that specs render ${component} in takes the arm for ${when}.`;
const messageProvidedOf = (names: string, component: string, arms: number): string =>
  `No value of ${names} that specs render ${component} in takes ${arms} of its arms.`;
const messageHeld = (held: string, component: string, when: string): string =>
  `As specs use ${component}, ${held}: the arm for ${when} is never taken.`;
const messageHeldOf = (held: string, component: string, arms: number): string =>
  `As specs use ${component}, ${held}: ${arms} arms are never taken.`;
const note = (prop: string, values: string): string => `specs give ${prop}: ${values}`;

/** An arm that no spec takes by what it gives, where no coverage tells. */
export const B03: ProjectCheck = {
  code: 'B03',
  family: 'branches',
  scope: 'project',
  facts: ARM_FACTS,
  listsArms: true,
  title: "Arm that no spec's inputs reach",
  level: 'risk',
  why: 'All that specs give to the component is known, and none of it takes this arm: whatever it holds is untested.',
  certain: 'Likely at most: inputs that specs give are worked out from their code, not measured.',
  trouble:
    "it('shows the temperature', () => {\n  render(<KilnLid temp={900} />); // the only render, and temp < 600 has an arm of its own\n});",
  mended: "it('is safe to open below 600 degrees', () => {\n  render(<KilnLid temp={599} />);\n  …\n});",
  run: (context) =>
    byCause(
      context
        .branches()
        .gaps.filter((gap) => gap.basis === 'computed' && isWorthASpec(gap) && !isWaitingOrFailure(gap)),
      context,
      valueText,
    ).map(found),
};

// What shows elements, or runs statements, is more than one value of two.
const isGrave = ({ branch, arm }: ArmGap): boolean =>
  arm.written && (arm.shows || branch.kind === 'if' || branch.kind === 'switch');

function found(cause: ArmCause): Finding {
  const { gaps, given } = cause;
  const gap = gaps.find(isGrave) ?? gaps[0];
  const { branch, component } = gap;
  const others = gaps.filter((each) => each !== gap);
  return {
    place: placeOf(gap),
    level: isGrave(gap) ? 'risk' : 'hint',
    certainty: 'likely',
    message: said(cause, gap),
    advice: takenBy(gap),
    evidence: [
      {
        ...branch.place,
        note: given ? note(given.prop, valuesText(given)) : `the branch, in ${component.name}`,
      },
      ...others.map((each) => ({ ...placeOf(each), note: `taken when ${inputsInWords(each.conditions)}` })),
    ],
  };
}

// What keeps specs from the arms: what stand-ins answer, what states hold, or what specs give.
function said(cause: ArmCause, gap: ArmGap): string {
  const { component } = gap;
  const arms = cause.gaps.length;
  const when = inputsInWords(gap.conditions);
  const held = heldText(gap, valueText);
  if (held !== undefined)
    return arms > 1 ? messageHeldOf(held, component.name, arms) : messageHeld(held, component.name, when);
  const names = answeringNames(gap);
  if (names !== undefined)
    return arms > 1
      ? messageAnswersOf(names, component.name, arms)
      : messageAnswers(names, component.name, when);
  const contexts = providingNames(gap);
  if (contexts !== undefined)
    return arms > 1
      ? messageProvidedOf(contexts, component.name, arms)
      : messageProvided(contexts, component.name, when);
  return saidOfCause(cause) ?? message(component.name, when);
}

import { placeOf, type ArmGap } from '../../coverage/gaps.js';
import { byCause, isNeverGiven, saidOfCause, type ArmCause } from '../questions/arm-causes.js';
import { ARM_FACTS } from '../questions/answers.js';
import { inShort } from '../../util/printable.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { takenBy, valueText } from '../../writing/inputs.js';

const message = (arm: string, condition: string): string =>
  `The arm “${arm}” of ${inShort(condition, 70)} is never taken.`;
const messagePartly = (hit: number, all: number, condition: string): string =>
  `${hit} of the ${all} arms of ${inShort(condition, 70)} ${hit === 1 ? 'is' : 'are'} taken; the coverage file does not say which.`;

/** An arm that the coverage file says no spec takes. */
export const B01: ProjectCheck = {
  code: 'B01',
  family: 'branches',
  scope: 'project',
  facts: ARM_FACTS,
  listsArms: true,
  title: 'Arm never taken',
  level: 'risk',
  why: 'An arm that no spec takes can hold anything. The condition says which inputs take it.',
  certain: 'Sure where a run measured it.',
  trouble: "temp < 600 ? 'safe to open' : 'hot' // no spec renders it with temp under 600",
  mended: "it('is safe to open below 600 degrees', () => {\n  render(<KilnLid temp={599} />);\n  …\n});",
  run: (context) => {
    const measured = context.branches().gaps.filter(({ basis }) => basis === 'measured');
    const [partly, whole] = [measured.filter(isPartly), measured.filter((gap) => !isPartly(gap))];
    // An input that no spec gives is one cause; of other values, each arm wants its own.
    const causes = byCause(whole, context, valueText).flatMap((cause) =>
      isNeverGiven(cause) ? [cause] : cause.gaps.map(alone),
    );
    return [...partly.map(alone), ...causes].map(found);
  },
};

const alone = (gap: ArmGap): ArmCause => ({ gaps: [gap], given: undefined });

const isPartly = ({ partly }: ArmGap): boolean => partly !== undefined;

function found(cause: ArmCause): Finding {
  const [gap, ...others] = cause.gaps;
  const { branch, arm, component, partly } = gap;
  return {
    place: { ...placeOf(gap) },
    certainty: 'sure',
    message: partly
      ? messagePartly(...partly, branch.condition)
      : (saidOfCause(cause) ?? message(arm.arm, branch.condition)),
    advice: partly ? 'Look at its arms with a coverage format that counts each of them.' : takenBy(gap),
    evidence: [
      { ...branch.place, note: `the branch, in ${component.name}` },
      ...others.map((each) => ({
        ...placeOf(each),
        note: message(each.arm.arm, each.branch.condition),
      })),
    ],
  };
}

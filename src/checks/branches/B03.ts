import { USES } from '../questions/facts.js';
import { byCause, type ArmCause } from '../questions/arm-causes.js';
import { type ArmGap, placeOf } from '../../coverage/gaps.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inputsInWords, takenBy, valueText } from '../../writing/inputs.js';

const message = (component: string, when: string): string =>
  `No values that specs give to ${component} take the arm for ${when}.`;
const messageNone = (component: string, prop: string, arms: number): string =>
  `No spec gives ${component} ${prop}: ${arms} arms hang on it.`;
const messageFew = (component: string, prop: string, values: string, arms: number): string =>
  `For ${prop}, specs give ${component} nothing but ${values}: ${arms} arms wait for another value.`;
const note = (prop: string, values: string): string => `specs give ${prop}: ${values}`;

/** An arm that no spec takes by what it gives, where no coverage tells. */
export const B03: ProjectCheck = {
  code: 'B03',
  family: 'branches',
  scope: 'project',
  facts: [USES],
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
      context.branches().gaps.filter((gap) => gap.basis === 'computed' && isWorthASpec(gap)),
      context,
      givenText,
    ).map(found),
};

// Which value an attribute is given, or whether a default is needed, is for the list of gaps alone.
const isWorthASpec = ({ branch }: ArmGap): boolean => branch.kind !== 'default' && !branch.inAttribute;

// What shows elements, or runs statements, is more than one value of two.
const isGrave = ({ branch, arm }: ArmGap): boolean =>
  arm.written && (arm.shows || branch.kind === 'if' || branch.kind === 'switch');

const NOTHING = 'nothing';
const givenText = (value: unknown): string =>
  value === undefined ? NOTHING : valueText(value as Parameters<typeof valueText>[0]);

function found({ gaps, given }: ArmCause): Finding {
  const gap = gaps.find(isGrave) ?? gaps[0];
  const { branch, component } = gap;
  const others = gaps.filter((each) => each !== gap);
  const values = given?.values.join(', ') ?? '';
  return {
    place: placeOf(gap),
    level: isGrave(gap) ? 'risk' : 'hint',
    certainty: 'likely',
    message:
      others.length === 0 || !given
        ? message(component.name, inputsInWords(gap.conditions))
        : values === NOTHING
          ? messageNone(component.name, given.prop, gaps.length)
          : messageFew(component.name, given.prop, values, gaps.length),
    advice: takenBy(gap),
    evidence: [
      { ...branch.place, note: given ? note(given.prop, values) : `the branch, in ${component.name}` },
      ...others.map((each) => ({ ...placeOf(each), note: `taken when ${inputsInWords(each.conditions)}` })),
    ],
  };
}

import { USES } from '../questions/facts.js';
import { eachWay, givenIn } from '../../rendering/uses.js';
import { propsInCondition } from '../../components/expr-names.js';
import { type ArmGap, placeOf } from '../../coverage/gaps.js';
import { inShort } from '../../util/printable.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext } from '../questions/context.js';
import { takenBy, valueText } from '../../writing/inputs.js';

const message = (arm: string, condition: string, component: string): string =>
  `No values that specs give to ${component} take the arm “${arm}” of ${inShort(condition, 70)}.`;
const note = (name: string, values: readonly string[]): string => `specs give ${name}: ${values.join(', ')}`;

const MOST_VALUES = 5;

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
  trouble:
    "it('shows the temperature', () => {\n  render(<KilnLid temp={900} />); // the only render, and temp < 600 has an arm of its own\n});",
  mended: "it('is safe to open below 600 degrees', () => {\n  render(<KilnLid temp={599} />);\n  …\n});",
  run: (context) =>
    context
      .branches()
      .gaps.filter((gap) => gap.basis === 'computed' && isWorthASpec(gap))
      .map((gap) => found(gap, context)),
};

// Which value an attribute is given, or whether a default is needed, is for the list of gaps alone.
const isWorthASpec = ({ branch }: ArmGap): boolean => branch.kind !== 'default' && !branch.inAttribute;

// What shows elements, or runs statements, is more than one value of two.
const isGrave = ({ branch, arm }: ArmGap): boolean =>
  arm.written && (arm.shows || branch.kind === 'if' || branch.kind === 'switch');

function found(gap: ArmGap, context: ProjectContext): Finding {
  const { arm, branch, component } = gap;
  const given = givenValues(gap, context);
  return {
    place: placeOf(gap),
    level: isGrave(gap) ? 'risk' : 'hint',
    certainty: 'likely',
    message: message(arm.arm, branch.condition, component.name),
    advice: takenBy(gap),
    evidence: [{ ...branch.place, note: given ?? `the branch, in ${component.name}` }],
  };
}

// What specs give for the prop that the arm's own condition reads first.
function givenValues({ arm, component }: ArmGap, context: ProjectContext): string | undefined {
  let name: string | undefined;
  propsInCondition(arm.condition.test, (prop) => (name ??= prop));
  if (name === undefined) return undefined;
  const prop = name;
  const values = new Set<string>();
  for (const use of context.usesOf(component).flatMap((each) => eachWay(each, [prop]))) {
    const value = givenIn(use, prop);
    if (value.is !== 'constant') return undefined;
    values.add(value.value === undefined ? 'nothing' : valueText(value.value));
  }
  return values.size > 0 && values.size <= MOST_VALUES ? note(prop, [...values].sort()) : undefined;
}

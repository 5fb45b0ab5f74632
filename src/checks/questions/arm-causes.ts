import { answersIn, propsInCondition } from '../../components/expr-names.js';
import { importOfKey, type Constant, type Expr } from '../../components/expr.js';
import type { Component } from '../../components/view.js';
import type { ArmGap } from '../../coverage/gaps.js';
import { eachWay, givenIn } from '../../rendering/uses.js';
import { listed } from '../../util/plural.js';
import type { ProjectContext } from './context.js';

/** Arms that are not taken for one reason: what specs give for one prop. */
export interface ArmCause {
  gaps: readonly [ArmGap, ...ArmGap[]];
  given: GivenValues | undefined;
}

/** The prop that an arm reads first, and all values that specs give for it as code. */
interface GivenValues {
  prop: string;
  values: readonly string[];
  /** Whether nothing else could take the arm: no other prop decides, or this one is never given. */
  decides: boolean;
}

const MOST_VALUES = 5;
const NOTHING = 'nothing';

const messageNone = (component: string, prop: string, arms: number): string =>
  `No spec gives ${component} ${prop}: ${arms} arms hang on it.`;
const messageFew = (component: string, prop: string, values: string, arms: number): string =>
  `For ${prop}, specs give ${component} nothing but ${values}: ${arms} arms wait for another value.`;

/** What several arms have in common, in words; undefined of a single arm. */
export function saidOfCause({ gaps, given }: ArmCause): string | undefined {
  const [{ component }] = gaps;
  if (!given || gaps.length < 2) return undefined;
  return isNeverGiven({ gaps, given })
    ? messageNone(component.name, given.prop, gaps.length)
    : messageFew(component.name, given.prop, valuesText(given), gaps.length);
}

/** The functions whose stand-ins decide that an arm is not taken, by name; undefined where props alone decide. */
export function answeringNames({ arm, answering }: ArmGap): string | undefined {
  if (!answering) return undefined;
  const asked = answersIn(arm.condition.test);
  const own = answering.filter((key) => asked.has(key));
  // What an outer condition asks for is given, where a prop decides this one.
  if (own.length === 0 && propsRead(arm).length > 0) return undefined;
  return listed((own.length > 0 ? own : answering).flatMap((key) => importOfKey(key)?.name ?? []));
}

function propsRead({ condition }: ArmGap['arm']): string[] {
  const names: string[] = [];
  propsInCondition(condition.test, (prop) => names.push(prop));
  return names;
}

/** The contexts that alone decide that an arm is not taken, by name; undefined where a prop decides as well. */
export function providingNames({ arm, answering, held, providing }: ArmGap): string | undefined {
  if (answering || held || !providing || propsRead(arm).length > 0) return undefined;
  return listed(providing.flatMap((key) => importOfKey(key)?.name ?? []));
}

/** Whether an arm asks for a spec: which value an attribute is given, or whether a default is needed, is for the list of gaps alone. */
export const isWorthASpec = ({ branch, arm }: Pick<ArmGap, 'branch' | 'arm'>): boolean =>
  branch.kind !== 'default' && !arm.isFallback && !branch.inAttribute;

/** Whether an arm is what is shown while something is awaited, or when it fails, as what a stand-in answers says. */
export const isWaitingOrFailure = ({ arm, answering }: ArmGap): boolean =>
  answering !== undefined &&
  arm.shows &&
  arm.condition.test.is !== 'not' &&
  [...answersIn(arm.condition.test).values()]
    .flat()
    .some((path) => WAITING_OR_FAILURE.test(path.at(-1) ?? ''));

const WAITING_OR_FAILURE = /loading|pending|fetching|validating|submitting|saving|error|fail/i;

/** What the states hold in specs that decide that an arm is not taken, in words; undefined where none does. */
export const heldText = ({ held }: ArmGap, valueText: (value: Constant) => string): string | undefined =>
  held?.map(({ name, values }) => `${name} is ${listed(shownValues(values, valueText), 'or')}`).join('; ');

function shownValues(values: readonly Expr[], valueText: (value: Constant) => string): string[] {
  const constants = values.flatMap((each) => (each.is === 'constant' ? [each.value] : []));
  // What a field holds on the way to a text is not worth a word.
  const isWhole = (value: Constant): boolean =>
    typeof value !== 'string' ||
    value === '' ||
    !constants.some((other) => typeof other === 'string' && other !== value && other.startsWith(value));
  const whole = constants.filter(isWhole).map(valueText);
  const rest = values.length > constants.length ? ['something'] : [];
  return whole.length > MOST_VALUES
    ? [...whole.slice(0, MOST_VALUES), 'another of theirs']
    : [...whole, ...rest];
}

/** Whether no spec gives the prop at all. */
export const isNeverGiven = ({ given }: ArmCause): boolean =>
  given !== undefined && valuesText(given) === NOTHING;

/** The values that specs give, in words. */
export const valuesText = ({ values }: GivenValues): string => values.join(', ');

/** Joins arms of one component that hang on one prop; `valueText` writes a value as code. */
export function byCause(
  gaps: readonly ArmGap[],
  context: ProjectContext,
  valueText: (value: Constant) => string,
): ArmCause[] {
  const causes = new Map<unknown, { gaps: [ArmGap, ...ArmGap[]]; given: GivenValues | undefined }>();
  const keys = new Map<Component, Map<string, object>>();
  for (const gap of gaps) {
    const given = givenValues(gap, context, valueText);
    const ofComponent = keys.get(gap.component) ?? new Map<string, object>();
    keys.set(gap.component, ofComponent);
    const by =
      answeringNames(gap) ?? stateOf(gap) ?? providingNames(gap) ?? (given?.decides ? given.prop : undefined);
    const key = by === undefined ? gap : (ofComponent.get(by) ?? gap);
    if (by !== undefined) ofComponent.set(by, key);
    const cause = causes.get(key);
    if (cause) cause.gaps.push(gap);
    else causes.set(key, { gaps: [gap], given });
  }
  return [...causes.values()];
}

// The states that decide: `~cone` is the name of no prop.
const stateOf = ({ held }: ArmGap): string | undefined => held && held.map(({ name }) => `~${name}`).join();

// What specs give for the prop that the arm's own condition reads first.
function givenValues(
  { arm, component, held }: ArmGap,
  context: ProjectContext,
  valueText: (value: Constant) => string,
): GivenValues | undefined {
  const names = new Set<string>();
  propsInCondition(arm.condition.test, (prop) => names.add(prop));
  const [prop] = names;
  if (prop === undefined || !context.isInSight(component)) return undefined;
  const values = new Set<Constant>();
  for (const use of context.usesOf(component).flatMap((each) => eachWay(each, [prop]))) {
    const value = givenIn(use, prop);
    if (value.is !== 'constant') return undefined;
    values.add(value.value);
  }
  if (values.size === 0 || values.size > MOST_VALUES) return undefined;
  const isLacking = values.size === 1 && values.has(undefined);
  const shown = [...values].map((value) => (value === undefined ? NOTHING : valueText(value)));
  // What users do may take it as well.
  const decides = !held && (isLacking || names.size === 1);
  return { prop, values: shown.sort(), decides };
}

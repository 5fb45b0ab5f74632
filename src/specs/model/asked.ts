import type { Assertion, Reach, StandIn } from './steps.js';
import { textOfValue, type Value } from './values.js';

/** The name that a query asks for among its options, a text or a pattern: `getByRole('button', { name: /fire/i })`. */
export const nameOption = ({ args: [, options] }: Pick<Reach, 'args'>): Value | undefined =>
  options?.is === 'object' ? options.entries.get('name') : undefined;

/** The same, where it is a text: `getByRole('button', { name: 'Fire' })`. */
export const nameAsked = (reach: Pick<Reach, 'args'>): string | undefined => textOfValue(nameOption(reach));

/** What a query of the page asks for, in a form that only the same words have; undefined where they can't be told. */
export function askedForm({ by, asUser, args }: Reach): string | undefined {
  const forms = args.map(formOfValue);
  return (asUser || by === 'testId') && args.length > 0 && !forms.includes(undefined)
    ? `${by} ${forms.join(' ')}`
    : undefined;
}

/** A value in a form that only the same has; undefined where it can't be told. */
export function formOfValue(value: Value): string | undefined {
  if (value.is === 'pattern') return `/${value.source}/${value.flags}`;
  if (value.is === 'constant') return JSON.stringify(value.value);
  if (value.is !== 'object' || value.open) return undefined;
  const entries = [...value.entries].map(([key, each]) => [key, formOfValue(each)] as const);
  return entries.some(([, form]) => form === undefined)
    ? undefined
    : `{${entries.map(([key, form]) => `${key}: ${form ?? ''}`).join(', ')}}`;
}

/** What asks whether something is there, and is complete without an argument. */
export const ASKING_PRESENCE: ReadonlySet<Assertion['asks']> = new Set([
  'there',
  'truthy',
  'falsy',
  'null',
  'defined',
  'undefined',
] as const);

// Matchers, of several libraries, that ask no more of a stand-in than whether, or how often, it was called.
const WHETHER: ReadonlySet<string> = new Set(
  'toHaveBeenCalled toBeCalled toHaveBeenCalledTimes toBeCalledTimes toHaveBeenCalledOnce called calledOnce calledTwice calledThrice callCount notCalled'.split(
    ' ',
  ),
);

/** Whether an assertion of a stand-in asks no more than whether, or how often, it was called. */
export const asksWhether = ({ matcher }: Assertion): boolean => WHETHER.has(matcher ?? '');

/** Notes that anything may be asked of what a stand-in was called with. */
export function askedWhole(standIn: StandIn): void {
  standIn.asked = true;
  standIn.askedWith = true;
}

/** The event that an assertion about the record of events is of: `emitted('fire')`, `emitted().fire`. */
export function eventAsked({ subject, subjectPath }: Assertion): string | undefined {
  if (!subjectPath.includes('emitted')) return undefined;
  for (let at: Value = subject; at.is === 'read'; at = at.of)
    if (at.of.is === 'thing' && (at.of.type === 'record' || at.name === 'emitted'))
      return /^[a-z][\w:.-]*$/i.test(at.name) && at.name !== 'emitted' ? at.name : textOfValue(at.than);
  return undefined;
}

import type { WrittenCondition } from '../branches/arms.js';
import type { Example, InputValue } from '../branches/solve.js';
import type { ArmGap } from '../coverage/gaps.js';
import { inShort } from '../util/printable.js';

const MOST_SHOWN = 3;
const LONGEST = 70;

/** What takes an arm: its conditions, and the inputs where they could be worked out. Of a prop whose type is not known, only whether it is given. */
export function takenBy({
  conditions,
  answer,
  component,
}: Pick<ArmGap, 'conditions' | 'answer' | 'component'>): string {
  const when = inputsInWords(conditions);
  if (answer.is !== 'inputs' || !answer.examples.every(isGivable)) return `It is taken when ${when}.`;
  const isTyped = (name: string): boolean => component.domains?.has(name) === true;
  const shown = answer.examples.slice(0, MOST_SHOWN).map((example) => inputsText(example, isTyped));
  const given = shown.every(Boolean) ? `: with ${shown.join(', or ')}` : '';
  return `It is taken when ${when}${given}.`;
}

const MOST_STATE = 2;

// All that a function works with is nothing to give.
const isGivable = ({ state }: Example): boolean => Object.keys(state).length <= MOST_STATE;

/** Conditions as a sentence says them. */
export const inputsInWords = (conditions: readonly WrittenCondition[]): string =>
  conditions.map(({ text }) => inShort(text, LONGEST)).join(', and ') || 'its branch is reached';

/** Inputs as a sentence says them: `temp = 600 and cone = '06'`. */
export const exampleText = (example: Example): string => inputsText(example, () => true);

// Of a prop that is not `isTyped`, a flag only says that it is given.
const inputsText = ({ props, state }: Example, isTyped: (prop: string) => boolean): string =>
  [
    ...Object.entries(props).map(([name, value]) =>
      typeof value === 'boolean' && !isTyped(name)
        ? `${name} ${value ? 'given' : 'not given'}`
        : assigned(name, value),
    ),
    ...Object.entries(state).map(([name, value]) => assigned(name, value)),
  ].join(' and ');

const assigned = (name: string, value: InputValue): string => `${name} = ${valueText(value)}`;

/** A value as code. */
export function valueText(value: InputValue): string {
  if (typeof value === 'function') return '() => {}';
  if (typeof value === 'string') return `'${value.replace(/[\\']/g, '\\$&').replace(/\n/g, '\\n')}'`;
  if (value === null || typeof value !== 'object') return Object.is(value, -0) ? '-0' : String(value);
  if (Array.isArray(value)) return `[${value.map(valueText).join(', ')}]`;
  const entries = Object.entries(value).map(
    ([key, each]) => `${keyText(key)}: ${valueText(each as InputValue)}`,
  );
  return entries.length ? `{ ${entries.join(', ')} }` : '{}';
}

/** A key of an object as code. */
export const keyText = (key: string): string => (/^[A-Za-z_$][\w$]*$/.test(key) ? key : valueText(key));

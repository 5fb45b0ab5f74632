import { both, not, UNSURE, type Condition } from '../components/expr.js';
import type { Place } from '../finding.js';

/** Something that holds on the way to an arm: as it is written, and as far as it can be worked out. */
export interface WrittenCondition {
  text: string;
  test: Condition;
}

/** One outcome of a branch. Places are UTF-16 offsets. */
export interface Arm {
  /** `then`, `else`, `left`, `right`, `default`, `given`, `catch`, `case 'x'`, or a number from 1 for a part of a longer chain. */
  arm: string;
  /** Where the code of the arm stands; for one that is not written, the branch itself. */
  place: Place;
  /** Its own condition. */
  condition: WrittenCondition;
  /** It has code of its own. */
  written: boolean;
  /** That code shows elements. */
  shows: boolean;
  /** It is nothing but a plain value that stands in for a missing one. */
  isFallback?: boolean;
}

/** A place where the run divides. */
export interface Branch {
  kind: 'if' | 'conditional' | 'logical' | 'optional' | 'switch' | 'default' | 'try' | 'markup';
  place: Place;
  /** The condition, or the value that is switched on, as written. */
  condition: string;
  /** The conditions it stands under, outer first. */
  under: readonly WrittenCondition[];
  arms: readonly Arm[];
  /** It only chooses a value that an attribute is given. */
  inAttribute: boolean;
  /** It stands in a function that need not run when the component is rendered. */
  deferred: boolean;
  /** State that its conditions read may change between them: fields and refs, which live on. */
  mayChange: boolean;
}

/** The opposite of a condition. */
export const negated = ({ text, test }: WrittenCondition): WrittenCondition => ({
  text: `not (${text})`,
  test: not(test),
});

/** A condition of which only the words are known. */
export const onlyInWords = (text: string): WrittenCondition => ({ text, test: UNSURE });

/** All of several conditions. */
export const allOf = (conditions: readonly WrittenCondition[]): WrittenCondition => ({
  text: conditions.map(({ text }) => text).join(' and '),
  test: both(...conditions.map(({ test }) => test)),
});

/** One of several conditions. */
export function anyOf(conditions: readonly WrittenCondition[]): WrittenCondition {
  const [only] = conditions;
  if (only && conditions.length === 1) return only;
  return {
    text: conditions.map(({ text }) => text).join(' or '),
    test: { is: 'any', of: conditions.map(({ test }) => test) },
  };
}

/** All that must hold for an arm, outer conditions first; those that say nothing are left out. */
export const conditionsOf = (branch: Branch, arm: Arm): WrittenCondition[] =>
  [...branch.under, arm.condition].filter(({ text }) => text !== '');

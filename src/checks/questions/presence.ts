import type { Assertion } from '../../specs/model/steps.js';
import type { Finding, Level } from '../../finding.js';

/** Why an assertion cannot fail. */
export interface HollowAssertion {
  reason: string;
  advice?: string;
  level?: Level;
  /** It runs, and passes, every time; else it may not run at all. */
  always: boolean;
  /** It stands under a condition; whether that is known for sure. */
  guarded?: Finding['certainty'];
  /** It says something, but nothing of what the component makes of it. */
  little?: boolean;
  /** It only says that what the spec creates is there. */
  created?: boolean;
  /** What is missing, where that can be written in: the call of the matcher, or `await`. */
  missing?: 'call' | 'await';
}

/** The truth that a matcher asks for by its name. */
export const TRUTH_ASKED: Readonly<Record<string, boolean>> = { truthy: true, falsy: false };

/** Whether an assertion says that its subject is something, of whatever kind. */
export const asksPresence = ({ asks, not }: Assertion): boolean =>
  not ? asks === 'null' || asks === 'undefined' || asks === 'falsy' : asks === 'truthy' || asks === 'defined';

import type { HollowAssertion } from './presence.js';
import type { Block } from '../../specs/model/blocks.js';
import { stands } from '../../specs/model/rounds.js';
import type { Assertion, Step, StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf, type Value } from '../../specs/model/values.js';

// Calls are kept: what was asserted of them once holds to the end, unless the record is cleared.
const OF_KEPT_CALLS: ReadonlySet<string> = new Set([
  'toHaveBeenCalled',
  'toBeCalled',
  'toHaveBeenCalledWith',
  'toBeCalledWith',
]);

/** The same assertion again, where nothing that came between can have changed what it asks; undefined for all else. */
export function saidBefore(step: StepOf<'assert'>, spec: Block): HollowAssertion | undefined {
  const { assertion } = step;
  const { steps } = spec;
  const isPlain = (each: Step): boolean =>
    !each.maybe && !each.inCallback && !each.guard && !each.via && each.loop === undefined;
  if (assertion.style !== 'expect' || assertion.subjectText === '' || !isPlain(step)) return undefined;
  const at = steps.indexOf(step);
  const before = steps.findLastIndex(
    (each, i) => i < at && each.kind === 'assert' && isPlain(each) && isSame(each.assertion, assertion),
  );
  if (before < 0) return undefined;
  const first = steps[before];
  if (first && isReadTwice(assertion) && isNextTo(first, step, spec))
    return { reason: 'the same is asserted just before it', always: true };
  const isKept =
    OF_KEPT_CALLS.has(assertion.matcher ?? '') &&
    !assertion.not &&
    !steps.slice(before + 1, at).some(mayForget);
  return isKept
    ? { reason: 'the call that is asserted before it is still on record', always: true }
    : undefined;
}

// Only assertions stand between the two, if anything does.
function isNextTo(first: Step, step: Step, { steps, statements }: Block): boolean {
  const [from, to] = [first, step].map((each) => statements.findIndex((at) => stands(each, at)));
  if (from === undefined || to === undefined || from < 0 || to <= from) return false;
  return statements
    .slice(from, to + 1)
    .every(
      (at) =>
        at.uses.has('expect') &&
        steps.some((each) => each.kind === 'assert' && stands(each, at)) &&
        !steps.some((each) => each.kind === 'act' && stands(each, at)),
    );
}

// What is shown, or a value by its name: a call may give something else each time.
const isReadTwice = ({ subject, subjectText }: Assertion): boolean =>
  libraryObjectOf(subject)?.reach !== undefined || !subjectText.includes('(');

const isSame = (a: Assertion, b: Assertion): boolean =>
  a.style === 'expect' &&
  a.matcher === b.matcher &&
  a.not === b.not &&
  a.subjectText === b.subjectText &&
  a.argText === b.argText &&
  a.promised === b.promised &&
  a.args.every((each, i) => isSameValue(each, b.args[i]));

// A name may hold something else by then.
function isSameValue(a: Value, b: Value | undefined): boolean {
  if (a === b) return true;
  if (a.is === 'constant') return b?.is === 'constant' && a.value === b.value;
  if (a.is === 'pattern') return b?.is === 'pattern' && a.source === b.source && a.flags === b.flags;
  if (a.is === 'list')
    return (
      b?.is === 'list' && !a.open && !b.open && a.items.every((each, i) => isSameValue(each, b.items[i]))
    );
  return (
    a.is === 'object' &&
    b?.is === 'object' &&
    !a.open &&
    !b.open &&
    [...a.entries].every(([key, each]) => isSameValue(each, b.entries.get(key)))
  );
}

// It clears the record of calls, makes another stand-in, or can't be read.
const mayForget = ({ kind }: Step): boolean =>
  kind === 'restore' || kind === 'unknown-call' || kind === 'stand-in' || kind === 'lasting';

/** `expect(lid).toHaveTextContent('Hot')` of what was found by these words, and kept by a name; undefined for all else. */
export function foundBy({
  subject,
  subjectText,
  matcher,
  not,
  args: [asked],
}: Assertion): HollowAssertion | undefined {
  const reach = subject.is === 'thing' && /^\w+$/.test(subjectText) ? subject.reach : undefined;
  if (not || matcher !== 'toHaveTextContent' || reach?.by !== 'text' || !asked) return undefined;
  const [by] = reach.args;
  const isSameText = asked.is === 'constant' && by?.is === 'constant' && asked.value === by.value;
  const isSamePattern =
    asked.is === 'pattern' && by?.is === 'pattern' && asked.source === by.source && asked.flags === by.flags;
  return isSameText || isSamePattern
    ? { reason: 'it asks for the words that the element is found by', always: true }
    : undefined;
}

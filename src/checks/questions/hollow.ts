import { asksPresence, TRUTH_ASKED, type HollowAssertion } from './presence.js';
import { ASKED_BY_CALL, CALLED_MATCHERS, READ_MATCHERS, TEXT_READS } from '../../libraries/expectations.js';
import type { Block, SpecFile } from '../../specs/model/blocks.js';
import { stands } from '../../specs/model/rounds.js';
import type { Assertion, Step, StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf, type Value } from '../../specs/model/values.js';
import { inShort } from '../../util/printable.js';
import { alwaysThere } from './always-there.js';

/** Why an assertion of a spec cannot fail; undefined where it can, or where that can't be told. */
export function whyHollow(step: StepOf<'assert'>, spec: Block, file: SpecFile): HollowAssertion | undefined {
  const { assertion } = step;
  if (step.dead) return { reason: 'it stands after a return and never runs', always: true };
  if (step.swallowed) return { reason: 'the catch around it lets its failure pass', always: true };
  if (assertion.style === 'expect') {
    const left = unfinished(assertion);
    if (left || assertion.matcher === undefined || assertion.uncalled) return left;
  }
  const asked = withoutNegations(asAsked(assertion));
  return (
    asked &&
    (constants(asked) ??
      unsettled(asked) ??
      neverThrows(asked) ??
      alwaysThere(asked, spec, file) ??
      alwaysTrue(asked) ??
      neverHanded(asked, spec, file) ??
      foundBy(asked) ??
      saidBefore(step, spec))
  );
}

// Calls are kept: what was asserted of them once holds to the end, unless the record is cleared.
const OF_KEPT_CALLS: ReadonlySet<string> = new Set([
  'toHaveBeenCalled',
  'toBeCalled',
  'toHaveBeenCalledWith',
  'toBeCalledWith',
]);

// The same assertion again, where nothing that came between can have changed what it asks.
function saidBefore(step: StepOf<'assert'>, spec: Block): HollowAssertion | undefined {
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
    .every((at) => at.uses.has('expect') && steps.some((each) => each.kind === 'assert' && stands(each, at)));
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

// `expect(lid).toHaveTextContent('Hot')` of what was found by these words, and kept by a name.
function foundBy({
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

/** Whether a spec says how many assertions must run. */
export const countsAssertions = (spec: Block): boolean =>
  spec.steps.some(
    (step) =>
      step.kind === 'assert' &&
      ['assertions', 'hasAssertions', 'fail', 'unreachable', 'plan'].includes(step.assertion.matcher ?? ''),
  );

// `expect(x)`, and `expect(x).toBeNull` without its call.
function unfinished(assertion: Assertion): HollowAssertion | undefined {
  const { matcher } = assertion;
  if (matcher === undefined)
    return { reason: 'the expectation has no matcher', advice: 'Say what is expected.', always: true };
  if (!assertion.uncalled || !isKnownMatcher(assertion)) return undefined;
  return {
    reason: `${matcher} is named but not called`,
    advice: `Call it: ${matcher}().`,
    always: true,
    missing: 'call',
  };
}

// Plugins bring properties that assert when read; only a matcher that must be called is known not to.
const isKnownMatcher = ({ matcher = '' }: Assertion): boolean =>
  CALLED_MATCHERS.has(matcher) || (!READ_MATCHERS.has(matcher) && /^to[A-Z]/.test(matcher));

// What `assert.equal(a, b)` asks, in the words of expectations; undefined for calls that are not known.
function asAsked(assertion: Assertion): Assertion | undefined {
  // Neither null nor undefined: all that a thing that is there can be asked.
  if (assertion.matcher === 'exist') return { ...assertion, asks: 'truthy' };
  if (assertion.style === 'expect') return assertion;
  const asked = ASKED_BY_CALL.get(assertion.matcher ?? '');
  return asked && { ...assertion, ...asked };
}

// `!!lid` asked whether it is true is `lid` asked whether it is there.
function withoutNegations(asked: Assertion | undefined): Assertion | undefined {
  if (asked?.subject.is !== 'read' || asked.subject.name !== '!') return asked;
  let subject: Value = asked.subject;
  let isTurned = false;
  for (; subject.is === 'read' && subject.name === '!'; subject = subject.of) isTurned = !isTurned;
  const [first] = asked.args;
  const wanted =
    asked.asks === 'equal' && first?.is === 'constant' ? first.value : TRUTH_ASKED[asked.asks ?? ''];
  return wanted === !isTurned && !asked.not ? { ...asked, subject, asks: 'truthy', args: [] } : asked;
}

function constants({
  subject,
  subjectText,
  args,
  argText,
  asks,
  not,
}: Assertion): HollowAssertion | undefined {
  if (subject.is === 'constant' && isLiteral(subjectText)) {
    const compared =
      args.length > 0
        ? args[0]?.is === 'constant' && isLiteral(argText)
        : asks !== undefined && asks !== 'equal';
    if (compared) return { reason: 'it compares constants', always: true };
  }
  // A function may well give something else each time; what is shown is read twice.
  const isRead = /^[\w$.?'"[\]]+$/.test(subjectText) || libraryObjectOf(subject) !== undefined;
  const same = asks === 'equal' && !not && subjectText !== '' && subjectText === argText && isRead;
  return same ? { reason: `${inShort(subjectText, 60)} is compared with itself`, always: true } : undefined;
}

const isLiteral = (text: string): boolean =>
  /^(?:true|false|null|undefined|-?[\d.]+|'[^']*'|"[^"]*"|`[^`$]*`)$/.test(text);

// A promise is something, and not equal to anything, whatever it will give.
function unsettled(assertion: Assertion): HollowAssertion | undefined {
  const { subject, asks, not, promised } = assertion;
  if (subject.is !== 'promise' || promised) return undefined;
  if (!asksPresence(assertion) && !(not && asks === 'equal')) return undefined;
  return {
    reason: 'it asks a promise, which is there whatever it will give',
    advice: 'Await what is asked about.',
    always: true,
    missing: 'await',
  };
}

// An `async` function gives a promise that is rejected; it throws nothing.
function neverThrows({ subject, matcher = '', not }: Assertion): HollowAssertion | undefined {
  if (subject.is !== 'function' || !not || !/^toThrow|^throws?$/.test(matcher)) return undefined;
  if (!subject.node.async) return undefined;
  return {
    reason: 'an async function never throws, its promise is rejected',
    advice: 'Await the call itself: a rejection then fails the spec.',
    always: true,
  };
}

const EVERYTHING: ReadonlySet<string> = new Set(['', '.*', '(.*)', '[\\s\\S]*', '.*?', '^', '$']);

// A predicate that holds for every value.
function alwaysTrue(assertion: Assertion): HollowAssertion | undefined {
  const { subject, subjectPath, matcher = '', args, not, asks } = assertion;
  const [first] = args;
  const bound = first?.is === 'constant' ? first.value : undefined;
  const told = (reason: string): HollowAssertion => ({ reason, always: true });
  const isTrue = (asks === 'truthy' && !not) || (asks === 'equal' && !not && bound === true);
  if (isTrue && subject.is === 'read' && subject.name === '||') return told('“… || true” is always true');
  if (isTrue && subject.is === 'read' && isCount(subject.of) && isNeverBelow(subject.name, subject.than))
    return told('a length is never below zero');
  if (not) return undefined;
  if (isCount(subject) && isNeverBelow(COMPARING[matcher] ?? '', first))
    return told('a length is never below zero');
  if (first?.is === 'pattern' && /^(?:to)?match$/i.test(matcher) && EVERYTHING.has(first.source))
    return told('its pattern matches every text');
  const isText = TEXT_READS.has(subjectPath.at(-1) ?? '');
  if (bound === '' && isText && ['toContain', 'toMatch', 'include', 'contain'].includes(matcher))
    return told('every text holds the empty text');
  if (first?.is === 'object' && first.entries.size === 0 && !first.open && matcher === 'toMatchObject')
    return told('every object matches {}');
  return undefined;
}

const COMPARING: Readonly<Record<string, string>> = {
  toBeGreaterThanOrEqual: '>=',
  toBeGreaterThan: '>',
  least: '>=',
  gte: '>=',
  above: '>',
};

const isCount = (value: Value): boolean => value.is === 'read' && value.name === 'length';

const isNeverBelow = (operator: string, bound: Value | undefined): boolean =>
  bound?.is === 'constant' &&
  ((operator === '>=' && bound.value === 0) || (operator === '>' && bound.value === -1));

const COUNTS_CALLS: ReadonlySet<string> = new Set(['called', 'callCount', 'calledOnce', 'notCalled']);

// "Not called", of a stand-in that nothing could call.
function neverHanded(assertion: Assertion, spec: Block, file: SpecFile): HollowAssertion | undefined {
  const { subject } = assertion;
  const record = subject.is === 'read' && COUNTS_CALLS.has(subject.name) ? subject : undefined;
  const thing = record?.of ?? subject;
  const standIn = thing.is === 'thing' ? thing.standIn : undefined;
  if (!standIn || !deniesCalls(assertion, record?.name)) return undefined;
  if (standIn.target !== 'none' || standIn.used || standIn.block !== spec) return undefined;
  const isElsewhere = file.standIns.some(
    (each) => each !== standIn && each.place.start === standIn.place.start,
  );
  return isElsewhere
    ? undefined
    : {
        reason: 'the stand-in was handed to nobody, so nothing could call it',
        advice: 'Hand it to the component, then act.',
        always: true,
      };
}

function deniesCalls({ asks, not, args, argText, matcher }: Assertion, record: string | undefined): boolean {
  if (record === 'notCalled') return asks === 'truthy' && !not;
  if (record !== undefined)
    return not ? asks === 'truthy' : asks === 'falsy' || (asks === 'equal' && /^(?:0|false)$/.test(argText));
  return asks === 'called' && (matcher === 'notCalled' || not || (args.length > 0 && argText === '0'));
}

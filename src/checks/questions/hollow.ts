import { asksPresence, TRUTH_ASKED, type HollowAssertion } from './presence.js';
import { ASKED_BY_CALL, CALLED_MATCHERS, READ_MATCHERS, TEXT_READS } from '../../libraries/expectations.js';
import type { Block, SpecFile } from '../../specs/model/blocks.js';
import type { Assertion, StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf, type Value } from '../../specs/model/values.js';
import { inShort } from '../../util/printable.js';
import { alwaysThere } from './always-there.js';
import { foundBy, saidBefore } from './said-before.js';

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
  if (!not || !/^toThrow|^throws?$/.test(matcher)) return undefined;
  // @testing-library/user-event 14: what a handler throws, React and the document report elsewhere.
  if (subject.is === 'promise' && subject.by === 'action')
    return {
      reason: 'a user’s action fails where its element can’t be acted on, and not for what a handler does',
      advice: 'Assert on what comes of the action, or that nothing does.',
      always: true,
      little: true,
      level: 'hint',
    };
  if (subject.is !== 'function') return undefined;
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

/** Whether an assertion says that a stand-in was never called; `record`: the property of it that is judged. */
export function deniesCalls({ asks, not, args, argText, matcher }: Assertion, record?: string): boolean {
  if (record === 'notCalled') return asks === 'truthy' && !not;
  if (record !== undefined)
    return not ? asks === 'truthy' : asks === 'falsy' || (asks === 'equal' && /^(?:0|false)$/.test(argText));
  return asks === 'called' && (matcher === 'notCalled' || not || (args.length > 0 && argText === '0'));
}

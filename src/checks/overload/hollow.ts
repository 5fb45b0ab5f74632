import { READ_MATCHERS } from '../../dialects/expectations.js';
import type { Block, SpecFile } from '../../model/specs/blocks.js';
import type { Assertion, StepOf } from '../../model/specs/steps.js';
import type { Thing, Value } from '../../model/specs/values.js';
import type { Level } from '../check.js';

/** Why an assertion cannot fail. */
export interface Hollow {
  reason: string;
  advice?: string;
  level?: Level;
  /** It runs, and passes, every time; else it may not run at all. */
  always: boolean;
}

/** Why an assertion of a spec cannot fail; undefined where it can, or where that can't be told. */
export function whyHollow(step: StepOf<'assert'>, spec: Block, file: SpecFile): Hollow | undefined {
  const { assertion } = step;
  if (step.dead) return { reason: 'it stands after a return and never runs', always: true };
  if (step.swallowed) return { reason: 'the catch around it lets its failure pass', always: true };
  if (step.inCatch && !countsAssertions(spec))
    return {
      reason: 'it only runs if something throws',
      advice: 'Expect the throw itself, or count the assertions.',
      always: false,
    };
  if (assertion.style !== 'expect') return undefined;
  if (assertion.matcher === undefined)
    return { reason: 'the expectation has no matcher', advice: 'Say what is expected.', always: true };
  if (assertion.uncalled)
    return isKnownMatcher(assertion)
      ? {
          reason: `${assertion.matcher} is named but not called`,
          advice: `Call it: ${assertion.matcher}().`,
          always: true,
        }
      : undefined;
  return (
    constants(assertion) ??
    alwaysThere(assertion) ??
    alwaysTrue(assertion) ??
    neverHanded(assertion, spec, file)
  );
}

const countsAssertions = (spec: Block): boolean =>
  spec.steps.some(
    (step) =>
      step.kind === 'assert' &&
      ['assertions', 'hasAssertions', 'fail', 'unreachable', 'plan'].includes(step.assertion.matcher ?? ''),
  );

// Plugins bring properties that assert when read; only a matcher that must be called is known not to.
const isKnownMatcher = ({ matcher, asks }: Assertion): boolean =>
  asks !== undefined && matcher !== undefined && !READ_MATCHERS.has(matcher) && /^to[A-Z]/.test(matcher);

function constants({ subject, subjectText, args, argText, asks }: Assertion): Hollow | undefined {
  if (subject.is === 'constant' && isLiteral(subjectText)) {
    const compared =
      asks === 'equal'
        ? args[0]?.is === 'constant' && isLiteral(argText)
        : args.length === 0 && asks !== undefined;
    if (compared) return { reason: 'it compares constants', always: true };
  }
  const same =
    asks === 'equal' && subjectText !== '' && subjectText === argText && /^[\w$.]+$/.test(subjectText);
  return same ? { reason: `${subjectText} is compared with itself`, always: true } : undefined;
}

const isLiteral = (text: string): boolean =>
  /^(?:true|false|null|undefined|-?[\d.]+|'[^']*'|"[^"]*"|`[^`$]*`)$/.test(text);

const ALWAYS_THERE: Readonly<Partial<Record<Thing['type'], string>>> = {
  wrapper: 'a wrapper',
  'tree-wrapper': 'a wrapper',
  'test-renderer': 'a renderer',
  fixture: 'a fixture',
  queries: 'the result of a render',
  record: 'the record of events',
  'debug-element': 'the debug element',
};

// Presence of something that a render always gives.
function alwaysThere({ subject, asks, not }: Assertion): Hollow | undefined {
  const asked = (asks === 'truthy' || asks === 'defined' || asks === 'there') && !not;
  const denied = (asks === 'null' || asks === 'undefined' || asks === 'falsy') && not;
  if (!asked && !denied) return undefined;
  const what = thereBy(subject);
  if (!what) return undefined;
  const generated = what === 'the instance of a component';
  return { reason: `${what} is always there`, always: true, level: generated ? 'risk' : undefined };
}

function thereBy(subject: Value): string | undefined {
  if (subject.is === 'thing') {
    if (subject.reach || !subject.render) return undefined;
    if (subject.type === 'instance') return 'the instance of a component';
    return ALWAYS_THERE[subject.type];
  }
  return subject.is === 'instance' && subject.of.is === 'class' ? 'a new object' : undefined;
}

// A length that is at least nothing.
function alwaysTrue({ subject, matcher, args, not }: Assertion): Hollow | undefined {
  const zero = args[0]?.is === 'constant' && args[0].value === 0;
  const length = subject.is === 'read' && subject.name === 'length';
  if (length && zero && !not && matcher === 'toBeGreaterThanOrEqual')
    return { reason: 'a length is never below zero', always: true };
  return undefined;
}

// "Not called", of a stand-in that nothing could call.
function neverHanded(
  { subject, asks, not, args, argText }: Assertion,
  spec: Block,
  file: SpecFile,
): Hollow | undefined {
  const standIn = subject.is === 'thing' ? subject.standIn : undefined;
  const denied = asks === 'called' && (not || (args.length > 0 && argText === '0'));
  if (!standIn || !denied || standIn.target !== 'none' || standIn.used || standIn.block !== spec)
    return undefined;
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

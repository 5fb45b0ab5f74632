import { isAssert } from '../../specs/model/rounds.js';
import type { Assertion, Reach, Step } from '../../specs/model/steps.js';
import { libraryObjectOf, type Value } from '../../specs/model/values.js';
import { assertsByName } from './judgement.js';
import { wantedOf } from '../../rendering/user-queries.js';
import { reachOf } from './used-reaches.js';

/** The words that specs ask for: in their queries, and of what they assert. */
export interface AskedData {
  texts: ReadonlySet<string>;
  patterns: readonly RegExp[];
  /** Properties of values which are not known, whatever they hold. */
  names: ReadonlySet<string>;
}

interface Noted {
  texts: Set<string>;
  patterns: RegExp[];
  names: Set<string>;
}

/** What some steps and reaches ask for; `anything`: of something in them, what it asks for can't be told. */
export function askedBy(steps: readonly Step[], reaches: readonly Reach[]): AskedData | 'anything' {
  const asked: Noted = { texts: new Set(), patterns: [], names: new Set() };
  const isKnown =
    reaches.every(({ args }) => args.every((each) => each.is !== 'function' && note(each, asked))) &&
    steps.every((step) =>
      isAssert(step)
        ? noteAssertion(step.assertion, asked)
        : step.kind !== 'unknown-call' || !step.discarded || !assertsByName(step),
    );
  return isKnown ? asked : 'anything';
}

/** Whether what is asked for may be one of the values that go by a name: `kiln.temp`. */
export function mayAskFor(
  { texts, patterns, names }: AskedData,
  given: { name: string; values: readonly (string | number)[] },
): boolean {
  if (names.has(given.name.slice(given.name.lastIndexOf('.') + 1))) return true;
  return given.values.some((value) => {
    const text = String(value).toLowerCase();
    return (
      [...texts].some((each) => each.includes(text) || (each.length >= SHORTEST && text.includes(each))) ||
      patterns.some((pattern) => String(value).search(pattern) >= 0)
    );
  });
}

const SHORTEST = 2;
// Matchers about looks, whatever they are given.
const OF_LOOKS: ReadonlySet<string | undefined> = new Set(['toHaveClass', 'toHaveStyle']);

function noteAssertion(assertion: Assertion, asked: Noted): boolean {
  const { asks, subject, subjectText, args, matcher } = assertion;
  if (asks === 'snapshot') return false;
  if (OF_LOOKS.has(matcher)) return true;
  const standIn = libraryObjectOf(subject)?.standIn;
  // What is handed to others is not what is shown, unless they stand for a component.
  if (standIn && standIn.target !== 'module') return true;
  const isKnown = args.filter((each) => !note(each, asked)).length === 0;
  if (standIn) return true;
  // That a text is not empty is something about each part of it.
  if (reachOf(assertion)) return isKnown && (subject.is !== 'read' || args.length > 0);
  if (args.length > 0) return isKnown;
  asked.texts.add(subjectText.toLowerCase());
  for (const word of subjectText.match(/[\w$]+/g) ?? []) asked.names.add(word);
  return true;
}

// Notes what a value asks for; false where that may be anything.
function note(value: Value, asked: Noted): boolean {
  switch (value.is) {
    case 'constant':
      if (typeof value.value === 'string' || typeof value.value === 'number')
        asked.texts.add(String(value.value).toLowerCase());
      return true;
    case 'pattern': {
      const wanted = wantedOf(value);
      if (wanted && 'pattern' in wanted) asked.patterns.push(wanted.pattern);
      return wanted !== undefined;
    }
    case 'object':
      return !value.open && [...value.entries.values()].every((each) => note(each, asked));
    case 'list':
      return !value.open && value.items.every((each) => note(each, asked));
    case 'read':
      asked.names.add(value.name);
      return value.than === undefined || note(value.than, asked);
    case 'thing':
    case 'global':
    case 'external':
      return true;
    case 'promise':
      return note(value.of, asked);
    case 'instance':
      return value.args?.every((each) => note(each, asked)) ?? false;
    // What a function asks for stands among the reaches and steps.
    case 'function':
    case 'given':
      return true;
    default:
      return false;
  }
}

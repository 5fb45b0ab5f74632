import type { Block } from '../../specs/model/blocks.js';
import { countRounds, roundsOf } from '../../specs/model/rounds.js';
import type { Assertion, StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf, textOfValue, type Value } from '../../specs/model/values.js';
import { counted } from '../../util/counted.js';
import { wordsOf } from '../../util/words.js';
import { assertsAbsence, assertsPresence, reachOf } from './used-reaches.js';

const MANY_ROUNDS = 4;
// No title names so many.
const TOO_MANY_STAGES = 7;

/** Whether a spec has several rounds of mixed matchers, under a title that does not say so. */
export function isOverloaded(spec: Block): boolean {
  if (spec.repeated) return false;
  const rounds = roundsOf(spec);
  const count = countRounds(rounds);
  return (
    count >= MANY_ROUNDS &&
    (count >= TOO_MANY_STAGES || !isFlow(spec.title.text)) &&
    isMixed(rounds.flatMap(({ asserts }) => asserts))
  );
}

// One matcher all along is one journey of focus, keyboard or value.
function isMixed(asserts: readonly StepOf<'assert'>[]): boolean {
  // The calls of one stand-in are another matter than those of the next.
  const counts = counted(
    asserts.map(({ assertion }) =>
      [question(assertion), libraryObjectOf(assertion.subject)?.standIn?.path, askedFor(assertion)].join(' '),
    ),
  );
  return Math.max(...counts.values()) < asserts.length * 0.8;
}

// Whether one thing is there is another matter than whether the next is: focus and values go from one to the next.
function askedFor(assertion: Assertion): string | undefined {
  const reach = reachOf(assertion);
  return reach?.asUser && question(assertion) === 'presence'
    ? reach.args.map(wordingOf).join(' ')
    : undefined;
}

function wordingOf(value: Value): string {
  if (value.is === 'pattern') return value.source.toLowerCase();
  if (value.is === 'object') return [...value.entries.values()].map(wordingOf).join(' ');
  return textOfValue(value)?.toLowerCase() ?? '';
}

// Two answers to one question are one matcher.
function question(assertion: Assertion): string {
  const { asks, matcher = '' } = assertion;
  if (assertsPresence(assertion) || assertsAbsence(assertion)) return 'presence';
  if (asks === 'truthy' || asks === 'falsy') return 'truth';
  return matcher === 'toBeEnabled' ? 'toBeDisabled' : matcher;
}

const SEQUENCE =
  /\b(?:then|after|afterwards|until|again|once|before|while|during|toggles?|toggling|cycles?|flow|journey|steps?|sequence|lifecycle|and back|round ?trip)\b|->|→|⇒/i;

/** Whether a title names two stages, or has a word of sequence. */
function isFlow(title: string): boolean {
  if (SEQUENCE.test(title)) return true;
  const [, ...later] = title.toLowerCase().split(/\band\b|[,&+/;]|\bor\b/);
  return later.some((part) => {
    const [first = '', second = ''] = wordsOf(part);
    const word = ADVERBS.has(first) ? second : first;
    return /(?:[^s]s|ing|ed)$/.test(word) || STAGES.has(word);
  });
}

const ADVERBS: ReadonlySet<string> = new Set(['also', 'should', 'can', 'not', 'does', 'will']);

// Verbs as they stand behind "should".
const STAGES: ReadonlySet<string> = new Set(
  'open close show hide add remove select deselect unselect check uncheck enable disable focus blur expand collapse start stop pause resume clear reset save cancel edit delete submit update change set unset mount unmount call emit render'.split(
    ' ',
  ),
);

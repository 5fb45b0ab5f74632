import { TEXT_READS } from '../libraries/expectations.js';
import { subjectOf } from '../rendering/subjects.js';
import type { Round } from '../specs/model/rounds.js';
import { eventAsked } from '../specs/model/asked.js';
import type { Assertion, StepOf } from '../specs/model/steps.js';
import { textOfValue, libraryObjectOf, type Value } from '../specs/model/values.js';
import { plural } from '../util/plural.js';
import type { FileContext } from '../checks/questions/context.js';
import { assertsAbsence, assertsPresence } from '../checks/questions/used-reaches.js';
import { actOf } from './act-words.js';
import { elementWords, filledTemplate, roleWord, valueWords } from './element-words.js';
import { wordsOf } from '../util/words.js';

/**
 * A title made from what a spec does and what it asserts: the outcome, and the act that leads to it.
 * Its words are those of the spec and the names of the component; undefined where these don't say enough.
 */
export function titleFromSteps(
  { acts, asserts }: Round,
  context: FileContext,
  /** What other rounds assert as well, which tells nothing of this one. */
  others: ReadonlySet<string> = new Set(),
): string | undefined {
  const all = outcomesOf(asserts, context);
  const own = all.filter((each) => !others.has(each));
  const outcomes = own.length > 0 ? own : all;
  const [first, second] = outcomes;
  if (first === undefined) return undefined;
  const outcome = outcomes.length === 2 && second ? `${first} and ${second}` : first;
  const act = acts
    .toReversed()
    .flatMap((step) => (step.kind === 'act' ? (actOf(step, context) ?? []) : []))
    .at(0);
  const title = act === undefined ? outcome : `${outcome} when ${act}`;
  return title.length <= LONGEST ? title : act === undefined ? undefined : `${first} when ${act}`;
}

/** What assertions say, in words, each once. */
export const outcomesOf = (asserts: readonly StepOf<'assert'>[], context: FileContext): string[] => [
  ...new Set(asserts.flatMap(({ assertion }) => outcomeOf(assertion, context) ?? [])),
];

const LONGEST = 90;

/** What an assertion says, as `shows the Fire button`; undefined where that is not plain. */
export function outcomeOf(assertion: Assertion, context: FileContext): string | undefined {
  const { matcher = '', not, asks } = assertion;
  // That a snapshot is the same says nothing of what is in it.
  if (asks === 'snapshot') return undefined;
  if (matcher.startsWith('toThrow')) return not ? 'does not throw' : 'throws';
  const subject = subjectOf(assertion, context.rendering);
  if (subject.is === 'stand-in') return callOf(assertion);
  const event = eventAsked(assertion);
  if (event !== undefined) return `${isDenied(assertion) ? 'does not emit' : 'emits'} ${event}`;
  const element = elementWords(subject, context);
  const value = valueWords(assertion.args.at(-1));
  const [yes, no] = OUTCOMES[matcher] ?? [];
  const form = not ? no : yes;
  if (form) return filledTemplate(form, element, value);
  if (assertsPresence(assertion) || assertsAbsence(assertion))
    return element && `${assertsAbsence(assertion) ? 'does not show' : 'shows'} ${element}`;
  return ofValue(assertion, element, value);
}

const OUTCOMES: Readonly<Record<string, readonly [string, string]>> = {
  toBeVisible: ['shows {element}', 'hides {element}'],
  toBeDisabled: ['disables {element}', 'leaves {element} enabled'],
  toBeEnabled: ['leaves {element} enabled', 'disables {element}'],
  toBeChecked: ['checks {element}', 'leaves {element} unchecked'],
  toBeRequired: ['requires {element}', 'does not require {element}'],
  toBeInvalid: ['marks {element} as invalid', 'leaves {element} valid'],
  toBeValid: ['leaves {element} valid', 'marks {element} as invalid'],
  toHaveFocus: ['focuses {element}', 'does not focus {element}'],
  toHaveTextContent: ['shows {value} in {element}', 'does not show {value} in {element}'],
  toHaveValue: ['gives {element} the value {value}', 'does not give {element} the value {value}'],
  toHaveDisplayValue: ['gives {element} the value {value}', 'does not give {element} the value {value}'],
  toHaveClass: ['gives {element} the class {value}', 'gives {element} no class {value}'],
  toHaveAccessibleName: ['names {element} {value}', 'does not name {element} {value}'],
};

function callOf({ not, matcher = '', args, argText, subjectPath }: Assertion): string | undefined {
  const name = subjectPath.filter((each) => !RECORDS.has(each)).at(-1);
  // A stand-in that is named after what it is says nothing of what is called.
  if (!name || /mock|spy|stub|fake|^fn$|handler|callback/i.test(name)) return undefined;
  if (not || matcher === 'notCalled' || (argText === '0' && matcher.endsWith('Times')))
    return `does not call ${name}`;
  const value = /With$/i.test(matcher) && args.length === 1 ? valueWords(args[0]) : undefined;
  return value === undefined ? `calls ${name}` : `calls ${name} with ${value}`;
}

// Properties of a stand-in itself.
const RECORDS: ReadonlySet<string> = new Set('mock calls called callCount calledOnce and should'.split(' '));

const isDenied = ({ asks, not }: Assertion): boolean =>
  not ? asks === 'truthy' || asks === 'defined' : asks === 'falsy' || asks === 'undefined' || asks === 'null';

// What is read off an element or a name: `wrapper.text()`, `button.disabled`, `kiln.temp`.
function ofValue(
  { subject, subjectPath, asks, not, args, matcher = '' }: Assertion,
  element: string | undefined,
  given: string | undefined,
): string | undefined {
  const last = lastName(subject, subjectPath);
  const is = not ? 'is not' : 'is';
  const value = asks === 'truthy' ? 'true' : asks === 'falsy' ? 'false' : asks === 'null' ? 'null' : given;
  if (last === undefined || value === undefined) return undefined;
  const truth = not ? undefined : value === 'true' || value === 'false' ? value === 'true' : undefined;
  if (last === 'disabled' && element && truth !== undefined)
    return truth ? `disables ${element}` : `leaves ${element} enabled`;
  if (last === 'checked' && element && truth !== undefined)
    return truth ? `checks ${element}` : `leaves ${element} unchecked`;
  if (TEXT_READS.has(last))
    return `${not ? 'does not show' : 'shows'} ${value}${element ? ` in ${element}` : ''}`;
  if (last === 'classes' || last === 'classList')
    return `gives ${element ?? 'it'} ${not ? 'no' : 'the'} class ${value}`;
  if (last === 'length' || asks === 'count')
    return countedElements(subject, value) ?? (element ? undefined : counted(subjectPath, value));
  if (
    subject.is !== 'read' ||
    args.length > 1 ||
    !SAYING.test(matcher) ||
    UNTOLD.has(last) ||
    /^\d+$/.test(last)
  )
    return undefined;
  const words = wordsOf(last);
  return `${(words[0] === 'is' && words.length > 1 ? words.slice(1) : words).join(' ')} ${is} ${value}`;
}

// `wrapper.attributes('title')` is about the title.
function lastName(subject: Value, path: readonly string[]): string | undefined {
  const last = path.at(-1);
  const named = last === 'attributes' || last === 'props' || last === 'getAttribute';
  return named && subject.is === 'read' ? textOfValue(subject.than) : last;
}

// What these are says nothing of a behaviour.
const UNTOLD: ReadonlySet<string> = new Set(['exists', 'tagName', 'nodeName', '[]']);

const SAYING = /^(?:to)?(?:be|equal|equals|eql|strictequal|deepequal|betruthy|befalsy|benull)/i;

function countedElements(subject: Value, value: string): string | undefined {
  const reach = libraryObjectOf(subject)?.reach;
  const role = reach?.by === 'role' ? textOfValue(reach.args[0]) : undefined;
  const count = Number(value);
  return role === undefined || Number.isNaN(count) ? undefined : `shows ${plural(count, roleWord(role))}`;
}

function counted(path: readonly string[], value: string): string | undefined {
  const name = path.filter((each) => each !== 'length').at(-1);
  return name && /s$/.test(name) && /^\d+$/.test(value)
    ? `has ${value} ${wordsOf(name).join(' ')}`
    : undefined;
}

import type { Block } from '../../specs/model/blocks.js';
import { isAssert, stands } from '../../specs/model/rounds.js';
import type { StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf } from '../../specs/model/values.js';
import type { Place } from '../../finding.js';
import { inFile, type FileContext } from './context.js';
import { assertsByName } from './judgement.js';

/** What a title promises, and no assertion of its spec speaks of. */
export interface ToldOutcome {
  told: string;
  /** What nothing is asserted of, as messages say it. */
  done: string;
  of: 'promise';
  place: Place;
}

interface Promised {
  /** The words of a title that promise it. */
  told: RegExp;
  /** What speaks of it, in what is asserted or asked for. */
  by: RegExp;
  what: string;
  /** It is one of what is asserted of a call: only where all that the spec asserts is calls. */
  ofCalls?: true;
}

const CALLED = /\b(?:calls?|called|invokes?|invoked|emits?|emitted)\b/.source;

const PROMISES: readonly Promised[] = [
  {
    told: /\b(?:disables?|enables) (?:[\w'"-]+ ){0,3}(?:button|input|field|textbox|checkbox|radio|select|switch|link|option|control)s?\b/i,
    by: /disabl|enabl|read-?only|inert|pointer-?events|not\.|not\(|false|true|attr|class/i,
    what: 'whether anything is disabled',
  },
  {
    told: /\b(?:sorts|sorted|reorders|in (?:the )?(?:right|correct|given|same|alphabetical|ascending|descending|reversed?) order)\b/i,
    by: /sort|order|\[|\bat\(|nth|first|last|equal|compare|index|asc|desc|children|next|prev|call|above|below/i,
    what: 'any order',
  },
  {
    told: new RegExp(
      `${CALLED}.*\\bwith\\b(?! (?:no|out|the mouse|a mouse|mouse|keyboard|the keyboard|enter|space|escape|esc|tab|the user|a delay|delay)\\b)`,
      'i',
    ),
    by: /with|calls|args|arg\(|payload|emitted\(|returned|\[\d/i,
    what: 'what the call was made with',
    ofCalls: true,
  },
  {
    told: new RegExp(`${CALLED}.*\\b(?:once|twice|(?:two|three|\\d+) times)\\b`, 'i'),
    by: /times|once|twice|thrice|count|length|calls\b|number|emitted/i,
    what: 'how often it is called',
    ofCalls: true,
  },
];

// What comes with a condition is arranged, or done: no promise.
const CONDITION =
  /\b(?:when|whenever|if|while|after|once (?=\w)|on|upon|until|unless|before|for|where|by|whose|that|which|even|although|as soon|given|in case|via|from|without)\b/i;
const DENIED = /\b(?:not|no|never|nothing|cannot)\b|n['’]t\b/i;

/** “disables the button”, where all that the spec asserts is in sight, and nothing of it speaks of that. */
export function promisedOnly(spec: Block, context: FileContext): ToldOutcome | undefined {
  const promised = promiseOf(spec.title.text);
  const found = PROMISES.flatMap((promise) => {
    const told = promise.told.exec(promised);
    return told ? [{ ...promise, told: told[0] }] : [];
  })[0];
  const asserts = found ? spec.steps.filter(isAssert) : [];
  const [first] = asserts;
  if (!found || !first || !asserts.every((step) => isPlain(step, found.ofCalls)) || mayAssert(spec))
    return undefined;
  return found.by.test(saidIn(spec, asserts, context))
    ? undefined
    : { told: found.told, done: found.what, of: 'promise', place: inFile(context, first.place) };
}

// What a title says up to its first condition; nothing where it denies something.
function promiseOf(title: string): string {
  if (DENIED.test(title)) return '';
  return title.split(CONDITION)[0] ?? '';
}

// An assertion about elements, or about a call, that is written in the spec.
function isPlain({ via, assertion: { subject, asks } }: StepOf<'assert'>, ofCalls = false): boolean {
  const object = libraryObjectOf(subject);
  const isCall = object?.standIn !== undefined && asks === 'called';
  return !via && asks !== 'snapshot' && (ofCalls ? isCall : object?.reach !== undefined);
}

/** Whether a call that can't be read may assert something: what a helper does on the way is not that, unless it says so. */
export const mayAssert = ({ steps }: Block): boolean =>
  steps.some((step) => assertsByName(step) || (step.kind === 'unknown-call' && step.discarded && !step.via));

// The statements that assert, and all that is asked for elements.
function saidIn(
  spec: Block,
  asserts: readonly StepOf<'assert'>[],
  { source: { text } }: FileContext,
): string {
  const statements = spec.statements.filter((each) => asserts.some((step) => stands(step, each)));
  const reaches = spec.steps.flatMap((step) => (step.kind === 'reach' && !step.via ? [step] : []));
  return [...statements, ...reaches.map(({ place }) => place)]
    .map(({ start, end }) => text.slice(start, end))
    .join('\n');
}

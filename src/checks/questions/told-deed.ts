import type { Block } from '../../specs/model/blocks.js';
import { eventOf } from '../../specs/model/acts.js';
import { ANY_KEY, pressedKeys } from '../../specs/model/pressed-keys.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Assertion, Step, StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf, textOfValue } from '../../specs/model/values.js';
import { sharesWord, spacedOut } from '../../util/words.js';
import type { Place } from '../../finding.js';
import { inFile, type FileContext } from './context.js';
import { mayBringAny } from './fired.js';
import { throwsOnMissing } from './judgement.js';
import { withHooksBefore } from './order.js';
import { calledAllTheSame, calledBeside, nothingDenied, otherCallee, type ToldCall } from './told-call.js';
import { mayAssert, promisedOnly, type ToldOutcome } from './told-outcome.js';
import { assertsAbsence } from './used-reaches.js';

/** What a title says is done or holds, and what the spec does or asserts in its place. */
interface ToldDeed {
  told: string;
  done: string;
  /** What kind of thing it is. */
  of: 'key' | 'gesture' | 'outcome' | 'absence' | 'call' | 'way' | 'looks' | 'nothing';
  place: Place;
}

/** Where a title and the body of its spec speak of different keys, gestures or outcomes; undefined where they agree, or where that can't be told. */
export function otherDeed(spec: Block, context: FileContext): ToldDeed | ToldCall | ToldOutcome | undefined {
  const steps = withHooksBefore(spec).flatMap((block) => block.steps);
  const undone = nothingDenied(spec, context) ?? nothingDone(spec, steps, context) ?? noLooks(spec, context);
  if (undone) return undone;
  if (steps.some((step) => step.kind === 'unknown-call' && step.discarded)) return undefined;
  const acts = steps.filter((step): step is StepOf<'act'> => step.kind === 'act');
  return (
    otherKey(spec, acts, context) ??
    otherGesture(spec, acts, context) ??
    otherOutcome(spec, context) ??
    otherAbsence(spec, context) ??
    onlyCalls(spec, context) ??
    otherCallee(spec, context) ??
    calledBeside(spec, context) ??
    calledAllTheSame(spec, context) ??
    noWay(spec, context) ??
    promisedOnly(spec, context)
  );
}

// How something looks, as titles say it: “applies theme styles correctly”, “has the right colour”.
const LOOKS =
  /\b(?:appl(?:y|ies)|has|have|uses?|gets?|sets?) (?:[\w'"-]+ ){0,4}(?:styl(?:es?|ing)|colou?rs?|css)\b/i;
const OF_LOOKS =
  /styl|class|colou?r|theme|css|variant|background|border|shadow|font|opacity|hidden|visible|light|dark|snapshot|screenshot|\b(?:red|green|blue|yellow|orange|purple|white|black|gr[ae]y|transparent)\b|#[\da-f]{3,8}\b/i;

// “applies theme styles”, where all that is asserted is of elements, and nothing of what they look like.
function noLooks(spec: Block, context: FileContext): ToldDeed | undefined {
  const told = DENIED.test(spec.title.text) ? null : LOOKS.exec(spec.title.text);
  const asserts = spec.steps.filter(isAssert);
  const [first] = asserts;
  const isBlind = asserts.every(({ assertion: { subject, matcher, subjectText, argText } }) => {
    const by = libraryObjectOf(subject)?.reach?.by;
    const isByLooks = by === 'class' || by === 'selector' || by === undefined;
    return !isByLooks && !OF_LOOKS.test([matcher, subjectText, argText].join(' '));
  });
  return told && first && isBlind && !mayAssert(spec)
    ? { told: told[0], done: '', of: 'looks', place: inFile(context, first.assertion.place) }
    : undefined;
}

// What a user does, as titles say it: “clicking the lid opens it”, “when the lid is clicked”, “allows users to select a kiln”.
const DONE =
  /^(?:it )?(?:clicking|pressing|hovering|typing|selecting|submitting|dragging|toggling)\b|\b(?:when|after|upon|by) (?:[\w'"-]+ ){0,4}(?:click(?:s|ed|ing)|presses|pressing|hovers|typing|submits)\b|\b(?:allows?|lets?|enables?|permits?) (?:the |a )?users? (?:to )?(?:click|press|type|select|submit|drag|toggle|search)\b/i;
const UNDONE = /\b(?:not|no|never|without|before|until|unless|only|clickable)\b|n['’]t\b/i;

// “clicking the lid opens it”, in a spec that renders, asserts, and does nothing.
function nothingDone(spec: Block, steps: readonly Step[], context: FileContext): ToldDeed | undefined {
  const told = UNDONE.test(spec.title.text) ? null : DONE.exec(spec.title.text);
  const asserts = spec.steps.filter(isAssert);
  const [first] = asserts;
  const isStill = !steps.some((step) => (ACTING.has(step.kind) && !onlyShows(step)) || callsMethod(step));
  const isPlain = asserts.every(({ assertion }) => libraryObjectOf(assertion.subject)?.reach !== undefined);
  const isInside = context.file.insides.some(({ block }) => block === spec);
  const isRendered = steps.some((step) => step.kind === 'render' || onlyShows(step));
  return told && first && isStill && isPlain && !isInside && isRendered
    ? { told: told[0], done: '', of: 'nothing', place: inFile(context, first.assertion.place) }
    : undefined;
}

// A method of something outside of the spec, but those that tell a stand-in what to give.
const callsMethod = (step: Step): boolean =>
  step.kind === 'use' &&
  step.use.how === 'call' &&
  step.use.binding.kind !== 'import' &&
  /^(?!mock)./.test(step.use.path.at(-1) ?? '');

// A helper out of sight that goes by what it does: `renderBoard()`, `waitForLoadingToFinish()`.
const onlyShows = (step: Step): boolean =>
  step.kind === 'unknown-call' && /^(?:render|wait)(?:[A-Z]|$)/.test(step.name);

const ACTING: ReadonlySet<Step['kind']> = new Set([
  'act',
  'unknown-call',
  'unmount',
  'clock',
  'lasting',
] as const);

// Words of a title for a key, and the key as `KeyboardEvent.key` names it.
const KEYS: readonly (readonly [RegExp, string])[] = [
  [/\b(?:escape|esc)\b/i, 'Escape'],
  [/\benter\b(?= key|\)|$| is| press)/i, 'Enter'],
  [/\bspace(?:bar)?\b(?= key|\)|$| is| press)/i, ' '],
  [/\barrow ?down\b|\bdown arrow\b/i, 'ArrowDown'],
  [/\barrow ?up\b|\bup arrow\b/i, 'ArrowUp'],
  [/\barrow ?left\b|\bleft arrow\b/i, 'ArrowLeft'],
  [/\barrow ?right\b|\bright arrow\b/i, 'ArrowRight'],
];
const ANY_OF_THEM =
  /\b(?:esc(?:ape)?|enter|space|spacebar|tab|home|end|backspace|delete|down|up|left|right)\b/gi;
// “any key but Enter”
const OTHERS = /\b(?:not|no|other|except|unless|but|without|ignores?|any)\b|n['’]t\b/i;

function otherKey(
  { title: { text } }: Block,
  acts: readonly StepOf<'act'>[],
  context: FileContext,
): ToldDeed | undefined {
  const only = KEYS.find(([pattern]) => pattern.test(text));
  const named = new Set(text.match(ANY_OF_THEM)?.map((word) => word.toLowerCase()));
  if (!only || named.size > 1 || OTHERS.test(text)) return undefined;
  const pressing = acts.filter((act) => /^(?:keyboard|type|key(?:down|up|press))$/i.test(eventOf(act)));
  const keys = pressing.flatMap(pressedKeys);
  const [first] = pressing;
  const other = KEYS.find(([, key]) => keys.includes(key));
  if (!first || !other || keys.includes(ANY_KEY) || keys.includes(only[1])) return undefined;
  return {
    told: shownKey(only[1]),
    done: shownKey(other[1]),
    of: 'key',
    place: inFile(context, first.place),
  };
}

const shownKey = (key: string): string => (key === ' ' ? 'Space' : key);

// Words of a title for what a user does, and the events that may be that; in capitals they name a setting.
const GESTURES: readonly { word: RegExp; name: string; events: RegExp }[] = [
  { word: /\b[Dd]ouble[- ]?click(?:s|ed|ing)?\b/, name: 'double click', events: /dbl|double|pointer/i },
  {
    word: /\b(?:when|on|after|if|by) (?:\w+ ){0,3}hover(?:s|ed|ing)?\b/,
    name: 'hover',
    events: /hover|mouse|pointer/i,
  },
  {
    word: /\b(?:when|on|after|if|by) (?:\w+ ){0,3}click(?:s|ed|ing)?\b/,
    name: 'click',
    events: /click|press|pointer|mouse|submit|select|check|toggle|tap|upload/i,
  },
];

// “clicking enter” is no click.
const CLICKED_KEY =
  /\b(?:click|tap|hit)\w*\s+(?:(?:the|on)\s+)*['"“`{[<]?(?:enter|return|space(?:bar)?|esc(?:ape)?|tab|backspace|delete|home|end|page|arrow|up|down|left|right)\b(?!\s+(?:button|link|icon|tab|chip|menu|option))/i;

function otherGesture(
  { title: { text } }: Block,
  acts: readonly StepOf<'act'>[],
  context: FileContext,
): ToldDeed | undefined {
  const told = GESTURES.find(({ word }) => word.test(text));
  const gestures = acts.filter(({ by }) => by !== 'program');
  const [first] = gestures;
  if (!told || !first || acts.length > gestures.length || CLICKED_KEY.test(text)) return undefined;
  if (gestures.some((act) => told.events.test(eventOf(act)) || mayBringAny(act))) return undefined;
  return { told: told.name, done: eventOf(first), of: 'gesture', place: inFile(context, first.place) };
}

const DENIED =
  /(?:\bnot|n['’]t|\bnever) (?:be )?(?:render|show|display|appear|visible|shown|rendered|displayed)\b(?!.*\b(?:as|more|again|until|other|twice|after|but)\b)/i;
const CONDITION = /\b(?:if|when|while|although|where|that)\b/i;

// “does not show the lid”, where all that is asserted is that something is there.
function otherOutcome(spec: Block, context: FileContext): ToldDeed | undefined {
  const { text } = spec.title;
  const denied = DENIED.exec(text);
  if (!denied || CONDITION.test(text.slice(0, denied.index))) return undefined;
  return whereAllAssert(saysThere, denied, 'outcome', spec, context);
}

const SHOWN =
  /^(?:it )?(?:should |must |will )?(?:renders?|shows?|displays?|ha(?:s|ve)|includes?|contains?)\b(?!.*\b(?:not?|non|nothing|none|only|without|until|unless|instead|hidden|hides?|empty|never|but|than|no longer|neither|removes?|disappears?|either|null|undefined|disabled|off)\b|.*n['’]t\b)/i;

// “shows the lid”, where all that is asserted is that something is not there; a query that throws says that it is.
const otherAbsence = (spec: Block, context: FileContext): ToldDeed | undefined =>
  spec.steps.some(throwsOnMissing)
    ? undefined
    : whereAllAssert(assertsAbsence, SHOWN.exec(spacedOut(spec.title.text)), 'absence', spec, context);

// What a title says besides showing may be the call.
const SHOWS =
  /^(?:it )?(?:should |must |will )?(?:renders?|shows?|displays?)\b(?!.*\b(?:and|then|but|disabled|calls?|trigger\w*|emits?|fires?|sends?|click\w*|press\w*|with|by|via)\b)/i;
// Functions that show something by being called, and stand-ins of components.
const SHOWING =
  /show|display|render|open|launch|alert|toast|notif|snack|modal|dialog|message|print|log|warn|error|workspace/i;
const OF_COMPONENT = /(?:^|\W)[A-Z]\w*[a-z]/;

const isPlainCall = ({ asks, subjectText }: Assertion): boolean =>
  asks === 'called' && !SHOWING.test(subjectText) && !OF_COMPONENT.test(subjectText);

// “shows the lid”, where a user acts and all that is asserted is that a stand-in was called.
function onlyCalls(spec: Block, context: FileContext): ToldDeed | undefined {
  const acts = spec.steps.filter(
    (step): step is StepOf<'act'> => step.kind === 'act' && step.by !== 'program',
  );
  // “renders as a button”, where the button is clicked.
  const isReached = acts.some(({ reach }) =>
    reach?.args.some((arg) => sharesWord(textOfValue(arg) ?? '', spec.title.text)),
  );
  return acts.length > 0 && !isReached
    ? whereAllAssert(isPlainCall, SHOWS.exec(spec.title.text), 'call', spec, context)
    : undefined;
}

// “navigates to next week” goes no way but within what is shown.
const LEADS_AWAY =
  /^(?:it )?(?:should |must |will )?(?:\w+ly )?(?:redirects?\b|navigates? (?:away|back)\b|navigates? to\b(?! (?:an? |the )?(?:next|prev(?:ious)?|first|last|today|top|bottom|end|start|selected|item|option|day|week|month|year|slide|step|row|cell)\b))/i;
const WAY =
  /navig|redirect|(?:\b|mock|spy)[lL]ocation\b|href|push|replace|rout|url|path|hist|link|assign|open|go(?:to)?\b|page|tab|focus|active|current|select|visit|screen|request|fetch/i;

const isOfNoWay = (assertion: Assertion): boolean =>
  !saysThere(assertion) && !WAY.test(`${assertion.subjectText} ${assertion.argText}`);

// “redirects to the rack”, where nothing is asserted that has to do with where a user is.
const noWay = (spec: Block, context: FileContext): ToldDeed | undefined =>
  whereAllAssert(isOfNoWay, LEADS_AWAY.exec(spec.title.text), 'way', spec, context);

// What a title tells, where all assertions of the spec are such as say nothing of it, and nothing else may.
function whereAllAssert(
  isOther: (assertion: Assertion) => boolean,
  told: RegExpExecArray | null,
  of: ToldDeed['of'],
  spec: Block,
  context: FileContext,
): ToldDeed | undefined {
  if (!told) return undefined;
  const asserts = spec.steps.filter(isAssert);
  const [first] = asserts;
  if (!first || spec.steps.some(mayDeny)) return undefined;
  return asserts.every(({ assertion }) => isOther(assertion))
    ? { told: told[0], done: '', of, place: inFile(context, first.assertion.place) }
    : undefined;
}

// An element is there; what else may be true is not known to be one.
const saysThere = ({ asks, not, subject }: Assertion): boolean =>
  !not && (asks === 'there' || asks === 'truthy') && libraryObjectOf(subject)?.reach !== undefined;

const mayDeny = (step: Step): boolean => step.kind === 'unknown-call' || step.kind === 'throw';

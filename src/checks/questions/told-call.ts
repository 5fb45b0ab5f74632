import type { Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Assertion, StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf } from '../../specs/model/values.js';
import { wordsOf } from '../../util/words.js';
import type { Place } from '../../finding.js';
import { inFile, type FileContext } from './context.js';
import { standInName } from './stand-in-calls.js';

/** What a title says is called, or is not, and what the spec asserts of calls in its place. */
export interface ToldCall {
  told: string;
  done: string;
  of: 'callee' | 'denied' | 'undone' | 'beside' | 'called';
  place: Place;
}

// A function by its name, as `onFire`.
const FUNCTION = /\b[a-z]+[A-Z]\w*\b/g;
const CALLS = /\b(?:calls?|called|calling|invokes?|invoked)\b/i;

/** “calls onFire”, where `onFire` has a stand-in, and all calls that are asserted are those of another, or that it is not called. */
export function otherCallee(spec: Block, context: FileContext): ToldCall | undefined {
  const { text } = spec.title;
  const told = CALLS.test(text) ? (text.match(FUNCTION) ?? []) : [];
  const [only] = told;
  if (only === undefined || told.length > 1 || !hasStandIn(only, context)) return undefined;
  const calls = spec.steps.filter(isAssert).flatMap(({ assertion }) => {
    const standIn = libraryObjectOf(assertion.subject)?.standIn;
    return standIn ? [{ assertion, place: assertion.place, name: standInName(standIn, context) }] : [];
  });
  const [first] = calls;
  const own = calls.filter(({ name }) => calleeName(name) === only.toLowerCase());
  // “calls onFire”, where all that is asserted of it is that it is not called.
  if (
    own[0] &&
    !DENYING.test(text) &&
    own.every(({ assertion }) => assertion.not && assertion.asks === 'called')
  )
    return { told: only, done: '', of: 'denied', place: inFile(context, own[0].place) };
  // Wherever the body has that name, it may be what is asserted.
  const body = spec.statements.map(({ start, end }) => context.source.text.slice(start, end)).join();
  if (!first || body.toLowerCase().includes(only.toLowerCase())) return undefined;
  // `onShelfLidOpen` may be the one that is called onLidOpen.
  const words = wordsOf(only);
  if (calls.some(({ name }) => words.every((word) => wordsOf(name).includes(word)))) return undefined;
  return {
    told: only,
    done: first.name,
    of: 'callee',
    place: inFile(context, first.place),
  };
}

function hasStandIn(name: string, context: FileContext): boolean {
  const { standIns, imports, replacements } = context.file;
  const from = imports.get(name)?.specifier;
  return (
    replacements.some(({ specifier }) => specifier === from) ||
    standIns.some((each) => calleeName(standInName(each, context)) === name.toLowerCase())
  );
}

// `mockSaveLid`, `api.saveLid` and `saveLidSpy` stand for saveLid.
const calleeName = (name: string): string =>
  (name.split('.').at(-1) ?? '')
    .replace(/^(?:mock(?:ed)?|spy|stub)(?=[A-Z])|(?:Mock|Spy|Stub)$/g, '')
    .toLowerCase();

const DENYING = /\b(?:not|no|never|only|without|unless|until)\b|n['’]t\b/i;

const UNDONE =
  /(?:\b(?:does|do|did|should|must|will) not|\b(?:does|do|did|should|must|will)n['’]t|\bnever) (?:call|fetch|send|request|save|submit|dispatch|emit|trigger|invoke|launch)\b/i;
const OF_CALLS = /emit|call|request|fetch|history|mock|spy|log/i;

/** “does not fetch the cones”, where the file has stand-ins, and nothing is asserted of what was called. */
export function nothingDenied(spec: Block, context: FileContext): ToldCall | undefined {
  const { standIns, replacements } = context.file;
  const told = UNDONE.exec(spec.title.text);
  const asserts = spec.steps.filter(isAssert);
  const [first] = asserts;
  if (!told || !first || standIns.length + replacements.length === 0) return undefined;
  const isSilent =
    asserts.every(({ assertion }) => saysNoCall(assertion)) &&
    !spec.steps.some((step) => step.kind === 'unknown-call' && MAY_ASSERT.test(step.name));
  return isSilent
    ? { told: told[0], done: '', of: 'undone', place: inFile(context, first.assertion.place) }
    : undefined;
}

const NOT_CALLED = /(?:\b_?not_?|\b_?never_?|n['’]t) (?:be |been |get )?called\b|\bnot call\b/i;
// When, how often, or with what: another call may well be there.
const NOT_ALWAYS =
  /\b(?:until|unless|only|but|before|again|once|twice|times?|more|with|without|yet|directly|immediately|instead|and|then)\b/i;

/** “is not called when the cone is unclear”, where all calls that the spec asserts are there. */
export function calledAllTheSame(spec: Block, context: FileContext): ToldCall | undefined {
  const { text } = spec.title;
  const told = NOT_ALWAYS.test(text) ? null : NOT_CALLED.exec(text);
  const asserts = told ? spec.steps.filter(isAssert) : [];
  const calls = asserts.filter(({ assertion }) => assertion.asks === 'called');
  const [first] = calls;
  const isThere = calls.every(
    ({ assertion: { not, args, subject }, maybe, guard }) =>
      !not && !maybe && !guard && args.length === 0 && libraryObjectOf(subject)?.standIn !== undefined,
  );
  return told && first && isThere
    ? { told: told[0], done: '', of: 'called', place: inFile(context, first.assertion.place) }
    : undefined;
}

const MAY_ASSERT = /expect|assert|verify|check|ensure|should/i;

const saysNoCall = ({ asks, subject, subjectText, argText }: Assertion): boolean =>
  asks !== 'called' &&
  libraryObjectOf(subject)?.standIn === undefined &&
  !OF_CALLS.test(subjectText + argText);

const ONLY_SHOWS =
  /^(?:it )?(?:should |must |will )?(?:renders?|shows?|displays?)\b(?!.*\b(?:call|click|press|submit|open|close|save|trigger|emit|fire|toggle|then|when|after|on|if|once|upon|handle|select|chang|updat|navigat|launch|send|work|delet|remov|add|generat|produc|creat|build|pass|load|fetch|retriev|search|filter|allow|provid)\w*)/i;

/** “shows the lid”, where the spec acts as well, and asserts the call that comes of it. */
export function calledBeside(spec: Block, context: FileContext): ToldCall | undefined {
  const told = ONLY_SHOWS.exec(spec.title.text);
  const acted = spec.steps.findIndex((step) => step.kind === 'act' && step.by !== 'program');
  if (!told || acted < 0) return undefined;
  const isCall = ({ assertion }: StepOf<'assert'>): boolean => assertion.asks === 'called' && !assertion.not;
  // What is shown was asserted before: what comes of the act is another matter.
  const isShown = spec.steps.slice(0, acted).some(isAssert);
  const call = spec.steps.slice(acted).filter(isAssert).find(isCall);
  return call && isShown
    ? { told: told[0], done: '', of: 'beside', place: inFile(context, call.assertion.place) }
    : undefined;
}

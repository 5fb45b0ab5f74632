import type { Block } from '../../specs/model/blocks.js';
import { unquoted } from '../../specs/model/leaves.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Assertion } from '../../specs/model/steps.js';
import { libraryObjectOf, type Value } from '../../specs/model/values.js';
import { sharesWord, stemsOf } from '../../util/words.js';
import type { FileContext } from './context.js';
import { inFile } from './context.js';
import type { Place } from '../../finding.js';

/** A value that a title gives, and another one that the spec asserts in its place. */
interface ToldValue {
  told: string;
  asserted: string;
  place: Place;
}

/** The value in a title that the spec's only assertion contradicts; undefined where they agree, or where that can't be told. */
export function contradicted(spec: Block, context: FileContext): ToldValue | undefined {
  const [step, ...more] = spec.steps.filter(isAssert);
  if (!step || more.length > 0 || step.via || step.assertion.not) return undefined;
  const asserted = literalIn(step.assertion);
  const told = valueIn(spec.title.text);
  if (asserted === undefined || told === undefined) return undefined;
  const isNumber = (text: string): boolean => /^-?\d+(?:\.\d+)?$/.test(text);
  if (isNumber(told) !== isNumber(asserted)) return undefined;
  if (sharesWord(told, asserted) || saysAll(spec.title.text, asserted)) return undefined;
  // What stands anywhere else in the file may well be what is meant, under another name.
  if (standsOutsideTitles(told, context)) return undefined;
  return { told, asserted, place: inFile(context, step.assertion.place) };
}

const NAMED_VALUE = /\b([A-Za-z_]\w*)\s*=\s*\{?(true|false|-?\d+(?:\.\d+)?|"[^"]*"|'[^']*')/g;

/** A value that a title gives by its name, as in “open=true”, where the spec gives another one by that name. */
export function givenOtherwise(spec: Block, context: FileContext): ToldValue | undefined {
  const told = [...spec.title.text.matchAll(NAMED_VALUE)];
  const literals = spec.statements.flatMap((statement) => statement.literals);
  for (const [text, name = '', value = ''] of told) {
    if (told.filter((each) => each[1] === name).length > 1) continue;
    const given = literals.flatMap((each) => {
      if (each.as === 'flag' && each.text === name) return [{ text: 'true', at: each }];
      return each.of === name && each.as !== 'markup' ? [{ text: each.text, at: each }] : [];
    });
    const [first] = given;
    if (first && given.every((each) => unquoted(each.text) !== unquoted(value)))
      return { told: text, asserted: `${name}=${first.text}`, place: inFile(context, first.at) };
  }
  return undefined;
}

/**
 * Words that a title has in quotes, as in “defaults to 'main store'”, and that nothing in the file says but titles, where all
 * that the spec asserts is written out.
 */
export function quotedNowhere(spec: Block, context: FileContext): string | undefined {
  const asserts = spec.steps.filter(isAssert);
  const isWritten = asserts.every(
    ({ assertion, via }) => !via && assertion.args.every(isWrittenOut) && isReachWritten(assertion.subject),
  );
  if (asserts.length === 0 || !isWritten) return undefined;
  const said = new Set(spec.statements.flatMap(({ words }) => [...words].flatMap(stemsOf)));
  return [...spec.title.text.matchAll(IN_QUOTES)]
    .flatMap((match) => match.slice(1).find((group) => group !== undefined) ?? [])
    .find((quoted) => {
      const stems = stemsOf(quoted);
      return (
        /\w \w/.test(quoted) &&
        !OF_COMPONENT.test(quoted) &&
        !stems.some((stem) => said.has(stem)) &&
        !standsOutsideTitles(quoted, context)
      );
    });
}

const isWrittenOut = (value: Value): boolean => value.is === 'constant' || value.is === 'pattern';

// All that its element is asked by.
function isReachWritten(subject: Value): boolean {
  const reach = libraryObjectOf(subject)?.reach;
  if (!reach) return false;
  return reach.args.every(
    (arg) =>
      isWrittenOut(arg) ||
      (arg.is === 'object' && !arg.open && [...arg.entries.values()].every(isWrittenOut)),
  );
}

// What `expect` compares with in the end: the value of an attribute, not its name.
function literalIn({ args, matcher = '' }: Assertion): string | undefined {
  const last = args.at(-1);
  if (last?.is !== 'constant') return undefined;
  if (args.length === 1 && /Attribute|Property|called|length/i.test(matcher)) return undefined;
  const { value } = last;
  return typeof value === 'number' || (typeof value === 'string' && value !== '') ? String(value) : undefined;
}

const GIVING =
  /(?:=|\b(?:class(?:es)?|be|is|are|returns?|equals?|to|of|as|adds?|contains?|ha(?:s|ve)|uses?|shows?|displays?|renders?|value|text|label|name|title|with))\s*(?:an? |the )?$/i;
const IN_QUOTES = /"([^"]+)"|“([^”]+)”|`([^`]+)`|(?<!\w)'([^']+)'(?!\w)/g;
const NUMBER_AT_END = /(?<![\w.-])(-?\d+(?:\.\d+)?)\W*$/g;

// “… when the size is "large"”: what is arranged, not what comes of it.
const CONDITION = /\b(?:when|whenever|if|while|unless|once|where|after|before|for)\b[^,]*(?<!=)$/i;

// “the "size" prop” names something; it is no value.
const OF_COMPONENT = /\b(?:prop|slot|event)s?\b/i;

// The one value that a title gives: in quotes, or a number at its end.
function valueIn(title: string): string | undefined {
  const inQuotes = [...title.matchAll(IN_QUOTES)];
  const found = inQuotes.length > 0 ? inQuotes : [...title.matchAll(NUMBER_AT_END)];
  const given = found.filter(
    ({ index }) => GIVING.test(title.slice(0, index)) && !CONDITION.test(title.slice(0, index)),
  );
  const [only, ...more] = given.flatMap((match) => match.slice(1).find((group) => group !== undefined) ?? []);
  const isName = only !== undefined && (OF_COMPONENT.test(only) || only.trim() !== only);
  return more.length === 0 && !isName ? only : undefined;
}

const saysAll = (title: string, asserted: string): boolean =>
  stemsOf(asserted).every((word) => stemsOf(title).includes(word));

function standsOutsideTitles(told: string, { file, source: { text } }: FileContext): boolean {
  const count = (within: string): number => within.toLowerCase().split(told.toLowerCase()).length - 1;
  const titles = file.blocks.reduce(
    (sum, { titlePlace }) => sum + (titlePlace ? count(text.slice(titlePlace.start, titlePlace.end)) : 0),
    0,
  );
  return count(text) > titles;
}

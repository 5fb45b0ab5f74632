import type { Node } from 'oxc-parser';
import { calledName, literalText, propertyName } from '../syntax/tree.js';

// Functions and methods that give the words of a language for a key, by the names that packages for it use.
const TRANSLATORS: ReadonlySet<string> = new Set(
  't $t tc $tc __ _t gettext translate instant formatMessage getTranslation'.split(' '),
);

// Those of a project's own or of its framework's: `getCoreTranslation('save')`.
const IS_TRANSLATOR = /^(?!use)\w*translat(?:e|ed|ion)$/i;

/** What a translator is asked for: a key, and the words that are given for where nothing translates. */
export interface Says {
  key?: string;
  words?: string;
}

/** Whether a call is one of a translator, by the name of what is called. */
export function isTranslatorCall(node: Extract<Node, { type: 'CallExpression' }>): boolean {
  const name = calledName(node);
  return name !== undefined && (TRANSLATORS.has(name) || IS_TRANSLATOR.test(name));
}

/** What a call of a translator asks for; undefined for all other calls, and where it is not written out. */
export function translationOf(node: Extract<Node, { type: 'CallExpression' }>): Says | undefined {
  const [first, second] = node.arguments;
  if (!isTranslatorCall(node) || !first) return undefined;
  const name = calledName(node);
  const key = literalText(first);
  if (key !== undefined) return { key, words: second && wordsOf(second) };
  // `formatMessage({ id, defaultMessage })`
  const words = name === 'formatMessage' ? wordsOf(first) : undefined;
  const id = name === 'formatMessage' ? writtenAs(first, 'id') : undefined;
  return words === undefined && id === undefined ? undefined : { key: id, words };
}

/** What packages call the words that are given for where nothing translates. */
export const GIVEN_FOR_NOTHING: readonly string[] = ['defaultMessage', 'defaultValue', 'default', '_'];

const wordsOf = (given: Node): string | undefined =>
  literalText(given) ?? firstOf(GIVEN_FOR_NOTHING, (name) => writtenAs(given, name));

/** The first text that there is for some names. */
export function firstOf(
  names: readonly string[],
  text: (name: string) => string | undefined,
): string | undefined {
  for (const name of names) {
    const found = text(name);
    if (found !== undefined) return found;
  }
  return undefined;
}

// The text that an object has written out for a property.
function writtenAs(given: Node, name: string): string | undefined {
  for (const each of given.type === 'ObjectExpression' ? given.properties : [])
    if (each.type === 'Property' && propertyName(each.key, each.computed) === name)
      return literalText(each.value);
  return undefined;
}

/** What a message asks for, by the texts that are written out for its keys; undefined where none is. */
export function saysBy(text: (key: string) => string | undefined): Says | undefined {
  const says = { key: text('id'), words: text('defaultMessage') };
  return says.key === undefined && says.words === undefined ? undefined : says;
}

/** What a component of messages asks for: `<FormattedMessage id="save" defaultMessage="Save" />`, by its props that are texts. */
export const messageOf = (name: string, given: (prop: string) => string | undefined): Says | undefined =>
  name === 'FormattedMessage' ? saysBy(given) : undefined;

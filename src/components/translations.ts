import type { Node } from 'oxc-parser';
import { literalText, memberName, propertyName, unwrapped } from '../syntax/tree.js';

// Functions and methods that give the words of a language for a key, by the names that packages for it use.
const TRANSLATORS: ReadonlySet<string> = new Set(
  't $t tc $tc __ _t gettext translate instant formatMessage getTranslation'.split(' '),
);

// Those of a project's own or of its framework's: `getCoreTranslation('save')`.
const IS_TRANSLATOR = /^(?!use)\w*translat(?:e|ed|ion)$/i;

/**
 * The texts that a call of a translator may show where nothing translates: its key, and the words that it gives itself as
 * a default. Undefined for all other calls.
 */
export function translationOf(
  node: Extract<Node, { type: 'CallExpression' }>,
): readonly string[] | undefined {
  const callee = unwrapped(node.callee);
  const name = callee.type === 'Identifier' ? callee.name : memberName(callee);
  const [first, second] = node.arguments;
  if (name === undefined || !(TRANSLATORS.has(name) || IS_TRANSLATOR.test(name)) || !first) return undefined;
  const key = literalText(first);
  if (key !== undefined) return [key, ...wordsOf(second)];
  // `formatMessage({ id, defaultMessage })`
  const words = name === 'formatMessage' ? wordsOf(first) : [];
  return words.length > 0 ? words : undefined;
}

function wordsOf(given: Node | undefined): string[] {
  if (!given) return [];
  const text = literalText(given);
  if (text !== undefined) return [text];
  if (given.type !== 'ObjectExpression') return [];
  return given.properties.flatMap((each) => {
    const key = each.type === 'Property' ? propertyName(each.key, each.computed) : undefined;
    const words = each.type === 'Property' && KEYS.has(key ?? '') ? literalText(each.value) : undefined;
    return words === undefined ? [] : [words];
  });
}

const KEYS: ReadonlySet<string> = new Set(['id', 'defaultMessage', 'defaultValue', 'default']);

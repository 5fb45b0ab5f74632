import { parse } from 'css-what';
import { quoted } from './edits/style.js';
import { matchesSelector } from '../rendering/match.js';
import { literal } from '../rendering/name.js';
import type { RenderedElement } from '../rendering/rendered-tree.js';
import { constantOf } from '../rendering/role.js';
import { pageOf, type SearchScope } from '../rendering/scope.js';
import { ownText } from '../rendering/user-queries.js';
import type { Reach } from '../specs/model/steps.js';
import type { FileContext } from '../checks/questions/context.js';

// What a user sees or hears of an element, as far as a selector can ask for it; the test id comes last.
const SEEN = ['aria-label', 'placeholder', 'alt', 'title'];

/** Whether a selector already asks for what a user sees or hears. */
export const asksForSeen = (selector: string): boolean =>
  SEEN.some((name) => selector.includes(`[${name}`)) || /\[role\b/.test(selector);

/**
 * The best query for an element in a style that only takes selectors: by an attribute that a user sees or hears, by its
 * words, or by its test id. Undefined where none of them finds this element and no other.
 */
export function styleQuery(reach: Reach, element: RenderedElement, context: FileContext): string | undefined {
  const scope = context.rendering.scope(reach.pickedFrom ?? reach);
  if (!scope) return undefined;
  const page = pageOf(scope);
  const { quote } = context.style;
  for (const attribute of SEEN) {
    const selector = bySelector(element, attribute, page);
    if (selector) return asked(reach, selector, quote);
  }
  const byWords = wordsQuery(reach, element, page, quote);
  if (byWords) return byWords;
  const selector = bySelector(element, context.testIdAttribute, page);
  return selector && asked(reach, selector, quote);
}

function bySelector(element: RenderedElement, attribute: string, scope: SearchScope): string | undefined {
  const value = constantOf(element, attribute);
  if (!value || /["\\\n]/.test(value)) return undefined;
  const selector = `[${attribute}="${value}"]`;
  const parsed = parse(selector);
  const isFree = scope.elements.every((each) => each === element || matchesSelector(each, parsed) === 'no');
  return isFree ? selector : undefined;
}

function asked(reach: Reach, selector: string, quote: '"' | "'"): string {
  const text = quoted(selector, quote === '"' ? "'" : quote);
  const name = ['get', 'find', 'query', 'querySelector'].includes(reach.name) ? reach.name : 'find';
  return `${reach.receiver || 'wrapper'}.${name}(${reach.gives === 'debug-element' ? `By.css(${text})` : text})`;
}

// `wrapper.findAll('button').find((each) => each.text() === 'Fire')`
function wordsQuery(
  reach: Reach,
  element: RenderedElement,
  scope: SearchScope,
  quote: '"' | "'",
): string | undefined {
  const isWrapper = reach.gives === 'wrapper';
  const text = literal(ownText(element));
  if (!isWrapper || !text || text.length > 40 || element.children.some((child) => child.kind === 'element'))
    return undefined;
  // What the wrapper gives is the text as it stands, inner spaces and all.
  const raw = element.children.flatMap((child) => (child.kind === 'text' ? child.pieces : [])).join('');
  if (raw.trim() !== text) return undefined;
  const same = scope.elements.filter(
    (each) => each.tag === element.tag && literal(ownText(each)) !== '' && each !== element,
  );
  if (same.some((each) => (literal(ownText(each)) ?? text) === text)) return undefined;
  const tag = quoted(element.tag, quote);
  return `${reach.receiver || 'wrapper'}.findAll(${tag}).find((each) => each.text() === ${quoted(text, quote)})`;
}

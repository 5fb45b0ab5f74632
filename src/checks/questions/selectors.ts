import { parsedSelector } from '../../rendering/match.js';
import type { Reach } from '../../specs/model/steps.js';
import { textOfValue } from '../../specs/model/values.js';

type Part = NonNullable<ReturnType<typeof parsedSelector>>[number][number];

/** The tag of what a selector finds, where it asks for one and has no alternatives. */
export function tagIn(selector: string | undefined): string | undefined {
  const alternatives = selector === undefined ? undefined : parsedSelector(selector);
  if (alternatives?.length !== 1) return undefined;
  const last = alternatives[0] ?? [];
  const start = last.findLastIndex(({ type }) => COMBINATORS.has(type));
  const tag = last.slice(start + 1).find((part) => part.type === 'tag');
  return tag?.type === 'tag' ? tag.name : undefined;
}

const COMBINATORS: ReadonlySet<string> = new Set(['descendant', 'child', 'sibling', 'adjacent']);

/** Whether a reach asks for a class or an id. */
export const asksForMark = (reach: Reach): boolean => partsOf(reach).some(isMark);

/** Whether a reach asks for a class, an id or a place, and not for a part of a picture, which nobody knows by anything else. */
export function asksByStructure(reach: Reach): boolean {
  const parts = partsOf(reach);
  return (
    parts.some((part) => isMark(part) || COMBINATORS.has(part.type)) &&
    !parts.some((part) =>
      part.type === 'tag' ? PICTURES.has(part.name) : isMark(part) && ICON.test(part.value),
    )
  );
}

const PICTURES: ReadonlySet<string> = new Set('svg path use g i circle rect line polygon'.split(' '));
const ICON = /\bicons?\b/i;

type Mark = Extract<Part, { type: 'attribute' }>;
const isMark = (part: Part): part is Mark =>
  part.type === 'attribute' && (part.name === 'class' || part.name === 'id');

// The parts of what is asked for, in all its alternatives.
function partsOf({ by, args }: Reach): Part[] {
  const text = textOfValue(args[0]);
  if (text === undefined) return [];
  const selector = by === 'class' ? `.${text.trim().replace(/\s+/g, '.')}` : by === 'id' ? `#${text}` : text;
  return parsedSelector(selector)?.flat() ?? [];
}

import { literal } from '../../rendering/name.js';
import type { RenderedElement } from '../../rendering/rendered-tree.js';
import { constantOf, roleOf } from '../../rendering/role.js';
import { ownText } from '../../rendering/user-queries.js';
import type { Reach } from '../../specs/model/steps.js';
import { inShort } from '../../util/printable.js';
import type { Finding } from '../../finding.js';

const SHOWN = ['role', 'aria-label', 'type', 'href', 'placeholder', 'alt', 'title'];

/** An element as a reader would write it in a line: `<button type="button">Fire</button>`. */
export function markupOf(element: RenderedElement): string {
  const attributes = SHOWN.flatMap((name) => {
    const value = constantOf(element, name);
    return value === undefined ? [] : [` ${name}="${inShort(value, 24)}"`];
  });
  const text = literal(ownText(element));
  const opening = `<${element.tag}${attributes.slice(0, 2).join('')}>`;
  return text ? `${opening}${inShort(text, 24)}</${element.tag}>` : opening;
}

/** The helper that a query stands in, and the element that it finds. */
export function evidence(reach: Reach, element: RenderedElement): Finding['evidence'] {
  const helper = reach.via ? [{ ...reach.via, note: 'the query stands in this helper' }] : [];
  return [...helper, { file: element.file, ...element.place, note: `the element, ${described(element)}` }];
}

function described(element: RenderedElement): string {
  const role = roleOf(element);
  return role ? `role ${role}` : 'no role';
}

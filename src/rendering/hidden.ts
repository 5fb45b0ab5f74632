import type { Hidden, RenderedElement } from './rendered-tree.js';
import { choicesOf, memberOfExpr, possibleValues, type Constant, type Expr } from '../components/expr.js';

/** Whether an element is left out of names and of queries by role. */
export function isHidden(element: RenderedElement): Hidden {
  const { attributes, tag } = element;
  if (tag === 'script' || tag === 'style' || tag === 'template' || tag === 'noscript') return true;
  return worst([
    attributeIs(attributes.get('aria-hidden'), (each) => each === true || each === 'true'),
    attributeIs(attributes.get('hidden'), (each) => each !== false && each !== undefined && each !== null),
    styleHides(attributes.get('style')),
    // Closed unless the attribute, or a call, opens it.
    tag === 'dialog' && !attributes.has('open') ? 'maybe' : false,
  ]);
}

const worst = (all: readonly Hidden[]): Hidden =>
  all.includes(true) ? true : all.includes('maybe') ? 'maybe' : false;

function attributeIs(value: Expr | undefined, hides: (each: Constant) => boolean): Hidden {
  if (!value) return false;
  const values = possibleValues(value);
  if (!values) return 'maybe';
  return values.every(hides) ? true : values.some(hides) ? 'maybe' : false;
}

function styleHides(style: Expr | undefined): Hidden {
  if (!style) return false;
  if (style.is === 'constant')
    return /(?:^|;)\s*(?:display\s*:\s*none|visibility\s*:\s*hidden)\b/.test(String(style.value));
  const options = choicesOf(style);
  if (options) {
    const hides = options.map(styleHides);
    return hides.every((each) => each === true) ? true : hides.some((each) => each) ? 'maybe' : false;
  }
  if (style.is !== 'object') return 'maybe';
  const hides = (key: string, by: string): Hidden =>
    attributeIs(
      memberOfExpr(style, key).is === 'unknown' ? undefined : memberOfExpr(style, key),
      (each) => each === by,
    );
  return worst([hides('display', 'none'), hides('visibility', 'hidden')]);
}

/** Whether an element, or one that it stands in, is hidden. */
export function isInHidden(element: RenderedElement): Hidden {
  return (element.known.hidden ??= worst([
    isHidden(element),
    element.parent !== undefined && isInHidden(element.parent),
  ]));
}

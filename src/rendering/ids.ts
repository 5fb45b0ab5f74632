import { isIdKey, possibleValues, type Expr } from '../components/expr.js';
import type { RenderedElement } from './rendered-tree.js';

/**
 * What an attribute that holds an id can be told apart by: its text, or which call of `useId` it is made of, in which use of
 * the component. Undefined where it is not there or can't be told.
 */
export function idIn(element: RenderedElement, attribute: string): string | undefined {
  const value = element.attributes.get(attribute);
  return value && keyOf(value);
}

function keyOf(value: Expr): string | undefined {
  switch (value.is) {
    case 'constant':
      if (value.value === undefined || value.value === null || value.value === false) return undefined;
      return value.value === true ? '' : String(value.value);
    case 'unknown':
      return value.answer && isIdKey(value.answer.of) && value.answer.path.length === 0
        ? `\0${value.answer.of}\0`
        : undefined;
    case 'shown':
      return keyOf(value.of);
    case 'text': {
      const parts = value.parts.map(keyOf);
      return parts.includes(undefined) ? undefined : parts.join('');
    }
    default:
      return undefined;
  }
}

/** Whether an attribute may hold any id. */
export const isAnyId = (value: Expr): boolean =>
  possibleValues(value) === undefined && keyOf(value) === undefined;

import type { Node } from 'oxc-parser';
import { literalText, propertyName } from '../syntax/tree.js';
import type { Constant } from './operations.js';

/** The members of an enum with their values; undefined where a value is worked out when it runs. */
export function enumValues({ body }: Extract<Node, { type: 'TSEnumDeclaration' }>): Map<string, Constant> {
  const values = new Map<string, Constant>();
  let next: number | undefined = 0;
  for (const { id, initializer } of body.members) {
    const name = propertyName(id, false) ?? '';
    const text = initializer ? literalText(initializer) : undefined;
    const isNumber = initializer?.type === 'Literal' && typeof initializer.value === 'number';
    // Only a number tells what comes next.
    if (initializer) next = isNumber ? Number(text) : undefined;
    values.set(name, initializer && !isNumber ? text : next);
    if (next !== undefined) next++;
  }
  return values;
}

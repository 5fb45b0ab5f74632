import type { Node } from 'oxc-parser';
import { propertyName } from '../syntax/tree.js';

/** What somebody who binds the names of a pattern makes of the parts of a value. Nodes are for places. */
export interface Parts<V> {
  member(of: V, key: string, node: Node): V;
  item(of: V, at: number, node: Node): V;
  /** All but some properties, or the items from one on. */
  rest(of: V, taken: readonly string[] | number, node: Node): V;
  /** A value, or what stands for it where it is undefined. */
  fallback(value: V, otherwise: Node): V;
  /** A part by a name that can't be read. */
  unknown(of: V, node: Node): V;
}

/** The one binder of patterns: gives each name of a pattern its part of the value (ECMAScript, destructuring binding). */
export function bindPattern<V>(
  pattern: Node,
  value: V,
  parts: Parts<V>,
  bind: (name: Extract<Node, { type: 'Identifier' }>, value: V) => void,
): void {
  const sub = (each: Node, part: V): void => bindPattern(each, part, parts, bind);
  switch (pattern.type) {
    case 'Identifier':
      return bind(pattern as Extract<Node, { type: 'Identifier' }>, value);
    case 'AssignmentPattern':
      return sub(pattern.left, parts.fallback(value, pattern.right));
    case 'TSParameterProperty':
      return sub(pattern.parameter, value);
    case 'RestElement':
      return sub(pattern.argument, parts.unknown(value, pattern));
    case 'ObjectPattern': {
      const taken = pattern.properties.map((property) =>
        property.type === 'Property' ? propertyName(property.key, property.computed) : undefined,
      );
      pattern.properties.forEach((property, i) => {
        if (property.type !== 'RestElement') {
          const key = taken[i];
          sub(
            property.value,
            key === undefined ? parts.unknown(value, property) : parts.member(value, key, property),
          );
          return;
        }
        const named = taken.slice(0, i).filter((key) => key !== undefined);
        sub(
          property.argument,
          named.length < i ? parts.unknown(value, property) : parts.rest(value, named, property),
        );
      });
      return;
    }
    case 'ArrayPattern':
      pattern.elements.forEach((element, i) => {
        if (element?.type === 'RestElement') sub(element.argument, parts.rest(value, i, element));
        else if (element) sub(element, parts.item(value, i, element));
      });
  }
}

import type { Node } from 'oxc-parser';
import { isFunction, pathOf, propertyName, unwrapped } from '../../../syntax/tree.js';
import { both, constant, not, nullish, truthy, type Condition, type Expr } from '../../expr.js';
import { conditionOf, exprOf } from '../../read-expr.js';
import { deepestIn, resolved, type ComponentScope } from '../../scope.js';
import type { ComponentRef } from '../../view.js';

/** A component that an expression may stand for, and the condition that it does. */
export interface ChosenComponent {
  /** Undefined of one that is given: it is what `given` holds. */
  ref: ComponentRef | undefined;
  given?: Expr;
  name: string;
  test: Condition;
}

const ALWAYS: Condition = { is: 'all', of: [] };

/**
 * The components of which an expression gives one: a name, the sides of a condition, the entries of a literal object.
 * Undefined where it may give anything else.
 */
export function chosenComponents(
  node: Node,
  scope: ComponentScope,
  test: Condition = ALWAYS,
  depth = 0,
): readonly ChosenComponent[] | undefined {
  const inner = unwrapped(node);
  if (depth > deepestIn(scope)) return undefined;
  const sub = (each: Node, under: Condition, at = scope): readonly ChosenComponent[] | undefined =>
    chosenComponents(each, at, under, depth + 1);
  switch (inner.type) {
    case 'Identifier': {
      const ref = scope.ref(inner.name);
      const asNamed = ref && [{ ref, name: inner.name, test }];
      // What another module declares goes by its import.
      if (ref && 'specifier' in ref) return asNamed;
      const bound = scope.lookup(inner.name);
      const isDeclared =
        bound?.is === 'node' && (isFunction(bound.node) || bound.node.type.startsWith('Class'));
      if (bound?.is === 'node' && !isDeclared) return sub(bound.node, test, bound.scope) ?? asNamed;
      return bound === undefined || isDeclared ? asNamed : undefined;
    }
    case 'ConditionalExpression': {
      const holds = conditionOf(inner.test, scope);
      return joined(sub(inner.consequent, both(test, holds)), sub(inner.alternate, both(test, not(holds))));
    }
    case 'LogicalExpression': {
      if (inner.operator === '&&') return undefined;
      // `slots.root ?? Root`: what is given may be anything.
      const left = exprOf(inner.left, scope);
      const isMissing = inner.operator === '??' ? nullish(left) : not(truthy(left));
      const given = { ref: undefined, given: left, name: 'given', test: both(test, not(isMissing)) };
      return joined(
        sub(inner.left, both(test, not(isMissing))) ?? [given],
        sub(inner.right, both(test, isMissing)),
      );
    }
    case 'MemberExpression': {
      const object = resolved(inner.object, scope);
      if (object?.node.type === 'ObjectExpression')
        return joined(
          ...object.node.properties.map((each) => {
            const key = each.type === 'Property' ? propertyName(each.key, each.computed) : undefined;
            if (each.type !== 'Property' || key === undefined) return undefined;
            const asked = inner.computed ? exprOf(inner.property, scope) : constant(pathOf(inner.property));
            return sub(
              each.value,
              both(test, { is: 'same', left: asked, right: constant(key) }),
              object.scope,
            );
          }),
        );
      const path = pathOf(inner);
      const ref = path === undefined ? undefined : scope.ref(path);
      return ref && path !== undefined ? [{ ref, name: path, test }] : undefined;
    }
    default:
      return undefined;
  }
}

const joined = (
  ...parts: readonly (readonly ChosenComponent[] | undefined)[]
): readonly ChosenComponent[] | undefined =>
  parts.every((part) => part !== undefined) ? parts.flat() : undefined;

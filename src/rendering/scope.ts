import { contains, type Placed, type RenderedTree } from './placed.js';

/** Where a query looks: the elements, and the whole trees that they stand in. */
export interface Scope {
  elements: readonly Placed[];
  tree: RenderedTree;
  complete: boolean;
  /** Whether other props could show nothing else. */
  closed: boolean;
}

/** All of a tree; where it may have `changed` since the render, there may be more than it shows. */
export const scopeOf = (tree: RenderedTree, changed = false): Scope => ({
  elements: tree.elements,
  tree,
  complete: tree.complete && !changed,
  closed: tree.closed && !changed,
});

/** The whole page around a scope. */
export const pageOf = (scope: Scope): Scope => ({ ...scope, elements: scope.tree.elements });

/** The part of a scope below an element. */
export function below(scope: Scope, element: Placed): Scope {
  const elements = scope.elements.filter((each) => contains(element, each));
  return { ...scope, elements };
}

import { contains, type RenderedElement, type RenderedTree } from './rendered-tree.js';

/** Where a query looks: the elements, and the whole trees that they stand in. */
export interface SearchScope {
  elements: readonly RenderedElement[];
  tree: RenderedTree;
  complete: boolean;
  /** Whether other props could show nothing else. */
  closed: boolean;
}

/** All of a tree; where it may have `changed` since the render, there may be more than it shows. */
export const searchScope = (tree: RenderedTree, changed = false): SearchScope => ({
  elements: tree.elements,
  tree,
  complete: tree.complete && !changed,
  closed: tree.closed && !changed,
});

/** The whole page around a scope. */
export const pageOf = (scope: SearchScope): SearchScope => ({ ...scope, elements: scope.tree.elements });

/** The part of a scope below an element. */
export function scopeBelow(scope: SearchScope, element: RenderedElement): SearchScope {
  const elements = scope.elements.filter((each) => contains(element, each));
  return { ...scope, elements };
}

import type { Node } from 'oxc-parser';
import {
  innerNodes,
  type Component,
  type ComponentNode,
  type ComponentRef,
  type ViewNode,
} from '../components/view.js';
import { membersOfRefs } from '../syntax/tree.js';

/** A member that a component uses of another by a reference; `of`: which one, where its template tells. */
export interface UseByReference {
  ref: string;
  of: Component | undefined;
  member: string;
}

/** Whether such a use is of a component; where no template tells, one that has the reference in its name. */
export function isUseOf({ ref, of }: UseByReference, component: Component): boolean {
  const plain = (name: string): string => name.toLowerCase().replace(/[^a-z\d]/g, '');
  return of ? of === component : plain(component.name).includes(plain(ref));
}

/** The members that the components of a module use of others: `this.$refs.lid.lift()`, with `<kiln-lid ref="lid" />`. */
export function usesByReference(
  program: Node,
  components: readonly Component[],
  componentOf: (ref: ComponentRef) => Component | undefined,
): UseByReference[] {
  const views = components.flatMap(({ view }) => view);
  return membersOfRefs(program).map(({ ref, member }) => {
    const node = heldBy(ref, views);
    return { ref, of: node?.ref && componentOf(node.ref), member };
  });
}

function heldBy(ref: string, view: readonly ViewNode[]): ComponentNode | undefined {
  for (const node of view) {
    const held = node.kind === 'component' ? node.props.get('ref') : undefined;
    const isHeld = held && 'expr' in held && held.expr.is === 'constant' && held.expr.value === ref;
    if (node.kind === 'component' && isHeld) return node;
    const inner = heldBy(ref, innerNodes(node));
    if (inner) return inner;
  }
  return undefined;
}

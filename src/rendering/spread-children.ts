import { UNSURE } from '../components/expr.js';
import {
  innerNodes,
  type Component,
  type ComponentNode,
  type ElementNode,
  type ViewNode,
} from '../components/view.js';

const KNOWN = new WeakMap<Component, ViewNode | 'nowhere'>();

/**
 * React: the first node of a component that something unread is spread into, and that nothing stands in, where the
 * component shows its children nowhere else: `<View {...useShelf(props)} />`. What it is given probably stands there.
 */
export function takesChildren(component: Component): ViewNode | undefined {
  const known = KNOWN.get(component) ?? placeIn(component);
  KNOWN.set(component, known);
  return known === 'nowhere' ? undefined : known;
}

/** What stands there: the children of the component, for all that can be told. */
export const spreadChildren = ({ place }: { place: ViewNode['place'] }): ViewNode => ({
  kind: 'branch',
  condition: 'what is spread into it',
  test: UNSURE,
  children: [{ kind: 'slot', name: 'children', fallback: [], place }],
  place,
});

function placeIn({ framework, view }: Component): ViewNode | 'nowhere' {
  if (framework !== 'react') return 'nowhere';
  const nodes = [...allOf(view)];
  if (nodes.some(showsChildren)) return 'nowhere';
  return (
    nodes.find(
      (node) =>
        (node.kind === 'element' || node.kind === 'component') &&
        (innerNodes(node).length === 0 ? node.open : isUnread(node)),
    ) ?? 'nowhere'
  );
}

// `children` are among what is spread into it, and nobody can read them.
function isUnread(node: ElementNode | ComponentNode): boolean {
  const [only, ...more] = innerNodes(node);
  const isGiven = node.kind === 'element' ? node.attributes.has('children') : node.props.has('children');
  return isGiven && more.length === 0 && only?.kind === 'text' && only.open === true;
}

function* allOf(view: readonly ViewNode[]): Generator<ViewNode> {
  for (const node of view) {
    yield node;
    yield* allOf(innerNodes(node));
  }
}

function showsChildren(node: ViewNode): boolean {
  if (node.kind === 'slot') return node.name === 'children';
  if (node.kind !== 'element' && node.kind !== 'component') return false;
  if (node.rest && !node.rest.includes('children')) return true;
  return (
    node.kind === 'component' &&
    [...node.props.values()].some(
      (prop) =>
        ('expr' in prop && prop.expr.is === 'prop' && prop.expr.name === 'children') ||
        ('view' in prop && [...allOf(prop.view)].some(showsChildren)),
    )
  );
}

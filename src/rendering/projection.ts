import { innerNodes, type ViewNode } from '../components/view.js';
import { parsedSelector } from './match.js';

/** The names of the slots in a view, in the order of the markup. */
export function slotNames(view: readonly ViewNode[]): string[] {
  return view.flatMap((node) => [
    ...(node.kind === 'slot' ? [node.name] : []),
    ...(node.kind === 'component'
      ? [...node.slots.values()].flatMap(slotNames)
      : slotNames(innerNodes(node))),
  ]);
}

/** By tag, attribute or class; what a condition shows is taken by its first element. */
export function isSelected(node: ViewNode, selector: string): boolean {
  if (node.kind === 'branch' || node.kind === 'repeat')
    return node.children.some((child) => isSelected(child, selector));
  if (node.kind !== 'element' && node.kind !== 'component') return false;
  const has = (name: string): boolean =>
    node.kind === 'element' ? node.attributes.has(name.toLowerCase()) : node.props.has(name);
  const tag = node.kind === 'element' ? node.tag : node.name;
  const classes = node.kind === 'element' ? node.classes.always : [];
  return (parsedSelector(selector) ?? []).some((parts) =>
    parts.every((part) => {
      if (part.type === 'tag') return part.name === tag;
      if (part.type !== 'attribute') return false;
      return part.name === 'class' ? classes.includes(part.value) : has(part.name);
    }),
  );
}

import type { Node } from 'oxc-parser';
import type { Script } from '../../../syntax/script.js';
import type { ModuleFacts } from '../../../syntax/module-facts.js';
import { calledName, unwrapped, walkTree } from '../../../syntax/tree.js';
import type { Span } from '../../../finding.js';
import { componentNodes, type Component, type ComponentRef, type ViewNode } from '../../view.js';
import { refOf } from './react.js';

/** A component in the JSX of a module, at a place of which not more is known than what is written there. */
export interface LooseTag {
  ref: ComponentRef;
  /** The props that it is given by name. */
  given: ReadonlySet<string>;
  /** It may be given more: by a spread. */
  open: boolean;
  /** It is kept as a value, which may be cloned. */
  kept: boolean;
  /** The component whose tag it stands in. */
  within: ComponentRef | undefined;
  place: Span;
}

/** The components in the JSX of a module that stand in none of some views: in functions that are handed over, in what can't be read. */
export function looseTags(
  { program, source }: Script,
  facts: ModuleFacts,
  seen: ReadonlySet<number>,
): LooseTag[] {
  const found: LooseTag[] = [];
  const kept = new Set<Node>();
  let around: { ref: ComponentRef | undefined; end: number }[] = [];
  walkTree(program, (node) => {
    for (const each of keptIn(node)) kept.add(each);
    if (node.type !== 'JSXElement') return;
    const { name, attributes, start, end } = node.openingElement;
    around = around.filter((each) => start < each.end);
    const ref = refOf(source.text.slice(name.start, name.end), facts);
    const within = around.at(-1)?.ref;
    around.push({ ref, end: node.end });
    if (!ref || seen.has(start)) return;
    const given = new Set<string>();
    for (const each of attributes)
      if (each.type === 'JSXAttribute') given.add(source.text.slice(each.name.start, each.name.end));
    if (node.children.length > 0) given.add('children');
    const open = attributes.some(({ type }) => type === 'JSXSpreadAttribute');
    found.push({ ref, given, open, kept: kept.has(node), within, place: { start, end } });
  });
  return found;
}

// The elements that a node keeps as values: under a name, as a default, in an object.
function keptIn(node: Node): readonly Node[] {
  switch (node.type) {
    case 'VariableDeclarator':
      return node.init ? [unwrapped(node.init)] : [];
    case 'AssignmentPattern':
    case 'AssignmentExpression':
      return [unwrapped(node.right)];
    case 'Property':
    case 'PropertyDefinition':
      return node.value ? [unwrapped(node.value)] : [];
    case 'CallExpression':
      return calledName(node) === 'cloneElement' ? node.arguments.map(unwrapped) : [];
    default:
      return [];
  }
}

/** Where the components of some markup stand in it, as offsets. */
export const tagPlaces = (view: readonly ViewNode[]): number[] =>
  [...componentNodes(view)].map(({ place }) => place.start);

/** The components in the JSX of a module that stand in the markup of none of its own components. */
export const looseTagsOf = (
  script: Script,
  facts: ModuleFacts,
  components: readonly Component[],
): LooseTag[] => looseTags(script, facts, new Set(components.flatMap(({ view }) => tagPlaces(view))));

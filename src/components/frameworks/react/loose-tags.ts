import type { Script } from '../../../syntax/script.js';
import type { ModuleFacts } from '../../../syntax/module-facts.js';
import { walkTree } from '../../../syntax/tree.js';
import type { Span } from '../../../finding.js';
import { componentNodes, type Component, type ComponentRef, type ViewNode } from '../../view.js';
import { refOf } from './react.js';

/** A component in the JSX of a module, at a place of which not more is known than what is written there. */
export interface LooseTag {
  ref: ComponentRef;
  /** The props that it is given by name. */
  given: ReadonlySet<string>;
  /** It may be given more. */
  open: boolean;
  place: Span;
}

/** The components in the JSX of a module that stand in none of some views: in functions that are handed over, in what can't be read. */
export function looseTags(
  { program, source }: Script,
  facts: ModuleFacts,
  seen: ReadonlySet<number>,
): LooseTag[] {
  const found: LooseTag[] = [];
  walkTree(program, (node) => {
    if (node.type !== 'JSXElement') return;
    const { name, attributes, start, end } = node.openingElement;
    const ref = seen.has(start) ? undefined : refOf(source.text.slice(name.start, name.end), facts);
    if (!ref) return;
    const given = new Set<string>();
    for (const each of attributes)
      if (each.type === 'JSXAttribute') given.add(source.text.slice(each.name.start, each.name.end));
    if (node.children.length > 0) given.add('children');
    const open = attributes.some(({ type }) => type === 'JSXSpreadAttribute');
    found.push({ ref, given, open, place: { start, end } });
  });
  return found;
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

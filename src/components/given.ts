import type { Expr } from './expr.js';
import {
  NO_CLASSES,
  type ClassList,
  type ComponentNode,
  type ComponentRef,
  type ElementNode,
  type Handler,
  type Prop,
} from './view.js';

/** What an opening tag gives its element or component: attributes, props, class names, events, spreads. */
export interface TagContents {
  attributes: Map<string, Expr>;
  props: Map<string, Prop>;
  classes: ClassList;
  /** Whether it may be given more than can be read. */
  open: boolean;
  /** It takes all props of its component but these. */
  rest?: readonly string[];
  events: string[];
  handlers: Handler[];
  /** The props whose markup is what a function gives. */
  functions?: Set<string>;
  /** The props that are components. */
  components?: Map<string, ComponentRef>;
}

/** A tag with nothing written in it, to be filled. */
export const nothingGiven = (): TagContents => ({
  attributes: new Map(),
  props: new Map(),
  classes: NO_CLASSES,
  open: false,
  events: [],
  handlers: [],
});

/** Notes that anything may be given beside what is read, class names included. */
export function openTag(given: TagContents): void {
  given.open = true;
  given.classes = { ...given.classes, open: true };
}

/** The element that a tag makes of what it is given. */
export const elementNode = (
  { attributes, classes, open, rest, events, handlers }: TagContents,
  own: Pick<ElementNode, 'tag' | 'chosen' | 'asComponent' | 'place' | 'children'>,
): ElementNode => ({ kind: 'element', ...own, attributes, classes, open, rest, events, handlers });

/** The component that a tag makes of what it is given. */
export const componentNode = (
  { props, open, rest, events, handlers, functions, components }: TagContents,
  own: Pick<ComponentNode, 'name' | 'ref' | 'place' | 'slots'>,
): ComponentNode => ({
  kind: 'component',
  ...own,
  props,
  open,
  rest,
  events,
  ...(handlers.length > 0 ? { handlers } : {}),
  ...(functions ? { functions } : {}),
  ...(components ? { components } : {}),
});

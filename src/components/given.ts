import type { Expr } from './expr.js';
import {
  NO_CLASSES,
  type ClassList,
  type ComponentNode,
  type ComponentRef,
  type ElementNode,
  type Handler,
  type LaterSpreads,
  type Prop,
  type ViewNode,
} from './view.js';

/** What an opening tag gives its element or component: attributes, props, class names, events, spreads. */
export interface TagContents {
  attributes: Map<string, Expr>;
  props: Map<string, Prop>;
  classes: ClassList;
  /** Whether it may be given more than can be read. */
  open: boolean;
  /** What is spread into it and can only be read where the component is used, with the props that are written before. */
  later: { expr: Expr; before: readonly string[] }[];
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
  later: [],
  events: [],
  handlers: [],
});

/** Notes that anything may be given beside what is read, class names included. */
export function openTag(given: TagContents): void {
  given.open = true;
  given.classes = { ...given.classes, open: true };
}

/** What is spread without giving a name, whichever way is taken: `{...(isWide && undefined)}`. */
export const givesNoNames = (value: Expr): boolean =>
  value.is === 'if'
    ? givesNoNames(value.then) && givesNoNames(value.otherwise)
    : value.is === 'choice'
      ? value.options.every(givesNoNames)
      : value.is === 'constant' && typeof value.value !== 'string';

const openness = ({
  open,
  classes,
  later,
}: TagContents): { open: boolean; classes: ClassList; later?: LaterSpreads } =>
  later.length > 0
    ? { open: true, classes: { ...classes, open: true }, later: { spreads: later, open, classes } }
    : { open, classes };

/** The element that a tag makes of what it is given. */
export const elementNode = (
  given: TagContents,
  own: Pick<ElementNode, 'tag' | 'chosen' | 'asComponent' | 'place' | 'children'>,
): ElementNode => {
  const { attributes, rest, events, handlers } = given;
  return { kind: 'element', ...own, attributes, ...openness(given), rest, events, handlers };
};

/** A view whose outermost elements and components are given more, as by `cloneElement`; what it is given replaces what it has. */
export function withMore(node: ViewNode, more: TagContents): ViewNode {
  switch (node.kind) {
    case 'element':
      return {
        ...node,
        attributes: new Map([...node.attributes, ...more.attributes]),
        classes: more.props.has('className') ? more.classes : node.classes,
        open: node.open || isOpen(more),
        events: [...node.events, ...more.events],
        handlers: [...(node.handlers ?? []), ...more.handlers],
      };
    case 'component':
      return {
        ...node,
        props: new Map([...node.props, ...more.props]),
        open: node.open || isOpen(more),
        events: [...node.events, ...more.events],
        handlers: [...(node.handlers ?? []), ...more.handlers],
      };
    case 'branch':
    case 'repeat':
      return { ...node, children: node.children.map((each) => withMore(each, more)) };
    default:
      return node;
  }
}

const isOpen = ({ open, later, rest }: TagContents): boolean =>
  open || later.length > 0 || rest !== undefined;

/** The component that a tag makes of what it is given. */
export const componentNode = (
  given: TagContents,
  own: Pick<ComponentNode, 'name' | 'ref' | 'place' | 'slots'>,
): ComponentNode => {
  const { props, rest, events, handlers, functions, components } = given;
  const { open, later } = openness(given);
  return {
    kind: 'component',
    ...own,
    props,
    open,
    ...(later ? { later } : {}),
    rest,
    events,
    ...(handlers.length > 0 ? { handlers } : {}),
    ...(functions ? { functions } : {}),
    ...(components ? { components } : {}),
  };
};

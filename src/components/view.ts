import type { PageListener } from './opens.js';
import type { Output } from './outputs.js';
import type { Framework } from './shown.js';
import type { Span } from '../finding.js';
import type { Domains } from './domain.js';
import type { ComponentRef } from './component-ref.js';
import { functionKey, type Expr, type Condition } from './expr.js';

export type { ComponentRef };

/** The class names of an element: always there, there on a condition, and whether others may be. */
export interface ClassList {
  always: readonly string[];
  maybe: readonly string[];
  open: boolean;
}

/** A handler written in markup. */
export interface Handler {
  event: string;
  /** Where it stands. */
  place: Span;
  /** The names of what it calls, without what it hands over; where it calls nothing, all names that it reads. */
  names: readonly string[];
  /** The keys that it tells apart, as `KeyboardEvent.key` names them. */
  keys: readonly string[];
  /** React: it is no code of the component: a prop of another name is called. */
  prop?: string;
}

/** An event of an element: by the offset where that starts, and the platform's name. */
export interface EventPlace {
  start: number;
  event: string;
}

/**
 * React: what is spread into a tag and can only be read where the component is used. `before`: the props that are written
 * before it; `open`, `classes`: those of the tag without all such spreads.
 */
export interface LaterSpreads {
  spreads: readonly { expr: Expr; before: readonly string[] }[];
  open: boolean;
  classes: ClassList;
}

/** An element of markup. Attribute names are those of HTML, in lower case. */
export interface ElementNode {
  kind: 'element';
  /** `?` for one that is chosen at run time, by `chosen` if that can be read. */
  tag: string;
  chosen?: Expr;
  /** React: what it is where a component is chosen. */
  asComponent?: ComponentNode;
  /** Where the opening tag stands. */
  place: Span;
  attributes: ReadonlyMap<string, Expr>;
  classes: ClassList;
  /** Whether it may have attributes that can't be read (a spread). */
  open: boolean;
  later?: LaterSpreads;
  /** It takes all props of its component but these. */
  rest?: readonly string[];
  /** Events that it has handlers for, by the platform's name: `click`. */
  events: readonly string[];
  /** The handlers that the component itself writes for it: not those that it hands on from its props under their names. */
  handlers?: readonly Handler[];
  children: readonly ViewNode[];
}

/** What a component is given: a value, or markup. */
export type Prop = { expr: Expr } | { view: readonly ViewNode[] };

/** Another component in the markup. `slots`: content by the slot's name; `children` is the default one. */
export interface ComponentNode {
  kind: 'component';
  name: string;
  ref: ComponentRef | undefined;
  place: Span;
  props: ReadonlyMap<string, Prop>;
  open: boolean;
  later?: LaterSpreads;
  rest?: readonly string[];
  events: readonly string[];
  /** The handlers that the component itself writes for it. */
  handlers?: readonly Handler[];
  slots: ReadonlyMap<string, readonly ViewNode[]>;
  /** React: the props, `children` too, whose markup is what a function gives. */
  functions?: ReadonlySet<string>;
  /** React: the props that are components. */
  components?: ReadonlyMap<string, ComponentRef>;
}

/** One of several ways that are never taken together; `of`: the offset of what divides them. */
export interface TemplateArm {
  of: number;
  arm: number;
  /** In templates: `then`, `else`, `else if …`, `case …`, `default`. */
  name?: string;
}

/** React: what the provider of a context gives to all that stands in it; `key`: that of `contexts.ts`. */
export interface Provided {
  key: string;
  value: Expr;
}

/**
 * What a component shows, before its props and children are filled in. `provided`: the providers around it, outermost
 * first. `consumes`: it reads contexts where it stands, and not where its component does.
 */
export type ViewNode = AnyNode & { provided?: readonly Provided[]; consumes?: true };

type AnyNode =
  | ElementNode
  | ComponentNode
  /** `open`: a value that can't be read may be markup. */
  | { kind: 'text'; text: Expr; place: Span; open?: boolean }
  /** Where a prop or slot of the component is shown. */
  | { kind: 'slot'; name: string; fallback: readonly ViewNode[]; place: Span }
  /** There only under a condition, given as it is written, and as far as it can be worked out. */
  | {
      kind: 'branch';
      condition: string;
      test?: Condition;
      arm?: TemplateArm;
      children: readonly ViewNode[];
      place: Span;
    }
  /** Once for each item of `over`, which goes by a prop's name inside. */
  | { kind: 'repeat'; over?: Expr; item?: string; children: readonly ViewNode[]; place: Span }
  /** Something that can't be read. */
  | { kind: 'hole'; why: string; place: Span };

/** Names of props that are given beside those that are written; `any` where they can't be told. */
export type Clones = ReadonlySet<string> | 'any';

export const NO_CLONES: Clones = new Set();

export const joinedClones = (one: Clones, other: Clones): Clones =>
  one === 'any' || other === 'any' ? 'any' : other.size === 0 ? one : new Set([...one, ...other]);

/** What a state holds at first, and the name that it is read by. */
export interface FirstState {
  name: string;
  value: Expr;
}

/** A component of the project. */
export interface Component {
  name: string;
  file: string;
  framework: Framework;
  /** Where it is declared. */
  place: Span;
  view: readonly ViewNode[];
  /** The names of its props that can be read, with their defaults; `undefined` where there is none. */
  props: ReadonlyMap<string, Expr | undefined>;
  /** React: the props that it gives to the elements that it is handed, beside their own. */
  clones?: Clones;
  /** React: what its states hold at first, by their keys: of those that only something on an element sets. */
  firsts?: ReadonlyMap<string, FirstState>;
  /** React: props whose defaults its own code fills in, where it takes its props apart. */
  defaulted?: ReadonlySet<string>;
  /** What its props may be by their declared types, where those can be read. */
  domains?: Domains;
  /** React: the props that its `propTypes` ask for. */
  required?: ReadonlySet<string>;
  /** The file that `view` stands in, where it is not `file`. */
  templateFile?: string;
  /** React: it only gives styles to a tag or another component. */
  styles?: boolean;
  /** The component it hands its props on to, where it only wraps one. */
  wraps?: ComponentRef;
  /** Angular: attributes that it sets on its own host element. */
  host?: ReadonlyMap<string, Expr>;
  /** Angular: the selector that stands for it in templates. */
  selector?: string;
  /** The events that it tells others of, each where it is declared or, where it is not, sent. */
  outputs?: ReadonlyMap<string, Output>;
  /** React: the props that it reads by their names, or more; undefined where it may read any. */
  takes?: ReadonlySet<string>;
  /** React: the modules of the project that give values which are read in its view: a spec may replace them. */
  inlined?: ReadonlySet<string>;
  /** React: the props that it calls only where something happens on its elements. */
  eventProps?: ReadonlySet<string>;
  /** Members that it offers to others: what it exposes, and its outputs. */
  offered?: ReadonlySet<string>;
  /** Vue: the members it declares itself, where mixins may bring more props and members than can be seen. */
  ownMembers?: ReadonlySet<string>;
  /** Vue: attributes that are no props do not go to its root element. */
  keepsAttributes?: boolean;
  /** Where it starts to listen on the page or to count, which it only ends when it is unmounted. */
  opens?: Span;
  /** The events of the page that it listens to. */
  listens?: readonly PageListener[];
  /** Props whose lists it changes in place, each with the first place that does. */
  changes?: ReadonlyMap<string, Span>;
  /** Components known by name in its template. */
  registered?: ReadonlyMap<string, ComponentRef>;
}

/** How a component goes by across files. */
export const componentKey = ({ file, name }: Pick<Component, 'file' | 'name'>): string =>
  functionKey(file, name);

/** Whether a component, by its name, only gives something to all that stands in it: `KilnProvider`, `MemoryRouter`. */
export const isProviderName = (name: string): boolean => /(?:Provider|Router)$/.test(name);

/** The condition of what is only reached where no return before it was taken, in words. */
export const EARLY_RETURN = 'depends on an early return';

export const NO_CLASSES: ClassList = { always: [], maybe: [], open: false };
export const words = (text: string): string[] => text.split(/\s+/).filter(Boolean);

/** How many elements and components a view holds. */
export function viewSize(view: readonly ViewNode[]): number {
  return view.reduce(
    (sum, node) =>
      sum + (node.kind === 'element' || node.kind === 'component' ? 1 : 0) + viewSize(innerNodes(node)),
    0,
  );
}

/** The nodes inside a node, slots' contents included. */
export function innerNodes(node: ViewNode): readonly ViewNode[] {
  switch (node.kind) {
    case 'component':
      return [...node.slots.values()].flat();
    case 'slot':
      return node.fallback;
    case 'text':
    case 'hole':
      return [];
    default:
      return node.children;
  }
}

/** Markup that a component is handed in props. */
export const viewsGiven = (node: ViewNode): ViewNode[] =>
  node.kind === 'component'
    ? [...node.props.values()].flatMap((prop) => ('view' in prop ? prop.view : []))
    : [];

/** The components in markup, outer ones first, with those in markup that others are handed in props. */
export function* componentNodes(view: readonly ViewNode[]): Generator<ComponentNode> {
  for (const node of view) {
    if (node.kind === 'component') yield node;
    yield* componentNodes([...innerNodes(node), ...viewsGiven(node)]);
  }
}

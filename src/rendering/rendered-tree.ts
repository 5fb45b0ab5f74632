import type { By } from '../libraries/meaning.js';
import type { Expr } from '../components/expr.js';
import type { Piece } from '../components/expr-text.js';
import type { TemplateArm, ClassList, Component, ComponentNode, ViewNode } from '../components/view.js';
import type { Span } from '../finding.js';

/** An element of what a spec renders, with props and children filled in. */
export interface RenderedElement {
  kind: 'element';
  /** `?` for a tag that is chosen at run time. */
  tag: string;
  /** The tag is no word of the markup: whoever uses the component chooses it. */
  chosen?: boolean;
  file: string;
  place: Span;
  attributes: ReadonlyMap<string, Expr>;
  classes: ClassList;
  open: boolean;
  /** Whether it shows a slot or a spread that nothing was given for. */
  lacks: boolean;
  /** Attributes that are filled in from props. */
  filled: ReadonlySet<string>;
  events: readonly string[];
  parent: RenderedElement | undefined;
  children: RenderedNode[];
  /** The conditions it stands under, as written. */
  guards: readonly string[];
  /** The arms it stands in, each in one use of its component. */
  arms: readonly RenderedArm[];
  repeated: boolean;
  /** The component in whose markup it is written; undefined for the spec's own markup. */
  component: Component | undefined;
  /** Where that, and the components around it, are used, outermost first: where their tags start. */
  uses: readonly number[];
  /** Where the project uses the component of a package that it is an element of: the file, and where the tag starts. */
  usedAt?: { file: string; start: number } | undefined;
  /** The child component that a stand-in without content takes the place of. */
  standsFor?: Component;
  /** What was worked out of it before. */
  known: {
    text?: Pieces;
    name?: Pieces | 'unknown';
    role?: { is: Role };
    hidden?: Hidden;
    byRole?: Handle | 'none';
  };
}

export interface RenderedArm extends TemplateArm {
  use: object;
}

/** Whether two elements are never there together: they stand in two arms of one condition. */
export const exclude = (a: RenderedElement, b: RenderedElement): boolean =>
  a.arms.some((x) => b.arms.some((y) => x.use === y.use && x.of === y.of && x.arm !== y.arm));

export type RenderedNode =
  | RenderedElement
  /** `given`: written in the spec, or filled in from a prop. */
  /** `loose`: between the tags of a component that can't be read, and there maybe in an element of that. */
  /** `says`: what stands for its translations where nothing translates. */
  | {
      kind: 'text';
      pieces: Piece[];
      sure: boolean;
      loose?: boolean;
      given: boolean;
      reads: readonly string[];
      says?: readonly string[];
    }
  | { kind: 'hole'; why: string; reads: readonly string[] };

/** What the contexts of React give at a place. */
export interface Contexts {
  /** By their keys, as they are declared; undefined of one where something unread may provide. */
  provided: ReadonlyMap<string, Expr | undefined>;
  /** Something that can't be read may provide others. */
  open: boolean;
  /** Modules that stand-ins take the place of. */
  replaced?: ReadonlySet<string>;
}

/** A component that another one renders, and what it is given there. */
export interface RenderedUse {
  component: Component;
  node: ComponentNode;
  given: ReadonlyMap<string, { expr: Expr } | { view: readonly ViewNode[] }>;
  /** It may be given more than can be read. */
  open: boolean;
  contexts: Contexts;
  /** The file of the component that renders it. */
  by: string;
  /** A stand-in is rendered in its place. */
  stubbed?: true;
  /** It stands too deep to be filled in: what it gives to others is not known. */
  cut?: boolean;
}

/** All that one render call puts into the document. */
export interface RenderedTree {
  children: RenderedNode[];
  elements: RenderedElement[];
  /** Whether nothing in it is a hole: what is not here is not there. */
  complete: boolean;
  /** Whether anything was left out because the props say so. */
  pruned: boolean;
  /** Whether a state decides of it that something on an element sets. */
  stateful: boolean;
  /** Whether it would be the same with any other props: no prop that shows something was left out. */
  closed: boolean;
  /** What the components in it give to other components. */
  uses: readonly RenderedUse[];
  /** The components of the spec's own markup that are filled in, and what contexts give them. */
  expanded: ReadonlyMap<ComponentNode, Contexts>;
  /** Elements by their own text, where that is literal, and all others; made on first use. */
  /** Its labels, once they were asked for. */
  labels?: readonly RenderedElement[];
  byText?: { literal: ReadonlyMap<string, readonly RenderedElement[]>; open: readonly RenderedElement[] };
}
/** Hidden, not hidden, or dependent on something. */
export type Hidden = boolean | 'maybe';
/** A text in pieces. No pieces: no name. */
export type Pieces = readonly Piece[];

export function contains(outer: RenderedElement, element: RenderedElement): boolean {
  for (let at = element.parent; at; at = at.parent) if (at === outer) return true;
  return false;
}
/** A role, `null` for none that a query could use, undefined where it can't be told. */
export type Role = string | null | undefined;
/** A text that a query asks for: whole, or by a pattern. */
export type AskedText = { text: string } | { pattern: RegExp };

/** A way to reach an element. */
export interface Handle {
  by: By;
  /** For a role: its name, where it is asked for. For all others: the text. */
  asked?: AskedText;
  role?: string;
  /** Whether nothing else that is rendered could be found by it as well. */
  unique: boolean;
  /** Whether its words come from the spec: from props, or from markup of its own. */
  given: boolean;
}

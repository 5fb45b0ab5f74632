import { standsIn } from '../specs/model/blocks.js';
import type { Framework } from '../components/shown.js';
import { kebabCase } from '../util/case.js';
import { isInstalled } from '../util/paths.js';
import { classesIn, joinedClasses } from '../components/classes.js';
import { isPlainDomain } from '../components/domain.js';
import { ITEM, choicesOf, importOfKey, UNKNOWN, type Expr } from '../components/expr.js';
import { propsIn, saysOf, unknownNames } from '../components/expr-names.js';
import { isTranslation } from '../components/expr-filling.js';
import { shown, shownAttribute, textPieces } from '../components/expr-text.js';
import { asDeclared } from '../project/contexts.js';
import { passesOn } from '../components/frameworks/react/passing.js';
import { htmlName, platformEvent } from '../components/frameworks/react/jsx-attributes.js';
import {
  NO_CLASSES,
  type ClassList,
  type Component,
  type ComponentNode,
  type ElementNode,
  type Prop,
  type Provided,
  type ViewNode,
} from '../components/view.js';
import { UNREAD } from './contexts.js';
import { cloningBelow, clonesGiven, type Cloning } from './cloning.js';
import type { Project } from '../project/project.js';
import type {
  RenderedElement,
  RenderedArm,
  RenderedNode,
  RenderedUse,
  RenderedTree,
  Contexts,
} from './rendered-tree.js';
import { FilledLater, Filling, type Context, type Given, type Taken } from './filling.js';
import { isSelected, slotNames } from './projection.js';
import type { RenderInput } from './render-input.js';
import { spreadChildren, takesChildren } from './spread-children.js';

type Node<Kind extends ViewNode['kind']> = Extract<ViewNode, { kind: Kind }>;

/** A value that is spread into a tag, and the props that are written before it. */
interface Spread {
  expr: Expr;
  before: readonly string[];
}

/** Where the next node is put. */
interface Position {
  parent: RenderedElement | undefined;
  guards: readonly string[];
  /** Between the tags of a component that can't be read: what is around it there is not known. */
  loose?: boolean;
  arms: readonly RenderedArm[];
  repeated: boolean;
  contexts: Contexts;
  /** The components around it that clone what they are handed. */
  cloning: readonly Cloning[];
}

// How many components deep a child is followed: of the project's own, and with those of packages that stand between.
const DEEPEST = 16;
const DEEPEST_OF_ALL = 48;
const MOST_ELEMENTS = 1500;
const MOST_ITEMS = 20;
const NOT_ATTRIBUTES = new Set(['children', 'key', 'ref']);

/** Fills a view in: child components, props, children and slots, to a set depth. */
export function rendered(project: Project, input: RenderInput): RenderedTree {
  const expansion = new Expansion(project, input);
  const contexts: Contexts = {
    provided: new Map(),
    open: input.wrapper === 'unknown',
    replaced: input.replaced,
  };
  const context = {
    file: input.file,
    component: undefined,
    read: undefined,
    given: new Map(),
    open: true,
    depth: 0,
    own: 0,
    within: [],
    uses: [],
    contexts,
    use: 0,
  };
  const children = expansion.nodes(wrappedView(input), context, {
    parent: undefined,
    guards: [],
    arms: [],
    repeated: false,
    cloning: [],
    contexts,
  });
  expansion.end();
  const { elements, complete, closed, pruned, stateful, uses, expanded } = expansion;
  return { children, elements, complete, closed: complete && closed, pruned, stateful, uses, expanded };
}

const wrappedView = ({ view, wrapper }: RenderInput): readonly ViewNode[] =>
  wrapper && wrapper !== 'unknown' ? [{ ...wrapper, slots: new Map([['children', view]]) }] : view;

class Expansion {
  readonly elements: RenderedElement[] = [];
  complete = true;
  pruned = false;
  readonly uses: RenderedUse[] = [];
  readonly expanded = new Map<ComponentNode, Contexts>();
  readonly #project: Project;
  readonly #input: RenderInput;
  #countOfUses = 0;
  readonly #filling: Filling;
  // The modules that stand-ins take the place of, or of a function of.
  #standIns: ReadonlySet<string> | undefined;

  constructor(project: Project, input: RenderInput) {
    this.#project = project;
    this.#input = input;
    this.#filling = new Filling(project, input);
  }

  /** Whether all would be the same with any other props. */
  get closed(): boolean {
    return this.#filling.closed;
  }

  /** Whether a state decides of anything. */
  get stateful(): boolean {
    return this.#filling.stateful;
  }

  end(): void {
    this.#filling.end();
  }

  nodes(
    view: readonly ViewNode[],
    context: Context,
    at: Position,
    into: RenderedNode[] = [],
  ): RenderedNode[] {
    for (const node of view) this.#node(node, context, at, into);
    return into;
  }

  #node(node: ViewNode, written: Context, place: Position, into: RenderedNode[]): void {
    const at = node.provided ? this.#provided(node.provided, written, place) : place;
    const context = node.consumes ? { ...written, contexts: at.contexts } : written;
    switch (node.kind) {
      case 'element': {
        const element = this.#elementRead(node, context);
        if (!this.#chosen(element, context, at, into)) into.push(this.#element(element, context, at));
        break;
      }
      case 'component':
        this.#component(this.#componentRead(node, context), context, at, into);
        break;
      case 'text':
        this.#text(node.text, context, at, into, node.open);
        break;
      case 'slot':
        this.#slot(node.name, node.fallback, context, at, into);
        break;
      case 'branch':
        this.#branch(node, context, at, into);
        break;
      case 'repeat':
        this.#repeat(node, context, at, into);
        break;
      case 'hole':
        into.push(this.#hole(node.why));
    }
  }

  // What is spread into a tag as far as it is known here, key by key; undefined where any of it is not.
  #spreads({ later }: ElementNode | ComponentNode, context: Context): Map<string, Spread> | undefined {
    const found = new Map<string, Spread>();
    for (const { expr, before } of later?.spreads ?? []) {
      const entries = this.#filling.spread(expr, context);
      if (!entries) return undefined;
      for (const [name, each] of entries) found.set(name, { expr: each, before });
    }
    return found;
  }

  #elementRead(node: ElementNode, context: Context): ElementNode {
    const spreads = node.later && this.#spreads(node, context);
    if (!node.later || !spreads) return node;
    const asComponent = node.asComponent && this.#componentRead(node.asComponent, context);
    const attributes = new Map(node.attributes);
    const events = [...node.events];
    let { classes } = node.later;
    let { children } = node;
    for (const [name, { expr, before }] of spreads) {
      if (NOT_ATTRIBUTES.has(name)) {
        if (name === 'children' && children.length === 0)
          children = [
            { kind: 'text', text: shown(expr, { framework: 'react' }), place: node.place, open: true },
          ];
      } else if (/^on[A-Z]/.test(name)) events.push(platformEvent(name));
      else if (name === 'className') classes = joinedClasses([classes, classesIn(expr)]);
      else if (before.includes(name) || !attributes.has(htmlName(name)))
        attributes.set(htmlName(name), shownAttribute(htmlName(name), expr, { framework: 'react' }));
    }
    return {
      ...node,
      asComponent,
      attributes,
      events,
      classes,
      children,
      open: node.later.open,
      later: undefined,
    };
  }

  #componentRead(node: ComponentNode, context: Context): ComponentNode {
    const spreads = node.later && this.#spreads(node, context);
    if (!node.later || !spreads) return node;
    const props = new Map(node.props);
    for (const [name, { expr, before }] of spreads)
      if (before.includes(name) || !props.has(name)) props.set(name, { expr });
    return { ...node, props, open: node.later.open, later: undefined };
  }

  #provided(all: readonly Provided[], context: Context, at: Position): Position {
    const provided = new Map(at.contexts.provided);
    for (const { key, value } of all)
      provided.set(asDeclared(key, this.#project), this.#filling.valueOf(value, context));
    return { ...at, contexts: { ...at.contexts, provided } };
  }

  #hole(why: string, reads: readonly string[] = NO_NAMES): RenderedNode {
    this.complete = false;
    return { kind: 'hole', why, reads };
  }

  #branch(node: Node<'branch'>, context: Context, at: Position, into: RenderedNode[]): void {
    const holds = node.test && this.#filling.outcome(node.test, context);
    if (holds === false) {
      this.pruned = true;
      return;
    }
    const guards = holds ? at.guards : [...at.guards, node.condition];
    const arms = holds || !node.arm ? at.arms : [...at.arms, { ...node.arm, use: context.given }];
    this.nodes(node.children, context, { ...at, guards, arms }, into);
  }

  #repeat(node: Node<'repeat'>, context: Context, at: Position, into: RenderedNode[]): void {
    if (this.elements.length > MOST_ELEMENTS) {
      into.push(this.#hole('too many elements'));
      return;
    }
    const list = node.over && this.#filling.fill(node.over, context);
    const isKnown = list?.is === 'list' && node.item !== undefined && list.items.length <= MOST_ITEMS;
    // Under any condition, a list may have something in it.
    const isEmpty = isKnown && list.items.length === 0;
    if (isEmpty && !this.#input.everything) this.pruned = true;
    if (isKnown && node.item !== undefined && !(isEmpty && this.#input.everything)) {
      for (const item of list.items) {
        const given = new Map(context.given).set(node.item, { expr: item });
        this.nodes(node.children, { ...context, given }, at, into);
      }
      return;
    }
    const position = { ...at, repeated: true, guards: [...at.guards, 'for each'] };
    this.nodes(node.children, context, position, into);
  }

  #text(text: Expr, context: Context, at: Position, into: RenderedNode[], open = false): void {
    const expr = this.#filling.fill(text, context);
    if (open && !isText(expr) && !isTranslation(expr)) {
      into.push(this.#hole('a value', unknownNames(expr)));
      return;
    }
    const pieces = textPieces(expr);
    if (pieces.every((piece) => piece === '')) return;
    const sure = at.guards.length === (at.parent?.guards.length ?? 0);
    const given = context.component === undefined || expr !== text;
    const reads = unknownNames(expr);
    into.push({ kind: 'text', pieces, sure, loose: at.loose, given, reads, says: saysOf(expr) });
  }

  // A value that a component shows, as its framework writes it.
  #value(expr: Expr, context: Context, at: Position, into: RenderedNode[], open = false): void {
    this.#text(shown(expr, frameworkOf(context)), context, at, into, open);
  }

  #element(node: ElementNode, context: Context, at: Position): RenderedElement {
    const rest = node.rest ? this.#restOf(node.rest, context) : undefined;
    const attributes = this.#attributes(node, rest?.attributes, context);
    const placed: RenderedElement = {
      kind: 'element',
      tag: this.#tag(node, context),
      chosen: node.chosen !== undefined,
      file: this.#placeOf(context),
      place: node.place,
      attributes,
      classes: rest
        ? joinedClasses([this.#classes(node, attributes), rest.classes])
        : this.#classes(node, attributes),
      open: node.open || (node.rest !== undefined && context.open),
      lacks: node.rest !== undefined,
      filled: this.#filledIn(node, attributes, rest?.attributes),
      events: rest ? [...node.events, ...rest.events] : node.events,
      parent: at.parent,
      children: [],
      guards: at.guards,
      arms: at.arms,
      repeated: at.repeated,
      component: context.component,
      uses: context.uses,
      usedAt: context.usedAt,
      known: {},
    };
    this.elements.push(placed);
    // A tag chosen at run time may be a component that shows more than it is given.
    if (placed.tag === '?') {
      this.#filling.closed = false;
      // Given by the spec or by state: it may as well be a component.
      if (node.chosen) this.complete = false;
    }
    const written = rest?.children && node.children.length === 0 ? [CHILDREN] : node.children;
    // Nothing stands in a tag that takes no content, whatever it is made by.
    const inside = VOID.has(placed.tag) ? [] : written;
    if (this.elements.length > MOST_ELEMENTS) placed.children = [this.#hole('too many elements')];
    else
      placed.children = this.nodes(inside, context, {
        ...at,
        parent: placed,
        loose: false,
        cloning: cloningBelow(at.cloning, context.within.length),
      });
    // What is spread and can't be read may hold children, too.
    if (
      node.open &&
      inside.length === 0 &&
      frameworkOf(context).framework === 'react' &&
      !VOID.has(placed.tag)
    )
      placed.children = [this.#hole('what is spread into it')];
    if (this.#takesChildren(node, context))
      this.nodes([spreadChildren(node)], context, { ...at, parent: placed, loose: false }, placed.children);
    return placed;
  }

  #takesChildren(node: ElementNode | ComponentNode, { read, given }: Context): boolean {
    return read !== undefined && given.has('children') && takesChildren(read)?.place === node.place;
  }

  // A tag that stands for a component: one that a prop names, the markup of a function, or one that nobody can read.
  #chosen(
    { chosen, asComponent }: ElementNode,
    context: Context,
    at: Position,
    into: RenderedNode[],
  ): boolean {
    if (!chosen || !asComponent) return false;
    const prop = chosen.is === 'prop' ? context.given.get(chosen.name) : undefined;
    if (prop && 'view' in prop && prop.byFunction) {
      this.nodes(prop.view, { ...prop.written, depth: context.depth, own: context.own }, at, into);
      return true;
    }
    const value = this.#filling.fill(chosen, context);
    const named =
      (prop && 'expr' in prop ? prop.component : undefined) ??
      (value.is === 'something' ? value.component : undefined);
    if (named && passesOn(named.ref)) {
      this.nodes(asComponent.slots.get('children') ?? [], context, at, into);
      return true;
    }
    const found = named && this.#project.shownFor(named.file, named.ref);
    const component = found && this.#unwrapped(found);
    if (component) {
      this.#shown(asComponent, component, context, at, into);
      return true;
    }
    const isComponent = value.is === 'something';
    if (isComponent) this.#unread(asComponent, context, at, into);
    return isComponent;
  }

  #placeOf({ component, file }: Context): string {
    return component ? file : (this.#input.writtenIn ?? file);
  }

  #tag({ tag, chosen }: ElementNode, context: Context): string {
    const expr = chosen && this.#filling.fill(chosen, context);
    return expr?.is === 'constant' && typeof expr.value === 'string' ? expr.value : tag;
  }

  #attributes(
    node: ElementNode,
    rest: ReadonlyMap<string, Expr> | undefined,
    context: Context,
  ): ReadonlyMap<string, Expr> {
    // Most elements have nothing to fill in: they share the map of the view.
    let attributes = rest && new Map(rest);
    for (const [name, expr] of node.attributes) {
      if (!attributes && expr.is === 'constant') continue;
      attributes ??= new Map(node.attributes);
      attributes.set(name, this.#filling.fill(expr, context));
    }
    return attributes ?? node.attributes;
  }

  #filledIn(
    { attributes: written }: ElementNode,
    attributes: ReadonlyMap<string, Expr>,
    rest: ReadonlyMap<string, Expr> | undefined,
  ): ReadonlySet<string> {
    if (attributes === written) return NONE_FILLED;
    let filled: Set<string> | undefined;
    for (const name of attributes.keys())
      if (rest?.has(name) || readsProps(written.get(name))) (filled ??= new Set()).add(name);
    return filled ?? NONE_FILLED;
  }

  // `{...rest}`: what the component was given and has not taken for itself.
  #restOf(
    except: readonly string[],
    context: Context,
  ): { attributes: Map<string, Expr>; classes: ClassList; events: string[]; children: boolean } {
    const attributes = new Map<string, Expr>();
    const events: string[] = [];
    let classes: ClassList = context.open ? { ...NO_CLASSES, open: true } : NO_CLASSES;
    this.#filling.closed = false;
    const vue = context.component?.framework === 'vue';
    for (const [name, prop] of context.given) {
      if (except.includes(name) || NOT_ATTRIBUTES.has(name) || !('expr' in prop)) continue;
      if (/^on[A-Z]/.test(name)) events.push(name.slice(2).toLowerCase());
      else if (name === 'className' || (vue && name === 'class'))
        classes = joinedClasses([classes, classesIn(prop.expr)]);
      else {
        const attribute = vue ? kebabCase(name) : htmlName(name);
        attributes.set(attribute, shownAttribute(attribute, prop.expr, frameworkOf(context)));
      }
    }
    return {
      attributes,
      classes,
      events,
      children: !except.includes('children') && context.given.has('children'),
    };
  }

  // A class attribute that is a prop is known once the prop is given.
  #classes(node: ElementNode, attributes: ReadonlyMap<string, Expr>): ClassList {
    const value = attributes.get('class');
    if (!node.classes.open || value?.is !== 'constant') return node.classes;
    return { ...classesIn(value), maybe: node.classes.maybe };
  }

  #slot(
    name: string,
    fallback: readonly ViewNode[],
    context: Context,
    at: Position,
    into: RenderedNode[],
  ): void {
    // Braces of a template only give text; those of JSX may give markup.
    const isJsx = frameworkOf(context).framework === 'react';
    if (name.startsWith(ITEM)) return this.#value({ is: 'prop', name }, context, at, into, isJsx);
    const prop =
      context.component?.framework === 'angular' ? this.#projected(name, context) : context.given.get(name);
    if (prop && 'view' in prop) {
      this.nodes(prop.view, { ...prop.written, depth: context.depth, own: context.own }, at, into);
      return;
    }
    if (!prop && !context.open) {
      this.#filling.closed = false;
      if (at.parent) at.parent.lacks = true;
      const known = context.read?.props.get(name);
      if (known) this.#value(known, context, at, into, true);
      else this.nodes(fallback, context, at, into);
      return;
    }
    const value = prop ? prop.expr : UNKNOWN;
    const domain = context.read?.domains?.get(name);
    const plain = isText(value) || isTranslation(value) || (domain && isPlainDomain(domain));
    if (plain) this.#value({ is: 'prop', name }, context, at, into);
    else into.push(this.#hole(`the prop ${name}`));
  }

  // `<ng-content select="…">` takes what its selector matches, a bare one the rest.
  #projected(name: string, { given, component }: Context): Given | undefined {
    const content = given.get('children');
    const selects = component ? slotNames(component.view).filter((each) => each !== 'children') : [];
    if (!content || !('view' in content) || selects.length === 0) return content;
    const takes = (node: ViewNode): string =>
      selects.find((select) => isSelected(node, select.slice(1))) ?? 'children';
    return { ...content, view: content.view.filter((node) => takes(node) === name) };
  }

  #component(node: ComponentNode, context: Context, at: Position, into: RenderedNode[]): void {
    const found = node.ref && this.#project.shownFor(context.file, node.ref);
    const component = found && this.#unwrapped(found);
    const replaced = found && this.#isReplaced(node, found, context);
    const isDeep = context.own >= DEEPEST || context.depth >= DEEPEST_OF_ALL;
    const deep = isDeep || (component && context.within.includes(component));
    if (component && !replaced && !deep && this.#isStubbed(node, component, context)) {
      if (context.component)
        this.uses.push({
          component,
          node,
          given: NONE_GIVEN,
          open: false,
          contexts: UNREAD,
          by: context.component.file,
          stubbed: true,
        });
      into.push(this.#stub(node, context, at, component));
    } else if (
      !component &&
      context.depth > 0 &&
      this.#input.stubs?.size &&
      this.#input.stubs.has(kebabCase(node.name))
    )
      into.push(this.#stub(node, context, at));
    else if (!component || replaced || deep) {
      if (component && !replaced)
        this.#used(
          node,
          component,
          context,
          { ...this.#givenTo(node, context, at), contexts: at.contexts },
          isDeep,
        );
      this.#unread(node, context, at, into);
    } else this.#shown(node, component, context, at, into);
  }

  #isStubbed({ name }: ComponentNode, component: Component, { depth }: Context): boolean {
    const { shallow, stubs } = this.#input;
    if (depth === 0 || (!shallow && !stubs?.size)) return false;
    return Boolean(shallow) || [name, component.name].some((each) => stubs?.has(kebabCase(each)));
  }

  // The module of the component itself, or the index file that it is imported through.
  #isReplaced({ ref }: ComponentNode, { file, name }: Component, context: Context): boolean {
    if (!this.#input.replaced?.size) return false;
    const asked = ref && 'specifier' in ref ? ref : undefined;
    const names = asked ? [name, asked.name] : [name];
    const isStandIn = (module: string): boolean => names.some((each) => standsIn(this.#input, module, each));
    if (isStandIn(file)) return true;
    if (!asked) return false;
    if (isStandIn(asked.specifier)) return true;
    const through = this.#project.resolve(context.file, asked.specifier);
    return through !== undefined && isStandIn(through);
  }

  #shown(
    node: ComponentNode,
    component: Component,
    context: Context,
    at: Position,
    into: RenderedNode[],
  ): void {
    const first = this.elements.length;
    const read = this.#readFor(component);
    const inside = {
      file: component.templateFile ?? component.file,
      component,
      read,
      ...this.#givenTo(node, context, at),
      depth: context.depth + 1,
      own: context.own + (isInstalled(component.file) ? 0 : 1),
      within: [...context.within, component],
      uses: [...context.uses, node.place.start],
      contexts: at.contexts,
      use: ++this.#countOfUses,
      usedAt: isInstalled(component.file)
        ? (context.usedAt ?? { file: this.#placeOf(context), start: node.place.start })
        : undefined,
    };
    if (!context.component) this.expanded.set(node, at.contexts);
    this.#used(node, component, context, inside);
    const around = cloningBelow(at.cloning, context.within.length);
    const { clones } = component;
    const cloning = clones ? [...around, { above: inside.within.length, gives: clones }] : around;
    const below = cloning === at.cloning ? at : { ...at, cloning };
    if (component.framework === 'angular') {
      const host = this.#host(node, context, this.nodes(read.view, inside, at), first, at);
      this.#bindHost(host, component, inside);
      into.push(host);
      return;
    }
    this.nodes(read.view, inside, below, into);
    if (component.framework === 'vue' && !component.keepsAttributes)
      this.#fallThrough(node, component, this.elements[first], context, at);
  }

  #readFor(component: Component): Component {
    if (!component.inlined) return component;
    const { replaced, answers } = this.#input;
    this.#standIns ??= new Set([
      ...(replaced ?? []),
      ...[...(answers?.keys() ?? [])].map((key) => importOfKey(key)?.specifier ?? key),
    ]);
    const isTouched = [...component.inlined].some((file) => this.#standIns?.has(file));
    return isTouched ? this.#project.withoutImports(component) : component;
  }

  // What the spec writes itself is told apart by more than what it shows.
  #used(
    node: ComponentNode,
    component: Component,
    context: Context,
    { given, open, contexts }: Taken & { contexts: Contexts },
    cut = false,
  ): void {
    if (!context.component || isInstalled(component.file)) return;
    this.uses.push({ component, node, given, open, contexts, by: context.component.file, cut });
  }

  #givenTo(node: ComponentNode, context: Context, { cloning }: Position): Taken {
    const given = new Map<string, Given>();
    if (node.rest) {
      for (const [name, prop] of context.given) if (!node.rest.includes(name)) given.set(name, prop);
    }
    for (const [name, prop] of node.props) given.set(name, this.#handedOn(prop, context));
    for (const [name, ref] of node.components ?? []) {
      const own = given.get(name);
      if (own && 'expr' in own) given.set(name, { expr: own.expr, component: { ref, file: context.file } });
    }
    for (const [name, view] of node.slots) given.set(name, { view, written: context });
    if (this.#takesChildren(node, context))
      given.set('children', { view: [spreadChildren(node)], written: context });
    for (const name of node.functions ?? []) {
      const markup = given.get(name);
      if (markup && 'view' in markup) given.set(name, { ...markup, byFunction: true });
    }
    const cloned = clonesGiven(cloning, context.within.length);
    const open = node.open || (node.rest !== undefined && context.open) || cloned === 'any';
    if (cloned !== 'any') for (const name of cloned) given.set(name, { expr: UNKNOWN });
    return { given, open };
  }

  // Markup that is only handed on is still markup.
  #handedOn(prop: Prop, context: Context): Given {
    if ('view' in prop) return { view: prop.view, written: context };
    const own = prop.expr.is === 'prop' ? context.given.get(prop.expr.name) : undefined;
    if (own && ('view' in own || own.component)) return own;
    const { expr } = prop;
    return expr.is === 'constant' ? { expr } : new FilledLater(() => this.#filling.fill(expr, context));
  }

  #unwrapped(component: Component): Component | undefined {
    let inner: Component | undefined = component;
    for (let step = 0; inner?.wraps && step < DEEPEST; step++) {
      inner = this.#project.shownFor(inner.file, inner.wraps);
    }
    return inner;
  }

  // Nothing is known of what it shows; what stands between its tags probably appears inside.
  #unread(node: ComponentNode, context: Context, at: Position, into: RenderedNode[]): void {
    into.push(this.#hole(`the component ${node.name}`));
    const guards = [...at.guards, `what ${node.name} shows`];
    const open = { ...at, guards, loose: true, contexts: UNREAD };
    for (const view of node.slots.values()) this.nodes(view, context, open, into);
    for (const prop of node.props.values()) if ('view' in prop) this.nodes(prop.view, context, open, into);
  }

  #stub(node: ComponentNode, context: Context, at: Position, component?: Component): RenderedElement {
    const tag = `${kebabCase(node.name)}-stub`;
    // What the child is given stands on it as attributes.
    const attributes = givenAttributes(node, attributeName);
    const own = attributes.get('class');
    const classes = own ? classesIn(own) : NO_CLASSES;
    const stub = this.#element(
      {
        kind: 'element',
        tag,
        place: node.place,
        attributes,
        classes: { ...classes, open: classes.open || node.open },
        open: node.open,
        events: [],
        children: [],
      },
      context,
      at,
    );
    stub.standsFor = component;
    // A shallow render of React keeps what stands between the tags of a child.
    const kept =
      this.#input.shallow && frameworkOf(context).framework === 'react' && !node.functions?.has('children')
        ? node.slots.get('children')
        : undefined;
    stub.children = kept
      ? this.nodes(kept, context, { ...at, parent: stub })
      : [this.#hole('a child that is not rendered')];
    return stub;
  }

  // Vue hands attributes that are no props on to the root element of a component.
  #fallThrough(
    node: ComponentNode,
    component: Component,
    root: RenderedElement | undefined,
    context: Context,
    at: Position,
  ): void {
    if (!root || root.parent !== at.parent) return;
    const attributes = new Map(root.attributes);
    for (const [name, prop] of node.props) {
      if (component.props.has(name) || !('expr' in prop)) continue;
      const value = this.#filling.fill(prop.expr, context);
      const html = kebabCase(name);
      if (html === 'class') root.classes = joinedClasses([root.classes, classesIn(value)]);
      else attributes.set(html, value);
    }
    root.filled = new Set([...root.filled, ...node.props.keys()].map((name) => kebabCase(name)));
    root.attributes = attributes;
    root.events = [...root.events, ...node.events];
    if (node.open) root.open = true;
  }

  #bindHost(host: RenderedElement, { host: bound }: Component, inside: Context): void {
    if (!bound || bound.size === 0) return;
    const attributes = new Map(host.attributes);
    for (const [name, value] of bound) attributes.set(name, this.#filling.fill(value, inside));
    host.attributes = attributes;
    const own = bound.get('class');
    if (own) host.classes = joinedClasses([host.classes, classesIn(own)]);
  }

  // Angular keeps the tag of a component in the document.
  #host(
    node: ComponentNode,
    context: Context,
    inside: RenderedNode[],
    first: number,
    at: Position,
  ): RenderedElement {
    const attributes = new Map(
      [...givenAttributes(node)].map(([name, expr]) => [name, this.#filling.fill(expr, context)] as const),
    );
    const own = attributes.get('class');
    const host: RenderedElement = {
      kind: 'element',
      // A fixture makes a host of its own.
      tag: node.ref && 'selector' in node.ref ? node.name : 'div',
      file: this.#placeOf(context),
      place: node.place,
      attributes,
      classes: joinedClasses([own ? classesIn(own) : NO_CLASSES, { ...NO_CLASSES, open: true }]),
      open: node.open,
      lacks: false,
      filled: new Set(attributes.keys()),
      events: node.events,
      parent: at.parent,
      children: inside,
      guards: at.guards,
      arms: at.arms,
      repeated: at.repeated,
      component: context.component,
      uses: context.uses,
      known: {},
    };
    for (const element of this.elements.slice(first)) {
      if (element.parent === at.parent) element.parent = host;
    }
    this.elements.splice(first, 0, host);
    return host;
  }
}

// What a component is given, as attributes in the document.
const givenAttributes = ({ props }: ComponentNode, nameIn = (name: string) => name): Map<string, Expr> =>
  new Map([...props].flatMap(([name, prop]) => ('expr' in prop ? [[nameIn(name), prop.expr] as const] : [])));

const attributeName = (name: string): string => (name === 'className' ? 'class' : kebabCase(name));

const VOID: ReadonlySet<string> = new Set(
  'input img br hr area col embed link meta source track wbr'.split(' '),
);

// Markup of the spec's own is JSX.
const frameworkOf = ({ component }: Context): { framework: Framework } => ({
  framework: component?.framework ?? 'react',
});

const NO_NAMES: readonly string[] = [];

const NONE_FILLED: ReadonlySet<string> = new Set();

const NONE_GIVEN: ReadonlyMap<string, Given> = new Map();

function readsProps(expr: Expr | undefined): boolean {
  let found = false;
  if (expr && expr.is !== 'constant') propsIn(expr, () => (found = true));
  return found;
}

// Whether an expression gives text, or nothing: no markup.
function isText(expr: Expr): boolean {
  const options = choicesOf(expr);
  return options
    ? options.every(isText)
    : expr.is === 'constant' || expr.is === 'text' || (expr.is === 'shown' && !holdsMarkup(expr.of));
}

const holdsMarkup = (expr: Expr): boolean =>
  expr.is === 'something' || (expr.is === 'list' && expr.items.some(holdsMarkup));

const CHILDREN: ViewNode = { kind: 'slot', name: 'children', fallback: [], place: { start: 0, end: 0 } };

import type { Node } from 'oxc-parser';
import { allKnown } from '../../../util/all-known.js';
import { calledName, childrenOf, isFunction, unwrapped, type FunctionNode } from '../../../syntax/tree.js';
import type { EventPlace } from '../../view.js';
import { platformEvent } from './jsx-attributes.js';
import { functionOf } from './state-hooks.js';

/** An event that calls a function by way of another: `onSubmit={handleSubmit(save)}`. */
interface Through {
  through: EventPlace;
}

/** Where a name is read: inside of a function, at the top of the module, or handed to an element to be called at an event. */
type Place = FunctionNode | 'module' | EventPlace | Through;

/** When a function runs: at an event, with what is around it, whenever its name is called, or at any time. */
type When = EventPlace | Through | 'around' | 'any' | { called: string };

type IsEventProp = (tag: string, prop: string) => boolean;

/** An element, or the tag of a component. */
interface Tag {
  start: number;
  name: string;
}

/** When the functions of a React script run. */
export class EventTiming {
  readonly #noUse: ReadonlySet<Node>;
  readonly #isEventProp: IsEventProp;
  readonly #around = new Map<FunctionNode, Place>();
  readonly #when = new Map<FunctionNode, When>();
  readonly #reads = new Map<string, Place[]>();
  /** What hooks list that they depend on: no calls of it. */
  readonly dependencies = new Set<Node>();

  /** `noUse`: nodes that are no reads of the names that they are; `isEventProp`: whether a component calls a prop at events alone. */
  constructor(
    program: Node,
    {
      noUse = new Set(),
      isEventProp = () => false,
    }: { noUse?: ReadonlySet<Node>; isEventProp?: IsEventProp } = {},
  ) {
    this.#noUse = noUse;
    this.#isEventProp = isEventProp;
    this.#read(program, 'module', undefined);
  }

  /**
   * The events of elements that lead to where a name is read or called; undefined where it may be at any other time: to
   * begin with, or by what can't be told.
   */
  eventsOf(name: string): readonly EventPlace[] | undefined {
    return this.#eventsOf(name, new Set());
  }

  /** The events that a function handles by itself, with what they hand to it; none where something else may call it, too. */
  handledBy(fn: FunctionNode): readonly EventPlace[] {
    const when = this.#when.get(fn);
    if (typeof when !== 'object') return [];
    const places: readonly (Place | When)[] =
      'called' in when ? (this.#reads.get(when.called) ?? []) : [when];
    return allKnown(places.map((place) => (isEvent(place) ? place : undefined))) ?? [];
  }

  #eventsOf(name: string, seen: Set<string>): readonly EventPlace[] | undefined {
    if (seen.has(name)) return [];
    seen.add(name);
    return allKnown((this.#reads.get(name) ?? []).map((place) => this.#eventsAt(place, seen)))?.flat();
  }

  #eventsAt(place: Place, seen: Set<string>): readonly EventPlace[] | undefined {
    if (place === 'module') return undefined;
    if (isEvent(place)) return [place];
    if ('through' in place) return [place.through];
    const when = this.#when.get(place);
    if (when === 'around') return this.#eventsAt(this.#around.get(place) ?? 'module', seen);
    if (typeof when !== 'object') return undefined;
    return 'called' in when ? this.#eventsOf(when.called, seen) : this.#eventsAt(when, seen);
  }

  #read(node: Node, at: Place, tag: Tag | undefined): void {
    if (isFunction(node)) {
      this.#around.set(node, at);
      if (!this.#when.has(node)) this.#when.set(node, 'any');
    }
    switch (node.type) {
      case 'Identifier':
        if (!this.#noUse.has(node)) this.#note(node.name, at);
        return;
      case 'ImportDeclaration':
        return;
      case 'JSXElement':
        tag = { start: node.start, name: tagName(node.openingElement.name) };
        break;
      case 'JSXAttribute':
        return this.#attribute(node, at, tag);
      case 'FunctionDeclaration':
        if (node.id && IS_PLAIN.test(node.id.name)) this.#when.set(node, { called: node.id.name });
        break;
      case 'VariableDeclarator': {
        const fn = node.init ? functionOf(unwrapped(node.init)) : undefined;
        if (fn && node.id.type === 'Identifier' && IS_PLAIN.test(node.id.name))
          this.#when.set(fn, { called: node.id.name });
        break;
      }
      case 'CallExpression': {
        const name = calledName(node) ?? '';
        const isHook = /^use[A-Z]/.test(name);
        // What a hook is handed runs when the hook sees fit.
        if (!isHook) for (const each of node.arguments) if (isFunction(each)) this.#when.set(each, 'around');
        // `useEffect(() => …, [save])`
        const listed = isHook ? node.arguments.at(-1) : undefined;
        if (listed?.type !== 'ArrayExpression' || node.arguments.length < 2) break;
        for (const each of listed.elements) if (each) this.dependencies.add(each);
        for (const each of [node.callee, ...node.arguments.slice(0, -1)]) this.#read(each, at, tag);
        return;
      }
    }
    const own = isFunction(node) ? node : at;
    for (const child of childrenOf(node)) if (!isName(node, child)) this.#read(child, own, tag);
  }

  #attribute(node: Extract<Node, { type: 'JSXAttribute' }>, at: Place, tag: Tag | undefined): void {
    const name = node.name.type === 'JSXIdentifier' ? node.name.name : '';
    const given =
      node.value?.type === 'JSXExpressionContainer' ? unwrapped(node.value.expression as Node) : undefined;
    if (!given) return;
    const isListener = tag && (LISTENERS.test(name) || this.#isEventProp(tag.name, name));
    const place = tag && isListener ? { start: tag.start, event: platformEvent(name) } : undefined;
    const fn = functionOf(given);
    if (place && fn) this.#when.set(fn, place);
    if (place && given.type === 'Identifier') return this.#note(given.name, place);
    // `onSubmit={handleSubmit(save)}`
    if (place && given.type === 'CallExpression') {
      this.#read(given.callee, at, tag);
      for (const each of given.arguments) {
        if (isFunction(each)) this.#when.set(each, { through: place });
        if (each.type === 'Identifier') this.#note(each.name, { through: place });
        else this.#read(each, at, tag);
      }
      return;
    }
    this.#read(given, at, tag);
  }

  #note(name: string, place: Place): void {
    const known = this.#reads.get(name);
    if (known) known.push(place);
    else this.#reads.set(name, [place]);
  }
}

const isEvent = (place: Place | When): place is EventPlace => typeof place === 'object' && 'event' in place;

// `Lid`, `Lid.Handle`
const tagName = (name: Node): string =>
  name.type === 'JSXMemberExpression'
    ? `${tagName(name.object)}.${name.property.name}`
    : name.type === 'JSXIdentifier'
      ? name.name
      : '';

// No component, and no hook: those run with what shows or calls them.
const IS_PLAIN = /^(?!use[A-Z])[a-z_$]/;

// What is called when users do something, by its name; what comes by itself is left out.
const LISTENERS =
  /^on(?!Load|Mount|Unmount|Init|Ready|Render|Update|Layout|Error|Data|Fetch|Result|Success|Complete|Settled|Mutate|Resize|Scroll|Intersect|Transition|Animation)[A-Z]/;

// The name that a declaration or a property goes by is no read of it.
function isName(node: Node, child: Node): boolean {
  switch (node.type) {
    case 'VariableDeclarator':
    case 'FunctionDeclaration':
      return child === node.id && child.type === 'Identifier';
    case 'MemberExpression':
      return child === node.property && !node.computed;
    case 'Property':
      return child === node.key && !node.computed && !node.shorthand;
    default:
      return false;
  }
}

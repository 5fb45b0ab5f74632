import type { Node } from 'oxc-parser';
import { calledName, childrenOf, isFunction, unwrapped, type FunctionNode } from '../../../syntax/tree.js';
import { functionOf } from './state-hooks.js';

interface Places {
  setters: ReadonlySet<string>;
  /** Nodes that are no reads of the names that they are. */
  noUse: ReadonlySet<Node>;
  /** The functions that handle an event of an element. */
  handlers: ReadonlyMap<FunctionNode, unknown>;
}

/** Where a name is read: inside of a function, at the top of the module, or handed to an element to be called at an event. */
type Place = FunctionNode | 'module' | 'event';

/** When a function runs: at an event, with what is around it, whenever its name is called, or at any time. */
type When = 'event' | 'around' | 'any' | { called: string };

/** The names of setters, of those in a script, that are called only when something happens on an element: never to begin with. */
export function settersAtEvents(program: Node, places: Places): ReadonlySet<string> {
  const timing = new Timing(places);
  timing.read(program, 'module');
  return new Set([...places.setters].filter((name) => timing.isAtEvents(name)));
}

class Timing {
  readonly #places: Places;
  readonly #around = new Map<FunctionNode, Place>();
  readonly #when = new Map<FunctionNode, When>();
  readonly #reads = new Map<string, Place[]>();

  constructor(places: Places) {
    this.#places = places;
  }

  read(node: Node, at: Place): void {
    if (isFunction(node)) {
      this.#around.set(node, at);
      if (!this.#when.has(node)) this.#when.set(node, this.#places.handlers.has(node) ? 'event' : 'any');
    }
    switch (node.type) {
      case 'Identifier':
        if (!this.#places.noUse.has(node)) this.#note(node.name, at);
        return;
      case 'JSXAttribute':
        return this.#attribute(node, at);
      case 'FunctionDeclaration':
        if (node.id && IS_PLAIN.test(node.id.name)) this.#when.set(node, { called: node.id.name });
        break;
      case 'VariableDeclarator': {
        const fn = node.init ? functionOf(unwrapped(node.init)) : undefined;
        if (fn && node.id.type === 'Identifier' && IS_PLAIN.test(node.id.name)) {
          this.#when.set(fn, { called: node.id.name });
          return this.read(fn, at);
        }
        break;
      }
      case 'CallExpression':
        // What a hook is handed runs when the hook sees fit.
        if (!/^use[A-Z]/.test(calledName(node) ?? ''))
          for (const each of node.arguments) if (isFunction(each)) this.#when.set(each, 'around');
        break;
    }
    const own = isFunction(node) ? node : at;
    for (const child of childrenOf(node)) if (!isName(node, child)) this.read(child, own);
  }

  isAtEvents(name: string, seen = new Set<string>()): boolean {
    if (seen.has(name)) return true;
    seen.add(name);
    return (this.#reads.get(name) ?? []).every((place) => this.#runsAtEvent(place, seen));
  }

  #runsAtEvent(place: Place, seen: Set<string>): boolean {
    if (typeof place === 'string') return place === 'event';
    const when = this.#when.get(place);
    if (when === 'around') return this.#runsAtEvent(this.#around.get(place) ?? 'module', seen);
    return typeof when === 'object' ? this.isAtEvents(when.called, seen) : when === 'event';
  }

  #attribute(node: Extract<Node, { type: 'JSXAttribute' }>, at: Place): void {
    const name = node.name.type === 'JSXIdentifier' ? node.name.name : '';
    const given =
      node.value?.type === 'JSXExpressionContainer' ? unwrapped(node.value.expression as Node) : undefined;
    if (!given) return;
    const isListener = LISTENERS.test(name);
    if (isListener && isFunction(given)) this.#when.set(given, 'event');
    if (isListener && given.type === 'Identifier') return this.#note(given.name, 'event');
    this.read(given, at);
  }

  #note(name: string, place: Place): void {
    this.#reads.set(name, [...(this.#reads.get(name) ?? []), place]);
  }
}

// No component, and no hook: those run with what shows or calls them.
const IS_PLAIN = /^(?!use[A-Z])[a-z_$]/;

// What is called when users do something, by its usual names; `onLoad` and the like come by themselves.
const LISTENERS =
  /^on(?:Click|DoubleClick|Change|Input|Submit|Reset|KeyDown|KeyUp|KeyPress|Focus|Blur|Mouse\w+|Pointer\w+|Paste|Close|Open|Cancel|Confirm|Save|Delete|Remove|Add|Edit|Select|Toggle|Dismiss|Request\w+|Press|Back|Next)$/;

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

import type { Node } from 'oxc-parser';
import { UNKNOWN, type Expr } from '../components/expr.js';
import { exprOf } from '../components/read-expr.js';
import { valueHeld } from '../components/frameworks/react/state-hooks.js';
import type { StatePlaces } from '../components/frameworks/react/state-places.js';
import type { ComponentScope } from '../components/scope.js';
import type { EventPlace } from '../components/view.js';
import { unwrapped } from '../syntax/tree.js';

/** What a component keeps between renders. */
export interface State {
  /** The name that it is read by. */
  name: string;
  /** What it holds at first. */
  first: Expr;
  writes: readonly StateWrite[];
}

/** A place that sets a state. */
interface StateWrite {
  value: Expr;
  /** The events that lead to it, where it stands in a handler of their own. */
  on: readonly EventPlace[];
}

type NodeOf<Type extends Node['type']> = Extract<Node, { type: Type }>;

/** Where a node stands: what its names stand for, and the events that it handles. */
interface Around {
  scope: ComponentScope;
  on: readonly EventPlace[];
}

/** The states of a script, gathered as its nodes are met. */
export class States {
  /** By their keys. */
  readonly found = new Map<string, State & { writes: StateWrite[] }>();
  readonly #places: StatePlaces;

  constructor(places: StatePlaces) {
    this.#places = places;
  }

  /** `const [cone, setCone] = useState(6);` */
  declared({ id, init }: NodeOf<'VariableDeclarator'>, { scope }: Around): void {
    const [held, setter] = id.type === 'ArrayPattern' ? id.elements : [];
    if (!init || !setter || !this.#places.noUse.has(setter)) return;
    const call = unwrapped(init);
    const key = setsState(setter, scope);
    if (call.type !== 'CallExpression' || key === undefined) return;
    this.found.set(key, {
      name: held?.type === 'Identifier' ? held.name : '',
      first: valueHeld(call.arguments[0], scope, []),
      writes: this.found.get(key)?.writes ?? [],
    });
  }

  /** `setCone(8)`, `setCone((cone) => cone + 1)`: whether a call sets a state. */
  called({ callee, arguments: [given] }: NodeOf<'CallExpression'>, around: Around): boolean {
    const node = unwrapped(callee);
    if (node.type !== 'Identifier' || !this.#places.setters.has(node.name)) return false;
    const key = setsState(node, around.scope);
    const held: Expr = key === undefined ? UNKNOWN : { is: 'unknown', answer: { of: key, path: [] } };
    return this.#set(node, valueHeld(given, around.scope, [held]), around);
  }

  /** A name that is read: what sets a state may be called with anything where it is handed on. */
  named(node: NodeOf<'Identifier'>, around: Around): void {
    if (!this.#places.noUse.has(node)) this.#set(node, UNKNOWN, around);
  }

  #set(node: NodeOf<'Identifier'>, value: Expr, { scope, on }: Around): boolean {
    const key = this.#places.setters.has(node.name) ? setsState(node, scope) : undefined;
    if (key === undefined) return false;
    const state = this.found.get(key) ?? { name: '', first: UNKNOWN, writes: [] };
    state.writes.push({ value, on });
    this.found.set(key, state);
    return true;
  }
}

// The state that a name sets, by its key.
function setsState(node: Node, scope: ComponentScope): string | undefined {
  const expr = exprOf(node, scope);
  return expr.is === 'something' ? expr.sets : undefined;
}

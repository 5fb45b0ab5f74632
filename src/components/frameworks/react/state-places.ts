import type { Node } from 'oxc-parser';
import { unwrapped, walkTree, type FunctionNode } from '../../../syntax/tree.js';
import type { EventPlace } from '../../view.js';
import { EventTiming } from './event-timing.js';
import { isStateCall, type ImportOf } from './state-hooks.js';

/** Where the states of a React script are declared and set, as far as its tree alone tells. */
export interface StatePlaces {
  /** The names of functions that set a state. */
  setters: ReadonlySet<string>;
  /** The setters that are called only when something happens on an element: never to begin with. */
  atEvents: ReadonlySet<string>;
  /** The tree's nodes that declare such a name, or list it among what a hook depends on: no uses of it. */
  noUse: ReadonlySet<Node>;
  /** The events of the page that a function handles by itself, and is handed. */
  handledBy: (fn: FunctionNode) => readonly EventPlace[];
}

/** Of a script without state. */
export const NO_STATES: StatePlaces = {
  setters: new Set(),
  atEvents: new Set(),
  noUse: new Set(),
  handledBy: () => [],
};

/** Finds where a script declares and sets state. */
export function statePlaces(program: Node, importOf: ImportOf): StatePlaces {
  const declared = new Map<Node, string>();
  walkTree(program, (node) => {
    if (node.type !== 'VariableDeclarator' || !node.init || node.id.type !== 'ArrayPattern') return;
    if (!isStateCall(unwrapped(node.init), importOf)) return;
    const [, setter] = node.id.elements;
    if (setter?.type === 'Identifier') declared.set(setter, setter.name);
  });
  if (declared.size === 0) return NO_STATES;
  const timing = new EventTiming(program, { noUse: new Set(declared.keys()) });
  const setters = new Set(declared.values());
  return {
    setters,
    atEvents: new Set([...setters].filter((name) => timing.eventsOf(name) !== undefined)),
    noUse: new Set([...declared.keys(), ...timing.dependencies]),
    handledBy(fn) {
      const events = timing.handledBy(fn);
      return events.every(({ event }) => OF_PAGE.has(event)) ? events : [];
    },
  };
}

// Others are a component's own: with what it calls them is not told.
const OF_PAGE: ReadonlySet<string> = new Set(
  'click dblclick submit change input keydown keyup focus blur mousedown mouseup mouseenter mouseleave paste'.split(
    ' ',
  ),
);

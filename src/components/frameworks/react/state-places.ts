import type { Node } from 'oxc-parser';
import { namesIn } from '../../../syntax/module-facts.js';
import { calledName, unwrapped, walkTree, type FunctionNode } from '../../../syntax/tree.js';
import type { EventPlace } from '../../view.js';
import { platformEvent } from './jsx-attributes.js';
import { EventTiming } from './event-timing.js';
import { functionOf, isStateCall, type ImportOf } from './state-hooks.js';

/** Where the states of a React script are declared and set, as far as its tree alone tells. */
export interface StatePlaces {
  /** The names of functions that set a state. */
  setters: ReadonlySet<string>;
  /** The tree's nodes that declare such a name, or list it among what a hook depends on: no uses of it. */
  noUse: ReadonlySet<Node>;
  /** The functions that handle an event, with the events of elements that they are given to handle. */
  handlers: ReadonlyMap<FunctionNode, readonly EventPlace[]>;
  /** The setters that are called only when something happens on an element: never to begin with. */
  atEvents: ReadonlySet<string>;
}

const NONE: ReadonlySet<never> = new Set();
const NOWHERE: StatePlaces = { setters: NONE, noUse: NONE, handlers: new Map(), atEvents: NONE };

/** Finds where a script declares and sets state. */
export function statePlaces(program: Node, importOf: ImportOf): StatePlaces {
  const setters = new Set<string>();
  const noUse = new Set<Node>();
  walkTree(program, (node) => {
    if (node.type !== 'VariableDeclarator' || !node.init || node.id.type !== 'ArrayPattern') return;
    if (!isStateCall(unwrapped(node.init), importOf)) return;
    const [, setter] = node.id.elements;
    if (setter?.type !== 'Identifier') return;
    setters.add(setter.name);
    noUse.add(setter);
  });
  if (setters.size === 0) return NOWHERE;
  const handlers = handlersIn(program);
  for (const each of dependencies(program)) noUse.add(each);
  const timing = new EventTiming(program, { noUse });
  const atEvents = new Set([...setters].filter((name) => timing.eventsOf(name) !== undefined));
  return { setters, noUse, handlers, atEvents };
}

// `useEffect(() => …, [setCone])`
function dependencies(program: Node): Node[] {
  const found: Node[] = [];
  walkTree(program, (node) => {
    const last = node.type === 'CallExpression' ? node.arguments.at(-1) : undefined;
    if (node.type !== 'CallExpression' || last?.type !== 'ArrayExpression' || node.arguments.length < 2)
      return;
    if (/^use[A-Z]/.test(calledName(node) ?? ''))
      found.push(...last.elements.filter((each) => each !== null));
  });
  return found;
}

function handlersIn(program: Node): Map<FunctionNode, EventPlace[]> {
  const found = new Map<FunctionNode, EventPlace[]>();
  const byName = new Map<string, EventPlace[]>();
  const called = new Set<string>();
  walkTree(program, (node) => {
    if (node.type === 'CallExpression' && node.callee.type === 'Identifier') called.add(node.callee.name);
    if (node.type !== 'JSXElement') return;
    for (const each of node.openingElement.attributes) {
      const listener = each.type === 'JSXAttribute' ? listenerIn(each) : undefined;
      if (!listener) continue;
      const { event, handed } = listener;
      const fn = functionOf(handed);
      const on = { start: node.start, event };
      if (fn) found.set(fn, [on]);
      else if (handed.type === 'Identifier')
        byName.set(handed.name, [...(byName.get(handed.name) ?? []), on]);
    }
  });
  walkTree(program, (node) => {
    const declared =
      node.type === 'VariableDeclarator' && node.init
        ? { names: namesIn(node.id), fn: functionOf(unwrapped(node.init)) }
        : node.type === 'FunctionDeclaration' && node.id
          ? { names: [node.id.name], fn: node }
          : undefined;
    const [name] = declared?.names ?? [];
    const on = name === undefined || called.has(name) ? undefined : byName.get(name);
    if (declared?.fn && on) found.set(declared.fn, on);
  });
  return found;
}

type Attribute = Extract<Node, { type: 'JSXAttribute' }>;

// What `onChange={…}` is given.
function listenerIn({ name, value }: Attribute): { event: string; handed: Node } | undefined {
  if (name.type !== 'JSXIdentifier' || !/^on[A-Z]/.test(name.name)) return undefined;
  if (value?.type !== 'JSXExpressionContainer') return undefined;
  const event = platformEvent(name.name);
  return OF_PAGE.has(event) ? { event, handed: unwrapped(value.expression as Node) } : undefined;
}

// Others are a component's own: with what it calls them is not told.
const OF_PAGE: ReadonlySet<string> = new Set(
  'click dblclick submit change input keydown keyup focus blur mousedown mouseup mouseenter mouseleave paste'.split(
    ' ',
  ),
);

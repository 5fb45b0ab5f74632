import { eventOf } from '../../specs/model/acts.js';
import { ANY_KEY, pressedKeys } from '../../specs/model/pressed-keys.js';
import type { EventPlace } from '../../components/view.js';
import { blocksAround, hooksFor, type Block } from '../../specs/model/blocks.js';
import type { Reach, Render, Step, StepOf } from '../../specs/model/steps.js';
import type { RenderedElement, RenderedTree } from '../../rendering/rendered-tree.js';
import type { SpecRendering } from '../../rendering/spec-rendering.js';
import { fileFact, type FileContext, type FileFact } from './context.js';
import { carriedBy, type Carried, type Typed } from './carried.js';
import { runningSpecs } from './order.js';

/** What the specs of a file fire. */
export interface Fired {
  /** Events by the element that they may be fired on, or that they rise to: file and offset of its opening tag. */
  onElements: ReadonlyMap<string, ReadonlySet<string>>;
  /** Events that may also be fired on what is rendered out of sight: on any element but those that were `seen`. */
  outOfSight: readonly OutOfSight[];
  /** What events carry, by the element that they may be fired on, or that they rise to. */
  carried: ReadonlyMap<string, readonly Carried[]>;
  /** All events that are fired, wherever that is. */
  anywhere: ReadonlySet<string>;
  /** Members of components that are read or called from outside: a handler may be called by its name. */
  members: ReadonlySet<string>;
}

interface OutOfSight {
  events: ReadonlySet<string>;
  carried: readonly Carried[];
  seen: ReadonlySet<string>;
}

/** The key of an element. */
export const elementKey = (file: string, start: number): string => `${file}:${start}`;

const POINTER =
  'pointerdown pointerup pointerover pointerenter pointermove mousedown mouseup mouseover mouseenter mousemove';
const KEYS =
  'keydown keypress keyup beforeinput input change focus focusin blur focusout click submit select paste cut copy';

// What one act of a user brings about, beside the event of its own name.
const BRINGS: Readonly<Record<string, string>> = {
  click: `click focus focusin blur focusout change input submit reset toggle select ${POINTER}`,
  dblclick: `click dblclick focus focusin change input select ${POINTER}`,
  tripleclick: `click dblclick focus focusin select ${POINTER}`,
  hover: POINTER,
  unhover: 'mouseout mouseleave mousemove pointerout pointerleave pointermove',
  type: `${KEYS} ${POINTER}`,
  clear: KEYS,
  keyboard: KEYS,
  tab: KEYS,
  paste: KEYS,
  upload: `${KEYS} ${POINTER}`,
  setvalue: 'input change',
  setchecked: 'click input change',
  setselected: 'input change',
  selectoptions: `${KEYS} ${POINTER}`,
  deselectoptions: `${KEYS} ${POINTER}`,
  // React takes what is typed for a change.
  input: 'input change',
  focus: 'focus focusin',
  blur: 'blur focusout',
  // A library of views takes the one for the other.
  mouseover: 'mouseover mouseenter',
  mouseout: 'mouseout mouseleave',
  pointerover: 'pointerover pointerenter',
  pointerout: 'pointerout pointerleave',
  focusin: 'focus focusin',
  focusout: 'blur focusout',
};
// What a pointer or focus that goes somewhere else leaves.
const LEFT = 'blur focusout mouseleave mouseout pointerleave pointerout'.split(' ');

// These may fire whatever their arguments say.
const ANY = new Set('pointer dispatchevent fireevent triggereventhandler trigger simulate'.split(' '));
const ANYTHING = '*';

/** Whether an act may bring any event about; what a harness does on the page stands in its author's own code. */
export const mayBringAny = (act: StepOf<'act'>): boolean =>
  act.on === 'harness' || ANY.has(eventOf(act).toLowerCase());

/** Whether the specs of a file may fire an event on an element, by its key. */
export const mayFire = ({ onElements, outOfSight }: Fired, key: string, event: string): boolean => {
  const has = (events: ReadonlySet<string> | undefined): boolean =>
    events !== undefined && (events.has(event) || events.has(ANYTHING));
  return has(onElements.get(key)) || outOfSight.some(({ events, seen }) => has(events) && !seen.has(key));
};

/** Whether the specs of a file may fire an event on the page, or on anything that it rises from. */
export const mayFireOnPage = ({ anywhere }: Fired, event: string): boolean =>
  anywhere.has(event) || anywhere.has(ANYTHING);

/** Whether an act surely fires one of some events on elements of a file, itself or by what rises from the element that it is on. */
export function surelyFires(
  act: StepOf<'act'>,
  file: string,
  events: readonly EventPlace[],
  { rendering }: FileContext,
): boolean {
  const fired = eventsOf(act) ?? [];
  const target = act.reach && rendering.target(act.reach);
  if (target?.kind !== 'one') return false;
  const keys = new Set<string>();
  let submits = eventOf(act).toLowerCase() !== 'click';
  for (let at: RenderedElement | undefined = target.element; at; at = at.parent) {
    for (const key of keysOf(at)) keys.add(key);
    submits ||= isSubmitter(at);
  }
  return events.some(
    ({ start, event }) =>
      fired.includes(event) && (event !== 'submit' || submits) && keys.has(elementKey(file, start)),
  );
}

// A button submits its form, unless its type says something else.
function isSubmitter({ tag, attributes, open }: RenderedElement): boolean {
  const type = attributes.get('type');
  const text = type?.is === 'constant' ? type.value : undefined;
  return text === 'submit' || (tag === 'button' && type === undefined && !open);
}

/** The events that the specs of a file fire. */
export const FIRED: FileFact<Fired> = fileFact('fired', firedIn);

/** The events that the specs of a file fire, with their hooks and groups, as far as they can be told. */
function firedIn(context: FileContext): Fired {
  const { file, rendering } = context;
  const fired = new Events(rendering.underAnyCondition);
  for (const spec of runningSpecs(file)) {
    const groups = blocksAround(spec).slice(1);
    const before = hooksFor(spec, 'before-all', 'before-each');
    const after = hooksFor(spec, 'after-each', 'after-all');
    fired.addAll([...groups, ...before, spec, ...after], spec);
  }
  const members = new Set(file.insides.map(({ name }) => name));
  // A spec that stands in for the listening itself calls the listener as it likes.
  const listensItself =
    file.standIns.some(({ member }) => member === 'addEventListener') ||
    file.blocks.some(({ steps }) =>
      steps.some((step) => step.kind === 'lasting' && step.lasting.key === 'addEventListener'),
    );
  if (listensItself) fired.anywhere.add(ANYTHING);
  return {
    onElements: fired.onElements,
    outOfSight: [...fired.outOfSight.values()],
    carried: fired.carried,
    anywhere: fired.anywhere,
    members,
  };
}

/** What the specs of a file may let an event carry to an element, by its key. */
export const carriedTo = ({ carried, outOfSight }: Fired, key: string, event: string): readonly Carried[] =>
  [
    ...(carried.get(key) ?? []),
    ...outOfSight.flatMap(({ carried, seen }) => (seen.has(key) ? [] : carried)),
  ].filter(({ events }) => events.has(event) || events.has(ANYTHING));

class Events {
  readonly anywhere = new Set<string>();
  readonly onElements = new Map<string, Set<string>>();
  readonly carried = new Map<string, Carried[]>();
  readonly outOfSight = new Map<
    RenderedTree | undefined,
    { events: Set<string>; carried: Carried[]; seen: ReadonlySet<string> }
  >();
  readonly #rendering: SpecRendering;

  constructor(rendering: SpecRendering) {
    this.#rendering = rendering;
  }

  // What one spec does, with what runs around it.
  addAll(blocks: readonly Block[], spec: Block): void {
    // Most specs act on nothing: what they render is only asked for where one does.
    let page: readonly RenderedTree[] | undefined;
    const touched = new Set<string>();
    const typed: Typed = new Map();
    for (const step of blocks.flatMap(({ steps }) => steps)) {
      const events = eventsOf(step);
      if (!events) continue;
      // A raw event is that one alone.
      const own = step.kind === 'act' && step.by === 'raw' && !mayBringAny(step);
      (own ? [eventOf(step).toLowerCase()] : events).forEach((event) => this.anywhere.add(event));
      if (step.kind === 'act' && step.by === 'user') {
        for (const key of touched) this.#note(key, LEFT);
        touched.clear();
      }
      page ??= this.#rendering.rendersFor(spec).map((render) => this.#rendering.tree(render));
      const { trees, found } = this.#hitBy(step, page);
      const keys = found ? [keysAbove(found)] : trees.map(keysIn);
      const values = step.kind === 'act' ? carriedBy(step, found ?? [], typed) : {};
      const carried = { events: new Set(events), ...values };
      for (const some of keys)
        for (const key of some) {
          this.#note(key, events, carried);
          touched.add(key);
        }
      if (trees.length === 0) this.#fireOutOf(undefined, events, carried);
      for (const tree of trees) if (!tree.complete) this.#fireOutOf(tree, events, carried);
    }
  }

  // The trees that a step may hit something in, and what it may hit there; any element, where that can't be told.
  #hitBy(
    step: Step,
    page: readonly RenderedTree[],
  ): { trees: readonly RenderedTree[]; found?: readonly RenderedElement[] } {
    if (step.kind !== 'act') return { trees: page };
    const { reach, on, render } = step;
    const from = reach ? originOf(reach) : (render ?? 'unknown');
    if (typeof from !== 'object') return { trees: page, found: reach && this.#rendering.mayFind(reach) };
    const tree = this.#rendering.tree(from);
    const roots = tree.children.filter((child) => child.kind === 'element');
    const isOnRoot = !reach && on === 'wrapper' && roots.length === tree.children.length;
    return { trees: [tree], found: reach ? this.#rendering.mayFind(reach) : isOnRoot ? roots : undefined };
  }

  #note(key: string, events: readonly string[], carried?: Carried): void {
    const known = this.onElements.get(key) ?? new Set();
    events.forEach((event) => known.add(event));
    this.onElements.set(key, known);
    if (!carried) return;
    const before = this.carried.get(key);
    if (before) before.push(carried);
    else this.carried.set(key, [carried]);
  }

  #fireOutOf(tree: RenderedTree | undefined, events: readonly string[], carried: Carried): void {
    const known = this.outOfSight.get(tree) ?? {
      events: new Set(),
      carried: [],
      seen: tree ? keysIn(tree) : new Set(),
    };
    events.forEach((event) => known.events.add(event));
    known.carried.push(carried);
    this.outOfSight.set(tree, known);
  }
}

// An element's own, and that of the tag of a package's component that it comes of, which has its events, too.
const keysOf = ({ file, place, usedAt }: RenderedElement): string[] => [
  elementKey(file, place.start),
  ...(usedAt ? [elementKey(usedAt.file, usedAt.start)] : []),
];

// An event rises from the elements that it is fired on.
function keysAbove(elements: Iterable<RenderedElement>): Set<string> {
  const keys = new Set<string>();
  const done = new Set<RenderedElement>();
  for (const element of elements)
    for (let at: RenderedElement | undefined = element; at && !done.has(at); at = at.parent) {
      done.add(at);
      for (const key of keysOf(at)) keys.add(key);
    }
  return keys;
}

const keysKnown = new WeakMap<RenderedTree, ReadonlySet<string>>();

// Of all elements of a tree; each worked out once.
function keysIn(tree: RenderedTree): ReadonlySet<string> {
  const keys = keysKnown.get(tree) ?? new Set(tree.elements.flatMap(keysOf));
  keysKnown.set(tree, keys);
  return keys;
}

function originOf({ from }: Reach): Render | 'page' | 'unknown' {
  return typeof from === 'object' && !('teardown' in from) ? originOf(from) : from;
}

// The events of a step; none where it is no act. What can't be read may do anything.
function eventsOf(step: Step): readonly string[] | undefined {
  if (step.kind === 'unknown-call') return step.discarded && !step.inComponent ? [ANYTHING] : undefined;
  if (step.kind !== 'act' || (step.by === 'program' && !step.reach)) return undefined;
  if (mayBringAny(step)) return [ANYTHING];
  const event = eventOf(step).toLowerCase();
  const events = (BRINGS[event] ?? event).split(' ');
  const keys = events.some((each) => KEY_EVENTS.has(each)) ? pressedKeys(step) : [];
  return [...events, ...keys.map(pressed)];
}

const KEY_EVENTS: ReadonlySet<string> = new Set(['keydown', 'keyup', 'keypress']);
const pressed = (key: string): string => `key ${key.toLowerCase()}`;

/** The keys among some that the specs of no file press on an element, by its key; none where any may be pressed. */
export const neverPressed = (files: readonly Fired[], key: string, keys: readonly string[]): string[] =>
  files.some((fired) => mayFire(fired, key, pressed(ANY_KEY)))
    ? []
    : keys.filter((each) => !files.some((fired) => mayFire(fired, key, pressed(each))));

import type { State } from '../branches/states.js';
import { visitProps } from '../components/expr-names.js';
import { filledExpr } from '../components/expr-filling.js';
import {
  choicesOf,
  constant,
  EVENT,
  importOfKey,
  isStateKey,
  UNKNOWN,
  type Constant,
  type Expr,
} from '../components/expr.js';
import type { EventPlace } from '../components/view.js';
import { allKnown } from '../util/all-known.js';

/** What an event carries. */
export interface EventValue {
  /** What `event.target.value` may be; undefined where that can't be told. */
  values?: readonly Expr[];
  /** The text is put behind what the field holds. */
  appends?: true;
  checked?: Expr;
}

/** What specs do to states. */
interface StateInputs {
  states: ReadonlyMap<string, State>;
  /** What the value of a prop is. */
  given: (name: string) => Expr | undefined;
  /** What events may carry to an element; undefined where that can't be told. */
  carriedTo: (event: EventPlace) => readonly EventValue[] | undefined;
}

const MOST_VALUES = 60;
const MOST_ROUNDS = 8;

/**
 * All values that some states may hold in specs, by the states' keys: what they hold at first, and all that their
 * component's code sets them to, whatever leads to it. Of a state of which not every value can be told there is none.
 */
export function stateValues(keys: Iterable<string>, inputs: StateInputs): Map<string, readonly Expr[]> {
  const needed = withDependencies(keys, inputs.states);
  const values = new Map<string, Map<string, Expr>>();
  const open = new Set<string>();
  const note = (key: string, expr: Expr): boolean => {
    const known = values.get(key) ?? new Map<string, Expr>();
    values.set(key, known);
    const before = known.size;
    for (const each of choicesOf(expr) ?? [expr]) {
      if (isOpen(each)) open.add(key);
      else known.set(JSON.stringify([each, typeof (each.is === 'constant' ? each.value : 0)]), each);
    }
    if (known.size > MOST_VALUES) open.add(key);
    return known.size > before;
  };
  const held = (name: string): Expr | undefined => {
    if (!isStateKey(name)) return inputs.given(name);
    const known = open.has(name) ? undefined : values.get(name);
    return known && { is: 'choice', options: [...known.values()] };
  };
  for (const key of needed) {
    const state = inputs.states.get(key);
    if (state) note(key, filledExpr(state.first, inputs.given));
    else open.add(key);
  }
  let grows = true;
  for (let round = 0; grows && round < MOST_ROUNDS; round++) {
    grows = false;
    for (const key of needed) {
      if (open.has(key)) continue;
      for (const write of inputs.states.get(key)?.writes ?? [])
        for (const expr of written(write, key, inputs, held)) grows = note(key, expr) || grows;
    }
  }
  // What still grows has no bounds; what stands on an open state is open, too, as its values are not known then.
  const found = new Map<string, readonly Expr[]>();
  if (!grows)
    for (const key of keys) if (!open.has(key)) found.set(key, [...(values.get(key)?.values() ?? [])]);
  return found;
}

/** The props that the values of some states are made of. */
export function propsBehind(keys: Iterable<string>, states: ReadonlyMap<string, State>): string[] {
  const exprs = [...withDependencies(keys, states)].flatMap((key) => {
    const state = states.get(key);
    return state ? [state.first, ...state.writes.map(({ value }) => value)] : [];
  });
  return exprs.flatMap((expr) => [...namesIn(expr)]).filter((name) => !importOfKey(name));
}

// All states that the values of some hang on.
function withDependencies(keys: Iterable<string>, states: ReadonlyMap<string, State>): ReadonlySet<string> {
  const found = new Set(keys);
  for (const key of found)
    for (const { value } of states.get(key)?.writes ?? [])
      for (const name of namesIn(value)) if (isStateKey(name)) found.add(name);
  return found;
}

function namesIn(expr: Expr): Set<string> {
  const names = new Set<string>();
  visitProps(
    expr,
    (name) => names.add(name),
    ({ of }) => names.add(of),
  );
  return names;
}

// What a write may set its state to, for each combination of what it is made of.
function written(
  write: State['writes'][number],
  key: string,
  inputs: StateInputs,
  held: (name: string) => Expr | undefined,
): readonly Expr[] {
  if (asksOfEvent(write.value)) return [UNKNOWN];
  let ways: ReadonlyMap<string, Expr>[] = [new Map()];
  for (const name of namesIn(write.value)) {
    const options = name === EVENT ? eventsOf(write, key, inputs) : optionsOf(held(name));
    if (!options || ways.length * options.length > MOST_WAYS) return [UNKNOWN];
    ways = ways.flatMap((way) => options.map((option) => new Map(way).set(name, option)));
  }
  return ways.map((way) => filledExpr(write.value, (name) => way.get(name)));
}

const MOST_WAYS = 200;

// Of an event only what its target holds is known; a component may hand its listener something else altogether.
function asksOfEvent(expr: Expr): boolean {
  let found = false;
  visitProps(
    expr,
    () => {},
    ({ of, path: [part] }) => (found ||= of === EVENT && part !== 'target' && part !== 'currentTarget'),
  );
  return found;
}

const optionsOf = (expr: Expr | undefined): readonly Expr[] | undefined =>
  expr && (choicesOf(expr) ?? [expr]);

// Each event that may lead to a write, as its handler is handed it.
function eventsOf(
  { on }: State['writes'][number],
  key: string,
  { carriedTo, states, given }: StateInputs,
): readonly Expr[] | undefined {
  const first = filledExpr(states.get(key)?.first ?? UNKNOWN, given);
  const carried = on.length > 0 ? allKnown(on.map(carriedTo))?.flat() : undefined;
  return carried?.flatMap(({ values = [UNKNOWN], checked = UNKNOWN, appends }) => {
    // What is typed into a field that is not empty comes behind what is there.
    const before = appends && first.is === 'constant' && first.value ? first.value : '';
    const behind = before ? values.map((value) => textOf(before, value)) : [];
    return [...values, ...behind].map((value) => eventWith(value, checked));
  });
}

function eventWith(value: Expr, checked: Expr): Expr {
  const target = object(['value', value], ['checked', checked]);
  return object(['target', target], ['currentTarget', target]);
}

const object = (...entries: [string, Expr][]): Expr => ({ is: 'object', entries, open: true });

const textOf = (first: Constant, then: Expr): Expr =>
  then.is === 'constant' ? constant(String(first) + String(then.value)) : UNKNOWN;

// Of a text, a list or an object something can be said whatever stands in it.
const isOpen = ({ is }: Expr): boolean =>
  is === 'unknown' || is === 'computed' || is === 'prop' || is === 'member' || is === 'shown' || is === 'if';

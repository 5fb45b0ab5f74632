import type { Data } from '../../language/operations.js';
import type { Node } from 'oxc-parser';
import type { Meaning, TypeName } from '../../libraries/meaning.js';
import type { FunctionNode } from '../../syntax/tree.js';
import type { Constant } from '../../components/expr.js';
import type { Declared, ModuleTree } from '../../project/project.js';
import type { Binding, Kind } from './blocks.js';
import type { Env } from './env.js';
import type { Either, LastingEffect, Reach, Render, StandIn } from './steps.js';

export type AnyClass = Extract<Node, { type: 'ClassDeclaration' | 'ClassExpression' }>;

/** An object that a dialect hands out, with what is known of it. */
export interface LibraryObject {
  is: 'thing';
  type: TypeName;
  reach?: Reach;
  render?: Render;
  standIn?: StandIn;
  /** What an expectation is about; `not` where it is turned round. */
  subject?: Value;
  subjectText?: string;
  /** The names on the way to the subject. */
  subjectPath?: readonly string[];
  /** The offset at which the subject stands. */
  subjectAt?: number;
  /** The subject is read through `?.`. */
  optional?: boolean;
  /** Of an expectation: the two that its subject is one of. */
  either?: Either;
  not?: boolean;
  /** The expectation is of what a promise gives, and so is a promise itself. */
  promised?: boolean;
  /** The part of the page that it is: `body`, `head`. */
  part?: string;
  /** What the call that gave it has opened. */
  opened?: LastingEffect;
  /** Of a hook that is run by itself: the stand-in that was put in its place. */
  hook?: StandIn;
}

/** What an expression of a spec file gives, as far as it can be told without running it. */
export type Value =
  | { is: 'unknown' }
  | { is: 'constant'; value: Constant }
  | { is: 'pattern'; source: string; flags: string }
  /** A text with holes. */
  | { is: 'text'; pieces: readonly (string | undefined)[] }
  /** Something that a dialect names: a function, or an object with members. `of`: what it is a member of. */
  | { is: 'library'; meaning: Meaning; module: string; name: string; of?: Value }
  /** An import of a package that no dialect names. */
  | { is: 'external'; module: string; name: string }
  /** An import whose module the file replaces: an object, of which functions are stand-ins. `members`: those made so far. */
  | { is: 'replaced'; module: string; name: string; binding: Binding; members: Map<string, Value> }
  /** A declaration of another module of the project; `held`: works out what it holds. */
  | { is: 'project'; declared: Declared; held?: () => Value }
  | { is: 'function'; node: FunctionNode; env: Env; tree: ModuleTree }
  /** `env`: where it is declared. */
  | { is: 'class'; node: AnyClass; tree: ModuleTree; env?: Env }
  /** `file`: where it is written out. */
  | { is: 'object'; node: Node; entries: ReadonlyMap<string, Value>; open: boolean; file?: string }
  | { is: 'list'; items: readonly Value[]; open: boolean; file?: string }
  | { is: 'jsx'; node: Node; env: Env; tree: ModuleTree }
  | LibraryObject
  /** A fresh object: of a class, by a constructor of the platform, or by a call. */
  | { is: 'instance'; of: Value; name: string; args?: readonly Value[] }
  /** A property path of the global object. */
  | { is: 'global'; path: string }
  /** A value read off another: a property, what a method without known meaning gives, or an operator with its other side. */
  | { is: 'read'; of: Value; name: string; than?: Value }
  /** A function with its first arguments: `shallowMount.bind(null, Kiln)`. */
  | { is: 'bound'; of: Value; args: readonly Value[] }
  /** What a stand-in gives when the spec itself calls it. */
  | { is: 'given'; by: StandIn }
  /** A promise of a value, and what made it: what is a promise is known by dialect or by `async`, never by name. */
  | { is: 'promise'; of: Value; by: Pending };

/**
 * What makes a promise: a waiting query or helper, an action, a call of an `async` function, an assertion on a promise, a timer.
 * `at-once`: an `async` function that waits for nothing is done when it returns. `tick`: a function handed to a tick, where
 * only newer versions give a promise. `each`: an `async` function that a list's method calls and does not wait for.
 */
export type Pending =
  | 'query'
  | 'wait'
  | 'action'
  | 'trigger'
  | 'helper'
  | 'at-once'
  | 'chain'
  | 'assertion'
  | 'timer'
  | 'tick'
  | 'each';

export const UNKNOWN_VALUE: Value = { is: 'unknown' };
export const constantValue = (value: Constant): Value => ({ is: 'constant', value });

/** Data as a value, written at a node. */
export function valueOfData(value: Data, node: Node, file: string): Value {
  if (typeof value !== 'object' || value === null) return constantValue(value);
  const part = (each: Data): Value => valueOfData(each, node, file);
  if (Array.isArray(value))
    return { is: 'list', items: (value as readonly Data[]).map(part), open: false, file };
  const entries = new Map(Object.entries(value).map(([key, each]) => [key, part(each as Data)] as const));
  return { is: 'object', node, entries, open: false, file };
}

const MOST_ITEMS = 200;

/**
 * What a value is that is data of another module, or a part of such data: what that module makes of it, whatever is done
 * to it since. Any other value is given as it is.
 */
export function heldData(value: Value): Value {
  const data = value.is === 'project' ? value.held?.() : value.is === 'read' ? partHeld(value) : undefined;
  if (data?.is === 'list' && data.items.length > MOST_ITEMS) return value;
  return data && isData(data) ? data : value;
}

function partHeld({ of, name, than }: Extract<Value, { is: 'read' }>): Value | undefined {
  if (than || (of.is !== 'project' && of.is !== 'read')) return undefined;
  const whole = heldData(of);
  if (whole.is === 'object') return whole.entries.get(name);
  return whole.is === 'list' && !whole.open && /^\d+$/.test(name) ? whole.items[Number(name)] : undefined;
}

const isData = ({ is }: Value): boolean =>
  is === 'constant' || is === 'text' || is === 'object' || is === 'list' || is === 'pattern';

/** The thing that a value is, or was read off. */
export function libraryObjectOf(value: Value | undefined): LibraryObject | undefined {
  let at = value;
  while (at?.is === 'read' || at?.is === 'promise') at = at.of;
  return at?.is === 'thing' ? at : undefined;
}

/** The text of a value, where it is known. */
export const textOfValue = (value: Value | undefined): string | undefined =>
  value?.is === 'constant' && (typeof value.value === 'string' || typeof value.value === 'number')
    ? String(value.value)
    : undefined;

/** What a loop over a list gives its body: its one item, or a part of it that is any of them. */
export function itemOf(list: Extract<Value, { is: 'list' }>): Value {
  const [only] = list.items;
  return list.items.length === 1 && !list.open && only ? only : { is: 'read', of: list, name: '[]' };
}

/** One of several functions of a runner: a spec that runs or is left out, as a condition says. Undefined for other values. */
export function oneOfRunners(values: readonly Value[]): Value | undefined {
  const meanings = values.map((value) => (value.is === 'library' ? value.meaning : undefined));
  const [first] = values;
  const [meaning] = meanings;
  if (first?.is !== 'library' || (meaning?.kind !== 'spec' && meaning?.kind !== 'group')) return undefined;
  const isAlike = (each: Meaning | undefined): each is typeof meaning => each?.kind === meaning.kind;
  if (!meanings.every(isAlike)) return undefined;
  const marks = new Set(meanings.map((each) => (isAlike(each) ? each.mark : undefined)));
  return marks.size === 1 ? first : { ...first, meaning: { ...meaning, mark: 'conditional' } };
}

/** Whether a value is surely `undefined` or `null`: what is asked of it throws. */
export const isNothing = (value: Value): boolean =>
  value.is === 'constant' && (value.value === undefined || value.value === null);

/** What awaiting a value gives. */
export const settled = (value: Value): Value => (value.is === 'promise' ? settled(value.of) : value);

/** A promise of a value, made by something; a promise stays the one that it is. */
export const promised = (value: Value, by: Pending): Value =>
  value.is === 'promise' ? value : { is: 'promise', of: value, by };

/** What kind of value a name that is given it holds. */
export function holding(value: Value): Kind {
  switch (value.is) {
    case 'constant':
    case 'pattern':
    case 'text':
      return 'constant';
    case 'object':
      return [...value.entries.values()].some((entry) => entry.is === 'function') ? 'closure' : 'literal';
    case 'list':
      return 'literal';
    case 'function':
    case 'class':
      return 'function';
    case 'instance':
      return value.of.is === 'class' || value.of.is === 'global' ? 'instance' : 'made';
    case 'project':
    case 'external':
      return 'module';
    case 'thing':
      if (value.standIn) return 'stand-in';
      if (value.render && !value.reach) return 'render';
      return value.reach || value.type === 'element' ? 'element' : 'unknown';
    default:
      return 'unknown';
  }
}

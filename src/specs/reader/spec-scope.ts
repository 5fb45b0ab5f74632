import type { NameBinding, ComponentScope } from '../../components/scope.js';
import { constant, FUNCTION, OBJECT, SOMETHING, UNKNOWN, type Expr } from '../../components/expr.js';
import { resultOf } from '../../components/calls.js';
import { joined } from '../../components/expr-text.js';
import { refOf } from '../../components/frameworks/react/react.js';
import { viewOf } from '../../components/frameworks/react/jsx.js';
import type { ComponentRef, ViewNode } from '../../components/view.js';
import type { ModuleTree } from '../../project/project.js';
import type { Env } from '../model/env.js';
import { heldData, type Value } from '../model/values.js';

/** The names of a spec as markup in it sees them. */
export function specScope(env: Env, tree: ModuleTree): ComponentScope {
  return {
    text: tree.script.source.text,
    file: tree.path,
    ref: (name) => (isLocal(env, name) ? handedOver(env, name) : refOf(name, tree.facts)),
    lookup: (name) => {
      const slot = env.find(name);
      return slot && boundOf(slot.value, tree);
    },
  };
}

// The names of markup that a helper of another file is handed: they stand for what they do where it is written.
function handedTo(tree: ModuleTree, scope: ComponentScope, from: ModuleTree): ComponentScope {
  if (from === tree) return scope;
  return {
    ...scope,
    ref: (name) => {
      const ref = scope.ref(name);
      if (!ref || !('local' in ref || ('specifier' in ref && ref.specifier.startsWith('.')))) return ref;
      const [local = name] = name.split('.');
      return { local, part: ref.part, file: ('file' in ref && ref.file) || from.path };
    },
  };
}

// A component that a spec makes for itself hides one of the same name.
function isLocal(env: Env, name: string): boolean {
  const owner = env.owner(name);
  return owner !== undefined && owner.block.kind !== 'file' && owner.parent !== undefined;
}

// `<Component />` in a helper that is given the component.
function handedOver(env: Env, name: string): ComponentRef | undefined {
  const value = env.find(name)?.value;
  if (value?.is === 'function' || value?.is === 'class')
    return { file: value.tree.path, at: value.node.start };
  return value?.is === 'project' ? { file: value.declared.file, local: value.declared.name } : undefined;
}

function boundOf(given: Value, tree: ModuleTree): NameBinding {
  const value = heldData(given);
  switch (value.is) {
    case 'constant':
    case 'text':
      return { is: 'expr', expr: exprOfValue(value) };
    case 'jsx':
      return { is: 'view', view: viewOfValue(value, tree) ?? [] };
    case 'list': {
      const views = value.open ? [] : value.items.map((each) => viewOfValue(each, tree));
      const isMarkup = views.length > 0 && views.every((view) => view !== undefined);
      return isMarkup ? { is: 'view', view: views.flat() } : { is: 'expr', expr: exprOfValue(value) };
    }
    case 'object':
    case 'function':
    case 'instance':
    case 'thing':
      return { is: 'expr', expr: exprOfValue(value) };
    default:
      return { is: 'unknown' };
  }
}

// Modules may hold each other's data.
const DEEPEST = 12;

/** A value as an expression of markup. */
export function exprOfValue(given: Value | undefined, depth = 0): Expr {
  const value = given && heldData(given);
  if (depth > DEEPEST) return UNKNOWN;
  const inner = (each: Value): Expr => exprOfValue(each, depth + 1);
  switch (value?.is) {
    case 'constant':
      return constant(value.value);
    case 'text':
      return joined(value.pieces.map((piece) => (piece === undefined ? UNKNOWN : constant(piece))));
    case 'object':
      return {
        is: 'object',
        entries: [...value.entries].map(([key, each]) => [key, inner(each)] as const),
        open: value.open,
      };
    case 'list':
      return value.open ? SOMETHING : { is: 'list', items: value.items.map(inner) };
    case 'function':
    case 'class':
      return FUNCTION;
    case 'jsx':
      return OBJECT;
    // What `new` makes; of what another call gives, nothing is known.
    case 'instance':
      return value.args ? OBJECT : UNKNOWN;
    case 'thing':
      return value.standIn ? SOMETHING : UNKNOWN;
    default:
      return UNKNOWN;
  }
}

/** What a function gives when it is called without arguments, where it is short and plain. */
export const resultOfValue = (value: Value): Expr | undefined =>
  value.is === 'function' ? resultOf(value.node, specScope(value.env, value.tree), [], 0) : undefined;

/** What markup in a spec shows, with names as another file sees them, where one is given; undefined for values that are not markup. */
export const viewOfValue = (value: Value | undefined, by?: ModuleTree): ViewNode[] | undefined =>
  value?.is === 'jsx'
    ? viewOf(value.node, handedTo(by ?? value.tree, specScope(value.env, value.tree), value.tree))
    : undefined;

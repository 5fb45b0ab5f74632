import type { Node } from 'oxc-parser';
import {
  isFunction,
  memberName,
  namesReadIn,
  propertyName,
  unwrapped,
  walkTree,
  type ClassNode,
  type FunctionNode,
} from '../../../syntax/tree.js';
import { namesIn } from '../../../syntax/module-facts.js';
import { boundOf, type ComponentScope, type NameBinding } from '../../scope.js';

/**
 * The props that a React component reads by their names, or more; undefined where it may read any, as it hands all of
 * them on, or on to what can't be followed.
 */
export function takenProps(component: FunctionNode | ClassNode): ReadonlySet<string> | undefined {
  if (!isFunction(component)) return ofClass(component);
  const [param] = component.params;
  if (!param) return new Set();
  const given = param.type === 'AssignmentPattern' ? param.left : param;
  if (given.type === 'ObjectPattern') return keysIn(given);
  return given.type === 'Identifier' && component.body ? readOff(given.name, component.body) : undefined;
}

/** The props that the code of a component is seen to read. */
interface ReadProps {
  names: ReadonlySet<string>;
  /** The names in its code that hold one, each with the prop's. */
  locals: ReadonlyMap<string, string>;
}

/** The props that a React component reads by their names: more, it may hand on. `scope`: the one of its body. */
export function readProps(component: FunctionNode | ClassNode, scope: ComponentScope): ReadProps {
  const names = new Set<string>();
  const locals = new Map<string, string>();
  // `const { cone, ...more } = this.props`, in a method: no scope of the component holds it.
  const rests = new Set<string>();
  const isHolder = (name: string): boolean => rests.has(name) || isHolding(scope.lookup(name));
  const holds = (node: Node): boolean => {
    const value = unwrapped(node);
    return (value.type === 'Identifier' && rests.has(value.name)) || isHolding(boundOf(value, scope));
  };
  walkTree(component, (node) => {
    // Another thing goes by the name in there.
    if (node !== component && isFunction(node) && node.params.flatMap((each) => namesIn(each)).some(isHolder))
      return false;
    if (node.type === 'MemberExpression') {
      const key = memberName(node);
      if (key !== undefined && holds(node.object)) names.add(key);
    } else if (node.type === 'VariableDeclarator' && node.init && holds(node.init)) {
      for (const [key, local] of takenApart(node.id)) {
        names.add(key);
        if (local !== undefined) locals.set(local, key);
      }
      const rest = node.id.type === 'ObjectPattern' ? node.id.properties.at(-1) : undefined;
      if (rest?.type === 'RestElement' && rest.argument.type === 'Identifier') rests.add(rest.argument.name);
    }
    return true;
  });
  return { names, locals };
}

const isHolding = (bound: NameBinding | undefined): boolean => bound?.is === 'props' || bound?.is === 'rest';

// The keys that a pattern takes, each with the name that it goes by, where it has one.
const takenApart = (pattern: Node): [string, string?][] =>
  pattern.type !== 'ObjectPattern'
    ? []
    : pattern.properties.flatMap((each): [string, string?][] => {
        const key = each.type === 'Property' ? propertyName(each.key, each.computed) : undefined;
        if (each.type !== 'Property' || key === undefined) return [];
        const local = each.value.type === 'AssignmentPattern' ? each.value.left : each.value;
        return [local.type === 'Identifier' ? [key, local.name] : [key]];
      });

// The keys of a pattern; undefined where a name takes the rest.
function keysIn(pattern: Node): Set<string> | undefined {
  const taken = takenApart(pattern);
  const isWhole = pattern.type === 'ObjectPattern' && taken.length === pattern.properties.length;
  return isWhole ? new Set(taken.map(([key]) => key)) : undefined;
}

// What is read off the object of all props: each place where its name stands must be one that says which.
function readOff(name: string, body: Node): Set<string> | undefined {
  const found = new Set<string>();
  const told = new Set<Node>();
  let isOpen = false;
  const visit = (node: Node): boolean => {
    // Another thing goes by the name in there.
    if (isFunction(node) && node.params.some((each) => namesIn(each).includes(name))) return false;
    const [from, keys] = namedBy(node);
    const object = from && unwrapped(from);
    if (object?.type === 'Identifier' && object.name === name && keys) {
      told.add(object);
      for (const key of keys) found.add(key);
    }
    // A key is no use of what goes by its name.
    if (node.type === 'MemberExpression' && !node.computed) told.add(node.property);
    if (node.type === 'Property' && !node.computed && !node.shorthand) told.add(node.key);
    const isName = node.type === 'Identifier' || node.type === 'JSXIdentifier';
    isOpen ||= isName && node.name === name && !told.has(node);
    return !isOpen;
  };
  walkTree(body, visit);
  return isOpen ? undefined : found;
}

// `props.cone` and `const { cone } = props`: the object, and the keys that are read of it.
function namedBy(node: Node): [Node | undefined, Iterable<string>?] {
  if (node.type === 'MemberExpression') {
    const key = memberName(node);
    return key === undefined ? [undefined] : [node.object, [key]];
  }
  return node.type === 'VariableDeclarator' && node.init ? [node.init, keysIn(node.id)] : [undefined];
}

// Methods of the framework are given the props of other times too: any name in the class may be one.
function ofClass(node: ClassNode): ReadonlySet<string> | undefined {
  const base = node.superClass && unwrapped(node.superClass);
  const isOwn =
    base &&
    /(?:^|\.)(?:Pure)?Component$/.test(memberName(base) ?? (base.type === 'Identifier' ? base.name : ''));
  if (!isOwn) return undefined;
  const told = new Set<Node>();
  let isOpen = false;
  walkTree(node, (each) => {
    const [from, keys] = namedBy(each);
    if (from && keys && isOwnProps(unwrapped(from))) told.add(unwrapped(from));
  });
  walkTree(node, (each) => {
    isOpen ||= isOwnProps(each) && !told.has(each);
    return !isOpen;
  });
  return isOpen ? undefined : new Set(namesReadIn(node));
}

const isOwnProps = (node: Node): boolean =>
  node.type === 'MemberExpression' && node.object.type === 'ThisExpression' && memberName(node) === 'props';

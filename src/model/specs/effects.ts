import type { Node } from 'oxc-parser';
import { memberName, propertyName, unwrapped, walkTree, type FunctionNode } from '../../parse/tree.js';
import type { ModuleTree } from '../project.js';
import type { Effect } from './steps.js';
import type { ClassNode, Value } from './values.js';

const words = (text: string): ReadonlySet<string> => new Set(text.split(' '));

/** Methods of the platform's collections and dates that change their object. */
export const CHANGING_METHODS = words(
  'push pop shift unshift splice sort reverse fill copyWithin set add delete clear append setDate setFullYear setHours setMilliseconds setMinutes setMonth setSeconds setTime setUTCDate setUTCFullYear setUTCHours setUTCMinutes setUTCMonth setUTCSeconds',
);

const COLLECTIONS = words(
  'Map Set WeakMap WeakSet Array Date URLSearchParams FormData Headers Int8Array Uint8Array Int16Array Uint16Array Int32Array Uint32Array Float32Array Float64Array',
);
const NONE: ReadonlySet<string> = new Set();

/** Whether a constructor of the platform makes something that its methods can change. */
export const isCollection = (name: string): boolean => COLLECTIONS.has(name);

/** What a method call on a value does to it; undefined where that can't be told. `path`: from the value to the method. */
export function methodEffect(value: Value, path: readonly string[]): Effect | undefined {
  const method = path.at(-1);
  if (method === undefined) return undefined;
  if (
    value.is === 'instance' &&
    value.of.is === 'global' &&
    isCollection(value.of.path) &&
    path.length === 1
  ) {
    return CHANGING_METHODS.has(method) ? { writes: 'all', reads: 'all' } : { writes: NONE, reads: 'all' };
  }
  if (value.is === 'instance' && value.of.is === 'class') {
    if (path.length === 1) return classEffect(value.of.node, value.of.tree, method);
    const field = path[0] ?? '';
    return CHANGING_METHODS.has(method) && !hasMember(value.of.node, field, 'method')
      ? { writes: new Set([field]), reads: new Set([field]) }
      : undefined;
  }
  if ((value.is === 'list' || value.is === 'object') && CHANGING_METHODS.has(method))
    return { writes: 'all', reads: 'all' };
  return undefined;
}

/** What running a method of a class writes and reads on `this`; undefined for a method that the class does not declare. */
export function classEffect(node: ClassNode, tree: ModuleTree, method: string): Effect | undefined {
  const fn = methodOf(node, method);
  if (!fn?.body) return undefined;
  const found = { writes: new Set<string>(), reads: new Set<string>(), at: undefined as Effect['at'] };
  collect(node, tree, fn, found, new Set([method]));
  return found;
}

interface Found {
  writes: Set<string>;
  reads: Set<string>;
  at: Effect['at'];
}

function collect(node: ClassNode, tree: ModuleTree, fn: FunctionNode, found: Found, seen: Set<string>): void {
  const write = (field: string, at: Node): void => {
    found.writes.add(field);
    found.at ??= { file: tree.path, start: at.start, end: at.end };
  };
  const visit = (each: Node): boolean => {
    // A function of its own has a `this` of its own.
    if (each !== fn && (each.type === 'FunctionExpression' || each.type === 'FunctionDeclaration'))
      return false;
    const target = writtenBy(each);
    const field = target && fieldOf(target);
    if (field) write(field, each);
    // `this.x = 1` does not take in what x was; `this.x += 1` and `this.x.y = 1` do.
    if (each.type === 'AssignmentExpression' && each.operator === '=' && isOwnField(each.left)) {
      walkTree(each.right, visit);
      return false;
    }
    if (each.type === 'CallExpression') call(each);
    const read = each.type === 'MemberExpression' ? fieldOf(each) : undefined;
    if (read && methodOf(node, read) === undefined) found.reads.add(read);
    return true;
  };
  const call = (each: Extract<Node, { type: 'CallExpression' }>): void => {
    const callee = unwrapped(each.callee);
    const name = memberName(callee);
    if (callee.type !== 'MemberExpression' || name === undefined) return;
    const field = fieldOf(callee.object);
    if (field && CHANGING_METHODS.has(name)) write(field, each);
    if (callee.object.type !== 'ThisExpression' || seen.has(name)) return;
    seen.add(name);
    const inner = methodOf(node, name);
    if (inner?.body) collect(node, tree, inner, found, seen);
  };
  walkTree(fn, visit);
}

function writtenBy(node: Node): Node | undefined {
  if (node.type === 'AssignmentExpression') return node.left;
  const takes =
    node.type === 'UpdateExpression' || (node.type === 'UnaryExpression' && node.operator === 'delete');
  return takes ? node.argument : undefined;
}

const isOwnField = (node: Node): boolean =>
  node.type === 'MemberExpression' && node.object.type === 'ThisExpression';

// The field of `this` that a chain starts with: `this.shelves[0].full` is `shelves`.
function fieldOf(node: Node): string | undefined {
  let at = unwrapped(node);
  let name: string | undefined;
  while (at.type === 'MemberExpression') {
    name = memberName(at) ?? '[]';
    at = unwrapped(at.object);
  }
  return at.type === 'ThisExpression' ? name : undefined;
}

function methodOf(node: ClassNode, name: string): FunctionNode | undefined {
  for (const each of node.body.body) {
    if (each.type !== 'MethodDefinition' && each.type !== 'PropertyDefinition') continue;
    if (propertyName(each.key, each.computed) !== name || each.static) continue;
    if (each.value?.type === 'FunctionExpression' || each.value?.type === 'ArrowFunctionExpression')
      return each.value;
  }
  return undefined;
}

/** Whether a class itself declares a member of a kind. */
export function hasMember(node: ClassNode, name: string, kind: 'method' | 'get'): boolean {
  return node.body.body.some(
    (each) =>
      each.type === 'MethodDefinition' &&
      each.kind === kind &&
      propertyName(each.key, each.computed) === name,
  );
}

/** The fields that reading a property takes in: a getter reads others. */
export function readEffect(value: Value, property: string): ReadonlySet<string> | 'all' {
  if (value.is !== 'instance' || value.of.is !== 'class') return 'all';
  const { node, tree } = value.of;
  if (!hasMember(node, property, 'get')) return new Set([property]);
  return classEffect(node, tree, property)?.reads ?? 'all';
}

import type { Node } from 'oxc-parser';
import { memberName, propertyName, unwrapped, walkTree, type FunctionNode } from '../../syntax/tree.js';
import { storeDeed } from '../../libraries/stores.js';
import { LIST_CHANGERS } from '../../components/changed-props.js';
import type { ModuleTree } from '../../project/project.js';
import type { Effect } from '../model/steps.js';
import type { AnyClass, Value } from '../model/values.js';

const words = (text: string): ReadonlySet<string> => new Set(text.split(' '));

// Methods of the platform's collections and dates that change their object.
const CHANGING_METHODS = words(
  `${LIST_CHANGERS.join(' ')} set add delete clear append toggle replace setProperty removeProperty setDate setFullYear setHours setMilliseconds setMinutes setMonth setSeconds setTime setUTCDate setUTCFullYear setUTCHours setUTCMinutes setUTCMonth setUTCSeconds`,
);

// Those that leave what is there, and do not look at it.
const ADDING_METHODS = words('push unshift add append');

const CHANGING_ELEMENT = words(
  'append appendChild prepend insertBefore replaceChildren removeChild setAttribute removeAttribute toggleAttribute insertAdjacentHTML insertAdjacentElement',
);

const COLLECTIONS = words(
  'Map Set Array Date URLSearchParams FormData Headers Int8Array Uint8Array Int16Array Uint16Array Int32Array Uint32Array Float32Array Float64Array',
);
const WEAK: ReadonlySet<string> = new Set(['WeakMap', 'WeakSet']);
const NONE: ReadonlySet<string> = new Set();

// A constructor of the platform that makes something which its methods can change.
const isCollection = (name: string): boolean => COLLECTIONS.has(name);

/** What a method call on a value does to it; undefined where that can't be told. `path`: from the value to the method. */
export function methodEffect(value: Value, path: readonly string[]): Effect | undefined {
  const [field, ...rest] = path;
  const method = path.at(-1);
  if (field === undefined || method === undefined) return undefined;
  if (rest.length > 0) return partEffect(value, field, rest, method);
  const changing = CHANGING_METHODS.has(method);
  switch (value.is) {
    case 'instance':
      if (value.of.is === 'class') return classEffect(instanceOf(value.of), method);
      if (value.of.is !== 'global') return storeEffect(value, method);
      // What goes by an object that a spec makes, no other spec meets.
      if (WEAK.has(value.of.path)) return { writes: NONE, reads: NONE };
      return isCollection(value.of.path) ? onAll(changing, ADDING_METHODS.has(method)) : undefined;
    case 'class':
      return classEffect({ ...value, isStatic: true }, method);
    case 'list':
      return onAll(changing, ADDING_METHODS.has(method));
    case 'thing':
      return value.type === 'element' ? onAll(CHANGING_ELEMENT.has(method)) : undefined;
    default:
      return undefined;
  }
}

// A store, made at once or by what its maker gives: `create<Kilns>()(…)`.
function storeEffect(value: Value, method: string): Effect | undefined {
  let made = value;
  while (made.is === 'instance') made = made.of;
  const deed = made.is === 'external' ? storeDeed(made.module, made.name, method) : undefined;
  return deed && onAll(deed === 'writes');
}

const onAll = (changing: boolean, adding = false): Effect => ({
  writes: changing ? 'all' : NONE,
  reads: adding ? NONE : 'all',
  adds: adding ? 'all' : undefined,
});

// A method of a part: `kiln.shelves.push()`, `card.classList.add()`.
function partEffect(
  value: Value,
  field: string,
  rest: readonly string[],
  method: string,
): Effect | undefined {
  const part = partOf(value, field);
  const reads = new Set([field]);
  const inner = part && methodEffect(part, rest);
  if (inner) {
    const writes = inner.writes === 'all' || inner.writes.size > 0;
    const adds = inner.adds === undefined ? undefined : reads;
    return { writes: writes ? reads : NONE, reads: adds ? NONE : reads, adds, at: inner.at };
  }
  if (part || !CHANGING_METHODS.has(method)) return undefined;
  const known = value.is === 'instance' && (value.of.is === 'class' || value.of.is === 'global');
  return known || value.is === 'object' || value.is === 'thing' || value.is === 'class'
    ? { writes: reads, reads }
    : undefined;
}

// What stands in a property at first: an entry, an item, or what a field of a class is given.
function partOf(value: Value, field: string): Value | undefined {
  if (value.is === 'object') return known(value.entries.get(field));
  if (value.is === 'list') return known(value.items[Number(field)]);
  if (value.is !== 'instance' || value.of.is !== 'class') return undefined;
  const { node, tree } = value.of;
  const first = fieldNode(node, field);
  if (first?.type !== 'NewExpression' || first.callee.type !== 'Identifier') return undefined;
  const made = tree.facts.declarations.get(first.callee.name);
  return made?.type === 'ClassDeclaration'
    ? { is: 'instance', of: { is: 'class', node: made, tree }, name: first.callee.name }
    : undefined;
}

const known = (value: Value | undefined): Value | undefined => (value?.is === 'unknown' ? undefined : value);

function fieldNode(node: AnyClass, name: string): Node | undefined {
  for (const each of node.body.body)
    if (each.type === 'PropertyDefinition' && !each.static && propertyName(each.key, each.computed) === name)
      return each.value ?? undefined;
  return undefined;
}

/** What writing a property changes: a setter writes other fields. */
export function writeEffect(value: Value, [field]: readonly string[]): Effect | undefined {
  if (value.is !== 'instance' || field === undefined) return undefined;
  // Its parts are views of one another: `href`, `pathname`, `search`.
  if (value.of.is === 'global' && value.of.path === 'URL') return { writes: 'all', reads: NONE };
  if (value.of.is !== 'class') return undefined;
  const setter = setterOf(value.of.node, field);
  if (!setter) return undefined;
  const found: Found = { writes: new Set([field]), reads: new Set(), adds: new Set(), at: undefined };
  collect(instanceOf(value.of), setter, found, new Set());
  return found;
}

/** Whose fields a method writes: those of an instance of a class, or of the class itself. */
interface Owner {
  node: AnyClass;
  tree: ModuleTree;
  isStatic: boolean;
}

const instanceOf = ({ node, tree }: Pick<Owner, 'node' | 'tree'>): Owner => ({ node, tree, isStatic: false });

// What running a method of a class writes and reads on `this`; undefined for a method that the class does not declare.
function classEffect(owner: Owner, method: string): Effect | undefined {
  const fn = methodOf(owner, method);
  if (!fn?.body) return undefined;
  const found: Found = { writes: new Set(), reads: new Set(), adds: new Set(), at: undefined };
  collect(owner, fn, found, new Set([method]));
  return found;
}

interface Found {
  writes: Set<string>;
  reads: Set<string>;
  adds: Set<string>;
  at: Effect['at'];
}

function collect(owner: Owner, fn: FunctionNode, found: Found, seen: Set<string>): void {
  const write = (field: string, at: Node): void => {
    found.writes.add(field);
    found.at ??= { file: owner.tree.path, start: at.start, end: at.end };
  };
  const visit = (each: Node): boolean => {
    // A function of its own has a `this` of its own.
    if (each !== fn && (each.type === 'FunctionExpression' || each.type === 'FunctionDeclaration'))
      return false;
    const target = writtenBy(each);
    const field = target && fieldOf(target, owner);
    if (field) write(field, each);
    // `this.x = 1` does not take in what x was; `this.x += 1` and `this.x.y = 1` do.
    if (each.type === 'AssignmentExpression' && each.operator === '=' && isOwnField(each.left, owner)) {
      walkTree(each.right, visit);
      return false;
    }
    if (each.type === 'CallExpression' && adds(each)) return false;
    if (each.type === 'CallExpression') call(each);
    const read = each.type === 'MemberExpression' ? fieldOf(each, owner) : undefined;
    if (read && methodOf(owner, read) === undefined) found.reads.add(read);
    return true;
  };
  // `this.pieces.push(piece)`: what is added may come from other fields.
  const adds = (each: Extract<Node, { type: 'CallExpression' }>): boolean => {
    const callee = unwrapped(each.callee);
    const field = callee.type === 'MemberExpression' ? fieldOf(callee.object, owner) : undefined;
    if (field === undefined || !ADDING_METHODS.has(memberName(callee) ?? '')) return false;
    write(field, each);
    found.adds.add(field);
    each.arguments.forEach((argument) => walkTree(argument, visit));
    return true;
  };
  const call = (each: Extract<Node, { type: 'CallExpression' }>): void => {
    const callee = unwrapped(each.callee);
    const name = memberName(callee);
    if (callee.type !== 'MemberExpression' || name === undefined) return;
    const field = fieldOf(callee.object, owner);
    if (field && CHANGING_METHODS.has(name)) write(field, each);
    if (!isOwner(callee.object, owner) || seen.has(name)) return;
    seen.add(name);
    const inner = methodOf(owner, name);
    if (inner?.body) collect(owner, inner, found, seen);
  };
  walkTree(fn, visit);
}

function writtenBy(node: Node): Node | undefined {
  if (node.type === 'AssignmentExpression') return node.left;
  const takes =
    node.type === 'UpdateExpression' || (node.type === 'UnaryExpression' && node.operator === 'delete');
  return takes ? node.argument : undefined;
}

// `this`, or the class by its name.
const isOwner = (node: Node, { node: own, isStatic }: Owner): boolean =>
  node.type === 'ThisExpression' || (isStatic && node.type === 'Identifier' && node.name === own.id?.name);

const isOwnField = (node: Node, owner: Owner): boolean =>
  node.type === 'MemberExpression' && isOwner(node.object, owner);

// The field of `this` that a chain starts with: `this.shelves[0].full` is `shelves`.
function fieldOf(node: Node, owner: Owner): string | undefined {
  let at = unwrapped(node);
  let name: string | undefined;
  while (at.type === 'MemberExpression') {
    name = memberName(at) ?? '[]';
    at = unwrapped(at.object);
  }
  return isOwner(at, owner) ? name : undefined;
}

function methodOf({ node, isStatic }: Owner, name: string): FunctionNode | undefined {
  for (const each of node.body.body) {
    if (each.type !== 'MethodDefinition' && each.type !== 'PropertyDefinition') continue;
    if (propertyName(each.key, each.computed) !== name || each.static !== isStatic) continue;
    if (each.type === 'MethodDefinition' && each.kind === 'set') continue;
    if (each.value?.type === 'FunctionExpression' || each.value?.type === 'ArrowFunctionExpression')
      return each.value;
  }
  return undefined;
}

function setterOf(node: AnyClass, name: string): FunctionNode | undefined {
  for (const each of node.body.body)
    if (each.type === 'MethodDefinition' && each.kind === 'set' && !each.static)
      if (propertyName(each.key, each.computed) === name) return each.value;
  return undefined;
}

// Whether a class itself declares a member of a kind.
function hasMember(node: AnyClass, name: string, kind: 'method' | 'get'): boolean {
  return node.body.body.some(
    (each) =>
      each.type === 'MethodDefinition' &&
      each.kind === kind &&
      propertyName(each.key, each.computed) === name,
  );
}

/** The fields that reading a property takes in: a getter reads others, a part of a collection all. */
export function readEffect(value: Value, property: string): ReadonlySet<string> | 'all' {
  if (value.is === 'list' || value.is === 'thing') return 'all';
  if (value.is !== 'instance') return new Set([property]);
  if (value.of.is === 'global') return 'all';
  if (value.of.is !== 'class' || !hasMember(value.of.node, property, 'get')) return new Set([property]);
  return classEffect(instanceOf(value.of), property)?.reads ?? 'all';
}

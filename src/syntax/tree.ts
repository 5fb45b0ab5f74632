import { counted } from '../util/counted.js';
import {
  visitorKeys,
  type ArrowFunctionExpression,
  type Expression,
  type Function as OxcFunction,
  type Node,
} from 'oxc-parser';

/** The child nodes of a node, in the order of the source. */
export function childrenOf(node: Node): Node[] {
  const found: Node[] = [];
  const fields = node as unknown as Record<string, Node | (Node | null)[] | null | undefined>;
  for (const key of visitorKeys[node.type] ?? []) {
    const value = fields[key];
    if (Array.isArray(value)) {
      for (const child of value) if (child) found.push(child);
    } else if (value) found.push(value);
  }
  return found;
}

/** Calls `visit` for a node and everything below it, outer first; `false` leaves out what is below. */
export function walkTree(node: Node, visit: (node: Node) => boolean | void): void {
  if (visit(node) === false) return;
  // Most of the tree passes here: no list is made of what is below.
  const fields = node as unknown as Record<string, Node | (Node | null)[] | null | undefined>;
  for (const key of visitorKeys[node.type] ?? []) {
    const value = fields[key];
    if (Array.isArray(value)) {
      for (const child of value) if (child) walkTree(child, visit);
    } else if (value) walkTree(value, visit);
  }
}

/** Whether a node, or one below it, is of a kind: the walk ends at the first. */
export function hasNode(root: Node, is: (node: Node) => boolean): boolean {
  let isFound = false;
  walkTree(root, (node) => {
    isFound ||= is(node);
    return !isFound;
  });
  return isFound;
}

/** An expression without the wrappers that do nothing when it runs: casts, non-null marks, chains. */
export function unwrapped(node: Node): Node {
  let inner = node;
  for (;;) {
    switch (inner.type) {
      case 'TSAsExpression':
      case 'TSSatisfiesExpression':
      case 'TSNonNullExpression':
      case 'TSTypeAssertion':
      case 'TSInstantiationExpression':
      case 'ChainExpression':
      case 'ParenthesizedExpression':
        inner = inner.expression;
        break;
      default:
        return inner;
    }
  }
}

/** The name that an expression starts from, and the properties and methods on the way: `wrapper.text()` has `wrapper`, `text`. */
export function namesOnTheWay(node: Node): string[] {
  const names: string[] = [];
  let at = unwrapped(node);
  for (;;) {
    if (at.type === 'AwaitExpression') at = unwrapped(at.argument);
    else if (at.type === 'CallExpression') at = unwrapped(at.callee);
    else if (at.type === 'MemberExpression') {
      names.unshift(memberName(at) ?? '[]');
      at = unwrapped(at.object);
    } else return at.type === 'Identifier' ? [at.name, ...names] : names;
  }
}

/** Whether an expression is read through `?.`: what stands behind it may be missing. */
export function isOptionalChain(node: Node): boolean {
  switch (node.type) {
    case 'ChainExpression':
      return true;
    case 'TSAsExpression':
    case 'TSNonNullExpression':
    case 'TSTypeAssertion':
    case 'ParenthesizedExpression':
      return isOptionalChain(node.expression);
    case 'AwaitExpression':
      return isOptionalChain(node.argument);
    default:
      return false;
  }
}

/** The name of a static property, as written by identifier, string or number; undefined where it is computed. */
export function propertyName(key: Node, computed: boolean): string | undefined {
  if (!computed && (key.type === 'Identifier' || key.type === 'PrivateIdentifier')) return key.name;
  return literalText(key);
}

/** The text of a string or number literal, or of a template without holes. */
export function literalText(node: Node): string | undefined {
  if (node.type === 'Literal' && (typeof node.value === 'string' || typeof node.value === 'number')) {
    return String(node.value);
  }
  if (node.type === 'TemplateLiteral' && node.expressions.length === 0) {
    return node.quasis[0]?.value.cooked ?? undefined;
  }
  return undefined;
}

/** The property that a member expression takes, if it can be read. */
export function memberName(node: Node): string | undefined {
  if (node.type !== 'MemberExpression') return undefined;
  return propertyName(node.property, node.computed);
}

/** A chain of properties down to the expression that it starts from. */
export function propertyChain(node: Node): { root: Node; path: string[] } {
  const path: string[] = [];
  let at = unwrapped(node);
  while (at.type === 'MemberExpression') {
    path.unshift(memberName(at) ?? '[]');
    at = unwrapped(at.object);
  }
  return { root: at, path };
}

/** The name that a call goes by: of its function, or of the method. */
export function calledName(call: Extract<Node, { type: 'CallExpression' }>): string | undefined {
  const callee = unwrapped(call.callee);
  return callee.type === 'Identifier' ? callee.name : memberName(callee);
}

/** A name, or a name and a property, as a path: `String`, `Math.max`. */
export function pathOf(node: Node): string | undefined {
  if (node.type === 'Identifier') return node.name;
  if (node.type !== 'MemberExpression' || node.object.type !== 'Identifier') return undefined;
  const name = memberName(node);
  return name === undefined ? undefined : `${node.object.name}.${name}`;
}

/** What an assignment or an update writes to. */
export function writtenTo(node: Node): Node | undefined {
  if (node.type === 'AssignmentExpression') return node.left;
  return node.type === 'UpdateExpression' ? node.argument : undefined;
}

export type FunctionNode = OxcFunction | ArrowFunctionExpression;

export const isFunction = (node: Node | null | undefined): node is FunctionNode =>
  node?.type === 'FunctionDeclaration' ||
  node?.type === 'FunctionExpression' ||
  node?.type === 'ArrowFunctionExpression';

/** The expressions that a function gives back, those of functions inside it left out. */
export function returnedFrom(fn: FunctionNode): Expression[] {
  if (!fn.body) return [];
  if (fn.body.type !== 'BlockStatement') return [fn.body as Expression];
  const found: Expression[] = [];
  walkTree(fn.body, (node) => {
    if (isFunction(node) || node.type === 'ClassDeclaration' || node.type === 'ClassExpression') return false;
    if (node.type === 'ReturnStatement' && node.argument) found.push(node.argument);
    return true;
  });
  return found;
}

/** The argument of a `require(…)` call: the module that it names. */
export function requiredNode(node: Node): Node | undefined {
  const inner = unwrapped(node);
  const isRequire =
    inner.type === 'CallExpression' && inner.callee.type === 'Identifier' && inner.callee.name === 'require';
  return isRequire ? inner.arguments[0] : undefined;
}

/** The module that a `require('…')` call names. */
export function requiredModule(node: Node): string | undefined {
  const module = requiredNode(node);
  return module && literalText(module);
}

/** The module that a `require('x')` names, bare or in the helpers of compilers: `_interopRequireWildcard(require('x'))`. */
export function moduleIn(node: Node): string | undefined {
  const inner = unwrapped(node);
  const own = requiredModule(inner);
  if (own !== undefined || inner.type !== 'CallExpression') return own;
  const isHelper = /interop|__importStar|__importDefault|__toESM|_export_star/.test(
    pathOf(inner.callee) ?? '',
  );
  const [first] = inner.arguments;
  return isHelper && first ? moduleIn(first) : undefined;
}

export type ObjectNode = Extract<Node, { type: 'ObjectExpression' }>;

export type ClassNode = Extract<Node, { type: 'ClassDeclaration' | 'ClassExpression' }>;

/** All names of variables and members that a node reads, its own functions' included. */
export function namesReadIn(node: Node): string[] {
  const names = new Set<string>();
  walkTree(node, (each) => {
    if (each.type === 'Identifier') names.add(each.name);
    const member = memberName(each);
    if (member !== undefined) names.add(member);
    // `import.meta`
    if (each.type === 'MetaProperty') names.add('meta');
  });
  return [...names];
}

/** All words of a tree: names of variables, members, attributes and tags, and the words of its texts. */
export function wordsNamedIn(node: Node): Set<string> {
  const words = new Set<string>();
  const add = (text: string): void => text.match(/[\w$-]+(?::[\w$-]+)*/g)?.forEach((word) => words.add(word));
  walkTree(node, (each) => {
    switch (each.type) {
      case 'Identifier':
      case 'JSXIdentifier':
        words.add(each.name);
        break;
      case 'Literal':
        if (typeof each.value === 'string') add(each.value);
        break;
      case 'TemplateElement':
        add(each.value.raw);
        break;
    }
  });
  return words;
}

/** How often a tree says each name, of a variable or a member, and each text as a whole. */
export function saidIn(node: Node): Map<string, number> {
  const words: string[] = [];
  walkTree(node, (each) => {
    const word = each.type === 'Identifier' ? each.name : literalText(each);
    if (word !== undefined) words.push(word);
  });
  return counted(words);
}

/**
 * The members that a module uses of what it refers to in its template, by the reference: `this.$refs.list.scroll()`, and
 * by names that hold one.
 */
export function membersOfRefs(program: Node): { ref: string; member: string }[] {
  const held = new Map<string, string>();
  walkTree(program, (node) => {
    if (node.type !== 'VariableDeclarator' || !node.init) return;
    const ref = refIn(node.init);
    if (node.id.type === 'Identifier' && ref !== undefined) held.set(node.id.name, ref);
    if (node.id.type !== 'ObjectPattern' || memberName(unwrapped(node.init)) !== '$refs') return;
    for (const each of node.id.properties) {
      const key = each.type === 'Property' ? propertyName(each.key, each.computed) : undefined;
      if (each.type === 'Property' && key !== undefined && each.value.type === 'Identifier')
        held.set(each.value.name, key);
    }
  });
  const found: { ref: string; member: string }[] = [];
  walkTree(program, (node) => {
    const member = memberName(node);
    const of = node.type === 'MemberExpression' ? unwrapped(node.object) : undefined;
    const ref = of && (of.type === 'Identifier' ? held.get(of.name) : refIn(of));
    if (member !== undefined && ref !== undefined) found.push({ ref, member });
  });
  return found;
}

// `this.$refs.list`: the reference.
function refIn(node: Node): string | undefined {
  const inner = unwrapped(node);
  const isRef = inner.type === 'MemberExpression' && memberName(unwrapped(inner.object)) === '$refs';
  return isRef ? memberName(inner) : undefined;
}

/** The names of what a handler calls, without what it hands over; where it calls nothing, all names that it reads. */
export function namesCalledIn(node: Node): string[] {
  const names = new Set<string>();
  walkTree(node, (each) => {
    if (each.type !== 'CallExpression') return;
    const name = calledName(each);
    if (name !== undefined) names.add(name);
  });
  return names.size > 0 ? [...names] : namesReadIn(node);
}

const EQUALITY: ReadonlySet<string> = new Set(['==', '===', '!=', '!==']);
// What is gone once the types are.
const TYPES: ReadonlySet<string> = new Set([
  'TSTypeAnnotation',
  'TSTypeReference',
  'TSTypeQuery',
  'TSTypeParameterInstantiation',
  'TSTypeParameterDeclaration',
  'TSInterfaceDeclaration',
  'TSTypeAliasDeclaration',
  'TSClassImplements',
]);

/**
 * Which of some names a module hands on to something that may do anything with what they stand for: to a call, into a list.
 * It does not by naming it in markup, by reading or setting its members, by giving it out or comparing it, nor by handing
 * it to one of the functions of `known` names. Only what stands `within` a part is looked at, where one is given, and not
 * at the nodes that are left out for `passing`.
 */
export function handedOnIn(
  program: Node,
  names: ReadonlySet<string>,
  known: ReadonlySet<string>,
  { within, passing = [] }: { within?: { start: number; end: number }; passing?: readonly Node[] } = {},
): Set<string> {
  const harmless = new Set<Node | null>(passing);
  const found = new Set<string>();
  if (names.size === 0) return found;
  walkTree(program, (node) => {
    if (node.type === 'ImportDeclaration' || TYPES.has(node.type)) return false;
    if (within && (node.end <= within.start || within.end <= node.start)) return false;
    switch (node.type) {
      case 'MemberExpression':
        harmless.add(node.object).add(node.computed ? null : node.property);
        break;
      case 'BinaryExpression':
        if (EQUALITY.has(node.operator)) harmless.add(node.left).add(node.right);
        break;
      case 'AssignmentExpression':
        if (node.left.type === 'MemberExpression') harmless.add(node.right);
        break;
      case 'ExportDefaultDeclaration':
        harmless.add(node.declaration);
        break;
      case 'ExportSpecifier':
        harmless.add(node.local).add(node.exported);
        break;
      case 'VariableDeclarator':
      case 'FunctionDeclaration':
      case 'FunctionExpression':
      case 'ClassDeclaration':
      case 'ClassExpression':
        harmless.add(node.id);
        break;
      case 'Property':
        if (!node.computed && !node.shorthand) harmless.add(node.key);
        break;
      case 'CallExpression': {
        const called = calledName(node);
        if (called !== undefined && known.has(called)) node.arguments.forEach((each) => harmless.add(each));
        break;
      }
    }
    if (node.type === 'Identifier' && names.has(node.name) && !harmless.has(node)) found.add(node.name);
    return undefined;
  });
  return found;
}

/** Whether a module does nothing with what a name stands for but compare it, or speak of its type: `child.type === Lid`. */
export const isOnlyCompared = (program: Node, name: string): boolean => standsOnly(program, name, comparedIn);

const comparedIn = (node: Node): readonly Node[] =>
  node.type === 'BinaryExpression' && EQUALITY.has(node.operator) ? [node.left, node.right] : [];

/**
 * Whether a module does nothing with what a name stands for but what is seen by its tree: it stands in markup by that name, is
 * exported or compared, or a member of it is taken (`<Menu.Item>`).
 */
export const isOnlyNamed = (program: Node, name: string): boolean =>
  standsOnly(program, name, (node) => {
    switch (node.type) {
      case 'MemberExpression':
      case 'JSXMemberExpression':
        return [node.object];
      case 'JSXOpeningElement':
      case 'JSXClosingElement':
        return [node.name];
      case 'ExportSpecifier':
        return [node.local, node.exported];
      case 'ExportDefaultDeclaration':
        return [node.declaration];
      default:
        return comparedIn(node);
    }
  });

/** Whether a module only keeps what a name stands for, in an object or under another name: nothing there throws where it is undefined. */
export const isOnlyKept = (program: Node, name: string): boolean =>
  standsOnly(program, name, (node) => {
    switch (node.type) {
      case 'Property':
        return [node.key, node.value];
      case 'AssignmentExpression':
        return [node.right];
      default:
        return [];
    }
  });

// Whether all that has a name stands where some nodes hold it, imports and types aside.
function standsOnly(program: Node, name: string, held: (node: Node) => readonly (Node | null)[]): boolean {
  const allowed = new Set<Node>();
  let others = false;
  const namesIt = (node: Node): boolean =>
    (node.type === 'Identifier' || node.type === 'JSXIdentifier') && node.name === name;
  walkTree(program, (node) => {
    if (others || node.type === 'ImportDeclaration' || TYPES.has(node.type)) return false;
    if ('exportKind' in node && node.exportKind === 'type') return false;
    for (const each of held(node)) if (each && namesIt(each)) allowed.add(each);
    if (namesIt(node)) others ||= !allowed.has(node);
    return undefined;
  });
  return !others;
}

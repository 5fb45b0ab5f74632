import type { Node } from 'oxc-parser';
import {
  calledName,
  childrenOf,
  isFunction,
  memberName,
  propertyName,
  unwrapped,
  walkTree,
} from '../../../syntax/tree.js';
import { propRead } from '../../changed-props.js';

/**
 * The props that a component surely calls only where something happens on its elements: wherever it speaks of them is the
 * listener of an event, a function that nothing but listeners call, or a question whether they are given. `locals`: the
 * names that it takes props by, each with the prop's name.
 */
export function propsOfEvents(
  nodes: readonly Node[],
  locals: ReadonlyMap<string, string>,
): ReadonlySet<string> {
  const listeners = new Set<string>();
  for (const node of nodes)
    walkTree(node, (each) => {
      const named = namedFunction(each);
      if (named) listeners.add(named.name);
    });
  // What is called elsewhere is no listener, and nor is what only that calls.
  const own = new Set(locals.values());
  for (;;) {
    const { loose, inside, outside, isWhole } = spokenOf(nodes, locals, listeners);
    if (loose.size === 0)
      return new Set([...inside].filter((name) => !outside.has(name) && (!isWhole || own.has(name))));
    for (const name of loose) listeners.delete(name);
  }
}

interface Spoken {
  /** Functions that something else than a listener speaks of, or nothing: the framework may call those. */
  loose: Set<string>;
  /** Props by where they are spoken of: in listeners, and anywhere else. */
  inside: Set<string>;
  outside: Set<string>;
  /** All props are handed on in one. */
  isWhole: boolean;
}

function spokenOf(
  nodes: readonly Node[],
  locals: ReadonlyMap<string, string>,
  listeners: ReadonlySet<string>,
): Spoken {
  const spoken: Spoken = { loose: new Set(), inside: new Set(), outside: new Set(), isWhole: false };
  const called = new Set<string>();
  const visit = (node: Node, isInside: boolean): void => {
    const prop = propRead(node, locals);
    if (prop !== undefined) {
      (isInside ? spoken.inside : spoken.outside).add(prop);
      return;
    }
    const name = ownName(node);
    spoken.isWhole ||= name !== undefined && PROPS.has(name);
    if (name !== undefined && listeners.has(name)) {
      called.add(name);
      if (!isInside) spoken.loose.add(name);
      return;
    }
    const named = namedFunction(node);
    if (named && listeners.has(named.name)) {
      for (const child of spokenIn(named.fn)) visit(child, true);
      return;
    }
    if (node.type === 'JSXAttribute' || node.type === 'Property') {
      if (node.value) visit(node.value, isInside || isListener(node));
      return;
    }
    for (const child of spokenIn(node)) visit(child, isInside);
  };
  for (const node of nodes) for (const child of spokenIn(node)) visit(child, false);
  for (const name of listeners) if (!called.has(name)) spoken.loose.add(name);
  return spoken;
}

// What a node has below it, but for the names that it declares, types, questions whether something is given, and what a hook depends on.
function spokenIn(node: Node): Node[] {
  switch (node.type) {
    case 'VariableDeclarator':
      return node.init && !(node.id.type === 'ObjectPattern' && isProps(node.init)) ? [node.init] : [];
    case 'LogicalExpression':
      return isName(node.left) && node.operator === '&&' ? [node.right] : [node.left, node.right];
    case 'ConditionalExpression':
      return [...(isName(node.test) ? [] : [node.test]), node.consequent, node.alternate];
    case 'IfStatement':
      return childrenOf(node).filter((each) => each !== node.test || !isName(each));
    case 'BinaryExpression':
      return [node.left, node.right].filter((each) => !isName(each));
    case 'UnaryExpression':
      return isName(node.argument) ? [] : [node.argument];
    case 'CallExpression': {
      const last = node.arguments.at(-1);
      const isHook = /^use[A-Z]/.test(calledName(node) ?? '');
      return childrenOf(node).filter((each) => !(isHook && each === last && each.type === 'ArrayExpression'));
    }
    default:
      if (isFunction(node)) return node.body ? [node.body] : [];
      return childrenOf(node).filter(({ type }) => !type.startsWith('TS') || !type.endsWith('Annotation'));
  }
}

const isName = (node: Node): boolean =>
  unwrapped(node).type === 'Identifier' || unwrapped(node).type === 'MemberExpression';

// `onClick={…}`, and the entry of an object that an element is given.
function isListener(node: Extract<Node, { type: 'JSXAttribute' | 'Property' }>): boolean {
  if (node.type === 'Property') return EVENTS.has(propertyName(node.key, node.computed) ?? '');
  return node.name.type === 'JSXIdentifier' && EVENTS.has(node.name.name);
}

// None of them comes by itself, as focus does.
const EVENTS: ReadonlySet<string> = new Set(
  'onClick onDoubleClick onSubmit onReset onChange onInput onKeyDown onKeyUp onMouseDown onMouseUp onMouseEnter onMouseLeave'.split(
    ' ',
  ),
);

// `handleClick`, `this.handleClick`.
function ownName(node: Node): string | undefined {
  if (node.type === 'Identifier') return node.name;
  return node.type === 'MemberExpression' && node.object.type === 'ThisExpression'
    ? `this.${memberName(node) ?? ''}`
    : undefined;
}

const isProps = (node: Node | null): boolean => node !== null && PROPS.has(ownName(unwrapped(node)) ?? '');

const PROPS: ReadonlySet<string> = new Set(['props', 'this.props']);

// `function fire() {}`, `const fire = () => {}`, `const fire = useCallback(() => {}, [])`, and methods.
function namedFunction(node: Node): { name: string; fn: Node } | undefined {
  if (node.type === 'FunctionDeclaration') return node.id ? { name: node.id.name, fn: node } : undefined;
  if (node.type === 'VariableDeclarator' && node.id.type === 'Identifier') {
    const fn = node.init ? functionIn(unwrapped(node.init)) : undefined;
    return fn && { name: node.id.name, fn };
  }
  if (node.type !== 'MethodDefinition' && node.type !== 'PropertyDefinition') return undefined;
  const name = propertyName(node.key, node.computed);
  return name !== undefined && node.value && isFunction(node.value)
    ? { name: `this.${name}`, fn: node.value }
    : undefined;
}

function functionIn(node: Node): Node | undefined {
  if (isFunction(node)) return node;
  if (node.type !== 'CallExpression' || calledName(node) !== 'useCallback') return undefined;
  const [first] = node.arguments;
  return first && isFunction(first) ? first : undefined;
}

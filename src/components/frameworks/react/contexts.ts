import type { Node } from 'oxc-parser';
import { calledName, memberName, pathOf, unwrapped } from '../../../syntax/tree.js';
import { answered, functionKey, importOfKey, restOfProps, type Constant, type Expr } from '../../expr.js';
import { exprOf } from '../../read-expr.js';
import type { CallNode, ComponentScope } from '../../scope.js';
import type { ComponentRef, Provided, ViewNode } from '../../view.js';

// What keys of contexts start with; no path and no package does.
const CONTEXT = '^';
const WITHIN = '\n';

/** The key of a context of React: by the file that names it, and what it is called there or imported as. */
const contextKey = (file: string, ref: { local: string } | { specifier: string; name: string }): string =>
  'local' in ref
    ? functionKey(CONTEXT + file, ref.local)
    : functionKey(CONTEXT + file + WITHIN + ref.specifier, ref.name);

/** The key of a context by that of what a module declares. */
export const declaredContext = (declared: string): string => CONTEXT + declared;

/** The context that a key stands for: named in `file`, or imported there; undefined of keys of all else. */
export function contextOfKey(
  key: string,
): { file: string; name: string; specifier: string | undefined } | undefined {
  const { specifier: module, name } = (key.startsWith(CONTEXT) && importOfKey(key)) || {};
  if (module === undefined || name === undefined) return undefined;
  const [file = '', specifier] = module.slice(CONTEXT.length).split(WITHIN);
  return { file, name, specifier };
}

const isNothing = (value: Constant): boolean => value === undefined || value === null;

/** Where contexts are named. */
export type NamedIn = Pick<ComponentScope, 'file' | 'ref'>;

/** What a context gives that a name of a module stands for; undefined where the module can't name one. */
function contextGiven(ref: ComponentRef | undefined, { file }: NamedIn): Expr | undefined {
  const key = file === undefined ? undefined : keyOf(file, ref);
  return key === undefined ? undefined : answered(key);
}

function keyOf(file: string, ref: ComponentRef | undefined): string | undefined {
  if (!ref || 'selector' in ref || 'at' in ref || ref.part !== undefined) return undefined;
  return contextKey(file, ref);
}

/** What `useContext(Kiln)` and `use(Kiln)` give; undefined of all other calls. */
export function contextRead(call: CallNode, scope: NamedIn): Expr | undefined {
  const name = calledName(call);
  const [first] = call.arguments;
  const path = first && pathOf(unwrapped(first));
  const isRead = name === 'useContext' || (name === 'use' && path !== undefined && /^[A-Z]/.test(path));
  return isRead && path !== undefined ? contextGiven(scope.ref(path), scope) : undefined;
}

/**
 * What `const Kiln = createContext(…)` gives where nobody provides anything; undefined of all else, and where that is
 * nothing: who reads it can hardly do without a provider, which must then stand where it is not seen.
 */
export function firstGiven(node: Node, scope: ComponentScope): Expr | undefined {
  const call = node.type === 'VariableDeclarator' && node.init ? unwrapped(node.init) : undefined;
  if (call?.type !== 'CallExpression') return undefined;
  const path = pathOf(unwrapped(call.callee)) ?? '';
  const ref = scope.ref(path);
  const isReacts = ref !== undefined && 'specifier' in ref && ref.specifier === 'react';
  if (!isReacts || path.split('.').at(-1) !== 'createContext') return undefined;
  const [first] = call.arguments;
  const given = first && exprOf(first, scope);
  return given?.is === 'constant' && isNothing(given.value) ? undefined : given;
}

/** Nodes that stand in the provider of a context: `<Kiln.Provider value={…}>`; `name`: that of its tag. */
export function inProvider(
  nodes: ViewNode[],
  name: string,
  value: Expr | undefined,
  scope: ComponentScope,
): ViewNode[] {
  const [owner] = name.endsWith('.Provider') ? [name.slice(0, -'.Provider'.length)] : [];
  const key =
    owner === undefined || scope.file === undefined ? undefined : keyOf(scope.file, scope.ref(owner));
  return key === undefined || !value ? nodes : provided(nodes, { key, value });
}

const provided = (nodes: readonly ViewNode[], given: Provided): ViewNode[] =>
  nodes.map((node) => ({ ...node, provided: [given, ...(node.provided ?? [])] }));

/**
 * What a declaration gives that names the provider of a context: `const KilnProvider = Kiln.Provider`, or the first of
 * `[KilnProvider, useKiln] = createContext(…)`; undefined where it is no provider.
 */
export function providerView(
  name: string,
  node: Node,
  slot: ViewNode,
  scope: ComponentScope,
): ViewNode[] | undefined {
  const { file } = scope;
  const pair = pairOf(node);
  if (pair?.provider === name) {
    if (file === undefined) return [slot];
    // Radix hands on all props that it gets.
    const value: Expr = /@radix-ui\//.test(file)
      ? restOfProps(['children', 'scope', '__scope'])
      : { is: 'prop', name: 'value' };
    return provided([slot], { key: contextKey(file, { local: name }), value });
  }
  const value = node.type === 'VariableDeclarator' && node.init ? unwrapped(node.init) : undefined;
  const part = value && memberName(value);
  if (part !== 'Provider' && part !== 'Consumer') return undefined;
  const path = value && pathOf(value);
  return path === undefined ? [slot] : inProvider([slot], path, { is: 'prop', name: 'value' }, scope);
}

/** What a call of the second of `[KilnProvider, useKiln] = createContext(…)` gives, by the name that is called. */
export function givenByPair(name: string, node: Node, file: string): Expr | undefined {
  const pair = pairOf(node);
  if (pair?.reader !== name || pair.provider === undefined) return undefined;
  return answered(contextKey(file, { local: pair.provider }));
}

// `const [KilnProvider, useKiln] = createContext(…)` of kits, and what goes by such a name in projects
// (@chakra-ui/react-context 2, @radix-ui/react-context 1, @nextui-org/react-utils 2, @mantine/core 7 and 8).
function pairOf(node: Node): { provider: string | undefined; reader: string | undefined } | undefined {
  if (node.type !== 'VariableDeclarator' || node.id.type !== 'ArrayPattern' || !node.init) return undefined;
  const init = unwrapped(node.init);
  if (init.type !== 'CallExpression' || !/^create\w*Context\d?$/.test(calledName(init) ?? ''))
    return undefined;
  const [provider, reader] = node.id.elements.map((each) =>
    each?.type === 'Identifier' ? each.name : undefined,
  );
  return { provider, reader };
}

/** The function that the consumer of a context is handed: `<Kiln.Consumer>{(kiln) => …}</Kiln.Consumer>`. */
export function consumes(name: string, scope: NamedIn): Expr | undefined {
  if (!name.endsWith('.Consumer')) return undefined;
  return contextGiven(scope.ref(name.slice(0, -'.Consumer'.length)), scope);
}

import type { Node } from 'oxc-parser';
import {
  calledName,
  literalText,
  memberName,
  propertyName,
  unwrapped,
  type FunctionNode,
} from '../syntax/tree.js';
import { memberOfExpr, type Expr, type Condition } from './expr.js';
import { bindPattern as bindNames, type Parts } from '../language/patterns.js';
import type { ComponentRef, ViewNode } from './view.js';

/** What a name stands for inside a component. */
export type NameBinding =
  | { is: 'prop'; name: string; fallback?: Node }
  /** The object of all props; `defaults`: a literal object of what stands in for those that are not given. */
  | { is: 'props'; defaults?: { node: Extract<Node, { type: 'ObjectExpression' }>; scope: ComponentScope } }
  /** The object of all props but some. */
  | { is: 'rest'; except: readonly string[] }
  /** All properties of what another name stands for but some. */
  | { is: 'without'; of: NameBinding; taken: readonly string[] }
  /** A property of what another name stands for. */
  | { is: 'part'; of: NameBinding; key: string; scope: ComponentScope }
  /** What a name stands for, or an expression where that is undefined. */
  | { is: 'either'; of: NameBinding; otherwise: Node; scope: ComponentScope }
  /** Declared by an expression or function that can be read in its own scope. */
  | { is: 'node'; node: Node; scope: ComponentScope }
  | { is: 'expr'; expr: Expr }
  /** An object of which some properties are set later: under conditions, or, without ways, in ways that can't be told. */
  | {
      is: 'set-later';
      of: NameBinding;
      keys: ReadonlyMap<string, readonly WayOut[] | undefined>;
      scope: ComponentScope;
    }
  | { is: 'view'; view: readonly ViewNode[] }
  /** A function of which no more is known than what a call of it gives. */
  | { is: 'giver'; gives: Expr }
  /** Declared by `let`, or given, and assigned under conditions: the last way that holds counts. */
  | { is: 'assigned'; first?: NameBinding; ways: readonly WayOut[]; scope: ComponentScope }
  | { is: 'unknown' };

/** One way to a value: the expression, and the condition that leads to it. */
export interface WayOut {
  node: Node | undefined;
  test: Condition;
  /** What it is read in, where a name of it is made anew from what it was: `view = <Frame>{view}</Frame>`. */
  scope?: ComponentScope;
}

/** Looks up names where an expression stands. */
export interface ComponentScope {
  lookup(name: string): NameBinding | undefined;
  /** The component that a name in markup stands for. */
  ref(name: string): ComponentRef | undefined;
  /** What a call gives, where the scope follows calls of functions. */
  called?(call: CallNode, args: readonly Expr[], scope: ComponentScope, depth: number): Expr | undefined;
  /** A function as a value, where the scope follows these. */
  functionAt?(fn: FunctionNode, scope: ComponentScope): Expr;
  /** The source text of the file, for conditions shown as written. */
  readonly text: string;
  /** Its path. */
  readonly file?: string;
  /** It is a module of an installed package. */
  readonly shipped?: boolean;
}

export type CallNode = Extract<Node, { type: 'CallExpression' }>;

const DEEPEST = 12;
// Compilers put names in between.
const DEEPEST_SHIPPED = 20;

/** How far names and parts are followed in a scope. */
export const deepestIn = ({ shipped }: ComponentScope): number => (shipped ? DEEPEST_SHIPPED : DEEPEST);

let growing = 0;

/** Runs what makes a scope: until it ends, what its names stand for still changes. */
export function whileGrowing(make: () => void): void {
  growing++;
  try {
    make();
  } finally {
    growing--;
  }
}

/** Whether a scope is being made. */
export const isScopeGrowing = (): boolean => growing > 0;

/** Whether an expression is the object of all props: `props`, `this.props`, `$props`. */
export function isProps(node: Node, scope: ComponentScope): boolean {
  const inner = unwrapped(node);
  if (inner.type === 'Identifier') return scope.lookup(inner.name)?.is === 'props';
  return (
    inner.type === 'MemberExpression' &&
    inner.object.type === 'ThisExpression' &&
    memberName(inner) === 'props'
  );
}

/** The expression or function behind a name, followed through plain aliases. */
export function resolved(
  node: Node,
  scope: ComponentScope,
): { node: Node; scope: ComponentScope } | undefined {
  let at = { node: unwrapped(node), scope };
  for (let step = 0; step < DEEPEST; step++) {
    if (at.node.type !== 'Identifier') return at;
    const bound = at.scope.lookup(at.node.name);
    if (bound?.is !== 'node') return undefined;
    at = { node: unwrapped(bound.node), scope: bound.scope };
  }
  return undefined;
}

/** The same, where it stands in the file of the scope: the places of a view are those of one file. */
export function resolvedHere(node: Node, scope: ComponentScope): ReturnType<typeof resolved> {
  const found = resolved(node, scope);
  return found?.scope.text === scope.text ? found : undefined;
}

/** A scope in which some names stand for something else. */
export function inner(scope: ComponentScope, names: ReadonlyMap<string, NameBinding>): ComponentScope {
  return {
    text: scope.text,
    file: scope.file,
    shipped: scope.shipped,
    called: scope.called,
    functionAt: scope.functionAt,
    // What goes by a name here hides an import of it.
    ref: (name) => (names.has(name.split('.')[0] ?? name) ? undefined : scope.ref(name)),
    lookup: (name) => names.get(name) ?? scope.lookup(name),
  };
}

/** Binds the names of a pattern to the parts of the value that an expression gives. */
export function declarePattern(
  pattern: Node,
  init: Node | null,
  names: Map<string, NameBinding>,
  scope: ComponentScope,
): void {
  const whole = init ? boundOf(unwrapped(init), scope) : UNKNOWN_BOUND;
  bindNames(pattern, whole, partsIn(scope), ({ name }, bound) => {
    // A name that is declared twice could be either, but for props by their own name.
    const twice = names.has(name) && (bound.is === 'node' || bound.is === 'part');
    names.set(name, twice ? UNKNOWN_BOUND : bound);
  });
}

const UNKNOWN_BOUND: NameBinding = { is: 'unknown' };

/** What an expression stands for, where it is plainly a name, the props, or what a kit or compiler makes of these. */
export function boundOf(value: Node, scope: ComponentScope): NameBinding {
  if (isProps(value, scope)) return { is: 'props' };
  if (value.type === 'ObjectExpression' && isPropsWithDefaults(value, scope))
    return { is: 'props', defaults: { node: value, scope } };
  const same = value.type === 'Identifier' ? scope.lookup(value.name) : undefined;
  const given =
    value.type === 'CallExpression' ? (compiledRest(value, scope) ?? handedBack(value, scope)) : undefined;
  if (given) return given;
  return same && same.is !== 'node' ? same : { is: 'node', node: value, scope };
}

// `{ size: 3, ...props }`: the props, and what stands in for those that are not given.
function isPropsWithDefaults(
  { properties }: Extract<Node, { type: 'ObjectExpression' }>,
  scope: ComponentScope,
): boolean {
  const last = properties.at(-1);
  return (
    last?.type === 'SpreadElement' &&
    isProps(last.argument, scope) &&
    properties.slice(0, -1).every((each) => each.type === 'Property')
  );
}

// What compilers make of `{ size, ...rest }`: `_objectWithoutProperties(props, ['size'])`.
function compiledRest(call: CallNode, scope: ComponentScope): NameBinding | undefined {
  const [whole, list] = call.arguments;
  if (!whole || !list || !WITHOUT.test(calledName(call) ?? '')) return undefined;
  const of = isProps(whole, scope) ? [] : exceptIn(whole, scope);
  const names = resolved(list, scope)?.node;
  if (names?.type !== 'ArrayExpression') return undefined;
  const except = names.elements.flatMap((each) => (each ? (literalText(each) ?? []) : []));
  if (except.length !== names.elements.length) return undefined;
  if (of) return { is: 'rest', except: [...of, ...except] };
  const other = whole.type === 'Identifier' ? scope.lookup(whole.name) : undefined;
  return other && { is: 'without', of: other, taken: except };
}

// Functions of kits that give the props back that they are handed, with defaults of a theme where it has any:
// @mui/material 5 to 7, @mantine/core 7 and 8, @chakra-ui/react 2. The place of the props among the arguments.
const HANDING_BACK: ReadonlyMap<string, number> = new Map([
  ['useDefaultProps', 0],
  ['useThemeProps', 0],
  ['useProps', 2],
  ['omitThemingProps', 0],
  ['resolveProps', 1],
  ['extendSxProp', 0],
]);

function handedBack(call: CallNode, scope: ComponentScope): NameBinding | undefined {
  const name = calledName(call) ?? '';
  const at = HANDING_BACK.get(name.replace(/^_/, ''));
  const given = at === undefined ? undefined : call.arguments[at];
  const ref = scope.ref(name);
  const isOfPackage = scope.shipped || (ref && 'specifier' in ref && !ref.specifier.startsWith('.'));
  if (!given || !isOfPackage) return undefined;
  // `{ props, name }`, or what is only a copy of them.
  const named =
    given.type === 'ObjectExpression'
      ? (propertyIn(given, 'props') ??
        given.properties.find((each) => each.type === 'SpreadElement')?.argument)
      : unwrapped(given);
  const except = named && exceptIn(named, scope);
  if (except) return { is: 'rest', except };
  if (!named) return undefined;
  if (!isProps(named, scope)) return { is: 'node', node: named, scope };
  const [, defaults] = at === 2 ? call.arguments : [];
  const object = defaults && resolved(defaults, scope);
  return object?.node.type === 'ObjectExpression'
    ? { is: 'props', defaults: { node: object.node, scope: object.scope } }
    : { is: 'props' };
}

/** The value of a property of a literal object, by its name. */
export function propertyIn(
  object: Extract<Node, { type: 'ObjectExpression' }>,
  name: string,
): Node | undefined {
  const found = object.properties.find(
    (each) => each.type === 'Property' && propertyName(each.key, each.computed) === name,
  );
  return found?.type === 'Property' ? unwrapped(found.value) : undefined;
}

const WITHOUT = /^(?:_?objectWithoutProperties(?:Loose)?|__rest)$/;

function exceptIn(node: Node, scope: ComponentScope): readonly string[] | undefined {
  const bound = node.type === 'Identifier' ? scope.lookup(node.name) : undefined;
  return bound?.is === 'rest' ? bound.except : undefined;
}

/** The parts of what names stand for. */
export const partsIn = (scope: ComponentScope): Parts<NameBinding> => ({
  member: (of, key) => memberOfBound(of, key, scope),
  item: (of, at) => memberOfBound(of, String(at), scope),
  rest: (of, taken) =>
    typeof taken === 'number'
      ? UNKNOWN_BOUND
      : of.is === 'props'
        ? { is: 'rest', except: taken }
        : of.is === 'rest'
          ? { is: 'rest', except: [...of.except, ...taken] }
          : of.is === 'node' || of.is === 'part' || of.is === 'expr'
            ? { is: 'without', of, taken }
            : UNKNOWN_BOUND,
  // A default that is written in the body is no default of the prop: it counts here only.
  fallback: (of, otherwise) =>
    of.is === 'prop' || of.is === 'part' || of.is === 'expr'
      ? { is: 'either', of, otherwise, scope }
      : UNKNOWN_BOUND,
  unknown: () => UNKNOWN_BOUND,
});

function memberOfBound(of: NameBinding, key: string, scope: ComponentScope): NameBinding {
  if (of.is === 'props') {
    const prop: NameBinding = { is: 'prop', name: key };
    const otherwise = of.defaults && propertyIn(of.defaults.node, key);
    return of.defaults && otherwise ? { is: 'either', of: prop, otherwise, scope: of.defaults.scope } : prop;
  }
  if (of.is === 'rest') return of.except.includes(key) ? UNKNOWN_BOUND : { is: 'prop', name: key };
  return of.is === 'unknown' ? of : { is: 'part', of, key, scope };
}

/** Binds the first parameter of a component function as its props. */
export function propsOf(param: Node | undefined): Map<string, NameBinding> {
  const names = new Map<string, NameBinding>();
  const pattern = param?.type === 'AssignmentPattern' ? param.left : param;
  if (!pattern) return names;
  bindNames(pattern, { is: 'props' }, PROP_PARTS, ({ name }, bound) => names.set(name, bound));
  return names;
}

function partOfProp(of: NameBinding, key: string): NameBinding {
  const expr: Expr | undefined =
    of.is === 'expr' ? of.expr : of.is === 'prop' && !of.fallback ? { is: 'prop', name: of.name } : undefined;
  return expr ? { is: 'expr', expr: memberOfExpr(expr, key) } : UNKNOWN_BOUND;
}

// Defaults of the parts of a prop are unknown: no scope is at hand to read them in.
const PROP_PARTS: Parts<NameBinding> = {
  member: (of, key) => (of.is === 'props' ? { is: 'prop', name: key } : partOfProp(of, key)),
  item: (of, at) => partOfProp(of, String(at)),
  rest: (of, taken) =>
    of.is === 'props' && typeof taken !== 'number' ? { is: 'rest', except: taken } : UNKNOWN_BOUND,
  fallback: (of, otherwise) => (of.is === 'prop' ? { ...of, fallback: otherwise } : UNKNOWN_BOUND),
  unknown: () => UNKNOWN_BOUND,
};

/** `this.head()` */
export function ownMethod(callee: Node, scope: ComponentScope): NameBinding | undefined {
  const isOwn = callee.type === 'MemberExpression' && callee.object.type === 'ThisExpression';
  return isOwn ? scope.lookup(`this.${memberName(callee)}`) : undefined;
}

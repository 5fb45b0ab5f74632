import type { Node } from 'oxc-parser';
import { compiledClass } from '../../../syntax/compiled-classes.js';
import type { Script } from '../../../syntax/script.js';
import {
  isFunction,
  memberName,
  pathOf,
  propertyName,
  returnedFrom,
  unwrapped,
  walkTree,
  type FunctionNode,
  calledName,
} from '../../../syntax/tree.js';
import { chosenNames } from '../../../syntax/created-elements.js';
import type { Source } from '../../../syntax/source.js';
import type { Span } from '../../../finding.js';
import { basename, isInstalled } from '../../../util/paths.js';
import type { ModuleFacts } from '../../../syntax/module-facts.js';
import { toldProps } from './told-props.js';
import { valueHeld } from './state-hooks.js';
import { statePlaces, type StatePlaces } from './state-places.js';
import { propsOfEvents } from './event-props.js';
import { readProps, takenProps } from './taken-props.js';
import { changedProps } from '../../changed-props.js';
import { functionAt } from '../../calls.js';
import { functionExpr } from '../../function-expr.js';
import { stateKey, type Expr } from '../../expr.js';
import { functionScope } from '../../ways.js';
import { exprOf } from '../../read-expr.js';
import { functionView } from './jsx.js';
import { givenByPair, providerView } from './contexts.js';
import { clonesIn } from './clones.js';
import { reactCall } from './react-calls.js';
import { styledView } from './styled.js';
import { listeningIn, opensIn } from '../../opens.js';
import {
  declaredTypes,
  isWholePropsType,
  isWholeType,
  membersOf,
  propDomains,
  type DeclaredTypes,
} from '../../prop-types.js';
import { inner, propsOf, type NameBinding, type ComponentScope } from '../../scope.js';
import type { Clones, Component, ComponentRef, FirstState, ViewNode } from '../../view.js';

/** What a name that a module imports stands for, where that is looked at. */
export type Imported = (name: string) => NameBinding | undefined;

/** The scope of a module's top level: its declarations can be read; its imports are components at most, but for `imported`. */
export function moduleScope({ text, path }: Source, facts: ModuleFacts, imported?: Imported): ComponentScope {
  const declared = new Map<string, NameBinding | undefined>();
  const bindingOf = (name: string, node: Node): NameBinding | undefined => {
    if (node.type !== 'VariableDeclarator') return { is: 'node', node, scope };
    if (node.init && node.id.type === 'Identifier') return { is: 'node', node: node.init, scope };
    const gives = givenByPair(name, node, path);
    return gives && { is: 'giver', gives };
  };
  const scope: ComponentScope = {
    text,
    file: path,
    shipped: isInstalled(path),
    lookup(name) {
      const node = facts.declarations.get(name);
      if (!node) return imported?.(name);
      if (!declared.has(name)) declared.set(name, bindingOf(name, node));
      return declared.get(name);
    },
    ref: (name) => refOf(name, facts),
    called: reactCall,
    functionAt,
  };
  return scope;
}

/** A function at a module's top level, to be called; undefined where there is none by that name. */
export function functionNamed(name: string, source: Source, facts: ModuleFacts): Expr | undefined {
  const scope = moduleScope(source, facts);
  const bound = scope.lookup(name);
  if (bound?.is === 'giver') {
    const { gives } = bound;
    return { is: 'something', type: 'function', fn: functionExpr([], () => gives) };
  }
  return bound?.is === 'node' && isFunction(bound.node) ? functionAt(bound.node, scope) : undefined;
}

/** The component that a name stands for at a module's top level. */
export function refOf(name: string, facts: ModuleFacts): ComponentRef | undefined {
  const [head, ...rest] = name.split('.');
  const found = facts.imports.get(head ?? '');
  const [first, second] = rest;
  // Of a whole module, the first one names an export.
  const [part, deeper] = found?.name === '*' ? [second, rest[2]] : [first, second];
  if (head === undefined || deeper !== undefined) return undefined;
  const partOf = part === undefined ? {} : { part };
  if (found?.name === '*')
    return first === undefined ? undefined : { specifier: found.specifier, name: first, ...partOf };
  if (found) return { specifier: found.specifier, name: found.name, ...partOf };
  return facts.declarations.has(head) ? { local: head, ...partOf } : undefined;
}

/** The function, class and wrapped components that a module with JSX declares. */
export function reactComponents(script: Script, facts: ModuleFacts, imported?: Imported): Component[] {
  const module = moduleOf(script, facts, imported);
  const found: Component[] = [];
  const shortened = isInstalled(script.source.path) ? shortenedNames(script, facts) : NO_NAMES;
  for (const [name, node] of facts.declarations) {
    if (!/^_?[A-Z]/.test(name) && !shortened.has(name)) continue;
    const component = componentFrom(name, node, module);
    if (component) found.push(component);
  }
  const unnamed = facts.exports.get('default');
  if (unnamed && 'node' in unnamed) {
    const component = componentFrom(componentTitle(script.source.path), unnamed.node, module);
    if (component) found.push(component);
  }
  return found;
}

const NO_NAMES: ReadonlySet<string> = new Set();

// Minifiers call a component what they like: it is what a tag is made of, or what goes out by a capital name.
function shortenedNames({ program }: Script, { exports }: ModuleFacts): Set<string> {
  const names = chosenNames(program);
  for (const [name, each] of exports)
    if ('local' in each && /^(?:[A-Z]|default$)/.test(name)) names.add(each.local);
  return names;
}

/**
 * The component that a function or a class is, wherever it stands in a script; undefined where it shows nothing. `scope`:
 * what its names stand for, where that is not the module's top level.
 */
export function reactComponent(
  name: string,
  node: Node,
  script: Script,
  facts: ModuleFacts,
  scope?: ComponentScope,
): Component | undefined {
  const module = moduleOf(script, facts);
  return componentFrom(name, node, scope ? { ...module, scope } : module);
}

function moduleOf(script: Script, facts: ModuleFacts, imported?: Imported): Module {
  let places: StatePlaces | undefined;
  return {
    script,
    scope: moduleScope(script.source, facts, imported),
    types: declaredTypes(...script.program.body),
    defaults: assigned(script, 'defaultProps'),
    propTypes: assigned(script, 'propTypes'),
    places: () => (places ??= statePlaces(script.program as Node, (name) => facts.imports.get(name))),
  };
}

interface Module {
  script: Script;
  scope: ComponentScope;
  types: DeclaredTypes;
  /** `Card.defaultProps = {…}`, by the component's name. */
  defaults: ReadonlyMap<string, Node>;
  /** `Card.propTypes = {…}`, by the component's name. */
  propTypes: ReadonlyMap<string, Node>;
  places: () => StatePlaces;
}

function assigned({ program }: Script, property: string): Map<string, Node> {
  const found = new Map<string, Node>();
  for (const statement of program.body) {
    const node = statement.type === 'ExpressionStatement' ? statement.expression : undefined;
    if (node?.type !== 'AssignmentExpression' || node.left.type !== 'MemberExpression') continue;
    const { object } = node.left;
    if (object.type === 'Identifier' && memberName(node.left) === property)
      found.set(object.name, node.right);
  }
  return found;
}

// `{ cone: PropTypes.number.isRequired }`
function requiredBy(propTypes: Node | null | undefined): ReadonlySet<string> | undefined {
  const types = propTypes && unwrapped(propTypes);
  if (types?.type !== 'ObjectExpression') return undefined;
  const names = types.properties.flatMap((each) => {
    const isAsked = each.type === 'Property' && memberName(unwrapped(each.value)) === 'isRequired';
    return isAsked ? (propertyName(each.key, each.computed) ?? []) : [];
  });
  return new Set(names);
}

/** The name that a file's name suggests: `kiln-card.tsx` gives `KilnCard`. */
export function componentTitle(path: string): string {
  const stem = basename(path).replace(/\.[^.]*$/, '');
  return stem.replace(/(?:^|[-_.])(\w)/g, (_, letter: string) => letter.toUpperCase());
}

function componentFrom(name: string, node: Node, module: Module): Component | undefined {
  const { script, scope } = module;
  const value = node.type === 'VariableDeclarator' ? node.init : node;
  if (!value) return undefined;
  const base = {
    name,
    file: script.source.path,
    framework: 'react' as const,
    place: { start: node.start, end: node.end },
  };
  if (isInstalled(base.file) && SHOW_NOTHING.has(name)) return { ...base, view: [], props: new Map() };
  const styled = styledView(value, scope);
  if (styled) return { ...base, view: styled, props: new Map(), styles: true };
  const provides = providerView(name, node, childrenSlot(base.place), scope);
  if (provides) return { ...base, view: provides, props: new Map() };
  const made = unwrappedComponent(value);
  if (!made) return undefined;
  if (made.type === 'Identifier') {
    const wraps = made !== unwrapped(value) && /^_?[A-Z]/.test(made.name) ? scope.ref(made.name) : undefined;
    return wraps && { ...base, view: [], props: new Map(), wraps };
  }
  if (made.type === 'ClassDeclaration' || made.type === 'ClassExpression')
    return fromClass(base, made, module);
  if (!isFunction(made) || !showsJsx(made)) return undefined;
  const params = propsOf(made.params[0]);
  const props = defaults(params, scope);
  addDefaults(module.defaults.get(name), scope, props);
  const view = functionView(made, scope, 0, params);
  const body = functionScope(made, scope, params);
  const firsts = firstStates(made, body, module);
  // Of a package's component nobody asks more than what it shows.
  if (isInstalled(base.file)) return { ...base, view, props, firsts, clones: named(clonesIn(made)) };
  const domains = propDomains(made, node, module.types);
  const defaulted = new Set(
    [...params.values()].flatMap((bound) => (bound.is === 'prop' && bound.fallback ? [bound.name] : [])),
  );
  const read = readProps(made, body);
  addNames(read.names, props);
  const taken = [...params].flatMap(([name, bound]) =>
    bound.is === 'prop' ? [[name, bound.name] as const] : [],
  );
  const locals = new Map([...taken, ...read.locals]);
  const changes = changedProps(script.source.text, [made], locals);
  const opens = opensIn(script.source.text, [made]);
  const listens = listeningIn(script.source.text, [made]);
  const outputs = toldProps([made], locals);
  const eventProps = propsOfEvents([made], locals);
  return {
    ...base,
    view,
    props,
    firsts,
    defaulted,
    domains,
    changes,
    outputs,
    eventProps,
    opens,
    listens,
    clones: clonesIn(made),
    required: requiredBy(module.propTypes.get(name)),
    takes: isWholePropsType(made, node, module.types) ? takenProps(made) : undefined,
  };
}

// What the states of a component hold, by their keys, until something happens on an element.
function firstStates(
  fn: FunctionNode,
  scope: ComponentScope,
  { script, places }: Module,
): Component['firsts'] {
  if (!/\buseState\b/.test(script.source.text) || fn.body?.type !== 'BlockStatement') return undefined;
  const found = new Map<string, FirstState>();
  for (const statement of fn.body.body)
    for (const { id, init } of statement.type === 'VariableDeclaration' ? statement.declarations : []) {
      const [held, setter] = id.type === 'ArrayPattern' ? id.elements : [];
      const call = init && unwrapped(init);
      if (setter?.type !== 'Identifier' || call?.type !== 'CallExpression') continue;
      if (places().noUse.has(setter) && places().atEvents.has(setter.name))
        found.set(stateKey(script.source.path, call.start), {
          name: held?.type === 'Identifier' ? held.name : '',
          value: valueHeld(call.arguments[0], scope, []),
        });
    }
  return found;
}

// Of packages: what moves on the screen and has no words, as @mui/material's waves under a pointer.
const SHOW_NOTHING: ReadonlySet<string> = new Set(['TouchRipple']);

// What it names nowhere is the platform's: a package knows no other props.
const named = (clones: Clones | undefined): Clones | undefined => (clones === 'any' ? undefined : clones);

type Base = Pick<Component, 'name' | 'file' | 'framework' | 'place'>;

function fromClass(
  base: Base,
  node: Extract<Node, { type: 'ClassDeclaration' | 'ClassExpression' }>,
  { scope, defaults, propTypes, types }: Module,
): Component | undefined {
  const methods = new Map<string, NameBinding>();
  const props = new Map<string, Expr | undefined>();
  let render: FunctionNode | undefined;
  let required = requiredBy(propTypes.get(base.name));
  addDefaults(defaults.get(base.name), scope, props);
  for (const each of node.body.body) {
    if (each.type !== 'MethodDefinition' && each.type !== 'PropertyDefinition') continue;
    const name = propertyName(each.key, each.computed);
    if (name === 'defaultProps' && each.static && each.value) addDefaults(each.value, scope, props);
    if (name === 'propTypes' && each.static) required = requiredBy(each.value);
    if (name === undefined || !each.value || !isFunction(each.value)) continue;
    if (name === 'render') render = each.value;
    else methods.set(`this.${name}`, { is: 'node', node: each.value, scope: inner(scope, methods) });
  }
  if (!render || !showsJsx(render)) return undefined;
  const { names, locals } = readProps(node, inner(scope, methods));
  addNames(names, props);
  const changes = changedProps(scope.text, [node], locals);
  const opens = opensIn(scope.text, [node]);
  const listens = listeningIn(scope.text, [node]);
  const outputs = toldProps([node], locals);
  const eventProps = propsOfEvents([node], locals);
  // `class Lid extends Component<LidProps>`
  const [type] = node.superTypeArguments?.params ?? [];
  const domains = type ? membersOf(type, types) : undefined;
  return {
    ...base,
    view: functionView(render, inner(scope, methods), 0),
    props,
    domains,
    changes,
    outputs,
    eventProps,
    opens,
    listens,
    clones: clonesIn(node),
    required,
    takes: !type || isWholeType(type, types) ? takenProps(node) : undefined,
  };
}

function addDefaults(
  node: Node | undefined,
  scope: ComponentScope,
  props: Map<string, Expr | undefined>,
): void {
  const expr = node && exprOf(node, scope);
  if (expr?.is === 'object') for (const [name, value] of expr.entries) props.set(name, value);
}

// Props without a default.
function addNames(names: Iterable<string>, props: Map<string, Expr | undefined>): void {
  for (const name of names) if (!props.has(name)) props.set(name, undefined);
}

/** Functions that give a component which renders the one that they are handed, as it is. */
export const HANDS_ON: ReadonlySet<string> = new Set(
  // Of compilers and kits too: esbuild, @headlessui/react 1 and 2, @mantine/core 7 and 8.
  'memo forwardRef observer __name forwardRefWithAs factory polymorphicFactory genericFactory createPolymorphicComponent'.split(
    ' ',
  ),
);

/** The function or class inside `memo(…)`, `forwardRef(…)`, `observer(…)`; a name inside is another declaration. */
export function unwrappedComponent(node: Node): Node | undefined {
  let inner = withoutInterop(unwrapped(node));
  const compiled = compiledClass(inner);
  if (compiled) return compiled;
  for (let step = 0; step < 4 && inner.type === 'CallExpression'; step++) {
    const isAssign = calledName(inner) === 'assign';
    // `Object.assign(Lid, { Handle })` is the first with more parts.
    const next = inner.arguments
      .slice(0, isAssign ? 1 : undefined)
      .map((argument) => unwrapped(argument))
      .find((each) => isFunction(each) || each.type === 'CallExpression' || each.type === 'Identifier');
    if (!next || (!isAssign && !HANDS_ON.has(calledName(inner) ?? ''))) return undefined;
    inner = next;
  }
  return inner;
}

// `Lock.default ?? Lock`: a default export, whichever kind of module it comes from.
const withoutInterop = (node: Node): Node =>
  node.type === 'LogicalExpression' && pathOf(unwrapped(node.left)) === `${pathOf(node.right)}.default`
    ? node.right
    : node;

const childrenSlot = (place: Span): ViewNode => ({ kind: 'slot', name: 'children', fallback: [], place });

function showsJsx(fn: FunctionNode): boolean {
  let found = false;
  for (const each of returnedFrom(fn)) {
    walkTree(each, (node) => {
      if (node.type === 'JSXElement' || node.type === 'JSXFragment') found = true;
      return !found;
    });
  }
  return found || namesJsx(fn) || handsChildrenOn(fn);
}

// A component that shows nothing but what it is given: `children`, `props.children(id)`.
function handsChildrenOn(fn: FunctionNode): boolean {
  return returnedFrom(fn).some((each) => {
    const whole = unwrapped(each);
    const node = whole.type === 'LogicalExpression' ? unwrapped(whole.left) : whole;
    const shown = node.type === 'CallExpression' ? unwrapped(node.callee) : node;
    return (shown.type === 'Identifier' && shown.name === 'children') || memberName(shown) === 'children';
  });
}

// `const card = <div/>; return card;`
function namesJsx(fn: FunctionNode): boolean {
  const names = new Set(returnedFrom(fn).flatMap((each) => (each.type === 'Identifier' ? [each.name] : [])));
  if (!names.size || !fn.body) return false;
  let found = false;
  walkTree(fn.body, (node) => {
    if (node.type === 'VariableDeclarator' && node.id.type === 'Identifier' && names.has(node.id.name)) {
      found ||= node.init?.type === 'JSXElement' || node.init?.type === 'JSXFragment';
    }
    return !found;
  });
  return found;
}

function defaults(
  params: ReadonlyMap<string, NameBinding>,
  scope: ComponentScope,
): Map<string, Expr | undefined> {
  const props = new Map<string, Expr | undefined>();
  for (const bound of params.values()) {
    if (bound.is === 'prop') props.set(bound.name, bound.fallback && exprOf(bound.fallback, scope));
  }
  return props;
}

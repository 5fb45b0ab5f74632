import type { Node } from 'oxc-parser';
import { declarationOf, type ModuleFacts } from '../../../syntax/module-facts.js';
import type { Script } from '../../../syntax/script.js';
import {
  calledName,
  isFunction,
  pathOf,
  returnedFrom,
  unwrapped,
  type FunctionNode,
} from '../../../syntax/tree.js';
import { componentNode, nothingGiven } from '../../given.js';
import { UNKNOWN } from '../../expr.js';
import { inner, type CallNode, type ComponentScope, type NameBinding } from '../../scope.js';
import { functionScope } from '../../ways.js';
import type { Component, ComponentRef } from '../../view.js';
import { HANDS_ON, moduleScope, reactComponent, refOf } from './react.js';

/** A module in which a name is followed, with its tree. */
interface WrappingModule {
  script: Script;
  facts: ModuleFacts;
}

/** What the modules of a project tell of the names that one of them imports. */
interface Modules {
  /** The module of the project that declares an import, and the name it has there; undefined for packages. */
  declaring(
    file: string,
    from: { specifier: string; name: string },
  ): { module: WrappingModule; name: string } | undefined;
  /** Whether a file may be given something else than a package that it imports. */
  mayBeReplaced(file: string, specifier: string): boolean;
}

/** The props that a wrapper gives beside those that it hands on; `any` where their names can't be told. */
type Adds = readonly string[] | 'any';

// Functions of packages that give a component which shows the one that they are handed, with props of their own beside, as
// their documents say; `any` where one version or an option may give more.
const WRAPPERS: readonly { from: RegExp; names: string; curried?: true; adds: Adds }[] = [
  { from: /^react-intl$/, names: 'injectIntl', adds: ['intl'] },
  {
    from: /^react-router(?:-dom)?$/,
    names: 'withRouter',
    adds: ['history', 'location', 'match', 'router', 'params', 'routes', 'staticContext'],
  },
  { from: /^next\/router$/, names: 'withRouter default', adds: ['router'] },
  {
    from: /^(?:styled-components|@emotion\/react|emotion-theming)$/,
    names: 'withTheme',
    adds: ['theme'],
  },
  { from: /^mobx-react(?:-lite)?$/, names: 'observer', adds: [] },
  { from: /^hoist-non-react-statics$/, names: 'default', adds: [] },
  { from: /^@sentry\/react$/, names: 'withErrorBoundary withProfiler', adds: [] },
  { from: /^react-redux$/, names: 'connect', curried: true, adds: 'any' },
  { from: /^redux-form(?:\/|$)/, names: 'reduxForm formValues', curried: true, adds: 'any' },
  {
    from: /^react-i18next$/,
    names: 'withTranslation withNamespaces translate',
    curried: true,
    adds: ['t', 'i18n', 'tReady', 'lng', 'i18nOptions', 'defaultNS', 'reportNS', 'i18nLoadedAt'],
  },
  {
    from: /^@(?:material-ui\/core|material-ui\/styles|mui\/styles)(?:\/(?:styles|withStyles))?$/,
    names: 'withStyles default',
    curried: true,
    adds: ['classes', 'theme'],
  },
  { from: /^mobx-react$/, names: 'inject', curried: true, adds: 'any' },
  { from: /^(?:@apollo\/client\/react\/hoc|react-apollo)$/, names: 'graphql', curried: true, adds: 'any' },
  { from: /^react-dnd$/, names: 'DragSource DropTarget DragLayer', curried: true, adds: 'any' },
  {
    from: /^recompose$/,
    names: 'withProps withState withHandlers lifecycle withStateHandlers defaultProps mapProps',
    curried: true,
    adds: 'any',
  },
];

// `compose(withRouter, connect(…))(Lid)`: the last one is the first to be handed the component.
const COMPOSE: readonly { from: RegExp; names: string }[] = [
  { from: /^(?:redux|recompose|react-apollo)$/, names: 'compose' },
  { from: /^(?:lodash|lodash-es)$/, names: 'flowRight compose' },
  { from: /^lodash\/flowRight$|^lodash\.flowright$/, names: 'default' },
];

const named = (rows: typeof COMPOSE, { specifier, name }: { specifier: string; name: string }): number =>
  rows.findIndex(({ from, names }) => from.test(specifier) && names.split(' ').includes(name));

/** What an expression of wrappers gives. */
type Value =
  | { is: 'component'; ref: ComponentRef; adds: Adds }
  /** Declared inside of a wrapper of the project. */
  | { is: 'declared'; node: Node; module: WrappingModule; scope: ComponentScope }
  | { is: 'function'; node: FunctionNode; env: Env }
  | { is: 'wrapper'; adds: Adds; curried: boolean }
  | { is: 'compose' }
  | { is: 'composed'; of: readonly Value[] };

/** Where an expression stands: its module, and what the names of functions around it hold. */
interface Env {
  module: WrappingModule;
  names: ReadonlyMap<string, Value | undefined>;
  scope: ComponentScope;
}

const DEEPEST = 12;

/**
 * The component that a call of a wrapper gives: `connect(…)(Lid)`, `injectIntl(Lid)`, a function of the project's own that
 * hands its argument back, or shows it in a component that it declares.
 *
 * @param name what the component goes by
 * @param node the declaration or the expression that is exported, in `module`
 * @returns undefined where any step can't be followed
 */
export function wrappedComponent(
  name: string,
  node: Node,
  module: WrappingModule,
  modules: Modules,
): Component | undefined {
  const value = node.type === 'VariableDeclarator' ? node.init : node;
  if (!value || unwrapped(value).type !== 'CallExpression') return undefined;
  const given = new Wrapping(modules).of(value, outermost(module), 0);
  const place = { start: node.start, end: node.end };
  const { path: file } = module.script.source;
  if (given?.is === 'declared') {
    const { script, facts } = given.module;
    return reactComponent(name, given.node, script, facts, given.scope);
  }
  if (given?.is !== 'component') return undefined;
  const { ref, adds } = given;
  const base = { name, file, framework: 'react' as const, place, props: new Map() };
  if (adds.length === 0) return { ...base, view: [], wraps: ref };
  const props = new Map((adds === 'any' ? [] : adds).map((each) => [each, { expr: UNKNOWN }] as const));
  const inside = componentNode(
    { ...nothingGiven(), props, rest: [], open: adds === 'any' },
    { name, ref, place, slots: new Map() },
  );
  return { ...base, view: [inside] };
}

const outermost = (module: WrappingModule): Env => ({
  module,
  names: new Map(),
  scope: moduleScope(module.script.source, module.facts),
});

class Wrapping {
  readonly #modules: Modules;

  constructor(modules: Modules) {
    this.#modules = modules;
  }

  of(node: Node, env: Env, depth: number): Value | undefined {
    const expr = unwrapped(node);
    if (depth > DEEPEST) return undefined;
    switch (expr.type) {
      case 'Identifier':
      case 'MemberExpression': {
        const path = pathOf(expr);
        return path === undefined ? undefined : this.#named(path, env, depth + 1);
      }
      case 'CallExpression':
        return this.#call(expr, env, depth + 1);
      case 'ConditionalExpression': {
        const [then, otherwise] = [expr.consequent, expr.alternate].map((each) =>
          this.of(each, env, depth + 1),
        );
        return agreed([then, otherwise]);
      }
      case 'ClassExpression':
      case 'ClassDeclaration':
        return { is: 'declared', node: expr, module: env.module, scope: env.scope };
      default:
        return isFunction(expr) ? { is: 'function', node: expr, env } : undefined;
    }
  }

  #named(path: string, env: Env, depth: number): Value | undefined {
    const [head = path] = path.split('.');
    if (env.names.has(head)) return path === head ? env.names.get(head) : undefined;
    const { facts, script } = env.module;
    const { path: file } = script.source;
    const from = facts.imports.get(head);
    if (from) {
      const ref = refOf(path, facts);
      const asked = ref && 'specifier' in ref && ref.part === undefined ? ref : undefined;
      if (!asked || from.typeOnly) return undefined;
      const row = WRAPPERS[named(WRAPPERS, asked)];
      if (row && this.#modules.mayBeReplaced(file, asked.specifier)) return undefined;
      if (row) return { is: 'wrapper', adds: row.adds, curried: row.curried === true };
      if (named(COMPOSE, asked) >= 0) return { is: 'compose' };
      const declared = this.#modules.declaring(file, asked);
      return declared && this.#declared(declared.name, outermost(declared.module), depth);
    }
    return path === head ? this.#declared(head, env, depth) : undefined;
  }

  #declared(name: string, env: Env, depth: number): Value | undefined {
    const { facts, script } = env.module;
    const node = declarationOf(facts, name);
    const value = node?.type === 'VariableDeclarator' ? node.init : node;
    if (!node || !value) return undefined;
    const top = outermost(env.module);
    if (/^_?[A-Z]/.test(name) || value.type === 'ClassDeclaration')
      return { is: 'component', ref: { local: name, file: script.source.path }, adds: [] };
    return this.of(value, top, depth + 1);
  }

  #call(call: CallNode, env: Env, depth: number): Value | undefined {
    const [first] = call.arguments;
    const name = calledName(call);
    if (first && (name === 'assign' || (name !== undefined && HANDS_ON.has(name) && !env.names.has(name))))
      return this.of(first, env, depth);
    const callee = this.of(call.callee, env, depth);
    return callee && this.#applied(callee, call.arguments, env, depth);
  }

  #applied(callee: Value, args: readonly Node[], env: Env, depth: number): Value | undefined {
    const given = (): (Value | undefined)[] => args.map((each) => this.of(each, env, depth));
    switch (callee.is) {
      case 'wrapper':
        if (callee.curried) return { ...callee, curried: false };
        return this.#handed(callee, given(), depth);
      case 'compose': {
        const of = given();
        return of.every((each) => each !== undefined) ? { is: 'composed', of } : undefined;
      }
      default:
        return this.#handed(callee, given(), depth);
    }
  }

  // A wrapper that is handed what it wraps.
  #handed(callee: Value, [first, ...more]: readonly (Value | undefined)[], depth: number): Value | undefined {
    switch (callee.is) {
      case 'wrapper': {
        if (callee.curried || first?.is !== 'component') return undefined;
        const adds = callee.adds === 'any' || first.adds === 'any' ? 'any' : [...first.adds, ...callee.adds];
        return { ...first, adds };
      }
      case 'composed':
        return callee.of.reduceRight<Value | undefined>(
          (inside, each) => inside && this.#handed(each, [inside], depth + 1),
          first,
        );
      case 'function':
        return this.#result(callee, [first, ...more], depth);
      default:
        return undefined;
    }
  }

  // What a function of the project gives for a component; all that it returns must be one.
  #result(
    { node, env }: Extract<Value, { is: 'function' }>,
    args: readonly (Value | undefined)[],
    depth: number,
  ): Value | undefined {
    if (node.async || node.generator || depth > DEEPEST) return undefined;
    const names = new Map(env.names);
    const bindings = new Map<string, NameBinding>();
    node.params.forEach((param, i) => {
      const target = param.type === 'AssignmentPattern' ? param.left : param;
      if (target.type !== 'Identifier') return;
      names.set(target.name, args[i]);
      bindings.set(target.name, { is: 'unknown' });
    });
    const scope = withComponents(functionScope(node, env.scope, bindings), names);
    const inside: Env = { module: env.module, names, scope };
    for (const [name, value] of declaredIn(node)) names.set(name, this.of(value, inside, depth + 1));
    return agreed(returnedFrom(node).map((each) => asComponent(this.of(each, inside, depth + 1))));
  }
}

// A function that a wrapper gives back is a component, or another wrapper: who calls it tells.
function asComponent(value: Value | undefined): Value | undefined {
  if (value?.is !== 'function') return value;
  const { node, env } = value;
  const [param] = node.params;
  const isWrapper = param?.type === 'Identifier' && /^[A-Z]/.test(param.name);
  return isWrapper ? value : { is: 'declared', node, module: env.module, scope: env.scope };
}

function agreed(values: readonly (Value | undefined)[]): Value | undefined {
  const [first, ...more] = values;
  if (first?.is !== 'component') return more.length === 0 ? first : undefined;
  return more.every((each) => each?.is === 'component' && each.ref === first.ref) ? first : undefined;
}

// The names that the body of a function declares, in their order.
function* declaredIn({ body }: FunctionNode): Generator<readonly [string, Node]> {
  for (const statement of body?.type === 'BlockStatement' ? body.body : [])
    if (statement.type === 'VariableDeclaration') {
      for (const { id, init } of statement.declarations)
        if (id.type === 'Identifier' && init) yield [id.name, init];
    } else if (
      (statement.type === 'FunctionDeclaration' || statement.type === 'ClassDeclaration') &&
      statement.id
    )
      yield [statement.id.name, statement];
}

// Tags of the names that hold components stand for those.
function withComponents(
  scope: ComponentScope,
  names: ReadonlyMap<string, Value | undefined>,
): ComponentScope {
  return {
    ...inner(scope, new Map()),
    lookup: (name) => (names.get(name)?.is === 'component' ? undefined : scope.lookup(name)),
    ref(name) {
      const [head = name, ...parts] = name.split('.');
      const value = parts.length === 0 ? names.get(head) : undefined;
      return value?.is === 'component' && value.adds.length === 0 ? value.ref : scope.ref(name);
    },
  };
}

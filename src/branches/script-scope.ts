import type { Node, Program } from 'oxc-parser';
import { angularDeclarations } from '../components/frameworks/angular/angular-class.js';
import { constant, UNKNOWN, type Expr } from '../components/expr.js';
import { enumValues } from '../language/enums.js';
import { exprOf, withFallback } from '../components/read-expr.js';
import { contextRead, givenByPair, type NamedIn } from '../components/frameworks/react/contexts.js';
import { refOf, unwrappedComponent } from '../components/frameworks/react/react.js';
import { heldState, isStateCall } from '../components/frameworks/react/state-hooks.js';
import {
  declarePattern,
  inner,
  propsOf,
  type NameBinding,
  type ComponentScope,
} from '../components/scope.js';
import type { Framework } from '../components/shown.js';
import type { Component } from '../components/view.js';
import {
  computedValue,
  definesProps,
  namedEntries,
  optionsIn,
  type OptionsObject,
} from '../components/frameworks/vue/vue-script.js';
import type { ModuleTree, Project } from '../project/project.js';
import { isFunction, propertyName, unwrapped, walkTree, type FunctionNode } from '../syntax/tree.js';
import { onlyReturned, resultOf } from '../components/calls.js';
import { changedNames, type ChangedNames } from '../components/changed-names.js';

const DEEPEST_IMPORT = 3;

/** A name whose value can't be told, and that is not to be taken for another of the same name. */
export const HIDDEN: NameBinding = { is: 'expr', expr: { is: 'unknown' } };

/** Whether specs may put a stand-in in the place of a function, by its key. */
export type IsReplaced = (key: string) => boolean;

/**
 * What the names of a script stand for: its props, state, constants, and what it imports from the project, followed to
 * where that is declared. Calls of short functions without effects stand for what they give back.
 */
export class ScriptScopes {
  readonly file: string;
  readonly program: Program;
  readonly framework: Framework;
  readonly module: ComponentScope;
  /** What contexts are named by. */
  readonly named: NamedIn;
  readonly #components: readonly Component[];
  readonly #project: Project;
  readonly #tree: ModuleTree;
  readonly #depth: number;
  readonly #names = new Map<string, NameBinding | undefined>();
  /** The modules that names were followed to. */
  readonly #modules = new Map<string, ScriptScopes>();
  readonly #changed: ChangedNames;
  readonly #propsOf: ReadonlyMap<Node, ReadonlyMap<string, NameBinding>>;
  readonly #options: ReadonlyMap<Node, Component>;
  /** Functions that give what is rendered: `render`, getters, computed values. */
  readonly #rendering = new Set<Node>();

  readonly #isReplaced: IsReplaced;

  constructor(
    project: Project,
    tree: ModuleTree,
    components: readonly Component[],
    isReplaced: IsReplaced = () => false,
    depth = 0,
  ) {
    this.file = tree.path;
    this.program = tree.script.program;
    this.framework = components[0]?.framework ?? 'react';
    this.#components = components;
    this.#project = project;
    this.#tree = tree;
    this.#isReplaced = isReplaced;
    this.#depth = depth;
    this.#changed = changedNames(this.program as Node);
    this.named = { file: this.file, ref: (name) => refOf(name, tree.facts) };
    this.module = {
      text: tree.script.source.text,
      ref: () => undefined,
      lookup: (name) => this.#lookup(name),
      called: (call, args, scope, level) =>
        isStateCall(call, (name) => this.importOf(name))
          ? heldState(call, this.file)
          : (contextRead(call, this.named) ?? this.#called(unwrapped(call.callee), args, scope, level)),
    };
    this.#options = this.#optionObjects();
    this.#propsOf = this.#functionsWithProps();
    // Of modules that names are followed to, no branches are listed.
    if (depth === 0) this.#findComputed();
  }

  /** What the parameters of a component's own function stand for. */
  propsOf(fn: FunctionNode): ReadonlyMap<string, NameBinding> {
    const bound = this.#propsOf.get(fn) ?? NONE;
    return new Map(
      [...bound].map(([name, each]) => [
        name,
        this.isChanged(name) ? HIDDEN : withDefault(each, this.module),
      ]),
    );
  }

  /** Whether a function runs whenever its component is rendered. */
  runsOnRender(fn: FunctionNode): boolean {
    return this.#propsOf.has(fn) || this.#rendering.has(fn);
  }

  /** What an imported name stands for. */
  importOf(name: string): { specifier: string; name: string } | undefined {
    return this.#tree.facts.imports.get(name);
  }

  /** Whether a name is given another value, or changed in place, anywhere in the script. */
  isChanged(name: string): boolean {
    return this.#changed.written.has(name) || this.#changed.inPlace.has(name);
  }

  /** The scope inside a class: `this.temp` by that name. */
  ofClass(
    node: Extract<Node, { type: 'ClassDeclaration' | 'ClassExpression' }>,
    outer: ComponentScope,
  ): ComponentScope {
    const names = new Map<string, NameBinding>();
    const scope = inner(outer, names);
    const angular =
      this.framework === 'angular'
        ? angularDeclarations(this.#tree.script).find((each) => each.node === node)
        : undefined;
    for (const member of node.body.body) {
      if (member.type !== 'PropertyDefinition' && member.type !== 'MethodDefinition') continue;
      const name = propertyName(member.key, member.computed);
      if (name === undefined) continue;
      const value = member.value ? unwrapped(member.value) : undefined;
      const isGetter = member.type === 'MethodDefinition' && member.kind === 'get';
      const given = isGetter ? onlyReturned(value) : value && computedValue(value);
      if (value && (isGetter || name === 'render')) this.#rendering.add(value);
      if (given) names.set(`this.${name}`, { is: 'node', node: given, scope });
      else if (
        value &&
        isFunction(value) &&
        !isGetter &&
        !(member.type === 'MethodDefinition' && member.kind === 'set')
      )
        names.set(`this.${name}`, { is: 'node', node: value, scope });
      else if (angular) names.set(`this.${name}`, stateOf(name));
    }
    for (const [name, expr] of angular?.fields ?? []) names.set(`this.${name}`, { is: 'expr', expr });
    for (const name of angular?.inputs.keys() ?? []) names.set(`this.${name}`, { is: 'prop', name });
    return scope;
  }

  /** The scope inside the options of a Vue component; that of the outside for any other object. */
  ofOptions(node: OptionsObject, outer: ComponentScope): ComponentScope {
    const component = this.#options.get(node);
    if (!component) return outer;
    const names = new Map<string, NameBinding>();
    const scope = inner(outer, names);
    for (const [key, value] of namedEntries(node)) {
      if ((key !== 'computed' && key !== 'methods') || value.type !== 'ObjectExpression') continue;
      for (const [name, each] of namedEntries(value)) {
        if (key === 'computed') this.#rendering.add(unwrapped(each));
        const given = key === 'computed' ? onlyReturned(unwrapped(each)) : unwrapped(each);
        names.set(`this.${name}`, given ? { is: 'node', node: given, scope } : stateOf(name));
      }
    }
    for (const name of component.props.keys()) names.set(`this.${name}`, { is: 'prop', name });
    return {
      ...scope,
      lookup: (name) =>
        names.get(name) ?? (name.startsWith('this.') ? stateOf(name.slice(5)) : outer.lookup(name)),
    };
  }

  #lookup(name: string): NameBinding | undefined {
    if (!this.#names.has(name)) {
      // A name that is made from itself ends here.
      this.#names.set(name, undefined);
      this.#names.set(name, this.isChanged(name) ? HIDDEN : (this.#declared(name) ?? this.#imported(name)));
    }
    return this.#names.get(name);
  }

  #declared(name: string): NameBinding | undefined {
    const node = this.#tree.facts.declarations.get(name);
    if (!node) return undefined;
    if (node.type === 'TSEnumDeclaration') return { is: 'expr', expr: enumOf(node) };
    if (node.type !== 'VariableDeclarator') return { is: 'node', node, scope: this.module };
    const gives = givenByPair(name, node, this.file);
    if (gives) return { is: 'giver', gives };
    if (this.framework === 'vue' && node.init) {
      const own = this.#setupName(name, node.id, node.init);
      if (own) return own;
    }
    const names = new Map<string, NameBinding>();
    declarePattern(node.id, node.init, names, this.module);
    return names.get(name);
  }

  // What script setup declares: props, refs and computed values, which scripts read by `.value`.
  #setupName(name: string, id: Node, init: Node): NameBinding | undefined {
    if (definesProps(init)) return id.type === 'Identifier' ? { is: 'props' } : propsOf(id).get(name);
    if (id.type !== 'Identifier') return undefined;
    const given = computedValue(init);
    const value: Expr | undefined = given
      ? exprOf(given, this.module)
      : isRef(init)
        ? { is: 'unknown', name }
        : undefined;
    return value && { is: 'expr', expr: { is: 'object', entries: [['value', value]], open: true } };
  }

  #imported(name: string): NameBinding | undefined {
    const from = this.#tree.facts.imports.get(name);
    if (!from || from.typeOnly || from.name === '*' || this.#depth >= DEEPEST_IMPORT) return undefined;
    const declared = this.#project.imported(this.file, from);
    const tree = declared && !declared.file.endsWith('.vue') ? this.#project.tree(declared.file) : undefined;
    if (!tree || !declared) return undefined;
    const module =
      this.#modules.get(tree.path) ??
      new ScriptScopes(this.#project, tree, [], this.#isReplaced, this.#depth + 1);
    this.#modules.set(tree.path, module);
    return module.#lookup(declared.name);
  }

  // `computed(() => …)` and `useMemo(() => …)`, wherever they stand.
  #findComputed(): void {
    walkTree(this.program as Node, (node) => {
      if (node.type !== 'CallExpression' || node.callee.type !== 'Identifier') return;
      const [fn] = node.arguments;
      if (fn && COMPUTES.has(node.callee.name)) this.#rendering.add(fn);
    });
  }

  #optionObjects(): Map<Node, Component> {
    const found = new Map<Node, Component>();
    if (this.framework !== 'vue') return found;
    const { declarations, exports } = this.#tree.facts;
    const unnamed = exports.get('default');
    for (const component of this.#components) {
      const node =
        declarations.get(component.name) ??
        (unnamed &&
          ('node' in unnamed
            ? unnamed.node
            : 'local' in unnamed
              ? declarations.get(unnamed.local)
              : undefined));
      const options = node && optionsIn(node);
      if (options) found.set(options, component);
    }
    return found;
  }

  #functionsWithProps(): Map<Node, ReadonlyMap<string, NameBinding>> {
    const found = new Map<Node, ReadonlyMap<string, NameBinding>>();
    for (const options of this.#options.keys())
      for (const [key, value] of namedEntries(options as OptionsObject))
        if (key === 'setup' && isFunction(value)) found.set(value, propsOf(value.params[0]));
    if (this.framework !== 'react') return found;
    const { declarations, exports } = this.#tree.facts;
    const unnamed = exports.get('default');
    for (const { name } of this.#components) {
      const node = declarations.get(name) ?? (unnamed && 'node' in unnamed ? unnamed.node : undefined);
      const value = node?.type === 'VariableDeclarator' ? node.init : node;
      const made = value && unwrappedComponent(value);
      if (made && isFunction(made)) found.set(made, propsOf(made.params[0]));
    }
    return found;
  }

  // What a function of the project gives back, where it is short and has no effects; a signal is read by a call.
  #called(callee: Node, args: readonly Expr[], scope: ComponentScope, depth: number): Expr | undefined {
    const bound =
      callee.type === 'Identifier'
        ? scope.lookup(callee.name)
        : callee.type === 'MemberExpression' && callee.object.type === 'ThisExpression'
          ? scope.lookup(`this.${propertyName(callee.property, callee.computed)}`)
          : undefined;
    const answer =
      callee.type === 'Identifier' && bound === this.#lookup(callee.name)
        ? this.#answerOf(callee.name)
        : undefined;
    if (answer) return answer;
    if (bound?.is === 'giver') return bound.gives;
    if (bound?.is === 'node' && isFunction(bound.node)) return resultOf(bound.node, bound.scope, args, depth);
    if (!bound || args.length > 0) return undefined;
    return this.framework === 'angular' ? exprOf(callee, scope, depth + 1) : undefined;
  }

  // Where specs put a stand-in in the place of a function of another module, nothing of its own code runs.
  #answerOf(name: string): Expr | undefined {
    const from = this.#tree.facts.imports.get(name);
    const key = from && !from.typeOnly ? this.#project.exportKey(this.file, from) : undefined;
    return key !== undefined && this.#isReplaced(key)
      ? { is: 'unknown', answer: { of: key, path: [] } }
      : undefined;
  }
}

// Past the parameters, the default has already taken the place of undefined.
const withDefault = (bound: NameBinding, scope: ComponentScope): NameBinding =>
  bound.is === 'prop' && bound.fallback
    ? {
        is: 'expr',
        expr: withFallback({ is: 'prop', name: bound.name }, { fallback: bound.fallback, scope }, 0),
      }
    : bound;

const COMPUTES = new Set(['computed', 'useMemo']);

const NONE: ReadonlyMap<string, NameBinding> = new Map();
const stateOf = (name: string): NameBinding => ({ is: 'expr', expr: { is: 'unknown', name } });

const REFS = new Set(['ref', 'shallowRef', 'customRef', 'toRef', 'useTemplateRef', 'defineModel']);
const isRef = (node: Node): boolean => {
  const call = unwrapped(node);
  return call.type === 'CallExpression' && call.callee.type === 'Identifier' && REFS.has(call.callee.name);
};

const enumOf = (node: Extract<Node, { type: 'TSEnumDeclaration' }>): Expr => ({
  is: 'object',
  entries: [...enumValues(node)].map(([name, value]) => [
    name,
    value === undefined ? UNKNOWN : constant(value),
  ]),
  open: false,
});

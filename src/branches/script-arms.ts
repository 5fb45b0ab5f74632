import { functionScope } from '../components/ways.js';
import type { Node } from 'oxc-parser';
import { exprOf, exprOfBound, conditionOf } from '../components/read-expr.js';
import {
  constant,
  EVENT,
  memberOfExpr,
  nullish,
  oneOf,
  UNKNOWN,
  type Expr,
  type Condition,
} from '../components/expr.js';
import { partsIn, type NameBinding, type ComponentScope } from '../components/scope.js';
import type { EventPlace } from '../components/view.js';
import type { Place } from '../finding.js';
import {
  childrenOf,
  isFunction,
  literalText,
  memberName,
  unwrapped,
  walkTree,
  type FunctionNode,
} from '../syntax/tree.js';
import { namesIn } from '../syntax/module-facts.js';
import { allOf, anyOf, onlyInWords, negated, type Arm, type Branch, type WrittenCondition } from './arms.js';
import { HIDDEN, type ScriptScopes } from './script-scope.js';
import { showsMarkup } from './shows.js';
import { consumes } from '../components/frameworks/react/contexts.js';
import { States, type State } from './states.js';
import { NO_STATES, statePlaces, type StatePlaces } from '../components/frameworks/react/state-places.js';
import { leaves, mayLeave, neverFalls } from '../language/completion.js';
import { bindPattern } from '../language/patterns.js';

/** Every branch of a script, in the order of the source, and its states by their keys. */
export function scriptBranches(scopes: ScriptScopes): {
  branches: Branch[];
  states: ReadonlyMap<string, State>;
} {
  const inventory = new Inventory(scopes);
  inventory.read(scopes.program as Node, {
    scope: scopes.module,
    under: [],
    inAttribute: false,
    deferred: false,
    mayChange: scopes.framework !== 'react',
    on: [],
  });
  return {
    branches: inventory.branches.sort((a, b) => a.place.start - b.place.start),
    states: inventory.states.found,
  };
}

/** Where a node stands. */
interface Around {
  scope: ComponentScope;
  under: readonly WrittenCondition[];
  inAttribute: boolean;
  deferred: boolean;
  mayChange: boolean;
  /** The events that it handles. */
  on: readonly EventPlace[];
}

type NodeOf<Type extends Node['type']> = Extract<Node, { type: Type }>;

// Methods that call a function with each item of a list.
const WALKS = new Set(['map', 'flatMap', 'filter', 'forEach', 'some', 'every', 'find', 'findIndex']);

// `?? {}`, `|| 1`: a value that stands in for what is missing.
function isPlain(node: Node): boolean {
  if (node.type === 'ObjectExpression') return node.properties.length === 0;
  if (node.type === 'ArrayExpression') return node.elements.length === 0;
  return node.type === 'Literal' || (node.type === 'Identifier' && node.name === 'undefined');
}

// Whether a module waits for promises that may fail one by one: `Promise.allSettled(…)`.
function settles(program: Node): boolean {
  let found = false;
  walkTree(program, (node) => {
    found ||= memberName(node) === 'allSettled';
    return !found;
  });
  return found;
}

// `result.status === 'rejected'`
function asksForRejection(test: Node): boolean {
  const asked = unwrapped(test);
  return (
    asked.type === 'BinaryExpression' &&
    asked.operator.startsWith('==') &&
    memberName(unwrapped(asked.left)) === 'status' &&
    literalText(asked.right) === 'rejected'
  );
}

class Inventory {
  readonly branches: Branch[] = [];
  readonly states: States;
  readonly #scopes: ScriptScopes;
  readonly #handledBy: StatePlaces['handledBy'];

  constructor(scopes: ScriptScopes) {
    this.#scopes = scopes;
    const places =
      scopes.framework === 'react'
        ? statePlaces(scopes.program as Node, (name) => scopes.importOf(name))
        : NO_STATES;
    this.states = new States(places);
    this.#handledBy = places.handledBy;
  }

  read(node: Node, around: Around): void {
    if (isFunction(node)) return this.#function(node, around);
    switch (node.type) {
      case 'IfStatement':
      case 'ConditionalExpression':
        return this.#if(node, around);
      case 'LogicalExpression':
        return this.#logical(node, around);
      case 'SwitchStatement':
        return this.#switch(node, around);
      case 'TryStatement':
        return this.#try(node, around);
      case 'AssignmentPattern':
        return this.#default(node, around);
      case 'MemberExpression':
      case 'CallExpression':
        return this.#chain(node, around);
      case 'ClassDeclaration':
      case 'ClassExpression':
        return this.#all(node, {
          ...around,
          scope: this.#scopes.ofClass(node, around.scope),
          mayChange: true,
        });
      case 'ObjectExpression':
        return this.#all(node, { ...around, scope: this.#scopes.ofOptions(node, around.scope) });
      case 'JSXElement':
        return this.#markup(node, around);
      case 'JSXAttribute':
        return this.#all(node, { ...around, inAttribute: true });
      case 'BlockStatement':
      case 'Program':
        return this.#statements(node.body as readonly Node[], around);
      case 'VariableDeclarator':
        this.states.declared(node, around);
        return this.#all(node, around);
      case 'Identifier':
        return this.states.named(node, around);
      default:
        return this.#all(node, around);
    }
  }

  #all(node: Node, around: Around): void {
    for (const child of childrenOf(node)) this.read(child, around);
  }

  #function(fn: FunctionNode, around: Around, given: ReadonlyMap<string, NameBinding> = new Map()): void {
    const names = new Map<string, NameBinding>();
    for (const name of fn.params.flatMap((param) => namesIn(param)))
      // A name that hides another is not the same thing.
      names.set(name, around.scope.lookup(name) || this.#scopes.isChanged(name) ? HIDDEN : { is: 'unknown' });
    for (const [name, bound] of [...given, ...this.#scopes.propsOf(fn)]) names.set(name, bound);
    const on = this.#handledBy(fn);
    const [event] = fn.params;
    if (on.length > 0 && event)
      bindPattern(event, HANDED, partsIn(around.scope), ({ name }, bound) => names.set(name, bound));
    const deferred = around.deferred || !(given.size > 0 || this.#scopes.runsOnRender(fn));
    this.#all(fn, {
      ...around,
      inAttribute: false,
      deferred,
      on: on.length > 0 ? on : around.on,
      scope: functionScope(fn, around.scope, names, (name) => this.#scopes.isChanged(name)),
    });
  }

  // What follows a statement that may leave stands under the condition that it has not left.
  #statements(statements: readonly Node[], around: Around): void {
    let under = around.under;
    for (const statement of statements) {
      this.read(statement, { ...around, under });
      under = [...under, ...this.#goingOn(statement, around)];
    }
  }

  // The conditions under which a statement goes on to the next; none where it always does.
  #goingOn(node: Node, around: Around): readonly WrittenCondition[] {
    if (!mayLeave(node)) return [];
    if (leaves(node)) return [NEVER];
    if (node.type === 'BlockStatement') return node.body.flatMap((each) => this.#goingOn(each, around));
    if (node.type !== 'IfStatement') return [onlyInWords('nothing before it leaves')];
    const own = this.#condition(node.test, around);
    const yes = [own, ...this.#goingOn(node.consequent, around)];
    const no = [negated(own), ...(node.alternate ? this.#goingOn(node.alternate, around) : [])];
    if (yes.includes(NEVER)) return no;
    return no.includes(NEVER) ? yes : [anyOf([allOf(yes), allOf(no)])];
  }

  #if(node: NodeOf<'IfStatement'> | NodeOf<'ConditionalExpression'>, around: Around): void {
    const test = this.#condition(node.test, around);
    const { consequent, alternate } = node;
    if (asksForRejection(node.test) && settles(this.#scopes.program as Node))
      this.#add('try', node, 'catch', around, [
        this.#arm('catch', consequent, onlyInWords('what is waited for fails')),
      ]);
    else
      this.#add(node.type === 'IfStatement' ? 'if' : 'conditional', node, test.text, around, [
        this.#arm('then', consequent, test),
        this.#arm('else', alternate ?? node, negated(test), alternate !== null),
      ]);
    this.read(node.test, around);
    this.read(consequent, this.#under(around, test));
    if (alternate) this.read(alternate, this.#under(around, negated(test)));
  }

  // A chain of `&&`, `||` and `??` is one branch with a part for each operand.
  #logical(node: NodeOf<'LogicalExpression'>, around: Around): void {
    const parts = this.#parts(node, [], around);
    const two = parts.length === 2;
    const arms = parts.map((part, i) => ({
      ...this.#arm(two ? (i === 0 ? 'left' : 'right') : String(i + 1), part.node, allOf(part.under)),
      isFallback: i > 0 && node.operator !== '&&' && isPlain(part.node),
    }));
    this.#add('logical', node, this.#source(node), around, arms);
    for (const part of parts) this.read(part.node, this.#under(around, ...part.under));
  }

  #parts(
    node: Node,
    under: readonly WrittenCondition[],
    around: Around,
  ): { node: Node; under: readonly WrittenCondition[] }[] {
    const whole = unwrapped(node);
    if (whole.type !== 'LogicalExpression') return [{ node: whole, under }];
    const left = this.#condition(whole.left, around);
    const passed =
      whole.operator === '&&'
        ? left
        : whole.operator === '||'
          ? negated(left)
          : this.#nothing(whole.left, around);
    return [
      ...this.#parts(whole.left, under, around),
      ...this.#parts(whole.right, [...under, passed], around),
    ];
  }

  // `a?.b`: what stands behind it is left out where there is nothing.
  #chain(node: NodeOf<'MemberExpression'> | NodeOf<'CallExpression'>, around: Around): void {
    if (node.optional) {
      const of = node.type === 'MemberExpression' ? node.object : node.callee;
      const nothing = this.#arm('nothing', of, this.#nothing(of, around), false);
      this.#add('optional', node, this.#source(node), around, [nothing]);
    }
    if (node.type === 'CallExpression') {
      this.#caught(node, around);
      if (this.states.called(node, around)) return node.arguments.forEach((each) => this.read(each, around));
    }
    const walk = node.type === 'CallExpression' ? this.#walked(node, around) : undefined;
    if (!walk) return this.#all(node, around);
    this.read(node.type === 'CallExpression' ? node.callee : node, around);
    this.#function(walk.fn, around, walk.names);
  }

  // `<Kiln.Consumer>{({ temp }) => …}</Kiln.Consumer>`
  #markup(node: NodeOf<'JSXElement'>, around: Around): void {
    const { name } = node.openingElement;
    const gives = consumes(this.#source(name), this.#scopes.named);
    for (const child of childrenOf(node)) {
      const fn = child.type === 'JSXExpressionContainer' ? child.expression : undefined;
      if (!gives || !fn || !isFunction(fn)) this.read(child, around);
      else this.#function(fn, around, namesGiven(fn, gives, around.scope));
    }
  }

  // `load().catch(() => setError(true))`, `load().then(show, () => setError(true))`
  #caught(node: NodeOf<'CallExpression'>, around: Around): void {
    const [first, second] = node.arguments;
    const name = memberName(unwrapped(node.callee));
    const handler = name === 'catch' ? first : name === 'then' ? second : undefined;
    if (!handler || !isFunction(handler) || !handler.body) return;
    const { body } = handler;
    if (body.type === 'BlockStatement' && body.body.length === 0) return;
    this.#add('try', node, 'catch', around, [
      this.#arm('catch', body as Node, onlyInWords('what is waited for fails')),
    ]);
  }

  // `kilns.map((kiln) => …)`: the item stands for the first one.
  #walked(
    { callee, arguments: given }: NodeOf<'CallExpression'>,
    { scope }: Around,
  ): { fn: FunctionNode; names: Map<string, NameBinding> } | undefined {
    const method = unwrapped(callee);
    const [fn] = given;
    if (method.type !== 'MemberExpression' || !WALKS.has(memberName(method) ?? '') || !fn || !isFunction(fn))
      return undefined;
    const list = exprOf(method.object, scope);
    // Of what a function makes, the first item says nothing of the others.
    const item: Expr =
      list.is === 'list' && list.items.length
        ? oneOf(list.items)
        : list.is === 'computed'
          ? UNKNOWN
          : memberOfExpr(list, '0');
    return { fn, names: namesGiven(fn, item, scope) };
  }

  #switch(node: NodeOf<'SwitchStatement'>, around: Around): void {
    const subject = this.#source(node.discriminant);
    const left = exprOf(node.discriminant, around.scope);
    const own = node.cases.map(({ test }): WrittenCondition | undefined =>
      test
        ? {
            text: `${subject} is ${this.#source(test)}`,
            test: { is: 'same', left, right: exprOf(test, around.scope) },
          }
        : undefined,
    );
    const none: WrittenCondition = {
      text: `${subject} is none of the cases`,
      test: { is: 'not', of: { is: 'any', of: own.flatMap((each) => (each ? [each.test] : [])) } },
    };
    let fallsTo: WrittenCondition[] = [];
    const conditions = own.map((each, i) => {
      const reaches = [...fallsTo, each ?? none];
      fallsTo = node.cases[i]?.consequent.some(neverFalls) ? [] : reaches;
      return anyOf(reaches);
    });
    const arms = node.cases.map((eachCase, i) =>
      this.#arm(
        eachCase.test ? `case ${this.#source(eachCase.test)}` : 'default',
        eachCase,
        conditions[i] ?? none,
      ),
    );
    this.#add('switch', node, subject, around, arms);
    this.read(node.discriminant, around);
    node.cases.forEach((eachCase, i) =>
      this.#statements(eachCase.consequent as readonly Node[], this.#under(around, conditions[i] ?? none)),
    );
  }

  #try(node: NodeOf<'TryStatement'>, around: Around): void {
    const failed = onlyInWords('what is tried fails');
    // What a failure does nothing about has no arm of its own.
    if (node.handler?.body.body.length)
      this.#add('try', node, 'try', around, [this.#arm('catch', node.handler.body, failed)]);
    this.read(node.block, around);
    if (node.handler) this.read(node.handler, this.#under(around, failed));
    if (node.finalizer) this.read(node.finalizer, around);
  }

  #default(node: NodeOf<'AssignmentPattern'>, around: Around): void {
    const name = this.#source(node.left);
    const test: Condition = {
      is: 'same',
      left: withoutDefault(node.left, around.scope),
      right: constant(undefined),
    };
    const missing: WrittenCondition = { text: `${name} is not given`, test };
    const given: WrittenCondition = { text: `${name} is given`, test: { is: 'not', of: test } };
    this.#add('default', node, name, around, [
      this.#arm('default', node.right, missing),
      this.#arm('given', node.left, given, false),
    ]);
    this.read(node.right, this.#under(around, missing));
  }

  #add(kind: Branch['kind'], node: Node, condition: string, around: Around, arms: readonly Arm[]): void {
    const { under, inAttribute, deferred, mayChange } = around;
    this.branches.push({
      kind,
      place: this.#place(node),
      condition,
      under,
      arms,
      inAttribute,
      deferred,
      mayChange,
    });
  }

  #arm(arm: string, node: Node, condition: WrittenCondition, written = true): Arm {
    return { arm, place: this.#place(node), condition, written, shows: written && showsMarkup(node) };
  }

  readonly #under = (around: Around, ...conditions: readonly WrittenCondition[]): Around => ({
    ...around,
    under: [...around.under, ...conditions],
  });

  #condition(node: Node, { scope }: Around): WrittenCondition {
    return { text: this.#source(node), test: conditionOf(node, before(node, scope)) };
  }

  #nothing(node: Node, { scope }: Around): WrittenCondition {
    return {
      text: `${this.#source(node)} is null or undefined`,
      test: nullish(exprOf(node, before(node, scope))),
    };
  }

  #place(node: Node): Place {
    return { file: this.#scopes.file, start: node.start, end: node.end };
  }

  #source(node: Node): string {
    return this.#scopes.module.text.slice(node.start, node.end).replace(/\s+/g, ' ');
  }
}

// What the names of a function's first parameter stand for.
function namesGiven(
  { params: [param] }: FunctionNode,
  given: Expr,
  scope: ComponentScope,
): Map<string, NameBinding> {
  const names = new Map<string, NameBinding>();
  if (param)
    bindPattern(param, { is: 'expr', expr: given }, partsIn(scope), ({ name }, bound) =>
      names.set(name, bound),
    );
  return names;
}

const HANDED: NameBinding = { is: 'expr', expr: { is: 'unknown', answer: { of: EVENT, path: [] } } };

const NEVER: WrittenCondition = { text: 'never', test: { is: 'any', of: [] } };

// A name that is given a value further down holds another one here.
const before = (node: Node, scope: ComponentScope): ComponentScope => ({
  ...scope,
  lookup(name) {
    const bound = scope.lookup(name);
    const isLater =
      bound?.is === 'assigned' && bound.ways.some((way) => way.node && way.node.start > node.start);
    return isLater ? HIDDEN : bound;
  },
});

/** The value that a name with a default has before the default stands in. */
function withoutDefault(left: Node, scope: ComponentScope): Expr {
  if (left.type !== 'Identifier') return { is: 'unknown' };
  const bound = scope.lookup(left.name);
  if (bound?.is === 'prop') return { is: 'prop', name: bound.name };
  if (bound?.is === 'either') return exprOfBound(bound.of);
  if (bound?.is === 'expr' && bound.expr.is === 'if') return bound.expr.otherwise;
  return { is: 'unknown', name: left.name };
}

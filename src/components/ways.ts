import type { Node } from 'oxc-parser';
import { changedNames } from './changed-names.js';
import { memberName, unwrapped, walkTree, writtenTo, type FunctionNode } from '../syntax/tree.js';
import { both, not, nullish, UNSURE, type Condition } from './expr.js';
import { exprOf, conditionOf } from './read-expr.js';
import { completion, completionOf, mayLeave, neverFalls } from '../language/completion.js';
import {
  declarePattern,
  inner,
  whileGrowing,
  type NameBinding,
  type ComponentScope,
  type WayOut,
} from './scope.js';

const ALWAYS: Condition = { is: 'all', of: [] };
const NEVER: Condition = { is: 'any', of: [] };
const MOST_TIMES = 2;

/** What a function gives back: each expression, with the condition that leads to it. `always`: no condition at all. */
export function waysOut(fn: FunctionNode, scope: ComponentScope): (WayOut & { always: boolean })[] {
  if (!fn.body) return [];
  if (fn.body.type !== 'BlockStatement') return [{ node: fn.body as Node, test: ALWAYS, always: true }];
  const ways: WayOut[] = [];
  follow(fn.body.body, ALWAYS, scope, (statement, test) => {
    if (statement.type === 'ReturnStatement') ways.push({ node: statement.argument ?? undefined, test });
  });
  return ways.map((way) => ({ ...way, always: way.test === ALWAYS }));
}

/** What the statements of a function set outside of loops and callbacks: names of its own, and properties of objects. */
interface SetBy {
  /** Names that are set by plain assignments only, with what they are declared as. */
  names: ReadonlyMap<string, Node | undefined>;
  /** Assignments to properties by other ways, as `name.key`. */
  elsewhere: ReadonlySet<string>;
}

// A scope in which nothing is known: for who only asks which statements there are.
const BLIND: ComponentScope = { text: '', ref: () => undefined, lookup: () => ({ is: 'unknown' }) };

function setBy(block: Extract<Node, { type: 'BlockStatement' }>, given: ReadonlySet<string>): SetBy {
  const names = new Map<string, Node | undefined>([...given].map((name) => [name, undefined]));
  for (const statement of block.body) {
    if (statement.type !== 'VariableDeclaration' || statement.kind === 'const') continue;
    for (const { id, init } of statement.declarations)
      if (id.type === 'Identifier') names.set(id.name, init ?? undefined);
  }
  const seen = new Set<Node>();
  follow(block.body, ALWAYS, BLIND, (statement) => {
    const set = assignmentIn(statement);
    if (!set) return;
    seen.add(set.node);
  });
  const elsewhere = new Set<string>();
  walkTree(block, (node) => {
    const target = seen.has(node) ? undefined : writtenTo(node);
    if (target?.type === 'Identifier') names.delete(target.name);
    if (target?.type === 'MemberExpression' && target.object.type === 'Identifier')
      elsewhere.add(`${target.object.name}.${memberName(target)}`);
  });
  return { names, elsewhere };
}

interface Assignment {
  node: Node;
  name: string;
  /** The property, where it is one that is set. */
  key?: string;
  value: Node;
  /** What it hangs on. */
  under?: { operator: '||' | '&&' | '??'; node: Node };
}

function underOf({ under }: Assignment, scope: ComponentScope): Condition {
  if (!under) return ALWAYS;
  if (under.operator === '??') return nullish(exprOf(under.node, scope));
  const holds = conditionOf(under.node, scope);
  return under.operator === '&&' ? holds : not(holds);
}

// `temp = 600;`, `given.role = 'button';`
function assignmentIn(statement: Node): Assignment | undefined {
  const whole = statement.type === 'ExpressionStatement' ? statement.expression : undefined;
  // `href || (href = '/');`
  const node = whole?.type === 'LogicalExpression' ? unwrapped(whole.right) : whole;
  if (node?.type !== 'AssignmentExpression' || node.operator !== '=') return undefined;
  const { left, right: value } = node;
  const under =
    whole?.type === 'LogicalExpression' ? { operator: whole.operator, node: whole.left } : undefined;
  if (left.type === 'Identifier') return { node, name: left.name, value, under };
  const key = left.type === 'MemberExpression' ? memberName(left) : undefined;
  if (left.type !== 'MemberExpression' || left.object.type !== 'Identifier' || key === undefined)
    return undefined;
  return { node, name: left.object.name, key, value, under };
}

function mentions(node: Node, name: string): boolean {
  let found = false;
  walkTree(node, (each) => {
    found ||= each.type === 'Identifier' && each.name === name;
    return !found;
  });
  return found;
}

type Visit = (statement: Node, test: Condition) => void;

// Statements in order, each with the condition under which it runs; gives the condition to come out behind them.
function follow(
  statements: readonly Node[],
  start: Condition,
  scope: ComponentScope,
  visit: Visit,
): Condition {
  let under = start;
  for (const statement of statements) {
    visit(statement, under);
    switch (statement.type) {
      case 'BlockStatement':
        under = follow(statement.body, under, scope, visit);
        break;
      case 'IfStatement':
        under = followIf(statement, under, scope, visit);
        break;
      case 'SwitchStatement':
        under = followSwitch(statement, under, scope, visit);
        break;
      case 'TryStatement':
        follow(statement.block.body, UNSURE, scope, visit);
        if (statement.handler) follow(statement.handler.body.body, UNSURE, scope, visit);
        under = mayLeave(statement) ? UNSURE : under;
        break;
      case 'ForStatement':
      case 'ForOfStatement':
      case 'ForInStatement':
      case 'WhileStatement':
      case 'DoWhileStatement':
      case 'LabeledStatement':
        if (!mayLeave(statement)) break;
        follow([statement.body], UNSURE, scope, visit);
        under = UNSURE;
    }
    if (neverFalls(statement)) return NEVER;
  }
  return under;
}

function followIf(
  node: Extract<Node, { type: 'IfStatement' }>,
  under: Condition,
  scope: ComponentScope,
  visit: Visit,
): Condition {
  const test = conditionOf(node.test, scope);
  const yes = follow([node.consequent], joinedWith(under, test), scope, visit);
  const otherwise = joinedWith(under, not(test));
  const no = node.alternate ? follow([node.alternate], otherwise, scope, visit) : otherwise;
  if (yes === NEVER) return no;
  return no === NEVER ? yes : onlyFalls(node) ? under : { is: 'any', of: [yes, no] };
}

function followSwitch(
  node: Extract<Node, { type: 'SwitchStatement' }>,
  under: Condition,
  scope: ComponentScope,
  visit: Visit,
): Condition {
  const subject = exprOf(node.discriminant, scope);
  const tests = node.cases.map(({ test }): Condition | undefined =>
    test ? { is: 'same', left: subject, right: exprOf(test, scope) } : undefined,
  );
  const none = not({ is: 'any', of: tests.filter((test) => test !== undefined) });
  let fallsTo: Condition[] = [];
  let goesOn = false;
  for (const [i, { consequent }] of node.cases.entries()) {
    fallsTo.push(tests[i] ?? none);
    const ends = completionOf(consequent as readonly Node[]);
    follow(consequent, joinedWith(under, { is: 'any', of: fallsTo }), scope, visit);
    const falls = ends.has('falls');
    goesOn ||= ends.has('breaks') || (falls && i === node.cases.length - 1);
    if (!falls) fallsTo = [];
  }
  if (!mayLeave(node)) return under;
  return goesOn ? UNSURE : joinedWith(under, none);
}

const onlyFalls = (node: Node): boolean => {
  const ends = completion(node);
  return ends.size === 1 && ends.has('falls');
};

const joinedWith = (under: Condition, test: Condition): Condition =>
  under === ALWAYS ? test : test === ALWAYS ? under : both(under, test);

/**
 * The scope inside a function: its parameters unknown, but those bound in `params`, and its constants readable, but for
 * what is changed: by the function itself, or as `isChanged` says.
 */
export function functionScope(
  fn: FunctionNode,
  outer: ComponentScope,
  params: ReadonlyMap<string, NameBinding>,
  isChanged?: (name: string) => boolean,
): ComponentScope {
  const names = new Map<string, NameBinding>(params);
  const scope = inner(outer, names);
  if (fn.body?.type !== 'BlockStatement') return scope;
  const { written, inPlace } = changedNames(fn.body);
  declareAll(fn.body.body, names, scope);
  for (const name of names.keys())
    if (isChanged ? isChanged(name) : written.has(name)) names.set(name, { is: 'unknown' });
  if (written.size === 0 && inPlace.size === 0) return scope;
  const given = new Set(isChanged ? [] : [...params.keys()].filter((name) => written.has(name)));
  const set = setBy(fn.body, given);
  const ways = new Map<string, WayOut[]>();
  for (const [name, init] of set.names) {
    if (!written.has(name) || (!isChanged && inPlace.has(name))) continue;
    const own: WayOut[] = init ? [{ node: init, test: ALWAYS }] : [];
    ways.set(name, own);
    names.set(name, {
      is: 'assigned',
      first: given.has(name) ? params.get(name) : undefined,
      ways: own,
      scope,
    });
  }
  for (const [name, bound] of isChanged ? [] : names) {
    if (!inPlace.has(name) || written.has(name) || isGiven(bound)) continue;
    const keys = [...(inPlace.get(name) ?? [])].map((key) => {
      const own = set.elsewhere.has(`${name}.${key}`) ? undefined : [];
      if (own) ways.set(`${name}.${key}`, own);
      return [key, own] as const;
    });
    names.set(
      name,
      inPlace.get(name) ? { is: 'set-later', of: bound, keys: new Map(keys), scope } : { is: 'unknown' },
    );
  }
  // Conditions are read as the names stand by then: the ways grow statement by statement.
  const { body } = fn.body;
  const add: Visit = (statement, test) => {
    const made = assignmentIn(statement);
    const own = made && ways.get(made.key === undefined ? made.name : `${made.name}.${made.key}`);
    if (!made || !own) return;
    const before = made.key === undefined && mentions(made.value, made.name) ? [...own] : undefined;
    // Each time, all that it was before stands in what it is made of.
    if (before && own.filter((way) => way.scope).length >= MOST_TIMES) {
      names.set(made.name, { is: 'unknown' });
      ways.delete(made.name);
      return;
    }
    const bound = before && names.get(made.name);
    own.push({
      node: made.value,
      test: joinedWith(test, underOf(made, scope)),
      scope:
        before && bound?.is === 'assigned'
          ? inner(scope, new Map([[made.name, { ...bound, ways: before }]]))
          : undefined,
    });
  };
  if (ways.size > 0) whileGrowing(() => follow(body, ALWAYS, scope, add));
  return scope;
}

// What is changed in place of a prop is changed for its owner, and is the prop all the same.
const isGiven = ({ is }: NameBinding): boolean => is === 'prop' || is === 'props' || is === 'rest';

// Constants and functions of a block and of the blocks inside it; a name declared twice is unknown.
function declareAll(
  statements: readonly Node[],
  names: Map<string, NameBinding>,
  scope: ComponentScope,
): void {
  for (const statement of statements) {
    switch (statement.type) {
      case 'VariableDeclaration':
        for (const { id, init } of statement.declarations) declarePattern(id, init, names, scope);
        break;
      case 'FunctionDeclaration':
        if (statement.id) names.set(statement.id.name, { is: 'node', node: statement, scope });
        break;
      case 'BlockStatement':
        declareAll(statement.body, names, scope);
        break;
      case 'IfStatement':
        declareAll(
          [statement.consequent, ...(statement.alternate ? [statement.alternate] : [])],
          names,
          scope,
        );
        break;
    }
  }
}

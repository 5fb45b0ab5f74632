import type { Node } from 'oxc-parser';
import { changedNames } from './changed-names.js';
import { namesIn } from '../syntax/module-facts.js';
import { walkTree, writtenTo, type FunctionNode } from '../syntax/tree.js';
import { both, not, UNSURE, type Condition } from './expr.js';
import { exprOf, conditionOf } from './read-expr.js';
import { completion, completionOf, mayLeave, neverFalls } from '../language/completion.js';
import { declarePattern, inner, type NameBinding, type ComponentScope, type WayOut } from './scope.js';

const ALWAYS: Condition = { is: 'all', of: [] };
const NEVER: Condition = { is: 'any', of: [] };

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

/** The ways to the values of names that a function declares by `let` or `var`, or is given, and assigns outside of loops and callbacks. */
function assignedIn(
  fn: FunctionNode,
  scope: ComponentScope,
  given: ReadonlySet<string>,
): Map<string, WayOut[]> {
  const ways = new Map<string, WayOut[]>([...given].map((name) => [name, []]));
  if (fn.body?.type !== 'BlockStatement') return ways;
  const { body } = fn.body;
  for (const statement of body) {
    if (statement.type !== 'VariableDeclaration' || statement.kind === 'const') continue;
    for (const { id, init } of statement.declarations)
      if (id.type === 'Identifier') ways.set(id.name, init ? [{ node: init, test: ALWAYS }] : []);
  }
  if (ways.size === 0) return ways;
  const seen = new Set<Node>();
  follow(body, ALWAYS, scope, (statement, test) => {
    const node = statement.type === 'ExpressionStatement' ? statement.expression : undefined;
    if (node?.type !== 'AssignmentExpression' || node.left.type !== 'Identifier') return;
    if (node.operator === '=') {
      seen.add(node);
      ways.get(node.left.name)?.push({ node: node.right, test });
    }
  });
  // Made from what it held before, or assigned anywhere else as well: not to be told.
  for (const [name, each] of ways)
    if (each.some(({ node }) => node && mentions(node, name))) ways.delete(name);
  walkTree(fn.body, (node) => {
    const target = seen.has(node) ? undefined : writtenTo(node);
    if (target?.type === 'Identifier') ways.delete(target.name);
  });
  return ways;
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
  under === ALWAYS ? test : both(under, test);

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
  declareAll(fn.body.body, names, scope, written);
  for (const [name, bound] of names) {
    const keys = inPlace.get(name);
    if (isChanged ? isChanged(name) : written.has(name)) names.set(name, { is: 'unknown' });
    else if (!isChanged && inPlace.has(name) && !isGiven(bound))
      names.set(name, keys ? { is: 'set-later', of: bound, keys } : { is: 'unknown' });
  }
  const given = new Set(isChanged ? [] : [...params.keys()].filter((name) => written.has(name)));
  for (const [name, ways] of assignedIn(fn, scope, given))
    if (written.has(name) && (isChanged || !inPlace.has(name)))
      names.set(name, { is: 'assigned', first: given.has(name) ? params.get(name) : undefined, ways, scope });
  return scope;
}

// What is changed in place of a prop is changed for its owner, and is the prop all the same.
const isGiven = ({ is }: NameBinding): boolean => is === 'prop' || is === 'props' || is === 'rest';

// Constants and functions of a block and of the blocks inside it; a name declared twice is unknown.
function declareAll(
  statements: readonly Node[],
  names: Map<string, NameBinding>,
  scope: ComponentScope,
  written: ReadonlySet<string>,
): void {
  for (const statement of statements) {
    switch (statement.type) {
      case 'VariableDeclaration':
        for (const each of statement.declarations) {
          const isFixed = statement.kind === 'const' || !namesIn(each.id).some((name) => written.has(name));
          declarePattern(each.id, isFixed ? each.init : null, names, scope);
        }
        break;
      case 'FunctionDeclaration':
        if (statement.id) names.set(statement.id.name, { is: 'node', node: statement, scope });
        break;
      case 'BlockStatement':
        declareAll(statement.body, names, scope, written);
        break;
      case 'IfStatement':
        declareAll(
          [statement.consequent, ...(statement.alternate ? [statement.alternate] : [])],
          names,
          scope,
          written,
        );
        break;
    }
  }
}

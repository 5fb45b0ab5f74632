import { completion, leaves, neverFalls } from '../../language/completion.js';
import type { Node } from 'oxc-parser';
import { memberName, unwrapped } from '../../syntax/tree.js';
import type { Env } from '../model/env.js';
import { leftExpectation } from './assertions.js';
import { leftRunning } from './waiting.js';
import { namesIn } from '../../syntax/module-facts.js';
import { guardOf, underGuard } from './guards.js';
import type { Span } from '../../finding.js';
import type { Guard, Loop } from '../model/steps.js';
import { takeEarly } from './uses.js';
import { declareParts, declareVariable, hoist } from './patterns.js';
import type { SpecReading } from './spec-reading.js';
import { itemOf, UNKNOWN_VALUE, type Value } from '../model/values.js';

/** Reads statements in order; what they return is collected in `returns`. */
export function runStatements(
  run: SpecReading,
  env: Env,
  statements: readonly Node[],
  returns: Value[],
): void {
  hoist(run, env, statements);
  let { dead, guard } = run.flags;
  for (const statement of statements) {
    run.under({ dead, guard }, () => runStatement(run, env, statement, returns));
    dead ||= neverFalls(statement);
    if (leavesEarly(statement))
      guard = run.under({ guard }, () => guardOf(run, env, 'return', statement.test));
  }
}

// `if (!lid) return;`: what follows may not run.
const leavesEarly = (statement: Node): statement is Extract<Node, { type: 'IfStatement' }> =>
  statement.type === 'IfStatement' && !leaves(statement) && completion(statement).has('returns');

function runStatement(run: SpecReading, env: Env, node: Node, returns: Value[]): void {
  if (run.site === undefined) run.statement = { start: node.start, end: node.end };
  switch (node.type) {
    case 'ExpressionStatement':
      // `expect(lid).toBeVisible(), { timeout: 2000 };`: each of them stands for itself.
      for (const each of node.expression.type === 'SequenceExpression'
        ? node.expression.expressions
        : [node.expression])
        runExpression(run, env, each);
      break;
    case 'VariableDeclaration':
      for (const each of node.declarations) {
        declareVariable(run, env, each, {
          kind: node.kind === 'const' || node.kind === 'let' ? node.kind : 'var',
          statement: node,
          alone: node.declarations.length === 1,
        });
      }
      break;
    case 'ReturnStatement':
      if (node.argument) returns.push(runExpression(run, env, node.argument, true));
      break;
    case 'IfStatement':
      runIf(run, env, node, returns);
      break;
    case 'BlockStatement':
      runStatements(run, run.newEnv(env), node.body, returns);
      break;
    case 'ForOfStatement':
    case 'ForInStatement':
    case 'ForStatement':
    case 'WhileStatement':
    case 'DoWhileStatement':
      runLoop(run, env, node, returns);
      break;
    case 'TryStatement':
      runTry(run, env, node, returns);
      break;
    case 'ThrowStatement':
      run.evaluate(env, node.argument);
      run.emit({ kind: 'throw' }, node);
      break;
    case 'SwitchStatement':
      run.evaluate(env, node.discriminant);
      runSwitch(run, env, node, returns);
      break;
    case 'LabeledStatement':
      runStatement(run, env, node.body, returns);
      break;
    case 'ExportNamedDeclaration':
    case 'ExportDefaultDeclaration':
      if (node.declaration) runStatement(run, env, node.declaration, returns);
      break;
  }
}

// An expression whose value nobody takes; `returned` where the caller takes it.
function runExpression(run: SpecReading, env: Env, node: Node, returned = false): Value {
  const outer = unwrapped(node);
  const inner = outer.type === 'AwaitExpression' ? unwrapped(outer.argument) : outer;
  run.discarded = inner;
  const before = run.block.steps.length;
  const value = returned
    ? run.under({ awaited: true }, () => run.evaluate(env, node))
    : run.evaluate(env, node);
  leftExpectation(run, value, inner);
  if (!returned && outer.type === 'CallExpression') leftRunning(run, value, outer, before);
  return value;
}

function runIf(
  run: SpecReading,
  env: Env,
  node: Extract<Node, { type: 'IfStatement' }>,
  returns: Value[],
): void {
  run.evaluate(env, node.test);
  const { consequent, alternate } = node;
  const guard = guardOf(run, env, 'if', node.test);
  const asserts = underGuard(run, guard, () => runStatement(run, env, consequent, returns));
  if (!alternate) return;
  const other = underGuard(run, guard, () => runStatement(run, env, alternate, returns));
  guard.covered = asserts && other;
}

function runSwitch(
  run: SpecReading,
  env: Env,
  node: Extract<Node, { type: 'SwitchStatement' }>,
  returns: Value[],
): void {
  const guard = guardOf(run, env, 'switch', node.discriminant);
  const asserting = node.cases.map((eachCase) =>
    underGuard(run, guard, () => runStatements(run, run.newEnv(env), eachCase.consequent, returns)),
  );
  guard.covered = asserting.every(Boolean) && node.cases.some(({ test }) => test === null);
}

type LoopNode = Extract<
  Node,
  { type: 'ForOfStatement' | 'ForInStatement' | 'ForStatement' | 'WhileStatement' | 'DoWhileStatement' }
>;

function runLoop(run: SpecReading, env: Env, node: LoopNode, returns: Value[]): void {
  const scope = run.newEnv(env);
  let { maybe, guard, loop } = run.flags;
  if (node.type === 'ForOfStatement' || node.type === 'ForInStatement') {
    const over = run.evaluate(env, node.right);
    if (node.type === 'ForOfStatement') takeEarly(run, env, node.right, node);
    const item = over.is === 'list' ? itemOf(over) : UNKNOWN_VALUE;
    if (node.left.type === 'VariableDeclaration') {
      for (const each of node.left.declarations) declareParts(run, scope, each.id, item);
      scope.turns = node.left.declarations.flatMap(({ id }) => namesIn(id));
    }
    maybe ||= mayBeEmpty(over);
    guard = loopGuard(run, env, over, node.right) ?? guard;
    loop = loopOver(run, over, node.right) ?? loop;
  } else if (node.type === 'ForStatement') {
    if (node.init)
      runStatement(
        run,
        scope,
        node.init.type === 'VariableDeclaration' ? node.init : asStatement(node.init),
        returns,
      );
    if (node.init?.type === 'VariableDeclaration')
      scope.turns = node.init.declarations.flatMap(({ id }) => namesIn(id));
    if (node.test) run.evaluate(scope, node.test);
    if (node.update) run.evaluate(scope, node.update);
  } else run.evaluate(env, node.test);
  run.loops++;
  run.under({ maybe, guard, loop }, () => runStatement(run, scope, node.body, returns));
  run.loops--;
}

/** The loop over a list that is written out; undefined for any other. */
export const loopOver = (run: SpecReading, over: Value, node: Span): Loop | undefined =>
  over.is === 'list' && !over.open ? { ...run.placeOf(node), turns: over.items.length } : undefined;

const asStatement = (expression: Node): Node =>
  ({ type: 'ExpressionStatement', expression, start: expression.start, end: expression.end }) as Node;

/** The condition that a loop over elements stands under, where there may be none of them. */
export function loopGuard(run: SpecReading, env: Env, over: Value, node: Node): Guard | undefined {
  return mayBeEmpty(over) && over.is === 'thing' ? guardOf(run, env, 'loop', node, over.reach) : undefined;
}

/** Whether a list of elements may have none: a query that does not throw. */
export const mayBeEmpty = (value: Value): boolean => value.is === 'thing' && value.reach?.missing === 'many';

function runTry(
  run: SpecReading,
  env: Env,
  node: Extract<Node, { type: 'TryStatement' }>,
  returns: Value[],
): void {
  const swallowed = run.flags.swallowed || (node.handler !== null && !failsAgain(node.handler.body.body));
  const { handler } = node;
  const caught = run.flags.caught || (handler !== null && !throwsAgain(handler.body.body));
  const { steps } = run.block;
  const before = steps.length;
  run.under({ swallowed, caught }, () => runStatement(run, env, node.block, returns));
  if (handler) {
    const scope = run.newEnv(env);
    if (handler.param) declareParts(run, scope, handler.param, UNKNOWN_VALUE);
    const guard = guardOf(run, env, 'catch', node.block);
    guard.covered =
      throwsAgain(node.block.body) ||
      steps.slice(before).some(({ kind, via }) => kind === 'assert' && !via) ||
      leavesWord(handler.body);
    run.under({ maybe: true, inCatch: true, guard }, () => runStatement(run, scope, handler.body, returns));
  }
  const { finalizer } = node;
  if (finalizer) run.under({ inFinally: true }, () => runStatement(run, env, finalizer, returns));
}

/** Whether a handler may fail again; one that does nothing but print or return lets failures pass. */
export function failsAgain(statements: readonly Node[]): boolean {
  return statements.some(
    (statement) =>
      statement.type !== 'EmptyStatement' && statement.type !== 'ReturnStatement' && !prints(statement),
  );
}

// What stands behind may ask whether a handler ran: it leaves, or keeps something.
const leavesWord = ({ body }: Extract<Node, { type: 'BlockStatement' }>): boolean =>
  body.some(
    (statement) =>
      completion(statement).has('returns') ||
      (statement.type === 'ExpressionStatement' &&
        ['AssignmentExpression', 'UpdateExpression'].includes(unwrapped(statement.expression).type)),
  );

// A throw, or a call that fails the spec, anywhere on the way through a block.
function throwsAgain(statements: readonly Node[]): boolean {
  return statements.some((statement) => completion(statement).has('throws') || fails(statement));
}

function fails(statement: Node): boolean {
  const call = statement.type === 'ExpressionStatement' ? unwrapped(statement.expression) : undefined;
  const callee = call?.type === 'CallExpression' ? unwrapped(call.callee) : undefined;
  const name =
    callee?.type === 'MemberExpression'
      ? memberName(callee)
      : callee?.type === 'Identifier'
        ? callee.name
        : '';
  return name === 'fail' || name === 'done' || name === 'unreachable';
}

function prints(statement: Node): boolean {
  const call = statement.type === 'ExpressionStatement' ? unwrapped(statement.expression) : undefined;
  const callee = call?.type === 'CallExpression' ? unwrapped(call.callee) : undefined;
  return (
    callee?.type === 'MemberExpression' &&
    callee.object.type === 'Identifier' &&
    callee.object.name === 'console'
  );
}

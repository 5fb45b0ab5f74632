import { lookUp } from './names.js';
import type { Node } from 'oxc-parser';
import { propertyName, unwrapped } from '../../syntax/tree.js';
import { assign, update } from './assign.js';
import { evaluateCall, evaluateNew, evaluateTagged } from './calls.js';
import type { Env } from '../model/env.js';
import { guardOf, underGuard } from './guards.js';
import { readMarkup } from './markup.js';
import { evaluateMember } from './members.js';
import type { Run } from './run.js';
import { useName } from './uses.js';
import { constantValue, NOTHING, settled, type Value } from '../model/values.js';

/** What an expression gives; what running it does is added to the running block as steps. */
export function evaluate(run: Run, env: Env, node: Node): Value {
  const inner = unwrapped(node);
  switch (inner.type) {
    case 'Literal':
      if ('regex' in inner) return { is: 'pattern', source: inner.regex.pattern, flags: inner.regex.flags };
      return typeof inner.value === 'bigint'
        ? NOTHING
        : constantValue(inner.value as string | number | boolean | null);
    case 'TemplateLiteral':
      return template(run, env, inner);
    case 'Identifier':
      return identifier(run, env, inner);
    case 'MemberExpression':
      return evaluateMember(run, env, inner, 'read');
    case 'CallExpression':
      return evaluateCall(run, env, inner);
    case 'NewExpression':
      return evaluateNew(run, env, inner);
    case 'TaggedTemplateExpression':
      return evaluateTagged(run, env, inner);
    case 'FunctionExpression':
    case 'ArrowFunctionExpression':
      return { is: 'function', node: inner, env, tree: run.tree };
    case 'ClassExpression':
      return { is: 'class', node: inner, tree: run.tree };
    case 'ObjectExpression':
      return object(run, env, inner);
    case 'ArrayExpression':
      return list(run, env, inner);
    case 'JSXElement':
    case 'JSXFragment':
      readMarkup(run, env, inner);
      return { is: 'jsx', node: inner, env, tree: run.tree };
    case 'AssignmentExpression':
      return assign(run, env, inner);
    case 'UpdateExpression':
      return update(run, env, inner);
    default:
      return operation(run, env, inner);
  }
}

function operation(run: Run, env: Env, node: Node): Value {
  const sub = (each: Node): Value => run.evaluate(env, each);
  switch (node.type) {
    case 'AwaitExpression':
      return awaited(run, env, node);
    case 'ConditionalExpression':
      sub(node.test);
      return conditional(run, env, node);
    case 'LogicalExpression': {
      const left = sub(node.left);
      let right = NOTHING;
      underGuard(run, guardOf(run, env, 'and', node.left), () => (right = sub(node.right)));
      if (node.operator === '&&') return right;
      // `found || true` is true whatever was found.
      if (node.operator === '||' && right.is === 'constant' && right.value === true)
        return { is: 'read', of: NOTHING, name: '||', than: right };
      return either(left, right);
    }
    case 'BinaryExpression':
      return binary(node.operator, sub(node.left), sub(node.right));
    case 'UnaryExpression':
      if (node.operator === 'delete' && node.argument.type === 'MemberExpression')
        evaluateMember(run, env, node.argument, 'write');
      else if (node.operator === 'void') return sub(node.argument);
      else return negated(node.operator, sub(node.argument));
      return NOTHING;
    case 'SequenceExpression':
      return node.expressions.map(sub).at(-1) ?? NOTHING;
    case 'SpreadElement':
    case 'YieldExpression':
      return node.argument ? sub(node.argument) : NOTHING;
    case 'ImportExpression':
      return imported(run, node.source);
    default:
      return NOTHING;
  }
}

function conditional(run: Run, env: Env, node: Extract<Node, { type: 'ConditionalExpression' }>): Value {
  const guard = guardOf(run, env, 'if', node.test);
  let left = NOTHING;
  let right = NOTHING;
  const asserts = underGuard(run, guard, () => (left = run.evaluate(env, node.consequent)));
  const other = underGuard(run, guard, () => (right = run.evaluate(env, node.alternate)));
  guard.covered = asserts && other;
  return either(left, right);
}

function awaited(run: Run, env: Env, node: Extract<Node, { type: 'AwaitExpression' }>): Value {
  const before = run.block.steps.length;
  const value = settled(run.under({ awaited: true }, () => run.evaluate(env, node.argument)));
  // A step that is awaited says so by itself.
  if (run.block.steps.slice(before).every(({ kind }) => kind === 'use')) run.emit({ kind: 'waited' }, node);
  return value;
}

function negated(operator: string, value: Value): Value {
  if (operator === '-' && value.is === 'constant' && typeof value.value === 'number')
    return constantValue(-value.value);
  if (operator === '!' && value.is === 'constant') return constantValue(!value.value);
  return { is: 'read', of: value, name: operator };
}

function imported(run: Run, source: Node): Value {
  const specifier = source.type === 'Literal' && typeof source.value === 'string' ? source.value : undefined;
  const file = specifier && run.project.resolve(run.tree.path, specifier);
  return file && !run.replaced.has(file) ? { is: 'project', declared: { file, name: '*' } } : NOTHING;
}

const either = (left: Value, right: Value): Value => {
  if (left.is === 'constant' && right.is === 'constant' && left.value === right.value) return left;
  if (left.is === 'thing' && right.is === 'thing' && left.type === right.type) return left;
  return NOTHING;
};

function binary(operator: string, left: Value, right: Value): Value {
  if (operator === '+') {
    const pieces = [pieceOf(left), pieceOf(right)].flat();
    const text = [left, right].some(
      (each) => each.is === 'text' || (each.is === 'constant' && typeof each.value === 'string'),
    );
    if (text) return asText(pieces);
  }
  return { is: 'read', of: left, name: operator, than: right };
}

const pieceOf = (value: Value): readonly (string | undefined)[] =>
  value.is === 'constant' ? [String(value.value)] : value.is === 'text' ? value.pieces : [undefined];

const asText = (pieces: readonly (string | undefined)[]): Value =>
  pieces.every((piece) => piece !== undefined) ? constantValue(pieces.join('')) : { is: 'text', pieces };

function template(run: Run, env: Env, node: Extract<Node, { type: 'TemplateLiteral' }>): Value {
  const values = node.expressions.map((each) => run.evaluate(env, each));
  return asText(
    node.quasis.flatMap((quasi, i) => [quasi.value.cooked ?? '', ...(values[i] ? pieceOf(values[i]) : [])]),
  );
}

function object(run: Run, env: Env, node: Extract<Node, { type: 'ObjectExpression' }>): Value {
  const entries = new Map<string, Value>();
  let open = false;
  for (const each of node.properties) {
    if (each.type === 'SpreadElement') {
      const spread = run.evaluate(env, each.argument);
      if (spread.is === 'object') for (const [key, value] of spread.entries) entries.set(key, value);
      open ||= spread.is !== 'object' || spread.open;
      continue;
    }
    const key = propertyName(each.key, each.computed);
    const value = run.evaluate(env, each.value);
    if (key === undefined) open = true;
    else entries.set(key, value);
  }
  return { is: 'object', node, entries, open, file: run.tree.path };
}

function list(run: Run, env: Env, node: Extract<Node, { type: 'ArrayExpression' }>): Value {
  const items = node.elements.map((each) => (each ? run.evaluate(env, each) : NOTHING));
  const open = node.elements.some((each) => each?.type === 'SpreadElement');
  if (!open && run.block.kind === 'spec' && run.site === undefined)
    run.block.lists.push({ length: items.length, start: node.start, end: node.end });
  return { is: 'list', items, open, file: run.tree.path };
}

function identifier(run: Run, env: Env, node: Extract<Node, { type: 'Identifier' }>): Value {
  if (node.name === 'undefined') return constantValue(undefined);
  const value = lookUp(env, node.name);
  if (value.is === 'thing' && value.standIn && !run.judging) value.standIn.used = true;
  useName(run, env, node.name, node, 'read', []);
  return value;
}

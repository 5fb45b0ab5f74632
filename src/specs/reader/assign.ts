import type { Node } from 'oxc-parser';
import { memberName, unwrapped, propertyChain } from '../../syntax/tree.js';
import type { Env } from '../model/env.js';
import { evaluateMember } from './members.js';
import { keepInContext } from './spec-context.js';
import { declareParts } from './patterns.js';
import { keepOrigin } from './origins.js';
import type { SpecReading } from './spec-reading.js';
import { useName } from './uses.js';
import { UNKNOWN_VALUE, type Value } from '../model/values.js';

/** An assignment: to a name, a property, or the names of a pattern. */
export function assign(
  run: SpecReading,
  env: Env,
  node: Extract<Node, { type: 'AssignmentExpression' }>,
): Value {
  const target = unwrapped(node.left as Node);
  const value = run.evaluate(env, node.right);
  if (node.operator !== '=') return compound(run, env, target);
  if (target.type === 'Identifier') assignName(run, env, target.name, target, value);
  else if (target.type === 'MemberExpression') assignMember(run, env, target, node, value);
  else assignPattern(run, env, target, value);
  return value;
}

/** `count++`, `kiln.cone--`. */
export function update(run: SpecReading, env: Env, node: Extract<Node, { type: 'UpdateExpression' }>): Value {
  return compound(run, env, unwrapped(node.argument as Node));
}

// What was there goes into what is written.
function compound(run: SpecReading, env: Env, target: Node): Value {
  run.compound = true;
  if (target.type === 'Identifier') assignName(run, env, target.name, target, UNKNOWN_VALUE);
  else if (target.type === 'MemberExpression') evaluateMember(run, env, target, 'write');
  run.compound = false;
  return UNKNOWN_VALUE;
}

function assignName(run: SpecReading, env: Env, name: string, node: Node, value: Value): void {
  useName(run, env, name, node, 'assign', [], value);
  const slot = env.find(name);
  if (!slot) return;
  run.setSlot(slot, run.flags.maybe && slot.value.is !== 'constant' ? merged(slot.value, value) : value);
  if (slot.binding) keepOrigin(run, value, slot.binding);
  if (slot.binding && !slot.binding.render && value.is === 'thing' && value.render)
    slot.binding.render = value.render;
  if (slot.binding?.holds === 'none' && value.is === 'thing' && value.standIn)
    value.standIn.binding ??= slot.binding;
}

const merged = (before: Value, after: Value): Value =>
  before.is === 'thing' && after.is === 'thing' && before.type === after.type ? after : UNKNOWN_VALUE;

function assignMember(
  run: SpecReading,
  env: Env,
  target: Extract<Node, { type: 'MemberExpression' }>,
  node: Node,
  value: Value,
): void {
  evaluateMember(run, env, target, 'write', value);
  const member = memberName(target);
  if (value.is === 'thing') keepInContext(run, env, target, value);
  if (value.is !== 'thing' || !value.standIn || value.standIn.target !== 'none') {
    run.handOut(value);
    return;
  }
  const object = run.evaluate(env, target.object);
  value.standIn.used = true;
  const text = run.tree.script.source.text.slice(target.object.start, target.object.end);
  const { root } = propertyChain(target.object);
  const binding = root.type === 'Identifier' ? env.find(root.name)?.binding : undefined;
  run.emit(
    {
      kind: 'stand-in',
      standIn: {
        ...value.standIn,
        block: run.block,
        place: run.placeOf(node),
        target: 'assigned',
        object,
        objectText: text,
        member,
        binding,
      },
    },
    node,
  );
}

function assignPattern(run: SpecReading, env: Env, target: Node, value: Value): void {
  if (target.type === 'ObjectPattern') {
    for (const each of target.properties) {
      const to = each.type === 'RestElement' ? each.argument : each.value;
      if (to.type === 'Identifier') assignName(run, env, to.name, to, UNKNOWN_VALUE);
    }
  } else if (target.type === 'ArrayPattern') {
    for (const each of target.elements)
      if (each?.type === 'Identifier') assignName(run, env, each.name, each, UNKNOWN_VALUE);
  } else declareParts(run, env, target, value);
}

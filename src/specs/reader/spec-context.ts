import type { Node } from 'oxc-parser';
import { memberName } from '../../syntax/tree.js';
import type { Env } from '../model/env.js';
import { UNKNOWN_VALUE, type Value } from '../model/values.js';
import type { SpecReading } from './spec-reading.js';

// What some runners hand from hooks to specs goes by `this`: `this.wrapper = mount(…)`.

type MemberNode = Extract<Node, { type: 'MemberExpression' }>;

/** Keeps what is written to `this`, where that is of no object that is known. */
export function keepInContext(run: SpecReading, env: Env, node: MemberNode, value: Value): void {
  const name = nameOf(env, node);
  if (name === undefined) return;
  let top = env;
  while (top.parent) top = top.parent;
  const slot = top.slots.get(name) ?? { value: UNKNOWN_VALUE };
  top.slots.set(name, slot);
  run.setSlot(slot, value);
}

/** What a hook, or the spec, has written to `this`; undefined where nothing is known of it. */
export function heldByContext(env: Env, node: MemberNode): Value | undefined {
  const name = nameOf(env, node);
  return name === undefined ? undefined : env.find(name)?.value;
}

function nameOf(env: Env, node: MemberNode): string | undefined {
  const name = node.object.type === 'ThisExpression' ? memberName(node) : undefined;
  return name === undefined || env.find('this') ? undefined : `this.${name}`;
}

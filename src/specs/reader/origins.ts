import type { Node } from 'oxc-parser';
import { unwrapped } from '../../syntax/tree.js';
import { Env } from '../model/env.js';
import { lookUp } from './names.js';
import type { Binding } from '../model/blocks.js';
import type { Origin, SpecReading } from './spec-reading.js';
import type { Value } from '../model/values.js';

const DEEPEST_PART = 3;

/** Keeps that a name holds an object, and that the parts of the object belong to it; the first name that holds it counts. */
export function keepOrigin(
  run: SpecReading,
  value: Value,
  binding: Binding,
  path: readonly string[] = [],
): void {
  if (!isObject(value) || path.length > DEEPEST_PART) return;
  if (value.is === 'thing' && value.standIn && value.standIn.target !== 'assigned') {
    value.standIn.binding ??= binding;
    value.standIn.path ??= [binding.name, ...path].join('.');
  }
  if (run.origins.has(value)) return;
  run.origins.set(value, { binding, path });
  if (value.is === 'object')
    for (const [name, each] of value.entries) keepOrigin(run, each, binding, [...path, name]);
  else if (value.is === 'list')
    value.items.forEach((item, i) => keepOrigin(run, item, binding, [...path, String(i)]));
}

// Values that stand for one object each; shared ones, such as the unknown one, have no origin.
const isObject = ({ is }: Value): boolean =>
  is === 'instance' || is === 'object' || is === 'list' || is === 'thing';

/** The name that an object belongs to, through aliases, parameters, parts and properties. */
export function originOf(run: SpecReading, value: Value): Origin | undefined {
  const own = run.origins.get(value);
  if (own) return own;
  if (value.is !== 'read' && value.is !== 'promise') return undefined;
  const { of } = value;
  // A part of another module's object belongs to that; the whole goes by its import.
  const outer = of.is === 'project' ? run.origins.get(run.declaredValue(of)) : originOf(run, of);
  if (!outer || value.is === 'promise') return outer;
  return { binding: outer.binding, path: [...outer.path, value.name] };
}
/** The object that a name stands for, if that is known from outside: what is done to it under another name is kept by itself. */
export function aliasOf(run: SpecReading, env: Env, node: Node): Value | undefined {
  const inner = unwrapped(node);
  if (inner.type !== 'Identifier') return undefined;
  const held = lookUp(run, env, inner.name);
  if (!originOf(run, held)) return undefined;
  if (held.is === 'thing' && held.standIn && !run.judging) held.standIn.used = true;
  return held;
}

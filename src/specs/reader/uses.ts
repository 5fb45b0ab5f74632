import type { Node } from 'oxc-parser';
import type { Component } from '../../components/view.js';
import type { Span } from '../../finding.js';
import { unwrapped } from '../../syntax/tree.js';
import type { Binding, TakenEarly } from '../model/blocks.js';
import { methodEffect, readEffect, writeEffect } from './effects.js';
import type { Env, Slot } from '../model/env.js';
import { lookUp } from './names.js';
import { originOf } from './origins.js';
import type { SpecReading } from './spec-reading.js';
import type { Use } from '../model/steps.js';
import { surelyRuns } from '../model/rounds.js';
import { isNothing, type Value } from '../model/values.js';

/** Keeps the use of a name that is declared outside of the running spec or hook. */
export function useName(
  run: SpecReading,
  env: Env,
  name: string,
  node: Node,
  how: 'read' | 'assign' | 'write' | 'call' | 'pass',
  path: readonly string[],
  value?: Value,
): void {
  const owner = env.owner(name);
  if (!owner) useGlobal(run, name, node, path);
  const slot = owner?.slots.get(name);
  if (slot?.binding) keepUse(run, slot.binding, lookUp(run, env, name), node, { how, path, value });
  if (slot && how !== 'assign') useOrigin(run, slot, node, { how, path, value });
  if (!slot?.binding && owner?.madeFor && owner.block !== run.block) {
    const changes = how === 'assign' || how === 'write';
    run.emit(
      {
        kind: 'use',
        use: { binding: owner.madeFor, how: changes ? 'write' : 'read', path: [name, ...path], value },
      },
      node,
    );
  }
}

/**
 * Keeps what is taken of a name that holds nothing, by code of the spec file that surely runs as specs are collected: a
 * property, an item. `walk`: the loop that walks all that it holds, for which a list with nothing in it counts as well.
 */
export function takeEarly(run: SpecReading, env: Env, expression: Node, walk?: Span): void {
  const node = unwrapped(expression);
  if (node.type !== 'Identifier' || run.inSpecOrHook || run.viaOf(node) || !surelyRuns(run.flags)) return;
  const binding = env.find(node.name)?.binding;
  const holds = binding && holdsLittle(lookUp(run, env, node.name));
  if (!holds || (holds === 'empty' && !walk)) return;
  const { start, end } = walk ?? node;
  run.file.takenEarly.push({ block: run.block, binding, holds, start, end });
}

function holdsLittle(value: Value): TakenEarly['holds'] | undefined {
  if (value.is === 'list') return value.open || value.items.length > 0 ? undefined : 'empty';
  return isNothing(value) ? 'nothing' : undefined;
}

type How = Pick<Use, 'how' | 'path' | 'value'>;

function keepUse(
  run: SpecReading,
  binding: Binding,
  held: Value,
  node: Node,
  { how, path, value }: How,
): void {
  const target = path.length > 0 ? run.declaredValue(held) : held;
  const effect =
    how === 'call' ? methodEffect(target, path) : how === 'write' ? writeEffect(target, path) : undefined;
  const reads = how === 'read' && path[0] !== undefined ? readEffect(target, path[0]) : undefined;
  const { compound } = run;
  run.emit({ kind: 'use', use: { binding, how, path, value, effect, reads, compound } }, node);
}

// A name of the spec's own that holds an object of a name outside, or a part of it.
function useOrigin(run: SpecReading, slot: Slot, node: Node, { how, path, value }: How): void {
  const target = path.length > 0 ? run.declaredValue(slot.value) : slot.value;
  const origin = originOf(run, target);
  if (!origin || origin.binding === slot.binding) return;
  if (origin.path.length === 0) keepUse(run, origin.binding, target, node, { how, path, value });
  else {
    const [field = ''] = origin.path;
    if (how === 'call' && target.is === 'read') {
      // Of a part that is read off another module's object, that object tells.
      const whole = [...origin.path, ...path];
      keepUse(run, origin.binding, rootOf(target), node, { how, path: whole });
      return;
    }
    const own = how === 'call' ? methodEffect(target, path) : undefined;
    const writes = own && (own.writes === 'all' || own.writes.size > 0);
    const effect = own && { writes: new Set(writes ? [field] : []), reads: new Set([field]), at: own.at };
    run.emit(
      { kind: 'use', use: { binding: origin.binding, how, path: [...origin.path, ...path], value, effect } },
      node,
    );
  }
}

function rootOf(value: Value): Value {
  return value.is === 'read' ? rootOf(value.of) : value;
}

/** Keeps the use of an object that no name of its own stands before: `kilns()[0].fire()`. */
export function useValue(run: SpecReading, object: Value, node: Node, use: How): void {
  useOrigin(run, { value: object }, node, use);
}

// Names that nobody declares: the runner's, or the document's.
function useGlobal(run: SpecReading, name: string, node: Node, path: readonly string[]): void {
  if (run.tree.path !== run.file.path) return;
  const place = { start: node.start, end: node.end };
  if (run.project.libraries.globalMeaning(name) && !run.globals.has(name)) run.globals.set(name, place);
  const surely = run.inSpecOrHook && !run.flags.maybe && !run.flags.inCallback;
  if (name === 'document' && path.length > 0 && surely) run.file.documentUse ??= place;
}

/** A component that changes the list that it is given as a prop changes it for whoever holds it. */
export function givenToComponent(
  run: SpecReading,
  { changes, file }: Component,
  prop: string,
  value: Value,
  node: Span,
): void {
  const origin = originOf(run, value);
  const at = changes?.get(prop);
  if (!origin || !at) return;
  const { binding, path } = origin;
  const all = path[0] === undefined ? 'all' : new Set([path[0]]);
  const effect = { writes: all, reads: all, at: { file, ...at } } as const;
  run.emit({ kind: 'use', use: { binding, how: 'call', path: [...path, prop], effect } }, node);
}

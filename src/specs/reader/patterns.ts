import { bindPattern as bindNames, type Parts } from '../../language/patterns.js';
import type { Node } from 'oxc-parser';
import { isFunction, propertyName, unwrapped } from '../../syntax/tree.js';
import type { Span } from '../../finding.js';
import type { Binding, Made } from '../model/blocks.js';
import type { Env, Slot } from '../model/env.js';
import { aliasOf, keepOrigin } from './origins.js';
import { memberOfValue } from './members.js';
import type { SpecReading } from './spec-reading.js';
import { useValue } from './uses.js';
import { holding, UNKNOWN_VALUE, type Value } from '../model/values.js';

type Declaring = { kind: Binding['kind']; statement: Node; alone: boolean };

/** Declares a name in a scope, and keeps it as a binding where it stands outside of specs and hooks. */
function declareName(
  run: SpecReading,
  env: Env,
  name: string,
  node: Span,
  value: Value,
  declaring?: Declaring,
): Slot {
  const slot: Slot = { value };
  run.hold(value);
  if (declaring && run.declaresBindings) {
    slot.binding = {
      name,
      kind: declaring.kind,
      place: { start: node.start, end: node.start + name.length },
      block: run.block,
      holds: holding(value),
      frozen: false,
    };
    run.file.bindings.push(slot.binding);
  }
  if (run.inSpecOrHook && run.site === undefined) run.block.names.add(name);
  env.slots.set(name, slot);
  return slot;
}

/** Declares and fills the names of one declarator. */
export function declareVariable(
  run: SpecReading,
  env: Env,
  node: Extract<Node, { type: 'VariableDeclarator' }>,
  declaring: Declaring,
): void {
  const { id, init } = node;
  if (id.type !== 'Identifier') {
    const value = init ? (aliasOf(run, env, init) ?? run.evaluate(env, init)) : UNKNOWN_VALUE;
    declareParts(run, env, id, value, declaring);
    keepTaken(run, id, value);
    return;
  }
  const slot = declareName(
    run,
    env,
    id.name,
    id,
    init ? UNKNOWN_VALUE : { is: 'constant', value: undefined },
    declaring,
  );
  const { binding } = slot;
  const before = run.madeFor;
  if (binding) run.madeFor = binding;
  // `const oven = kiln` is another name for the same thing, and no use of it by itself.
  if (init) slot.value = aliasOf(run, env, init) ?? run.evaluate(env, init);
  run.madeFor = before;
  const { value } = slot;
  run.hold(value);
  const list = init && run.block.lists.find(({ start }) => start === init.start);
  if (list) list.name = id.name;
  if (init && run.block.kind === 'spec' && !run.site)
    run.block.locals.push({ name: id.name, start: id.start, end: id.start + id.name.length, value });
  if (value.is === 'thing' && value.render && !value.reach && !run.site) value.render.heldBy ??= id.name;
  if (value.is === 'thing' && value.reach && !run.site) value.reach.named ??= id.name;
  if (value.is === 'thing' && value.standIn && !run.site) value.standIn.path ??= id.name;
  if (!binding) return;
  keepOrigin(run, slot.value, binding);
  binding.holds = init ? holding(slot.value) : 'none';
  binding.frozen = isFrozen(init);
  if (slot.value.is === 'thing' && slot.value.render) binding.render = slot.value.render;
  binding.declaration = {
    statement: { start: declaring.statement.start, end: declaring.statement.end },
    alone: declaring.alone,
    type: id.typeAnnotation ? { start: id.typeAnnotation.start, end: id.typeAnnotation.end } : undefined,
    value: init ? { start: init.start, end: init.end } : undefined,
    made: init ? madeBy(init, run) : undefined,
    primitive: primitiveOf(slot.value),
  };
}

// Names that are taken from what a render gives: more of them can be added there.
function keepTaken(run: SpecReading, id: Node, value: Value): void {
  if (value.is !== 'thing' || !value.render || value.reach || run.site || id.type !== 'ObjectPattern') return;
  const names = id.properties.map((property) =>
    property.type === 'Property' && property.shorthand && property.key.type === 'Identifier'
      ? property.key.name
      : undefined,
  );
  const last = id.properties.at(-1);
  if (!last || last.type === 'RestElement') return;
  value.render.taken = { names: new Set(names.filter((each) => each !== undefined)), end: last.end };
}

function primitiveOf(value: Value): 'string' | 'number' | 'boolean' | undefined {
  if (value.is === 'text') return 'string';
  const type = value.is === 'constant' ? typeof value.value : undefined;
  return type === 'string' || type === 'number' || type === 'boolean' ? type : undefined;
}

/** Whether a first value is frozen. */
export function isFrozen(init: Node | null): boolean {
  const call = init && unwrapped(init);
  if (call?.type !== 'CallExpression' || call.callee.type !== 'MemberExpression') return false;
  return propertyName(call.callee.property, call.callee.computed) === 'freeze';
}

function madeBy(init: Node, run: SpecReading): Made | undefined {
  const node = unwrapped(init);
  if (node.type !== 'NewExpression' && node.type !== 'CallExpression') return undefined;
  const { callee, typeArguments } = node;
  if (callee.type !== 'Identifier') return undefined;
  const types = typeArguments
    ? run.tree.script.source.text.slice(typeArguments.start, typeArguments.end)
    : undefined;
  return { by: node.type === 'NewExpression' ? 'new' : 'call', name: callee.name, typeArguments: types };
}

/** Fills the names of a pattern with the parts of a value. */
export function declareParts(
  run: SpecReading,
  env: Env,
  pattern: Node,
  value: Value,
  declaring?: Declaring,
): void {
  bindNames(pattern, value, partsIn(run, env), (node, part) =>
    declareName(run, env, node.name, node, part, declaring),
  );
}

// Taking a part of a value is a use of it.
function partsIn(run: SpecReading, env: Env): Parts<Value> {
  const takes = (value: Value, path: string[], node: Node): void =>
    useValue(run, value, node, { how: 'read', path });
  return {
    member(of, key, node) {
      takes(of, [key], node);
      return memberOfValue(run, of, key, node);
    },
    item(of, at, node) {
      takes(of, [String(at)], node);
      return of.is === 'list'
        ? (!of.open && of.items[at]) || UNKNOWN_VALUE
        : memberOfValue(run, of, String(at), node);
    },
    rest(of, _, node) {
      takes(of, [], node);
      return of.is === 'object' ? { ...of, open: true } : UNKNOWN_VALUE;
    },
    fallback(value, otherwise) {
      const fallback = run.evaluate(env, otherwise);
      return value.is === 'constant' && value.value === undefined ? fallback : value;
    },
    unknown(of, node) {
      takes(of, [], node);
      return UNKNOWN_VALUE;
    },
  };
}

/** Makes functions and classes of a list of statements known before the first of them runs. */
export function hoist(run: SpecReading, env: Env, statements: readonly Node[]): void {
  for (const statement of statements) {
    const node =
      statement.type === 'ExportNamedDeclaration' || statement.type === 'ExportDefaultDeclaration'
        ? statement.declaration
        : statement;
    if (!node) continue;
    if (isFunction(node) && node.type === 'FunctionDeclaration' && node.id) {
      env.slots.set(node.id.name, { value: { is: 'function', node, env, tree: run.tree } });
    } else if (node.type === 'ClassDeclaration' && node.id) {
      env.slots.set(node.id.name, { value: { is: 'class', node, tree: run.tree, env } });
    }
  }
}

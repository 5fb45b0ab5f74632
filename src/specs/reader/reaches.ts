import type { Node } from 'oxc-parser';
import type { Meaning, TypeName } from '../../libraries/meaning.js';
import {
  literalText,
  memberName,
  returnedFrom,
  unwrapped,
  walkTree,
  type FunctionNode,
} from '../../syntax/tree.js';
import type { Reach } from '../model/steps.js';
import type { SpecReading } from './spec-reading.js';
import { heldData, libraryObjectOf, type LibraryObject, type Value } from '../model/values.js';

const ONE_OF: Readonly<Partial<Record<TypeName, TypeName>>> = {
  elements: 'element',
  wrappers: 'wrapper',
  'tree-wrappers': 'tree-wrappers',
  'debug-elements': 'debug-element',
  harnesses: 'harness',
};

/** A query: a reach is added to the file, and a step to the block. */
export function reachBy(
  run: SpecReading,
  meaning: Extract<Meaning, { kind: 'query' }>,
  call: { name: string; node: Node; of: LibraryObject | undefined; args: readonly Value[]; receiver: string },
): Value {
  const { name, node, of, args, receiver } = call;
  const rest = meaning.container && of === undefined ? args.slice(1) : args;
  const asked = meaning.container && of === undefined ? libraryObjectOf(args[0]) : of;
  const by = meaning.by === 'selector' && isComponent(rest[0]) ? 'component' : meaning.by;
  const reach: Reach = {
    block: run.block,
    place: run.placeOf(node),
    via: run.viaOf(node),
    by,
    name,
    asUser: meaning.asked === 'as-user',
    missing: meaning.missing,
    waits: meaning.waits ?? false,
    args: rest.map(heldData),
    from: sourceOf(asked),
    gives: meaning.gives,
    receiver,
    written: meaning.container && of === undefined ? undefined : writtenAt(run, node),
  };
  run.file.reaches.push(reach);
  run.emit({ kind: 'reach', reach }, node);
  return { is: 'thing', type: meaning.gives, reach, render: asked?.render };
}

function writtenAt(run: SpecReading, node: Node): Reach['written'] {
  if (run.site !== undefined || node.type !== 'CallExpression') return undefined;
  const callee = unwrapped(node.callee);
  const name = callee.type === 'MemberExpression' ? callee.property : callee;
  const [first] = node.arguments;
  if (!first || (name.type !== 'Identifier' && name.type !== 'PrivateIdentifier')) return undefined;
  const { typeArguments } = node;
  return {
    name: { start: name.start, end: name.end },
    args: { start: first.start, end: node.arguments.at(-1)?.end ?? first.end },
    types: typeArguments ? run.tree.script.source.text.slice(typeArguments.start, typeArguments.end) : '',
  };
}

const isComponent = (value: Value | undefined): boolean =>
  value?.is === 'project' ||
  value?.is === 'class' ||
  value?.is === 'function' ||
  value?.is === 'object' ||
  value?.is === 'external';

function sourceOf(thing: LibraryObject | undefined): Reach['from'] {
  if (!thing) return 'unknown';
  if (thing.reach) return thing.reach;
  if (
    thing.type === 'screen' ||
    thing.type === 'page' ||
    (thing.type === 'located' && !thing.render && !thing.reach)
  )
    return 'page';
  return thing.render ?? 'unknown';
}

/** A hop from an element to its parent, a sibling or a child. */
export function hopFrom(
  run: SpecReading,
  thing: LibraryObject,
  gives: TypeName,
  name: string,
  node: Node,
  args: readonly Value[] = [],
): Value {
  if (!thing.reach && !thing.render && thing.type !== 'page') return { is: 'read', of: thing, name };
  const call = { name, node, of: thing, args, receiver: receiverText(run, node) };
  return reachBy(
    run,
    { kind: 'query', by: 'hop', missing: gives.endsWith('s') ? 'many' : 'null', gives },
    call,
  );
}

/** A pick by position from what a query found. */
export function pickFrom(
  run: SpecReading,
  thing: LibraryObject,
  position: number | 'last' | 'unknown',
  node: Node,
): Value {
  const gives = ONE_OF[thing.type];
  if (!gives || !thing.reach) return { is: 'read', of: thing, name: String(position) };
  const reach: Reach = {
    ...thing.reach,
    position,
    pickedFrom: thing.reach,
    block: run.block,
    place: run.placeOf(node),
    gives,
  };
  run.file.reaches.push(reach);
  return { is: 'thing', type: gives, reach, render: thing.render };
}

/** A pick of the one of which a callback says yes: `buttons.find((each) => each.id === 'lift')`. There may be none. */
export function pickByCallback(
  run: SpecReading,
  thing: LibraryObject,
  callback: Value | undefined,
  node: Node,
): Value {
  const picked = pickFrom(run, thing, 'unknown', node);
  if (picked.is !== 'thing' || !picked.reach) return picked;
  picked.reach.missing = 'void';
  picked.reach.pickedBy = (callback?.is === 'function' ? readOffEach(callback.node) : undefined) ?? '';
  return picked;
}

// The one property or attribute that a callback reads off what it is given.
function readOffEach(fn: FunctionNode): string | undefined {
  const [param] = fn.params;
  const [returned, ...more] = returnedFrom(fn);
  if (param?.type !== 'Identifier' || !returned || more.length > 0) return undefined;
  const read = new Set<string | undefined>();
  walkTree(returned, (at) => {
    if (at.type === 'Identifier' && at.name === param.name) read.add(undefined);
    const inner =
      at.type === 'MemberExpression' || at.type === 'CallExpression' ? readOff(at, param.name) : undefined;
    if (inner !== undefined) read.add(inner);
    return inner === undefined;
  });
  const [only, ...others] = read;
  return others.length === 0 ? only : undefined;
}

// `each.textContent`, `each.getAttribute('id')`
function readOff(node: Node, name: string): string | undefined {
  const at = unwrapped(node);
  if (at.type === 'MemberExpression')
    return at.object.type === 'Identifier' && at.object.name === name ? memberName(at) : undefined;
  if (at.type !== 'CallExpression') return undefined;
  const callee = unwrapped(at.callee);
  const method = callee.type === 'MemberExpression' ? readOff(callee, name) : undefined;
  const [first] = at.arguments;
  return method === 'getAttribute' || method === 'hasAttribute' ? first && literalText(first) : undefined;
}

/** The source text of what a method is called on. */
export function receiverText(run: SpecReading, node: Node): string {
  const inner = unwrapped(node);
  const callee = inner.type === 'CallExpression' ? unwrapped(inner.callee) : inner;
  if (callee.type !== 'MemberExpression') return '';
  return run.tree.script.source.text.slice(callee.object.start, callee.object.end);
}

import type { Node } from 'oxc-parser';
import {
  isFunction,
  literalText,
  memberName,
  propertyName,
  returnedFrom,
  unwrapped,
  walkTree,
} from '../../syntax/tree.js';
import { TYPES } from '../../libraries/types.js';
import { basename } from '../../util/paths.js';
import type { Binding } from '../model/blocks.js';
import type { Env } from '../model/env.js';
import type { StandIn } from '../model/steps.js';
import { libraryObjectOf, UNKNOWN_VALUE, type Value } from '../model/values.js';
import { ACTUAL, entriesOf, namesGivenBy, namesOverridden } from './factory-answers.js';
import { liftedName } from './lifted-names.js';
import type { CallNode, SpecReading } from './spec-reading.js';

const RUNNERS: ReadonlySet<string> = new Set(['vi', 'jest', 'vitest']);

/** Finds `vi.mock('./kiln')`, which the runner lifts above the imports. */
export function findReplaced(run: SpecReading, statements: readonly Node[]): void {
  for (const statement of statements) {
    const call = statement.type === 'ExpressionStatement' ? unwrapped(statement.expression) : undefined;
    if (call?.type !== 'CallExpression' || call.callee.type !== 'MemberExpression') continue;
    const { object } = call.callee;
    const [first, second] = call.arguments;
    const name = memberName(call.callee);
    if (object.type !== 'Identifier' || !RUNNERS.has(object.name) || (name !== 'mock' && name !== 'doMock'))
      continue;
    const source = first?.type === 'ImportExpression' ? first.source : first;
    const specifier = source && literalText(source);
    if (specifier === undefined) continue;
    run.replaced.add(specifier);
    const file = run.project.resolve(run.tree.path, specifier);
    if (file) run.replaced.add(file);
    const factory = second && unwrapped(second);
    const own = factory && isFunction(factory) ? namesOverridden(factory, specifier) : undefined;
    if (own) for (const each of [specifier, file]) if (each !== undefined) run.overridden.set(each, own);
    // Options may leave the real thing in place.
    if (name === 'mock' && (!factory || isFunction(factory))) {
      const replacement = { by: factory ?? ('automatic' as const), call, file };
      run.moduleReplacements.set(specifier, replacement);
      if (file) run.moduleReplacements.set(file, replacement);
    }
    const { start, end } = call;
    run.file.replacements.push({
      specifier,
      file,
      place: { start, end },
      partial: keepsActual(call),
      virtual: call.arguments.length > 2,
      ...(name === 'mock' && factory && isFunction(factory)
        ? { gives: namesGivenBy(factory), lifted: liftedName(factory, statements) }
        : {}),
      automatic: !factory && !hasManualStandIn(run, file),
      answers: new Map(),
      told: new Map(),
      plain: new Set(),
      standIns: new Map(),
    });
  }
}

// A factory that takes the real module in hand keeps some of it.
function keepsActual({ arguments: [, factory] }: CallNode): boolean {
  if (!factory) return false;
  let found = isFunction(factory) && factory.params.length > 0;
  walkTree(factory, (node) => {
    const name = node.type === 'Identifier' ? node.name : memberName(node);
    found ||= ACTUAL.has(name);
    return !found;
  });
  return found;
}

/**
 * What an import of the spec file is whose module the file replaces: the stand-in for it, as far as that is seen to be one.
 * `module`: as it is written in the import, or the file that it leads to; `name`: the export, `default` included.
 */
export function replacedValue(run: SpecReading, module: string, name: string, binding?: Binding): Value {
  const replacement = run.moduleReplacements.get(module);
  if (!replacement) return UNKNOWN_VALUE;
  const { by, call, file } = replacement;
  const replaces = { module, name };
  const whole: Value = binding
    ? { is: 'replaced', module, name, binding, members: new Map() }
    : UNKNOWN_VALUE;
  if (by === 'automatic') {
    if (hasManualStandIn(run, file)) return UNKNOWN_VALUE;
    return isFunctionOf(run, file, name) ? madeStandIn(run, call, binding, replaces) : whole;
  }
  if (name === '*') return whole;
  const entry = entriesOf(by).get(name);
  if (entry?.type === 'ObjectExpression') return whole;
  return valueOfEntry(run, entry, binding, replaces);
}

/** What a member of such an import is, as in `api.load`: a stand-in, where the runner makes one of it, or the factory does. */
export function replacedMember(
  run: SpecReading,
  of: Extract<Value, { is: 'replaced' }>,
  member: string,
): Value {
  const known = of.members.get(member) ?? readMember(run, of, member);
  of.members.set(member, known);
  return known;
}

function readMember(
  run: SpecReading,
  { module, name, binding }: Extract<Value, { is: 'replaced' }>,
  member: string,
): Value {
  const replacement = run.moduleReplacements.get(module);
  // What a stand-in has is asked of one that can't be seen to be one.
  if (!replacement || Object.hasOwn(TYPES['stand-in'].members, member)) return UNKNOWN_VALUE;
  const { by, call, file } = replacement;
  const path = `${binding.name}.${member}`;
  if (by === 'automatic')
    return isFunctionIn(run, file, name, member)
      ? madeStandIn(run, call, binding, undefined, path)
      : UNKNOWN_VALUE;
  const entries = entriesOf(by);
  const entry = name === '*' ? entries.get(member) : memberNode(entries.get(name), member);
  return valueOfEntry(run, entry, binding, undefined, path);
}

// What stands in a factory's object: a stand-in that the file holds by a name, or one that is made there.
function valueOfEntry(
  run: SpecReading,
  entry: Node | undefined,
  binding: Binding | undefined,
  replaces?: StandIn['replaces'],
  path?: string,
): Value {
  if (entry?.type === 'Identifier') {
    const held = run.moduleEnvs.get(run.file.path)?.find(entry.name)?.value;
    return held?.is === 'thing' && held.standIn ? held : UNKNOWN_VALUE;
  }
  const maker = entry && makerOf(entry);
  return maker ? madeStandIn(run, maker, binding, replaces, path) : UNKNOWN_VALUE;
}

function memberNode(object: Node | undefined, member: string): Node | undefined {
  if (object?.type !== 'ObjectExpression') return undefined;
  const found = object.properties.findLast(
    (each) => each.type !== 'Property' || propertyName(each.key, each.computed) === member,
  );
  return found?.type === 'Property' ? unwrapped(found.value) : undefined;
}

/** `vi.mocked(load)` is `load`, and says of an import that it is a stand-in, wherever its module is replaced. */
export function asStandIn(run: SpecReading, env: Env, given: Value | undefined, node: CallNode): Value {
  if (given?.is === 'thing' && given.standIn) return given;
  const [first] = node.arguments;
  const inner = first && unwrapped(first);
  const binding = inner?.type === 'Identifier' ? env.find(inner.name)?.binding : undefined;
  if (binding?.kind !== 'import') return { is: 'thing', type: 'stand-in' };
  const known = run.file.standIns.find((each) => each.target === 'module' && each.binding === binding);
  return known ? { is: 'thing', type: 'stand-in', standIn: known } : madeStandIn(run, node, binding);
}

/** The stand-in for a hook that a callback does no more than call: `() => useKilns(filter)`. */
export function hookCalledBy(run: SpecReading, callback: Value | undefined): StandIn | undefined {
  if (callback?.is !== 'function') return undefined;
  const [returned, ...more] = returnedFrom(callback.node);
  const call = returned && unwrapped(returned);
  if (call?.type !== 'CallExpression' || more.length > 0) return undefined;
  return libraryObjectOf(run.evaluate(callback.env, call.callee))?.standIn;
}

// `vi.fn()`, with answers given in a chain.
function makerOf(entry: Node): CallNode | undefined {
  let node = entry;
  while (node.type === 'CallExpression') {
    const callee = unwrapped(node.callee);
    if (callee.type !== 'MemberExpression') return undefined;
    const { object } = callee;
    if (object.type === 'Identifier')
      return RUNNERS.has(object.name) && memberName(callee) === 'fn' ? node : undefined;
    node = unwrapped(object);
  }
  return undefined;
}

// The runner makes a stand-in of each function, and nothing else that could be asked about its calls.
function isFunctionOf(run: SpecReading, file: string | undefined, name: string): boolean {
  if (name === '*') return false;
  if (file === undefined) return /^[a-z]/.test(name) && name !== 'default';
  const declared = run.project.declared(file, name);
  return declared !== undefined && run.declaredValue({ is: 'project', declared }).is === 'function';
}

// Of an object that a module exports, and of the module itself, taken as a whole.
function isFunctionIn(run: SpecReading, file: string | undefined, name: string, member: string): boolean {
  if (name === '*' || file === undefined) return isFunctionOf(run, file, member);
  const declared = run.project.declared(file, name);
  const value = declared && run.declaredValue({ is: 'project', declared });
  return value?.is === 'object' && value.entries.get(member)?.is === 'function';
}

const hasManualStandIn = (run: SpecReading, file: string | undefined): boolean =>
  file !== undefined && run.project.resolve(file, `./__mocks__/${basename(file)}`) !== undefined;

const memberText = ({ tree }: SpecReading, { callee }: CallNode): string =>
  tree.script.source.text.slice(callee.start, callee.end);

function madeStandIn(
  run: SpecReading,
  node: CallNode,
  binding: Binding | undefined,
  replaces?: StandIn['replaces'],
  path = binding?.name,
): Value {
  const standIn: StandIn = {
    block: run.file.root,
    place: { start: node.start, end: node.end },
    target: 'module',
    replaces,
    binding,
    path,
    maker: 'runner',
    made: { by: memberText(run, node), module: '' },
    answers: node.arguments.length > 0,
    onceOnly: false,
    used: true,
    handedAs: new Set(),
    asked: true,
    askedWith: replaces === undefined,
  };
  run.file.standIns.push(standIn);
  return { is: 'thing', type: 'stand-in', standIn };
}

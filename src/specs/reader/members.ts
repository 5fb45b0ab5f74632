import { heldByContext } from './spec-context.js';
import { askedWhole } from '../model/asked.js';
import { memberOfData } from '../../language/operations.js';
import { GLOBAL_OBJECTS, importedValue, lookUp, madeElsewhere, moduleMember, writesTo } from './names.js';
import { CHAINS } from '../../syntax/promises.js';
import type { Node } from 'oxc-parser';
import { pageObjectMember } from './page-objects.js';
import type { Meaning } from '../../libraries/meaning.js';
import { TYPES } from '../../libraries/types.js';
import { meaningOfMember } from '../../libraries/type-table.js';
import { memberName, unwrapped, propertyChain } from '../../syntax/tree.js';
import type { Component } from '../../components/view.js';
import type { Env } from '../model/env.js';
import { expectationMember, startExpectation } from './assertions.js';
import { writtenToPlatform } from './lasting.js';
import { originOf } from './origins.js';
import { queryOutOfSight } from './out-of-sight.js';
import { hopFrom, pickFrom } from './reaches.js';
import { setInput } from './renders.js';
import { replacedMember } from './replaced-modules.js';
import type { SpecReading } from './spec-reading.js';
import { takeEarly, useName, useValue } from './uses.js';
import {
  constantValue,
  isNothing,
  valueOfData,
  UNKNOWN_VALUE,
  type LibraryObject,
  type Value,
} from '../model/values.js';

type MemberNode = Extract<Node, { type: 'MemberExpression' }>;

/** A property of something; `how` it is used is kept for the name that the chain starts from. */
export function evaluateMember(
  run: SpecReading,
  env: Env,
  node: MemberNode,
  how: 'read' | 'write' | 'call',
  value?: Value,
): Value {
  const { root, path } = propertyChain(node);
  if (root.type === 'Identifier') useName(run, env, root.name, root, how, path, value);
  const known = run.file.insides.length;
  const object = fold(run, env, node.object);
  const found = memberIn(run, env, object, node);
  if (how !== 'read' && !(root.type === 'Identifier' && leadsOutside(run, env, root.name)))
    useValue(run, object, node, { how, path: path.slice(-1), value });
  if (how === 'write') {
    if (root.type === 'Identifier') changed(run, env, root.name, path, value);
    setOnInstance(object, node, value);
    writtenToPlatform(run, found, node, value);
  }
  const inside = run.file.insides.at(-1);
  if (how === 'write' && run.file.insides.length > known && inside?.how === 'read') inside.how = 'set';
  return found;
}

// Whether the uses of a name are kept by the name that it stands for.
function leadsOutside(run: SpecReading, env: Env, name: string): boolean {
  const slot = env.find(name);
  return slot !== undefined && (slot.binding !== undefined || originOf(run, slot.value) !== undefined);
}

/** The component of `new KilnComponent()`: one without a document, of which only the insides can be asked. */
export function bareComponent(
  run: SpecReading,
  { of }: Extract<Value, { is: 'instance' }>,
): Component | undefined {
  if (of.is !== 'class' || !of.node.id || !run.inSpecOrHook) return undefined;
  return run.project.componentAt({ file: of.tree.path, name: of.node.id.name });
}

// What a spec takes from inside of a component that it renders.
function keepInside(
  run: SpecReading,
  thing: LibraryObject,
  name: string,
  node: Node,
  bare?: Component,
): void {
  if (!run.inSpecOrHook) return;
  const object = node.type === 'MemberExpression' ? node.object : undefined;
  run.file.insides.push({
    block: run.block,
    place: run.placeOf(node),
    via: run.viaOf(node),
    name,
    how: name.startsWith('set') && thing.type !== 'instance' ? 'set' : 'read',
    on: thing.type,
    render: thing.render,
    bare,
    ofChild: thing.reach !== undefined,
    forced:
      object !== undefined &&
      (unwrapped(object) !== object || (node.type === 'MemberExpression' && node.computed)),
  });
}

// `component.kiln = …` on the instance of a fixture sets an input.
function setOnInstance(object: Value, node: MemberNode, value: Value | undefined): void {
  const name = memberName(node);
  const isFixture = object.is === 'thing' && object.type === 'instance' && object.render?.gives === 'fixture';
  if (isFixture && object.render && name !== undefined) setInput(object.render, name, value);
}

// The object's own entry takes the new value, so that later reads see it.
function changed(
  run: SpecReading,
  env: Env,
  name: string,
  path: readonly string[],
  value: Value | undefined,
): void {
  const slot = env.find(name);
  writesTo(run, slot?.value);
  const [first] = path;
  if (slot?.value.is !== 'object' || first === undefined) return;
  const renewed: Value = {
    ...slot.value,
    entries: new Map(slot.value.entries).set(first, path.length === 1 && value ? value : UNKNOWN_VALUE),
  };
  const origin = run.origins.get(slot.value);
  if (origin) run.origins.set(renewed, origin);
  run.setSlot(slot, renewed);
}

function fold(run: SpecReading, env: Env, node: Node): Value {
  const at = unwrapped(node);
  if (at.type === 'Identifier') return lookUp(run, env, at.name);
  if (at.type !== 'MemberExpression') return run.evaluate(env, at);
  return memberIn(run, env, fold(run, env, at.object), at);
}

function memberIn(run: SpecReading, env: Env, object: Value, node: MemberNode): Value {
  const name = memberName(node);
  if (node.optional && isNothing(object)) return constantValue(undefined);
  if (isNothing(object)) takeEarly(run, env, node.object);
  const held = heldByContext(env, node);
  if (held) return held;
  if (name !== undefined) return memberOfValue(run, object, name, node);
  const index = run.evaluate(env, node.property as Node);
  return memberOfValue(run, object, index.is === 'constant' ? String(index.value) : '[]', node);
}

/** The member of a value, by its name. */
export function memberOfValue(run: SpecReading, value: Value, name: string, node: Node): Value {
  if (name === 'should') return startExpectation(run, value, node);
  switch (value.is) {
    case 'thing':
      return thingMember(run, value, name, node);
    case 'library':
      return libraryMember(value, name);
    case 'object':
      return (
        value.entries.get(name) ??
        (value.open ? UNKNOWN_VALUE : (missing(run, value, name) ?? { is: 'read', of: value, name }))
      );
    case 'constant': {
      const member = memberOfData(value.value, name);
      return member ? valueOfData(member.value, node, '') : { is: 'read', of: value, name };
    }
    case 'list':
      return (
        (/^\d+$/.test(name) && !value.open ? value.items[Number(name)] : undefined) ??
        (name === 'length' && !value.open
          ? constantValue(value.items.length)
          : (missing(run, value, name) ?? { is: 'read', of: value, name }))
      );
    case 'project': {
      if (value.declared.name === '*') return moduleMember(run, value.declared.file, name);
      const part = run.project.partOf(value.declared, name);
      return part
        ? { is: 'project', declared: { file: part.file, name: part.name } }
        : (madeElsewhere(run, value.declared, name) ?? { is: 'read', of: value, name });
    }
    case 'external':
      // Of a package that is taken as a whole, each part is what an import of it would be.
      return value.name === '*' || (value.name === 'default' && isLibrary(run, value.module, name))
        ? importedValue(run, run.tree.path, value.module, name)
        : { is: 'external', module: value.module, name: `${value.name}.${name}` };
    case 'global':
      return globalMember(value.path, name);
    case 'replaced':
      return replacedMember(run, value, name);
    case 'promise':
      return CHAINS.has(name) ? { is: 'read', of: value, name } : memberOfValue(run, value.of, name, node);
    case 'instance': {
      const own = pageObjectMember(run, value, name, node);
      if (own) return own;
      const bare = bareComponent(run, value);
      if (bare) keepInside(run, { is: 'thing', type: 'instance' }, name, node, bare);
      return queryOutOfSight(value, name) ?? { is: 'read', of: value, name };
    }
    default:
      return queryOutOfSight(value, name) ?? { is: 'read', of: value, name };
  }
}

function globalMember(path: string, name: string): Value {
  if (!GLOBAL_OBJECTS.has(path)) return { is: 'global', path: `${path}.${name}` };
  return name === 'document' ? { is: 'thing', type: 'page' } : { is: 'global', path: name };
}

// What a list or object that is written right here does not have is undefined.
function missing(run: SpecReading, value: Value, name: string): Value | undefined {
  const data = run.dataOf(value);
  const member = data && memberOfData(data.value, name);
  return member && member.value === undefined ? constantValue(undefined) : undefined;
}

function thingMember(run: SpecReading, thing: LibraryObject, name: string, node: Node): Value {
  if (thing.type === 'expectation') return expectationMember(thing, name);
  const table = TYPES[thing.type];
  if (/^\d+$/.test(name) || name === '[]')
    return pickFrom(run, thing, name === '[]' ? 'unknown' : Number(name), node);
  const meaning = meaningOfMember(table, name);
  if (thing.standIn && (!meaning || ASKING.has(meaning.kind))) askedWhole(thing.standIn);
  if (!meaning) return { is: 'read', of: thing, name };
  return fromMeaning(run, thing, meaning, name, node);
}

// A record of calls is taken from a stand-in.
const ASKING: ReadonlySet<Meaning['kind']> = new Set(['object', 'reads'] as const);

function fromMeaning(
  run: SpecReading,
  thing: LibraryObject,
  meaning: Meaning,
  name: string,
  node: Node,
): Value {
  switch (meaning.kind) {
    case 'object':
      return {
        is: 'thing',
        type: meaning.type,
        reach: thing.reach,
        render: thing.render,
        standIn: thing.standIn,
        part: thing.type === 'page' ? name : undefined,
      };
    case 'hop':
      return name === 'closest'
        ? { is: 'library', meaning, module: '', name, of: thing }
        : hopFrom(run, thing, meaning.gives, name, node);
    case 'internals':
      keepInside(run, thing, name, node);
      return { is: 'read', of: thing, name };
    case 'reads':
      return { is: 'read', of: thing, name };
    default:
      return { is: 'library', meaning, module: '', name, of: thing };
  }
}

const MARKS: Readonly<Record<string, 'only' | 'skip' | 'todo' | 'fails' | 'conditional'>> = {
  only: 'only',
  skip: 'skip',
  todo: 'todo',
  fails: 'fails',
  failing: 'fails',
  skipIf: 'conditional',
  runIf: 'conditional',
  if: 'conditional',
  skipUnless: 'conditional',
};
const TABLES = new Set(['each', 'for']);

function libraryMember(value: Extract<Value, { is: 'library' }>, name: string): Value {
  const { meaning } = value;
  switch (meaning.kind) {
    case 'group':
    case 'spec':
      if (TABLES.has(name)) return { ...value, meaning: { ...meaning, table: true }, name: 'each' };
      if (meaning.kind === 'spec' && ['describe', 'suite'].includes(name))
        return { ...value, meaning: { kind: 'group' } };
      if (['beforeEach', 'afterEach', 'beforeAll', 'afterAll'].includes(name)) return UNKNOWN_VALUE;
      return {
        ...value,
        meaning: { ...meaning, mark: meaning.mark ?? MARKS[name] },
        name: MARKS[name] === 'conditional' ? 'condition' : value.name,
      };
    case 'object':
      return objectMember(value, meaning.type, name);
    case 'expect':
      return expectMember(value, name);
    case 'matcher':
      return value.of?.is === 'thing' && value.of.type === 'expectation'
        ? expectationMember(value.of, name)
        : UNKNOWN_VALUE;
    case 'asserts':
      return { ...value, name };
    case 'render':
    case 'runs':
    case 'stand-in':
      return name === 'mock'
        ? { is: 'library', meaning: { kind: 'stand-in', target: 'member' }, module: value.module, name }
        : { is: 'read', of: value, name };
    case 'within':
    case 'query':
    case 'act':
      return { is: 'read', of: value, name };
    default:
      return { ...value, name };
  }
}

function objectMember(
  value: Extract<Value, { is: 'library' }>,
  type: LibraryObject['type'],
  name: string,
): Value {
  const table = TYPES[type];
  // The whole of a module by its default export: `sinon.default`, `TestRenderer.act`.
  const meaning = meaningOfMember(table, name);
  const thing: LibraryObject = { is: 'thing', type };
  if (!meaning || meaning.kind === 'reads') return { is: 'read', of: thing, name };
  if (meaning.kind === 'object') return { is: 'thing', type: meaning.type };
  return { is: 'library', meaning, module: value.module, name, of: thing };
}

const EXPECT_MEMBERS: Readonly<Record<string, Meaning>> = {
  soft: { kind: 'expect' },
  poll: { kind: 'expect' },
  element: { kind: 'expect' },
  assertions: { kind: 'assertion-count' },
  hasAssertions: { kind: 'assertion-count' },
  fail: { kind: 'asserts' },
  unreachable: { kind: 'asserts' },
};

function expectMember(value: Extract<Value, { is: 'library' }>, name: string): Value {
  return { ...value, meaning: EXPECT_MEMBERS[name] ?? { kind: 'plain' }, name };
}

// `const rtl = require('@testing-library/react')`
const isLibrary = ({ project: { libraries } }: SpecReading, module: string, name: string): boolean =>
  libraries.meaningOf(module, 'default') === undefined && libraries.meaningOf(module, name) !== undefined;

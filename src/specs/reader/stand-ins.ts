import { calledName, propertyChain } from '../../syntax/tree.js';
import type { Meaning } from '../../libraries/meaning.js';
import type { Binding } from '../model/blocks.js';
import type { CallNode, SpecReading } from './spec-reading.js';
import type { Env } from '../model/env.js';
import { exprOfValue, resultOfValue } from './spec-scope.js';
import { assertByCall } from './assertions.js';
import { receiverText } from './reaches.js';
import type { StandIn } from '../model/steps.js';
import { UNKNOWN_VALUE, textOfValue, type LibraryObject, type Value } from '../model/values.js';

type Library = Extract<Value, { is: 'library' }>;

/** A call that makes a spy, stub, mock or fake. */
export function standIn(
  run: SpecReading,
  env: Env,
  callee: Library,
  meaning: Extract<Meaning, { kind: 'stand-in' }>,
  args: readonly Value[],
  node: CallNode,
): Value {
  const [object, member] = args;
  // `sandbox.mock()` is a function that is to be called once, unless it is told otherwise.
  const isMock = callee.name === 'mock' && meaning.target === 'member' && args.length === 0;
  const onMember = meaning.target === 'member' && object !== undefined && object.is !== 'function';
  const [first] = node.arguments;
  const text = run.tree.script.source.text;
  const made: StandIn = {
    block: run.block,
    place: run.placeOf(node),
    via: run.viaOf(node),
    target: meaning.target === 'member' && !onMember ? 'none' : meaning.target,
    object: onMember ? object : undefined,
    member: onMember
      ? textOfValue(member)
      : meaning.target === 'global' || meaning.target === 'env'
        ? textOfValue(object)
        : undefined,
    objectText: onMember && first ? text.slice(first.start, first.end) : undefined,
    binding: onMember && first ? rootBinding(env, first) : undefined,
    maker: makerOf(run, callee, node),
    made: { by: text.slice(node.callee.start, node.callee.end), module: callee.module },
    answers: ANSWERING.has(callee.name) || meaning.target === 'global' || meaning.target === 'env',
    onceOnly: false,
    used: false,
    handedAs: new Set(),
    // What it does where it is called may be all that the spec is about.
    asked: isMock || meaning.target !== 'none' || args.length > 0,
    askedWith: isMock || meaning.target !== 'none' || args.length > 0,
  };
  const lasting = args.slice(onMember ? 2 : 0);
  if (onMember && lasting.some((each) => each.is !== 'constant')) made.answers = true;
  for (const each of lasting) if (meaning.target !== 'module') run.handOut(each);
  if (meaning.target !== 'module') {
    run.file.standIns.push(made);
    run.emit({ kind: 'stand-in', standIn: made }, node);
  }
  if (isMock) expectsCalls(run, args, node);
  return { is: 'thing', type: 'stand-in', standIn: made };
}

// Replaces by itself, with no answer given yet.
const ANSWERING = new Set([
  'stub',
  'replace',
  'replaceGetter',
  'replaceProperty',
  'define',
  'createStubInstance',
]);

function rootBinding(env: Env, node: CallNode['arguments'][number]) {
  const { root } = propertyChain(node);
  return root.type === 'Identifier' ? env.find(root.name)?.binding : undefined;
}

/** The name that a stand-in goes by: `load.mockReset()`, `vi.mocked(load).mockReset()`. */
export function receiverBinding(env: Env, node: CallNode): Binding | undefined {
  const root = receiverChain(node)?.root;
  return root?.type === 'Identifier' ? env.find(root.name)?.binding : undefined;
}

// The name, and the properties on the way to the stand-in.
function receiverChain(node: CallNode): ReturnType<typeof propertyChain> | undefined {
  const { root, path } = propertyChain(node.callee);
  if (root.type === 'Identifier') return { root, path: path.slice(0, -1) };
  const [first] = root.type === 'CallExpression' ? root.arguments : [];
  return first && propertyChain(first);
}

/** An answer that a stand-in is given, for one call or for all that follow. */
export function keepAnswer(
  run: SpecReading,
  env: Env,
  standIn: StandIn | undefined,
  { once = false, gives }: Extract<Meaning, { kind: 'answer' }>,
  given: Value | undefined,
  node: CallNode,
): void {
  const binding = standIn?.binding ?? receiverBinding(env, node);
  const { start, end } = node.callee;
  const text = run.tree.script.source.text.slice(start, end);
  run.emit(
    {
      kind: 'answer',
      standIn,
      binding,
      isWhole: receiverChain(node)?.path.length === 0,
      once,
      text,
      gives:
        gives && given && (gives === 'value' ? exprOfValue(writtenOut(run, given)) : resultOfValue(given)),
    },
    node,
  );
}

const DEEPEST = 6;

// A value with the constants of other modules of the project written out in it.
function writtenOut(run: SpecReading, value: Value, depth = 0): Value {
  if (depth > DEEPEST) return value;
  const inner = (each: Value): Value => writtenOut(run, each, depth + 1);
  switch (value.is) {
    case 'project': {
      const declared = run.declaredValue(value);
      return declared.is === 'project' ? declared : inner(declared);
    }
    case 'read': {
      const of = inner(value.of);
      return (of.is === 'object' && of.entries.get(value.name)) || value;
    }
    case 'object':
      return {
        ...value,
        entries: new Map([...value.entries].map(([key, each]) => [key, inner(each)] as const)),
      };
    case 'list':
      return { ...value, items: value.items.map(inner) };
    default:
      return value;
  }
}

/** The kit that a stand-in belongs to: one call restores all of it. */
export function makerOf(run: SpecReading, callee: Library, node: CallNode): string {
  const of = callee.of?.is === 'thing' ? callee.of.type : undefined;
  if (of === 'runner-tools' || callee.module === '')
    return of === 'fakes' ? receiverText(run, node) || 'sinon' : 'runner';
  return of === 'fakes' ? receiverText(run, node) : callee.module === 'sinon' ? 'sinon' : 'runner';
}

/** An answer that a stand-in is given, or that it only watches. */
export function answer(
  run: SpecReading,
  env: Env,
  meaning: Extract<Meaning, { kind: 'answer' | 'watches' }>,
  of: LibraryObject | undefined,
  args: readonly Value[],
  node: CallNode,
): Value {
  args.forEach((each) => run.handOut(each));
  const made = of?.standIn;
  if (meaning.kind === 'watches' && meaning.checks) expectsCalls(run, args, node);
  if (meaning.kind === 'answer') keepAnswer(run, env, made, meaning, args[0], node);
  if (made && meaning.kind === 'answer') {
    if (meaning.once) made.onceOnly = !made.answers;
    else {
      made.answers = true;
      made.onceOnly = false;
    }
  }
  return of ?? UNKNOWN_VALUE;
}

// What is expected of a stand-in is said before it is called, and told of at the end (sinon 1 to 21, mock.js).
const expectsCalls = (run: SpecReading, args: readonly Value[], node: CallNode): void =>
  run.under({ inCallback: true }, () => assertByCall(run, calledName(node) ?? '', args, node, 'called'));

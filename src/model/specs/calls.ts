import type { Node } from 'oxc-parser';
import { TYPES } from '../../dialects/types.js';
import { memberName, requiredModule, unwrapped } from '../../parse/tree.js';
import type { Env } from './env.js';
import { chainOf, evaluate, importedValue, lookUp } from './evaluate.js';
import { aliasOf, callFunction, canCall, declaredValue, handOut } from './functions.js';
import { applyMeaning } from './apply.js';
import { calledOnPackage, calledOnPage, calledOnPlatform, madeOpen, openedOrClosed } from './lasting.js';
import { CHAINS, evaluateMember } from './members.js';
import { registerBlock } from './register.js';
import { setInput } from './renders.js';
import type { Run } from './run.js';
import { keepAnswer } from './stand-ins.js';
import { useName } from './uses.js';
import { mayBeEmpty } from './statements.js';
import { itemOf, NOTHING, promised, settled, textOfValue, type Value } from './values.js';

export type CallNode = Extract<Node, { type: 'CallExpression' }>;

/** A call: of a dialect's function, a helper of the project, a method, or something that can't be read. */
export function evaluateCall(run: Run, env: Env, node: CallNode): Value {
  const required = requiredModule(node);
  if (required !== undefined) return importedValue(run, run.tree.path, required, 'default');
  const discarded = run.discarded === node;
  if (globsModules(node)) run.file.importsByPattern = true;
  const callee = calleeOf(run, env, node.callee);
  if (
    callee.is === 'library' &&
    (callee.meaning.kind === 'group' || callee.meaning.kind === 'spec' || callee.meaning.kind === 'hook')
  ) {
    return registerBlock(run, env, node, callee);
  }
  const judging = run.judging;
  run.judging = callee.is === 'library' && ['expect', 'asserts', 'matcher'].includes(callee.meaning.kind);
  const target = declaredValue(run, callee);
  const isFollowed = target.is === 'function' && canCall(run, target);
  const args = node.arguments.map((each) => {
    const alias = isFollowed ? aliasOf(run, env, each) : undefined;
    return alias ?? evaluate(run, env, each);
  });
  run.judging = judging;
  for (const each of node.arguments)
    if (!isFollowed || aliasOf(run, env, each) === undefined) passed(run, env, each);
  const helper = namedHelper(run, node.callee);
  if (helper) return applyMeaning(run, env, { ...helper, of: undefined }, args, node);
  switch (target.is) {
    case 'library': {
      // An object that can be called as well: `fireEvent(element, event)`.
      const call = target.meaning.kind === 'object' ? TYPES[target.meaning.type].call : undefined;
      return applyMeaning(run, env, call ? { ...target, meaning: call } : target, args, node);
    }
    case 'thing': {
      const call = TYPES[target.type].call;
      if (call)
        return applyMeaning(
          run,
          env,
          { is: 'library', meaning: call, module: '', name: target.type, of: target },
          args,
          node,
        );
      args.forEach((each) => handOut(run, each));
      return target.standIn ? NOTHING : target;
    }
    case 'function':
      return callFunction(run, target, args, node, {
        helper:
          unwrapped(node.callee).type !== 'FunctionExpression' &&
          unwrapped(node.callee).type !== 'ArrowFunctionExpression',
      });
    case 'read':
      return callMethod(run, env, target, args, node);
    case 'global':
      return callGlobal(run, env, target.path, args, node, discarded);
    default:
      return callUnknown(run, env, target, args, node, discarded);
  }
}

// `import.meta.glob('./*.tsx')`, `require.context('.')`
function globsModules(node: CallNode): boolean {
  const callee = unwrapped(node.callee);
  if (callee.type !== 'MemberExpression') return false;
  const name = memberName(callee);
  if (name === 'context') return callee.object.type === 'Identifier' && callee.object.name === 'require';
  return (name === 'glob' || name === 'globEager') && callee.object.type === 'MetaProperty';
}

function calleeOf(run: Run, env: Env, node: Node): Value {
  const callee = unwrapped(node);
  if (callee.type === 'MemberExpression') return evaluateMember(run, env, callee, 'call');
  if (callee.type !== 'Identifier') return evaluate(run, env, callee);
  useName(run, env, callee.name, callee, 'call', []);
  return lookUp(env, callee.name);
}

// A name that is an argument by itself is handed over: whoever gets it may change what it holds.
function passed(run: Run, env: Env, node: Node): void {
  const inner = unwrapped(node);
  const { root, path } = chainOf(inner.type === 'SpreadElement' ? inner.argument : inner);
  if (root.type === 'Identifier') useName(run, env, root.name, root, 'pass', path);
}

// A helper that the project's settings name.
function namedHelper(run: Run, node: Node): Extract<Value, { is: 'library' }> | undefined {
  const callee = unwrapped(node);
  if (callee.type !== 'Identifier') return undefined;
  const { name } = callee;
  const made = (
    meaning: Extract<Value, { is: 'library' }>['meaning'],
  ): Extract<Value, { is: 'library' }> => ({ is: 'library', meaning, module: '', name });
  if (run.helpers.assert.includes(name)) return made({ kind: 'asserts' });
  if (run.helpers.act.includes(name)) return made({ kind: 'act', by: 'user' });
  if (run.helpers.render.includes(name))
    return made({ kind: 'render', takes: 'element', gives: 'queries', teardown: 'each-spec-if-global' });
  return undefined;
}

const RUNNING_METHODS = new Set(
  'forEach map filter find findIndex some every reduce flatMap then catch finally'.split(' '),
);

// Calls on what a render gives that set state from outside.
const SETS_STATE = new Set(['setData', 'setState', 'setMethods']);

function callMethod(
  run: Run,
  env: Env,
  target: Extract<Value, { is: 'read' }>,
  args: readonly Value[],
  node: CallNode,
): Value {
  const settles = CHAINS.has(target.name) && target.of.is === 'promise';
  if (RUNNING_METHODS.has(target.name)) {
    const maybe = run.flags.maybe || mayBeEmpty(target.of) || target.name === 'catch';
    const item = target.of.is === 'list' ? itemOf(target.of) : elementOf(settled(target.of));
    for (const each of args) {
      if (each.is !== 'function') continue;
      run.under({ maybe, inCallback: run.flags.inCallback || target.name === 'catch' }, () =>
        repeating(run, () => callFunction(run, each, [item], node)),
      );
    }
    return settles ? promised(NOTHING, 'chain') : { is: 'read', of: target.of, name: target.name };
  }
  args.forEach((each) => handOut(run, each));
  const opened = openedOrClosed(run, env, target, node);
  if (opened) return { is: 'thing', type: 'subscription', opened };
  calledOnPage(run, target.name, target.of, args, node);
  answersReplaced(run, env, target, node);
  if (SETS_STATE.has(target.name) && target.of.is === 'thing')
    run.emit({ kind: 'act', by: 'program', render: target.of.render, name: target.name, args }, node);
  const [name, given] = args;
  const input = target.name === 'setInput' ? textOfValue(name) : undefined;
  if (input !== undefined && target.of.is === 'thing' && target.of.render)
    setInput(target.of.render, input, given);
  return { is: 'read', of: target.of, name: target.name };
}

// `load.mockResolvedValue([])` on an import of a module that the runner replaces.
function answersReplaced(run: Run, env: Env, target: Extract<Value, { is: 'read' }>, node: CallNode): void {
  const { members } = TYPES['stand-in'];
  const meaning = Object.hasOwn(members, target.name) ? members[target.name] : undefined;
  if (meaning?.kind === 'answer') keepAnswer(run, env, undefined, Boolean(meaning.once), node);
}

const elementOf = (value: Value): Value => {
  if (value.is !== 'thing' || !value.reach) return NOTHING;
  return {
    ...value,
    type: value.type === 'elements' ? 'element' : value.type === 'wrappers' ? 'wrapper' : value.type,
  };
};

// Specs that a loop makes are several.
function repeating<T>(run: Run, read: () => T): T {
  run.loops++;
  try {
    return read();
  } finally {
    run.loops--;
  }
}

const KNOWN_GLOBALS = new Set(
  'Object Array JSON Math Promise Number String Boolean Symbol Date BigInt Reflect RegExp Error setTimeout setInterval clearTimeout clearInterval setImmediate queueMicrotask requestAnimationFrame cancelAnimationFrame console localStorage sessionStorage history location navigator structuredClone getComputedStyle matchMedia URL process performance crypto customElements isNaN isFinite parseInt parseFloat encodeURI encodeURIComponent decodeURI decodeURIComponent fetch alert confirm prompt scrollTo scroll getSelection addEventListener removeEventListener dispatchEvent Buffer Intl require Map Set'.split(
    ' ',
  ),
);

function callGlobal(
  run: Run,
  env: Env,
  path: string,
  args: readonly Value[],
  node: CallNode,
  discarded: boolean,
): Value {
  const [head = ''] = path.split('.');
  if (!KNOWN_GLOBALS.has(head)) return callUnknown(run, env, { is: 'global', path }, args, node, discarded);
  if (path === 'Object.freeze') return args[0] ?? NOTHING;
  if (path === 'Object.assign' || path === 'Object.defineProperty') written(run, env, node.arguments[0]);
  if (/^(?:Object\.(?:keys|values|entries)|Array\.from)$/.test(path)) {
    for (const each of args)
      if (each.is === 'function') repeating(run, () => callFunction(run, each, [], node));
    return { is: 'list', items: [], open: true };
  }
  args.forEach((each) => handOut(run, each));
  calledOnPlatform(run, path, args, node);
  if (path === 'structuredClone') return args[0] ? copyOf(args[0]) : NOTHING;
  if (PROMISES.has(path)) return promised(NOTHING, 'chain');
  return { is: 'instance', of: { is: 'unknown' }, name: path };
}

const PROMISES = new Set(['fetch', 'Promise.all', 'Promise.allSettled', 'Promise.race', 'Promise.resolve']);

/** A copy with parts of its own. */
const copyOf = (value: Value): Value => (value.is === 'object' || value.is === 'list' ? NOTHING : value);

// Built-in functions that write into their first argument.
function written(run: Run, env: Env, node: Node | undefined): void {
  if (!node) return;
  const { root, path } = chainOf(node);
  if (root.type === 'Identifier') useName(run, env, root.name, root, 'write', [...path, '[]']);
}

function callUnknown(
  run: Run,
  env: Env,
  target: Value,
  args: readonly Value[],
  node: CallNode,
  discarded: boolean,
): Value {
  args.forEach((each) => handOut(run, each));
  if (target.is === 'external') {
    calledOnPackage(run, target, node);
    const method = target.name.split('.').at(-1) ?? '';
    const opened = openedOrClosed(run, env, { is: 'read', of: target, name: method }, node);
    if (opened) return { is: 'thing', type: 'subscription', opened };
  }
  const name = run.tree.script.source.text.slice(node.callee.start, node.callee.end);
  const { root } = chainOf(node.callee);
  const binding = root.type === 'Identifier' ? env.find(root.name)?.binding : undefined;
  run.emit({ kind: 'unknown-call', name, discarded, binding }, node);
  if (!run.inSpecOrHook && discarded) run.file.unknownEffects = true;
  return { is: 'instance', of: target.is === 'global' ? NOTHING : target, name };
}

/** `new X(…)`: an instance of a class of the project, of the platform, or of something unknown. */
export function evaluateNew(run: Run, env: Env, node: Extract<Node, { type: 'NewExpression' }>): Value {
  const callee = evaluate(run, env, node.callee);
  const args = node.arguments.map((each) => evaluate(run, env, each));
  const target = declaredValue(run, callee);
  const name = run.tree.script.source.text.slice(node.callee.start, node.callee.end);
  // A promise runs its function at once; anything else may keep what it is given.
  const [first] = args;
  if (target.is === 'global' && target.path === 'Promise' && first?.is === 'function')
    callFunction(run, first, [], node);
  else args.forEach((each) => handOut(run, each));
  if (target.is === 'global' && target.path === 'RegExp' && first?.is === 'constant')
    return { is: 'pattern', source: String(first.value), flags: '' };
  if (target.is === 'library' && target.meaning.kind === 'object')
    return { is: 'thing', type: target.meaning.type };
  const made: Value = { is: 'instance', of: target, name };
  madeOpen(run, made, node);
  return made;
}

/** A tagged template: a table of rows, or text that some function makes. */
export function evaluateTagged(
  run: Run,
  env: Env,
  node: Extract<Node, { type: 'TaggedTemplateExpression' }>,
): Value {
  const tag = evaluate(run, env, node.tag);
  for (const each of node.quasi.expressions) evaluate(run, env, each);
  if (tag.is === 'library' && (tag.meaning.kind === 'spec' || tag.meaning.kind === 'group'))
    return { ...tag, name: 'rows' };
  return NOTHING;
}

import { routerOf } from './routers.js';
import { type CallNode, type SpecReading, canCall } from './spec-reading.js';
import type { Node } from 'oxc-parser';
import { TYPES } from '../../libraries/types.js';
import { memberName, requiredModule, unwrapped, propertyChain, pathOf } from '../../syntax/tree.js';
import type { Env } from '../model/env.js';
import { importedValue, lookUp } from './names.js';
import { aliasOf } from './origins.js';
import { applyMeaning } from './apply.js';
import { calledOnPackage, madeOpen, openedOrClosed } from './lasting.js';
import { evaluateMember } from './members.js';
import { callGlobal, callMethod, isOfPlatform } from './methods.js';
import { registerBlock } from './register.js';
import { failsAgain } from './statements.js';
import { useName } from './uses.js';
import { UNKNOWN_VALUE, type Value } from '../model/values.js';

/** A call: of a dialect's function, a helper of the project, a method, or something that can't be read. */
export function evaluateCall(run: SpecReading, env: Env, node: CallNode): Value {
  const required = requiredModule(node);
  if (required !== undefined) return importedValue(run, run.tree.path, required, 'default');
  const discarded = run.discarded === node;
  const before = run.block.steps.length;
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
  const target = run.declaredValue(callee);
  const isFollowed = target.is === 'function' && canCall(run, target);
  const args = node.arguments.map((argument) => {
    const alias = isFollowed ? aliasOf(run, env, argument) : undefined;
    return alias ?? run.evaluate(env, argument);
  });
  run.judging = judging;
  for (const each of node.arguments)
    if (!isFollowed || aliasOf(run, env, each) === undefined) passed(run, env, each);
  const helper = namedHelper(run, node.callee) ?? guessedRender(run, target, args, node.callee);
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
      args.forEach((each) => run.handOut(each));
      // Called by a function inside of the spec: when that runs is for others to say.
      if (target.standIn && run.active.length > 1) target.standIn.used = true;
      return target.standIn ? { is: 'given', by: target.standIn } : target;
    }
    case 'function':
      // What is read of the function need not be all that it does with them.
      args.forEach(useStandIns);
      return run.callFunction(target, args, node, {
        helper:
          unwrapped(node.callee).type !== 'FunctionExpression' &&
          unwrapped(node.callee).type !== 'ArrowFunctionExpression',
      });
    case 'bound': {
      const all = [...target.args, ...args];
      if (target.of.is === 'library') return applyMeaning(run, env, target.of, all, node);
      if (target.of.is === 'function') return run.callFunction(target.of, all, node, { helper: true });
      return callUnknown(run, env, target, args, node, discarded);
    }
    case 'read':
      if (target.name === 'catch') letPass(run, args[0], before);
      return callMethod(run, env, target, args, node, before);
    case 'global':
      return isOfPlatform(target.path)
        ? callGlobal(run, env, target.path, args, node)
        : callUnknown(run, env, target, args, node, discarded);
    default:
      return callUnknown(run, env, target, args, node, discarded);
  }
}

// Stand-ins that are handed over, by themselves or in a list or an object.
function useStandIns(value: Value): void {
  if (value.is === 'thing' && value.standIn) value.standIn.used = true;
  else if (value.is === 'list') value.items.forEach(useStandIns);
  else if (value.is === 'object') [...value.entries.values()].forEach(useStandIns);
}

// `load().then(() => expect(…)).catch(() => {})`: what fails before the handler fails for nobody.
function letPass(run: SpecReading, handler: Value | undefined, before: number): void {
  if (handler?.is !== 'function' || handler.node.body?.type !== 'BlockStatement') return;
  if (failsAgain(handler.node.body.body)) return;
  for (const step of run.block.steps.slice(before)) step.swallowed = true;
}

// `import.meta.glob('./*.tsx')`, `require.context('.')`
function globsModules(node: CallNode): boolean {
  const callee = unwrapped(node.callee);
  if (callee.type !== 'MemberExpression') return false;
  if (pathOf(callee) === 'require.context') return true;
  const name = memberName(callee);
  return (name === 'glob' || name === 'globEager') && callee.object.type === 'MetaProperty';
}

function calleeOf(run: SpecReading, env: Env, node: Node): Value {
  const callee = unwrapped(node);
  if (callee.type === 'MemberExpression') return evaluateMember(run, env, callee, 'call');
  if (callee.type !== 'Identifier') return run.evaluate(env, callee);
  useName(run, env, callee.name, callee, 'call', []);
  return lookUp(run, env, callee.name);
}

// A name that is an argument by itself is handed over: whoever gets it may change what it holds.
function passed(run: SpecReading, env: Env, node: Node): void {
  const inner = unwrapped(node);
  const { root, path } = propertyChain(inner.type === 'SpreadElement' ? inner.argument : inner);
  if (root.type === 'Identifier') useName(run, env, root.name, root, 'pass', path);
}

// A helper that the project's settings name.
function namedHelper(run: SpecReading, node: Node): Extract<Value, { is: 'library' }> | undefined {
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

// `renderWithRouter(<Lid />)` of a module that is out of sight: by its name and by what it is handed.
function guessedRender(
  run: SpecReading,
  target: Value,
  [shown]: readonly Value[],
  node: Node,
): Extract<Value, { is: 'library' }> | undefined {
  const callee = unwrapped(node);
  if (callee.type !== 'Identifier' || !/^render(?:$|[A-Z](?!ook|oString))/.test(callee.name))
    return undefined;
  if (target.is !== 'external' || shown?.is !== 'jsx') return undefined;
  run.file.isGuessed = true;
  const meaning = {
    kind: 'render',
    takes: 'element',
    gives: 'queries',
    teardown: 'each-spec-if-global',
    adds: true,
  } as const;
  return { is: 'library', meaning, module: target.module, name: callee.name };
}

function callUnknown(
  run: SpecReading,
  env: Env,
  target: Value,
  args: readonly Value[],
  node: CallNode,
  discarded: boolean,
): Value {
  args.forEach((each) => run.handOut(each));
  if (target.is === 'external') {
    calledOnPackage(run, target, node);
    const method = target.name.split('.').at(-1) ?? '';
    const opened = openedOrClosed(run, env, { is: 'read', of: target, name: method }, node);
    if (opened) return { is: 'thing', type: 'subscription', opened };
  }
  const name = run.tree.script.source.text.slice(node.callee.start, node.callee.end);
  const { root } = propertyChain(node.callee);
  const binding = root.type === 'Identifier' ? env.find(root.name)?.binding : undefined;
  const shows = args.some((each) => holdsComponent(run, each)) || undefined;
  const module = target.is === 'external' ? target.module : undefined;
  run.emit({ kind: 'unknown-call', name, discarded, binding, shows, module }, node);
  if (!run.inSpecOrHook && discarded) run.file.unknownEffects = true;
  const router = routerOf(target, args);
  if (router) return router;
  return { is: 'instance', of: target.is === 'global' ? UNKNOWN_VALUE : target, name };
}

// Markup, a component, or an object of options with one of them in it.
function holdsComponent(run: SpecReading, value: Value): boolean {
  if (value.is === 'jsx') return true;
  if (value.is === 'project') return run.project.componentAt(value.declared) !== undefined;
  return (
    value.is === 'object' &&
    [...value.entries.values()].some((each) => each.is !== 'object' && holdsComponent(run, each))
  );
}

/** `new X(…)`: an instance of a class of the project, of the platform, or of something unknown. */
export function evaluateNew(
  run: SpecReading,
  env: Env,
  node: Extract<Node, { type: 'NewExpression' }>,
): Value {
  const callee = constructed(run, env, node.callee);
  const args = node.arguments.map((argument) => run.evaluate(env, argument));
  const target = run.declaredValue(callee);
  const name = run.tree.script.source.text.slice(node.callee.start, node.callee.end);
  // A promise runs its function at once; anything else may keep what it is given.
  const [first] = args;
  if (target.is === 'global' && target.path === 'Promise' && first?.is === 'function')
    inPromise(run, () => run.callFunction(first, [], node));
  else args.forEach((each) => run.handOut(each));
  if (target.is === 'global' && target.path === 'RegExp' && first?.is === 'constant')
    return { is: 'pattern', source: String(first.value), flags: '' };
  if (target.is === 'library' && target.meaning.kind === 'object')
    return { is: 'thing', type: target.meaning.type };
  const made: Value = { is: 'instance', of: target, name, args };
  madeOpen(run, made, node);
  return made;
}

// What a class keeps by itself is not looked at by making one of it; what it gives to all of them is.
function constructed(run: SpecReading, env: Env, node: Node): Value {
  if (node.type !== 'Identifier') return run.evaluate(env, node);
  useName(run, env, node.name, node, 'read', ['prototype']);
  return lookUp(run, env, node.name);
}

function inPromise(run: SpecReading, read: () => void): void {
  const before = run.inPromise;
  run.inPromise = true;
  read();
  run.inPromise = before;
}

/** A tagged template: a table of rows, or text that some function makes. */
export function evaluateTagged(
  run: SpecReading,
  env: Env,
  node: Extract<Node, { type: 'TaggedTemplateExpression' }>,
): Value {
  const tag = run.evaluate(env, node.tag);
  for (const each of node.quasi.expressions) run.evaluate(env, each);
  if (tag.is === 'library' && (tag.meaning.kind === 'spec' || tag.meaning.kind === 'group'))
    return { ...tag, name: 'rows' };
  return UNKNOWN_VALUE;
}

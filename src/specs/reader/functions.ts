import type { Node } from 'oxc-parser';
import { isFunction, unwrapped } from '../../syntax/tree.js';
import type { Span } from '../../finding.js';
import { namesIn } from '../../syntax/module-facts.js';
import type { ModuleTree } from '../../project/project.js';
import type { Binding } from '../model/blocks.js';
import { Env } from '../model/env.js';
import { evaluate, importedValue, lookUp } from './evaluate.js';
import { keepOrigin, originOf } from './origins.js';
import { bindPattern, hoist, isFrozen } from './patterns.js';
import type { Run } from './run.js';
import { runStatements } from './statements.js';
import { holding, NOTHING, promised, type Value } from '../model/values.js';

type FunctionValue = Extract<Value, { is: 'function' }>;
const DEEPEST_CALL = 8;

/** How a function is run: a `helper` is told from its call; others stand where they are written. */
export interface CallOptions {
  helper?: boolean;
}

/** Whether a function can be run: it is in sight, and not running already. */
export const canCall = (run: Run, { node }: FunctionValue): boolean =>
  run.active.length < DEEPEST_CALL && !run.active.includes(node) && node.body !== null;

/** The object that a name stands for, if that is known from outside: what is done to it under another name is kept by itself. */
export function aliasOf(run: Run, env: Env, node: Node): Value | undefined {
  const inner = unwrapped(node);
  if (inner.type !== 'Identifier') return undefined;
  const held = lookUp(env, inner.name);
  if (!originOf(run, held)) return undefined;
  if (held.is === 'thing' && held.standIn && !run.judging) held.standIn.used = true;
  return held;
}

/** Runs a function with known arguments, and gives what it returns. */
export function callFunction(
  run: Run,
  fn: FunctionValue,
  args: readonly Value[],
  node: Span,
  { helper }: CallOptions = {},
): Value {
  if (!canCall(run, fn)) return NOTHING;
  const before = { site: run.site, tree: run.tree, discarded: run.discarded };
  if (helper) run.site ??= { start: node.start, end: node.end };
  run.tree = fn.tree;
  run.active.push(fn.node);
  try {
    const value = run.under({ awaited: false }, () => body(run, fn, args));
    return fn.node.async ? promised(value, run.awaits(fn.node) ? 'helper' : 'at-once') : value;
  } finally {
    run.active.pop();
    Object.assign(run, before);
  }
}

function body(run: Run, fn: FunctionValue, args: readonly Value[]): Value {
  const env = run.newEnv(fn.env);
  env.turns = fn.node.params.flatMap(namesIn);
  fn.node.params.forEach((param, i) => {
    const value =
      args[i] ??
      (args.length < fn.node.params.length ? { is: 'constant' as const, value: undefined } : NOTHING);
    bindPattern(run, env, param, param.type === 'RestElement' ? NOTHING : value);
  });
  const { body: content } = fn.node;
  if (!content) return NOTHING;
  if (content.type !== 'BlockStatement')
    return run.under({ awaited: true }, () => evaluate(run, env, content));
  const returns: Value[] = [];
  runStatements(run, env, content.body, returns);
  const kinds = new Set(returns.map((each) => (each.is === 'thing' ? each.type : each.is)));
  return kinds.size === 1 ? (returns.at(-1) ?? NOTHING) : NOTHING;
}

/** A value is handed to something that may keep it: functions in it may run later, stand-ins in it may be called. */
export function handOut(run: Run, value: Value, depth = 0): void {
  if (depth > 3) return;
  switch (value.is) {
    case 'function':
      if (run.inSpecOrHook && run.firstHandedOut(value.node)) {
        run.under({ maybe: true, inCallback: true }, () =>
          callFunction(
            run,
            value,
            value.node.params.map(() => NOTHING),
            value.node,
          ),
        );
      }
      break;
    case 'object':
      for (const each of value.entries.values()) handOut(run, each, depth + 1);
      break;
    case 'list':
      for (const each of value.items) handOut(run, each, depth + 1);
      break;
    case 'thing':
      if (value.standIn) value.standIn.used = true;
      break;
    case 'promise':
      handOut(run, value.of, depth + 1);
      break;
  }
}

/** The value that a declaration of a project module has, read where it stands. */
export function declaredValue(run: Run, value: Value): Value {
  if (value.is !== 'project' || value.declared.name === '*') return value;
  const { file, name } = value.declared;
  // A tree that was let go is not read again for names that are known.
  const tree = run.moduleEnvs.has(file) ? undefined : run.project.tree(file);
  const env = tree ? moduleEnv(run, tree) : run.moduleEnvs.get(file);
  const found = env?.find(name);
  if (!found) return env ? defaultExport(run, file, env, name) : NOTHING;
  if (found.lazy) {
    const { lazy } = found;
    found.lazy = undefined;
    found.value = lazy();
  }
  return found.value;
}

function defaultExport(run: Run, file: string, env: Env, name: string): Value {
  const tree = run.project.tree(file);
  const found = tree?.facts.exports.get(name);
  if (!tree || !found || !('node' in found)) return NOTHING;
  const value: Value = isFunction(found.node) ? { is: 'function', node: found.node, env, tree } : NOTHING;
  env.slots.set(name, { value });
  return value;
}

/** What a member of a whole module, `import * as kiln`, is. */
export function moduleMember(run: Run, file: string, name: string): Value {
  const declared = run.project.declared(file, name);
  return declared && !run.replaced.has(declared.file) ? { is: 'project', declared } : NOTHING;
}

/** The top-level names of a module, each read when it is asked for. */
export function moduleEnv(run: Run, tree: ModuleTree): Env {
  const known = run.moduleEnvs.get(tree.path);
  if (known) return known;
  const env = new Env(undefined, run.file.root);
  run.moduleEnvs.set(tree.path, env);
  for (const [name, { specifier, name: imported }] of tree.facts.imports) {
    env.slots.set(name, { value: NOTHING, lazy: () => importedValue(run, tree.path, specifier, imported) });
  }
  for (const [name, node] of tree.facts.declarations) {
    if (node.type === 'VariableDeclarator' && node.init && node.id.type === 'Identifier') {
      const { init, id } = node;
      const binding = outsideBinding(run, tree, id, init);
      env.slots.set(name, {
        value: NOTHING,
        binding,
        lazy() {
          const value = elsewhere(run, tree, () => evaluate(run, env, init));
          keepOrigin(run, value, binding);
          binding.holds = holding(value);
          return value;
        },
      });
    }
  }
  const before = run.tree;
  run.tree = tree;
  hoist(run, env, tree.script.program.body as readonly Node[]);
  run.tree = before;
  return env;
}

// A value of another module, which all specs of a file share.
function outsideBinding(run: Run, tree: ModuleTree, { name, start, end }: Named, init: Node): Binding {
  const isFunctionLike = isFunction(unwrapped(init)) || unwrapped(init).type === 'ClassExpression';
  const binding: Binding = {
    name,
    kind: 'let',
    place: { start, end },
    block: run.file.root,
    file: tree.path,
    holds: isFunctionLike ? 'function' : 'unknown',
    frozen: isFrozen(init),
  };
  run.file.outside.push(binding);
  return binding;
}

interface Named extends Span {
  name: string;
}

// What a module does when it is loaded belongs to no block of the spec file.
function elsewhere(run: Run, tree: ModuleTree, read: () => Value): Value {
  const scratch = { ...run.file.root, children: [], steps: [], uses: new Map() };
  return run.inside(scratch, () => {
    run.tree = tree;
    run.site = { start: 0, end: 0 };
    return read();
  });
}

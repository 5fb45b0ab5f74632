import { askedWhole } from '../model/asked.js';
import { type FunctionValue, type CallOptions, canCall, type SpecReading } from './spec-reading.js';
import type { Node } from 'oxc-parser';
import { isFunction, unwrapped } from '../../syntax/tree.js';
import type { Span } from '../../finding.js';
import { namesIn } from '../../syntax/module-facts.js';
import type { ModuleTree } from '../../project/project.js';
import type { Binding } from '../model/blocks.js';
import type { StandIn } from '../model/steps.js';
import { Env } from '../model/env.js';
import { isWrittenByBlock } from './guards.js';
import { importedValue } from './names.js';
import { keepOrigin } from './origins.js';
import { declareParts, hoist, isFrozen } from './patterns.js';
import { runStatements } from './statements.js';
import { holding, oneOfRunners, UNKNOWN_VALUE, promised, type Value } from '../model/values.js';

/** Runs a function with known arguments, and gives what it returns. */
export function callFunction(
  run: SpecReading,
  fn: FunctionValue,
  args: readonly Value[],
  node: Span,
  { helper }: CallOptions = {},
): Value {
  if (!canCall(run, fn)) return UNKNOWN_VALUE;
  const before = { site: run.site, tree: run.tree, discarded: run.discarded };
  if (helper) run.site ??= { start: node.start, end: node.end };
  // A function of another module, which the spec was given and hands on.
  else if (fn.tree.path !== run.file.path) run.site ??= run.statement;
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

function body(run: SpecReading, fn: FunctionValue, args: readonly Value[]): Value {
  const env = run.newEnv(fn.env);
  env.turns = fn.node.params.flatMap(namesIn);
  fn.node.params.forEach((param, i) => {
    const value =
      args[i] ??
      (args.length < fn.node.params.length ? { is: 'constant' as const, value: undefined } : UNKNOWN_VALUE);
    declareParts(run, env, param, param.type === 'RestElement' ? UNKNOWN_VALUE : value);
  });
  const { body: content } = fn.node;
  if (!content) return UNKNOWN_VALUE;
  if (content.type !== 'BlockStatement')
    return run.under({ awaited: true }, () => run.evaluate(env, content));
  const returns: Value[] = [];
  runStatements(run, env, content.body, returns);
  const kinds = new Set(returns.map((each) => (each.is === 'thing' ? each.type : each.is)));
  const [first, ...others] = returns;
  if (kinds.size !== 1 || !first) return UNKNOWN_VALUE;
  // Of several markups, texts or objects, nobody knows which one is given.
  const isOne = others.every(
    (each) =>
      each === first || (each.is === 'constant' && first.is === 'constant' && each.value === first.value),
  );
  return (
    oneOfRunners(returns) ?? (isOne || !WRITTEN.has(first.is) ? returns.at(-1) : undefined) ?? UNKNOWN_VALUE
  );
}

const WRITTEN: ReadonlySet<Value['is']> = new Set(['constant', 'text', 'pattern', 'jsx', 'list', 'object']);

/** A value is handed to something that may keep it: functions in it may run later, stand-ins in it may be called. */
export function handOut(run: SpecReading, value: Value, name?: string, depth = 0): void {
  if (depth > 3) return;
  if (name !== undefined && MAY_LISTEN.has(value.is) && !doesNothing(value)) run.file.listens.add(name);
  switch (value.is) {
    case 'function':
      if (run.inSpecOrHook && run.firstHandedOut(value.node)) {
        const { site } = run;
        // What the block wrote itself stands where it is written, whoever is given it.
        if (isWrittenByBlock(run, value.node, value.tree)) run.site = undefined;
        run.under({ maybe: true, inCallback: true }, () =>
          run.callFunction(
            value,
            value.node.params.map(() => UNKNOWN_VALUE),
            value.node,
          ),
        );
        run.site = site;
      }
      break;
    case 'object':
      for (const [key, each] of value.entries) handOut(run, each, key, depth + 1);
      break;
    case 'list':
      for (const each of value.items) handOut(run, each, undefined, depth + 1);
      break;
    case 'thing':
      if (value.standIn) handedOver(value.standIn, name);
      break;
    case 'promise':
      handOut(run, value.of, name, depth + 1);
      break;
  }
}

// Of what a stand-in is, more is known than that something is called.
const MAY_LISTEN: ReadonlySet<Value['is']> = new Set([
  'function',
  'unknown',
  'project',
  'external',
  'read',
  'library',
] as const);

// `() => {}` and `() => 0` stand there because something has to.
function doesNothing(value: Value): boolean {
  const body = value.is === 'function' ? value.node.body : undefined;
  return body?.type === 'BlockStatement' ? body.body.length === 0 : body?.type === 'Literal';
}

function handedOver(standIn: StandIn, name: string | undefined): void {
  standIn.used = true;
  if (name === undefined) askedWhole(standIn);
  else standIn.handedAs.add(name);
}

/** The value that a declaration of a project module has, read where it stands. */
export function declaredValue(run: SpecReading, value: Value): Value {
  if (value.is !== 'project' || value.declared.name === '*') return value;
  const { file, name } = value.declared;
  // A tree that was let go is not read again for names that are known.
  const tree = run.moduleEnvs.has(file) ? undefined : run.project.tree(file);
  const env = tree ? moduleEnv(run, tree) : run.moduleEnvs.get(file);
  const found = env?.find(name);
  if (!found) return env ? defaultExport(run, file, env, name) : UNKNOWN_VALUE;
  if (found.lazy) {
    const { lazy } = found;
    found.lazy = undefined;
    found.value = lazy();
  }
  return found.value;
}

function defaultExport(run: SpecReading, file: string, env: Env, name: string): Value {
  const tree = run.project.tree(file);
  const found = tree?.facts.exports.get(name);
  if (!tree || !found || !('node' in found)) return UNKNOWN_VALUE;
  const value: Value = isFunction(found.node)
    ? { is: 'function', node: found.node, env, tree }
    : UNKNOWN_VALUE;
  env.slots.set(name, { value });
  return value;
}

/** The top-level names of a module, each read when it is asked for. */
function moduleEnv(run: SpecReading, tree: ModuleTree): Env {
  const known = run.moduleEnvs.get(tree.path);
  if (known) return known;
  const env = new Env(undefined, run.file.root);
  run.moduleEnvs.set(tree.path, env);
  for (const [name, { specifier, name: imported }] of tree.facts.imports) {
    env.slots.set(name, {
      value: UNKNOWN_VALUE,
      lazy: () => importedValue(run, tree.path, specifier, imported),
    });
  }
  for (const [name, node] of tree.facts.declarations) {
    if (node.type !== 'VariableDeclarator' || node.id.type !== 'Identifier') continue;
    const { init, id } = node;
    if (!init) env.slots.set(name, { value: UNKNOWN_VALUE, binding: outsideBinding(run, tree, id) });
    else {
      const binding = outsideBinding(run, tree, id, init);
      env.slots.set(name, {
        value: UNKNOWN_VALUE,
        binding,
        lazy() {
          const value = elsewhere(run, tree, () => run.evaluate(env, init));
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
function outsideBinding(
  run: SpecReading,
  tree: ModuleTree,
  { name, start, end }: Named,
  init?: Node,
): Binding {
  const value = init && unwrapped(init);
  const isFunctionLike = isFunction(value) || value?.type === 'ClassExpression';
  const binding: Binding = {
    name,
    kind: 'let',
    place: { start, end },
    block: run.file.root,
    file: tree.path,
    holds: isFunctionLike ? 'function' : 'unknown',
    frozen: init !== undefined && isFrozen(init),
  };
  run.file.outside.push(binding);
  return binding;
}

interface Named extends Span {
  name: string;
}

// What a module does when it is loaded belongs to no block of the spec file.
function elsewhere(run: SpecReading, tree: ModuleTree, read: () => Value): Value {
  const scratch = { ...run.file.root, children: [], steps: [], uses: new Map() };
  return run.inside(scratch, () => {
    run.tree = tree;
    run.site = { start: 0, end: 0 };
    return read();
  });
}

import type { Node } from 'oxc-parser';
import type { HelperNames } from '../../config/settings.js';
import type { ModuleTree, Project } from '../../project/project.js';
import type { Binding, Block, SpecFile } from '../model/blocks.js';
import { Env } from '../model/env.js';
import { importedValue } from './names.js';
import { findReplaced } from './replaced-modules.js';
import { evaluate } from './evaluate.js';
import { callFunction, declaredValue, handOut } from './functions.js';
import { statementsOf, type Statement } from '../model/body.js';
import { SpecReading } from './spec-reading.js';
import { keepFactoryAnswers } from './factory-answers.js';
import { noteReadsApart } from './read-apart.js';
import { runStatements } from './statements.js';
import { commentedOut } from './commented-out.js';
import { handedOnIn, saidIn, wordsNamedIn } from '../../syntax/tree.js';
import { UNKNOWN_VALUE, type Value } from '../model/values.js';

/** Reads one spec file: its groups, hooks and specs, and what the steps of each do. Runs nothing of it. */
export function readSpecFile(project: Project, tree: ModuleTree, helpers: HelperNames): SpecFile {
  const file = emptyFile(project, tree);
  const run = new SpecReading(project, file, tree, helpers, {
    evaluate,
    callFunction,
    handOut,
    declaredValue,
  });
  const statements = tree.script.program.body as readonly Node[];
  findReplaced(run, statements);
  file.replaced = run.replaced;
  file.overridden = run.overridden;
  file.globals = run.globals;
  const env = new Env(undefined, file.root);
  run.moduleEnvs.set(tree.path, env);
  declareImports(run, env, tree);
  runStatements(run, env, statements, []);
  keepFactoryAnswers(run);
  readWaiting(run, file.root);
  useByName(file, tree);
  noteReadsApart(file, tree.script.program);
  return file;
}

const JUDGING: ReadonlySet<string> = new Set(['expect']);

// A name may be handed on where nothing is read: in the factory of a module, in a function that nobody is seen to call.
function useByName({ standIns }: SpecFile, tree: ModuleTree): void {
  for (const standIn of standIns) {
    const [name] = standIn.path?.split('.') ?? [];
    if (name === undefined || standIn.used) continue;
    const within = (standIn.binding?.block ?? standIn.block).place;
    standIn.used = handedOnIn(tree.script.program, new Set([name]), JUDGING, { within }).has(name);
  }
}

const isNoImport = ({ type }: Node): boolean => type !== 'ImportDeclaration';

function emptyFile(project: Project, tree: ModuleTree): SpecFile {
  const { program, comments, source } = tree.script;
  const whole = { start: 0, end: source.text.length };
  let statements: readonly Statement[] | undefined;
  let said: ReadonlyMap<string, number> | undefined;
  const root: Block = {
    kind: 'file',
    title: { text: '', exact: true },
    place: whole,
    callee: whole,
    body: whole,
    names: new Set(),
    waitsForAll: false,
    empty: program.body.length === 0,
    get statements() {
      return (statements ??= statementsOf(program.body.filter(isNoImport), source.text));
    },
    lists: [],
    locals: [],
    maybe: false,
    repeated: false,
    waitsForCallback: false,
    parent: undefined,
    children: [],
    steps: [],
    uses: new Map(),
  };
  return {
    path: tree.path,
    root,
    blocks: [],
    bindings: [],
    outside: [],
    renders: [],
    reaches: [],
    standIns: [],
    imports: tree.facts.imports,
    imported: importedFiles(project, tree),
    replaced: new Set(),
    overridden: new Map(),
    replacements: [],
    unknownEffects: false,
    ownSpecsFirst: false,
    usesSuiteStyle: false,
    importsByPattern: false,
    isGuessed: false,
    globals: new Map(),
    documentUse: undefined,
    insides: [],
    takenEarly: [],
    words: () => wordsNamedIn(program),
    said: () => (said ??= saidIn(program)),
    listens: new Set(),
    commentedOut: () => commentedOut(tree, project.libraries),
    comments: comments.map(({ value, start, end }) => ({ text: value, start, end })),
  };
}

// The files that imports lead to, an index file and what it hands on both counted.
function importedFiles(project: Project, tree: ModuleTree): Set<string> {
  const found = new Set<string>();
  for (const each of tree.facts.imports.values()) {
    const file = project.resolve(tree.path, each.specifier);
    if (!file) continue;
    found.add(file);
    const declared = project.declared(file, each.name);
    if (declared) found.add(declared.file);
  }
  for (const specifier of tree.facts.loads) {
    const file = project.resolve(tree.path, specifier);
    if (file) found.add(file);
  }
  return found;
}

function declareImports(run: SpecReading, env: Env, tree: ModuleTree): void {
  for (const [name, { specifier, name: imported, typeOnly, start, end }] of tree.facts.imports) {
    if (typeOnly) continue;
    const binding: Binding = {
      name,
      kind: 'import',
      place: { start, end },
      block: run.file.root,
      holds: 'module',
      frozen: false,
    };
    run.file.bindings.push(binding);
    env.slots.set(name, {
      value: UNKNOWN_VALUE,
      binding,
      lazy: () => importedValue(run, tree.path, specifier, imported, binding),
    });
  }
}

// Hooks of a group are read before its specs, so that what they assign is known there; then the rest in order.
function readWaiting(run: SpecReading, group: Block): void {
  const bodies = new Map(run.waiting.map(({ block, fn }) => [block, fn]));
  const read = (block: Block): void => {
    const isBefore = (child: Block): boolean =>
      child.kind === 'hook' && (child.hook === 'before-all' || child.hook === 'before-each');
    for (const child of block.children.filter(isBefore)) readBody(run, child, bodies.get(child));
    for (const child of block.children) {
      if (child.kind === 'group') run.restoring(() => read(child));
      else if (child.kind === 'spec') run.restoring(() => readBody(run, child, bodies.get(child)));
    }
    run.afterSpecs(() => {
      for (const child of block.children)
        if (child.kind === 'hook' && !isBefore(child)) readBody(run, child, bodies.get(child));
    });
  };
  read(group);
}

/** How the callback is called that a runner hands to specs and hooks: `it('fires', (done) => …)`. */
export const DONE = 'done';
const CALLBACK: Value = { is: 'library', meaning: { kind: 'asserts' }, module: '', name: DONE };
const EXPECT: Value = { is: 'library', meaning: { kind: 'expect' }, module: '', name: 'expect' };

function readBody(run: SpecReading, block: Block, fn: Value | undefined): void {
  run.inside(block, () => {
    if (fn?.is !== 'function') {
      if (fn && fn.is !== 'constant')
        run.emit({ kind: 'unknown-call', name: 'a body that is not in sight', discarded: true }, block.place);
      return UNKNOWN_VALUE;
    }
    // A body that a helper of another module brings is told from the call that made the spec.
    if (fn.tree.path !== run.file.path) run.site = block.place;
    const first = fn.node.params[0];
    const context: Value =
      first?.type === 'Identifier'
        ? CALLBACK
        : { is: 'object', node: fn.node, entries: new Map([['expect', EXPECT]]), open: true };
    return run.callFunction(
      fn,
      block.repeated ? fn.node.params.map(() => UNKNOWN_VALUE) : [context],
      fn.node,
    );
  });
}

import { dataOfAll, dataOfEntries, type Data } from '../../language/operations.js';
import type { Node } from 'oxc-parser';
import type { HelperNames } from '../../config/settings.js';
import { isFunction, returnedFrom, unwrapped, walkTree, type FunctionNode } from '../../syntax/tree.js';
import type { Place, Span } from '../../finding.js';
import type { ModuleTree, Project } from '../../project/project.js';
import type { Binding, Block, SpecFile } from '../model/blocks.js';
import { Env, type Slot } from '../model/env.js';
import type { Circumstances, Step } from '../model/steps.js';
import { isNothing, type Value } from '../model/values.js';

/** A step without its standing. */
type BareStep = Step extends infer Each
  ? Each extends Step
    ? Omit<Each, keyof Circumstances>
    : never
  : never;

type Flags = Pick<
  Circumstances,
  | 'maybe'
  | 'dead'
  | 'inCatch'
  | 'swallowed'
  | 'caught'
  | 'inCallback'
  | 'inComponent'
  | 'inFinally'
  | 'awaited'
  | 'guard'
  | 'retried'
  | 'settled'
  | 'loop'
>;

const PLAIN: Flags = {
  maybe: false,
  dead: false,
  inCatch: false,
  swallowed: false,
  caught: false,
  inCallback: false,
  inComponent: false,
  inFinally: false,
  awaited: false,
  guard: undefined,
  retried: undefined,
  settled: undefined,
  loop: undefined,
};

/** The binding that an object was first held by, and the properties that lead from there to it. */
export interface Origin {
  binding: Binding;
  path: readonly string[];
}

const isEmpty = (value: Value): boolean => value.is === 'unknown' || isNothing(value);

/** A function put off until its group's body is done: a spec, or a hook. */
interface Waiting {
  block: Block;
  fn: Value | undefined;
}

/** What the parts of the reader ask of one another through the run: all of them meet in a spec file's own code. */
interface Interpreter {
  evaluate(run: SpecReading, env: Env, node: Node): Value;
  callFunction(
    run: SpecReading,
    fn: FunctionValue,
    args: readonly Value[],
    node: Span,
    options?: CallOptions,
  ): Value;
  handOut(run: SpecReading, value: Value, name?: string): void;
  declaredValue(run: SpecReading, value: Value): Value;
}

/** The state of reading one spec file: which block runs, in which module, under which conditions. */
export class SpecReading {
  block: Block;
  tree: ModuleTree;
  flags: Flags = PLAIN;
  /** The outermost call, in the spec file, of the helper that is being read. */
  site: Span | undefined;
  /** The statement of the spec file that is being read. */
  statement: Span | undefined;
  /** The expression of the statement that is being read, whose value nobody takes. */
  discarded: Node | undefined;
  /** The binding whose first value is being read. */
  madeFor: Binding | undefined;
  /** What is being read is the subject of an assertion. */
  judging = false;
  /** The function of a `new Promise` is being read. */
  inPromise = false;
  /** What is written is made from what was there: `count++`. */
  compound = false;
  /** How many loops at the level of groups are being read. */
  loops = 0;
  readonly active: FunctionNode[] = [];
  readonly waiting: Waiting[] = [];
  /** Functions that a zone runs, which waits for all that they start. */
  readonly deferred = new Set<FunctionNode>();
  readonly moduleEnvs = new Map<string, Env>();
  /** The components whose templates the spec file has replaced so far, by file and name. */
  readonly templates = new Map<string, 'blank' | 'replaced'>();
  /** The names whose value an object is, or stands in: an alias, a parameter or a part leads back to them. */
  readonly origins = new WeakMap<Value, Origin>();
  /** Modules that the file replaces by stand-ins: files of the project, and package names. */
  readonly replaced = new Set<string>();
  readonly overridden = new Map<string, ReadonlySet<string>>();
  /** What other modules declare and this file has written to so far: it is no longer what they made of it. */
  readonly writtenTo = new Set<string>();
  /** How it replaces them, by the same names, where that can be read. */
  readonly moduleReplacements = new Map<string, ModuleReplacement>();
  /** Runner functions used with no import, each at its first use. */
  readonly globals = new Map<string, Span>();
  /** What specs gave to names of outer scopes: a hook that runs after them finds it there. */
  readonly #leftBySpecs = new Map<Slot, Value>();
  #journal: { slot: Slot; value: Value }[] = [];
  readonly #interpreter: Interpreter;
  /** Lists and objects that a name holds. */
  readonly #named = new WeakSet<Value>();
  readonly #awaits = new Map<FunctionNode, readonly Node[]>();
  readonly #callbacks = new Map<Block, Set<FunctionNode>>();

  constructor(
    readonly project: Project,
    readonly file: SpecFile,
    tree: ModuleTree,
    readonly helpers: HelperNames,
    interpreter: Interpreter,
  ) {
    this.block = file.root;
    this.tree = tree;
    this.#interpreter = interpreter;
  }

  /** What an expression gives; what running it does is added to the running block as steps. */
  evaluate(env: Env, node: Node): Value {
    return this.#interpreter.evaluate(this, env, node);
  }

  /** Runs a function with known arguments, and gives what it returns. */
  callFunction(fn: FunctionValue, args: readonly Value[], node: Span, options?: CallOptions): Value {
    return this.#interpreter.callFunction(this, fn, args, node, options);
  }

  /** A value is handed to something that may keep it. */
  handOut(value: Value, name?: string): void {
    this.#interpreter.handOut(this, value, name);
  }

  /** The value that a declaration of a project module has. */
  declaredValue(value: Value): Value {
    return this.#interpreter.declaredValue(this, value);
  }

  /** Where a node stands, told from the spec file. */
  placeOf(node: Span): Span {
    return this.site ?? { start: node.start, end: node.end };
  }

  /** Where a node really stands, if that is not in the running block's own code. */
  viaOf(node: Span): Place | undefined {
    return this.site && { file: this.tree.path, start: node.start, end: node.end };
  }

  /** Adds a step to the running block. */
  emit(step: BareStep, node: Span): void {
    const whole = Object.assign(step, this.flags, {
      place: this.placeOf(node),
      via: this.viaOf(node),
    }) as unknown as Step;
    const { steps, uses } = this.block;
    steps.push(whole);
    if (whole.kind !== 'use') return;
    const known = uses.get(whole.use.binding);
    if (known) known.push(whole);
    else uses.set(whole.use.binding, [whole]);
  }

  /** Reads something under other conditions. */
  under<T>(flags: Partial<Flags>, read: () => T): T {
    const before = this.flags;
    this.flags = { ...before, ...flags };
    try {
      return read();
    } finally {
      this.flags = before;
    }
  }

  /** Reads something as part of another block, from a fresh start. */
  inside<T>(block: Block, read: () => T): T {
    const before = { block: this.block, flags: this.flags, site: this.site, tree: this.tree };
    this.block = block;
    this.flags = PLAIN;
    this.site = undefined;
    try {
      return read();
    } finally {
      Object.assign(this, before);
    }
  }

  /**
   * All of a value as data; undefined where any of it is not known. A list or object that has a name may have been
   * changed in place since it was written.
   */
  dataOf(value: Value): { value: Data } | undefined {
    if (value.is === 'constant') return value;
    if ((value.is !== 'list' && value.is !== 'object') || value.open || this.#named.has(value))
      return undefined;
    const dataOf = (part: Value): { value: Data } | undefined => this.dataOf(part);
    if (value.is === 'object') return dataOfEntries([...value.entries], dataOf);
    const items = dataOfAll(value.items, dataOf);
    return items && { value: items };
  }

  /** Notes that a name holds a value. */
  hold(value: Value): void {
    if (value.is === 'list' || value.is === 'object') this.#named.add(value);
  }

  /** Whether a function that was handed away is met for the first time in this block. */
  firstHandedOut(fn: FunctionNode): boolean {
    const seen = this.#callbacks.get(this.block) ?? new Set();
    this.#callbacks.set(this.block, seen);
    if (seen.has(fn)) return false;
    seen.add(fn);
    return true;
  }

  /** Whether steps belong to a spec or hook: there, uses of names from outside are kept. */
  get inSpecOrHook(): boolean {
    return this.block.kind === 'spec' || this.block.kind === 'hook';
  }

  /** Whether a declaration that is being read is one of the spec file's own groups or its top level. */
  get declaresBindings(): boolean {
    return !this.inSpecOrHook && this.site === undefined && this.tree.path === this.file.path;
  }

  /** What was awaited that is known to be no promise. */
  readonly awaitedAtOnce = new Set<Node>();

  /** Whether a function waits for anything: one that does not, or only for what it gives in the end and is there, is done when it returns. */
  awaits(fn: FunctionNode): boolean {
    const known = this.#awaits.get(fn) ?? waitsIn(fn);
    this.#awaits.set(fn, known);
    const [only, ...more] = known;
    const isLast =
      only !== undefined && more.length === 0 && returnedFrom(fn).some((each) => unwrapped(each) === only);
    return only !== undefined && !(isLast && this.awaitedAtOnce.has(only));
  }

  /** Changes what a name holds. */
  setSlot(slot: Slot, value: Value): void {
    this.#journal.push({ slot, value: slot.value });
    slot.value = value;
    this.hold(value);
    if (this.block.kind === 'spec' && slot.binding) this.#leftBySpecs.set(slot, value);
  }

  /** Reads something that runs after specs: names without a value of their own hold what a spec gave them. */
  afterSpecs(read: () => void): void {
    this.restoring(() => {
      for (const [slot, value] of this.#leftBySpecs) if (isEmpty(slot.value)) this.setSlot(slot, value);
      read();
    });
  }

  /** Reads something, and then gives all names what they held before: one spec's values are not the next one's. */
  restoring(read: () => void): void {
    const before = this.#journal;
    this.#journal = [];
    read();
    for (const { slot, value } of this.#journal.toReversed()) slot.value = value;
    this.#journal = before;
  }

  newEnv(parent: Env | undefined): Env {
    return new Env(parent, this.block, this.madeFor);
  }
}
export type CallNode = Extract<Node, { type: 'CallExpression' }>;

/** How the file replaces a module: by what a function makes, or `automatic`, where the runner does. */
interface ModuleReplacement {
  by: FunctionNode | 'automatic';
  call: CallNode;
  file: string | undefined;
}
export type FunctionValue = Extract<Value, { is: 'function' }>;

const DEEPEST_CALL = 8;

/** How a function is run: a `helper` is told from its call; others stand where they are written. */
export interface CallOptions {
  helper?: boolean;
}

/** Whether a function can be run: it is in sight, and not running already. */
export const canCall = (run: SpecReading, { node }: FunctionValue): boolean =>
  run.active.length < DEEPEST_CALL && !run.active.includes(node) && node.body !== null;

// What a function itself waits for, not the functions in it.
function waitsIn(fn: FunctionNode): readonly Node[] {
  const found: Node[] = [];
  walkTree(fn, (node) => {
    if (node.type === 'AwaitExpression' || (node.type === 'ForOfStatement' && node.await)) found.push(node);
    return node === fn || !isFunction(node);
  });
  return found;
}

import { standsIn } from '../specs/model/blocks.js';
import {
  answered,
  constant,
  FUNCTION,
  idInUse,
  importOfKey,
  isIdKey,
  isParamKey,
  isStateKey,
  ITEM,
  OBJECT,
  SOMETHING,
  UNKNOWN,
  type Condition,
  type Expr,
} from '../components/expr.js';
import { called, filledExpr, outcome, type Filled, type GivenProps } from '../components/expr-filling.js';
import { givesNoNames } from '../components/given.js';
import { Later } from '../components/later.js';
import { contextOfKey } from '../components/frameworks/react/contexts.js';
import type { Component, ComponentRef, ViewNode } from '../components/view.js';
import type { Project } from '../project/project.js';
import { isInstalled, scopeIn } from '../util/paths.js';
import { givenByContext } from './contexts.js';
import type { RenderInput } from './render-input.js';
import type { Contexts } from './rendered-tree.js';
import { spokenExpr } from './spoken.js';

/** What a component is given: a value, or markup with the context that it is written in. */
export type Given =
  | { expr: Expr; component?: { ref: ComponentRef; file: string } }
  | { view: readonly ViewNode[]; written: Context; byFunction?: boolean };

/** One use of a component: what its markup may ask for. */
export interface Context {
  file: string;
  component: Component | undefined;
  /** The same, read as far as the spec leaves its imports as they are. */
  read: Component | undefined;
  given: ReadonlyMap<string, Given>;
  /** Whether props that are not given may be given all the same. */
  open: boolean;
  depth: number;
  /** The components of the project among those. */
  own: number;
  within: readonly Component[];
  /** Where these are used, each in the markup around it: where their tags start. */
  uses: readonly number[];
  /** Where the project uses a component of a package, inside of that. */
  usedAt?: { file: string; start: number };
  /** What the contexts of React give where it stands. */
  contexts: Contexts;
  /** Which use of a component it is, counted. */
  use: number;
}

/** What a component is given, by prop; `open`: it may be given more. */
export type Taken = Pick<Context, 'given' | 'open'>;

type Imports = { specifier: string; name: string };
type Args = readonly Expr[] | undefined;

const MOST_HOOKS = 4;
const ALWAYS_OBJECT: ReadonlySet<ViewNode['kind']> = new Set(['element', 'component']);
// Props that say what tag or component something is made of.
const CHOOSES = /^(?:as|component|tag|asChild|slots|components|\w+Component)$/;

/** A value that is filled in once somebody asks: most of what components are given in kits decides nothing. */
export class FilledLater {
  readonly #filled: Later<Expr>;

  constructor(fill: () => Expr) {
    this.#filled = new Later(fill, UNKNOWN);
  }

  get expr(): Expr {
    return this.#filled.value;
  }
}

/** What is known where a component is used, and what was worked out of it. */
interface Known {
  given: GivenProps;
  filled: Filled;
  /** What calls give, by what they are called with, or by the key of the function. */
  calls: Map<readonly Expr[] | string, Expr | undefined>;
}

interface Lent {
  given: GivenProps | undefined;
}

const lend =
  (lent: Lent): GivenProps =>
  (name, args) =>
    lent.given?.(name, args);

/** Fills in what components read where they are used: props, states, contexts, and what functions of other modules give. */
export class Filling {
  /** Whether all would be the same with any other props. */
  closed = true;
  /** Whether a state was asked for. */
  stateful = false;
  readonly #project: Project;
  readonly #input: RenderInput;
  #lent: Lent[] = [];
  #known = new Map<Context, Known>();

  constructor(project: Project, input: RenderInput) {
    this.#project = project;
    this.#input = input;
  }

  /** Forgets what was worked out on the way. Functions that outlive it give nothing any more. */
  end(): void {
    for (const lent of this.#lent) lent.given = undefined;
    this.#lent = [];
    this.#known = new Map();
  }

  /** An expression of a component's markup with all filled in that is known where it is used. */
  fill(expr: Expr, context: Context): Expr {
    if (expr.is === 'constant' || (expr.is === 'something' && !expr.fn)) return expr;
    const { spoken } = this.#input;
    const isBare = expr.is === 'unknown' && !expr.answer;
    const { given, filled } = this.#knownIn(context);
    const made = isBare ? expr : filledExpr(expr, given, filled);
    return spoken ? spokenExpr(made, spoken) : made;
  }

  /** Whether a condition holds there; undefined where that is open. */
  outcome(test: Condition, context: Context): boolean | undefined {
    const { given, filled } = this.#knownIn(context);
    if (!this.#input.everything) return outcome(test, given, filled);
    // Under any condition, what a component of a package is not given, it is not given.
    if (!context.component || !isInstalled(context.component.file)) return undefined;
    const isGiven = (name: string): boolean => context.given.has(name) || importOfKey(name) !== undefined;
    return outcome(test, (name) => (isGiven(name) ? UNKNOWN : given(name)));
  }

  #knownIn(context: Context): Known {
    const known = this.#known.get(context) ?? {
      given: this.#lend(this.#readIn(context, [])),
      filled: new Map(),
      calls: new Map(),
    };
    this.#known.set(context, known);
    return known;
  }

  // Functions that are handed around keep it, and with it all that it reads from.
  #lend(given: GivenProps): GivenProps {
    const lent = { given };
    this.#lent.push(lent);
    return lend(lent);
  }

  #readIn(context: Context, defaults: readonly string[]): GivenProps {
    return (name, args) => {
      const from = importOfKey(name);
      if (from) return this.#keyed(name, from, args, context);
      const prop = context.given.get(name);
      const expr = prop && ('expr' in prop ? prop.expr : this.#markupAsValue(prop));
      // A default stands in for what is undefined, given or not.
      const isDefaulted = expr?.is === 'constant' && expr.value === undefined;
      if (expr && (!isDefaulted || context.component?.framework === 'angular')) return expr;
      if (name.startsWith(ITEM)) return expr ?? UNKNOWN;
      // What a tag is made of is hardly in a spread that nobody can read.
      if (!expr && context.open && !CHOOSES.test(name)) return UNKNOWN;
      if (!expr) this.closed = false;
      // A default may be made from other props, but not from itself.
      const known = defaults.includes(name) ? UNKNOWN : context.read?.props.get(name);
      return known
        ? filledExpr(known, this.#lend(this.#readIn(context, [...defaults, name])))
        : constant(undefined);
    };
  }

  // What goes by a key: a state, a context, an id, or what a function of another module gives.
  #keyed(key: string, from: Imports, args: Args, context: Context): Expr | undefined {
    if (isParamKey(key)) return undefined;
    if (isStateKey(key)) return this.#state(key, context);
    if (contextOfKey(key)) return this.#contextRead(key, context);
    if (isIdKey(key)) return answered(idInUse(key, context.use));
    // One call may be asked for many of its parts.
    const { calls } = this.#knownIn(context);
    const call = args ?? key;
    if (!calls.has(call)) {
      // What is made of itself is not known.
      calls.set(call, undefined);
      const given = args?.map((each) => this.valueOf(each, context) ?? constant(undefined));
      calls.set(call, this.#answer(context.file, from, given, context));
    }
    return calls.get(call);
  }

  #state(key: string, context: Context): Expr | undefined {
    const first = context.read?.firsts?.get(key);
    if (!first) return undefined;
    this.stateful = true;
    const { untouched } = this.#input;
    return untouched && (untouched.get(key) ?? filledExpr(first.value, this.#knownIn(context).given));
  }

  #contextRead(key: string, { contexts }: Context): Expr | undefined {
    // Another render may provide something else.
    this.closed = false;
    return givenByContext(key, contexts, this.#project);
  }

  // What a stand-in answers that takes the place of an import, or what a function of the project gives, as far as it can be read.
  #answer(file: string, from: Imports, args: Args, context: Context, depth = 0): Expr | undefined {
    const { answers, replaced } = this.#input;
    const given = answers?.size ? answers.get(this.#project.exportKey(file, from)) : undefined;
    const target = this.#project.resolve(file, from.specifier);
    const isReplaced = [from.specifier, target ?? ''].some((module) =>
      standsIn(this.#input, module, from.name),
    );
    if (given || depth > MOST_HOOKS || isReplaced) return given;
    const result = this.#project.functionOf(file, from);
    const scope = result && isInstalled(result.file) ? scopeIn(result.file) : undefined;
    // Packages of one scope hand on what is each other's.
    if (scope !== undefined && [...(replaced ?? [])].some((name) => name.startsWith(scope))) return undefined;
    if (!result) return undefined;
    const inside: GivenProps = this.#lend((name, args) => {
      if (contextOfKey(name)) return this.#contextRead(name, context);
      const next = isStateKey(name) || isParamKey(name) ? undefined : importOfKey(name);
      const given = args?.map((each) => filledExpr(each, inside));
      return next && this.#answer(result.file, next, given, context, depth + 1);
    });
    return called(filledExpr(result.fn, inside), args);
  }

  // What markup is to a component that is handed it: it is truthy, whatever it shows.
  #markupAsValue({ view, written, byFunction }: Extract<Given, { view: readonly ViewNode[] }>): Expr {
    if (byFunction) return FUNCTION;
    const [only, ...more] = view;
    if (more.length === 0 && only?.kind === 'text') return this.fill(only.text, written);
    if (more.length === 0 && only?.kind === 'slot' && !only.name.startsWith(ITEM) && written.component)
      return this.#knownIn(written).given(only.name) ?? UNKNOWN;
    return view.length > 0 && view.every(({ kind }) => ALWAYS_OBJECT.has(kind)) ? OBJECT : SOMETHING;
  }

  /** A value that others take, with no name in it that only stands for something here. */
  valueOf(value: Expr, context: Context): Expr | undefined {
    const filled = this.fill(value, context);
    if (filled.is === 'constant' && filled.value === undefined) return undefined;
    if (filled.is !== 'object' || !filled.rest) return filled;
    const { rest, entries } = filled;
    const handed = [...context.given].flatMap(([name, prop]) =>
      rest.includes(name) ? [] : [[name, 'expr' in prop ? prop.expr : this.#markupAsValue(prop)] as const],
    );
    return { is: 'object', entries: [...handed, ...entries], open: context.open };
  }

  /** What a spread gives there, key by key; undefined where it may give more, or markup. */
  spread(value: Expr, context: Context): readonly (readonly [string, Expr])[] | undefined {
    const filled = this.valueOf(value, context) ?? constant(undefined);
    if (givesNoNames(filled)) return [];
    if (filled.is !== 'object' || filled.open) return undefined;
    const isMarkup = (name: string): boolean => {
      const prop = context.given.get(name);
      return prop !== undefined && 'view' in prop;
    };
    return filled.entries.some(([name]) => isMarkup(name)) ? undefined : filled.entries;
  }
}

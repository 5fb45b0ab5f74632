import type { By, Emptiness, Missing, Teardown, TypeName } from '../../libraries/meaning.js';
import type { Place, Span } from '../../finding.js';
import type { Expr } from '../../components/expr.js';
import type { ComponentNode, Component, Prop, ViewNode } from '../../components/view.js';
import type { Binding, Block } from './blocks.js';
import type { LastingKind } from '../../libraries/platform.js';
import type { Pending, Value } from './values.js';

/** How a step stands in its block. */
export interface Circumstances {
  /** Where it stands in the spec file: for what a helper does, the call of the helper. */
  place: Span;
  /** Where it really stands, if that is in a helper. */
  via?: Place;
  /** It may not run: a branch, a loop that may be empty, a callback. */
  maybe: boolean;
  /** After a return or throw that always happens. */
  dead: boolean;
  /** In the `catch` of a try statement. */
  inCatch: boolean;
  /** In the `try` of a statement whose `catch` lets failures pass. */
  swallowed: boolean;
  /** In the `try` of a statement whose `catch` throws nothing itself: what fails here ends there. */
  caught: boolean;
  /** In a function that is handed to something that can't be read. */
  inCallback: boolean;
  /** In a component that the spec shows in its markup: what a component does is no part of the spec. */
  inComponent: boolean;
  /** In the `finally` of a try statement: runs whatever fails before. */
  inFinally: boolean;
  awaited: boolean;
  /** Why it may not run, where that is a condition that can be told. */
  guard: Guard | undefined;
  /** In a callback that is run again until it passes: the call that does so. */
  retried: Span | undefined;
  /** In a callback after which all renders have come to rest: the call that sees to it. */
  settled: Settling | undefined;
  /** In a loop over a list that is written out, the innermost one. */
  loop: Loop | undefined;
}

/** A call that runs a function and has what it renders come to rest: `act(…)`; `async`: the function is; `statements`: how many it has. */
export interface Settling extends Span {
  async: boolean;
  statements: number;
}

/** A loop over a list that is written out; its place is that of the list, or of the call that walks it. */
export interface Loop extends Span {
  turns: number;
}

/** A condition under which steps run. */
export interface Guard {
  /**
   * `return`: the code before leaves the function under a condition. `event`: a callback of something that may not
   * happen. `value`: a callback of something that may give no value. `catch`: something before it throws.
   */
  by: 'if' | 'and' | 'switch' | 'return' | 'loop' | 'event' | 'value' | 'catch';
  /** The condition, the list that is walked, the call that takes the callback, or what may throw. */
  place: Span;
  /** The other way asserts or throws as well. */
  covered: boolean;
  /** What it depends on is the row or turn, a version or the surroundings: each run knows which way it goes. */
  fixed: boolean;
  /** The names that it reads. */
  names: readonly string[];
  /** The query whose elements are walked. */
  list?: Reach;
  outer?: Guard;
}

/** One call that puts a component into a document. */
export interface Render {
  block: Block;
  place: Span;
  gives: TypeName;
  /** The name that the call goes by, and its module. */
  name: string;
  module: string;
  teardown: Teardown;
  shallow: boolean;
  /** Children that its options replace by stand-ins, as `kiln-lid`. */
  stubs: ReadonlySet<string>;
  /** What it shows, in terms of the spec file; undefined where that can't be read. */
  view: readonly ViewNode[] | undefined;
  /** The props of the component shown; those that a spec sets later on are added. */
  props: Map<string, Prop>;
  /** The component that its options wrap it in, or that they may do so in one that can't be read. */
  wrapper?: ComponentNode | 'unknown';
  /** React: what the spec itself writes around what its markup is about, from the outside in: `<MemoryRouter>`. */
  around?: readonly string[];
  /** The file whose names `view` uses. */
  file: string;
  /** The file of the call. */
  writtenIn: string;
  /** The spec has put another template in place of the component's own, or one with nothing in it. */
  template?: 'blank' | 'replaced';
  /** An option says that what it shows lags behind, where the library would show it at once. */
  lags?: true;
  /** Whether it is put into the page's own document by an option. */
  attached: boolean;
  /** `const { container } = render(…)`: the names that are taken, and where the last of them ends. */
  taken?: { names: ReadonlySet<string>; end: number };
  /** `const view = render(…)` */
  heldBy?: string;
}

/** One way in which a spec gets hold of elements. */
export interface Reach {
  block: Block;
  place: Span;
  via?: Place;
  by: By;
  /** The query as it is called: `getByRole`, `find`. */
  name: string;
  /** Asked as a user would ask: by what is seen or heard. */
  asUser: boolean;
  missing: Missing;
  waits: boolean;
  args: readonly Value[];
  /** What it is asked of: an element reached before, a render, or the page. */
  from: Reach | Render | 'page' | 'unknown';
  gives: TypeName;
  /** A pick by position from this reach, where there is one. */
  position?: number | 'last' | 'unknown';
  pickedFrom?: Reach;
  /** What a callback reads off each to pick one: a property, or an attribute; empty where it is neither, or more. */
  pickedBy?: string;
  /** The source text of what it is asked of: `screen`, `wrapper`; empty for a function called by itself. */
  receiver: string;
  /** The name that a spec keeps what it finds under. */
  named?: string;
  /** Where its name and its arguments are written, and its type arguments; none in helpers of other modules. */
  written?: { name: Span; args: Span; types: string };
}

/** A member of a rendered component that a spec reads, calls or sets. */
export interface Inside {
  block: Block;
  place: Span;
  via?: Place;
  name: string;
  how: 'read' | 'set';
  /** The kind of object that it is taken from. */
  on: TypeName;
  render?: Render;
  /** The component, of an instance that the spec makes by itself and never renders. */
  bare?: Component;
  /** Of a child that was reached, not of the component that was rendered. */
  ofChild: boolean;
  /** By a cast, or by its name in brackets: the way around what is private. */
  forced: boolean;
}

/** A spy, stub, mock or fake. */
export interface StandIn {
  block: Block;
  place: Span;
  /** Where it is really made, where that is in another file. */
  via?: Place;
  target: 'none' | 'member' | 'module' | 'global' | 'env' | 'assigned';
  /** What is replaced: the object, and the member's name. */
  object?: Value;
  member?: string;
  objectText?: string;
  binding?: Binding;
  /** The export of a module that it stands in for; `module`: as it is written, or the file that it leads to. */
  replaces?: { module: string; name: string };
  /** The name, or the properties of a name, that it is held by: `onFire`, `props.onFire`. */
  path?: string;
  /** Made by a kit that one call restores: a sandbox; its source text. */
  maker: string;
  /** What made it, as it is written, and the module that comes from; empty for a global of the runner. */
  made: { by: string; module: string };
  /** Has an answer of its own: the real thing is not called. */
  answers: boolean;
  onceOnly: boolean;
  /** Whether it was handed, or may have been, to anything but an assertion. */
  used: boolean;
  /** The names that it is handed on by: props, and properties of objects. */
  handedAs: Set<string>;
  /** Whether anything asks of it, or may ask, what became of it: an assertion, a read of its calls, code that can't be read. */
  asked: boolean;
  /** Whether anything asks, or may ask, more than whether and how often it was called. */
  askedWith: boolean;
}

export type Step = Circumstances &
  (
    | { kind: 'render'; render: Render }
    | { kind: 'reach'; reach: Reach }
    | {
        kind: 'act';
        by: 'user' | 'raw' | 'program';
        reach?: Reach;
        render?: Render;
        name: string;
        /** The kind of object that it is a method of: `fireEvent`, `wrapper`. */
        on?: TypeName;
        args: readonly Value[];
        /** The call, where it is a statement of the block's own function. */
        statement?: { callee: Span; args: readonly Span[] };
      }
    | { kind: 'assert'; assertion: Assertion }
    | { kind: 'use'; use: Use }
    | { kind: 'stand-in'; standIn: StandIn }
    | {
        kind: 'restore';
        scope: 'all' | 'own' | 'globals' | 'env' | 'modules';
        what: 'restore' | 'reset' | 'clear';
        maker: string;
        standIn?: StandIn;
        binding?: Binding;
      }
    /** `told`: it is told more than to be on: which functions it fakes, or that it goes on by itself. */
    | { kind: 'clock'; on: boolean; name: string; told: boolean }
    | { kind: 'unmount'; render?: Render; automatic: boolean }
    /** `gives`: what a call then gives; undefined where that can't be read, or is no plain value. */
    | {
        kind: 'answer';
        standIn?: StandIn;
        binding?: Binding;
        /** What is told to answer goes by that name alone, as it is no member of it. */
        isWhole: boolean;
        once: boolean;
        text: string;
        gives: Expr | undefined;
      }
    | { kind: 'lasting'; lasting: LastingEffect }
    | { kind: 'unwaited'; unwaited: Unwaited }
    | { kind: 'waited' }
    /** A time that passes before the spec goes on, in milliseconds. */
    | { kind: 'delay'; time: number }
    /** The call of a waiting function whose callback can't fail: it ends at the first look. `query`: all that the callback asks; `atOnce`: an await of that, which gives no promise; `found`: it has found what the callback asserts to be there. */
    | { kind: 'first-look'; name: string; query?: string; atOnce?: true; found?: true }
    /** What makes stand-ins is handed to a component itself: `onFire={jest.fn}`; `name`: as it is written. */
    | { kind: 'maker-given'; prop: string; name: string }
    /** `shows`: it is handed a component or markup, and may render it; `module`: the package that the function comes from. */
    | {
        kind: 'unknown-call';
        name: string;
        discarded: boolean;
        binding?: Binding;
        shows?: true;
        module?: string;
      }
    | { kind: 'throw' }
    /** Markup or values are printed; `statement` where the call is one of its own. */
    | { kind: 'print'; name: string; statement: boolean }
  );

export type StepOf<Kind extends Step['kind']> = Extract<Step, { kind: Kind }>;

/** Something done to what outlives a spec, or the end of it. */
export interface LastingEffect {
  what: LastingKind;
  /** `set`: a value is written, which is ended by another write to the same place. */
  does: 'open' | 'close' | 'set';
  /** What it is done to: `innerWidth`, `localStorage`, the type of an event; empty where all of a kind are meant. */
  key: string;
  /** As it is written. */
  text: string;
  /** It is set by a definition; whether that can be undone. */
  defined?: { configurable: boolean };
  /** The node that is put into the page, the object that is opened, or the one that is subscribed to. */
  handle?: Value;
  /** The name that the object goes by, for what is built outside of the spec. */
  binding?: Binding;
}

/** Work that runs on by itself: its promise is neither awaited nor returned. */
export interface Unwaited {
  by: Pending;
  /** The call as it is written, without its arguments. */
  name: string;
  /** Assertions stand in what nobody waits for. */
  asserts: boolean;
  /** Where `await` would stand, in the spec file; undefined in helpers. */
  at?: number;
  /** Where the innermost function around it starts in the spec file, if it is not `async`, for the same mend. */
  plainFunction?: number;
}

/** One assertion, of any style. */
export interface Assertion {
  style: 'expect' | 'call' | 'throwing-query';
  subject: Value;
  subjectText: string;
  /** The name that what is judged starts from, and the properties and methods on the way: `wrapper`, `text`. */
  subjectPath: readonly string[];
  /** Where what is judged ends, in the spec file. */
  subjectEnd?: number;
  not: boolean;
  /** The name of the matcher; undefined where an expectation is left without one. */
  matcher?: string;
  asks?: Emptiness;
  args: readonly Value[];
  argText: string;
  /** The matcher is named, but never called. */
  uncalled: boolean;
  /** It is of what a promise gives. */
  promised: boolean;
  /** What is judged is read through `?.`: it may be missing. */
  optional: boolean;
  /** What is judged is one of two, whichever is truthy first: `lid || shelf`. */
  either?: Either;
  place: Span;
}

/** The two sides of a choice, as they are written. */
export interface Either {
  left: string;
  right: string;
  /** They are comparisons of values. */
  compares: boolean;
}

/** One use of a name that is declared outside of the spec or hook. */
export interface Use {
  binding: Binding;
  how: 'read' | 'assign' | 'write' | 'call' | 'pass';
  /** The properties taken on the way: `kiln.lid.open()` has `lid`, `open`. */
  path: readonly string[];
  /** For calls of methods: the fields that the method writes and reads, where its body could be read. */
  effect?: Effect;
  /** For reads of a property: the fields that it takes in. */
  reads?: ReadonlySet<string> | 'all';
  value?: Value;
  /** The new value is made from the old one: `count++`. */
  compound?: boolean;
}

/** What running a function does to the object it belongs to. `all`: any field. */
export interface Effect {
  writes: ReadonlySet<string> | 'all';
  reads: ReadonlySet<string> | 'all';
  /** Fields that it only adds to: what was there stays, and is not looked at. */
  adds?: ReadonlySet<string> | 'all';
  /** Where it writes first. */
  at?: Place;
}

/** What a name of a library means. The tables of this folder are data of these types. */

/** How a query finds elements; the rung of the ladder follows from it. */
export type By =
  | 'role'
  | 'label'
  | 'text'
  | 'placeholder'
  | 'value'
  | 'alt'
  | 'title'
  | 'testId'
  | 'selector'
  | 'component'
  | 'harness'
  | 'hop'
  | 'id'
  | 'class'
  | 'tag';

/** What a query gives where nothing matches. `void`: an empty object that throws when used. */
export type Missing = 'throws' | 'null' | 'many' | 'many-throws' | 'void';

export type HookTime = 'before-all' | 'before-each' | 'after-each' | 'after-all';

/** Marks of a group or spec: run alone, not run, still to be written, expected to fail, run on a condition. */
export type Mark = 'only' | 'skip' | 'todo' | 'fails' | 'conditional';

/** Who takes a render down: the library after each spec, the same if after-each is a global, or nobody; or nothing is put into a document. */
export type Teardown = 'each-spec' | 'each-spec-if-global' | 'test-bed' | 'nobody' | 'not-needed';

/** Kinds of object that dialects hand out; their members stand in `types.ts`. */
export type TypeName =
  | 'screen'
  | 'queries'
  | 'user'
  | 'set-up-user'
  | 'fireEvent'
  | 'fireEvent-waits'
  | 'element'
  | 'elements'
  | 'page'
  | 'wrapper'
  | 'wrappers'
  | 'tree-wrapper'
  | 'tree-wrappers'
  | 'test-instance'
  | 'test-renderer'
  | 'fixture'
  | 'debug-element'
  | 'debug-elements'
  | 'expectation'
  | 'stand-in'
  | 'runner-tools'
  | 'fakes'
  | 'clock'
  | 'record'
  | 'instance'
  | 'test-bed'
  | 'http-controller'
  | 'locator'
  | 'located'
  | 'react-dom'
  | 'react-root'
  | 'subscription'
  | 'harness-environment'
  | 'harness-loader'
  | 'harness'
  | 'harnesses'
  | 'chain';

export type Meaning =
  | { kind: 'group' | 'spec'; mark?: Mark; table?: boolean }
  | { kind: 'hook'; when: HookTime }
  | { kind: 'object'; type: TypeName }
  /** A call that gives an object and does nothing else that matters. */
  /** `hook`: it runs the hook that its callback calls, and gives what that gives. */
  | { kind: 'gives'; type: TypeName; hook?: true }
  | {
      kind: 'render';
      takes: 'element' | 'component';
      gives: TypeName;
      teardown: Teardown;
      shallow?: boolean;
      waits?: boolean;
      /** It may put more into the page than it is handed. */
      adds?: boolean;
    }
  | { kind: 'rerender' }
  /** `asked`: as a user would ask, by what is seen or heard. */
  | {
      kind: 'query';
      by: By;
      missing: Missing;
      waits?: boolean;
      gives: TypeName;
      container?: boolean;
      asked?: 'as-user';
    }
  /** A property that is another element: a hop from parent to child or back. */
  | { kind: 'hop'; gives: TypeName }
  /** A pick from many: by position, which is the first argument where `index` is not set, or by what a callback says of each. */
  | { kind: 'pick'; gives: TypeName; index?: number | 'last'; by?: 'callback' }
  | { kind: 'act'; by: 'user' | 'raw' | 'program'; waits?: boolean }
  /** A call that runs its function argument; `retries`: again until it passes, or until what it gives is true; `defers`: it gives a function that will run it; `asserts`: it fails where what it waits for does not come; `settles`: what it does to renders has come to rest when it ends. */
  | {
      kind: 'runs';
      waits?: boolean;
      retries?: 'till-passes' | 'till-true';
      settles?: boolean;
      defers?: boolean;
      asserts?: boolean;
    }
  /** Waits for the next update of the page, or runs its function then; what it gives in that case depends on the version. */
  | { kind: 'ticks' }
  | { kind: 'reads' }
  | { kind: 'internals' }
  | { kind: 'expect' }
  /** A call that asserts by itself; `fails`: may be relied on to end the spec. */
  | { kind: 'asserts' }
  | { kind: 'matcher'; empty?: Emptiness; not?: boolean }
  /** A word of the chain; `promised`: the assertion waits for a promise. */
  | { kind: 'expectation-chain'; not?: boolean; promised?: boolean }
  | { kind: 'assertion-count' }
  | { kind: 'stand-in'; target: 'none' | 'member' | 'module' | 'global' | 'env' }
  /** Gives a stand-in an answer; `once`: for one call only; `gives`: its first argument, or what that gives when it is called. */
  | { kind: 'answer'; once?: boolean; gives?: 'value' | 'result' }
  /** `checks`: of a stand-in that tells by itself, at the end of a spec, whether it was called as it should have been. */
  | { kind: 'watches'; checks?: true }
  | {
      kind: 'restore';
      scope: 'all' | 'own' | 'globals' | 'env' | 'modules';
      what: 'restore' | 'reset' | 'clear';
    }
  | { kind: 'clock'; on: boolean }
  /** Prints markup or values. */
  | { kind: 'prints' }
  /** Takes renders down; `automatic`: registers that, for every spec. */
  | { kind: 'unmount'; automatic?: boolean }
  /** Replaces parts of a component, its first argument: its template by a text, or what an object sets. */
  | { kind: 'overrides' }
  /** Ends what the call that gave the object has opened. */
  | { kind: 'closes' }
  /** Gives what asks below its first argument: bound queries, where nothing else is said. */
  | { kind: 'within'; gives?: TypeName; waits?: boolean }
  /** Gives its first argument back: a locator that only wraps a selector. */
  | { kind: 'hands-on' }
  /** Known, and of no importance to any check. */
  | { kind: 'plain' };

/** What a matcher asks: that a thing is there, is not there, is called, equals… as far as checks need it. */
export type Emptiness =
  'there' | 'truthy' | 'falsy' | 'null' | 'defined' | 'undefined' | 'called' | 'equal' | 'snapshot' | 'count';

/** One library, or one part of it. `modules` are exact import names; `globals`: names that also stand without an import. */
export interface Dialect {
  name: string;
  modules: readonly string[];
  exports: Readonly<Record<string, Meaning>>;
  globals?: 'all' | readonly string[];
  /** Whether it reaches elements as a user would. */
  userCentred?: boolean;
  /** The versions in which what a component shows is brought up to date at once, not after a tick, unless an option of the render says otherwise. */
  showsAtOnce?: string;
  /** How code that uses it is written, as far as it has a word for that. */
  writes?: Writing;
}

/** How code of a library is written: what suggestions and mends may use of it, by the names of its exports. */
export interface Writing {
  /** The object that queries of the whole page are asked of. */
  page?: string;
  /** The function that asks below an element. */
  within?: string;
  queries?: QueryNames;
  /** What acts as a user does. `default`: it is the default export, and goes by `local`. */
  user?: { local: string; name: 'default' };
  /** The switches that take renders down after each spec, by the versions that have them. */
  unmounts?: readonly { name: string; versions: string }[];
}

/** The names of queries: one half says what is asked, the other what is given where nothing is found. */
export interface QueryNames {
  forms: readonly { prefix: string; missing: Missing; waits?: boolean }[];
  kinds: Readonly<Record<string, By>>;
}

import type { Emptiness, Meaning, TypeName } from './meaning.js';
import { userQueries } from './queries.js';

/** What the members of an object of a dialect mean, and what calling the object itself does. */
export interface TypeTable {
  members: Readonly<Record<string, Meaning>>;
  call?: Meaning;
  /** The meaning of members that the table does not name. */
  rest?: Meaning;
}

const reads: Meaning = { kind: 'reads' };
const plain: Meaning = { kind: 'plain' };
const internals: Meaning = { kind: 'internals' };
const raw: Meaning = { kind: 'act', by: 'raw' };
const rawWaits: Meaning = { kind: 'act', by: 'raw', waits: true };
const program: Meaning = { kind: 'act', by: 'program' };
const user: Meaning = { kind: 'act', by: 'user', waits: true };

const each = (names: string, meaning: Meaning): Record<string, Meaning> =>
  Object.fromEntries(names.split(' ').map((name) => [name, meaning]));

const hop = (gives: TypeName): Meaning => ({ kind: 'hop', gives });
const find = (
  by: 'selector' | 'component' | 'id' | 'class' | 'tag',
  missing: 'throws' | 'null' | 'many' | 'void',
  gives: TypeName,
): Meaning => ({
  kind: 'query',
  by,
  missing,
  gives,
});

const domFinds = (): Record<string, Meaning> => ({
  querySelector: find('selector', 'null', 'element'),
  querySelectorAll: find('selector', 'many', 'elements'),
  getElementById: find('id', 'null', 'element'),
  getElementsByClassName: find('class', 'many', 'elements'),
  getElementsByTagName: find('tag', 'many', 'elements'),
});

const picks = (one: TypeName, many: TypeName): Record<string, Meaning> => ({
  at: { kind: 'pick', gives: one },
  item: { kind: 'pick', gives: one },
  eq: { kind: 'pick', gives: one },
  get: { kind: 'pick', gives: one },
  first: { kind: 'pick', gives: one, index: 0 },
  last: { kind: 'pick', gives: one, index: 'last' },
  filter: { kind: 'gives', type: many },
  ...each('length', reads),
});

const element: TypeTable = {
  members: {
    ...domFinds(),
    ...each(
      'parentElement parentNode nextElementSibling previousElementSibling nextSibling previousSibling',
      hop('element'),
    ),
    ...each(
      'firstChild firstElementChild lastChild lastElementChild shadowRoot offsetParent',
      hop('element'),
    ),
    ...each('children childNodes', hop('elements')),
    closest: hop('element'),
    ...each('click dispatchEvent focus blur submit reset select scrollIntoView', raw),
    ...each('setAttribute removeAttribute append appendChild remove insertBefore replaceChildren', program),
  },
  rest: reads,
};

const calls: Record<string, Meaning> = {
  ...each(
    'mockReturnValue mockResolvedValue mockRejectedValue mockImplementation mockThrow callsFake returns resolves rejects throws returnsArg and.returnValue and.callFake and.throwError and.resolveTo and.rejectWith get set value',
    { kind: 'answer' },
  ),
  ...each(
    'mockReturnValueOnce mockResolvedValueOnce mockRejectedValueOnce mockImplementationOnce mockThrowOnce onFirstCall onCall onSecondCall',
    { kind: 'answer', once: true },
  ),
  ...each('callThrough callsThrough mockName withArgs', { kind: 'watches' }),
  mockRestore: { kind: 'restore', scope: 'own', what: 'restore' },
  restore: { kind: 'restore', scope: 'own', what: 'restore' },
  ...each('mockReset reset resetBehavior', { kind: 'restore', scope: 'own', what: 'reset' }),
  ...each('mockClear resetHistory', { kind: 'restore', scope: 'own', what: 'clear' }),
  // The records of calls, and what clears them: `spy.calls.reset()`, `load.mock.resetCalls()`.
  ...each('and mock calls', { kind: 'object', type: 'stand-in' }),
  resetCalls: { kind: 'restore', scope: 'own', what: 'clear' },
  stub: { kind: 'answer' },
  returnValue: { kind: 'answer' },
  returnValues: { kind: 'answer' },
  callFake: { kind: 'answer' },
  throwError: { kind: 'answer' },
  resolveTo: { kind: 'answer' },
  rejectWith: { kind: 'answer' },
};

const asks = (empty: Emptiness, names: string): Record<string, Meaning> =>
  each(names, { kind: 'matcher', empty });

/** Matchers of every assertion style: called ones, and the chained properties that assert when read. */
const matchers: Record<string, Meaning> = {
  ...each('not', { kind: 'expectation-chain', not: true }),
  ...each('resolves rejects eventually', { kind: 'expectation-chain', promised: true }),
  ...each(
    'to be been is that which and has have with at of same but does still also deep nested own ordered any all withContext soft',
    {
      kind: 'expectation-chain',
    },
  ),
  ...asks('there', 'toBeInTheDocument toBeInTheDOM toBePresent exist toExist toBeAttached'),
  ...asks('truthy', 'toBeTruthy toBeTrue ok true toBeTruthy'),
  ...asks('falsy', 'toBeFalsy toBeFalse false'),
  ...asks('null', 'toBeNull null'),
  ...asks('defined', 'toBeDefined'),
  ...asks('undefined', 'toBeUndefined undefined'),
  ...asks(
    'called',
    'toHaveBeenCalled toBeCalled toHaveBeenCalledTimes toBeCalledTimes toHaveBeenCalledWith toBeCalledWith toHaveBeenCalledOnce toHaveBeenLastCalledWith toHaveBeenNthCalledWith called calledOnce calledWith notCalled callCount',
  ),
  ...asks('equal', 'toBe toEqual toStrictEqual equal equals eql eq deepEqual'),
  ...asks('count', 'toHaveLength lengthOf length toHaveCount'),
  ...asks(
    'snapshot',
    'toMatchSnapshot toMatchInlineSnapshot toMatchFileSnapshot matchSnapshot toThrowErrorMatchingSnapshot toThrowErrorMatchingInlineSnapshot',
  ),
};

/** Chained properties that assert by being read, where the assertion library is the chained one. */
export const READ_MATCHERS: ReadonlySet<string> = new Set(
  'ok true false null undefined exist empty called calledOnce calledTwice NaN arguments extensible sealed frozen finite'.split(
    ' ',
  ),
);

const vueWrapper: Record<string, Meaning> = {
  find: { kind: 'query', by: 'selector', missing: 'void', gives: 'wrapper' },
  get: { kind: 'query', by: 'selector', missing: 'throws', gives: 'wrapper' },
  findAll: { kind: 'query', by: 'selector', missing: 'many', gives: 'wrappers' },
  findComponent: { kind: 'query', by: 'component', missing: 'void', gives: 'wrapper' },
  getComponent: { kind: 'query', by: 'component', missing: 'throws', gives: 'wrapper' },
  findAllComponents: { kind: 'query', by: 'component', missing: 'many', gives: 'wrappers' },
  element: { kind: 'object', type: 'element' },
  ...each('vm componentVM', { kind: 'object', type: 'instance' }),
  ...each('trigger setValue setChecked setSelected', { kind: 'act', by: 'raw', waits: true }),
  setProps: { kind: 'act', by: 'program', waits: true },
  ...each('setData setMethods', internals),
  emitted: { kind: 'gives', type: 'record' },
  emittedByOrder: { kind: 'gives', type: 'record' },
  ...each('unmount destroy', { kind: 'unmount' }),
};

const treeWrapper: Record<string, Meaning> = {
  find: { kind: 'query', by: 'selector', missing: 'many', gives: 'tree-wrappers' },
  findWhere: { kind: 'query', by: 'component', missing: 'many', gives: 'tree-wrappers' },
  ...each('children parent parents closest childAt', hop('tree-wrappers')),
  ...each('dive renderProp wrap', { kind: 'gives', type: 'tree-wrapper' }),
  ...each('simulate', raw),
  ...each('setProps setContext invoke update', program),
  instance: { kind: 'gives', type: 'instance' },
  ...each('state setState', internals),
  unmount: { kind: 'unmount' },
  ...picks('tree-wrappers', 'tree-wrappers'),
};

/** The members of every type that dialects hand out. */
export const TYPES: Readonly<Record<TypeName, TypeTable>> = {
  screen: {
    members: { ...userQueries(false), ...each('debug logTestingPlaygroundURL', plain) },
    rest: reads,
  },
  queries: {
    members: {
      ...userQueries(false),
      container: { kind: 'object', type: 'element' },
      baseElement: { kind: 'object', type: 'element' },
      rerender: { kind: 'rerender' },
      unmount: { kind: 'unmount' },
      asFragment: { kind: 'gives', type: 'element' },
      fixture: { kind: 'object', type: 'fixture' },
      emitted: { kind: 'gives', type: 'record' },
      debug: plain,
      user: { kind: 'object', type: 'user' },
      updateProps: { kind: 'rerender' },
      detectChanges: plain,
    },
    rest: reads,
  },
  user: { members: { setup: { kind: 'gives', type: 'user' } }, rest: user },
  fireEvent: { members: {}, rest: raw, call: raw },
  // Gives a promise: what is shown follows after a tick.
  'fireEvent-waits': { members: {}, rest: rawWaits, call: rawWaits },
  element,
  elements: { members: { ...picks('element', 'elements') }, rest: reads },
  page: {
    members: {
      ...domFinds(),
      ...each('body documentElement head activeElement', { kind: 'object', type: 'element' }),
      createElement: { kind: 'gives', type: 'element' },
      ...each('dispatchEvent', raw),
    },
    rest: reads,
  },
  wrapper: { members: vueWrapper, rest: reads },
  wrappers: {
    members: { ...picks('wrapper', 'wrappers'), wrappers: { kind: 'object', type: 'wrappers' } },
    rest: reads,
  },
  'tree-wrapper': { members: treeWrapper, rest: reads },
  'tree-wrappers': { members: treeWrapper, rest: reads },
  'test-renderer': {
    members: {
      create: { kind: 'render', takes: 'element', gives: 'test-renderer', teardown: 'nobody' },
      root: { kind: 'object', type: 'test-instance' },
      act: { kind: 'runs' },
      unmount: { kind: 'unmount' },
      update: { kind: 'rerender' },
      getInstance: { kind: 'gives', type: 'instance' },
    },
    rest: reads,
  },
  'test-instance': {
    members: {
      findByType: find('component', 'throws', 'test-instance'),
      findByProps: find('component', 'throws', 'test-instance'),
      findAllByType: find('component', 'many', 'chain'),
      findAllByProps: find('component', 'many', 'chain'),
      instance: { kind: 'object', type: 'instance' },
    },
    rest: reads,
  },
  fixture: {
    members: {
      nativeElement: { kind: 'object', type: 'element' },
      debugElement: { kind: 'object', type: 'debug-element' },
      componentInstance: { kind: 'object', type: 'instance' },
      componentRef: { kind: 'object', type: 'instance' },
      ...each('detectChanges autoDetectChanges', program),
      whenStable: { kind: 'runs', waits: true },
      destroy: { kind: 'unmount' },
    },
    rest: reads,
  },
  'debug-element': {
    members: {
      query: find('selector', 'null', 'debug-element'),
      queryAll: find('selector', 'many', 'debug-elements'),
      nativeElement: { kind: 'object', type: 'element' },
      componentInstance: { kind: 'object', type: 'instance' },
      ...each('parent', hop('debug-element')),
      ...each('children childNodes', hop('debug-elements')),
      triggerEventHandler: raw,
      injector: plain,
    },
    rest: reads,
  },
  'debug-elements': { members: picks('debug-element', 'debug-elements'), rest: reads },
  expectation: {
    members: matchers,
    rest: { kind: 'matcher' },
  },
  'stand-in': { members: calls, rest: reads },
  'runner-tools': {
    members: {
      fn: { kind: 'stand-in', target: 'none' },
      createSpy: { kind: 'stand-in', target: 'none' },
      createSpyObj: { kind: 'stand-in', target: 'none' },
      ...each('spyOn method getter setter replaceProperty', { kind: 'stand-in', target: 'member' }),
      ...each('mock doMock unstable_mockModule', { kind: 'stand-in', target: 'module' }),
      stubGlobal: { kind: 'stand-in', target: 'global' },
      stubEnv: { kind: 'stand-in', target: 'env' },
      restoreAllMocks: { kind: 'restore', scope: 'all', what: 'restore' },
      restoreAll: { kind: 'restore', scope: 'all', what: 'restore' },
      ...each('resetAllMocks', { kind: 'restore', scope: 'all', what: 'reset' }),
      ...each('clearAllMocks', { kind: 'restore', scope: 'all', what: 'clear' }),
      resetModules: { kind: 'restore', scope: 'modules', what: 'reset' },
      reset: { kind: 'restore', scope: 'all', what: 'restore' },
      unstubAllGlobals: { kind: 'restore', scope: 'globals', what: 'restore' },
      unstubAllEnvs: { kind: 'restore', scope: 'env', what: 'restore' },
      useFakeTimers: { kind: 'clock', on: true },
      useRealTimers: { kind: 'clock', on: false },
      clock: { kind: 'gives', type: 'clock' },
      timers: { kind: 'object', type: 'clock' },
      mocked: { kind: 'gives', type: 'stand-in' },
      hoisted: { kind: 'runs' },
      ...each('waitFor waitUntil', { kind: 'runs', waits: true, retries: true }),
    },
    rest: plain,
  },
  fakes: {
    members: {
      ...each('stub spy mock replace replaceGetter define', { kind: 'stand-in', target: 'member' }),
      ...each('fake createStubInstance', { kind: 'stand-in', target: 'none' }),
      useFakeTimers: { kind: 'clock', on: true },
      ...each('createSandbox sandbox', { kind: 'gives', type: 'fakes' }),
      restore: { kind: 'restore', scope: 'all', what: 'restore' },
      reset: { kind: 'restore', scope: 'all', what: 'reset' },
      resetHistory: { kind: 'restore', scope: 'all', what: 'clear' },
      assert: { kind: 'asserts' },
      match: plain,
      clock: { kind: 'object', type: 'clock' },
    },
    rest: plain,
  },
  clock: {
    members: {
      ...each('install enable', { kind: 'clock', on: true }),
      ...each('restore uninstall reset disable', { kind: 'clock', on: false }),
      withMock: { kind: 'runs' },
    },
    rest: plain,
  },
  record: { members: {}, rest: reads },
  instance: {
    members: {
      // A child that is made to emit acts like one.
      $emit: program,
      $el: { kind: 'object', type: 'element' },
      // The focus is a user's matter; methods of these names hand it on.
      ...each('$nextTick $forceUpdate $watch $destroy focus blur', plain),
      ...each(
        '$props $attrs $slots $options $router $route $store $root $parent $t $i18n setInput location injector changeDetectorRef',
        reads,
      ),
    },
    rest: internals,
  },
  'test-bed': {
    members: {
      createComponent: { kind: 'render', takes: 'component', gives: 'fixture', teardown: 'test-bed' },
      inject: { kind: 'gives', type: 'chain' },
      get: { kind: 'gives', type: 'chain' },
      runInInjectionContext: { kind: 'runs' },
    },
    rest: { kind: 'gives', type: 'test-bed' },
  },
  'http-controller': {
    members: { verify: { kind: 'asserts' }, expectOne: { kind: 'asserts' }, expectNone: { kind: 'asserts' } },
    rest: plain,
  },
  locator: { members: each('css directive', { kind: 'hands-on' }), rest: plain },
  subscription: { members: { unsubscribe: { kind: 'closes' } }, rest: reads, call: { kind: 'closes' } },
  chain: { members: {}, rest: reads },
};

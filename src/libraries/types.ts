import { MATCHER_MEANINGS } from './expectations.js';
import { HARNESSES } from './harnesses.js';
import type { Meaning, TypeName } from './meaning.js';
import { LOCATING, userQueries } from './queries.js';
import { STAND_INS } from './stand-ins.js';
import { each, plain, reads, type TypeTable } from './type-table.js';

const internals: Meaning = { kind: 'internals' };
const raw: Meaning = { kind: 'act', by: 'raw' };
const rawWaits: Meaning = { kind: 'act', by: 'raw', waits: true };
const program: Meaning = { kind: 'act', by: 'program' };
const user: Meaning = { kind: 'act', by: 'user', waits: true };

const hop = (gives: TypeName): Meaning => ({ kind: 'hop', gives });
/** A query of the markup. */
export const find = (
  by: 'selector' | 'component' | 'id' | 'class' | 'tag',
  missing: 'throws' | 'null' | 'many' | 'void',
  gives: TypeName,
): Extract<Meaning, { kind: 'query' }> => ({
  kind: 'query',
  by,
  missing,
  gives,
});

/** The queries that a node of the page has, and nothing else by these names. */
export const domFinds = (): Record<string, Meaning> => ({
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

/** React's own functions that put something into a node: those of the old root, of `react-dom` 15 to 18. */
export const REACT_DOM: Readonly<Record<string, Meaning>> = {
  render: { kind: 'render', takes: 'element', gives: 'chain', teardown: 'nobody' },
  hydrate: { kind: 'render', takes: 'element', gives: 'chain', teardown: 'nobody' },
  unmountComponentAtNode: { kind: 'unmount' },
  flushSync: { kind: 'runs' },
  unstable_batchedUpdates: { kind: 'runs' },
  ...each('createPortal', plain),
  findDOMNode: { kind: 'gives', type: 'element' },
};

/** The members of every type that dialects hand out. */
export const TYPES: Readonly<Record<TypeName, TypeTable>> = {
  screen: {
    members: { ...userQueries(false), ...each('debug logTestingPlaygroundURL', { kind: 'prints' }) },
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
      debug: { kind: 'prints' },
      user: { kind: 'object', type: 'set-up-user' },
      updateProps: { kind: 'rerender' },
      detectChanges: plain,
    },
    rest: reads,
  },
  user: { members: { setup: { kind: 'gives', type: 'set-up-user' } }, rest: user },
  // Came with the version whose actions give promises.
  'set-up-user': { members: { setup: { kind: 'gives', type: 'set-up-user' } }, rest: user },
  fireEvent: { members: {}, rest: raw, call: raw },
  // Gives a promise: what is shown follows after a tick.
  'fireEvent-waits': { members: {}, rest: rawWaits, call: rawWaits },
  element,
  elements: {
    members: { ...picks('element', 'elements'), find: { kind: 'pick', gives: 'element', by: 'callback' } },
    rest: reads,
  },
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
      injector: { kind: 'object', type: 'test-bed' },
    },
    rest: reads,
  },
  'debug-elements': { members: picks('debug-element', 'debug-elements'), rest: reads },
  expectation: {
    members: MATCHER_MEANINGS,
    rest: { kind: 'matcher' },
  },
  ...STAND_INS,
  ...HARNESSES,
  record: { members: {}, rest: reads },
  instance: {
    members: {
      // A child that is made to emit acts like one.
      $emit: program,
      $el: { kind: 'object', type: 'element' },
      // The focus is a user's matter; methods of these names hand it on.
      $nextTick: { kind: 'ticks' },
      ...each('$forceUpdate $watch $destroy focus blur', plain),
      ...each(
        'props $props $attrs $slots $options $router $route $store $root $parent $t $i18n setInput location injector changeDetectorRef',
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
      ...each('overrideTemplate overrideTemplateUsingTestingModule overrideComponent', { kind: 'overrides' }),
    },
    rest: { kind: 'gives', type: 'test-bed' },
  },
  'http-controller': {
    members: { verify: { kind: 'asserts' }, expectOne: { kind: 'asserts' }, expectNone: { kind: 'asserts' } },
    rest: plain,
  },
  // The page of a real browser, and what is found there: read from @vitest/browser 1 to 5, context.d.ts.
  located: {
    members: {
      ...LOCATING,
      ...each('click dblClick tripleClick wheel clear hover unhover fill dropTo selectOptions upload', user),
      ...each('nth', { kind: 'pick', gives: 'located' }),
      first: { kind: 'pick', gives: 'located', index: 0 },
      last: { kind: 'pick', gives: 'located', index: 'last' },
      ...each('element query', { kind: 'object', type: 'element' }),
      ...each('elements all', { kind: 'object', type: 'elements' }),
      container: { kind: 'object', type: 'element' },
      baseElement: { kind: 'object', type: 'element' },
      rerender: { kind: 'rerender' },
      unmount: { kind: 'unmount' },
      emitted: { kind: 'gives', type: 'record' },
    },
    rest: reads,
  },
  'react-dom': { members: REACT_DOM, rest: reads },
  'react-root': {
    members: {
      render: { kind: 'render', takes: 'element', gives: 'chain', teardown: 'nobody' },
      unmount: { kind: 'unmount' },
    },
    rest: reads,
  },
  locator: { members: each('css directive', { kind: 'hands-on' }), rest: plain },
  subscription: { members: { unsubscribe: { kind: 'closes' } }, rest: reads, call: { kind: 'closes' } },
  chain: { members: {}, rest: reads },
};

import type { Dialect, Meaning } from './meaning.js';
import { find, REACT_DOM } from './types.js';

const mount = (
  gives: 'wrapper' | 'tree-wrapper',
  takes: 'element' | 'component',
  shallow?: boolean,
): Meaning => ({
  kind: 'render',
  takes,
  gives,
  teardown: 'nobody',
  shallow,
});

// What is searched comes first.
const findRendered = (...query: Parameters<typeof find>): Meaning => ({
  ...find(...query),
  container: true,
});

// Nothing of it is in any document.
const markupAsText: Meaning = { kind: 'render', takes: 'element', gives: 'chain', teardown: 'not-needed' };

/** Test libraries that hand out a wrapper object around what they render. */
export const wrappers: readonly Dialect[] = [
  {
    name: 'Vue, wrapper style',
    modules: ['@vue/test-utils'],
    // `sync`, an option until then, is true where nothing is said.
    showsAtOnce: '<1.0.0-beta.30',
    writes: {
      unmounts: [
        { name: 'enableAutoDestroy', versions: '>=1.0.0-beta.31 <2.0.0-0' },
        { name: 'enableAutoUnmount', versions: '>=2.0.0-rc.17' },
      ],
    },
    exports: {
      mount: mount('wrapper', 'component'),
      shallowMount: mount('wrapper', 'component', true),
      createWrapper: { kind: 'gives', type: 'wrapper' },
      flushPromises: { kind: 'plain' },
      createLocalVue: { kind: 'plain' },
      config: { kind: 'plain' },
      enableAutoUnmount: { kind: 'unmount', automatic: true },
      enableAutoDestroy: { kind: 'unmount', automatic: true },
      RouterLinkStub: { kind: 'plain' },
    },
  },
  {
    // @nuxt/test-utils 3: what was mounted before goes by the next mount.
    name: 'Vue, in a framework',
    modules: ['@nuxt/test-utils/runtime'],
    exports: {
      mountSuspended: { kind: 'render', takes: 'component', gives: 'wrapper', teardown: 'each-spec' },
      renderSuspended: { kind: 'render', takes: 'component', gives: 'queries', teardown: 'each-spec' },
      mockNuxtImport: { kind: 'plain' },
      mockComponent: { kind: 'plain' },
      registerEndpoint: { kind: 'plain' },
    },
  },
  {
    name: 'React, wrapper style',
    modules: ['enzyme'],
    exports: {
      mount: mount('tree-wrapper', 'element'),
      shallow: mount('tree-wrapper', 'element', true),
      render: { kind: 'gives', type: 'tree-wrapper' },
      configure: { kind: 'plain' },
    },
  },
  {
    name: 'React, tree of instances',
    modules: ['react-test-renderer'],
    exports: {
      create: { kind: 'render', takes: 'element', gives: 'test-renderer', teardown: 'nobody' },
      default: { kind: 'object', type: 'test-renderer' },
      act: { kind: 'runs' },
    },
  },
  {
    name: 'React, act',
    modules: ['react'],
    exports: { act: { kind: 'runs', settles: true } },
  },
  {
    name: 'React, DOM',
    modules: ['react-dom'],
    exports: { ...REACT_DOM, default: { kind: 'object', type: 'react-dom' } },
  },
  {
    name: 'React, roots',
    modules: ['react-dom/client'],
    exports: {
      createRoot: { kind: 'gives', type: 'react-root' },
      hydrateRoot: { kind: 'gives', type: 'react-root' },
    },
  },
  {
    name: 'React, markup as text',
    modules: ['react-dom/server'],
    exports: {
      renderToString: markupAsText,
      renderToStaticMarkup: markupAsText,
      default: { kind: 'object', type: 'react-dom' },
    },
  },
  {
    name: 'React, DOM test utilities',
    modules: ['react-dom/test-utils'],
    exports: {
      act: { kind: 'runs', settles: true },
      Simulate: { kind: 'object', type: 'fireEvent' },
      renderIntoDocument: { kind: 'render', takes: 'element', gives: 'instance', teardown: 'nobody' },
      // react-dom 15 and 16, test-utils: `find…` throws unless there is one, `scry…` gives a list.
      findRenderedDOMComponentWithClass: findRendered('class', 'throws', 'element'),
      findRenderedDOMComponentWithTag: findRendered('tag', 'throws', 'element'),
      findRenderedComponentWithType: findRendered('component', 'throws', 'instance'),
      scryRenderedDOMComponentsWithClass: findRendered('class', 'many', 'elements'),
      scryRenderedDOMComponentsWithTag: findRendered('tag', 'many', 'elements'),
      scryRenderedComponentsWithType: findRendered('component', 'many', 'chain'),
      default: { kind: 'object', type: 'react-dom' },
    },
  },
  {
    name: 'Vue, ticks',
    modules: ['vue', 'flush-promises'],
    exports: {
      nextTick: { kind: 'ticks' },
      default: { kind: 'plain' },
      // Options of a component stay what they are.
      defineComponent: { kind: 'hands-on' },
      markRaw: { kind: 'hands-on' },
    },
  },
];

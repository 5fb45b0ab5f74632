import type { Dialect, Meaning, Writing } from './meaning.js';
import { USER_QUERIES, userQueries } from './queries.js';
import { each } from './type-table.js';

const shared: Record<string, Meaning> = {
  ...userQueries(true),
  screen: { kind: 'object', type: 'screen' },
  within: { kind: 'within' },
  getQueriesForElement: { kind: 'within' },
  waitFor: { kind: 'runs', waits: true, retries: 'till-passes' },
  waitForElementToBeRemoved: { kind: 'runs', waits: true, retries: 'till-true', asserts: true },
  fireEvent: { kind: 'object', type: 'fireEvent' },
  createEvent: { kind: 'plain' },
  configure: { kind: 'plain' },
  prettyDOM: { kind: 'plain' },
  ...each('logRoles logDOM', { kind: 'prints' }),
  buildQueries: { kind: 'plain' },
};

const render = (takes: 'element' | 'component'): Extract<Meaning, { kind: 'render' }> => ({
  kind: 'render',
  takes,
  gives: 'queries',
  teardown: 'each-spec-if-global',
});

const writes: Writing = { page: 'screen', within: 'within', queries: USER_QUERIES };

/** Test libraries that reach elements by role, label and text. */
export const userCentred: readonly Dialect[] = [
  { name: 'document queries', userCentred: true, modules: ['@testing-library/dom'], exports: shared, writes },
  {
    name: 'React, user-centred',
    userCentred: true,
    writes,
    modules: [
      '@testing-library/react',
      '@testing-library/react/pure',
      '@testing-library/preact',
      '@testing-library/react-native',
    ],
    exports: {
      ...shared,
      render: render('element'),
      renderHook: { kind: 'gives', type: 'instance', hook: true },
      act: { kind: 'runs', settles: true },
      cleanup: { kind: 'unmount' },
    },
  },
  {
    name: 'Vue, user-centred',
    userCentred: true,
    writes,
    modules: ['@testing-library/vue'],
    exports: {
      ...shared,
      fireEvent: { kind: 'object', type: 'fireEvent-waits' },
      render: render('component'),
      cleanup: { kind: 'unmount' },
    },
  },
  {
    name: 'Angular, user-centred',
    userCentred: true,
    writes,
    modules: ['@testing-library/angular', '@testing-library/angular/zoneless'],
    exports: { ...shared, render: { ...render('component'), waits: true } },
  },
  {
    name: 'React, in a real browser',
    userCentred: true,
    modules: ['vitest-browser-react'],
    exports: {
      render: { kind: 'render', takes: 'element', gives: 'located', teardown: 'each-spec' },
      renderHook: { kind: 'gives', type: 'instance', hook: true },
      cleanup: { kind: 'unmount' },
    },
  },
  {
    name: 'Vue, in a real browser',
    userCentred: true,
    modules: ['vitest-browser-vue'],
    exports: {
      render: { kind: 'render', takes: 'component', gives: 'located', teardown: 'each-spec' },
      cleanup: { kind: 'unmount' },
    },
  },
  {
    name: 'the page of a real browser',
    userCentred: true,
    modules: ['@vitest/browser/context', 'vitest/browser'],
    exports: {
      page: { kind: 'object', type: 'located' },
      userEvent: { kind: 'object', type: 'set-up-user' },
      ...each('server commands cdp', { kind: 'plain' }),
    },
  },
  {
    name: 'user actions',
    writes: { user: { local: 'userEvent', name: 'default' } },
    modules: ['@testing-library/user-event'],
    exports: { default: { kind: 'object', type: 'user' }, userEvent: { kind: 'object', type: 'user' } },
  },
  {
    name: 'document matchers',
    modules: ['@testing-library/jest-dom', '@testing-library/jest-dom/vitest'],
    exports: {},
  },
];

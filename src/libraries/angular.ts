import type { Dialect } from './meaning.js';

/** Angular's own component-test API. */
export const angularLibraries: readonly Dialect[] = [
  {
    name: 'Angular test bed',
    modules: ['@angular/core/testing'],
    exports: {
      TestBed: { kind: 'object', type: 'test-bed' },
      getTestBed: { kind: 'gives', type: 'test-bed' },
      waitForAsync: { kind: 'runs', defers: true },
      async: { kind: 'runs', defers: true },
      fakeAsync: { kind: 'runs', defers: true },
      inject: { kind: 'runs', defers: true },
      tick: { kind: 'plain' },
      flush: { kind: 'plain' },
      flushMicrotasks: { kind: 'plain' },
      discardPeriodicTasks: { kind: 'plain' },
    },
  },
  {
    name: 'Angular locators',
    modules: ['@angular/platform-browser'],
    exports: { By: { kind: 'object', type: 'locator' } },
  },
  {
    name: 'Angular requests',
    modules: ['@angular/common/http/testing'],
    exports: { HttpTestingController: { kind: 'object', type: 'http-controller' } },
  },
];

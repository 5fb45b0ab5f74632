import type { Dialect } from './meaning.js';

/** Assertion libraries and libraries of fakes that stand beside a runner. */
export const assertions: readonly Dialect[] = [
  {
    name: 'chai',
    modules: ['chai', '@open-wc/testing', '@esm-bundle/chai'],
    globals: ['expect', 'assert', 'should'],
    exports: { expect: { kind: 'expect' }, assert: { kind: 'asserts' }, should: { kind: 'plain' } },
  },
  {
    name: 'expect',
    modules: ['expect', '@storybook/test', 'storybook/test'],
    exports: { expect: { kind: 'expect' }, default: { kind: 'expect' } },
  },
  {
    name: 'node:assert',
    modules: ['node:assert', 'assert', 'node:assert/strict', 'assert/strict', 'power-assert'],
    exports: { default: { kind: 'asserts' }, '*': { kind: 'asserts' } },
  },
  {
    name: 'sinon',
    modules: ['sinon'],
    globals: ['sinon'],
    exports: {
      default: { kind: 'object', type: 'fakes' },
      sinon: { kind: 'object', type: 'fakes' },
      stub: { kind: 'stand-in', target: 'member' },
      spy: { kind: 'stand-in', target: 'member' },
      fake: { kind: 'stand-in', target: 'none' },
      mock: { kind: 'stand-in', target: 'member' },
      useFakeTimers: { kind: 'clock', on: true },
      createSandbox: { kind: 'gives', type: 'fakes' },
      restore: { kind: 'restore', scope: 'all', what: 'restore' },
      assert: { kind: 'asserts' },
    },
  },
];

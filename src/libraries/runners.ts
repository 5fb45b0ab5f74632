import type { Dialect, HookTime, Mark, Meaning } from './meaning.js';

const hook = (when: HookTime): Meaning => ({ kind: 'hook', when });
const group = (mark?: Mark): Meaning => ({ kind: 'group', mark });
const spec = (mark?: Mark): Meaning => ({ kind: 'spec', mark });

const describeStyle: Record<string, Meaning> = {
  describe: group(),
  it: spec(),
  test: spec(),
  beforeAll: hook('before-all'),
  beforeEach: hook('before-each'),
  afterEach: hook('after-each'),
  afterAll: hook('after-all'),
};

const markedByLetter: Record<string, Meaning> = {
  fdescribe: group('only'),
  fit: spec('only'),
  ftest: spec('only'),
  xdescribe: group('skip'),
  xit: spec('skip'),
  xtest: spec('skip'),
};

const mochaStyle: Record<string, Meaning> = {
  context: group(),
  specify: spec(),
  before: hook('before-all'),
  after: hook('after-all'),
  xcontext: group('skip'),
  xspecify: spec('skip'),
  suite: group(),
  setup: hook('before-each'),
  teardown: hook('after-each'),
  suiteSetup: hook('before-all'),
  suiteTeardown: hook('after-all'),
};

const matcherStyle: Record<string, Meaning> = {
  expect: { kind: 'expect' },
  expectTypeOf: { kind: 'asserts' },
  assertType: { kind: 'asserts' },
};

/** The runners' own functions, by the module they come from; those marked `globals` also stand without an import. */
export const runnerLibraries: readonly Dialect[] = [
  {
    name: 'jest',
    modules: ['@jest/globals', 'jest'],
    globals: 'all',
    exports: {
      ...describeStyle,
      ...markedByLetter,
      ...matcherStyle,
      jest: { kind: 'object', type: 'runner-tools' },
    },
  },
  {
    name: 'vitest',
    modules: ['vitest', 'vite-plus/test'],
    globals: 'all',
    exports: {
      ...describeStyle,
      ...matcherStyle,
      suite: group(),
      vi: { kind: 'object', type: 'runner-tools' },
      vitest: { kind: 'object', type: 'runner-tools' },
      assert: { kind: 'asserts' },
      onTestFinished: { kind: 'runs' },
      bench: { kind: 'plain' },
    },
  },
  {
    name: 'mocha',
    modules: ['mocha'],
    globals: 'all',
    exports: { ...describeStyle, ...mochaStyle },
  },
  {
    name: 'jasmine',
    modules: ['jasmine', 'jasmine-core'],
    globals: 'all',
    exports: {
      ...describeStyle,
      ...markedByLetter,
      expect: { kind: 'expect' },
      expectAsync: { kind: 'expect' },
      fail: { kind: 'asserts' },
      pending: { kind: 'asserts' },
      spyOn: { kind: 'stand-in', target: 'member' },
      spyOnProperty: { kind: 'stand-in', target: 'member' },
      jasmine: { kind: 'object', type: 'runner-tools' },
    },
  },
  {
    name: 'node:test',
    modules: ['node:test', 'test'],
    exports: {
      ...describeStyle,
      before: hook('before-all'),
      after: hook('after-all'),
      suite: group(),
      default: spec(),
      mock: { kind: 'object', type: 'runner-tools' },
    },
  },
  {
    name: 'bun',
    modules: ['bun:test'],
    exports: {
      ...describeStyle,
      ...matcherStyle,
      mock: { kind: 'stand-in', target: 'none' },
      spyOn: { kind: 'stand-in', target: 'member' },
      jest: { kind: 'object', type: 'runner-tools' },
      vi: { kind: 'object', type: 'runner-tools' },
    },
  },
];

import type { Meaning, TypeName } from './meaning.js';
import { each, plain, reads, type TypeTable } from './type-table.js';

const calls: Record<string, Meaning> = {
  ...each('mockReturnValue returns and.returnValue returnValue', { kind: 'answer', gives: 'value' }),
  ...each('mockImplementation callsFake and.callFake callFake', { kind: 'answer', gives: 'result' }),
  ...each(
    'mockResolvedValue mockRejectedValue mockThrow resolves rejects throws returnsArg and.throwError and.resolveTo and.rejectWith get set value',
    { kind: 'answer' },
  ),
  mockReturnValueOnce: { kind: 'answer', once: true, gives: 'value' },
  mockImplementationOnce: { kind: 'answer', once: true, gives: 'result' },
  ...each('mockResolvedValueOnce mockRejectedValueOnce mockThrowOnce onFirstCall onCall onSecondCall', {
    kind: 'answer',
    once: true,
  }),
  ...each('callThrough callsThrough mockName', { kind: 'watches' }),
  // Of what is expected of an object's methods: `mock(kiln).expects('fire').never()`.
  expects: { kind: 'watches', checks: true },
  ...each('never once twice thrice exactly atLeast atMost withArgs withExactArgs', { kind: 'watches' }),
  mockRestore: { kind: 'restore', scope: 'own', what: 'restore' },
  restore: { kind: 'restore', scope: 'own', what: 'restore' },
  ...each('mockReset reset resetBehavior', { kind: 'restore', scope: 'own', what: 'reset' }),
  ...each('mockClear resetHistory', { kind: 'restore', scope: 'own', what: 'clear' }),
  // The records of calls, and what clears them: `spy.calls.reset()`, `load.mock.resetCalls()`.
  ...each('and mock calls', { kind: 'object', type: 'stand-in' }),
  resetCalls: { kind: 'restore', scope: 'own', what: 'clear' },
  stub: { kind: 'answer' },
  returnValues: { kind: 'answer' },
  throwError: { kind: 'answer' },
  resolveTo: { kind: 'answer' },
  rejectWith: { kind: 'answer' },
};

/** What makes stand-ins, what they are, and the clocks that are faked. */
export const STAND_INS = {
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
      waitFor: { kind: 'runs', waits: true, retries: 'till-passes' },
      waitUntil: { kind: 'runs', waits: true, retries: 'till-true' },
    },
    rest: plain,
  },
  fakes: {
    members: {
      ...each('stub spy mock replace replaceGetter define', { kind: 'stand-in', target: 'member' }),
      ...each('fake createStubInstance', { kind: 'stand-in', target: 'none' }),
      useFakeTimers: { kind: 'clock', on: true },
      ...each('createSandbox create', { kind: 'gives', type: 'fakes' }),
      // Up to sinon 4: `sinon.sandbox.create()`.
      sandbox: { kind: 'object', type: 'fakes' },
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
} satisfies Partial<Record<TypeName, TypeTable>>;

/** A global of one runner that others do not have, and what it is called in them, with the module that exports it. */
interface ForeignWord {
  /** The runners that have it. */
  of: readonly string[];
  /** Majors below which a runner has it all the same. */
  below?: Readonly<Record<string, number>>;
  /** By runner: its counterpart. */
  instead: Readonly<Record<string, string>>;
  /** Modules that make it global. */
  by?: RegExp;
}

const JEST = ['jest', 'react-scripts', 'vue-cli'];
const JASMINE = ['jasmine', 'karma'];

/** jest 27 to 30, vitest 1 to 4, jasmine 3 to 5: the objects of tools that are global in one of them alone. */
const FOREIGN_WORDS: ReadonlyMap<string, ForeignWord> = new Map<string, ForeignWord>([
  ['jest', { of: JEST, instead: { vitest: 'vi' } }],
  ['vi', { of: ['vitest'], instead: { jest: 'jest' } }],
  ['vitest', { of: ['vitest'], instead: {} }],
  ['jasmine', { of: JASMINE, below: { jest: 27 }, instead: { vitest: 'vi', jest: 'jest' } }],
  [
    'spyOnProperty',
    {
      of: JASMINE,
      below: { jest: 27 },
      instead: { vitest: 'vi.spyOn', jest: 'jest.spyOn' },
    },
  ],
  [
    'expect',
    {
      of: [...JEST, ...JASMINE, 'vitest', 'bun'],
      instead: {},
      by: /^(?:chai\/register-expect(?:\.js)?|expect(?:\.js)?|unexpected|jest-expect|(?:chai|expect)-global)$/,
    },
  ],
  ['expectAsync', { of: JASMINE, instead: {} }],
]);

/** The row of a word that is foreign to a runner; undefined where it has it, or may have it. */
export function foreignTo(runner: string, major: number | undefined, name: string): ForeignWord | undefined {
  const word = FOREIGN_WORDS.get(name);
  const below = word?.below?.[runner];
  const mayHave = below !== undefined && (major === undefined || major < below);
  return word && !word.of.includes(runner) && !mayHave ? word : undefined;
}

/** The test functions that another interface of the same runner makes global, each with its counterparts. */
const PAIRS: readonly (readonly string[])[] = [
  ['describe', 'suite', 'context'],
  ['it', 'test', 'specify'],
  ['beforeEach', 'setup'],
  ['afterEach', 'teardown'],
  ['before', 'suiteSetup', 'beforeAll'],
  ['after', 'suiteTeardown', 'afterAll'],
];

/** What a function of groups, specs or hooks is called among the names that a runner makes global; undefined where it has it, or nothing like it. */
export const counterpart = (name: string, globalNames: readonly string[]): string | undefined =>
  globalNames.includes(name)
    ? undefined
    : PAIRS.find((pair) => pair.includes(name))?.find((each) => globalNames.includes(each));

/** Modules of runners that throw where another one loads them. */
export const RUNNER_OF_MODULE: ReadonlyMap<string, readonly string[]> = new Map([
  ['vitest', ['vitest']],
  ['@jest/globals', JEST],
]);

import type { Dialect, Meaning, Writing } from './meaning.js';
import { angularLibraries } from './angular.js';
import { assertions } from './assertions.js';
import { harnessLibraries } from './harnesses.js';
import { runnerLibraries } from './runners.js';
import { userCentred } from './user-centred.js';
import { wrappers } from './wrappers.js';

/** Every table of names. A new library is a new table in one of the lists. */
const DIALECTS: readonly Dialect[] = [
  ...runnerLibraries,
  ...assertions,
  ...userCentred,
  ...wrappers,
  ...angularLibraries,
  ...harnessLibraries,
];

/** Names that tell whose a module's other names are, and the tables that say what those mean. */
const COMPANIES: readonly { sign: ReadonlySet<string>; modules: readonly string[] }[] = [
  { sign: new Set(['describe', 'it']), modules: ['vitest', '@jest/globals'] },
  {
    sign: new Set(['screen', 'within', 'fireEvent', 'userEvent', 'waitFor']),
    modules: ['@testing-library/react', '@testing-library/user-event', '@testing-library/vue'],
  },
];

/** What the names of libraries mean, and how code that uses them is written. */
export class Libraries {
  readonly #byModule: ReadonlyMap<string, Dialect>;
  readonly #globals: ReadonlyMap<string, Meaning>;
  /** How user-centred queries are written where a project has no library for them. */
  readonly usualQueries: Writing | undefined;

  /** Of two tables that name the same module or global, the first counts. */
  constructor(tables: readonly Dialect[]) {
    const last = tables.toReversed();
    this.usualQueries = tables.find(({ writes }) => writes?.queries)?.writes;
    this.#byModule = new Map(last.flatMap((each) => each.modules.map((module) => [module, each] as const)));
    this.#globals = new Map(
      last.flatMap(({ globals: names, exports }) =>
        Object.entries(exports).filter(([name]) => names === 'all' || names?.includes(name)),
      ),
    );
  }

  /** The table of a module, by the name it is imported by. */
  of(module: string): Dialect | undefined {
    return this.#byModule.get(module);
  }

  /** What an export of a module means; undefined where no table names it. */
  meaningOf(module: string, name: string): Meaning | undefined {
    const exports = this.#byModule.get(module)?.exports;
    return exports && Object.hasOwn(exports, name) ? exports[name] : exports?.['*'];
  }

  /** What a name means where nothing in the file declares it and a runner makes it global. */
  globalMeaning(name: string): Meaning | undefined {
    return this.#globals.get(name);
  }

  /** What a name means in a file with these imports; undefined where no table names it. */
  meaningIn(
    imports: ReadonlyMap<string, { specifier: string; name: string }>,
    name: string,
  ): Meaning | undefined {
    const from = imports.get(name);
    return from ? this.meaningOf(from.specifier, from.name) : this.globalMeaning(name);
  }

  /**
   * What a name means that is imported with others from a module that no table names: where these could only be a runner's
   * own, or those of a library that reaches elements as a user would, the module hands them on. `inMarkup`: of a file with markup.
   */
  byCompany(
    names: readonly string[],
    name: string,
    inMarkup: boolean,
  ): { meaning: Meaning; module: string } | undefined {
    const company = COMPANIES.filter(({ sign }) => names.some((each) => sign.has(each)));
    const modules = company.flatMap(({ modules }) => (inMarkup ? modules : modules.toReversed()));
    for (const module of modules) {
      const meaning = this.meaningOf(module, name);
      if (meaning) return { meaning, module };
    }
    return undefined;
  }

  /** Whether a module belongs to a library that renders or queries as a user would. */
  isUserCentred(module: string): boolean {
    return this.#byModule.get(module)?.userCentred ?? false;
  }
}

/** The libraries of all tables, with more tables before them. */
export const librariesWith = (more: readonly Dialect[] = []): Libraries =>
  new Libraries([...more, ...DIALECTS]);

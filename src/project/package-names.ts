import type { Files, Resolve } from '../host/files.js';
import { commonExports } from '../syntax/common-exports.js';
import { moduleFacts } from '../syntax/module-facts.js';
import { isScript, parseScript } from '../syntax/script.js';
import { decodeSource, isProblem } from '../syntax/source.js';
import { dirname, isInstalled } from '../util/paths.js';

// What is larger is a bundle, whose names would cost more than they tell.
const LONGEST = 400_000;
const DEEPEST = 12;
const FEWEST = 2;

type Names = ReadonlySet<string> | undefined;

/** The names that installed packages give, read off the code that they ship; each module is read once. */
export class PackageNames {
  readonly #files: Files;
  // As bundlers, ES modules and CommonJS modules find them: a name counts as given where any of the three gets it.
  readonly #resolvers: readonly Resolve[];
  readonly #known = new Map<string, Names>();

  constructor(files: Files) {
    this.#files = files;
    this.#resolvers = [
      files.resolver({ code: true }),
      files.resolver({ conditions: ['node', 'import', 'default'] }),
      files.resolver({ conditions: ['node', 'require', 'default'] }),
    ];
  }

  /** What a package gives to a file that imports a name from it, where that name is not among it; undefined where it is, or may be. */
  without(name: string, from: string, specifier: string): Names {
    const names = new Set<string>();
    for (const resolve of this.#resolvers) {
      const path = resolve(dirname(from), specifier);
      const given = path !== undefined && isInstalled(path) ? this.#namesOf(path, resolve, 0) : undefined;
      // Most names are given by the first of them: the others are not read.
      if (!given || given.has(name)) return undefined;
      for (const each of given) names.add(each);
    }
    // What gives itself by default may carry more, and others may add to what gives next to nothing.
    return [...names].filter((each) => each !== 'default').length > FEWEST ? names : undefined;
  }

  #namesOf(path: string, resolve: Resolve, depth: number): Names {
    const key = `${this.#resolvers.indexOf(resolve)}\0${path}`;
    if (this.#known.has(key)) return this.#known.get(key);
    // A module that hands itself on adds nothing.
    this.#known.set(key, new Set());
    const names = depth < DEEPEST ? this.#read(path, resolve, depth) : undefined;
    this.#known.set(key, names);
    return names;
  }

  #read(path: string, resolve: Resolve, depth: number): Names {
    const bytes = isScript(path) ? this.#files.read(path) : undefined;
    if (!bytes || bytes.length > LONGEST) return undefined;
    const source = decodeSource(path, bytes);
    const script = isProblem(source) ? source : parseScript(source);
    if ('reason' in script) return undefined;
    const { program } = script;
    const isModule = program.body.some(({ type }) => /^(?:Import|Export)/.test(type));
    const { exports, stars } = moduleFacts(program);
    const given = isModule ? { names: new Set(exports.keys()), stars } : commonExports(program);
    if (!given) return undefined;
    const names = new Set(given.names);
    for (const star of given.stars) {
      const target = resolve(dirname(path), star);
      const handed = target === undefined ? undefined : this.#namesOf(target, resolve, depth + 1);
      if (!handed) return undefined;
      for (const name of handed) if (name !== 'default') names.add(name);
    }
    return names.size > 0 ? names : undefined;
  }
}

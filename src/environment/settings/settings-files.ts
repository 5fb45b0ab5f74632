import type { Files } from '../../host/files.js';
import { specBundle, type SpecBundle } from './spec-bundles.js';
import { decodeSource, isProblem, type Problem } from '../../syntax/source.js';
import { dirname, isInstalled } from '../../util/paths.js';
import { jsonSettings } from './json-settings.js';
import { scriptSettings } from './script-settings.js';
import { saidAt } from './setting-values.js';
import { isGiven, settingAt, type Setting } from './setting.js';
import { yamlSettings } from './yaml-settings.js';

const DEEPEST_IMPORT = 8;
// Bytes: settings that a package ships for others to spread are short; what is longer is a program.
const LARGEST_SHARED = 32_768;

/** Settings files of every form, each read once and never run. Paths are absolute. */
export class SettingsFiles {
  readonly problems: Problem[] = [];
  readonly #files: Files;
  readonly #known = new Map<string, Setting | undefined>();
  readonly #resolve: (folder: string, specifier: string) => string | undefined;

  constructor(files: Files) {
    this.#files = files;
    this.#resolve = files.resolver({});
  }

  /** What a settings file sets, or one of its exports; undefined, and a problem kept, where it is broken. */
  read(file: string, name = 'default', depth = 0): Setting | undefined {
    const key = `${file}\0${name}`;
    if (!this.#known.has(key)) {
      // A file that imports itself on the way is unknown, not endless.
      this.#known.set(key, undefined);
      this.#known.set(key, this.#parsed(file, name, depth));
    }
    return this.#known.get(key);
  }

  #parsed(file: string, name: string, depth: number): Setting | undefined {
    const bytes = this.#files.read(file);
    const source = bytes && decodeSource(file, bytes);
    if (!source) return undefined;
    if (isProblem(source)) return this.#fail(source);
    const found = /\.jsonc?$|rc$/.test(file)
      ? jsonSettings(source)
      : /\.ya?ml$/.test(file)
        ? yamlSettings(source)
        : scriptSettings(source, (from, specifier, each) => this.#other(from, specifier, each, depth), name);
    if ('reason' in found) return this.#fail(found);
    // Data has no exports but its keys.
    const isData = name !== 'default' && /\.(?:jsonc?|ya?ml)$/.test(file);
    return isData ? settingAt(found, name) : found;
  }

  /** What a script bundles; undefined where it is not there or can't be read. */
  bundle(file: string): SpecBundle | undefined {
    const bytes = this.#files.read(file);
    const source = bytes && decodeSource(file, bytes);
    return source && !isProblem(source) ? specBundle(source) : undefined;
  }

  #other(from: string, specifier: string, name: string, depth: number): Setting | undefined {
    const file = depth < DEEPEST_IMPORT ? this.#resolve(dirname(from), specifier) : undefined;
    if (!file) return undefined;
    if (!isInstalled(file)) return this.read(file, name, depth + 1);
    // Of what a package ships only data is settings: its functions are plugins and makers, which tables know.
    if ((this.#files.read(file)?.length ?? Infinity) > LARGEST_SHARED) return undefined;
    const shared = this.read(file, name, depth + 1);
    // A project answers for what it takes over, at the top of its own file.
    return shared?.is === 'object' && !isGiven(shared)
      ? saidAt(shared, { file: from, start: 0, end: 0 })
      : undefined;
  }

  #fail(problem: Problem): undefined {
    // What is wrong in a package is for its authors.
    if (!isInstalled(problem.file)) this.problems.push(problem);
    return undefined;
  }
}

import type { Files } from '../discover/files.js';
import { decodeSource, isProblem, type Problem } from '../parse/source.js';
import { dirname, join } from '../util/paths.js';
import { commandsOf, type Command } from './commands.js';
import type { Environment, RunnerFacts } from './environment.js';
import { jsonSettings } from './json-settings.js';
import { yamlSettings } from './yaml-settings.js';
import { isPackage, manifestOf, type Manifest } from './manifest.js';
import { runnerFacts, type Found } from './runner-settings.js';
import { RUNNERS, type RunnerName, type RunnerRow } from './runners.js';
import { scriptSettings } from './script-settings.js';
import { settingAt, type Setting } from './setting.js';

const HIGHEST = 6;
const DEEPEST_IMPORT = 8;

/** Reads manifests and settings, each file once; what is broken becomes a problem. Paths are absolute. */
export class Environments {
  readonly problems: Problem[] = [];
  readonly #files: Files;
  readonly #settings = new Map<string, Setting | undefined>();
  readonly #manifests = new Map<string, Manifest | undefined>();
  readonly #environments = new Map<string, Environment>();
  readonly #byFolder = new Map<string, Environment>();
  readonly #resolve: (folder: string, specifier: string) => string | undefined;

  constructor(files: Files) {
    this.#files = files;
    this.#resolve = files.resolver({});
  }

  /** The environment of the package that a file belongs to. */
  of(file: string): Environment {
    const here = dirname(file);
    const known = this.#byFolder.get(here);
    if (known) return known;
    const environment = this.#environmentFor(here);
    this.#byFolder.set(here, environment);
    return environment;
  }

  #environmentFor(here: string): Environment {
    const manifests = this.#manifestsAbove(here);
    const folder = manifests[0]?.folder ?? here;
    const cached = this.#environments.get(folder);
    if (cached) return cached;
    const [manifest, ...outer] = manifests;
    const environment: Environment = {
      folder,
      manifest,
      outer,
      runners: manifests.flatMap((each, i) => this.#runners(each, i > 0)),
    };
    this.#environments.set(folder, environment);
    return environment;
  }

  /** Every environment that was asked for, by folder. */
  all(): Environment[] {
    return [...this.#environments.values()].sort((a, b) => (a.folder < b.folder ? -1 : 1));
  }

  // The nearest manifest, and those above it that make it part of a workspace.
  #manifestsAbove(folder: string): Manifest[] {
    const found: Manifest[] = [];
    let marker: Manifest | undefined;
    let at = folder;
    for (let step = 0; step < 40; step++) {
      const manifest = this.#manifest(at);
      const isWorkspace = manifest?.workspaces || this.#files.kind(join(at, 'pnpm-workspace.yaml'));
      if (manifest && !isPackage(manifest)) marker ??= manifest;
      else if (manifest && (found.length === 0 || isWorkspace)) found.push(manifest);
      const above = dirname(at);
      if (above === at || found.length > HIGHEST || this.#files.kind(join(at, '.git'))) break;
      at = above;
    }
    return found.length === 0 && marker ? [marker] : found;
  }

  #manifest(folder: string): Manifest | undefined {
    if (!this.#manifests.has(folder)) {
      const file = join(folder, 'package.json');
      const setting = this.#files.kind(file) === 'file' ? this.setting(file) : undefined;
      this.#manifests.set(folder, setting && manifestOf(file, folder, setting));
    }
    return this.#manifests.get(folder);
  }

  #runners(manifest: Manifest, above: boolean): RunnerFacts[] {
    const commands = commandsOf(manifest);
    return RUNNERS.flatMap((row) => {
      const started = commands.filter((command) => starts(row, command));
      const found = this.#found(row, manifest);
      const declared = row.packages.some((name) => manifest.dependencies.has(name));
      if (!found && started.length === 0 && (!declared || above)) return [];
      // Vite's settings without specs in mind are no sign of the runner.
      if (
        row.inside &&
        found &&
        !declared &&
        started.length === 0 &&
        settingAt(found.setting, row.inside) === undefined
      )
        return [];
      return [{ runner: row.name, commands: started, ...runnerFacts(row, found, manifest.folder, started) }];
    }).filter(
      ({ runner }, _, all) => runner !== 'jest' || !all.some((other) => BRINGS_JEST.has(other.runner)),
    );
  }

  #found(row: RunnerRow, manifest: Manifest): Found | undefined {
    for (const name of row.files) {
      const file = join(manifest.folder, name);
      if (this.#files.kind(file) !== 'file') continue;
      const setting = this.setting(file);
      return setting && { setting, file, folder: manifest.folder };
    }
    const inside = row.manifestKey && settingAt(manifest.setting, row.manifestKey);
    return inside ? { setting: inside, file: manifest.file, folder: manifest.folder } : undefined;
  }

  /** Aliases of the bundlers' settings, from the name to the folder: only those that all packages agree on. */
  aliases(environments: readonly Environment[]): Record<string, string[]> {
    const found = new Map<string, string>();
    const clashing = new Set<string>();
    for (const runner of environments.flatMap(({ runners }) => runners)) {
      const setting = runner.settingsFile ? this.setting(runner.settingsFile) : undefined;
      for (const [name, path] of aliasesIn(setting)) {
        if (found.has(name) && found.get(name) !== path) clashing.add(name);
        found.set(name, path);
      }
    }
    return Object.fromEntries(
      [...found].filter(([name]) => !clashing.has(name)).map(([name, path]) => [name, [path]]),
    );
  }

  /** What a settings file sets; undefined, and a problem kept, where it is broken. */
  setting(file: string, depth = 0): Setting | undefined {
    if (!this.#settings.has(file)) {
      // A file that imports itself on the way is unknown, not endless.
      this.#settings.set(file, undefined);
      this.#settings.set(file, this.#read(file, depth));
    }
    return this.#settings.get(file);
  }

  #read(file: string, depth: number): Setting | undefined {
    const bytes = this.#files.read(file);
    const source = bytes && decodeSource(file, bytes);
    if (!source) return undefined;
    if (isProblem(source)) return this.#fail(source);
    const found = /\.jsonc?$/.test(file)
      ? jsonSettings(source)
      : /\.ya?ml$/.test(file)
        ? yamlSettings(source)
        : scriptSettings(source, (from, specifier) => this.#other(from, specifier, depth));
    return 'reason' in found ? this.#fail(found) : found;
  }

  #other(from: string, specifier: string, depth: number): Setting | undefined {
    const file =
      specifier.startsWith('.') && depth < DEEPEST_IMPORT
        ? this.#resolve(dirname(from), specifier)
        : undefined;
    return file ? this.setting(file, depth + 1) : undefined;
  }

  #fail(problem: Problem): undefined {
    this.problems.push(problem);
    return undefined;
  }
}

// Their settings of jest stand in a preset: a key in the manifest only adds to it.
const BRINGS_JEST: ReadonlySet<RunnerName> = new Set<RunnerName>(['react-scripts', 'vue-cli']);

function starts(row: RunnerRow, command: Command): boolean {
  return row.programs.some(
    ({ program, argument }) =>
      command.program === program && (argument === undefined || command.args.includes(argument)),
  );
}

// `resolve.alias`, as an object or as a list of `find` and `replacement`.
function aliasesIn(setting: Setting | undefined): [string, string][] {
  const alias = settingAt(setting, 'resolve', 'alias');
  const text = (each: Setting | undefined): string | undefined =>
    each?.is === 'value' && typeof each.value === 'string' ? each.value : undefined;
  const entries: (readonly [string | undefined, string | undefined])[] =
    alias?.is === 'object'
      ? [...alias.entries].map(([name, value]) => [name, text(value)])
      : alias?.is === 'list'
        ? alias.items.map((each) => [text(settingAt(each, 'find')), text(settingAt(each, 'replacement'))])
        : [];
  return entries.flatMap(([name, path]): [string, string][] =>
    name && path?.startsWith('/') ? [[name, path.replace(/\/$/, '')]] : [],
  );
}

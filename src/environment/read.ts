import type { Files } from '../host/files.js';
import type { Problem } from '../syntax/source.js';
import { dirname, isWithin, join, relativeTo, resolve } from '../util/paths.js';
import picomatch from 'picomatch';
import { collector } from './collects.js';
import { compilerSettingsIn, type CompilerSettings } from './compiler-settings.js';
import { leadsOf } from './leads.js';
import { commandsOf, flagOf, type Command } from './settings/commands.js';
import type { Leads } from '../host/leads.js';
import type { Environment, NamedModule, RunnerFacts } from './facts/environment.js';
import type { FoundSettings } from './facts/found.js';
import { runnerFacts, unreadFacts } from './facts/runner-facts.js';
import { withStated, type StatedFacts } from './facts/stated.js';
import { emptyManifest, isPackage, manifestOf, type Manifest } from './settings/manifest.js';
import { RUNNERS, type RunnerName, type RunnerRow } from './tables/runners.js';
import { settingAt, type Setting } from './settings/setting.js';
import type { SpecBundle } from './settings/spec-bundles.js';
import { SettingsFiles } from './settings/settings-files.js';
import { installedAt, majorOf, versionOf, type PackageVersion } from './versions.js';

const HIGHEST = 6;
const LOCK_FILES = ['package-lock.json', 'pnpm-lock.yaml', 'yarn.lock', 'bun.lock', 'bun.lockb', '.git'];

/** Reads manifests and settings, each file once; what is broken becomes a problem. Paths are absolute. */
export class Environments {
  readonly #files: Files;
  readonly #settings: SettingsFiles;
  readonly #versions = new Map<string, PackageVersion | undefined>();
  readonly #manifests = new Map<string, Manifest | undefined>();
  readonly #environments = new Map<string, Environment>();
  readonly #byFolder = new Map<string, Environment>();
  readonly #listed = new Map<string, readonly string[]>();
  readonly #leads = new Map<string, Leads>();
  readonly #compilers = new Map<string, readonly CompilerSettings[]>();

  readonly #stated: StatedFacts;
  readonly #root: string;

  /** `stated`: facts of the run that the project states by hand, for all packages below `root`. */
  constructor(files: Files, stated: StatedFacts = {}, root = '/') {
    this.#files = files;
    this.#stated = stated;
    this.#root = root;
    this.#settings = new SettingsFiles(files);
  }

  /** Settings files that could not be read, and why. */
  get problems(): readonly Problem[] {
    return this.#settings.problems;
  }

  /** What a settings file sets; undefined where it is broken. */
  setting(file: string): Setting | undefined {
    return this.#settings.read(file);
  }

  /** The environment of the package that a file belongs to; of an installed file, that of the package it is installed for. */
  of(file: string): Environment {
    const installs = file.indexOf('/node_modules/', this.#root.length);
    const here = installs < 0 ? dirname(file) : file.slice(0, installs);
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
    const isWhole = manifests.some((manifest) =>
      LOCK_FILES.some((name) => this.#files.kind(join(manifest.folder, name))),
    );
    const read = eachOnce(
      manifests.flatMap((manifest, i) => this.#runners(manifest, manifests.slice(i), i > 0, isWhole)),
    );
    const runners = this.#withStated(read, manifest ?? emptyManifest(folder), isWhole);
    const environment: Environment = {
      folder,
      manifest,
      outer,
      isWhole,
      runners,
      runnersOf: chooser(runners),
      // What lies further up was installed for another project.
      hasInstalls: manifests.some(({ dependencies, folder: at }) =>
        [...dependencies.keys()].some(
          (name) => this.#files.kind(join(at, 'node_modules', name)) === 'folder',
        ),
      ),
      installedAt: (name) => installedAt(this.#files, folder, name),
    };
    this.#environments.set(folder, environment);
    return environment;
  }

  // What the project states stands for what is read, or for a runner that nothing in sight tells.
  #withStated(read: readonly RunnerFacts[], manifest: Manifest, isWhole: boolean): readonly RunnerFacts[] {
    const stated = this.#stated;
    if (Object.keys(stated).length === 0) return read;
    const row = RUNNERS.find(({ name }) => name === (stated.runner ?? read[0]?.runner));
    const own = read.filter(({ runner }) => runner === row?.name);
    const settings = stated.settings === undefined ? undefined : resolve(this.#root, stated.settings);
    const found =
      settings === undefined ? undefined : this.#at({ ...manifest, folder: this.#root }, settings);
    const again = row && found ? this.#configured(row, manifest, found, [], own[0]?.major, isWhole) : own;
    const base =
      again.length === 0 && row
        ? [{ runner: row.name, commands: [], major: undefined, ...unreadFacts(row, manifest.folder) }]
        : again;
    return base.map((facts) => withStated(facts, stated, this.#root));
  }

  /** Every environment of the project that was asked for, by folder: what a link leads out of it to runs its specs elsewhere. */
  all(): Environment[] {
    const own = [...this.#environments.values()].filter(
      ({ folder }) => isWithin(this.#root, folder) || isWithin(folder, this.#root),
    );
    return own.sort((a, b) => (a.folder < b.folder ? -1 : 1));
  }

  /** The version of a package that manifests declare, inner first. */
  version(manifests: readonly Manifest[], name: string): PackageVersion | undefined {
    const key = `${manifests[0]?.folder ?? ''}\0${name}`;
    if (!this.#versions.has(key)) {
      this.#versions.set(
        key,
        versionOf(this.#files, (file) => this.setting(file), manifests, name),
      );
    }
    return this.#versions.get(key);
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

  #runners(
    manifest: Manifest,
    manifests: readonly Manifest[],
    above: boolean,
    isWhole: boolean,
  ): RunnerFacts[] {
    const commands = commandsOf(manifest);
    const all = RUNNERS.flatMap((row) => {
      const started = commands.flatMap((command) => startedBy(row, command, manifests) ?? []);
      const found = this.#found(row, manifest);
      const declared = declares(manifest, row);
      if (!found && started.length === 0 && (!declared || above)) return [];
      // Vite's settings without specs in mind are no sign of the runner.
      const sets = row.inside && found && settingAt(found.setting, row.inside) !== undefined;
      if (row.inside && found && !declared && started.length === 0 && !sets) return [];
      const version = row.packages.map((name) => this.version(manifests, name)).find(Boolean);
      // Something else runs the specs, as `make test`: which settings it takes beside these, it alone knows.
      const isRunFromElsewhere = !declared && started.length === 0 && commands.some(isTestScript);
      if (isRunFromElsewhere && found?.file === manifest.file)
        return [
          { runner: row.name, commands: [], major: majorOf(version), ...unreadFacts(row, manifest.folder) },
        ];
      return this.#configured(row, manifest, found, started, majorOf(version), isWhole);
    });
    const isStarted = ({ commands: own }: RunnerFacts): boolean => own.length > 0;
    const isDriven = ({ runner }: RunnerFacts): boolean =>
      all.some((other) => DRIVES[other.runner]?.includes(runner));
    // One that is only declared, and can do nothing without settings, runs nothing where another is started.
    const isIdle = ({ runner, settingsFile }: RunnerFacts): boolean =>
      settingsFile === undefined &&
      all.some(isStarted) &&
      RUNNERS.some((row) => row.name === runner && row.needsSettings);
    // Settings that are left of one which nobody declares, where `npm test` starts another.
    const isLeft = ({ runner }: RunnerFacts): boolean =>
      all.some(({ commands: own }) => own.some(isTestScript)) &&
      !RUNNERS.some((row) => row.name === runner && manifests.some((each) => declares(each, row)));
    return all.filter((each) => isStarted(each) || !(isDriven(each) || isIdle(each) || isLeft(each)));
  }

  // A runner has facts for each settings file that its scripts name, and for each project in one.
  #configured(
    row: RunnerRow,
    manifest: Manifest,
    usual: FoundSettings | undefined,
    commands: readonly Command[],
    major: number | undefined,
    isWhole: boolean,
  ): RunnerFacts[] {
    const byConfig = new Map<string | undefined, Command[]>();
    const flags = row.configFlags ?? [];
    for (const command of commands) {
      const flag = flagOf(command, ...flags);
      const config = typeof flag === 'string' ? flag : undefined;
      byConfig.set(config, [...(byConfig.get(config) ?? []), command]);
    }
    if (byConfig.size === 0) byConfig.set(undefined, []);
    return [...byConfig].flatMap(([config, started]) => {
      const found =
        config === undefined ? (usual ?? this.#defaults(row, manifest, isWhole)) : this.#at(manifest, config);
      const base = { runner: row.name, commands: started, major };
      if (!found)
        return [{ ...base, ...unreadFacts(row, manifest.folder), named: named(config, started, manifest) }];
      const workspace = config === undefined ? this.#workspace(row, manifest) : undefined;
      const exists = (path: string): boolean => this.#files.kind(path) === 'file';
      const bundleAt = (path: string): SpecBundle | undefined => this.#settings.bundle(path);
      const membersAt = (folder: string, pattern: string): FoundSettings[] =>
        this.#members(row, folder, pattern);
      const setting = (path: string): Setting | undefined => this.setting(path);
      const filesAt = (folder: string, pattern: string): string[] => {
        const takes = picomatch(pattern.replace(/^\.\//, ''));
        return this.#below(folder).filter((each) => takes(relativeTo(folder, each)));
      };
      const declared = [...manifest.dependencies.keys()];
      const sources = {
        found,
        commands: started,
        major,
        declared,
        exists,
        setting,
        bundleAt,
        filesAt,
        membersAt,
      };
      const facts = runnerFacts(row, sources, workspace);
      return facts.map((fact) => ({ ...base, ...fact }));
    });
  }

  // The projects that a pattern names, each with the settings that it would be run with.
  #members(row: RunnerRow, folder: string, pattern: string): FoundSettings[] {
    const path = resolve(folder, pattern);
    const kind = this.#files.kind(path);
    const isPattern = /[*?{[(]/.test(pattern);
    const below = isPattern ? this.#below(folder) : [];
    const takes = isPattern ? picomatch(pattern.replace(/^\.\//, '').replace(/\/$/, '')) : () => false;
    const files = kind === 'file' ? [path] : below.filter((each) => takes(relativeTo(folder, each)));
    const inside = [...new Set(below.map((each) => dirname(each)))];
    const folders = kind === 'folder' ? [path] : inside.filter((each) => takes(relativeTo(folder, each)));
    return [
      ...files.map((file) => ({ setting: this.#readable(file), file, folder: dirname(file) })),
      ...folders.flatMap((at) => {
        const manifest = this.#manifest(at);
        return (
          this.#found(row, manifest ?? emptyManifest(at)) ??
          (manifest && this.#defaults(row, manifest, true)) ??
          []
        );
      }),
    ];
  }

  // Every file below a folder, listed once; also what only lies deeper counts as a folder.
  #below(folder: string): readonly string[] {
    const known = this.#listed.get(folder);
    if (known) return known;
    const ignore = ['**/node_modules/**', '**/.git/**', '**/dist/**', '**/coverage/**'];
    const found = this.#files.list(folder, ignore, () => undefined);
    this.#listed.set(folder, found);
    return found;
  }

  // Where all of a project is in sight and no settings are, the runner's defaults hold.
  #defaults(row: RunnerRow, manifest: Manifest, isWhole: boolean): FoundSettings | undefined {
    if (!isWhole || row.needsSettings) return undefined;
    const at = { file: manifest.file, start: 0, end: 0 };
    const setting: Setting = { is: 'object', entries: new Map(), open: false, at };
    return { setting, file: manifest.file, folder: manifest.folder };
  }

  #at(manifest: Manifest, config: string): FoundSettings | undefined {
    const file = resolve(manifest.folder, config);
    if (this.#files.kind(file) !== 'file') return undefined;
    const setting = this.setting(file);
    return setting && { setting, file, folder: dirname(file) };
  }

  #workspace(row: RunnerRow, manifest: Manifest): Setting | undefined {
    const names = row.workspaceFiles ?? [];
    const file = names.map((name) => join(manifest.folder, name)).find((each) => this.#files.kind(each));
    return file === undefined ? undefined : this.setting(file);
  }

  // Settings that are there may say anything where they are broken, or what a function of a package gives.
  #readable(file: string): Setting {
    const setting = this.setting(file);
    return setting && setting.is !== 'made' ? setting : { is: 'unknown', at: { file, start: 0, end: 0 } };
  }

  #found(row: RunnerRow, manifest: Manifest): FoundSettings | undefined {
    for (const name of row.files) {
      const file = join(manifest.folder, name);
      if (this.#files.kind(file) !== 'file') continue;
      return { setting: this.#readable(file), file, folder: manifest.folder };
    }
    const inside = row.manifestKey && settingAt(manifest.setting, row.manifestKey);
    return inside ? { setting: inside, file: manifest.file, folder: manifest.folder } : undefined;
  }

  /** Where the imports of a file lead, by its runners and the compilers around it. */
  leads(file: string): Leads {
    const folder = dirname(file);
    const known = this.#leads.get(folder);
    if (known) return known;
    const leads = leadsOf(folder, this.of(file), (at) => this.compilersIn(at));
    this.#leads.set(folder, leads);
    return leads;
  }

  /** The compiler settings of a folder. */
  compilersIn(folder: string): readonly CompilerSettings[] {
    const found =
      this.#compilers.get(folder) ?? compilerSettingsIn(this.#files, (file) => this.setting(file), folder);
    this.#compilers.set(folder, found);
    return found;
  }
}

const declares = ({ dependencies }: Manifest, { packages }: RunnerRow): boolean =>
  packages.some((name) => dependencies.has(name));

const isTestScript = ({ script }: Command): boolean => /^test(?::|$)/.test(script);

// Settings that a script names.
function named(
  config: string | undefined,
  [command]: readonly Command[],
  { folder }: Manifest,
): NamedModule[] {
  if (config === undefined || !command || /^[{$]/.test(config)) return [];
  return [{ text: config, at: command.at, key: 'the script', candidates: [resolve(folder, config)] }];
}

// What a package sets and the root runs is one runner, with the commands of both.
function eachOnce(runners: readonly RunnerFacts[]): RunnerFacts[] {
  const found = new Map<string, RunnerFacts>();
  for (const each of runners) {
    const { runner, settingsFile, folder, project, settings } = each;
    const key = [runner, settingsFile, folder, project, settings?.at.start].join('\0');
    const before = found.get(key);
    const commands = before ? [...before.commands, ...each.commands] : each.commands;
    found.set(key, { ...each, commands });
  }
  return [...found.values()];
}

// Patterns are made ready once, and each file is held against them once.
function chooser(runners: readonly RunnerFacts[]): (file: string) => readonly RunnerFacts[] {
  const takes = runners.map(({ collects }) => (collects.known ? collector(collects.value) : () => true));
  const chosen = new Map<string, readonly RunnerFacts[]>();
  return (file) => {
    const found = chosen.get(file) ?? runners.filter((_, i) => takes[i]?.(file));
    chosen.set(file, found);
    return found;
  };
}

// These start another runner with settings of their own making: what is set for that one only adds to them.
const DRIVES: Readonly<Partial<Record<RunnerName, readonly RunnerName[]>>> = {
  'react-scripts': ['jest'],
  'vue-cli': ['jest', 'mocha'],
  angular: ['karma', 'jasmine', 'vitest', 'jest'],
  karma: ['mocha', 'jasmine'],
};

/** A command as the runner that it starts gets it, among what some manifests declare; undefined where it starts another. */
export function startedBy(
  row: RunnerRow,
  command: Command,
  manifests: readonly Manifest[],
): Command | undefined {
  const found = row.programs.find(
    ({ program, argument, by }) =>
      command.program === program &&
      (argument === undefined || command.args.includes(argument)) &&
      (by === undefined || manifests.some(({ dependencies }) => dependencies.has(by))),
  );
  // Whoever hands its arguments on keeps the one that says so.
  return found?.by === undefined
    ? found && command
    : { ...command, args: command.args.filter((each) => each !== found.argument) };
}

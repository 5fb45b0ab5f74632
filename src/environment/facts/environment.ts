import type { Place } from '../../finding.js';
import type { AliasRule, Leads } from '../../host/leads.js';
import type { BabelSettings } from '../settings/babel-settings.js';
import type { Command } from '../settings/commands.js';
import type { Manifest } from '../settings/manifest.js';
import type { RunnerName } from '../tables/runners.js';
import type { Known, Setting } from '../settings/setting.js';

/** A module that the settings name: a set-up file, a preset, a transform, a stand-in. */
export interface NamedModule {
  /** As it is written. */
  text: string;
  at: Place;
  /** The paths that would be tried, placeholders filled in; none where it is a package. */
  candidates: readonly string[];
  /** The setting that names it. */
  key: string;
  /** What is named may be a folder as well. */
  mayBeFolder?: boolean;
  /** It is no file and no package, and is surely not there. */
  absent?: boolean;
  /** The names that would do in its place. */
  among?: readonly string[];
  /** The plugin that would bring it, and that the settings leave out. */
  plugin?: string;
}

/** Which files a runner collects. */
export interface Collection {
  folder: string;
  /** Globs from `folder`. */
  include: readonly string[];
  exclude: readonly string[];
  /** Patterns over the absolute path; a file is taken if one of them matches (besides globs). */
  patterns: readonly string[];
  leftOut: readonly string[];
  /** The endings outside of which the run sees no file; any where there are none. */
  endings?: readonly string[];
  /** Patterns over the absolute path that the commands give: what matches none of them is not run. */
  filters?: readonly string[];
  /** Folders outside of which nothing is collected. */
  roots: readonly string[];
  /** The setting, or the settings file, that says so. */
  at: Place;
  /** Where the patterns are no setting of the project: the runner's own. */
  byDefault: boolean;
}

/** A transform by the pattern of the paths that it takes. */
export interface TransformRule {
  pattern: string;
  /** The module that transforms. */
  by: string;
  /** What it is told, in place of what the compiler's own settings say. */
  options?: Setting;
  at: Place;
}

/** How files become something that the runner can run. */
export type Transforms =
  /** Each file goes to the first rule that matches. */
  | {
      by: 'rules';
      rules: readonly TransformRule[];
      /** Imports that are replaced before. */
      mapped: readonly string[];
      /** What Babel is told. */
      babel: Known<BabelSettings | undefined>;
      /** Patterns over the paths of files that go to no rule. */
      ignored: Known<readonly string[]>;
      /** What a package's exports are chosen by: undefined where the document decides, none where the run passes over them. */
      conditions: Known<readonly string[] | 'none' | undefined>;
      at: Place;
    }
  /** Each file goes through the loaders of the rules that match; modules and JSON need none. */
  | {
      by: 'loaders';
      rules: readonly TransformRule[];
      /** What Babel is told. */
      babel: Known<BabelSettings | undefined>;
      at: Place;
    }
  /** The project says that all is taken care of. */
  | { by: 'stated'; at: Place }
  /** Nothing works on them: a browser takes them as they are written. */
  | { by: 'nothing'; at: Place }
  /** The bundler's plugins, by module; scripts and styles need none. */
  | { by: 'plugins'; plugins: readonly string[]; jsx: Known<BundlerJsx>; at: Place };

/** What JSX becomes in a file; `at`: the setting that says so. */
export type Jsx =
  | { is: 'kept'; from?: undefined; at?: Place }
  /** Calls of a name that the file must have. */
  | { is: 'calls'; of: string; from?: undefined; at?: Place }
  /** Calls of what is imported from a package’s `jsx-runtime`. */
  | { is: 'imports'; from: string; at?: Place };

/** What the settings of a bundler say of JSX. */
export interface BundlerJsx {
  /** What a plugin makes of it, over the compiler’s settings; `from` may still be theirs. */
  chosen: Jsx | undefined;
  /** A plugin is told more, so that it may compile scripts of any ending. */
  isTold: boolean;
  /** The compiler of vite 4 to 7 is told of it, which vitest 4 passes over where it runs on vite 8. */
  tellsEsbuild: boolean;
}

/** What is set for coverage. */
export interface CoverageFacts {
  /** Switched on by a setting, a threshold or a script. */
  collected: boolean;
  include: readonly string[] | undefined;
  exclude: readonly string[] | undefined;
  /** Files that no spec loads do not count. */
  loadedOnly: boolean;
  /** The keys of the thresholds; undefined where there are none. */
  thresholds: readonly string[] | undefined;
  /** The folder that the patterns start from. */
  folder: string;
  at: Place;
}

/** One runner of a package, or one project of it, as far as its settings can be read. */
export interface RunnerFacts {
  runner: RunnerName;
  /** The runner that it has run the specs, where that is another: their words are those of that one. */
  drives?: RunnerName;
  /** The name of a project, where the settings hold several. */
  project?: string;
  /** The lowest major that the declared range allows, or the installed one. */
  major: number | undefined;
  /** The folder that its paths start from. */
  folder: string;
  /** The file that configures it; undefined where none was found. */
  settingsFile: string | undefined;
  /** What is set for it, as a place to add to; undefined where it is not an object in sight. */
  settings: Setting | undefined;
  setupFiles: Known<readonly NamedModule[]>;
  /** The other modules that its settings name, as far as they can be read. */
  named: readonly NamedModule[];
  collects: Known<Collection>;
  /** Stand-ins are restored, get their answers reset, or their calls cleared before each spec. */
  restores: Known<boolean>;
  resets: Known<boolean>;
  clears: Known<boolean>;
  /** Whether globals and environment values stubbed by a helper are put back. */
  unstubs: Known<boolean>;
  /** Whether each spec file has modules of its own. */
  isolates: Known<boolean>;
  /** Clocks are faked for every spec by the settings. */
  fakesClock: Known<boolean>;
  globals: Known<boolean>;
  /** The module that a global `expect` is of, where that is not the runner's own. */
  expects?: string;
  /** The names of these, where the settings choose among several sets. */
  globalNames: Known<readonly string[]>;
  /** The document environment by its name: `node` for none, `browser` for a real one. */
  document: Known<string | undefined>;
  /** The endings of files that an import may leave out. */
  endings: Known<readonly string[]>;
  aliases: Known<readonly AliasRule[]>;
  leads: Leads;
  /** Imports go by the compiler’s `paths` as well: a plugin, a switch or a transform reads them. */
  readsPaths: boolean;
  transforms: Known<Transforms>;
  coverage: Known<CoverageFacts>;
  /** The compiler settings that it is told to build with, where it builds: an error of theirs stops the run. */
  buildsWith?: string;
  commands: readonly Command[];
}

/** The runner in whose words specs are written; undefined where it is not told which one is started. */
export const wordedBy = ({
  runner,
  drives,
}: Pick<RunnerFacts, 'runner' | 'drives'>): RunnerName | undefined =>
  drives ?? (runner === 'angular' ? undefined : runner);

/** What is known of how the specs of one package run. */
export interface Environment {
  folder: string;
  manifest: Manifest | undefined;
  /** Manifests of the folders above, up to the workspace root. */
  outer: readonly Manifest[];
  runners: readonly RunnerFacts[];
  /** A lock file or a repository is in sight: no settings above it are missed, as in a published package. */
  isWhole: boolean;
  /** The runners that take a spec file, those whose patterns can't be read among them. */
  runnersOf(file: string): readonly RunnerFacts[];
  /** Packages are installed here, so that what is not there is surely missing. */
  hasInstalls: boolean;
  /** The folder where a package is installed, as the package's imports would find it. */
  installedAt(name: string): string | undefined;
}

/** A yes or no that all runners of a file must agree on; unknown where one of them is. */
export function agreed(
  runners: readonly RunnerFacts[],
  fact: (runner: RunnerFacts) => Known<boolean>,
): boolean | undefined {
  if (runners.length === 0) return undefined;
  const facts = runners.map(fact);
  const values = new Set(facts.map((fact) => (fact.known ? fact.value : undefined)));
  const [only] = values;
  return values.size === 1 ? only : undefined;
}

/** The manifests that a package's imports may rely on: its own, and those above it. */
export const manifestsOf = ({ manifest, outer }: Environment): Manifest[] =>
  manifest ? [manifest, ...outer] : [...outer];

/** Whether any manifest from a package up to its workspace root declares a package. */
export const declares = (environment: Environment, name: string): boolean =>
  manifestsOf(environment).some((manifest) => manifest.dependencies.has(name));

/** Whether a package can be relied on: declared, or installed all the same. */
export const has = (environment: Environment, name: string): boolean =>
  declares(environment, name) || environment.installedAt(name) !== undefined;

import type { Place } from '../parse/place.js';
import type { Command } from './commands.js';
import type { Manifest } from './manifest.js';
import type { RunnerName } from './runners.js';
import type { Known } from './setting.js';

/** A set-up file as it is configured. */
export interface SetupFile {
  /** As it is written. */
  text: string;
  at: Place;
  /** The paths that the runner would try, its own placeholders filled in; none where it is a package. */
  candidates: readonly string[];
  /** The setting that names it. */
  key: string;
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
  /** Folders outside of which nothing is collected. */
  roots: readonly string[];
  /** The setting, or the settings file, that says so. */
  at: Place;
  /** Where the patterns are no setting of the project: the runner's own. */
  byDefault: boolean;
}

/** One runner of a package, as far as its settings can be read. */
export interface RunnerFacts {
  runner: RunnerName;
  /** The folder that its paths start from. */
  folder: string;
  /** The file that configures it; undefined where none was found. */
  settingsFile: string | undefined;
  setupFiles: Known<readonly SetupFile[]>;
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
  document: Known<string | undefined>;
  commands: readonly Command[];
}

/** What is known of how the specs of one package run. */
export interface Environment {
  folder: string;
  manifest: Manifest | undefined;
  /** Manifests of the folders above, up to the workspace root. */
  outer: readonly Manifest[];
  runners: readonly RunnerFacts[];
}

/** A yes or no that all runners of a package must agree on; unknown where one of them is. */
export function agreed(
  environment: Environment,
  fact: (runner: RunnerFacts) => Known<boolean>,
): boolean | undefined {
  if (environment.runners.length === 0) return undefined;
  const facts = environment.runners.map(fact);
  const values = new Set(facts.map((each) => (each.known ? each.value : undefined)));
  const [only] = values;
  return values.size === 1 ? only : undefined;
}

/** Whether any manifest from a package up to its workspace root declares a package. */
export function declares(environment: Environment, name: string): boolean {
  return [environment.manifest, ...environment.outer].some((manifest) => manifest?.dependencies.has(name));
}

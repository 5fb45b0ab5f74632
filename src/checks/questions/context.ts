import type { Limits } from '../../config/settings.js';
import type { BranchFacts, SpecInputs } from '../../coverage/arm-facts.js';
import type { ArmGap } from '../../coverage/gaps.js';
import type { Coverage } from '../../coverage/coverage.js';
import type { CompilerSettings } from '../../environment/compiler-settings.js';
import type { Environment, RunnerFacts } from '../../environment/facts/environment.js';
import type { Setting } from '../../environment/settings/setting.js';
import type { PackageVersion } from '../../environment/versions.js';
import type { Files } from '../../host/files.js';
import type { Style } from '../../writing/edits/style.js';
import type { SpecRendering } from '../../rendering/spec-rendering.js';
import type { ComponentUse } from '../../rendering/uses.js';
import type { ImportGraph } from '../../project/import-graph.js';
import type { Expr } from '../../components/expr.js';
import type { Component } from '../../components/view.js';
import type { Span, Place } from '../../finding.js';
import type { Project } from '../../project/project.js';
import type { SpecFile } from '../../specs/model/blocks.js';
import type { Problem, Source } from '../../syntax/source.js';
import type { SetupEffects } from './setup-effects.js';
import type { Used } from './used-reaches.js';

/** All that a check of one spec file may ask. */
export interface FileContext {
  file: SpecFile;
  source: Source;
  project: Project;
  rendering: SpecRendering;
  /** The package that the file belongs to. */
  environment: Environment;
  /** The runners that take the file, those whose patterns can't be read among them. */
  runners: readonly RunnerFacts[];
  /** What the set-up files of these runners do around each spec; undefined where that can't be told. */
  setup: SetupEffects | undefined;
  /** Modules at hand: those that the file imports, then those that its package declares. */
  modules: readonly string[];
  /** Whether the file's or the package's libraries offer user-centred queries. */
  userCentred: boolean;
  /** Whether the package has matchers for what is in the document. */
  documentMatchers: boolean;
  /** The version of a package that the file's package declares. */
  versionOf: (name: string) => PackageVersion | undefined;
  /** Whether the package has a library of user actions, by its module. */
  userActions: string | undefined;
  testIdAttribute: string;
  limits: Limits;
  /** How the file is written. */
  style: Style;
  /** The reaches that are acted on or asserted about. */
  used: readonly Used[];
}

/** A fact of a spec file that is kept once its trees are gone, for who asks for it across files: plain data. */
export interface FileFact<T> {
  name: string;
  of(context: FileContext): T;
}

export const fileFact = <T>(name: string, of: (context: FileContext) => T): FileFact<T> => ({ name, of });

/** What is kept of a spec file once it has been checked. */
export interface SpecFileFacts {
  path: string;
  package: string;
  specs: number;
  /** A fact that a check which is on, or the report, has declared; asking for any other is an error of ours. */
  get<T>(fact: FileFact<T>): T;
}

/** All that a check of the whole project may ask. */
export interface ProjectContext {
  /** The folder that is audited. */
  root: string;
  files: Files;
  project: Project;
  specFiles: readonly SpecFileFacts[];
  components: readonly Component[];
  /** Scripts and single-file components that are no spec files. */
  sources: readonly string[];
  environments: readonly Environment[];
  environmentOf: (file: string) => Environment;
  /** What the set-up files for a spec file do; undefined where that can't be told. */
  setupOf: (file: string) => SetupEffects | undefined;
  versionOf: (environment: Environment, name: string) => PackageVersion | undefined;
  /** Who imports whom, from the spec files on. */
  imports: () => ImportGraph;
  /** A settings file, by its absolute path. */
  setting: (file: string) => Setting | undefined;
  /** The compiler settings that stand in a folder. */
  compilersIn: (folder: string) => readonly CompilerSettings[];
  coverage: Coverage | undefined;
  /** All that is known to be given to a component. */
  usesOf: (component: Component) => readonly ComponentUse[];
  /** The spec files whose specs render a component, by itself or in another; undefined where that can't be told. */
  specFilesOf: (component: Component) => readonly SpecFileFacts[] | undefined;
  /** Whether some spec file may have a stand-in for a function of a module, by its key. */
  isReplaced: (key: string) => boolean;
  /** What stand-ins give for a function of a module, by its key, wherever specs render a component; undefined where that can't be told. */
  answersOf: (component: Component, key: string) => readonly Expr[] | undefined;
  /** What the events that specs fire may carry to an element of a component; undefined where that can't be told. */
  carriedTo: SpecInputs['carriedTo'];
  /** Whether every spec file that may reach a component was seen: only then is what no spec does known. */
  isInSight: (component: Pick<Component, 'file' | 'name'>) => boolean;
  /** Whether a spec file, by its path, names failures: rejections, errors, what throws. */
  speaksOfFailure: (specFile: string) => boolean;
  /** The arms of all components, which of them specs take, and the gaps among them. */
  branches: () => BranchFacts & { gaps: readonly ArmGap[]; unreachable: readonly ArmGap[] };
  /** Spec files, by name, that could not be read, and why. */
  unreadSpecs: readonly Problem[];
  /** The version of the Node that specs would run on here, where that is known. */
  node: string | undefined;
  /** Files that are named like spec files and hold none. */
  specless: readonly string[];
  /** Settings files that could not be read, and why. */
  unreadSettings: readonly Problem[];
  sourceOf: (file: string) => Source | undefined;
}

/** A place in a spec file of which only facts are kept. */
export const inSpecFile = ({ path }: SpecFileFacts, { start, end }: Span): Place => ({
  file: path,
  start,
  end,
});

/** A place in the spec file of a context. */
export const inFile = (context: FileContext, span: { start: number; end: number }): Place => ({
  file: context.file.path,
  start: span.start,
  end: span.end,
});

/** Where a step really stands: in the helper, if it was made by one. */
export const truePlace = (
  context: FileContext,
  step: { place: { start: number; end: number }; via?: Place },
): Place => step.via ?? inFile(context, step.place);

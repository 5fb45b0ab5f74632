import { wordedBy, type Environment, type RunnerFacts } from '../../environment/facts/environment.js';
import { counterpart, foreignTo } from '../../environment/tables/runner-words.js';
import type { Span } from '../../finding.js';
import type { Libraries } from '../../libraries/index.js';
import { extensionOf, registers, type MatcherExtension } from '../../libraries/matchers.js';
import { setsName } from '../../project/module-questions.js';
import { readSpecFile } from '../../specs/reader/suite.js';
import { fileFact, type ProjectContext, type SpecFileFacts } from './context.js';
import type { SetupEffects } from './setup-effects.js';
import { ADDED_MATCHERS, CHOSEN_DOCUMENT, GLOBALS, MATCHERS, MODULES } from './facts.js';

// What a spec file needs, and nothing that could be read brings: surely where its set-up loads no strangers.

const BARE: ReadonlySet<string | undefined> = new Set(['node', 'jest-environment-node', 'edge-runtime']);

/** The first render that needs a document: trees of instances, and wrappers around one level, are made without. */
export const FIRST_RENDER = fileFact(
  'first render',
  ({ file }) =>
    file.renders.find(
      ({ gives, shallow, teardown }) =>
        gives !== 'test-renderer' && teardown !== 'not-needed' && !(shallow && gives === 'tree-wrapper'),
    )?.place,
);

/** Where it first uses the document. */
export const DOCUMENT_USE = fileFact('document use', ({ file }) => file.documentUse);

/** Whether a spec file needs a document, and neither its run nor its set-up has one. */
export function lacksDocument(
  file: SpecFileFacts,
  environment: Environment,
  context: ProjectContext,
): boolean {
  const runners = environment.runnersOf(file.path);
  if (!(file.get(FIRST_RENDER) ?? file.get(DOCUMENT_USE)) || runners.length === 0) return false;
  const chosen = file.get(CHOSEN_DOCUMENT);
  if (chosen && !BARE.has(chosen.name)) return false;
  if (!chosen && !runners.every(({ document }) => document.known && BARE.has(document.value))) return false;
  return context.setupOf(file.path)?.bringsDocument === false;
}

/** The setting that makes the functions of a runner global, where it has one, and the module to import them from. */
export const RUNNER_GLOBALS: Readonly<Record<string, { key?: string; module: string }>> = {
  vitest: { key: 'globals', module: 'vitest' },
  jest: { key: 'injectGlobals', module: '@jest/globals' },
  node: { module: 'node:test' },
};

/** The functions of a runner's module that a spec file uses as globals, by the alphabet: only what it exports can be meant. */
export function runnerGlobals(file: SpecFileFacts, module: string, libraries: Libraries): string[] {
  const exports = libraries.of(module)?.exports ?? {};
  return [...file.get(GLOBALS).keys()].filter((name) => Object.hasOwn(exports, name)).sort();
}

/** The same of a file that runs beside the specs, with the place of the first. */
export function runnerGlobalsIn(
  path: string,
  module: string,
  { project }: ProjectContext,
): { names: string[]; place: Span } | undefined {
  const exports = project.libraries.of(module)?.exports ?? {};
  const used = [...globalsOf(path, project)].filter(([name]) => Object.hasOwn(exports, name));
  const [first] = used.map(([, place]) => place).sort((a, b) => a.start - b.start);
  return first && { names: used.map(([name]) => name).sort(), place: first };
}

function globalsOf(path: string, project: ProjectContext['project']): ReadonlyMap<string, Span> {
  const tree = project.tree(path);
  return tree ? readSpecFile(project, tree, { render: [], act: [], assert: [] }).globals : NOTHING;
}

const NOTHING: ReadonlyMap<string, Span> = new Map();

/** Whether a spec file uses functions of its runner that its settings leave out of the globals. */
export function lacksGlobals(
  file: SpecFileFacts,
  environment: Environment,
  { project, setupOf }: ProjectContext,
): boolean {
  const runners = environment.runnersOf(file.path);
  const off = runners.every(({ globals }) => globals.known && !globals.value);
  const { module } = RUNNER_GLOBALS[runners[0]?.runner ?? ''] ?? {};
  return (
    off &&
    module !== undefined &&
    setupOf(file.path) !== undefined &&
    runnerGlobals(file, module, project.libraries).length > 0
  );
}

/** The first use of a matcher of an extension, by its name. */
export const firstMatcher = (file: SpecFileFacts, extension: MatcherExtension): [string, Span] | undefined =>
  [...file.get(MATCHERS)].find(([matcher]) => extensionOf(matcher) === extension);

/** The spec files, of some, that use matchers of an extension which nothing registers: neither they, nor their run or set-up. */
export function lackingMatchers(
  files: readonly SpecFileFacts[],
  extension: MatcherExtension,
  environment: Environment,
  context: ProjectContext,
): SpecFileFacts[] {
  const using = files.filter((file) => lacksMatchers(file, extension, environment, context));
  const bringing = using.length > 0 ? matcherBringers(extension, context) : new Set<string>();
  return using.filter(({ path }) => !bringing.has(path));
}

function lacksMatchers(
  file: SpecFileFacts,
  extension: MatcherExtension,
  environment: Environment,
  context: ProjectContext,
): boolean {
  if (!firstMatcher(file, extension) || file.get(ADDED_MATCHERS).open) return false;
  const runners = environment.runnersOf(file.path);
  const setup = context.setupOf(file.path);
  // A runner that drives a browser by itself has matchers of its own for the document.
  const inBrowser = runners.some(
    (runner) =>
      !runner.document.known || (runner.document.value === 'browser' && wordedBy(runner) !== 'karma'),
  );
  if (runners.length === 0 || inBrowser || !setup || setup.openMatchers) return false;
  const matchers = [...file.get(MATCHERS).keys()].filter((each) => extensionOf(each) === extension);
  const added = new Set([...setup.matchers, ...file.get(ADDED_MATCHERS).names]);
  if (matchers.some((matcher) => added.has(matcher))) return false;
  return ![...setup.packages].some((name) => registers(extension, name));
}

// Files that load an extension, or a helper that registers its matchers in its own way.
const matcherBringers = (extension: MatcherExtension, context: ProjectContext): Set<string> =>
  context
    .imports()
    .loadersOf(
      (specifier, target) =>
        registers(extension, specifier) ||
        target?.addedMatchers.open === true ||
        (target?.addedMatchers.names ?? []).some((name) => extension.matchers.has(name)),
    );

/** A global that a runner does not have, and what stands for it there. */
interface ForeignGlobal {
  name: string;
  place: Span;
  instead: string | undefined;
}

/** The globals that a spec file uses, that its runner does not have, and that neither it nor its set-up sets. */
export function foreignGlobals(
  file: SpecFileFacts,
  runner: RunnerFacts,
  context: ProjectContext,
): ForeignGlobal[] {
  const setup = context.setupOf(file.path);
  const own = file.get(MODULES).map(({ specifier }) => specifier);
  return setup ? foreignAmong(file.get(GLOBALS), file.path, own, runner, setup, context) : [];
}

/** The same of a file that runs beside the specs with some set-up: one of the set-up itself, or a stand-in. */
export function foreignGlobalsIn(
  path: string,
  runner: RunnerFacts,
  setup: SetupEffects,
  context: ProjectContext,
): ForeignGlobal[] {
  const own = (context.project.summary(path)?.modules ?? []).map(({ specifier }) => specifier);
  return foreignAmong(globalsOf(path, context.project), path, own, runner, setup, context);
}

function foreignAmong(
  globals: ReadonlyMap<string, Span>,
  path: string,
  own: readonly string[],
  runner: RunnerFacts,
  setup: SetupEffects,
  context: ProjectContext,
): ForeignGlobal[] {
  const loaded = [...setup.files, path, ...own.flatMap((each) => context.project.resolve(path, each) ?? [])];
  const packages = [...setup.packages, ...own];
  const worded = wordedBy(runner);
  return [...globals].flatMap(([name, place]): ForeignGlobal[] => {
    const foreign = worded && foreignTo(worded, runner.major, name);
    const { globalNames } = runner;
    const instead =
      worded && foreign
        ? foreign.instead[worded]
        : globalNames.known
          ? counterpart(name, globalNames.value)
          : undefined;
    if ((!foreign && !instead) || loaded.some((each) => setsName(context.project, each, name))) return [];
    if (foreign?.by && packages.some((each) => foreign.by?.test(each))) return [];
    return [{ name, place: { start: place.start, end: place.end }, instead }];
  });
}

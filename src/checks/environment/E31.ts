import type { Environment, RunnerFacts } from '../../environment/facts/environment.js';
import { babelBringsNoNames, bringsNoNames } from '../../environment/tables/plugins.js';
import type { Finding, Place } from '../../finding.js';
import { LOADING } from '../../project/first-run.js';
import { setsName } from '../../project/module-questions.js';
import { META_VALUES, unboundReads } from '../../project/what-runs.js';
import { isLoadedByNode } from '../../environment/tables/runners.js';
import { reachableFrom } from '../../project/reachable.js';
import { dirname, relativePath } from '../../util/paths.js';
import { importLine } from '../../writing/helper-module.js';
import { escaped } from '../../util/pattern.js';
import type { ProjectCheck } from '../questions/check.js';
import { fileFact, inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { CHOSEN_DOCUMENT, documentOf, KEPT_OUT, REPLACED } from '../questions/facts.js';
import { loadedBy } from '../questions/missing-modules.js';
import { andMore, packagesWithSpecs, type Package } from '../questions/packages.js';
import { isKnown } from '../questions/setup-effects.js';
import { shownNeeds } from '../questions/shown-at-once.js';

const message = (name: string, files: readonly unknown[]): string =>
  `${name} is read here${andMore(files)}, and no declaration, import or setting gives it.`;
const messageLikely = (name: string, files: readonly unknown[]): string =>
  `${name} is read here, in what specs load${andMore(files)}, and this file neither declares nor imports it.`;
const messageShown = (name: string, component: string, files: readonly unknown[]): string =>
  `${component} reads ${name} as soon as it is shown${andMore(files)}, and no declaration, import or setting gives it.`;
const adviceImport = (line: string): string => `Import it, as other files do: ${line}`;
const adviceNone = 'Import it, or declare it.';
const adviceMeta =
  'Only a bundler puts values there: read them in one module, in whose place specs put a stand-in.';

const READ = fileFact('unbound names', ({ file, project }) => unboundReads(project, file.path));

const NEEDS = fileFact('unbound below', (context) =>
  shownNeeds(context, (calls, _, project) =>
    calls.flatMap(({ path, at }) =>
      project.summary(at.file)?.unbound.has(path) ? [{ what: path, at }] : [],
    ),
  ),
);

/** A name that is read as specs run, and that nothing gives: an import that was forgotten, a slip of the pen. */
export const E31: ProjectCheck = {
  code: 'E31',
  family: 'environment',
  scope: 'project',
  facts: [READ, NEEDS, REPLACED, KEPT_OUT, CHOSEN_DOCUMENT],
  title: 'Name that nothing gives',
  level: 'blocker',
  why: 'The run stops where it reads the name: “screen is not defined”, or finds another thing of that name.',
  certain:
    'Sure where the name is read under no condition, no scope of the file has it, and neither settings nor set-up can bring it.',
  trouble:
    "render(<KilnLid />);\nexpect(screen.getByRole('heading')).toBeVisible(); // only render is imported",
  mended: "import { render, screen } from '@testing-library/react';",
  run: (context) => packagesWithSpecs(context).flatMap((each) => check(each, context)),
};

const NONE: ReadonlySet<string> = new Set();

interface Read {
  name: string;
  place: Place;
  /** The component that reads it as it is shown. */
  component?: string;
  /** Whether it is read by then is not certain. */
  isLikely?: true;
  file: SpecFileFacts;
}

function check({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  const byRead = new Map<string, Read[]>();
  // Hardly a package has such modules: only then is it asked which spec file loads them.
  const isLacking =
    specFiles.some((file) => file.get(NEEDS).length > 0) ||
    [...loadedBy(specFiles, NONE, context).keys()].some(
      (path) => (context.project.summary(path)?.unbound.size ?? 0) > 0,
    );
  for (const file of isLacking ? specFiles : []) {
    const loaded = [...loadedBy([file], file.get(KEPT_OUT), context).keys()];
    const reads = readsOf(file, loaded, context);
    if (reads.length === 0) continue;
    const given = givenTo(file, loaded, environment, context);
    if (!given) continue;
    for (const read of reads) {
      if (given(read)) continue;
      const key = read.place.file === file.path ? read.name : `${read.place.file}\0${read.name}`;
      byRead.set(key, [...(byRead.get(key) ?? []), read]);
    }
  }
  const found = [...byRead.values()].flatMap((reads): Finding[] => {
    const [first] = reads;
    if (!first) return [];
    const { name, place, component, isLikely } = first;
    const line = importElsewhere(name, place.file, context);
    // That it was meant to be imported is plain where there is something of that name.
    if (isLikely && line === undefined) return [];
    return [
      {
        place,
        level: isLikely ? 'risk' : undefined,
        certainty: isLikely ? 'likely' : 'sure',
        message: isLikely
          ? messageLikely(name, reads)
          : component === undefined
            ? message(name, reads)
            : messageShown(name, component, reads),
        advice: name === META_VALUES ? adviceMeta : line === undefined ? adviceNone : adviceImport(line),
        evidence:
          place.file === first.file.path
            ? []
            : [{ file: first.file.path, start: 0, end: 0, note: 'a spec file that runs it' }],
      },
    ];
  });
  return [...found, ...inSettings(environment, context)];
}

// Settings, and what they load, are run before anything else.
function inSettings({ runners }: Environment, context: ProjectContext): Finding[] {
  const { project } = context;
  const files = runners.flatMap(({ settingsFile }) => settingsFile ?? []);
  return [...reachableFrom(project, files).files].flatMap((path) =>
    [...(project.summary(path)?.firstRuns.get(LOADING) ?? [])].map(([name, span]): Finding => {
      const line = importElsewhere(name, path, context);
      return {
        place: { file: path, ...span },
        certainty: 'sure',
        message: message(name, []),
        advice: line === undefined ? adviceNone : adviceImport(line),
      };
    }),
  );
}

// Each name once a spec file: what it reads itself, what the modules read that it loads, what the components read that it shows.
function readsOf(file: SpecFileFacts, paths: readonly string[], context: ProjectContext): Read[] {
  const own = file
    .get(READ)
    .map(({ name, ...span }): Read => ({ name, place: inSpecFile(file, span), file }));
  const loaded = paths.flatMap((path) => (path === file.path ? [] : unboundIn(path, file, context)));
  const below = file
    .get(NEEDS)
    .filter(({ at }) => !file.get(REPLACED).has(at.file))
    .map(({ what, at, component }): Read => ({ name: what, place: at, component, file }));
  const all = [...own, ...below, ...loaded];
  return [
    ...new Map(all.reverse().map((read) => [`${read.place.file}\0${read.name}`, read])).values(),
  ].reverse();
}

function unboundIn(path: string, file: SpecFileFacts, { project }: ProjectContext): Read[] {
  const summary = project.summary(path);
  const atOnce = summary?.firstRuns.get(LOADING);
  return [...(summary?.unbound ?? [])].flatMap(([name, [first]]): Read[] => {
    const span = atOnce?.get(name);
    const at = span ?? first;
    return at ? [{ name, place: { file: path, ...at }, file, ...(span ? {} : { isLikely: true }) }] : [];
  });
}

// Whether something gives a name to what a spec file runs; undefined where that can't be told.
function givenTo(
  file: SpecFileFacts,
  loaded: readonly string[],
  environment: Environment,
  context: ProjectContext,
): ((read: Read) => boolean) | undefined {
  const runners = environment.runnersOf(file.path);
  const setup = context.setupOf(file.path);
  if (runners.length === 0 || !setup || !isKnown(setup)) return undefined;
  if (!runners.every((runner) => isPlain(file, runner))) return undefined;
  const { project } = context;
  const settings = runners.flatMap(({ settingsFile }) => settingsFile ?? []);
  const speaking = [...reachableFrom(project, settings).files, ...settings, ...setup.files];
  const isBundled = runners.some(({ runner }) => runner === 'vitest');
  return ({ name, place }) =>
    (name === META_VALUES && isBundled) ||
    speaking.some((path) => path !== place.file && isNamedIn(project.source(path)?.text ?? '', name)) ||
    loaded.some((path) => setsName(project, path, name)) ||
    project.tree(place.file)?.script.comments.some(({ value }) => isNamedIn(value, name)) === true;
}

const isNamedIn = (text: string, name: string): boolean =>
  text.includes(name) && new RegExp(`(?<![\\w$])${escaped(name)}(?![\\w$])`).test(text);

const DOCUMENTS: ReadonlySet<string | undefined> = new Set([
  'jsdom',
  'happy-dom',
  'node',
  'jest-environment-jsdom',
  'jest-environment-node',
  undefined,
]);

// Nothing that compiles or surrounds the specs brings names of its own.
function isPlain(file: SpecFileFacts, runner: RunnerFacts): boolean {
  const { transforms, runner: name } = runner;
  if (!DOCUMENTS.has(documentOf(file, runner))) return false;
  if (!transforms.known) return isLoadedByNode(name);
  switch (transforms.value.by) {
    case 'plugins':
      return transforms.value.plugins.every(bringsNoNames);
    case 'rules':
      return (
        transforms.value.babel.known &&
        [
          ...(transforms.value.babel.value?.plugins ?? []),
          ...(transforms.value.babel.value?.presets ?? []),
        ].every(({ name }) => name !== undefined && babelBringsNoNames(name)) &&
        transforms.value.rules.every(({ by }) => !/^[./<]/.test(by))
      );
    default:
      return false;
  }
}

// The import by which most other files have the name, or one of what a module of the project exports by it.
function importElsewhere(
  name: string,
  from: string,
  { project, sources, specFiles }: ProjectContext,
): string | undefined {
  const counts = new Map<string, number>();
  for (const path of [...sources, ...specFiles.map((file) => file.path)]) {
    const { imports, exports } = project.summary(path) ?? {};
    const imported = imports?.get(name);
    if (imported && !imported.typeOnly && !imported.specifier.startsWith('.')) {
      const line = importLine(name, imported);
      counts.set(line, (counts.get(line) ?? 0) + 1);
    }
    if (exports?.has(name) && path !== from) {
      const specifier = relativePath(dirname(from), path.replace(/(?:\/index)?\.[cm]?[jt]sx?$/, ''));
      const line = importLine(name, { specifier, name });
      counts.set(line, (counts.get(line) ?? 0) + 1);
    }
  }
  return [...counts].sort(([, a], [, b]) => b - a)[0]?.[0];
}

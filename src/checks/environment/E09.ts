import { IMPORTED, RENDERS, RUNNER_MODULES } from '../questions/facts.js';
import { collector, leftOut } from '../../environment/collects.js';
import type { Collection, Environment, RunnerFacts } from '../../environment/facts/environment.js';
import { basename, dirname, extname, isWithin, relativeTo } from '../../util/paths.js';
import { listed } from '../../util/plural.js';
import type { CompilerSettings } from '../../environment/compiler-settings.js';
import { andMore, packagesWithSpecs, type Package } from '../questions/packages.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext, SpecFileFacts } from '../questions/context.js';

const message = (runners: string[]): string =>
  `No run collects this file: ${listed(runners)} ${runners.length > 1 ? 'take' : 'takes'} none of its names.`;
const advice = (patterns: readonly string[]): string =>
  `Rename it, or widen the patterns. Collected now: ${patterns.slice(0, 3).join(', ')}.`;
const adviceEntry = (entry: string): string =>
  `The entry “${entry}” leaves it out: take it back, or narrow it.`;
const adviceRoots = (folders: readonly string[]): string =>
  `The run looks in ${listed(folders)} alone: name the folder of this file as well.`;
const adviceEndings = (ending: string, seen: readonly string[]): string =>
  `The run sees files that end in ${listed(seen)} alone: add ${ending} to moduleFileExtensions.`;
const adviceFilter = 'The script names other paths: add this one, or leave them out.';

const messageUncompiled = (settings: string, files: readonly unknown[]): string =>
  `${settings} does not compile this file${andMore(files)}: the build stops at a spec that is none of its files.`;
const adviceUncompiled = 'Name it, or a pattern that takes it, under include there.';

/** A file with specs that no runner of the project takes: its specs are green because they never run. */
export const E09: ProjectCheck = {
  code: 'E09',
  family: 'environment',
  scope: 'project',
  facts: [IMPORTED, RENDERS, RUNNER_MODULES],
  title: 'Spec file that no run collects',
  level: 'blocker',
  why: 'Specs in a file that no pattern matches never run, and nobody is told.',
  certain: 'Sure where the patterns of all runners can be read.',
  trouble: '// src/kiln-lid.specs.tsx, collected: **/*.spec.tsx',
  mended: '// src/kiln-lid.spec.tsx',
  run: (context) => [
    ...context.specFiles.flatMap((file) => check(file, context)),
    ...packagesWithSpecs(context).flatMap((each) => uncompiled(each, context)),
  ],
};

// Spec files that a builder collects, and that the settings it compiles with leave out.
function uncompiled({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  const found = new Map<CompilerSettings, SpecFileFacts[]>();
  for (const file of specFiles) {
    const [runner, ...others] = environment.runnersOf(file.path);
    if (!runner?.buildsWith || !runner.collects.known || others.length > 0) continue;
    const settings = context
      .compilersIn(dirname(runner.buildsWith))
      .find((each) => each.file === runner.buildsWith);
    // What another file imports is compiled with that one.
    if (!settings || settings.takes(file.path)) continue;
    if (context.imports().loadersOf((_, target) => target?.path === file.path).size > 0) continue;
    found.set(settings, [...(found.get(settings) ?? []), file]);
  }
  return [...found].flatMap(([settings, files]): Finding[] => {
    const [first] = files;
    return first
      ? [
          {
            place: { file: first.path, start: 0, end: 0 },
            certainty: 'sure',
            message: messageUncompiled(basename(settings.file), files),
            advice: adviceUncompiled,
            evidence: [{ file: settings.file, start: 0, end: 0, note: 'the settings that it is built with' }],
          },
        ]
      : [];
  });
}

function check(file: SpecFileFacts, context: ProjectContext): Finding[] {
  const environment = context.environmentOf(file.path);
  const collections = known(environment, file);
  if (!collections || environment.runnersOf(file.path).length > 0) return [];
  if (context.specFiles.some((other) => other !== file && other.get(IMPORTED).has(file.path))) return [];
  // What somebody left out on purpose is theirs to know, unless it shows components.
  const excluded = collections.some((collection) =>
    collector({ ...collection, exclude: [], leftOut: [] })(file.path),
  );
  if (excluded && file.get(RENDERS) === 0) return [];
  const names = environment.runners.map(({ runner }) => runner);
  return [
    {
      place: { file: file.path, start: 0, end: 0 },
      certainty: 'sure',
      message: message([...new Set(names)]),
      advice: adviceFor(file.path, collections, context),
      evidence: collections.map((collection) => ({
        ...collection.at,
        note: collection.byDefault
          ? 'these settings leave the patterns at the default'
          : 'the patterns are set here',
      })),
    },
  ];
}

// What keeps it out in the run that comes nearest to taking it.
function adviceFor(path: string, collections: readonly Collection[], { root }: ProjectContext): string {
  const reasons = collections.map((collection) => ({ collection, why: leftOut(collection)(path) }));
  const by = (...names: readonly string[]): (typeof reasons)[number] | undefined =>
    reasons.find(({ why }) => why && names.includes(why.by));
  if (by('filters')) return adviceFilter;
  const entry = by('exclude', 'leftOut')?.why;
  if (entry && 'entry' in entry) return adviceEntry(entry.entry);
  const seen = by('endings')?.collection.endings;
  if (seen) return adviceEndings(extname(path), seen);
  const included = by('include')?.collection;
  if (included) return advice([...included.include, ...included.patterns]);
  return adviceRoots(collections.flatMap(({ roots }) => roots.map((each) => relativeTo(root, each))));
}

// All runners must be readable, and one of them must be the file's own.
function known(environment: Environment, file: SpecFileFacts): Collection[] | undefined {
  const collections: Collection[] = [];
  for (const runner of environment.runners) {
    if (!runner.collects.known || !runner.settingsFile) return undefined;
    collections.push(runner.collects.value);
  }
  const mine = environment.runners.some((runner) => isRunnerOf(runner, file));
  const inside = environment.runners.some(
    ({ folder, settingsFile = '' }) =>
      isWithin(folder, file.path) || isWithin(dirname(settingsFile), file.path),
  );
  return collections.length > 0 && mine && inside ? collections : undefined;
}

function isRunnerOf({ runner }: RunnerFacts, file: SpecFileFacts): boolean {
  if (file.get(RUNNER_MODULES).length === 0) return true;
  return file
    .get(RUNNER_MODULES)
    .some(
      (module) => module.replace('@', '').startsWith(runner) || (runner === 'node' && module === 'node:test'),
    );
}

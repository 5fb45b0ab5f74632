import type { CompilerSettings } from '../../environment/compiler-settings.js';
import { type Environment } from '../../environment/environment.js';
import type { PlacedText } from '../../environment/setting.js';
import { typeSources } from '../../model/code/type-sources.js';
import { dirname, isWithin } from '../../util/paths.js';
import type { Found, ProjectCheck, ProjectContext, SpecFileFacts } from '../check.js';
import { andMore, packagesWithSpecs, unique, type Package } from './packages.js';

const message = (what: string, listed: string, files: readonly unknown[]): string =>
  `The compiler only knows the types listed here (${listed}), and not those of ${what}, which the spec files use${andMore(files)}.`;
const advice = (entry: string): string => `Add “${entry}” to the list.`;

/** A list of types that leaves the test types out. */
export const E08: ProjectCheck = {
  code: 'E08',
  family: 'environment',
  scope: 'project',
  title: 'Compiler does not know the test types',
  level: 'hint',
  why: 'Every global and matcher is underlined in red, and people learn to look past red lines.',
  trouble: '"compilerOptions": { "types": ["vite/client"] }',
  mended: '"compilerOptions": { "types": ["vite/client", "vitest/globals"] }',
  run: (context) => unique(packagesWithSpecs(context).flatMap((each) => check(each, context))),
};

/** Type packages that bring a runner's globals: the first is the one to add. */
const GLOBAL_TYPES: Readonly<Record<string, readonly string[]>> = {
  vitest: ['vitest/globals'],
  jest: ['jest', '@types/jest', 'jest-jasmine2'],
  mocha: ['mocha', '@types/mocha', 'jest', 'jasmine'],
  jasmine: ['jasmine', '@types/jasmine'],
  karma: ['jasmine', '@types/jasmine', 'mocha'],
  'react-scripts': ['jest', '@types/jest', 'react-scripts'],
};

// Lists of these only bring types that have nothing to do with specs.
const PLAIN_TYPES =
  /^(?:node|@types\/node|vite\/client|vite\/types\/.*|vitest\/(?:globals|importMeta|jsdom)|jest|mocha|chai|sinon|jasmine|jsdom|react|react-dom|vue|@types\/.*|@testing-library\/jest-dom(?:\/.*)?|webpack-env|dom|google\.maps|\.\/.*|\.\.\/.*)$/;

function check({ environment, specFiles }: Package, context: ProjectContext): Found[] {
  const typed = specFiles.filter(({ path }) => /\.[cm]?tsx?$/.test(path) && !/\.d\.ts$/.test(path));
  const bySettings = new Map<
    string,
    {
      list: readonly PlacedText[];
      settings: CompilerSettings;
      files: SpecFileFacts[];
      entries: readonly string[];
    }
  >();
  for (const file of typed) {
    const entries = neededBy(file, environment);
    const covering = entries && coveringSettings(file.path, environment, context);
    const [first] = covering ?? [];
    if (!entries || !covering || !first) continue;
    if (!covering.every((each) => leavesOut(each, entries)) || !first.types.known || !first.types.value)
      continue;
    const known = bySettings.get(first.file);
    if (known) known.files.push(file);
    else bySettings.set(first.file, { list: first.types.value, settings: first, files: [file], entries });
  }
  return [...bySettings.values()].flatMap((each) =>
    isBrought(environment, each.entries, context) ? [] : [found(each, environment)],
  );
}

function neededBy(file: SpecFileFacts, environment: Environment): readonly string[] | undefined {
  const runners = environment.runnersOf(file.path);
  const [runner] = runners;
  const isGlobal = runners.length === 1 && runner?.globals.known && runner.globals.value;
  if (!isGlobal || file.globals.size === 0) return undefined;
  const kind =
    runner.runner === 'angular'
      ? runner.document.known && runner.document.value === 'jsdom'
        ? 'vitest'
        : 'karma'
      : runner.runner;
  return GLOBAL_TYPES[kind];
}

// All settings from the file's folder up to the package's that read the file.
function coveringSettings(
  file: string,
  { folder }: Environment,
  context: ProjectContext,
): CompilerSettings[] {
  const found: CompilerSettings[] = [];
  for (let at = dirname(file); isWithin(folder, at); at = dirname(at)) {
    found.push(...context.compilersIn(at).filter((each) => each.takes(file)));
  }
  return found;
}

const leavesOut = ({ types }: CompilerSettings, entries: readonly string[]): boolean =>
  types.known &&
  types.value !== undefined &&
  types.value.every(({ text }) => !entries.includes(text) && PLAIN_TYPES.test(text));

// A reference or an import anywhere in the package, or at the workspace root, brings the types as well.
function isBrought(
  { folder, outer }: Environment,
  entries: readonly string[],
  { files, project, sources, specFiles }: ProjectContext,
): boolean {
  const top = outer.at(-1)?.folder ?? folder;
  const declarations = files
    .list(top, ['**/node_modules/**', '**/dist/**'], () => undefined)
    .filter((path) => /\.d\.[cm]?ts$/.test(path));
  const scripts = [...sources, ...specFiles.map(({ path }) => path)];
  return [...declarations, ...scripts].some((path) => {
    const modules = project.summary(path)?.modules ?? [];
    if (modules.some(({ specifier }) => entries.includes(specifier))) return true;
    const source = project.source(path);
    // Few scripts have references: the text tells which to look into.
    if (!source || (!declarations.includes(path) && !source.text.includes('<reference'))) return false;
    return typeSources(source).some((each) => entries.includes(each));
  });
}

function found(
  {
    list,
    settings,
    files,
    entries,
  }: {
    list: readonly PlacedText[];
    settings: CompilerSettings;
    files: readonly SpecFileFacts[];
    entries: readonly string[];
  },
  environment: Environment,
): Found {
  const [entry = ''] = entries;
  const place =
    settings.types.known && settings.types.at ? settings.types.at : { file: settings.file, start: 0, end: 0 };
  const last = list.at(-1);
  const isAngular = environment.runners.some(({ runner }) => runner === 'angular');
  return {
    place,
    // Angular's build stops where a type is missing.
    level: isAngular ? 'blocker' : undefined,
    certainty: 'sure',
    message: message(entry, list.map(({ text }) => text).join(', ') || 'none', files),
    advice: advice(entry),
    mend: {
      summary: `Add ${entry}`,
      safe: true,
      edits: [
        last
          ? { file: last.at.file, start: last.at.end, end: last.at.end, text: `, "${entry}"` }
          : { file: place.file, start: place.start + 1, end: place.start + 1, text: `"${entry}"` },
      ],
    },
  };
}

import { isTypeScript } from '../../util/paths.js';
import { GLOBALS, MATCHERS } from '../questions/facts.js';
import { belongsTo, MATCHER_EXTENSIONS } from '../../libraries/matchers.js';
import type { CompilerSettings } from '../../environment/compiler-settings.js';
import { wordedBy, type Environment } from '../../environment/facts/environment.js';
import type { PlacedText } from '../../environment/settings/setting.js';
import { typeSources } from '../../project/type-sources.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext, SpecFileFacts } from '../questions/context.js';
import { andMore, compilersAround, packagesWithSpecs, unique, type Package } from '../questions/packages.js';

const message = (what: string, listed: string, files: readonly unknown[]): string =>
  `The compiler only knows the types listed here (${listed}), and not those of ${what}, which the spec files use${andMore(files)}.`;
const advice = (entry: string): string => `Add “${entry}” to the list.`;

/** A list of types that leaves the test types out. */
export const E08: ProjectCheck = {
  code: 'E08',
  family: 'environment',
  scope: 'project',
  facts: [GLOBALS, MATCHERS],
  title: 'Compiler does not know the test types',
  level: 'hint',
  why: 'Every global and matcher is underlined in red, and people learn to look past red lines.',
  certain: 'Sure where the compiler settings and what they extend can be read.',
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

/** Types that spec files need, and the settings that leave them out. */
interface Lack {
  /** Entries that would bring them, the one to add first. */
  entries: readonly string[];
  settings: CompilerSettings;
  list: readonly PlacedText[];
  covering: readonly CompilerSettings[];
  files: SpecFileFacts[];
}

function check({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  const lacks = new Map<string, Lack>();
  for (const file of specFiles.filter(({ path }) => isTypeScript(path))) {
    const [builder] = environment.runnersOf(file.path);
    const covering = compilersAround(file.path, environment, context)
      .filter((each) => each.takes(file.path))
      .filter((each) => !builder?.buildsWith || each.file === builder.buildsWith);
    const [settings] = covering;
    if (!settings?.types.known || !settings.types.value) continue;
    for (const entries of neededBy(file, environment, context)) {
      if (!covering.every((each) => leavesOut(each, entries))) continue;
      const key = `${settings.file}\0${entries[0] ?? ''}`;
      const lack = lacks.get(key) ?? { entries, settings, list: settings.types.value, covering, files: [] };
      lack.files.push(file);
      lacks.set(key, lack);
    }
  }
  return [...lacks.values()].flatMap((lack) =>
    isBrought(lack, environment, context) ? [] : [found(lack, environment)],
  );
}

// For the runner's globals, and for the matchers that a set-up file brings: entries that know them.
function neededBy(
  file: SpecFileFacts,
  environment: Environment,
  context: ProjectContext,
): (readonly string[])[] {
  const [runner, ...others] = environment.runnersOf(file.path);
  const kind = runner && wordedBy(runner);
  if (!kind || others.length > 0) return [];
  const usesGlobals = runner.globals.known && runner.globals.value && file.get(GLOBALS).size > 0;
  const globals = usesGlobals ? GLOBAL_TYPES[kind] : undefined;
  const packages = [...(context.setupOf(file.path)?.packages ?? [])];
  const extensions = MATCHER_EXTENSIONS.filter(
    (each) =>
      packages.some((name) => belongsTo(each, name)) &&
      [...file.get(MATCHERS).keys()].some((matcher) => each.matchers.has(matcher)),
  );
  const matchers = extensions.flatMap(({ load, modules }) => {
    const entry = load && (load[kind] ?? load['other']);
    return entry
      ? [[entry, ...modules.flatMap((name) => [name, `${name}/vitest`, `${name}/jest-globals`])]]
      : [];
  });
  return globals ? [globals, ...matchers] : matchers;
}

const leavesOut = ({ types }: CompilerSettings, entries: readonly string[]): boolean =>
  types.known &&
  types.value !== undefined &&
  types.value.every(({ text }) => !entries.includes(text) && PLAIN_TYPES.test(text));

// A reference or an import in what the compiler reads, or in any declaration file, brings the types as well.
function isBrought(
  { entries, covering }: Lack,
  { folder, outer }: Environment,
  { files, project, sources, specFiles }: ProjectContext,
): boolean {
  const top = outer.at(-1)?.folder ?? folder;
  const declarations = files
    .list(top, ['**/node_modules/**', '**/dist/**'], () => undefined)
    .filter((path) => /\.d\.[cm]?ts$/.test(path));
  const scripts = [...sources, ...specFiles.map(({ path }) => path)];
  const read = scripts.filter((path) => covering.some((each) => each.takes(path)));
  return [...declarations, ...read].some((path) => {
    const modules = project.summary(path)?.modules ?? [];
    if (modules.some(({ specifier }) => entries.includes(specifier))) return true;
    const source = project.source(path);
    // Few scripts have references: the text tells which to look into.
    if (!source || (!declarations.includes(path) && !source.text.includes('<reference'))) return false;
    return typeSources(source).some((each) => entries.includes(each));
  });
}

function found({ entries, settings, list, files }: Lack, environment: Environment): Finding {
  const [entry = ''] = entries;
  const place =
    settings.types.known && settings.types.at ? settings.types.at : { file: settings.file, start: 0, end: 0 };
  const last = list.at(-1)?.at;
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
          ? { file: last.file, start: last.end, end: last.end, text: `, "${entry}"` }
          : { ...place, text: `["${entry}"]` },
      ],
    },
  };
}

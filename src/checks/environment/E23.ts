import type { Environment, NamedModule, RunnerFacts } from '../../environment/facts/environment.js';
import { keepsConstants } from '../../environment/settings/babel-settings.js';
import { mayMatch } from '../../util/pattern.js';
import { runsModules } from '../../environment/settings/commands.js';
import type { Finding, Place } from '../../finding.js';
import { isMatcherExtension } from '../../libraries/matchers.js';
import type { ProjectCheck } from '../questions/check.js';
import { inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { LIFTED, MODULES } from '../questions/facts.js';
import { reachableFrom } from '../../project/reachable.js';
import { packagesWithSpecs, unique } from '../questions/packages.js';
import { DOCUMENTS } from '../questions/setup-effects.js';
import { setsUp } from '../questions/sets-up.js';
import { isLoadedByNode } from '../../environment/tables/runners.js';

const message = (text: string, key: string, what: string): string =>
  `${text} ${what}, and ${key} runs it where none of that is there yet.`;
const messageEarly = (specifier: string, name: string): string =>
  `The stand-in for ${specifier} is made with the first import, and ${name} is not there yet.`;
const messageUndefined = (specifier: string, name: string): string =>
  `The stand-in for ${specifier} is made with the first import: it gets ${name} before anything is in it, unless const is kept as it is.`;
const adviceEarly = (runner: string, name: string): string =>
  runner === 'vitest'
    ? `Make it in vi.hoisted: const { ${name} } = vi.hoisted(() => ({ ${name}: … }));`
    : `Read it only when it is called: (...given) => ${name}(...given), or make it inside.`;
const messageBare = (specifier: string): string =>
  `${specifier} is loaded before the document is there: what it gives for the whole page, such as screen, throws from then on.`;
const adviceBare = 'Load what puts the document in place first, in a file or an option of its own.';
const advice = (key: string): string => `Name it under ${key}: that runs before each spec file.`;

/** A set-up file that needs the runner's functions, run before or outside of them. */
export const E23: ProjectCheck = {
  code: 'E23',
  family: 'environment',
  scope: 'project',
  facts: [LIFTED, MODULES],
  title: 'Set-up at the wrong moment',
  level: 'blocker',
  why: 'The file throws before the first spec, or does what it does in a process of its own that no spec sees.',
  certain: 'Sure where the file is there and its use of the runner can be read.',
  trouble: '"setupFiles": ["./test/setup.js"] // which calls expect.extend',
  mended: '"setupFilesAfterEnv": ["./test/setup.js"]',
  run: (context) =>
    unique(
      packagesWithSpecs(context).flatMap(({ environment, specFiles }) => [
        ...environment.runners.flatMap((runner) => [
          ...check(runner, context),
          ...(isLoadedByNode(runner.runner) ? beforeDocument(runner, specFiles, context) : []),
        ]),
        ...specFiles.flatMap((file) => tooEarly(file, environment, context)),
      ]),
    ),
};

// vitest 1 to 4, and the transforms of jest 27 to 30: the call runs before all statements, its factory with the first
// import of the module. Only constants move along with it in jest.
function tooEarly(file: SpecFileFacts, environment: Environment, { project }: ProjectContext): Finding[] {
  const [runner, ...others] = environment.runnersOf(file.path);
  if (!runner || others.length > 0 || MEANT[runner.runner] === undefined) return [];
  // As ES modules nothing is lifted: the runner's own functions come by an import as well.
  if (runner.commands.some(runsModules)) return [];
  const imported = file.get(MODULES).filter(({ required }) => !required);
  return file
    .get(LIFTED)
    .flatMap(({ specifier, file: replaced, name, isConstant, start, end }): Finding[] => {
      if (isConstant && runner.runner !== 'vitest') return [];
      const leadsThere = (path: string, each: string): boolean =>
        replaced === undefined ? each === specifier : project.resolve(path, each) === replaced;
      const starts = imported.flatMap((each) => project.resolve(file.path, each.specifier) ?? []);
      const isLoaded =
        imported.some((each) => leadsThere(file.path, each.specifier)) ||
        [...reachableFrom(project, starts).files].some((path) =>
          (project.summary(path)?.modules ?? []).some((each) => leadsThere(path, each.specifier)),
        );
      if (!isLoaded) return [];
      const throws = keepsConst(runner, file.path);
      return [
        {
          place: inSpecFile(file, { start, end }),
          ...(throws ? {} : { level: 'risk' as const }),
          certainty: throws ? 'sure' : 'likely',
          message: (throws ? messageEarly : messageUndefined)(specifier, name),
          advice: adviceEarly(runner.runner, name),
        },
      ];
    });
}

// What is read before its `const` stops the run; of the `var` that older engines get, nothing is read.
function keepsConst({ runner, transforms }: RunnerFacts, path: string): boolean {
  if (runner === 'vitest') return true;
  if (!transforms.known || transforms.value.by !== 'rules') return false;
  const { rules, babel } = transforms.value;
  const by = rules.find(({ pattern }) => mayMatch(pattern, path))?.by;
  return by === '' || by === 'babel-jest'
    ? babel.known && keepsConstants(babel.value)
    : by !== undefined && KEEP.has(by);
}

// ts-jest 27 to 29 and @swc/jest: for engines that have it, unless they are told otherwise.
const KEEP: ReadonlySet<string> = new Set(['ts-jest', '@swc/jest', 'esbuild-jest']);

// jest 24 to 30: `setupFiles` run before its functions are there. Both runners: `globalSetup` runs in another process.
const MEANT: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  jest: { setupFiles: 'setupFilesAfterEnv', globalSetup: 'setupFilesAfterEnv' },
  vitest: { globalSetup: 'setupFiles' },
};

function check({ runner, setupFiles }: RunnerFacts, context: ProjectContext): Finding[] {
  const meant = MEANT[runner];
  if (!meant || !setupFiles.known) return [];
  return setupFiles.value.flatMap((named): Finding[] => {
    const instead = meant[named.key];
    const what = instead === undefined ? undefined : needs(named, context);
    if (instead === undefined || what === undefined) return [];
    return [
      {
        place: named.at,
        certainty: 'sure',
        message: message(named.text, named.key, what),
        advice: advice(instead),
      },
    ];
  });
}

// @testing-library/dom 8 to 10: `screen` is made as the module is loaded, of the document that is there.
function beforeDocument(
  { setupFiles }: RunnerFacts,
  specFiles: readonly SpecFileFacts[],
  { project, files }: ProjectContext,
): Finding[] {
  const usesScreen = specFiles.some(({ path }) =>
    [...(project.summary(path)?.imports.values() ?? [])].some(
      ({ specifier, name }) => name === 'screen' && isOfQueries(specifier),
    ),
  );
  if (!usesScreen || !setupFiles.known) return [];
  const loaded = setupFiles.value.flatMap(({ text, candidates, at }) => {
    const file = candidates.find((each) => files.kind(each) === 'file');
    return file === undefined ? [{ specifier: text, place: at }] : loadedInOrder(file, project);
  });
  const document = loaded.findIndex(({ specifier }) => DOCUMENTS.has(specifier));
  const queries = loaded.findIndex(({ specifier }) => isOfQueries(specifier));
  const early = queries >= 0 && queries < document ? loaded[queries] : undefined;
  if (!early) return [];
  return [
    { place: early.place, certainty: 'sure', message: messageBare(early.specifier), advice: adviceBare },
  ];
}

const isOfQueries = (specifier: string): boolean =>
  /^@testing-library\/(?:dom|react|preact|vue|angular|svelte)$/.test(specifier);

// The packages that a module loads, in the order in which they run.
function loadedInOrder(
  path: string,
  project: ProjectContext['project'],
  seen = new Set<string>(),
): { specifier: string; place: Place }[] {
  if (seen.has(path)) return [];
  seen.add(path);
  return (project.summary(path)?.modules ?? []).flatMap(({ specifier, start, end }) => {
    const target = project.resolve(path, specifier);
    return target ? loadedInOrder(target, project, seen) : [{ specifier, place: { file: path, start, end } }];
  });
}

// What it has of the runner: its hooks, its matchers, or a package that adds to them.
function needs({ candidates, text, key }: NamedModule, context: ProjectContext): string | undefined {
  const { files, project } = context;
  if (candidates.length === 0) return isMatcherExtension(text) ? 'registers matchers' : undefined;
  const path = candidates.find((each) => files.kind(each) === 'file');
  if (path === undefined || (key === 'globalSetup' && isGlobalSetup(path, project))) return undefined;
  const found = setsUp(path, context);
  return found?.needsRunner ? found.what : undefined;
}

// What it exports is what runs there.
const isGlobalSetup = (path: string, project: ProjectContext['project']): boolean =>
  ['default', 'setup'].some((name) => project.summary(path)?.exports.has(name));

import type { Environment, NamedModule, RunnerFacts } from '../../environment/facts/environment.js';
import { runsModules } from '../../environment/settings/commands.js';
import type { Finding } from '../../finding.js';
import { isMatcherExtension } from '../../libraries/matchers.js';
import type { ProjectCheck } from '../questions/check.js';
import { inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { LIFTED, MODULES } from '../questions/facts.js';
import { reachableFrom } from '../../project/reachable.js';
import { packagesWithSpecs, unique } from '../questions/packages.js';
import { setsUp } from '../questions/sets-up.js';

const message = (text: string, key: string, what: string): string =>
  `${text} ${what}, and ${key} runs it where none of that is there yet.`;
const messageEarly = (specifier: string, name: string): string =>
  `The stand-in for ${specifier} is made with the first import, and ${name} is not there yet.`;
const adviceEarly = (runner: string, name: string): string =>
  runner === 'vitest'
    ? `Make it in vi.hoisted: const { ${name} } = vi.hoisted(() => ({ ${name}: … }));`
    : `Read it only when it is called: (...given) => ${name}(...given), or make it inside.`;
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
        ...environment.runners.flatMap((runner) => check(runner, context)),
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
      return [
        {
          place: inSpecFile(file, { start, end }),
          certainty: 'sure',
          message: messageEarly(specifier, name),
          advice: adviceEarly(runner.runner, name),
        },
      ];
    });
}

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

import { RUNNER_MODULES } from '../questions/facts.js';
import { has, manifestsOf, type Environment } from '../../environment/facts/environment.js';
import type { Manifest } from '../../environment/settings/manifest.js';
import { commandsOf, type Command } from '../../environment/settings/commands.js';
import { startedBy } from '../../environment/read.js';
import { RUNNERS } from '../../environment/tables/runners.js';
import { settingAt } from '../../environment/settings/setting.js';
import { foldersUp, join } from '../../util/paths.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext } from '../questions/context.js';
import { packagesWithSpecs, unique, type Package } from '../questions/packages.js';

const messageNone = (files: number): string =>
  `No script starts a runner, here or at the workspace root: ${files === 1 ? 'the spec file' : `none of the ${files} spec files`} of this package ${files === 1 ? 'is not run' : 'is run'}.`;
const messageUndeclared = (script: string, program: string): string =>
  `The script “${script}” starts ${program}, and no package that brings it is there.`;
const messageCalls = (script: string, called: string): string =>
  `The script “${script}” calls the script “${called}”, which is not there.`;
const adviceCalls = 'Correct its name, or write it.';
const adviceAdd = (line: string): string => `Add a script, such as ${line}`;
const adviceDeclare = (name: string): string => `Declare it: npm install --save-dev ${name}`;

/** A package whose specs no command runs, or whose command starts a runner that is not there. */
export const E01: ProjectCheck = {
  code: 'E01',
  family: 'environment',
  scope: 'project',
  facts: [RUNNER_MODULES],
  title: 'No command runs this suite',
  level: 'blocker',
  why: 'Specs that no script starts are run by nobody: neither by a colleague nor before the merge.',
  certain: 'Sure where the manifest can be read.',
  trouble: '"scripts": { "build": "vite build" }',
  mended: '"scripts": { "build": "vite build", "test": "vitest run" }',
  run: (context) => unique(packagesWithSpecs(context).flatMap((each) => check(each, context))),
};

function check({ environment, specFiles }: Package, { files }: ProjectContext): Finding[] {
  const { manifest, runners, isWhole } = environment;
  if (!manifest || !isWhole) return [];
  const commands = runners.flatMap((runner) => runner.commands);
  const calls = callsNothing(manifest);
  if (calls.length > 0) return calls;
  if (commands.length > 0) return undeclared(environment, files);
  if (mayRun(environment, files)) return [];
  const scripts = settingAt(manifest.setting, 'scripts');
  const runner =
    runners[0]?.runner ?? runnerOf(specFiles.flatMap((specFile) => specFile.get(RUNNER_MODULES)));
  return [
    {
      place: scripts?.at ?? { file: manifest.file, start: 0, end: 1 },
      certainty: 'sure',
      message: messageNone(specFiles.length),
      advice: adviceAdd(`"test": "${(runner && ONE_RUN[runner]) ?? 'vitest run'}"`),
    },
  ];
}

const ONE_RUN: Readonly<Record<string, string>> = {
  jest: 'jest',
  vitest: 'vitest run',
  mocha: 'mocha',
  jasmine: 'jasmine',
  karma: 'karma start --single-run',
  angular: 'ng test --watch=false',
  'react-scripts': 'react-scripts test --watchAll=false',
};

const runnerOf = (modules: readonly string[]): string | undefined =>
  RUNNERS.find(({ name }) => modules.some((module) => module.replace('@', '').startsWith(name)))?.name;

// A declared package that brings the program along.
const BRINGERS: Readonly<Record<string, readonly string[]>> = {
  jest: ['react-scripts', '@vue/cli-plugin-unit-jest', 'jest-cli'],
  mocha: ['@vue/cli-plugin-unit-mocha'],
  jasmine: ['jasmine-core'],
  angular: ['@angular/cli'],
  vitest: ['vite-plus'],
};

// A script that calls another one which is not there.
const callsNothing = (manifest: Manifest): Finding[] =>
  commandsOf(manifest)
    .filter(({ script, missing }) => missing && /test|spec|unit/i.test(script))
    .map(({ script, program, at }) => ({
      place: at,
      certainty: 'sure',
      message: messageCalls(script, program),
      advice: adviceCalls,
    }));

function undeclared(environment: Environment, files: ProjectContext['files']): Finding[] {
  return RUNNERS.flatMap((row) => {
    const command = environment.runners.find(({ runner }) => runner === row.name)?.commands[0];
    const packages = [...row.packages, ...(BRINGERS[row.name] ?? [])];
    if (!command || row.packages.length === 0 || isFetched(command, environment)) return [];
    // Where packages are installed, their programs lie there.
    const isThere = environment.hasInstalls
      ? programAt(environment.folder, command.program, files)
      : packages.some((name) => has(environment, name)) || mayBringPrograms(environment);
    if (isThere) return [];
    const from = row.programs.find(({ program }) => program === command.program)?.from;
    const first = from ?? row.packages[0] ?? row.name;
    return [
      {
        place: command.at,
        certainty: 'sure' as const,
        message: messageUndeclared(command.script, command.program),
        advice: adviceDeclare(first),
      },
    ];
  });
}

const programAt = (folder: string, program: string, files: ProjectContext['files']): boolean =>
  foldersUp(folder)
    .map((at) => join(at, 'node_modules/.bin', program))
    .some((path) => files.kind(path) ?? files.kind(`${path}.cmd`));

// `npx vitest` fetches what is not declared.
const isFetched = ({ script }: Command, environment: Environment): boolean =>
  manifestsOf(environment).some(({ scripts }) =>
    /\b(?:npx|bunx|dlx|exec)\b/.test(scripts.get(script)?.command ?? ''),
  );

const mayBringPrograms = (environment: Environment): boolean =>
  manifestsOf(environment).some(({ dependencies }) =>
    [...dependencies.keys()].some((name) =>
      /scripts|preset|tool|cli|config/.test(name.split('/').at(-1) ?? ''),
    ),
  );

const TASK_FILES = [
  'nx.json',
  'project.json',
  'Makefile',
  'Taskfile.yml',
  'justfile',
  'moon.yml',
  'BUILD',
  'BUILD.bazel',
  'gulpfile.js',
  'Gruntfile.js',
];
const HARMLESS = new Set(['echo', 'exit', 'true', 'false', 'tsc', 'vue-tsc', 'node']);

// Whether something that can't be looked into may start the specs.
function mayRun(environment: Environment, files: ProjectContext['files']): boolean {
  const manifests = manifestsOf(environment);
  if (manifests.some(({ folder }) => TASK_FILES.some((name) => files.kind(join(folder, name))))) return true;
  const commands = manifests
    .flatMap(commandsOf)
    .filter(({ script }) => /test|spec|unit|check|verify|ci\b/i.test(script));
  return commands.some(
    (command) => !isHarmless(command) && !RUNNERS.some((row) => startedBy(row, command, manifests)),
  );
}

// `node` on its own runs nothing; with a file it may run anything.
const isHarmless = ({ program, args }: Command): boolean =>
  HARMLESS.has(program) && (program !== 'node' || args.every((arg) => arg.startsWith('-')));

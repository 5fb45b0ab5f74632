import { has, type Environment, type RunnerFacts } from '../../environment/facts/environment.js';
import type { Finding, Span } from '../../finding.js';
import {
  mergedFunction,
  requiresAsModule,
  unkeptSettings,
  wholeExports,
} from '../../project/settings-questions.js';
import { isModuleByNode } from '../questions/module-packages.js';
import { basename } from '../../util/paths.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';
import { packagesWithSpecs, unique } from '../questions/packages.js';

const messageUnkept = (name: string): string =>
  `${name} gives its settings by a function, and never says how long they may be kept: Babel stops there.`;
const adviceUnkept = 'Say it first: api.cache(true);';
const messageJoined = (name: string): string =>
  `${name} joins settings of which one is a function, and mergeConfig takes objects alone: it throws.`;
const adviceJoined = 'Call it first: mergeConfig(base(env), …), inside of a function of your own.';
const messageKind = (name: string): string =>
  `${name} sets module.exports, and its package says that its scripts are ES modules: there is no module to set.`;
const adviceKind = (name: string): string => `Rename it to ${name}, or write export default.`;
const messageMixed = (name: string): string =>
  `${name} exports as an ES module does, and calls require, which there is not in one.`;
const adviceMixed = 'Import what it requires, or write module.exports.';
const adviceBundled = 'Write it as the ES module that it is: import, and export default.';
const messageLoader = (name: string, runner: string): string =>
  `${name} is written in TypeScript, and nothing that ${runner} could compile it with is there.`;
const adviceLoader = 'Install ts-node, or write the settings in JavaScript.';

/** A settings file that Node can't load as it is written. */
export const E24: ProjectCheck = {
  code: 'E24',
  family: 'environment',
  scope: 'project',
  title: 'Settings file that can’t be loaded',
  level: 'blocker',
  why: 'The runner stops at its own settings, with a message that speaks of modules and not of specs.',
  certain: 'Sure where the manifest says what kind of module its scripts are.',
  trouble: '// "type": "module" in package.json\nmodule.exports = { testEnvironment: \'jsdom\' };',
  mended: "export default { testEnvironment: 'jsdom' };",
  run: (context) =>
    unique(
      packagesWithSpecs(context).flatMap(({ environment }) =>
        environment.runners.flatMap((runner) => [
          ...filesOf(runner).flatMap((file) => [...kindOf(file, context), ...mixed(file, context)]),
          ...withoutLoader(runner, environment),
          ...bundled(runner, context),
          ...unkept(runner, context),
        ]),
      ),
    ),
};

// @babel/core 7 and 8, config/full: “Caching was left unconfigured”.
function unkept({ transforms }: RunnerFacts, { project }: ProjectContext): Finding[] {
  const babel = transforms.known && transforms.value.by === 'rules' ? transforms.value.babel : undefined;
  const file = babel?.known ? babel.value?.file : undefined;
  return file !== undefined && /\.[cm]?[jt]s$/.test(file)
    ? told(file, unkeptSettings(project, file), messageUnkept(basename(file)), adviceUnkept)
    : [];
}

// The bundler compiles its settings by itself.
const filesOf = ({ runner, settingsFile, transforms }: RunnerFacts): string[] => [
  ...(settingsFile && runner !== 'vitest' ? [settingsFile] : []),
  ...(transforms.known && transforms.value.by === 'rules' && transforms.value.babel.known
    ? [transforms.value.babel.value?.file ?? '']
    : []),
];

function kindOf(file: string, context: ProjectContext): Finding[] {
  if (!file.endsWith('.js') || !isModuleByNode(file, context)) return [];
  const name = basename(file);
  const advice = adviceKind(name.replace(/\.js$/, '.cjs'));
  return told(file, wholeExports(context.project, file), messageKind(name), advice);
}

// vite 4 to 8 bundles its settings, and runs them as what the name and the manifest say: an ES module has neither
// `module.exports` nor a `require` that it could call.
function bundled({ runner, settingsFile: file }: RunnerFacts, context: ProjectContext): Finding[] {
  if (runner !== 'vitest' || file === undefined || !/\.[cm]?[jt]s$/.test(file)) return [];
  const { project } = context;
  const name = basename(file);
  // “Cannot merge config in form of callback”.
  const joined = told(file, mergedFunction(project, file), messageJoined(name), adviceJoined);
  if (!isModuleByNode(file, context)) return joined;
  return [
    ...joined,
    ...told(file, wholeExports(project, file), messageKind(name), adviceBundled),
    ...told(file, requiresAsModule(project, file), messageMixed(name), adviceBundled),
  ];
}

// As CommonJS it stops at the export, as an ES module at the call.
function mixed(file: string, { project }: ProjectContext): Finding[] {
  const call = /\.m?js$/.test(file) ? requiresAsModule(project, file) : undefined;
  return told(file, call, messageMixed(basename(file)), adviceMixed);
}

const told = (file: string, span: Span | undefined, message: string, advice: string): Finding[] =>
  span ? [{ place: { file, ...span }, certainty: 'sure', message, advice }] : [];

// jest-config 26 to 29, readConfigFileAndSetRootDir: ts-node, from 29.5 on esbuild-register as well; Node itself from 30 on.
function withoutLoader({ runner, settingsFile, major }: RunnerFacts, environment: Environment): Finding[] {
  const isTyped = settingsFile !== undefined && /\.[cm]?ts$/.test(settingsFile);
  if (runner !== 'jest' || !isTyped || major === undefined || major >= 30) return [];
  if (!environment.hasInstalls || ['ts-node', 'esbuild-register'].some((name) => has(environment, name)))
    return [];
  return [
    {
      place: { file: settingsFile, start: 0, end: 0 },
      certainty: 'sure',
      message: messageLoader(basename(settingsFile), runner),
      advice: adviceLoader,
    },
  ];
}

import { isLoadedByNode } from '../../environment/tables/runners.js';
import { CHOSEN_DOCUMENT, MODULES, KEPT_OUT } from '../questions/facts.js';
import type { RunnerFacts } from '../../environment/facts/environment.js';
import type { Project } from '../../project/project.js';
import {
  Compiling,
  DRAWN,
  KEPT,
  KEPT_BUNDLED,
  META,
  REQUIRE,
  TYPES_FOR_SWC,
  NO_NAME,
  NO_NAME_BUNDLED,
  NO_NAME_BY_COMPILER,
  NO_NAME_BY_PLUGIN,
  NO_NAME_BY_SWC,
  PLAIN_JSX,
  TEMPLATES,
  type Compiled,
} from '../questions/compiled.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding, Evidence, Place } from '../../finding.js';
import { setsName } from '../../project/module-questions.js';
import { mayMatch } from '../../util/pattern.js';
import { extname, isInstalled, packageOf } from '../../util/paths.js';
import type { ProjectContext, SpecFileFacts } from '../questions/context.js';
import type { UnfitPackage } from '../questions/module-packages.js';
import { isErased } from '../questions/missing-modules.js';
import { andMore, packagesWithSpecs, type Package } from '../questions/packages.js';

const messageKind = (kind: string, runner: string, files: readonly unknown[]): string =>
  `These specs load ${kind}${andMore(files)}, and nothing in the settings of ${runner} makes ${/files$/.test(kind) ? 'them' : 'it'} something that it can run.`;
const messagePackage = (
  name: string,
  unfit: UnfitPackage,
  runner: string,
  files: readonly unknown[],
): string =>
  `These specs load ${name}${andMore(files)}, which has ${unfit === 'alone' ? 'nothing but' : 'for browsers'} ES modules, and ${runner} leaves packages as they are.`;
const messageName = (files: readonly unknown[]): string =>
  `JSX becomes calls of React here${andMore(files)}, and the file has no such name.`;
const messageRequired = (specifier: string, runner: string, files: readonly unknown[]): string =>
  `${specifier} is asked for by require${andMore(files)}: ${runner} leaves that to Node, which can’t run the file.`;
const messageOfCompiler = (specifier: string, runner: string, files: readonly unknown[]): string =>
  `These specs load ${specifier}${andMore(files)}, which only the framework’s own compiler makes something that can be called, and ${runner} does not run it.`;
const messageMeta = (runner: string, files: readonly unknown[]): string =>
  `A file asks for import.meta here${andMore(files)}, which only an ES module has, and ${runner} runs it as CommonJS.`;
const messageRequire = (runner: string, files: readonly unknown[]): string =>
  `A file calls require here${andMore(files)}, and ${runner} runs it as an ES module, which has none.`;
const messageKept = (runner: string, files: readonly unknown[]): string =>
  `JSX stays as it is here${andMore(files)}, since the compiler is told to keep it, and ${runner} can’t run it.`;

/** Specs that reach a kind of file that the runner can't run and nothing transforms. */
export const E10: ProjectCheck = {
  code: 'E10',
  family: 'environment',
  scope: 'project',
  facts: [MODULES, KEPT_OUT, CHOSEN_DOCUMENT],
  title: 'No transform for this kind of file',
  level: 'blocker',
  why: 'The runner reads the file as plain JavaScript and stops at its first line.',
  certain: 'Sure where the transforms of the run can be read.',
  trouble: 'export default defineConfig({ test: {} }); // and the specs load GlazeCard.vue',
  mended:
    "import vue from '@vitejs/plugin-vue';\n\nexport default defineConfig({ plugins: [vue()], test: {} });",
  run: (context) => packagesWithSpecs(context).flatMap((each) => check(each, context)),
};

/** A file, or an import, that nothing can run, and the file that loads it. */
interface Trouble {
  kind: string;
  /** The kind is the name of a package. */
  unfit?: UnfitPackage;
  /** The import, of the file that is asked about, that leads there. */
  entry: string;
  from: string;
  specifier: string;
  /** The setting that makes it so. */
  at?: Place;
}

function check({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  const byKind = new Map<string, { file: SpecFileFacts; runner: RunnerFacts; trouble: Trouble }[]>();
  const compiling = new Compiling(environment, context);
  const shared = new Search(context.project, new Set());
  for (const file of specFiles) {
    const runners = environment.runnersOf(file.path);
    const [runner] = runners;
    const compiled = runner && runners.length === 1 ? compiling.of(file, runner) : undefined;
    if (!runner || !compiled) continue;
    // What a spec file replaces by stand-ins is another matter for each.
    const search = file.get(KEPT_OUT).size > 0 ? new Search(context.project, file.get(KEPT_OUT)) : shared;
    const trouble = search.below(file.path, compiled);
    if (!trouble || (trouble.kind.startsWith(NO_NAME) && isNamed(file, context))) continue;
    byKind.set(trouble.kind, [...(byKind.get(trouble.kind) ?? []), { file, runner, trouble }]);
  }
  return [...byKind.values()].flatMap((all) => {
    const [first] = all;
    return first ? [found(first.file, first.runner, first.trouble, all)] : [];
  });
}

// A set-up file may make the name that JSX becomes calls of global.
const isNamed = ({ path }: SpecFileFacts, { setupOf, project }: ProjectContext): boolean =>
  (setupOf(path)?.files ?? []).some((each) => setsName(project, each, 'React'));

// Endings that Node 20 to 24 tries for no name and compiles for none.
const UNKNOWN_TO_NODE = /\.(?:[cm]?tsx|jsx|vue)$/;
const REQUIRED = 'by require';
// next 13 to 16: modules that its own compiler takes calls of away; what they export is no function.
const OF_COMPILERS = /^(?:@next\/font|next\/font)\/(?:google|local)$/;
const MADE_BY_COMPILER = 'made by a compiler';

// Each file of the project is looked into once: what is wrong below it is the same for all that replace the same.
class Search {
  readonly #project: Project;
  readonly #replaced: ReadonlySet<string>;
  readonly #known = new Map<Compiled, Map<string, Trouble | undefined>>();

  constructor(project: Project, replaced: ReadonlySet<string>) {
    this.#project = project;
    this.#replaced = replaced;
  }

  below(path: string, compiled: Compiled): Trouble | undefined {
    const known = this.#known.get(compiled) ?? new Map<string, Trouble | undefined>();
    this.#known.set(compiled, known);
    if (known.has(path)) return known.get(path);
    // A file that imports itself on the way finds nothing more there.
    known.set(path, undefined);
    const trouble = this.#find(path, compiled);
    known.set(path, trouble);
    return trouble;
  }

  #find(path: string, compiled: Compiled): Trouble | undefined {
    const summary = this.#project.summary(path);
    const own = summary && compiled.unfit(path, summary);
    if (own) return { kind: own, entry: '', from: path, specifier: '', at: compiled.jsx(path)?.at };
    for (const { specifier, required } of summary?.modules ?? []) {
      const target = this.#project.resolve(path, specifier);
      if (this.#replaced.has(specifier) || (target && this.#replaced.has(target))) continue;
      // What a mapper sends to a file of the project is looked into as well.
      if (compiled.isMapped(specifier) && !(target && this.#project.summary(target))) continue;
      if (!compiled.isAway(specifier) && OF_COMPILERS.test(specifier))
        return { kind: MADE_BY_COMPILER, entry: specifier, from: path, specifier };
      if (
        required &&
        target &&
        compiled.leavesRequire &&
        UNKNOWN_TO_NODE.test(target) &&
        !isInstalled(target)
      )
        return { kind: REQUIRED, entry: specifier, from: path, specifier };
      if (target && this.#project.summary(target)) {
        const inside = this.below(target, compiled);
        if (inside)
          return inside.entry === '' && inside.from === target
            ? { ...inside, from: path, specifier, entry: specifier }
            : { ...inside, entry: specifier };
        continue;
      }
      const [, query] = specifier.split('?');
      const kind = compiled.unfit((target ?? specifier).replace(/\?.*$/, ''), undefined, query);
      if (kind) return { kind, entry: specifier, from: path, specifier };
      const unfit = target ? undefined : compiled.unfitPackage(path, specifier);
      if (unfit && !isErased(path, specifier, this.#project))
        return { kind: packageOf(specifier), unfit, entry: specifier, from: path, specifier };
    }
    return undefined;
  }
}

function found(file: SpecFileFacts, runner: RunnerFacts, trouble: Trouble, all: readonly unknown[]): Finding {
  const { kind, from, specifier, entry } = trouble;
  const chain: Evidence[] = [{ file: from, start: 0, end: 0, note: `loads ${specifier}` }];
  const own = file.get(MODULES).find((each) => each.specifier === entry);
  const transforms =
    trouble.at ?? (runner.transforms.known ? runner.transforms.value.at : runner.settings?.at);
  return {
    place: { file: file.path, start: own?.start ?? 0, end: own?.end ?? 0 },
    certainty: 'sure',
    message: trouble.unfit
      ? messagePackage(kind, trouble.unfit, runner.runner, all)
      : kind.startsWith(NO_NAME)
        ? messageName(all)
        : kind === MADE_BY_COMPILER
          ? messageOfCompiler(specifier, runner.runner, all)
          : kind === REQUIRED
            ? messageRequired(specifier, runner.runner, all)
            : kind === META
              ? messageMeta(runner.runner, all)
              : kind === REQUIRE
                ? messageRequire(runner.runner, all)
                : kind.startsWith(KEPT)
                  ? messageKept(runner.runner, all)
                  : messageKind(kind, runner.runner, all),
    advice: trouble.unfit
      ? advicePackage(kind, trouble.unfit)
      : isUntaken(trouble, runner)
        ? adviceUntaken(extname(from))
        : adviceFor(kind, runner.runner),
    evidence: [
      ...(from === file.path ? [] : chain),
      ...(transforms ? [{ ...transforms, note: 'the settings' }] : []),
    ],
  };
}

const adviceUntaken = (ending: string): string =>
  `No pattern under transform takes ${ending} files, so that nothing compiles them: widen the one that is meant to.`;

// Scripts that no rule takes stay as they are, whatever the rules do.
const isUntaken = ({ kind, from }: Trouble, { transforms }: RunnerFacts): boolean =>
  (kind === 'JSX' || kind.startsWith('the word')) &&
  transforms.known &&
  transforms.value.by === 'rules' &&
  transforms.value.rules.length > 0 &&
  !transforms.value.rules.some(({ pattern }) => mayMatch(pattern, from));

const advicePackage = (name: string, unfit: UnfitPackage): string =>
  unfit === 'alone'
    ? `Let it be compiled as the project’s own files are: transformIgnorePatterns: ['/node_modules/(?!${name}/)'], and a transform that takes .js files.`
    : "Take what it has for Node: testEnvironmentOptions: { customExportConditions: ['node', 'node-addons'] }";

function adviceFor(kind: string, runner: string): string {
  if (kind === MADE_BY_COMPILER)
    return 'Put a stand-in in its place, in a set-up file: each font is a function that gives { className }.';
  if (kind === REQUIRED) return 'Import it: the runner compiles what is imported.';
  if (kind === META)
    return 'Read such values in one module of your own, and let moduleNameMapper put a stand-in in its place.';
  if (kind === TYPES_FOR_SWC)
    return "Tell it in .swcrc: jsc: { parser: { syntax: 'typescript', tsx: true } }";
  if (kind === REQUIRE) return 'Import it.';
  if (kind === PLAIN_JSX) return 'Give the file the ending .jsx: the bundler looks for no JSX in a .js file.';
  if (kind === NO_NAME_BY_PLUGIN)
    return "Let JSX find its name by itself: take jsxRuntime: 'classic' out, or import React in the file.";
  if (kind === NO_NAME_BUNDLED || kind === KEPT_BUNDLED)
    return "Add the plugin that compiles JSX, @vitejs/plugin-react or @vitejs/plugin-vue-jsx: import react from '@vitejs/plugin-react', and plugins: [react()]";
  if (kind === NO_NAME_BY_COMPILER)
    return 'Let JSX find its name by itself: "jsx": "react-jsx", in a tsconfig.json that takes the file.';
  if (kind === KEPT) return 'Let the compiler of the specs turn it into calls: "jsx": "react-jsx"';
  if (kind === NO_NAME_BY_SWC)
    return "Let JSX find its name by itself: ['@swc/jest', { jsc: { transform: { react: { runtime: 'automatic' } } } }]";
  if (kind === NO_NAME)
    return "Let JSX find its name by itself: ['@babel/preset-react', { runtime: 'automatic' }]";
  if (kind === DRAWN)
    return "Add the plugin that makes components of them: import svgr from 'vite-plugin-svgr', and plugins: [svgr()]";
  if (kind === TEMPLATES)
    return "Add the plugin that compiles components with them: import angular from '@analogjs/vite-plugin-angular', and plugins: [angular()]";
  if (kind === '.vue files')
    return runner === 'jest'
      ? "Add a transform: '^.+\\\\.vue$': '@vue/vue3-jest'"
      : "Add the plugin: import vue from '@vitejs/plugin-vue', and plugins: [vue()]";
  if (runner === 'karma')
    return kind === 'JSX' || /^\.[cm]?tsx?/.test(kind)
      ? "Let a rule under webpack.module.rules take these files, with a loader that compiles them: { test: /\\.[jt]sx?$/, exclude: /node_modules/, use: 'babel-loader' }"
      : "Give such files a rule under webpack.module.rules: with loaders for them, or type: 'asset/resource'.";
  if (isLoadedByNode(runner))
    return /^\.[cm]?tsx?|JSX/.test(kind)
      ? 'Load what compiles it before the specs: "require": ["@babel/register"], with its settings, or "import": ["tsx"]'
      : 'Load what takes such files for nothing before the specs: "require": ["ignore-styles"]';
  if (/^\.[cm]?tsx?/.test(kind))
    return "Add a transform, such as '^.+\\\\.tsx?$': 'ts-jest', or settings of babel with a preset for TypeScript.";
  if (kind === 'JSX')
    return "Add a preset for it to the settings of babel: ['@babel/preset-react', { runtime: 'automatic' }]";
  if (kind.startsWith('the word'))
    return "Let the transform make modules of the other kind of them: ['@babel/preset-env', { targets: { node: 'current' } }]";
  const [ending = ''] = kind.split(' ');
  return `Map such files to a stand-in: moduleNameMapper: { '\\\\${ending}$': '<rootDir>/test/file-stub.js' }`;
}

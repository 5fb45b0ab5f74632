import type { Environment, RunnerFacts, Transforms } from '../../environment/facts/environment.js';
import {
  babelSettings,
  toldToBabel,
  uncompiledBy,
  type BabelSettings,
  type Uncompiled,
} from '../../environment/settings/babel-settings.js';
import { runsModules } from '../../environment/settings/commands.js';
import { settingAt, textOf, type Known, type Setting } from '../../environment/settings/setting.js';
import { isBabelHook, isCompileHook, isStyleHook } from '../../environment/tables/compile-hooks.js';
import { drawsNothing, leavesTemplates, VUE_PLUGINS } from '../../environment/tables/plugins.js';
import { majorOf } from '../../environment/versions.js';
import type { ModuleSummary } from '../../project/summary.js';
import { extname, isTypeScript, join } from '../../util/paths.js';
import { mayMatch } from '../../util/pattern.js';
import type { ProjectContext, SpecFileFacts } from './context.js';
import { documentOf } from './facts.js';
import { ModulePackages, type UnfitPackage } from './module-packages.js';
import type { SetupEffects } from './setup-effects.js';

// Runners that load the specs by Node itself, and what they are told to load before.
const LOADERS: ReadonlySet<string> = new Set(['mocha', 'jasmine', 'node']);

/** Whether a runner leaves it to Node to load the specs. */
export const isLoadedByNode = (runner: string): boolean => LOADERS.has(runner);

/** What becomes of the files of one run. */
export interface Compiled {
  isMapped(specifier: string): boolean;
  /** The kind of what can't be run. `path`: or, where it leads to no file, the import, without its `query`; `summary`: of a script of the project. */
  unfit(path: string, summary: ModuleSummary | undefined, query?: string): string | undefined;
  /** How an import of a package, in a file of the run, gets an ES module that the run stops at. */
  unfitPackage(from: string, specifier: string): UnfitPackage | undefined;
}

/** What transforms the modules of a run: settings, or what the runner is told to load first. */
export class Compiling {
  readonly #environment: Environment;
  readonly #context: ProjectContext;
  readonly #known = new Map<string | undefined, Map<Transforms | SetupEffects, Compiled>>();
  readonly #packages: ModulePackages;

  constructor(environment: Environment, context: ProjectContext) {
    this.#environment = environment;
    this.#context = context;
    this.#packages = new ModulePackages(environment, context);
  }

  of(file: SpecFileFacts, runner: RunnerFacts): Compiled | undefined {
    const setup = LOADERS.has(runner.runner) ? this.#context.setupOf(file.path) : undefined;
    if (setup && setup.strangers.length > 0) return undefined;
    const by = runner.transforms.known ? runner.transforms.value : setup;
    if (!by || ('by' in by && by.by === 'stated')) return undefined;
    const document = documentOf(file, runner);
    const known = this.#known.get(document) ?? new Map<Transforms | SetupEffects, Compiled>();
    this.#known.set(document, known);
    const compiled =
      known.get(by) ??
      (!('by' in by)
        ? this.#hooked(by, runner)
        : by.by === 'rules'
          ? this.#ruled(by, runner, document)
          : plugged(by));
    known.set(by, compiled);
    return compiled;
  }

  #ruled(
    transforms: Extract<Transforms, { by: 'rules' }>,
    { commands, folder }: RunnerFacts,
    document: string | undefined,
  ): Compiled {
    const { rules, mapped, babel } = transforms;
    const nothing = this.#left(undefined);
    // Settings of Babel may stand above what is in sight.
    const { isWhole } = this.#environment;
    const byBabel = babel.known && (babel.value ?? isWhole) ? this.#left(babel.value) : undefined;
    const asModules = commands.some(runsModules);
    return {
      isMapped: (specifier) => mapped.some((pattern) => mayMatch(pattern, specifier)),
      unfitPackage: (from, specifier) =>
        asModules ? undefined : this.#packages.moduleOf(from, specifier, transforms, document),
      unfit: (path, summary) => {
        const rule = rules.find(({ pattern }) => mayMatch(pattern, path));
        const isNothing = !rule || rule.by === '';
        if (!summary || path.endsWith('.vue')) return isNothing ? otherKind(path) : undefined;
        if (rule?.by === '@swc/jest') return this.#unnamedBySwc(rule.options, folder, summary);
        if (rule?.options && rule.by === 'babel-jest') {
          const told = besideFiles(rule.options, babel);
          return told && scriptKind(path, summary, this.#left(told));
        }
        if (rule?.options) return undefined;
        if (rule?.by === 'ts-jest') return summary.jsx ? this.#keptJsx(folder, summary) : undefined;
        const left = rule?.by === '' || rule?.by === 'babel-jest' ? byBabel : isNothing ? nothing : undefined;
        return left && scriptKind(path, summary, asModules ? { ...left, imports: false } : left);
      },
    };
  }

  // Node itself takes imports.
  #hooked({ packages }: SetupEffects, { folder }: RunnerFacts): Compiled {
    const names = [...packages];
    const exists = (path: string): boolean => this.#context.files.kind(path) === 'file';
    const babel = babelSettings(folder, exists, this.#context.setting);
    const left = names.some(isCompileHook)
      ? undefined
      : !names.some(isBabelHook)
        ? this.#left(undefined)
        : babel.known
          ? this.#left(babel.value)
          : undefined;
    const takesStyles = names.some(isStyleHook);
    return {
      isMapped: () => false,
      unfitPackage: () => undefined,
      unfit: (path, summary) =>
        summary && !path.endsWith('.vue')
          ? left && scriptKind(path, summary, { ...left, imports: false })
          : takesStyles
            ? undefined
            : otherKind(path),
    };
  }

  // ts-jest 27 to 29 takes `jsx` of the compiler's settings in the root; where they extend others, it may stand there.
  #keptJsx(folder: string, { imports }: ModuleSummary): string | undefined {
    const compiler = this.#context.setting(join(folder, 'tsconfig.json'));
    const kept = settingAt(compiler, 'compilerOptions', 'jsx');
    if (compiler?.is !== 'object' || kept?.is === 'unknown') return undefined;
    if (kept === undefined) return settingAt(compiler, 'extends') === undefined ? KEPT : undefined;
    const value = textOf(kept);
    if (value === 'preserve' || value === 'react-native') return KEPT;
    const isNamed = settingAt(compiler, 'compilerOptions', 'jsxFactory') !== undefined;
    return value === 'react' && !isNamed && !imports.has('React') ? NO_NAME : undefined;
  }

  // @swc/jest 0.2: what it is told, and `.swcrc` of the root; calls of React where neither chooses.
  #unnamedBySwc(options: Setting | undefined, folder: string, summary: ModuleSummary): string | undefined {
    const file = join(folder, '.swcrc');
    const isThere = this.#context.files.kind(file) === 'file';
    const all = [options, isThere ? this.#context.setting(file) : undefined].filter(
      (each) => each !== undefined,
    );
    if (all.some((each) => each.is !== 'object' || each.open)) return undefined;
    const chosen = all.flatMap((each) => settingAt(each, 'jsc', 'transform', 'react') ?? []);
    const isPlain = chosen.every((each) => {
      const runtime = settingAt(each, 'runtime');
      return (!runtime || textOf(runtime) === 'classic') && settingAt(each, 'pragma') === undefined;
    });
    return isPlain && lacksName(summary) ? NO_NAME_BY_SWC : undefined;
  }

  #left(babel: BabelSettings | undefined): Uncompiled {
    return uncompiledBy(babel, majorOf(this.#context.versionOf(this.#environment, '@babel/preset-react')));
  }
}

// babel-jest 27 to 30: what it is told stands beside what the files say, unless it is told to read none.
function besideFiles(options: Setting, files: Known<BabelSettings | undefined>): BabelSettings | undefined {
  const own = toldToBabel(options);
  const readsNone = ['babelrc', 'configFile'].every((key) => {
    const flag = settingAt(options, key);
    return flag?.is === 'value' && flag.value === false;
  });
  const others = readsNone ? undefined : files.known ? files.value : null;
  if (!own || others === null) return undefined;
  return {
    ...own,
    presets: [...own.presets, ...(others?.presets ?? [])],
    plugins: [...own.plugins, ...(others?.plugins ?? [])],
  };
}

/** Pictures that are asked for as components. */
export const DRAWN = '.svg?react files';

/** Templates beside their components. */
export const TEMPLATES = '.html files';

// Bundlers take scripts, styles and assets by themselves.
const plugged = ({ plugins }: Extract<Transforms, { by: 'plugins' }>): Compiled => ({
  isMapped: () => false,
  unfitPackage: () => undefined,
  unfit: (path, _summary, query) =>
    path.endsWith('.vue') && !plugins.some((plugin) => VUE_PLUGINS.has(plugin))
      ? '.vue files'
      : path.endsWith('.svg') && query === 'react' && plugins.every(drawsNothing)
        ? DRAWN
        : path.endsWith('.html') && query === undefined && plugins.every(leavesTemplates)
          ? TEMPLATES
          : undefined,
});

const OTHERS = /\.(?:vue|css|scss|sass|less|styl|svg|png|jpe?g|gif|webp|avif|woff2?|ttf|mp4)$/;

const otherKind = (path: string): string | undefined =>
  OTHERS.test(path) ? `${extname(path)} files` : undefined;

function scriptKind(path: string, summary: ModuleSummary, left: Uncompiled): string | undefined {
  if (left.typescript && isTypeScript(path)) return `${extname(path)} files`;
  if (left.jsx && summary.jsx) return 'JSX';
  if (left.imports && !/\.(?:mjs|cjs)$/.test(path) && summary.isModule) return 'the word “import”';
  return left.needsName && lacksName(summary) ? NO_NAME : undefined;
}

// Calls of React that a file with JSX becomes would find no such name.
const lacksName = ({ jsx, imports, choosesJsx }: ModuleSummary): boolean =>
  jsx && !imports.has('React') && !choosesJsx;

/** JSX that becomes calls of a name which the file does not have. */
export const NO_NAME = 'JSX without its name';
/** The same, where another compiler than Babel makes them. */
export const NO_NAME_BY_SWC = `${NO_NAME}, by @swc/jest`;
/** JSX that stays as it is. */
export const KEPT = 'JSX, which the compiler is told to keep';

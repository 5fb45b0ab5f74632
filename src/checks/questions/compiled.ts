import { bundlerMajor } from '../../environment/bundler.js';
import type { CompilerSettings } from '../../environment/compiler-settings.js';
import {
  type Environment,
  type Jsx,
  type RunnerFacts,
  type TransformRule,
  type Transforms,
} from '../../environment/facts/environment.js';
import {
  compilerAbove,
  compilerIn,
  ESBUILD,
  jsxBy,
  nearestCompiler,
  OXC,
  TYPESCRIPT,
} from '../../environment/jsx.js';
import {
  babelSettings,
  toldToBabel,
  uncompiledBy,
  type BabelSettings,
  type Uncompiled,
} from '../../environment/settings/babel-settings.js';
import { runsModules } from '../../environment/settings/commands.js';
import {
  settingAt,
  textOf,
  UNKNOWN_FACT,
  type Known,
  type Setting,
} from '../../environment/settings/setting.js';
import { isBabelHook, isCompileHook, isStyleHook } from '../../environment/tables/compile-hooks.js';
import { drawsNothing, leavesTemplates, SWC_PLUGIN, VUE_PLUGINS } from '../../environment/tables/plugins.js';
import { isLoadedByNode } from '../../environment/tables/runners.js';
import { majorOf } from '../../environment/versions.js';
import { requiresAsModule } from '../../project/settings-questions.js';
import type { ModuleSummary } from '../../project/summary.js';
import { extname, isTypeScript, join, packageOf } from '../../util/paths.js';
import { mayMatch } from '../../util/pattern.js';
import { isSent } from './aliases.js';
import type { ProjectContext, SpecFileFacts } from './context.js';
import { documentOf } from './facts.js';
import { isModuleByNode, ModulePackages, type UnfitPackage } from './module-packages.js';
import type { Package } from './packages.js';
import type { SetupEffects } from './setup-effects.js';

/** What becomes of the files of one run. */
export interface Compiled {
  isMapped(specifier: string): boolean;
  /** The kind of what can't be run. `path`: or, where it leads to no file, the import, without its `query`; `summary`: of a script of the project. */
  unfit(path: string, summary: ModuleSummary | undefined, query?: string): string | undefined;
  /** Whether an import may lead to another module than what it names. */
  isAway(specifier: string): boolean;
  /** Whether `require` in a file that it compiles is Node's own, which knows no other files than Node does. */
  leavesRequire: boolean;
  /** The compiler settings that the run reads for a file: it stops where they, or what they name, can't be read. */
  compiler(path: string): CompilerSettings | undefined;
  /** What JSX becomes in a script of the project; undefined where that can't be told. */
  jsx(path: string): Jsx | undefined;
  /** How an import of a package, in a file of the run, gets an ES module that the run stops at. */
  unfitPackage(from: string, specifier: string): UnfitPackage | undefined;
}

// A run that replaces nothing, and reads no compiler settings.
const PLAIN: Omit<Compiled, 'jsx' | 'unfit'> = {
  isAway: () => false,
  isMapped: () => false,
  leavesRequire: false,
  compiler: () => undefined,
  unfitPackage: () => undefined,
};

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
    const setup = isLoadedByNode(runner.runner) ? this.#context.setupOf(file.path) : undefined;
    if (setup && setup.strangers.length > 0) return undefined;
    const by = runner.transforms.known ? runner.transforms.value : setup;
    if (!by || ('by' in by && (by.by === 'stated' || by.by === 'nothing'))) return undefined;
    const document = documentOf(file, runner);
    const known = this.#known.get(document) ?? new Map<Transforms | SetupEffects, Compiled>();
    this.#known.set(document, known);
    const compiled =
      known.get(by) ??
      (!('by' in by)
        ? this.#hooked(by, runner)
        : by.by === 'rules'
          ? this.#ruled(by, runner, document)
          : by.by === 'loaders'
            ? this.#loaded(by)
            : this.#plugged(by, runner));
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
    const byBabel = this.#leftByBabel(undefined, this.#inSight(babel));
    const asModules = commands.some(runsModules);
    const ruleOf = (path: string): TransformRule | undefined =>
      rules.find(({ pattern }) => mayMatch(pattern, path));
    // ts-jest 27 to 29 takes the compiler's settings in the root.
    const compiler = (path: string): CompilerSettings | undefined => {
      const rule = ruleOf(path);
      return rule?.by === 'ts-jest' && !rule.options
        ? compilerIn(folder, this.#context.compilersIn)
        : undefined;
    };
    const jsx = (path: string): Jsx | undefined => {
      const read = compiler(path);
      return read && jsxBy(read, TYPESCRIPT);
    };
    return {
      ...PLAIN,
      isMapped: (specifier) => mapped.some((pattern) => mayMatch(pattern, specifier)),
      unfitPackage: (from, specifier) =>
        asModules ? undefined : this.#packages.moduleOf(from, specifier, transforms, document),
      compiler,
      jsx,
      unfit: (path, summary) => {
        const rule = ruleOf(path);
        const isNothing = !rule || rule.by === '';
        if (!summary || path.endsWith('.vue')) return isNothing ? otherKind(path) : undefined;
        if (rule?.by === '@swc/jest') return this.#unfitBySwc(path, rule.options, folder, summary);
        if (rule?.options && rule.by === 'babel-jest') {
          const left = this.#leftByBabel(rule.options, babel);
          return left && scriptKind(path, summary, left);
        }
        if (rule?.options) return undefined;
        if (rule?.by === 'ts-jest')
          return summary.usesMeta && !asModules
            ? META
            : unfitJsx(jsx(path), summary, { kept: KEPT, calls: NO_NAME_BY_COMPILER });
        const left = rule?.by === '' || rule?.by === 'babel-jest' ? byBabel : isNothing ? nothing : undefined;
        return left && scriptKind(path, summary, asModules ? asModule(left) : left);
      },
    };
  }

  // webpack 4 and 5 read modules and JSON by themselves, and nothing else.
  #loaded({ rules, babel }: Extract<Transforms, { by: 'loaders' }>): Compiled {
    const files = this.#inSight(babel);
    const nothing = asModule(this.#left(undefined));
    return {
      ...PLAIN,
      jsx: () => undefined,
      unfit: (path, summary) => {
        const taken = rules.filter(({ pattern }) => mayMatch(pattern, path));
        const [rule, ...others] = taken;
        if (!summary || path.endsWith('.vue')) return rule ? undefined : otherKind(path);
        if (!rule) return scriptKind(path, summary, nothing);
        const isByBabel = others.length === 0 && rule.by === 'babel-loader';
        const left = isByBabel ? this.#leftByBabel(rule.options, files) : undefined;
        return left && scriptKind(path, summary, asModule(left));
      },
    };
  }

  // Node itself takes imports.
  #hooked({ packages }: SetupEffects, { folder, commands }: RunnerFacts): Compiled {
    const names = [...packages];
    const hooks = names.filter(isCompileHook);
    const compiler = compilerAbove(folder, this.#context.compilersIn);
    const isTold = commands.some(
      ({ env, args }) => env.has('TSX_TSCONFIG_PATH') || args.includes('--tsconfig'),
    );
    const isTsx = !isTold && hooks.length > 0 && hooks.every((each) => packageOf(each) === 'tsx');
    const jsx = (path: string): Jsx | undefined =>
      isTsx && isTypeScript(path) && (compiler ?? this.#environment.isWhole)
        ? jsxBy(
            compiler?.takes(path) && !compiler.missing.some(({ key }) => key === 'extends')
              ? compiler
              : undefined,
            ESBUILD,
          )
        : undefined;
    const exists = (path: string): boolean => this.#context.files.kind(path) === 'file';
    const babel = babelSettings(folder, exists, this.#context.setting);
    const left =
      hooks.length > 0
        ? undefined
        : !names.some(isBabelHook)
          ? this.#left(undefined)
          : babel.known
            ? this.#left(babel.value)
            : undefined;
    const takesStyles = names.some(isStyleHook);
    return {
      // A hook passes over compiler settings that it can't read.
      ...PLAIN,
      jsx,
      unfit: (path, summary) => {
        if (!summary || path.endsWith('.vue')) return takesStyles ? undefined : otherKind(path);
        const kind = left
          ? scriptKind(path, summary, asModule(left))
          : unfitJsx(jsx(path), summary, { kept: KEPT, calls: NO_NAME_BY_COMPILER });
        return kind ?? (this.#requiresAsModule(path) ? REQUIRE : undefined);
      },
    };
  }

  // Node 20 to 24, tsx 4: what runs as an ES module has no `require`.
  #requiresAsModule(path: string): boolean {
    const { project } = this.#context;
    return isModuleByNode(path, this.#context) && requiresAsModule(project, path) !== undefined;
  }

  // Bundlers take scripts, styles and assets by themselves.
  #plugged(
    { plugins, jsx: read }: Extract<Transforms, { by: 'plugins' }>,
    { major, aliases }: RunnerFacts,
  ): Compiled {
    const bundler = bundlerMajor(this.#environment, major, this.#context);
    const isOxc = bundler !== undefined && bundler >= 8;
    const told =
      read.known && bundler !== undefined && (isOxc || !read.value.tellsEsbuild) ? read.value : undefined;
    const compiler = (path: string): CompilerSettings | undefined =>
      told && isTypeScript(path) && !plugins.includes(SWC_PLUGIN)
        ? nearestCompiler(path, this.#context.compilersIn)
        : undefined;
    const jsx = (path: string): Jsx | undefined => {
      if (!told || (told.chosen && told.chosen.from !== '')) return told?.chosen;
      const settings = compiler(path);
      const isSeen = isTypeScript(path) ? settings !== undefined || this.#environment.isWhole : !isOxc;
      const byCompiler = isSeen ? jsxBy(settings, isOxc ? OXC : ESBUILD) : undefined;
      // Such a plugin leaves it to the compiler's settings which package the imports are of.
      return told.chosen && byCompiler?.is !== 'imports' ? undefined : byCompiler;
    };
    const calls = told?.chosen ? NO_NAME_BY_PLUGIN : NO_NAME_BUNDLED;
    return {
      ...PLAIN,
      isAway: (specifier) => !aliases.known || isSent(specifier, aliases.value),
      leavesRequire: !plugins.some((plugin) => /commonjs|require/.test(plugin)),
      compiler,
      jsx,
      unfit: (path, summary, query) =>
        path.endsWith('.vue') && !plugins.some((plugin) => VUE_PLUGINS.has(plugin))
          ? '.vue files'
          : path.endsWith('.svg') && query === 'react' && plugins.every(drawsNothing)
            ? DRAWN
            : path.endsWith('.html') && query === undefined && plugins.every(leavesTemplates)
              ? TEMPLATES
              : summary?.jsx && /\.[cm]?js$/.test(path)
                ? told && !told.isTold
                  ? PLAIN_JSX
                  : undefined
                : summary && unfitJsx(jsx(path), summary, { kept: KEPT_BUNDLED, calls }),
    };
  }

  // @swc/jest 0.2: what it is told, and `.swcrc` of the root; where neither chooses, plain scripts and calls of React.
  #unfitBySwc(
    path: string,
    options: Setting | undefined,
    folder: string,
    summary: ModuleSummary,
  ): string | undefined {
    const file = join(folder, '.swcrc');
    const isThere = this.#context.files.kind(file) === 'file';
    const all = [options, isThere ? this.#context.setting(file) : undefined].filter(
      (each) => each !== undefined,
    );
    if (all.some((each) => each.is !== 'object' || each.open)) return undefined;
    // Options of its own leave the parser to the ending of the file, where they name none.
    const syntax = settingAt(all[0], 'jsc', 'parser', 'syntax');
    if (isTypeScript(path) && textOf(syntax) === 'ecmascript') return TYPES_FOR_SWC;
    const chosen = all.flatMap((each) => settingAt(each, 'jsc', 'transform', 'react') ?? []);
    const isPlain = chosen.every((each) => {
      const runtime = settingAt(each, 'runtime');
      return (!runtime || textOf(runtime) === 'classic') && settingAt(each, 'pragma') === undefined;
    });
    return isPlain && lacksName(summary) ? NO_NAME_BY_SWC : undefined;
  }

  // Settings of Babel may stand above what is in sight.
  #inSight(babel: Known<BabelSettings | undefined>): Known<BabelSettings | undefined> {
    return babel.known && !babel.value && !this.#environment.isWhole ? UNKNOWN_FACT : babel;
  }

  // What Babel leaves by its files, and by what it is told beside them; undefined where that can't be told.
  #leftByBabel(
    options: Setting | undefined,
    files: Known<BabelSettings | undefined>,
  ): Uncompiled | undefined {
    if (!options) return files.known ? this.#left(files.value) : undefined;
    const told = besideFiles(options, files);
    return told && this.#left(told);
  }

  #left(babel: BabelSettings | undefined): Uncompiled {
    return uncompiledBy(babel, majorOf(this.#context.versionOf(this.#environment, '@babel/preset-react')));
  }
}

/** The compiler settings that the runs of a package read for its spec files. */
export function compilersOfRuns(
  { environment, specFiles }: Package,
  context: ProjectContext,
): CompilerSettings[] {
  const compiling = new Compiling(environment, context);
  const all = specFiles.flatMap((file) => {
    const [runner, ...others] = environment.runnersOf(file.path);
    return (
      (runner && others.length === 0 ? compiling.of(file, runner)?.compiler(file.path) : undefined) ?? []
    );
  });
  return [...new Set(all)];
}

// What takes modules as they are has nothing against their words.
const asModule = (left: Uncompiled): Uncompiled => ({ ...left, imports: false, meta: false });

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

const OTHERS = /\.(?:vue|css|scss|sass|less|styl|svg|png|jpe?g|gif|webp|avif|woff2?|ttf|mp4)$/;

const otherKind = (path: string): string | undefined =>
  OTHERS.test(path) ? `${extname(path)} files` : undefined;

function scriptKind(path: string, summary: ModuleSummary, left: Uncompiled): string | undefined {
  if (left.typescript && isTypeScript(path)) return `${extname(path)} files`;
  if (left.jsx && summary.jsx) return 'JSX';
  if (left.imports && !/\.(?:mjs|cjs)$/.test(path) && summary.isModule) return 'the word “import”';
  if (left.meta && summary.usesMeta && !path.endsWith('.mjs')) return META;
  return left.needsName && lacksName(summary) ? NO_NAME : undefined;
}

// Calls of React that a file with JSX becomes would find no such name.
const lacksName = ({ jsx, imports, choosesJsx }: ModuleSummary): boolean =>
  jsx && !imports.has('React') && !choosesJsx;

// The kind of JSX that can't run as it is compiled.
const unfitJsx = (
  jsx: Jsx | undefined,
  summary: ModuleSummary,
  { kept, calls }: { kept: string; calls: string },
): string | undefined =>
  !summary.jsx || !jsx
    ? undefined
    : jsx.is === 'kept'
      ? kept
      : jsx.is === 'calls' && jsx.of === 'React' && lacksName(summary)
        ? calls
        : undefined;

/** JSX that becomes calls of a name which the file does not have. */
export const NO_NAME = 'JSX without its name';
/** The same, where another compiler than Babel makes them. */
export const NO_NAME_BY_SWC = `${NO_NAME}, by @swc/jest`;
/** The same, by the compiler’s settings. */
export const NO_NAME_BY_COMPILER = `${NO_NAME}, by the compiler’s settings`;
/** The same, by a bundler that has no plugin for it. */
export const NO_NAME_BUNDLED = `${NO_NAME}, by the bundler`;
/** The same, where the plugin is told so. */
export const NO_NAME_BY_PLUGIN = `${NO_NAME}, by its plugin`;
/** TypeScript, for a compiler that is told that it gets none. */
export const TYPES_FOR_SWC = 'TypeScript, which @swc/jest is told to take for plain scripts';
/** JSX that stays as it is. */
export const KEPT = 'JSX, which the compiler is told to keep';
/** The same, by a bundler that has no plugin for it. */
export const KEPT_BUNDLED = `${KEPT}, by the bundler`;
/** What only ES modules have, where modules are made CommonJS. */
export const META = 'import.meta';
/** What ES modules do not have, where they stay what they are. */
export const REQUIRE = 'require in an ES module';
/** JSX where no bundler looks for it. */
export const PLAIN_JSX = 'JSX in a .js file';

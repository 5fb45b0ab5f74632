import { MODULES, REPLACED } from '../questions/facts.js';
import type { Environment, RunnerFacts, Transforms } from '../../environment/facts/environment.js';
import {
  babelSettings,
  uncompiledBy,
  type BabelSettings,
  type Uncompiled,
} from '../../environment/settings/babel-settings.js';
import { settingAt, textOf } from '../../environment/settings/setting.js';
import { isBabelHook, isCompileHook, isStyleHook } from '../../environment/tables/compile-hooks.js';
import { VUE_PLUGINS } from '../../environment/tables/plugins.js';
import { majorOf } from '../../environment/versions.js';
import type { Project } from '../../project/project.js';
import type { ModuleSummary } from '../../project/summary.js';
import { extname, isTypeScript, join } from '../../util/paths.js';
import { mayMatch } from '../../util/pattern.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding, Evidence, Place } from '../../finding.js';
import type { ProjectContext, SpecFileFacts } from '../questions/context.js';
import type { SetupEffects } from '../questions/setup-effects.js';
import { andMore, packagesWithSpecs, type Package } from '../questions/packages.js';

const messageKind = (kind: string, runner: string, files: readonly unknown[]): string =>
  `These specs load ${kind}${andMore(files)}, and nothing in the settings of ${runner} makes ${/files$/.test(kind) ? 'them' : 'it'} something that it can run.`;
const messageName = (files: readonly unknown[]): string =>
  `JSX becomes calls of React here${andMore(files)}, and the file has no such name.`;

/** Specs that reach a kind of file that the runner can't run and nothing transforms. */
export const E10: ProjectCheck = {
  code: 'E10',
  family: 'environment',
  scope: 'project',
  facts: [MODULES, REPLACED],
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
  /** The import, of the file that is asked about, that leads there. */
  entry: string;
  from: string;
  specifier: string;
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
    const search = file.get(REPLACED).size > 0 ? new Search(context.project, file.get(REPLACED)) : shared;
    const trouble = search.below(file.path, compiled);
    if (!trouble) continue;
    byKind.set(trouble.kind, [...(byKind.get(trouble.kind) ?? []), { file, runner, trouble }]);
  }
  return [...byKind.values()].flatMap((all) => {
    const [first] = all;
    return first ? [found(first.file, first.runner, first.trouble, all)] : [];
  });
}

// Runners that load the specs by Node itself, and what they are told to load before.
const LOADERS: ReadonlySet<string> = new Set(['mocha', 'jasmine', 'node']);

/** What becomes of the files of one run: the kind of what can't be run, or nothing. */
interface Compiled {
  at: Place;
  isMapped(specifier: string): boolean;
  /** `path` or, where it leads to no file, the import; `summary`: of a script of the project. */
  unfit(path: string, summary: ModuleSummary | undefined): string | undefined;
}

// What transforms the modules of a run: settings, or what mocha is told to load first.
class Compiling {
  readonly #environment: Environment;
  readonly #context: ProjectContext;
  readonly #known = new Map<Transforms | SetupEffects, Compiled>();

  constructor(environment: Environment, context: ProjectContext) {
    this.#environment = environment;
    this.#context = context;
  }

  of(file: SpecFileFacts, runner: RunnerFacts): Compiled | undefined {
    const setup = LOADERS.has(runner.runner) ? this.#context.setupOf(file.path) : undefined;
    if (setup?.opaque) return undefined;
    const by = runner.transforms.known ? runner.transforms.value : setup;
    if (!by || ('by' in by && by.by === 'stated')) return undefined;
    const known =
      this.#known.get(by) ??
      (!('by' in by) ? this.#hooked(by, runner) : by.by === 'rules' ? this.#ruled(by, runner) : plugged(by));
    this.#known.set(by, known);
    return known;
  }

  #ruled(transforms: Extract<Transforms, { by: 'rules' }>, { commands, folder }: RunnerFacts): Compiled {
    const { rules, mapped, babel, at } = transforms;
    const nothing = this.#left(undefined);
    // Settings of Babel may stand above what is in sight.
    const { isWhole } = this.#environment;
    const byBabel = babel.known && (babel.value ?? isWhole) ? this.#left(babel.value) : undefined;
    const asModules = commands.some(({ args, env }) =>
      /experimental-vm-modules/.test([...args, env.get('NODE_OPTIONS')].join(' ')),
    );
    return {
      at,
      isMapped: (specifier) => mapped.some((pattern) => mayMatch(pattern, specifier)),
      unfit: (path, summary) => {
        const rule = rules.find(({ pattern }) => mayMatch(pattern, path));
        const isNothing = !rule || rule.by === '';
        if (!summary || path.endsWith('.vue')) return isNothing ? otherKind(path) : undefined;
        if (rule?.by === 'ts-jest' && !rule.told && summary.jsx) return this.#keptJsx(folder, summary);
        const left =
          rule?.by === '' || rule?.by === 'babel-jest'
            ? rule.told
              ? undefined
              : byBabel
            : isNothing
              ? nothing
              : undefined;
        return left && scriptKind(path, summary, asModules ? { ...left, imports: false } : left);
      },
    };
  }

  // Node itself takes imports.
  #hooked({ packages }: SetupEffects, { folder, settings }: RunnerFacts): Compiled {
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
      at: settings?.at ?? { file: this.#environment.folder, start: 0, end: 0 },
      isMapped: () => false,
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

  #left(babel: BabelSettings | undefined): Uncompiled {
    return uncompiledBy(babel, majorOf(this.#context.versionOf(this.#environment, '@babel/preset-react')));
  }
}

// Bundlers take scripts, styles and assets by themselves.
const plugged = ({ plugins, at }: Extract<Transforms, { by: 'plugins' }>): Compiled => ({
  at,
  isMapped: () => false,
  unfit: (path) =>
    path.endsWith('.vue') && !plugins.some((plugin) => VUE_PLUGINS.has(plugin)) ? '.vue files' : undefined,
});

const OTHERS = /\.(?:vue|css|scss|sass|less|styl|svg|png|jpe?g|gif|webp|avif|woff2?|ttf|mp4)$/;

const otherKind = (path: string): string | undefined =>
  OTHERS.test(path) ? `${extname(path)} files` : undefined;

function scriptKind(path: string, summary: ModuleSummary, left: Uncompiled): string | undefined {
  if (left.typescript && isTypeScript(path)) return `${extname(path)} files`;
  if (left.jsx && summary.jsx) return 'JSX';
  if (left.imports && !/\.(?:mjs|cjs)$/.test(path) && summary.isModule) return 'the word “import”';
  return left.needsName && summary.jsx && !summary.imports.has('React') && !summary.choosesJsx
    ? NO_NAME
    : undefined;
}

const NO_NAME = 'JSX without its name';
const KEPT = 'JSX, which the compiler is told to keep';

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
    if (own) return { kind: own, entry: '', from: path, specifier: '' };
    for (const { specifier } of summary?.modules ?? []) {
      const target = this.#project.resolve(path, specifier);
      if (this.#replaced.has(specifier) || (target && this.#replaced.has(target))) continue;
      if (compiled.isMapped(specifier)) continue;
      if (target && this.#project.summary(target)) {
        const inside = this.below(target, compiled);
        if (inside)
          return inside.entry === '' && inside.from === target
            ? { ...inside, from: path, specifier, entry: specifier }
            : { ...inside, entry: specifier };
        continue;
      }
      const kind = compiled.unfit((target ?? specifier).replace(/\?.*$/, ''), undefined);
      if (kind) return { kind, entry: specifier, from: path, specifier };
    }
    return undefined;
  }
}

function found(file: SpecFileFacts, runner: RunnerFacts, trouble: Trouble, all: readonly unknown[]): Finding {
  const { kind, from, specifier, entry } = trouble;
  const chain: Evidence[] = [{ file: from, start: 0, end: 0, note: `loads ${specifier}` }];
  const own = file.get(MODULES).find((each) => each.specifier === entry);
  const transforms = runner.transforms.known ? runner.transforms.value.at : runner.settings?.at;
  return {
    place: { file: file.path, start: own?.start ?? 0, end: own?.end ?? 0 },
    certainty: 'sure',
    message: kind === NO_NAME ? messageName(all) : messageKind(kind, runner.runner, all),
    advice: adviceFor(kind, runner.runner),
    evidence: [
      ...(from === file.path ? [] : chain),
      ...(transforms ? [{ ...transforms, note: 'the settings' }] : []),
    ],
  };
}

function adviceFor(kind: string, runner: string): string {
  if (kind === KEPT) return 'Let the compiler of the specs turn it into calls: "jsx": "react-jsx"';
  if (kind === NO_NAME)
    return "Let JSX find its name by itself: ['@babel/preset-react', { runtime: 'automatic' }]";
  if (kind === '.vue files')
    return runner === 'jest'
      ? "Add a transform: '^.+\\\\.vue$': '@vue/vue3-jest'"
      : "Add the plugin: import vue from '@vitejs/plugin-vue', and plugins: [vue()]";
  if (runner === 'mocha')
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

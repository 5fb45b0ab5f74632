import { MODULES, REPLACED } from '../questions/facts.js';
import type { RunnerFacts, Transforms } from '../../environment/facts/environment.js';
import { VUE_PLUGINS } from '../../environment/tables/plugins.js';
import type { Project } from '../../project/project.js';
import { extname, isTypeScript } from '../../util/paths.js';
import { mayMatch } from '../../util/pattern.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding, Evidence } from '../../finding.js';
import type { ProjectContext, SpecFileFacts } from '../questions/context.js';
import { andMore, packagesWithSpecs, type Package } from '../questions/packages.js';

const message = (kind: string, runner: string, files: readonly unknown[]): string =>
  `These specs load ${kind} files${andMore(files)}, and nothing in the settings of ${runner} makes them something that it can run.`;

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
  const shared = new Search(context.project, new Set());
  for (const file of specFiles) {
    const runners = environment.runnersOf(file.path);
    const [runner] = runners;
    if (!runner || runners.length !== 1 || !runner.transforms.known) continue;
    // What a spec file replaces by stand-ins is another matter for each.
    const search = file.get(REPLACED).size > 0 ? new Search(context.project, file.get(REPLACED)) : shared;
    const trouble = search.below(file.path, runner.transforms.value);
    if (!trouble) continue;
    byKind.set(trouble.kind, [...(byKind.get(trouble.kind) ?? []), { file, runner, trouble }]);
  }
  return [...byKind.values()].flatMap((all) => {
    const [first] = all;
    return first ? [found(first.file, first.runner, first.trouble, all)] : [];
  });
}

// Each file of the project is looked into once: what is wrong below it is the same for all that replace the same.
class Search {
  readonly #project: Project;
  readonly #replaced: ReadonlySet<string>;
  readonly #known = new Map<Transforms, Map<string, Trouble | undefined>>();

  constructor(project: Project, replaced: ReadonlySet<string>) {
    this.#project = project;
    this.#replaced = replaced;
  }

  below(path: string, transforms: Transforms): Trouble | undefined {
    const known = this.#known.get(transforms) ?? new Map<string, Trouble | undefined>();
    this.#known.set(transforms, known);
    if (known.has(path)) return known.get(path);
    // A file that imports itself on the way finds nothing more there.
    known.set(path, undefined);
    const trouble = this.#find(path, transforms);
    known.set(path, trouble);
    return trouble;
  }

  #find(path: string, transforms: Transforms): Trouble | undefined {
    for (const { specifier } of this.#project.summary(path)?.modules ?? []) {
      const target = this.#project.resolve(path, specifier);
      if (this.#replaced.has(specifier) || (target && this.#replaced.has(target))) continue;
      if (transforms.by === 'rules' && transforms.mapped.some((pattern) => mayMatch(pattern, specifier)))
        continue;
      const kind = unhandled(target ?? specifier, specifier, transforms);
      if (kind) return { kind, entry: specifier, from: path, specifier };
      const inside = target && this.#project.summary(target) ? this.below(target, transforms) : undefined;
      if (inside) return { ...inside, entry: specifier };
    }
    return undefined;
  }
}

const STYLES = /\.(?:css|scss|sass|less|styl)$/;
const ASSETS = /\.(?:svg|png|jpe?g|gif|webp|avif|woff2?|ttf|mp4)$/;

// The kind of a file that nothing handles; bundlers take scripts, styles and assets by themselves.
function unhandled(path: string, specifier: string, transforms: Transforms): string | undefined {
  const clean = path.replace(/\?.*$/, '');
  const extension = extname(clean);
  if (transforms.by === 'plugins')
    return extension === '.vue' && !transforms.plugins.some((plugin) => VUE_PLUGINS.has(plugin))
      ? '.vue'
      : undefined;
  const isOther = extension === '.vue' || STYLES.test(clean) || ASSETS.test(clean);
  const isTyped = isTypeScript(clean) && (specifier.startsWith('.') || specifier.startsWith('/'));
  if (!isOther && !isTyped) return undefined;
  const rule = transforms.rules.find(({ pattern }) => mayMatch(pattern, clean));
  return rule && rule.by !== '' ? undefined : extension;
}

function found(file: SpecFileFacts, runner: RunnerFacts, trouble: Trouble, all: readonly unknown[]): Finding {
  const transforms = runner.transforms.known ? runner.transforms.value : undefined;
  const chain: Evidence[] = [{ file: trouble.from, start: 0, end: 0, note: `loads ${trouble.specifier}` }];
  const own = file.get(MODULES).find(({ specifier }) => specifier === trouble.entry);
  return {
    place: { file: file.path, start: own?.start ?? 0, end: own?.end ?? 0 },
    certainty: 'sure',
    message: message(trouble.kind, runner.runner, all),
    advice: adviceFor(trouble.kind, runner.runner),
    evidence: [
      ...(trouble.from === file.path ? [] : chain),
      ...(transforms ? [{ ...transforms.at, note: 'the settings' }] : []),
    ],
  };
}

function adviceFor(kind: string, runner: string): string {
  if (kind === '.vue')
    return runner === 'jest'
      ? "Add a transform: '^.+\\\\.vue$': '@vue/vue3-jest'"
      : "Add the plugin: import vue from '@vitejs/plugin-vue', and plugins: [vue()]";
  if (/tsx?$/.test(kind))
    return "Add a transform, such as '^.+\\\\.tsx?$': 'ts-jest', or settings of babel with a preset for TypeScript.";
  return `Map such files to a stand-in: moduleNameMapper: { '\\\\${kind}$': '<rootDir>/test/file-stub.js' }`;
}

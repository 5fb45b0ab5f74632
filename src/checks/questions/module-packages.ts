import { hasStandIn } from '../../host/leads.js';
import type { Environment, Transforms } from '../../environment/facts/environment.js';
import { settingAt, textOf } from '../../environment/settings/setting.js';
import type { Resolve } from '../../host/files.js';
import { nearestManifest } from '../../environment/versions.js';
import { dirname, isInstalled } from '../../util/paths.js';
import { mayMatch } from '../../util/pattern.js';
import type { ProjectContext } from './context.js';

type Rules = Extract<Transforms, { by: 'rules' }>;

// jest-environment-jsdom and jest-environment-node 28 to 30: `exportConditions`; a `require` adds its own two.
const CONDITIONS: ReadonlyMap<string | undefined, readonly string[]> = new Map([
  ['jsdom', ['browser']],
  ['node', ['node', 'node-addons']],
]);

const REQUIRED = ['require', 'default'];

/** How a package is none that can be loaded by `require`. */
export type UnfitPackage = 'alone' | 'for browsers';

/** Packages that give an ES module to a run that loads by `require`, which stops it. */
export class ModulePackages {
  readonly #environment: Environment;
  readonly #context: ProjectContext;
  readonly #resolvers = new Map<string, Resolve>();

  constructor(environment: Environment, context: ProjectContext) {
    this.#environment = environment;
    this.#context = context;
  }

  /**
   * Whether an import of `from` gets one: of a package that has nothing else, or of one that has it for browsers.
   * `document`: the name of the run's document.
   */
  moduleOf(
    from: string,
    specifier: string,
    { rules, ignored, conditions }: Rules,
    document: string | undefined,
  ): UnfitPackage | undefined {
    const own = conditions.known ? (conditions.value ?? CONDITIONS.get(document)) : undefined;
    if (!own || !ignored.known || !this.#environment.hasInstalls || this.#isReplaced(specifier))
      return undefined;
    const isModule = (chosenBy: readonly string[] | 'none'): boolean => {
      const path = this.#resolver(chosenBy)(dirname(from), specifier);
      if (!path || !isInstalled(path) || !isModuleByNode(path, this.#context)) return false;
      const isLeft = ignored.value.some((pattern) => mayMatch(pattern, path));
      return isLeft || !rules.some(({ pattern }) => mayMatch(pattern, path));
    };
    if (!isModule(own === 'none' ? own : [...REQUIRED, ...own])) return undefined;
    return own === 'none' || isModule(REQUIRED) ? 'alone' : 'for browsers';
  }

  #resolver(conditions: readonly string[] | 'none'): Resolve {
    const key = String(conditions);
    const resolver = this.#resolvers.get(key) ?? this.#context.files.resolver({ conditions });
    this.#resolvers.set(key, resolver);
    return resolver;
  }

  // A folder of stand-ins beside the packages takes their place without a word.
  #isReplaced(specifier: string): boolean {
    const { folder, outer } = this.#environment;
    return hasStandIn(this.#context.files, [folder, ...outer.map((each) => each.folder)], specifier);
  }
}

/** Whether Node takes a script for an ES module: by its ending, or by the nearest manifest. */
export function isModuleByNode(path: string, { files, setting }: ProjectContext): boolean {
  if (!/\.[jt]sx?$/.test(path)) return /\.m[jt]s$/.test(path);
  const manifest = nearestManifest(files, path);
  return manifest !== undefined && textOf(settingAt(setting(manifest), 'type')) === 'module';
}

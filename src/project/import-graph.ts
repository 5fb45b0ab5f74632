import type { Project } from './project.js';
import type { ModuleSummary } from './summary.js';

/** Asked of an import: the name as written, and the module of the project that it leads to. */
type IsWanted = (specifier: string, target: ModuleSummary | undefined) => boolean;

/** Who imports whom, from some files on: built once, so that each question is one pass over it. */
export class ImportGraph {
  readonly #importers = new Map<string, string[]>();
  readonly #imports: { from: string; specifier: string; target: ModuleSummary | undefined }[] = [];

  constructor(project: Project, files: readonly string[]) {
    const seen = new Set(files);
    for (const from of seen) {
      for (const { specifier } of project.summary(from)?.modules ?? []) {
        const path = project.resolve(from, specifier);
        const target = path === undefined ? undefined : project.summary(path);
        this.#imports.push({ from, specifier, target });
        if (!target) continue;
        seen.add(target.path);
        const importers = this.#importers.get(target.path);
        if (importers) importers.push(from);
        else this.#importers.set(target.path, [from]);
      }
    }
  }

  /** Every module of the project that is loaded, directly or through others, the first files left out. */
  get loaded(): string[] {
    return [...this.#importers.keys()];
  }

  /** The files that load something wanted, directly or through others. */
  loadersOf(isWanted: IsWanted): Set<string> {
    const found = new Set<string>();
    for (const { from, specifier, target } of this.#imports) if (isWanted(specifier, target)) found.add(from);
    for (const path of found) for (const importer of this.#importers.get(path) ?? []) found.add(importer);
    return found;
  }
}

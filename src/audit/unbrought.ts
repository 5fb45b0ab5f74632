import { isLoadedByNode } from '../checks/questions/compiled.js';
import type { ProjectContext, SpecFileFacts } from '../checks/questions/context.js';
import {
  foreignGlobals,
  lacksDocument,
  lacksGlobals,
  lacksMatchers,
  matcherBringers,
} from '../checks/questions/lacking.js';
import { loadedBy, replacedIn } from '../checks/questions/missing-modules.js';
import { byRunners } from '../checks/questions/packages.js';
import type { Environment } from '../environment/facts/environment.js';
import type { Place } from '../finding.js';
import { MATCHER_EXTENSIONS } from '../libraries/matchers.js';
import { isTypeScript } from '../util/paths.js';

/** A fact that decides whether a suite runs, and that could not be read. */
export interface Undecided {
  /** The folder of the package. */
  folder: string;
  fact: string;
  reason: string;
  at: Place | undefined;
  /** What would tell it. */
  opens: string;
}

// Names that no package can have, and that no rule which could be read takes.
const NO_PACKAGE = /^(?:@\/|~|\$|@@)/;

/** Imports that only what could not be read of the settings can lead anywhere: the first. */
export function untoldImports(
  environment: Environment,
  specFiles: readonly SpecFileFacts[],
  context: ProjectContext,
): Undecided[] {
  const { folder } = environment;
  const { project } = context;
  const replaced = replacedIn(specFiles);
  for (const { runners, files } of byRunners({ environment, specFiles: [...specFiles] })) {
    if (runners.some(({ aliases }) => aliases.known)) continue;
    for (const path of loadedBy(files, replaced, context).keys())
      for (const { specifier, start, end } of project.summary(path)?.modules ?? []) {
        if (!NO_PACKAGE.test(specifier) || replaced.has(specifier) || project.resolve(path, specifier))
          continue;
        return [
          {
            folder,
            fact: `where imports such as ${specifier} lead`,
            reason: 'no alias that could be read takes it, and the settings may have others',
            at: { file: path, start, end },
            opens: '"run": { "aliases": … }',
          },
        ];
      }
  }
  return [];
}

/** What specs need, and what only packages that no table knows could bring: the first of each kind; `isOn`: whether a check, by its code, takes part. */
export function broughtByStrangers(
  environment: Environment,
  specFiles: readonly SpecFileFacts[],
  context: ProjectContext,
  isOn: (code: string) => boolean,
): Undecided[] {
  const found = new Map<string, Undecided>();
  for (const file of specFiles) {
    const setup = context.setupOf(file.path);
    const [runner] = environment.runnersOf(file.path);
    const [stranger] = setup?.strangers ?? [];
    if (!setup || !runner || stranger === undefined) continue;
    const { setupFiles } = runner;
    const at =
      setup.files.flatMap((path) => placeOf(path, stranger, context) ?? [])[0] ??
      (setupFiles.known ? setupFiles.value[0]?.at : undefined);
    for (const { fact, isLacking, opens } of NEEDS.filter(({ code }) => isOn(code)))
      if (!found.has(fact) && isLacking(file, environment, context))
        found.set(fact, {
          folder: environment.folder,
          fact,
          reason: `the set-up loads ${stranger}, which no table knows`,
          at,
          opens,
        });
  }
  return [...found.values()];
}

function placeOf(path: string, specifier: string, { project }: ProjectContext): Place | undefined {
  const found = project.summary(path)?.modules.find((each) => each.specifier === specifier);
  return found && { file: path, start: found.start, end: found.end };
}

const NEEDS: readonly {
  /** The check that says so where all is known. */
  code: string;
  fact: string;
  isLacking: (file: SpecFileFacts, environment: Environment, context: ProjectContext) => boolean;
  opens: string;
}[] = [
  {
    code: 'E02',
    fact: 'where the document comes from',
    isLacking: lacksDocument,
    opens: '"run": { "document": … }',
  },
  {
    code: 'E07',
    fact: 'who makes the runner’s functions global',
    isLacking: lacksGlobals,
    opens: '"run": { "globals": … }',
  },
  {
    code: 'E06',
    fact: 'who registers the matchers',
    isLacking: (file, environment, context) =>
      MATCHER_EXTENSIONS.some(
        (extension) =>
          lacksMatchers(file, extension, environment, context) &&
          !matcherBringers(extension, context).has(file.path),
      ),
    opens: '"run": { "setupFiles": … }',
  },
  {
    code: 'E10',
    fact: 'what compiles the files',
    isLacking: ({ path }, environment, { project }) =>
      environment.runnersOf(path).every(({ runner }) => isLoadedByNode(runner)) &&
      (isTypeScript(path) || project.summary(path)?.jsx === true),
    opens: '"run": { "transforms": … }',
  },
  {
    code: 'E22',
    fact: 'who sets the words of another runner',
    isLacking: (file, environment, context) =>
      environment.runnersOf(file.path).every((runner) => foreignGlobals(file, runner, context).length > 0),
    opens: '"run": { "setupFiles": … }',
  },
];

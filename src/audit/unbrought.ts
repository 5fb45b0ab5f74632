import { isLoadedByNode } from '../environment/tables/runners.js';
import type { ProjectContext, SpecFileFacts } from '../checks/questions/context.js';
import { foreignGlobals, lackingMatchers, lacksDocument, lacksGlobals } from '../checks/questions/lacking.js';
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
  const files = specFiles.filter(
    ({ path }) =>
      environment.runnersOf(path).length > 0 && (context.setupOf(path)?.strangers.length ?? 0) > 0,
  );
  return NEEDS.filter(({ code }) => isOn(code)).flatMap(({ fact, lacking, opens }): Undecided[] => {
    const [first] = lacking(files, environment, context);
    const setup = first && context.setupOf(first.path);
    const [stranger = ''] = setup?.strangers ?? [];
    if (!setup) return [];
    const [runner] = environment.runnersOf(first.path);
    const at =
      setup.files.flatMap((path) => placeOf(path, stranger, context) ?? [])[0] ??
      (runner?.setupFiles.known ? runner.setupFiles.value[0]?.at : undefined);
    const reason = `the set-up loads ${stranger}, which no table knows`;
    return [{ folder: environment.folder, fact, reason, at, opens }];
  });
}

function placeOf(path: string, specifier: string, { project }: ProjectContext): Place | undefined {
  const found = project.summary(path)?.modules.find((each) => each.specifier === specifier);
  return found && { file: path, start: found.start, end: found.end };
}

const NEEDS: readonly {
  /** The check that says so where all is known. */
  code: string;
  fact: string;
  /** The spec files, of some, that need it. */
  lacking: (
    files: readonly SpecFileFacts[],
    environment: Environment,
    context: ProjectContext,
  ) => readonly SpecFileFacts[];
  opens: string;
}[] = [
  {
    code: 'E02',
    fact: 'where the document comes from',
    lacking: (files, ...rest) => files.filter((file) => lacksDocument(file, ...rest)),
    opens: '"run": { "document": … }',
  },
  {
    code: 'E07',
    fact: 'who makes the runner’s functions global',
    lacking: (files, ...rest) => files.filter((file) => lacksGlobals(file, ...rest)),
    opens: '"run": { "globals": … }',
  },
  {
    code: 'E06',
    fact: 'who registers the matchers',
    lacking: (files, ...rest) =>
      MATCHER_EXTENSIONS.flatMap((extension) => lackingMatchers(files, extension, ...rest)),
    opens: '"run": { "setupFiles": … }',
  },
  {
    code: 'E10',
    fact: 'what compiles the files',
    lacking: (files, environment, { project }) =>
      files.filter(
        ({ path }) =>
          environment.runnersOf(path).every(({ runner }) => isLoadedByNode(runner)) &&
          (isTypeScript(path) || project.summary(path)?.jsx === true),
      ),
    opens: '"run": { "transforms": … }',
  },
  {
    code: 'E22',
    fact: 'who sets the words of another runner',
    lacking: (files, environment, context) =>
      files.filter((file) =>
        environment.runnersOf(file.path).every((runner) => foreignGlobals(file, runner, context).length > 0),
      ),
    opens: '"run": { "setupFiles": … }',
  },
];

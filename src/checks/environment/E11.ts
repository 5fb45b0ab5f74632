import { MODULES, REPLACED } from '../questions/facts.js';
import type { Libraries } from '../../libraries/index.js';
import { isBuiltin } from 'node:module';
import { isBrought } from '../../environment/brought.js';
import { declares, manifestsOf, type Environment } from '../../environment/facts/environment.js';
import { join, packageOf } from '../../util/paths.js';
import { isTestLibrary } from '../../project/specs-by-content.js';
import { settingAt } from '../../environment/settings/setting.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext, SpecFileFacts } from '../questions/context.js';
import { isMapped, ownFolderOf, pathFor } from '../questions/aliases.js';
import { andMore, compilersAround, packagesWithSpecs, unique, type Package } from '../questions/packages.js';

const message = (name: string, files: readonly unknown[], installed: boolean): string =>
  `${name} is imported here${andMore(files)}, and no manifest up to the workspace root declares it${installed ? '; it is only there because another package needs it' : ''}.`;
const advice = (name: string): string => `Declare it: npm install --save-dev ${name}`;
const messageShipped = (name: string): string =>
  `${name} is only for specs, and everyone who installs this package gets it.`;
const adviceShipped = 'Move it to devDependencies.';

/** A package that specs import and no manifest declares. */
export const E11: ProjectCheck = {
  code: 'E11',
  family: 'environment',
  scope: 'project',
  facts: [MODULES, REPLACED],
  title: 'Spec needs an undeclared package',
  level: 'risk',
  why: 'It works as long as some other package happens to bring it, and stops on a machine where none does.',
  certain: 'Sure where no manifest around declares it, and the import is loaded when the spec is.',
  trouble: "import userEvent from '@testing-library/user-event'; // declared nowhere",
  mended: 'npm install --save-dev @testing-library/user-event',
  run: (context) =>
    unique(
      packagesWithSpecs(context).flatMap((each) => [
        ...undeclared(each, context),
        ...shipped(each, context.project.libraries),
      ]),
    ),
};

function undeclared({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  if (!environment.isWhole || !environment.manifest) return [];
  const byName = new Map<string, { file: SpecFileFacts; start: number; end: number }[]>();
  for (const file of specFiles) {
    for (const { specifier, start, end } of file.get(MODULES)) {
      const name = packageOf(specifier);
      if (
        byName.get(name)?.some((each) => each.file === file) ||
        !lacks(specifier, file, environment, context)
      )
        continue;
      byName.set(name, [...(byName.get(name) ?? []), { file, start, end }]);
    }
  }
  return [...byName].flatMap(([name, uses]): Finding[] => {
    const [first] = uses;
    const installed = environment.installedAt(name) !== undefined;
    if (!first) return [];
    return [
      {
        place: { file: first.file.path, start: first.start, end: first.end },
        certainty: 'sure',
        message: message(name, uses, installed),
        advice: advice(name),
      },
    ];
  });
}

const PACKAGE_NAME = /^(?:@[a-z0-9][\w.-]*\/)?[a-z0-9][\w.-]*$/;

function lacks(
  specifier: string,
  file: SpecFileFacts,
  environment: Environment,
  context: ProjectContext,
): boolean {
  const name = packageOf(specifier);
  if (/^[.#/~]|:/.test(specifier) || isBuiltin(specifier) || !PACKAGE_NAME.test(name)) return false;
  const isOwn = manifestsOf(environment).some((each) => each.name === name);
  if (isOwn || declares(environment, name) || isBrought(name, environment)) return false;
  // Where it is not installed either, no spec runs: E21 says so.
  if (environment.hasInstalls && environment.installedAt(name) === undefined) return false;
  if (context.project.resolve(file.path, specifier) || file.get(REPLACED).has(specifier)) return false;
  // An alias that nobody sets is another matter.
  if (ownFolderOf(specifier, environment.folder, context.files)) return false;
  if (isFolder(name, environment, context) || isCompilerPath(specifier, file, environment, context))
    return false;
  const runners = environment.runnersOf(file.path);
  const readable =
    runners.length > 0 &&
    runners.every(
      ({ aliases, readsPaths }) => aliases.known && !readsPaths && !isMapped(specifier, aliases.value),
    );
  // Where aliases can't be read, a package that is there all the same is surely one.
  return (
    readable ||
    (environment.installedAt(name) !== undefined &&
      !runners.some(({ aliases }) => aliases.known && isMapped(specifier, aliases.value)))
  );
}

// Bare names may be folders of the project, where the compiler's base says so.
const isFolder = (name: string, { folder }: Environment, { files }: ProjectContext): boolean =>
  [folder, join(folder, 'src'), join(folder, 'test')].some((base) => {
    const [first = ''] = name.split('/');
    return files.kind(join(base, first)) !== undefined;
  });

const isCompilerPath = (
  specifier: string,
  file: SpecFileFacts,
  environment: Environment,
  context: ProjectContext,
): boolean =>
  compilersAround(file.path, environment, context).some(
    ({ paths }) => !paths.known || pathFor(specifier, paths.value) !== undefined,
  );

// What only specs need goes to everyone with a package that is published; an application ships nothing.
function shipped({ environment: { manifest } }: Package, libraries: Libraries): Finding[] {
  const isPrivate = settingAt(manifest?.setting, 'private');
  const listed = settingAt(manifest?.setting, 'dependencies');
  if (!manifest || listed?.is !== 'object' || (isPrivate?.is === 'value' && isPrivate.value === true))
    return [];
  const isPublished = settingAt(manifest.setting, 'version') && settingAt(manifest.setting, 'name');
  if (!isPublished) return [];
  return [...listed.entries].flatMap(([name, { at }]): Finding[] =>
    isTestLibrary(name, libraries) && !manifest.peerDependencies.has(name)
      ? [
          {
            place: at,
            level: 'hint',
            certainty: 'sure',
            message: messageShipped(name),
            advice: adviceShipped,
          },
        ]
      : [],
  );
}

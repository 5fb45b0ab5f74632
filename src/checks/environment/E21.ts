import { declares } from '../../environment/facts/environment.js';
import type { Finding } from '../../finding.js';
import { grouped } from '../../util/grouped.js';
import { basename, dirname, join, packageOf, relativeTo } from '../../util/paths.js';
import type { ProjectCheck } from '../questions/check.js';
import { Compiling } from '../questions/compiled.js';
import type { ProjectContext } from '../questions/context.js';
import { deadImportsIn, type DeadImport } from '../questions/dead-imports.js';
import { CHOSEN_DOCUMENT, KEPT_OUT, STOOD_FOR } from '../questions/facts.js';
import { keptOutIn, loadedBy } from '../questions/missing-modules.js';
import { advicePart } from '../questions/missing-packages.js';
import { byRunners, packagesWithSpecs, type Package } from '../questions/packages.js';

const hides = (count: number): string => (count > 1 ? `: ${count} spec files load it` : '');
const messageFile = (specifier: string, count: number): string =>
  `${specifier} leads to no file${hides(count)}.`;
const messagePackage = (name: string, count: number): string =>
  `The package ${name} is not installed${hides(count)}.`;
const messageInstall = (names: readonly string[]): string =>
  `${names.length} packages that are declared are not installed: ${names.slice(0, 4).join(', ')}${names.length > 4 ? ', …' : ''}.`;
const messagePeer = (name: string, peer: string, count: number): string =>
  `${name} needs the package ${peer}, which is not installed${hides(count)}.`;
const messageSent = (specifier: string, to: string, count: number): string =>
  `An alias sends ${specifier} to ${to}, where nothing is${hides(count)}.`;
const messageEnding = (specifier: string, ending: string, count: number): string =>
  `${specifier} leaves ${ending} out, and the run does not try that ending${hides(count)}.`;
const messageWritten = (specifier: string, meant: string, count: number): string =>
  `${specifier} means ${meant}, and the run looks for what is written${hides(count)}.`;
const adviceWritten =
  "Let the settings take the ending off: moduleNameMapper: { '^(\\\\.{1,2}/.*)\\\\.js$': '$1' }";
const adviceAlias = 'Let the alias take only what it is meant for, or correct where it leads.';
const adviceRelative =
  'Let the alias lead to an absolute path: one that starts with a dot is read from the file that asks.';
const adviceFile = 'Correct the path, or write the file.';
// Installed, they throw wherever the framework's own compiler does not take them away.
const OF_FRAMEWORKS: ReadonlySet<string> = new Set(['client-only', 'server-only']);
const adviceFramework =
  'The framework takes it away, and the run does not: put an empty stand-in in its place, by an alias or in a set-up file.';
const adviceInstall = (name: string, isDeclared: boolean): string =>
  isDeclared ? 'It is declared: npm install' : `Install it: npm install --save-dev ${name}`;

/** A module that a spec file, a set-up file or what they load asks for, and that is not there. */
export const E21: ProjectCheck = {
  code: 'E21',
  family: 'environment',
  scope: 'project',
  facts: [KEPT_OUT, CHOSEN_DOCUMENT, STOOD_FOR],
  title: 'Import that leads nowhere',
  level: 'blocker',
  why: 'Every spec file that loads it, directly or through others, stops before its first spec.',
  certain: 'Sure where no alias, stand-in or generated file can be meant.',
  trouble: "import { KilnCard } from './KilnCards'; // the file is KilnCard.tsx",
  mended: "import { KilnCard } from './KilnCard';",
  run: (context) => packagesWithSpecs(context).flatMap((each) => check(each, context)),
};

function check(each: Package, context: ProjectContext): Finding[] {
  const { environment, specFiles } = each;
  const replaced = keptOutIn(specFiles);
  const troubles = new Map<string, DeadImport>();
  const compiling = new Compiling(environment, context);
  for (const { runners, files } of byRunners(each))
    for (const [from, file] of loadedBy(files, replaced, context))
      for (const trouble of deadImportsIn(from, file, runners, replaced, compiling, environment, context)) {
        const { specifier, isPackage } = trouble.missing;
        const path = trouble.to ?? join(dirname(from), specifier);
        const key = `${isPackage ? packageOf(specifier) : path}\0${trouble.peer ?? ''}`;
        if (!troubles.has(key)) troubles.set(key, trouble);
      }
  const all = [...troubles.values()];
  // One install brings all that is declared, what packages need of it too.
  const isDeclared = (trouble: DeadImport): boolean =>
    trouble.missing.isPackage && declares(environment, wantedBy(trouble));
  const byName = grouped(all.filter(isDeclared), wantedBy);
  const [first, ...more] = [...byName.values()].flatMap(([each]) => each ?? []);
  const others = all.filter((trouble) => !isDeclared(trouble));
  return [
    ...(first
      ? [{ ...found(first, each, context), ...(more.length > 0 ? installed([first, ...more]) : {}) }]
      : []),
    ...others.map((trouble) => found(trouble, each, context)),
  ];
}

// The package that is not there.
const wantedBy = ({ missing, peer }: DeadImport): string => peer ?? packageOf(missing.specifier);

const installed = (troubles: readonly DeadImport[]): Pick<Finding, 'message'> => ({
  message: messageInstall(troubles.map(wantedBy)),
});

function found(
  { from, missing, peer, to, isRelative, ending, written, file }: DeadImport,
  { environment: { manifest, outer, runners }, specFiles }: Package,
  context: ProjectContext,
): Finding {
  const { specifier, isPackage, start, end } = missing;
  // Where the settings name it as well, that is where it is told.
  const named = runners
    .flatMap((runner) => runner.named)
    .find(
      ({ text, candidates }) => candidates.length === 0 && packageOf(text) === (peer ?? packageOf(specifier)),
    );
  const name = packageOf(specifier);
  const isDeclared = [manifest, ...outer].some((each) => each?.dependencies.has(peer ?? name));
  const isLoader = (asked: string): boolean =>
    isPackage ? packageOf(asked) === name : to !== undefined && asked === specifier;
  const loaders = context.imports().loadersOf((asked, target) => isLoader(asked) || target?.path === from);
  const isSetup = context.setupOf(file.path)?.files.includes(from) ?? false;
  const count = isSetup
    ? specFiles.length
    : specFiles.filter(({ path }) => path === from || loaders.has(path)).length;
  return {
    place: { file: from, start, end },
    certainty: 'sure',
    follows: isPackage ? named?.at : undefined,
    message: peer
      ? messagePeer(name, peer, count)
      : isPackage
        ? messagePackage(name, count)
        : to !== undefined
          ? messageSent(specifier, relativeTo(context.root, to), count)
          : written !== undefined
            ? messageWritten(specifier, basename(written), count)
            : ending !== undefined
              ? messageEnding(specifier, ending, count)
              : messageFile(specifier, count),
    advice: OF_FRAMEWORKS.has(specifier)
      ? adviceFramework
      : isPackage
        ? adviceInstall(peer ?? name, isDeclared)
        : to !== undefined
          ? isRelative
            ? adviceRelative
            : adviceAlias
          : written !== undefined
            ? adviceWritten
            : ending !== undefined
              ? `Write it: ${specifier}${ending}`
              : specifier.startsWith('.')
                ? adviceFile
                : advicePart(specifier),
    evidence:
      file.path === from
        ? []
        : [{ file: file.path, start: 0, end: 0, note: `loads ${relativeTo(context.root, from)}` }],
  };
}

import { isBuiltin } from 'node:module';
import type { RunnerFacts } from '../../environment/facts/environment.js';
import { runsModules } from '../../environment/settings/commands.js';
import type { Finding, Span } from '../../finding.js';
import { calledParts, type CalledPart } from '../../project/what-runs.js';
import { nearest } from '../../util/nearest.js';
import { relativeTo } from '../../util/paths.js';
import { reachableFrom } from '../../project/reachable.js';
import { sentTo, type AliasRule } from '../../host/leads.js';
import { isSent } from '../questions/aliases.js';
import type { ProjectCheck } from '../questions/check.js';
import { fileFact, inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { REPLACED, UNGIVEN, UNGIVEN_BELOW } from '../questions/facts.js';
import {
  loadedBy,
  missingNamesIn,
  missingPackageNamesIn,
  replacedIn,
  type MissingName,
} from '../questions/missing-modules.js';
import { byRunners, packagesWithSpecs, type Package } from '../questions/packages.js';

const message = (specifier: string, name: string): string =>
  name === 'default' ? `${specifier} gives nothing by default.` : `${specifier} gives no “${name}”.`;
const adviceName = (name: string, specifier: string): string =>
  `Take what it gives: import { ${name} } from '${specifier}';`;
const adviceDefault = (local: string, specifier: string): string =>
  `It is given by default: import ${local} from '${specifier}';`;
const messageUngiven = (specifier: string, name: string): string =>
  `The stand-in for ${specifier} gives ${name === 'default' ? 'nothing by default' : `no “${name}”`}, and it is asked for here.`;
const messageBelow = (specifier: string, name: string, component: string): string =>
  `The stand-in for ${specifier} gives ${name === 'default' ? 'nothing by default' : `no “${name}”`}, and ${component} calls it as soon as it is shown.`;
const adviceUngiven = (name: string, runner: string | undefined): string =>
  `Let its factory give it, too: ${name}: ${runner === 'jest' ? 'jest' : 'vi'}.fn()`;
const adviceVersion = 'Take what the installed version of it gives.';
const adviceNone = 'Export it there, or take what is exported.';

// What a package gives is only known where it is installed.
const CALLED_PARTS = fileFact('called parts', ({ file, project, environment }) =>
  environment.hasInstalls ? calledParts(project, file.path) : [],
);

/** A name that a spec file, a set-up file or what they load imports, and that the module does not export. */
export const E26: ProjectCheck = {
  code: 'E26',
  family: 'environment',
  scope: 'project',
  facts: [REPLACED, UNGIVEN, UNGIVEN_BELOW, CALLED_PARTS],
  title: 'Import of what nobody exports',
  level: 'blocker',
  why: 'The name stands for nothing: whatever renders or calls it throws, far from the import.',
  certain:
    'Sure where the module and all that it hands on can be read, and no stand-in takes its place; likely where it is only kept.',
  trouble: "import KilnCard from './KilnCard'; // export const KilnCard = …",
  mended: "import { KilnCard } from './KilnCard';",
  run: (context) => packagesWithSpecs(context).flatMap((each) => check(each, context)),
};

function check(each: Package, context: ProjectContext): Finding[] {
  const replaced = replacedIn(each.specFiles);
  const found = new Map<string, Finding>();
  for (const { runners, files } of byRunners(each)) {
    // Where a rule sends it is where the import was followed to, but for what can't be told.
    const isAway = ({ specifier, target }: MissingName): boolean =>
      runners.some(
        ({ aliases }) =>
          aliases.known &&
          isSent(specifier, aliases.value) &&
          !(target !== undefined && aliases.value.some((rule) => leadsTo(specifier, rule, target))),
      );
    // A stub that the settings put in place of a module gives what those who call it need.
    const isStubbed = ({ specifier, isKept }: MissingName): boolean =>
      isKept && runners.some(({ aliases }) => aliases.known && isSent(specifier, aliases.value));
    for (const [from, file] of loadedBy(files, replaced, context))
      for (const missing of [
        ...missingNamesIn(from, replaced, context),
        ...missingPackageNamesIn(from, replaced, context),
      ])
        if (!isAway(missing) && !isStubbed(missing))
          found.set(`${from}\0${missing.local}`, finding(from, missing, file, context));
  }
  for (const file of each.specFiles)
    for (const part of file.get(CALLED_PARTS)) {
      const given = partsLacked(part, file, each, context);
      if (given)
        found.set(
          `${file.path}\0${part.start}`,
          finding(
            file.path,
            { ...part, local: part.name, target: undefined, given, isKept: false },
            undefined,
            context,
          ),
        );
    }
  for (const file of each.specFiles) {
    const runners = each.environment.runnersOf(file.path);
    const isLacked = ({ name, isMarked }: Ungiven): boolean =>
      name !== 'default' || isMarked || !runners.some(takesWhole);
    for (const ungiven of file.get(UNGIVEN).filter(isLacked))
      found.set(`${file.path}\0${ungiven.start}`, findingUngiven(file, ungiven, runners));
    for (const { at, component, what: ungiven } of file.get(UNGIVEN_BELOW))
      if (isLacked(ungiven))
        found.set(`${file.path}\0${ungiven.start}\0${ungiven.name}`, {
          ...findingUngiven(file, ungiven, runners),
          message: messageBelow(ungiven.specifier, ungiven.name, component),
          evidence: [{ ...at, note: 'calls it under no condition' }],
        });
  }
  // Settings of the project's own stop the run in the same way.
  const settings = each.environment.runners.flatMap(({ settingsFile }) => settingsFile ?? []);
  for (const from of reachableFrom(context.project, settings).files)
    for (const missing of [
      ...missingNamesIn(from, NONE, context),
      ...missingPackageNamesIn(from, NONE, context),
    ])
      found.set(`${from}\0${missing.local}`, finding(from, missing, undefined, context));
  return [...found.values()];
}

// What a package gives, where a part that is called is surely not among it.
function partsLacked(
  { specifier, name, whole }: CalledPart,
  file: SpecFileFacts,
  { environment }: Package,
  { project, setupOf }: ProjectContext,
): ReadonlySet<string> | undefined {
  const isReplaced =
    file.get(REPLACED).has(specifier) || setupOf(file.path)?.replaced.has(specifier) === true;
  const runners = environment.runnersOf(file.path);
  const isAway = runners.some(({ aliases }) => !aliases.known || isSent(specifier, aliases.value));
  if (isReplaced || isAway || isBuiltin(specifier) || project.resolve(file.path, specifier)) return undefined;
  const given = project.packageWithout(name, file.path, specifier);
  // What is given by default may carry more than the names beside it.
  return whole === 'default' && given?.has('default') ? undefined : given;
}

/** What a factory does not give; `isMarked`: it says that it stands for an ES module. */
type Ungiven = { specifier: string; name: string; isMarked: boolean } & Span;

// Babel 7, swc 1, ts-jest 27 to 29: where imports become `require`, the default of what is not marked is all of it.
const takesWhole = ({ runner, commands }: RunnerFacts): boolean =>
  runner === 'jest' && !commands.some(runsModules);

const findingUngiven = (
  file: SpecFileFacts,
  { specifier, name, start, end }: Ungiven,
  [runner]: readonly RunnerFacts[],
): Finding => ({
  place: inSpecFile(file, { start, end }),
  certainty: 'sure',
  message: messageUngiven(specifier, name),
  advice: adviceUngiven(name, runner?.runner),
});

const leadsTo = (specifier: string, rule: AliasRule, target: string): boolean =>
  sentTo(specifier, rule)?.replace(/\.\w+$/, '') === target.replace(/\.\w+$/, '');

const NONE: ReadonlySet<string> = new Set();

function finding(
  from: string,
  { local, specifier, name, start, end, target, given, isKept }: MissingName,
  file: SpecFileFacts | undefined,
  { root }: ProjectContext,
): Finding {
  const shown = `${[...given].slice(0, 4).join(', ')}${given.size > 4 ? ', …' : ''}`;
  return {
    place: { file: from, start, end },
    certainty: isKept ? 'likely' : 'sure',
    level: isKept ? 'risk' : undefined,
    message: message(specifier, name),
    advice: adviceFor(local, name, specifier, given) ?? (target === undefined ? adviceVersion : adviceNone),
    evidence: [
      ...(target === undefined ? [] : [{ file: target, start: 0, end: 0, note: `gives ${shown}` }]),
      ...(!file || file.path === from
        ? []
        : [{ file: file.path, start: 0, end: 0, note: `loads ${relativeTo(root, from)}` }]),
    ],
  };
}

function adviceFor(
  local: string,
  name: string,
  specifier: string,
  given: ReadonlySet<string>,
): string | undefined {
  const near = nearest(name === 'default' ? local : name, given);
  if (near !== undefined && near !== 'default')
    return adviceName(near === local ? near : `${near} as ${local}`, specifier);
  return given.has('default') ? adviceDefault(local, specifier) : undefined;
}

import { isBuiltin } from 'node:module';
import { isMissing } from '../../environment/brought.js';
import { has, type Environment, type RunnerFacts } from '../../environment/facts/environment.js';
import { settingAt, textOf } from '../../environment/settings/setting.js';
import { isBabelHook, isCompileHook } from '../../environment/tables/compile-hooks.js';
import { hasStandIn, sentTo } from '../../host/leads.js';
import { dirname, extname, join, packageOf } from '../../util/paths.js';
import { mayMatch } from '../../util/pattern.js';
import { isMapped, isSent } from './aliases.js';
import { isLoadedByNode } from '../../environment/tables/runners.js';
import { type Compiling } from './compiled.js';
import type { ProjectContext, SpecFileFacts } from './context.js';
import { STOOD_FOR } from './facts.js';
import { isThere } from './is-there.js';
import { isMade, isNoModule, unresolvedIn, type MissingModule } from './missing-modules.js';
import { lackingBehind, lackingPeers, loadedOf } from './missing-packages.js';
import { compilersAround } from './packages.js';

/** What a file asks for and that is not there: a module, or what a module, its language or its JSX needs. */
export interface DeadImport {
  from: string;
  missing: MissingModule;
  peer?: string;
  /** The ending that it leaves out, and that nobody tries. */
  ending?: string;
  /** Where an alias sends the import; `isRelative`: from the file that asks. */
  to?: string;
  isRelative?: boolean;
  /** The file that is meant, by another ending than the one that is written. */
  written?: string;
  /** A spec file that stops at it. */
  file: SpecFileFacts;
}

/** What a file that a spec file loads asks for in vain, under some runners; `replaced`: what is never loaded. */
export const deadImportsIn = (
  from: string,
  file: SpecFileFacts,
  runners: readonly RunnerFacts[],
  replaced: ReadonlySet<string>,
  compiling: Compiling,
  environment: Environment,
  context: ProjectContext,
): DeadImport[] => [
  ...asked(from, file, runners, replaced, environment, context),
  ...lackingSource(from, file, runners, compiling, environment, context),
  ...lackingLanguages(from, file, runners, environment, context),
  ...(from === file.path ? lackingStoodFor(file, runners, environment, context) : []),
];

function asked(
  from: string,
  file: SpecFileFacts,
  runners: readonly RunnerFacts[],
  replaced: ReadonlySet<string>,
  environment: Environment,
  context: ProjectContext,
): DeadImport[] {
  const isReplaced = ({ specifier }: MissingModule): boolean =>
    replaced.has(specifier) ||
    runners.some(({ aliases }) => (aliases.known ? isSent(specifier, aliases.value) : false)) ||
    runners.every((runner) => standsIn(runner, specifier, context));
  // The patterns of jest may take a path as well; an alias of the bundler's is a name, in settings that are there.
  const mayBeAlias = ({ specifier }: MissingModule): boolean =>
    runners.some(
      ({ aliases, runner, settings, settingsFile }) =>
        !aliases.known &&
        (runner === 'jest' || (!settings && settingsFile !== undefined && !specifier.startsWith('.'))),
    );
  const missing = unresolvedIn(from, environment, context)
    .filter((each) => !isReplaced(each) && !mayBeAlias(each))
    .filter(({ specifier }) => pathTo(specifier, from, runners, environment, context) === undefined)
    .map((each): DeadImport => ({ from, missing: each, file }));
  const cut = (context.project.summary(from)?.modules ?? []).flatMap((each): DeadImport[] => {
    const target = each.specifier.startsWith('.') ? context.project.resolve(from, each.specifier) : undefined;
    if (!target || isReplaced({ ...each, isPackage: false }) || replaced.has(target)) return [];
    const ending = extname(target);
    const isWritten = !runners.every((runner) =>
      isMissed(ending, runner, { from, file }, environment, context),
    );
    if (isWritten || target.startsWith(join(dirname(from), each.specifier) + '/')) return [];
    const isCut = join(dirname(from), each.specifier) + ending === target;
    return isCut ? [{ from, missing: { ...each, isPackage: false }, ending, file }] : [];
  });
  // jest looks for what is written, where no rule takes the ending off.
  const [runner, ...others] = runners;
  const isJest = runner?.runner === 'jest' && others.length === 0;
  const rules = isJest && runner.aliases.known ? runner.aliases.value : undefined;
  const other = !rules
    ? []
    : (context.project.summary(from)?.modules ?? []).flatMap((each): DeadImport[] => {
        const target = each.specifier.startsWith('.')
          ? context.project.resolve(from, each.specifier)
          : undefined;
        const written = /\.[cm]?jsx?$/.exec(each.specifier)?.[0];
        const isOther = target !== undefined && written !== undefined && extname(target) !== written;
        if (
          !isOther ||
          isMapped(each.specifier, rules) ||
          replaced.has(each.specifier) ||
          replaced.has(target)
        )
          return [];
        return [{ from, missing: { ...each, isPackage: false }, written: target, file }];
      });
  const mapped = (context.project.summary(from)?.modules ?? []).flatMap((each): DeadImport[] => {
    const isKept = environment.isWhole && !replaced.has(each.specifier);
    const mapped = isKept ? mappedTo(each.specifier, from, runners, context) : undefined;
    const to =
      mapped?.path ?? (isKept ? pathTo(each.specifier, from, runners, environment, context) : undefined);
    if (to === undefined) return [];
    return [{ from, missing: { ...each, isPackage: false }, to, isRelative: mapped?.isRelative, file }];
  });
  const peers = (context.project.summary(from)?.modules ?? []).flatMap((each): DeadImport[] => {
    const isOwn = each.specifier.startsWith('.') || context.project.resolve(from, each.specifier);
    if (isOwn || isReplaced({ ...each, isPackage: true })) return [];
    const isSetup = context.setupOf(file.path)?.files.includes(from);
    const behind = isSetup ? lackingBehind(from, each.specifier, environment, context) : [];
    const missing = lackingPeers(packageOf(each.specifier), environment, context);
    // A peer that only its styles ask for stops no spec.
    const lacking = loadedOf(missing, from, each.specifier, context);
    return [...new Set([...lacking, ...behind])].map((peer) => ({
      from,
      missing: { ...each, isPackage: true },
      peer,
      file,
    }));
  });
  return [...missing, ...cut, ...other, ...mapped, ...peers];
}

// @vitejs/plugin-vue 2 to 6 and vite 4 to 8: the packages that compile the languages of templates and styles, any of each.
const COMPILED_BY: ReadonlyMap<string, readonly [string, ...string[]]> = new Map([
  ['scss', ['sass-embedded', 'sass']],
  ['sass', ['sass-embedded', 'sass']],
  ['less', ['less']],
  ['styl', ['stylus']],
  ['stylus', ['stylus']],
  ['pug', ['pug']],
]);

function lackingLanguages(
  from: string,
  file: SpecFileFacts,
  runners: readonly RunnerFacts[],
  environment: Environment,
  { project }: ProjectContext,
): DeadImport[] {
  const [runner, ...others] = runners;
  const isLeft = settingAt(runner?.settings, 'test', 'css') !== undefined;
  if (runner?.runner !== 'vitest' || others.length > 0 || isLeft || !runner.transforms.known) return [];
  return (project.summary(from)?.languages ?? []).flatMap(({ lang, start, end }): DeadImport[] => {
    const names = COMPILED_BY.get(lang);
    return names?.every((name) => isMissing(environment, name))
      ? [{ from, missing: { specifier: names[0], isPackage: true, start, end }, file }]
      : [];
  });
}

// jest 27 to 30 looks for the module before it makes a stand-in for it, whoever makes that.
function lackingStoodFor(
  file: SpecFileFacts,
  runners: readonly RunnerFacts[],
  environment: Environment,
  context: ProjectContext,
): DeadImport[] {
  const [runner, ...others] = runners;
  if (runner?.runner !== 'jest' || others.length > 0 || !runner.aliases.known) return [];
  const { value: rules } = runner.aliases;
  return file
    .get(STOOD_FOR)
    .filter(
      ({ specifier }) =>
        !isSent(specifier, rules) &&
        !standsIn(runner, specifier, context) &&
        isNoModule(file.path, specifier, environment, context),
    )
    .map((each) => ({
      from: file.path,
      missing: { ...each, isPackage: !each.specifier.startsWith('.') },
      file,
    }));
}

// The package that JSX becomes imports of, named by a setting.
function lackingSource(
  from: string,
  file: SpecFileFacts,
  runners: readonly RunnerFacts[],
  compiling: Compiling,
  environment: Environment,
  { project }: ProjectContext,
): DeadImport[] {
  const [runner, ...others] = runners;
  const summary = project.summary(from);
  if (!runner || others.length > 0 || !summary?.jsx || summary.choosesJsx) return [];
  const jsx = compiling.of(file, runner)?.jsx(from);
  if (jsx?.is !== 'imports' || !jsx.at || !isMissing(environment, packageOf(jsx.from))) return [];
  return [{ from: jsx.at.file, missing: { specifier: jsx.from, isPackage: true, ...jsx.at }, file }];
}

// jest takes a file by the name of a package beside its roots in the place of that package, there or not.
const standsIn = (
  { runner, folder, collects }: RunnerFacts,
  specifier: string,
  { files }: ProjectContext,
): boolean =>
  runner === 'jest' &&
  !specifier.startsWith('.') &&
  hasStandIn(files, [folder, ...(collects.known ? collects.value.roots : [])], specifier);

// Node itself tries no ending for an ES module; what compiles may try some.
function isMissed(
  ending: string,
  { runner, endings }: RunnerFacts,
  { from, file }: Pick<DeadImport, 'from' | 'file'>,
  { manifest }: Environment,
  { setupOf, project }: ProjectContext,
): boolean {
  if (!isLoadedByNode(runner)) return endings.known && !endings.value.includes(ending);
  const setup = setupOf(file.path);
  if (
    !setup ||
    setup.strangers.length > 0 ||
    [...setup.packages].some((each) => isBabelHook(each) || isCompileHook(each))
  )
    return false;
  const isModule = textOf(settingAt(manifest?.setting, 'type')) === 'module';
  return (
    (from.endsWith('.mjs') || (isModule && from.endsWith('.js'))) && project.summary(from)?.isModule === true
  );
}

// Where an alias of all runners sends an import, if nothing is there though the folder that the alias names is.
function mappedTo(
  specifier: string,
  from: string,
  runners: readonly RunnerFacts[],
  context: ProjectContext,
): { path: string; isRelative: boolean } | undefined {
  const { files } = context;
  const [runner, ...others] = runners;
  if (!runner?.aliases.known || others.length > 0) return undefined;
  const rule = runner.aliases.value.find(({ pattern }) => mayMatch(pattern, specifier));
  if (!rule?.to || !/^[./]/.test(rule.to)) return undefined;
  // Such a path is read from the file that asks, whatever folder the settings lie in.
  const isRelative = rule.to.startsWith('.');
  const [base = ''] = rule.to.split('$');
  const to = sentTo(specifier, rule);
  if (to === undefined || /\.(?:svg|png|css|scss|less)/.test(to)) return undefined;
  const path = isRelative ? join(dirname(from), to) : to;
  const isBased = isRelative || base === rule.to || files.kind(base.replace(/\/[^/]*$/, '')) === 'folder';
  return isBased && !isThere(path, files) && !isMade(path, context) ? { path, isRelative } : undefined;
}

// Where the compiler's paths send an import that the run resolves by them alone, if nothing is there.
function pathTo(
  specifier: string,
  from: string,
  runners: readonly RunnerFacts[],
  environment: Environment,
  context: ProjectContext,
): string | undefined {
  const [runner, ...others] = runners;
  if (!runner?.readsPaths || !runner.aliases.known || others.length > 0) return undefined;
  if (isMapped(specifier, runner.aliases.value) || context.project.resolve(from, specifier)) return undefined;
  if (has(environment, packageOf(specifier)) || isBuiltin(specifier)) return undefined;
  const compilers = compilersAround(from, environment, context).filter(({ takes }) => takes(from));
  const rules = compilers.flatMap(({ leads }) => leads.rules);
  // One for every name says nothing of this one.
  const rule = rules.find(({ pattern }) => !mayMatch(pattern, 'any') && mayMatch(pattern, specifier));
  const path = rule && sentTo(specifier, rule);
  return path !== undefined && !isThere(path, context.files) && !isMade(path, context) ? path : undefined;
}

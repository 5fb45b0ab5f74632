import { isBuiltin } from 'node:module';
import { REPLACED } from '../questions/facts.js';
import { declares, type Environment, type RunnerFacts } from '../../environment/facts/environment.js';
import type { Files } from '../../host/files.js';
import { join, packageOf, relativeTo } from '../../util/paths.js';
import { escaped } from '../../util/pattern.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding, Place } from '../../finding.js';
import type { ProjectContext, SpecFileFacts } from '../questions/context.js';
import { aliasesOf, isMapped, ownFolderOf, pathFor } from '../questions/aliases.js';
import { isLoadedByNode } from '../../environment/tables/runners.js';
import { isThere } from '../questions/is-there.js';
import { loadedBy, replacedIn } from '../questions/missing-modules.js';
import {
  andMore,
  byRunners,
  compilersAround,
  packagesWithSpecs,
  type Package,
} from '../questions/packages.js';

const message = (specifier: string, name: string, runner: string, files: readonly unknown[]): string =>
  `${specifier} is imported here${andMore(files)}: the compiler’s settings resolve ${name}, and those of ${runner} do not.`;

const messageNobody = (
  specifier: string,
  folder: string,
  runner: string,
  files: readonly unknown[],
): string =>
  `${specifier} is imported here${andMore(files)}: the settings of ${runner} have no alias for it, though ${folder} holds what it asks for.`;

/** An import that only the compiler can resolve. */
export const E13: ProjectCheck = {
  code: 'E13',
  family: 'environment',
  scope: 'project',
  facts: [REPLACED],
  title: 'Alias that the run cannot resolve',
  level: 'blocker',
  why: 'The editor is content, and the run stops at the import: the runner reads no compiler settings.',
  certain: 'Sure where the compiler resolves it by its paths; that nobody resolves it is likely.',
  trouble: '"paths": { "@/*": ["./src/*"] } // in tsconfig.json, and nowhere else',
  mended: "moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' }",
  run: (context) => packagesWithSpecs(context).flatMap((each) => check(each, context)),
};

const ASKED: ReadonlySet<string> = new Set(['jest', 'vitest', 'react-scripts', 'mocha', 'node', 'karma']);

/** What the compiler does with a name. */
interface Resolved {
  name: string;
  at: Place;
  /** The names that it takes, as a regular expression, and the absolute path that they become. */
  pattern: string;
  to: string | undefined;
}

interface Use {
  file: SpecFileFacts;
  /** The file that imports it: the spec file, or what it loads. */
  from: string;
  runner: RunnerFacts;
  /** The compiler's entry that resolves it, or the folder that it seems to name. */
  path: Resolved | undefined;
  folder: string;
  specifier: string;
  start: number;
  end: number;
}

function check(each: Package, context: ProjectContext): Finding[] {
  const { environment } = each;
  const replaced = replacedIn(each.specFiles);
  const byPath = new Map<string, Use[]>();
  for (const { runners, files } of byRunners(each)) {
    const [runner, ...others] = runners;
    const aliases = runner && files[0] && aliasesOf(runner, context.setupOf(files[0].path));
    if (!runner || others.length > 0 || !aliases || !ASKED.has(runner.runner)) continue;
    const { rules, readsPaths } = aliases;
    for (const [from, file] of loadedBy(files, replaced, context))
      for (const { specifier, start, end } of context.project.summary(from)?.modules ?? []) {
        if (specifier.startsWith('.') || declares(environment, packageOf(specifier))) continue;
        if (replaced.has(specifier) || isMapped(specifier, rules)) continue;
        if (isSearched(specifier, runner, context.files)) continue;
        const path =
          compilerPath(specifier, from, environment, context) ??
          basePath(specifier, from, environment, context);
        if (path && readsPaths) continue;
        const named = path ? '' : nobodysFolder(specifier, from, environment, context);
        if (named === undefined) continue;
        const key = path?.name ?? named;
        const uses = byPath.get(key) ?? [];
        const folder = relativeTo(context.root, named);
        if (!uses.some((use) => use.file === file))
          uses.push({ file, from, runner, path, folder, specifier, start, end });
        byPath.set(key, uses);
      }
  }
  return [...byPath.values()].flatMap((uses) => (uses[0] ? [found(uses[0], uses)] : []));
}

// Folders that the run looks into; endings that it does not try there it does not find.
const isSearched = (specifier: string, { leads }: RunnerFacts, files: Files): boolean =>
  leads.folders.some(({ folder, endings }) => {
    const path = join(folder, specifier);
    return endings
      ? ['', '/index'].some((name) => endings.some((each) => files.kind(path + name + each) === 'file'))
      : isThere(path, files);
  });

// Neither the run nor the compiler knows the alias, as far as their settings can be read.
function nobodysFolder(
  specifier: string,
  file: string,
  environment: Environment,
  context: ProjectContext,
): string | undefined {
  const unread = compilersAround(file, environment, context).some(({ paths }) => !paths.known);
  const resolves = context.project.resolve(file, specifier) !== undefined;
  return unread || resolves ? undefined : ownFolderOf(specifier, environment.folder, context.files);
}

function compilerPath(
  specifier: string,
  file: string,
  environment: Environment,
  context: ProjectContext,
): Resolved | undefined {
  for (const { paths, takes, leads } of compilersAround(file, environment, context)) {
    const found = paths.known && takes(file) ? pathFor(specifier, paths.value) : undefined;
    // The first of its targets.
    const rule = found && leads.rules.find(({ at }) => at === found.at);
    if (rule) return { name: found.text, ...rule };
  }
  return undefined;
}

// What the compiler finds below its `baseUrl`, and nobody among the packages.
function basePath(
  specifier: string,
  file: string,
  environment: Environment,
  context: ProjectContext,
): Resolved | undefined {
  const isPackage = !environment.hasInstalls || environment.installedAt(packageOf(specifier)) !== undefined;
  if (isPackage || isBuiltin(specifier)) return undefined;
  const base = compilersAround(file, environment, context).find(
    ({ baseUrl, takes }) => baseUrl && takes(file) && isThere(join(baseUrl.text, specifier), context.files),
  )?.baseUrl;
  const [first = ''] = specifier.split('/');
  return (
    base && {
      name: first,
      at: base.at,
      pattern: `^${escaped(first)}(/.*|)$`,
      to: join(base.text, `${first}$1`),
    }
  );
}

function found(use: Use, uses: readonly unknown[]): Finding {
  const { from, runner, path, folder, specifier, start, end } = use;
  if (!path) {
    const name = specifier
      .split('/')
      .slice(0, specifier.startsWith('@/') ? 2 : 1)
      .join('/');
    return {
      place: { file: from, start, end },
      certainty: 'likely',
      message: messageNobody(specifier, folder, runner.runner, uses),
      advice: isLoadedByNode(runner.runner)
        ? `Say where ${name} leads in the compiler’s settings, under paths.`
        : `Set an alias for ${name} in the settings of the run.`,
      evidence: runner.settings && [{ ...runner.settings.at, note: 'the settings of the run' }],
    };
  }
  const target = relativeTo(runner.folder, path.to ?? join(runner.folder, 'src/$1'));
  const prefix = path.name.replace('/*', '');
  const advice = isLoadedByNode(runner.runner)
    ? 'Load what reads the compiler’s paths before the specs, such as tsx.'
    : runner.runner === 'jest'
      ? `Map it for the runner as well: moduleNameMapper: { '${path.pattern}': '<rootDir>/${target}' }`
      : `Give the runner the same alias: resolve: { alias: { '${prefix}': fileURLToPath(new URL('./${target.replace(/\/?\$1$/, '')}', import.meta.url)) } }`;
  const settings = runner.settings?.at;
  return {
    place: { file: from, start, end },
    certainty: 'sure',
    message: message(specifier, path.name, runner.runner, uses),
    advice,
    evidence: [
      { ...path.at, note: 'the compiler’s entry' },
      ...(settings ? [{ ...settings, note: 'the settings of the run' }] : []),
    ],
  };
}

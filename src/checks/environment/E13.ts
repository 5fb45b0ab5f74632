import { MODULES, REPLACED } from '../questions/facts.js';
import { declares, type Environment, type RunnerFacts } from '../../environment/facts/environment.js';
import type { PlacedText } from '../../environment/settings/setting.js';
import { packageOf } from '../../util/paths.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext, SpecFileFacts } from '../questions/context.js';
import { isMapped, pathFor } from '../questions/aliases.js';
import { andMore, compilersAround, packagesWithSpecs, type Package } from '../questions/packages.js';

const message = (specifier: string, name: string, runner: string, files: readonly unknown[]): string =>
  `${specifier} is imported here${andMore(files)}: the compiler’s paths resolve ${name}, and the settings of ${runner} do not.`;

/** An import that only the compiler can resolve. */
export const E13: ProjectCheck = {
  code: 'E13',
  family: 'environment',
  scope: 'project',
  facts: [MODULES, REPLACED],
  title: 'Alias that the run cannot resolve',
  level: 'blocker',
  why: 'The editor is content, and the run stops at the import: the runner reads no compiler settings.',
  trouble: '"paths": { "@/*": ["./src/*"] } // in tsconfig.json, and nowhere else',
  mended: "moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' }",
  run: (context) => packagesWithSpecs(context).flatMap((each) => check(each, context)),
};

interface Use {
  file: SpecFileFacts;
  runner: RunnerFacts;
  path: PlacedText;
  specifier: string;
  start: number;
  end: number;
}

function check({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  const byPath = new Map<string, Use[]>();
  for (const file of specFiles) {
    const [runner, ...others] = environment.runnersOf(file.path);
    if (!runner || others.length > 0 || !runner.aliases.known) continue;
    if (runner.runner !== 'jest' && runner.runner !== 'vitest') continue;
    for (const { specifier, start, end } of file.get(MODULES)) {
      if (
        specifier.startsWith('.') ||
        declares(environment, packageOf(specifier)) ||
        file.get(REPLACED).has(specifier)
      )
        continue;
      const path = compilerPath(specifier, file, environment, context);
      if (!path || isMapped(specifier, runner.aliases.value)) continue;
      const uses = byPath.get(path.text) ?? [];
      if (!uses.some((use) => use.file === file)) uses.push({ file, runner, path, specifier, start, end });
      byPath.set(path.text, uses);
    }
  }
  return [...byPath.values()].flatMap((uses) => (uses[0] ? [found(uses[0], uses)] : []));
}

function compilerPath(
  specifier: string,
  file: SpecFileFacts,
  environment: Environment,
  context: ProjectContext,
): PlacedText | undefined {
  for (const { paths, takes } of compilersAround(file.path, environment, context)) {
    const found = paths.known && takes(file.path) ? pathFor(specifier, paths.value) : undefined;
    if (found) return found;
  }
  return undefined;
}

function found({ file, runner, path, specifier, start, end }: Use, uses: readonly unknown[]): Finding {
  const prefix = path.text.replace('/*', '');
  const advice =
    runner.runner === 'jest'
      ? `Map it for the runner as well: moduleNameMapper: { '^${path.text.replace('*', '(.*)')}$': '<rootDir>/src/$1' }`
      : `Give the runner the same alias: resolve: { alias: { '${prefix}': fileURLToPath(new URL('./src', import.meta.url)) } }`;
  const settings = runner.settings?.at;
  return {
    place: { file: file.path, start, end },
    certainty: 'sure',
    message: message(specifier, path.text, runner.runner, uses),
    advice,
    evidence: [
      { ...path.at, note: 'the compiler’s entry' },
      ...(settings ? [{ ...settings, note: 'the settings of the run' }] : []),
    ],
  };
}

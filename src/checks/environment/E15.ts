import { RENDERS } from '../questions/facts.js';
import type { RunnerFacts } from '../../environment/facts/environment.js';
import type { Place, Finding } from '../../finding.js';
import type { ProjectCheck } from '../questions/check.js';
import { fileFact, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { packagesWithSpecs, unique, type Package } from '../questions/packages.js';

const messageIsolation = (files: number): string =>
  `Isolation is switched off: ${files} spec file${files > 1 ? 's' : ''} that render${files > 1 ? '' : 's'} and put nothing back share${files > 1 ? '' : 's'} modules and a document with all the others.`;
const adviceIsolation = 'Drop the setting, or put back in a set-up file what specs change.';
const messageCleanup = (name: string, files: number): string =>
  `${name} switches the automatic cleanup of renders off, and ${files} spec file${files > 1 ? 's' : ''} that render${files > 1 ? '' : 's'} ${files > 1 ? 'do' : 'does'} not clean up by hand.`;
const adviceCleanup = 'Drop it, or clean up in an after-each hook of a set-up file.';

/** A hook of its own takes renders down or restores stand-ins around each spec. */
const CLEANS_UP = fileFact('cleans up', ({ file }) =>
  file.blocks.some(
    ({ hook, steps }) =>
      (hook === 'after-each' || hook === 'before-each') &&
      steps.some(({ kind }) => kind === 'unmount' || kind === 'restore'),
  ),
);

/** Isolation of spec files, or cleanup after specs, that is switched off. */
export const E15: ProjectCheck = {
  code: 'E15',
  family: 'environment',
  scope: 'project',
  facts: [RENDERS, CLEANS_UP],
  title: 'Isolation or automatic cleanup is switched off',
  level: 'risk',
  why: 'What one spec file renders and changes is there for all that come after it.',
  certain: 'Sure where the setting is written out.',
  trouble: 'export default defineConfig({ test: { isolate: false } });',
  mended: 'export default defineConfig({ test: {} });',
  run: (context) => unique(packagesWithSpecs(context).flatMap((each) => check(each, context))),
};

function check({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  return environment.runners.flatMap((runner) => {
    const mine = specFiles.filter((file) => environment.runnersOf(file.path).includes(runner));
    const affected = mine.filter(
      (file) => file.get(RENDERS) > 0 && !file.get(CLEANS_UP) && !isCleanedUp(file, context),
    );
    if (affected.length === 0) return [];
    return [...isolation(runner, affected), ...cleanup(runner, affected, context)];
  });
}

const isCleanedUp = (file: SpecFileFacts, context: ProjectContext): boolean =>
  context.setupOf(file.path)?.steps.some(({ kind }) => kind === 'unmount' || kind === 'restore') ?? true;

// Runners that never isolate say nothing by it: only a setting or a flag does.
function isolation({ isolates, runner }: RunnerFacts, affected: readonly SpecFileFacts[]): Finding[] {
  if (runner !== 'vitest' || !isolates.known || isolates.value || !isolates.at) return [];
  return [
    {
      place: isolates.at,
      certainty: 'sure',
      message: messageIsolation(affected.length),
      advice: adviceIsolation,
    },
  ];
}

// The names by which user-centred libraries read it: their README, "skipping auto cleanup".
const VARIABLES = ['RTL_SKIP_AUTO_CLEANUP', 'VTL_SKIP_AUTO_CLEANUP'];
const SWITCHES = [
  '@testing-library/react/dont-cleanup-after-each',
  '@testing-library/vue/dont-cleanup-after-each',
];

function cleanup(
  runner: RunnerFacts,
  affected: readonly SpecFileFacts[],
  context: ProjectContext,
): Finding[] {
  const [first] = affected;
  const packages = (first && context.setupOf(first.path)?.packages) ?? new Set<string>();
  const module = SWITCHES.find((each) => packages.has(each));
  const setup = runner.setupFiles.known ? runner.setupFiles.value[0] : undefined;
  const bySetup: [string, Place][] = module && setup ? [[module, setup.at]] : [];
  const byScript = runner.commands.flatMap(({ env, at }): [string, Place][] =>
    VARIABLES.filter((name) => env.get(name) === 'true').map((name) => [name, at]),
  );
  return [...bySetup, ...byScript].map(([name, place]) => ({
    place,
    certainty: 'sure',
    message: messageCleanup(name, affected.length),
    advice: adviceCleanup,
  }));
}

import { IMPORTED } from '../questions/facts.js';
import picomatch from 'picomatch';
import type { CoverageFacts, RunnerFacts } from '../../environment/facts/environment.js';
import { reachableFrom } from '../../project/reachable.js';
import type { Component } from '../../components/view.js';
import { isWithin, relativeTo } from '../../util/paths.js';
import { listed } from '../../util/plural.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext } from '../questions/context.js';
import { packagesWithSpecs, unique, type Package } from '../questions/packages.js';

const messageLoaded = (files: readonly string[]): string =>
  `Only files that a spec loads count: ${shown(files)} ${files.length > 1 ? 'are' : 'is'} loaded by none, and missing from the figures.`;
const adviceLoaded = (key: string): string => `Say which files count: ${key}.`;
const messageLeftOut = (files: readonly string[]): string =>
  `Coverage leaves out ${shown(files)}, which ${files.length > 1 ? 'hold' : 'holds'} components.`;
const adviceLeftOut = 'Widen the patterns, so that the figures speak of all components.';
const messageThresholds = 'There are thresholds, and none for branches: arms that no spec takes pass unseen.';
const adviceThresholds = 'Add a threshold for branches.';
const shown = (files: readonly string[]): string =>
  files.length > 3 ? `${files.slice(0, 2).join(', ')} and ${files.length - 2} more` : listed([...files]);

/** Coverage that is measured in a way that hides what is not covered. */
export const E16: ProjectCheck = {
  code: 'E16',
  family: 'environment',
  scope: 'project',
  facts: [IMPORTED],
  title: 'Coverage settings hide gaps',
  level: 'risk',
  why: 'A component without a spec lowers no figure when it is not counted.',
  certain: 'Sure where the setting is written out.',
  trouble: '"jest": { "collectCoverage": true }',
  mended: '"jest": { "collectCoverage": true, "collectCoverageFrom": ["src/**/*.{ts,tsx}"] }',
  run: (context) => unique(packagesWithSpecs(context).flatMap((each) => check(each, context))),
};

function check({ environment }: Package, context: ProjectContext): Finding[] {
  const components = context.components.filter(({ file }) => isWithin(environment.folder, file));
  return environment.runners.flatMap((runner) => {
    if (!runner.coverage.known || !runner.coverage.value.collected) return [];
    const { value } = runner.coverage;
    return [...leftOut(value, runner, components, context), ...withoutBranches(value)];
  });
}

function leftOut(
  facts: CoverageFacts,
  { runner }: RunnerFacts,
  components: readonly Component[],
  context: ProjectContext,
): Finding[] {
  const paths = [...new Set(components.map(({ file }) => file))].filter((path) =>
    isWithin(facts.folder, path),
  );
  const names = (found: readonly string[]): string[] =>
    found.map((path) => relativeTo(facts.folder, path)).sort();
  if (facts.loadedOnly) {
    const imported = context.specFiles.flatMap((file) => [...file.get(IMPORTED)]);
    const loaded = reachableFrom(context.project, imported).files;
    const missing = names(paths.filter((path) => !loaded.has(path)));
    const key = runner === 'jest' ? 'collectCoverageFrom' : 'coverage.include';
    return missing.length ? [found(facts, messageLoaded(missing), adviceLoaded(key))] : [];
  }
  const missing = names(paths.filter((path) => !counts(facts, relativeTo(facts.folder, path))));
  return missing.length ? [found(facts, messageLeftOut(missing), adviceLeftOut)] : [];
}

function counts({ include, exclude }: CoverageFacts, path: string): boolean {
  // A pattern with `!` takes out what others take in.
  const taken = (include ?? []).filter((each) => !each.startsWith('!'));
  const out = [
    ...(exclude ?? []),
    ...(include ?? []).filter((each) => each.startsWith('!')).map((each) => each.slice(1)),
  ];
  const match = (patterns: readonly string[]): boolean =>
    patterns.length > 0 &&
    picomatch(
      patterns.map((pattern) => pattern.replace(/^(?:<rootDir>|\.)\//, '')),
      { dot: true },
    )(path);
  return (taken.length === 0 || match(taken)) && !match(out);
}

function withoutBranches(facts: CoverageFacts): Finding[] {
  const keys = facts.thresholds?.filter((key) =>
    ['statements', 'lines', 'functions', 'branches', '100'].includes(key),
  );
  if (!keys?.length || keys.includes('branches') || keys.includes('100')) return [];
  return [{ ...found(facts, messageThresholds, adviceThresholds), level: 'hint' }];
}

const found = (facts: CoverageFacts, message: string, advice: string): Finding => ({
  place: facts.at,
  certainty: 'sure',
  message,
  advice,
});

import { CHOSEN_DOCUMENT } from '../questions/facts.js';
import { has, type Environment, type RunnerFacts } from '../../environment/facts/environment.js';
import type { Place, Finding } from '../../finding.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';
import { losingSettings } from './E14.js';
import { packagesWithSpecs, unique, type Package } from '../questions/packages.js';

const message = (name: string, brings: string): string =>
  `The document “${name}” needs the package ${brings}, which no manifest declares.`;
const advice = (brings: string): string => `Install it: npm install --save-dev ${brings}`;

/** A document environment whose package is not there. */
export const E03: ProjectCheck = {
  code: 'E03',
  family: 'environment',
  scope: 'project',
  facts: [CHOSEN_DOCUMENT],
  title: 'The chosen document package is missing',
  level: 'blocker',
  why: 'The runner stops before the first spec: it can’t make the document that the settings ask for.',
  certain: 'Sure where the environment is known, and no manifest around declares the package.',
  trouble: '"jest": { "testEnvironment": "jsdom" }, and jest-environment-jsdom is declared nowhere',
  mended: 'npm install --save-dev jest-environment-jsdom',
  run: (context) => unique(packagesWithSpecs(context).flatMap((each) => check(each, context))),
};

function check({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  if (!environment.isWhole) return [];
  const bySettings = environment.runners.flatMap((runner): Finding[] => {
    const { document } = runner;
    if (!document.known || !document.at || losingSettings(runner, context).length > 0) return [];
    return missing(environment, runner, document.value, document.at);
  });
  const byComments = specFiles.flatMap((specFile): Finding[] => {
    const { path } = specFile;
    const chosenEnvironment = specFile.get(CHOSEN_DOCUMENT);
    const [runner] = environment.runners;
    if (!chosenEnvironment || !runner) return [];
    return missing(environment, runner, chosenEnvironment.name, { file: path, ...chosenEnvironment.place });
  });
  return [...bySettings, ...byComments];
}

function missing(
  environment: Environment,
  runner: RunnerFacts,
  name: string | undefined,
  place: Place,
): Finding[] {
  const brings = name === undefined ? undefined : packageFor(runner, name);
  if (name === undefined || !brings || has(environment, brings)) return [];
  return [{ place, certainty: 'sure', message: message(name, brings), advice: advice(brings) }];
}

// jest-config 28 no longer brings jest-environment-jsdom; vitest 1 to 4 name these in their peer packages.
function packageFor({ runner, major }: RunnerFacts, name: string): string | undefined {
  if (runner === 'jest') {
    const isJsdom = name === 'jsdom' || name === 'jest-environment-jsdom';
    return isJsdom && major !== undefined && major >= 28 ? 'jest-environment-jsdom' : undefined;
  }
  if (runner !== 'vitest') return undefined;
  return name === 'jsdom' || name === 'happy-dom' ? name : undefined;
}

import { CHOSEN_DOCUMENT } from '../questions/facts.js';
import { isMissing } from '../../environment/brought.js';
import type { Environment, RunnerFacts } from '../../environment/facts/environment.js';
import { nearest } from '../../util/nearest.js';
import { packageOf } from '../../util/paths.js';
import type { Place, Finding } from '../../finding.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';
import { losingSettings } from './E14.js';
import { packagesWithSpecs, unique, type Package } from '../questions/packages.js';

const message = (name: string, brings: string): string =>
  `The document “${name}” needs the package ${brings}, which is not there.`;
const adviceName = (name: string): string => `Its name is ${name}.`;
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
  if (!environment.isWhole && !environment.hasInstalls) return [];
  const bySettings = environment.runners.flatMap((runner): Finding[] => {
    const { document } = runner;
    const place = document.known
      ? (document.at ?? (runner.runner === 'angular' ? runner.settings?.at : undefined))
      : undefined;
    const found = document.known && place ? missing(environment, runner, document.value, place) : [];
    return found.map((each) => ({ ...each, follows: losingSettings(runner, context)[0]?.place }));
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
  const brings = name === undefined ? [] : packagesFor(runner, name);
  const [first] = brings;
  if (name === undefined || first === undefined || brings.some((each) => !isMissing(environment, each)))
    return [];
  const meant = nearest(name, DOCUMENT_NAMES);
  const mistaken = meant !== undefined && !DOCUMENT_NAMES.includes(name);
  return [
    {
      place,
      certainty: 'sure',
      message: message(name, first),
      advice: mistaken ? adviceName(meant) : advice(first),
    },
  ];
}

const DOCUMENT_NAMES = ['node', 'jsdom', 'happy-dom', 'edge-runtime'];

// jest-resolve 27 to 30 tries a name with its prefix, then as it is; from 28 on, jest-environment-jsdom is not brought.
// vitest 1 to 4: packages of two, @edge-runtime/vm, and any other by its prefix.
function packagesFor({ runner, major }: RunnerFacts, name: string): string[] {
  if (/^[./<]/.test(name) || name === 'node' || name === 'browser') return [];
  if (runner === 'jest') {
    const isJsdom = name === 'jsdom' || name === 'jest-environment-jsdom';
    if (isJsdom && (major === undefined || major < 28)) return [];
    if (name === 'jest-environment-node') return [];
    return name.startsWith('jest-environment-') || name.includes('/')
      ? [packageOf(name)]
      : [`jest-environment-${name}`, name].slice(0, isJsdom ? 1 : 2);
  }
  // Angular's builder takes either.
  if (runner === 'angular') return name === 'jsdom' ? ['jsdom', 'happy-dom'] : [];
  if (runner !== 'vitest') return [];
  if (name === 'jsdom' || name === 'happy-dom') return [name];
  if (name === 'edge-runtime') return ['@edge-runtime/vm'];
  return /[/.]/.test(name) ? [] : [`vitest-environment-${name}`];
}

import { has, runnersOf, type Environment, type RunnerFacts } from '../../environment/environment.js';
import { reachableFrom } from '../../model/code/reachable.js';
import {
  inSpecFile,
  type Found,
  type ProjectCheck,
  type ProjectContext,
  type SpecFileFacts,
} from '../check.js';
import { DOCUMENTS } from '../setup-effects.js';
import { losingSettings } from './E14.js';

const message = (what: string): string => `This file ${what}, and its specs run where there is no document.`;
const advice = (line: string, install: string | undefined): string =>
  `Choose a document in the settings: ${line}${install ? `, and install it: npm install --save-dev ${install}` : ''}`;

const BARE: ReadonlySet<string | undefined> = new Set(['node', 'jest-environment-node', 'edge-runtime']);

/** Specs that render under an environment without a document. */
export const E02: ProjectCheck = {
  code: 'E02',
  family: 'environment',
  scope: 'project',
  title: 'Specs render, but there is no document',
  level: 'blocker',
  why: 'Every render throws before the first assertion: “document is not defined”.',
  trouble: "export default defineConfig({ test: { environment: 'node' } });",
  mended: "export default defineConfig({ test: { environment: 'jsdom' } });",
  run: (context) => context.specFiles.flatMap((file) => check(file, context)),
};

function check(file: SpecFileFacts, context: ProjectContext): Found[] {
  const place = file.firstRender ?? file.documentUse;
  const environment = context.environmentOf(file.path);
  const runners = runnersOf(environment, file.path);
  if (!place || file.chosenEnvironment || runners.length === 0) return [];
  if (!runners.every(({ document }) => document.known && BARE.has(document.value))) return [];
  if (runners.some((runner) => losingSettings(runner, context).length > 0)) return [];
  const setup = context.setupOf(file.path);
  if (!setup || setup.opaque || setup.bringsDocument) return [];
  const { others } = reachableFrom(context.project, file.path);
  if (others.some(({ specifier }) => DOCUMENTS.has(specifier))) return [];
  const [runner] = runners;
  const what = file.firstRender ? 'renders' : 'uses the document';
  return runner ? [found(file, place, what, runner, environment)] : [];
}

function found(
  file: SpecFileFacts,
  place: { start: number; end: number },
  what: string,
  runner: RunnerFacts,
  environment: Environment,
): Found {
  const isJest = runner.runner === 'jest';
  const name = has(environment, 'happy-dom') && !isJest ? 'happy-dom' : 'jsdom';
  const brings = isJest ? `jest-environment-${name}` : name;
  const at = runner.document.known ? (runner.document.at ?? runner.settings?.at) : undefined;
  return {
    place: inSpecFile(file, place),
    certainty: 'sure',
    message: message(what),
    advice: advice(
      isJest ? `testEnvironment: '${name}'` : `test: { environment: '${name}' }`,
      has(environment, brings) ? undefined : brings,
    ),
    evidence: at
      ? [{ ...at, note: `the environment is ${runner.document.known ? runner.document.value : ''}` }]
      : [],
  };
}

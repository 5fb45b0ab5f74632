import { has, type Environment, type RunnerFacts } from '../../environment/facts/environment.js';
import { type Finding, type ProjectCheck } from '../questions/check.js';
import { inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { DOCUMENTS } from '../questions/setup-effects.js';
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
  run(context) {
    const all = context.specFiles.filter((file) => lacks(file, context));
    if (all.length === 0) return [];
    const bringing = context.imports().loadersOf((specifier) => DOCUMENTS.has(specifier));
    return all.filter(({ path }) => !bringing.has(path)).flatMap((file) => check(file, context));
  },
};

function lacks(file: SpecFileFacts, context: ProjectContext): boolean {
  const runners = context.environmentOf(file.path).runnersOf(file.path);
  if (!(file.firstRender ?? file.documentUse) || file.chosenEnvironment || runners.length === 0) return false;
  if (!runners.every(({ document }) => document.known && BARE.has(document.value))) return false;
  if (runners.some((runner) => losingSettings(runner, context).length > 0)) return false;
  const setup = context.setupOf(file.path);
  return setup !== undefined && !setup.opaque && !setup.bringsDocument;
}

function check(file: SpecFileFacts, context: ProjectContext): Finding[] {
  const environment = context.environmentOf(file.path);
  const [runner] = environment.runnersOf(file.path);
  const place = file.firstRender ?? file.documentUse;
  const what = file.firstRender ? 'renders' : 'uses the document';
  return runner && place ? [found(file, place, what, runner, environment)] : [];
}

function found(
  file: SpecFileFacts,
  place: { start: number; end: number },
  what: string,
  runner: RunnerFacts,
  environment: Environment,
): Finding {
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

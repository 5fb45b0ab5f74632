import { CHOSEN_DOCUMENT } from '../questions/facts.js';
import { has, type Environment, type RunnerFacts } from '../../environment/facts/environment.js';
import { type ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { fileFact, inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { DOCUMENTS } from '../questions/setup-effects.js';
import { losingSettings } from './E14.js';
import { isPassedOver } from './E20.js';

const message = (what: string): string => `This file ${what}, and its specs run where there is no document.`;
const advice = (line: string, install: string | undefined): string =>
  `Choose a document in the settings: ${line}${install ? `, and install it: npm install --save-dev ${install}` : ''}`;

const adviceComment = 'Take the comment out, or choose a document in it.';

const BARE: ReadonlySet<string | undefined> = new Set(['node', 'jest-environment-node', 'edge-runtime']);

/** The first render that needs a document: trees of instances, and wrappers around one level, are made without. */
const FIRST_RENDER = fileFact(
  'first render',
  ({ file }) =>
    file.renders.find(
      ({ gives, shallow, teardown }) =>
        gives !== 'test-renderer' && teardown !== 'not-needed' && !(shallow && gives === 'tree-wrapper'),
    )?.place,
);

/** Where it first uses the document. */
const DOCUMENT_USE = fileFact('document use', ({ file }) => file.documentUse);

/** Specs that render under an environment without a document. */
export const E02: ProjectCheck = {
  code: 'E02',
  family: 'environment',
  scope: 'project',
  facts: [FIRST_RENDER, DOCUMENT_USE, CHOSEN_DOCUMENT],
  title: 'Specs render, but there is no document',
  level: 'blocker',
  why: 'Every render throws before the first assertion: “document is not defined”.',
  certain: 'Sure where the environment is known from settings, command line and comments.',
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
  if (!(file.get(FIRST_RENDER) ?? file.get(DOCUMENT_USE)) || runners.length === 0) return false;
  const chosen = file.get(CHOSEN_DOCUMENT);
  if (chosen && !BARE.has(chosen.name)) return false;
  if (!chosen && !runners.every(({ document }) => document.known && BARE.has(document.value))) return false;
  if (runners.some((runner) => isPassedOver(runner, 'document'))) return false;
  if (runners.some((runner) => losingSettings(runner, context).length > 0)) return false;
  const setup = context.setupOf(file.path);
  return setup !== undefined && !setup.opaque && !setup.bringsDocument;
}

function check(file: SpecFileFacts, context: ProjectContext): Finding[] {
  const environment = context.environmentOf(file.path);
  const [runner] = environment.runnersOf(file.path);
  const place = file.get(FIRST_RENDER) ?? file.get(DOCUMENT_USE);
  const what = file.get(FIRST_RENDER) ? 'renders' : 'uses the document';
  return runner && place ? [found(file, place, what, runner, environment)] : [];
}

function found(
  file: SpecFileFacts,
  place: { start: number; end: number },
  what: string,
  runner: RunnerFacts,
  environment: Environment,
): Finding {
  const chosen = file.get(CHOSEN_DOCUMENT);
  if (chosen)
    return {
      place: inSpecFile(file, place),
      certainty: 'sure',
      message: message(what),
      advice: adviceComment,
      evidence: [{ file: file.path, ...chosen.place, note: `this chooses ${chosen.name}` }],
    };
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

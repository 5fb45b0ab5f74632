import { CHOSEN_DOCUMENT } from '../questions/facts.js';
import { has, type Environment, type RunnerFacts } from '../../environment/facts/environment.js';
import { type ProjectCheck } from '../questions/check.js';
import { settingAt } from '../../environment/settings/setting.js';
import type { Finding, Mend } from '../../finding.js';
import { styleOf } from '../../writing/edits/style.js';
import { entryAdded } from '../../writing/settings-edit.js';
import { andMore } from '../questions/packages.js';
import { inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { DOCUMENT_USE, FIRST_RENDER, lacksDocument } from '../questions/lacking.js';
import { DOCUMENTS, isKnown } from '../questions/setup-effects.js';
import { losingSettings } from './E14.js';
import { passedOver } from './E20.js';

const message = (what: string, files: readonly unknown[]): string =>
  `This file ${what}${andMore(files)}, and its specs run where there is no document.`;
const advice = (line: string, install: string | undefined): string =>
  `Choose a document in the settings: ${line}${install ? `, and install it: npm install --save-dev ${install}` : ''}`;

const adviceLoaded =
  'Load a document before the specs: global-jsdom/register, or a file that puts one in place.';
const adviceComment = 'Take the comment out, or choose a document in it.';

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
    const all = context.specFiles.filter(
      (file) =>
        isKnown(context.setupOf(file.path)) && lacksDocument(file, context.environmentOf(file.path), context),
    );
    if (all.length === 0) return [];
    const bringing = context.imports().loadersOf((specifier) => DOCUMENTS.has(specifier));
    return found(
      all.filter(({ path }) => !bringing.has(path)),
      context,
    );
  },
};

// One cause is one finding: the settings of a runner, or the comment of a file.
function found(files: readonly SpecFileFacts[], context: ProjectContext): Finding[] {
  const byCause = new Map<unknown, SpecFileFacts[]>();
  for (const file of files) {
    const [runner] = context.environmentOf(file.path).runnersOf(file.path);
    const { settingsFile, folder, project } = runner ?? {};
    const cause = file.get(CHOSEN_DOCUMENT) ? file : [settingsFile, folder, project].join('\0');
    byCause.set(cause, [...(byCause.get(cause) ?? []), file]);
  }
  return [...byCause.values()].flatMap((all) => {
    const [first] = all;
    const environment = first && context.environmentOf(first.path);
    const [runner] = (first && environment?.runnersOf(first.path)) ?? [];
    const place = first?.get(FIRST_RENDER) ?? first?.get(DOCUMENT_USE);
    if (!first || !environment || !runner || !place) return [];
    const what = first.get(FIRST_RENDER) ? 'renders' : 'uses the document';
    const said = {
      place: inSpecFile(first, place),
      certainty: 'sure' as const,
      message: message(what, all),
      follows: passedOver(runner, 'document') ?? losingSettings(runner, context)[0]?.place,
    };
    const chosen = first.get(CHOSEN_DOCUMENT);
    const at = runner.document.known ? (runner.document.at ?? runner.settings?.at) : undefined;
    const evidence = chosen
      ? [{ file: first.path, ...chosen.place, note: `this chooses ${chosen.name}` }]
      : at
        ? [{ ...at, note: `the environment is ${runner.document.known ? runner.document.value : ''}` }]
        : [];
    return [
      chosen
        ? { ...said, advice: adviceComment, evidence }
        : { ...said, ...mended(runner, environment, context), evidence },
    ];
  });
}

// The package that is there already, or the one that most take.
function mended(
  runner: RunnerFacts,
  environment: Environment,
  context: ProjectContext,
): Pick<Finding, 'advice' | 'mend'> {
  const isJest = runner.runner === 'jest';
  if (!isJest && runner.runner !== 'vitest') return { advice: adviceLoaded };
  const name = has(environment, 'happy-dom') && !isJest ? 'happy-dom' : 'jsdom';
  const brings = isJest ? `jest-environment-${name}` : name;
  const isThere = has(environment, brings);
  const key = isJest ? 'testEnvironment' : 'environment';
  const byScript = runner.commands.some(({ at }) => runner.document.known && runner.document.at === at);
  return {
    advice: advice(
      isJest ? `testEnvironment: '${name}'` : `test: { environment: '${name}' }`,
      isThere ? undefined : brings,
    ),
    mend: isThere && !byScript ? chosenBy(runner, key, name, context) : undefined,
  };
}

// The setting is written over, or added.
function chosenBy(
  { settings, runner }: RunnerFacts,
  key: string,
  name: string,
  context: ProjectContext,
): Mend | undefined {
  const object = runner === 'vitest' ? settingAt(settings, 'test') : settings;
  const source = object && context.sourceOf(object.at.file);
  if (!source) return undefined;
  const set = settingAt(object, key);
  const { quote } = styleOf(source.text);
  const text = /\.jsonc?$/.test(source.path) ? JSON.stringify(name) : `${quote}${name}${quote}`;
  const isWritten = set?.is === 'value' && /^['"]/.test(source.text.slice(set.at.start, set.at.end));
  const edit = set ? (isWritten ? { ...set.at, text } : undefined) : entryAdded(object, key, text, source);
  return edit && { summary: `Choose ${name}`, safe: true, edits: [edit] };
}

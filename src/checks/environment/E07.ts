import { GLOBALS } from '../questions/facts.js';
import { MATCHER_EXTENSIONS } from '../../libraries/matchers.js';
import type { Environment, RunnerFacts } from '../../environment/facts/environment.js';
import { runsModules } from '../../environment/settings/commands.js';
import { extname } from '../../util/paths.js';
import { settingAt, textOf, textsFact } from '../../environment/settings/setting.js';
import type { Mend, Finding } from '../../finding.js';
import { styleOf } from '../../writing/edits/style.js';
import { type ProjectCheck } from '../questions/check.js';
import { inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { lacksGlobals, RUNNER_GLOBALS, runnerGlobals, runnerGlobalsIn } from '../questions/lacking.js';
import { isKnown } from '../questions/setup-effects.js';
import { passedOver } from './E20.js';
import { andMore, packagesWithSpecs, type Package } from '../questions/packages.js';
import { entryAdded } from '../../writing/settings-edit.js';

const message = (names: string, runner: string, files: readonly unknown[]): string =>
  `${names} ${names.includes(' ') ? 'are' : 'is'} used here with no import${andMore(files)}, and ${runner} makes nothing global with these settings.`;
const messageEntry = (specifier: string, runner: string): string =>
  `${specifier} adds matchers to a global expect, and ${runner} makes nothing global with these settings: the set-up file throws.`;
const messageModule = (files: readonly unknown[]): string =>
  `jest is used here with no import${andMore(files)}, and is no global of an ES module.`;
const adviceImport = (line: string): string => `Import them: ${line}`;
const adviceSetting = (key: string): string =>
  `Import them in each file, or switch them on in the settings: ${key}: true`;

/** Runner functions used as globals, where the runner does not make them global. */
export const E07: ProjectCheck = {
  code: 'E07',
  family: 'environment',
  scope: 'project',
  facts: [GLOBALS],
  title: 'Runner globals that are not switched on',
  level: 'blocker',
  why: 'The file stops at its first line with “describe is not defined”: none of its specs runs.',
  certain: 'Sure where the settings of the runner can be read.',
  trouble: "describe('KilnCard', () => { … });",
  mended: "import { describe, expect, it } from 'vitest';\n\ndescribe('KilnCard', () => { … });",
  run: (context) =>
    packagesWithSpecs(context).flatMap((each) => [
      ...check(each, context),
      ...inSetup(each, context),
      ...inModules(each),
    ]),
};

function check({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  const lacking = specFiles.flatMap((file) => {
    const [runner] = environment.runnersOf(file.path);
    const isLacking = isKnown(context.setupOf(file.path)) && lacksGlobals(file, environment, context);
    return runner && isLacking ? [{ file, runner }] : [];
  });
  const [first] = lacking;
  return first ? [found(first.file, first.runner, lacking, context)] : [];
}

// jest 27 to 30: what stands for itself in a module of the other kind is no global of an ES module.
function inModules({ environment, specFiles }: Package): Finding[] {
  const lacking = specFiles.filter((file) => {
    const [runner, ...others] = environment.runnersOf(file.path);
    return (
      runner !== undefined &&
      others.length === 0 &&
      file.get(GLOBALS).has('jest') &&
      isModule(file.path, runner, environment)
    );
  });
  const [first] = lacking;
  const place = first?.get(GLOBALS).get('jest');
  if (!first || !place) return [];
  return [
    {
      place: inSpecFile(first, { start: place.start, end: place.end }),
      certainty: 'sure',
      message: messageModule(lacking),
      advice: adviceImport("import { jest } from '@jest/globals';"),
    },
  ];
}

// jest-resolve, shouldLoadAsEsm: by the ending, by the settings, or by the manifest.
function isModule(
  path: string,
  { runner, commands, settings }: RunnerFacts,
  { manifest }: Environment,
): boolean {
  if (runner !== 'jest' || commands.length === 0 || !commands.every(runsModules)) return false;
  const ending = extname(path);
  const listed = textsFact(settingAt(settings, 'extensionsToTreatAsEsm'), [], {
    file: path,
    start: 0,
    end: 0,
  });
  if (listed.known && listed.value.some(({ text }) => text === ending)) return true;
  return ending === '.mjs' || (ending === '.js' && textOf(settingAt(manifest?.setting, 'type')) === 'module');
}

// Set-up files that use functions of the runner as globals, or load what adds to a global `expect`: they throw there.
function inSetup({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  const setups = new Map<string, RunnerFacts>();
  for (const file of specFiles) {
    const runners = environment.runnersOf(file.path);
    const [runner] = runners;
    if (!runner || !runners.every(({ globals }) => globals.known && !globals.value)) continue;
    for (const path of context.setupOf(file.path)?.files ?? []) setups.set(path, runner);
  }
  return [...setups].flatMap(([path, runner]) => [
    ...usedIn(path, runner, context),
    ...entriesIn(path, runner, context),
  ]);
}

function usedIn(path: string, runner: RunnerFacts, context: ProjectContext): Finding[] {
  const { module } = RUNNER_GLOBALS[runner.runner] ?? {};
  const used = module === undefined ? undefined : runnerGlobalsIn(path, module, context);
  if (!used || module === undefined) return [];
  return [
    {
      place: { file: path, ...used.place },
      certainty: 'sure',
      message: message(used.names.join(', '), runner.runner, []),
      advice: adviceImport(`import { ${used.names.join(', ')} } from '${module}';`),
      follows: passedOver(runner, 'globals'),
      mend: imported(path, used.names, module, context),
    },
  ];
}

const entriesIn = (path: string, { runner }: RunnerFacts, context: ProjectContext): Finding[] =>
  (context.project.summary(path)?.modules ?? []).flatMap(({ specifier, start, end }): Finding[] => {
    const extension = MATCHER_EXTENSIONS.find(({ needsGlobal }) => needsGlobal?.includes(specifier));
    const entry = extension?.entry?.[runner];
    if (!entry || entry === specifier) return [];
    const quote = context.sourceOf(path)?.text[start] ?? "'";
    return [
      {
        place: { file: path, start, end },
        certainty: 'sure',
        message: messageEntry(specifier, runner),
        advice: `Load the entry for ${runner}: ${entry}`,
        mend: {
          summary: `Load ${entry}`,
          safe: true,
          edits: [{ file: path, start, end, text: `${quote}${entry}${quote}` }],
        },
      },
    ];
  });

function found(
  file: SpecFileFacts,
  runner: RunnerFacts,
  lacking: readonly unknown[],
  context: ProjectContext,
): Finding {
  const { key, module = '' } = RUNNER_GLOBALS[runner.runner] ?? {};
  const names = runnerGlobals(file, module, context.project.libraries);
  const place = file.get(GLOBALS).get(names[0] ?? '') ?? { start: 0, end: 0 };
  const first = Math.min(...names.map((name) => file.get(GLOBALS).get(name)?.start ?? place.start));
  const at = runner.settings?.at;
  const bySetting = lacking.length > 1 ? key : undefined;
  const line = `import { ${names.join(', ')} } from '${module}';`;
  return {
    place: inSpecFile(file, { start: first, end: first }),
    certainty: 'sure',
    message: message(names.join(', '), runner.runner, lacking),
    advice: bySetting === undefined ? adviceImport(line) : adviceSetting(bySetting),
    evidence: at ? [{ ...at, note: 'the settings' }] : [],
    follows: passedOver(runner, 'globals'),
    mend:
      bySetting === undefined
        ? imported(file.path, names, module, context)
        : switchedOn(runner, bySetting, context),
  };
}

function switchedOn(
  { settings, runner, globals }: RunnerFacts,
  key: string,
  context: ProjectContext,
): Mend | undefined {
  const object = runner === 'vitest' ? settingAt(settings, 'test') : settings;
  const source = object && context.sourceOf(object.at.file);
  const set = settingAt(object, key);
  const edit =
    set && globals.known && globals.at
      ? { ...set.at, text: 'true' }
      : !set && source
        ? entryAdded(object, key, 'true', source)
        : undefined;
  return edit && { summary: 'Switch the globals on', safe: true, edits: [edit] };
}

function imported(
  file: string,
  names: readonly string[],
  module: string,
  context: ProjectContext,
): Mend | undefined {
  const source = context.sourceOf(file);
  const first = context.project.tree(file)?.script.program.body[0];
  if (!source || !first) return undefined;
  const { newline, quote, semicolon } = styleOf(source.text);
  const line = `import { ${names.join(', ')} } from ${quote}${module}${quote}${semicolon}`;
  const text = first.type === 'ImportDeclaration' ? `${line}${newline}` : `${line}${newline}${newline}`;
  const edit = { file, start: first.start, end: first.start, text };
  return { summary: `Import them from ${module}`, safe: true, edits: [edit] };
}

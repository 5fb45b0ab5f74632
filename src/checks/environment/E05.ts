import { IMPORTED } from '../questions/facts.js';
import { settingAt } from '../../environment/settings/setting.js';
import type { Environment, RunnerFacts } from '../../environment/facts/environment.js';
import type { Mend, Finding } from '../../finding.js';
import { reachableFrom } from '../../project/reachable.js';
import { isWithin, relativeTo } from '../../util/paths.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';
import { lostSetup } from './E04.js';
import { setsUp } from '../questions/sets-up.js';
import { packagesWithSpecs, type Package } from '../questions/packages.js';
import { textAdded } from '../../writing/settings-edit.js';

const message = (what: string): string =>
  `This file ${what}, and nothing loads it: no setting names it and nothing imports it.`;
const advice = (key: string, path: string): string => `Name it in the settings: ${key}: ['${path}']`;

/** A file that is there to set the specs up, and that no run loads. */
export const E05: ProjectCheck = {
  code: 'E05',
  family: 'environment',
  scope: 'project',
  facts: [IMPORTED],
  title: 'Set-up file that nothing loads',
  level: 'risk',
  why: 'Whoever wrote it believes that its matchers, hooks or stand-ins are there for every spec.',
  certain: 'Sure where all settings of the runner can be read, and none of them names the file.',
  trouble: '// test/setup.ts registers matchers\nexport default defineConfig({ test: {} });',
  mended: "export default defineConfig({ test: { setupFiles: ['./test/setup.ts'] } });",
  run: (context) => packagesWithSpecs(context).flatMap((each) => check(each, context)),
};

const NAME =
  /(?:^|\/)(?:(?:vitest|jest|test|tests|spec)[.-]?set-?up|set-?up(?:[.-]?(?:tests?|vitest|jest|env|specs?))?)\.[cm]?[jt]sx?$/i;
const FOLDER = /^(?:(?:src|tests?|__tests__|specs?|unit|support|config)\/){0,2}[^/]+$/;

function check({ environment }: Package, context: ProjectContext): Finding[] {
  const { folder, runners } = environment;
  const [runner] = runners.filter(({ settings, settingsFile }) => settings && settingsFile);
  if (!runner || runners.some(({ setupFiles }) => !setupFiles.known)) return [];
  const candidates = context.sources.filter(
    (path) => isWithin(folder, path) && NAME.test(path) && FOLDER.test(relativeTo(folder, path)),
  );
  if (candidates.length === 0) return [];
  const loaded = loadedBy(environment, context);
  const follows = lostSetup(environment, context);
  return candidates.flatMap((path) => {
    const found = loaded.has(path) ? undefined : setsUp(path, context);
    return found ? [{ ...findingOf(path, found.what, runner, context), follows }] : [];
  });
}

// Whatever set-up files, spec files and sources of the project import.
function loadedBy(
  { runners }: Environment,
  { specFiles, sources, project, files }: ProjectContext,
): Set<string> {
  const loaded = new Set(specFiles.flatMap((specFile) => [...specFile.get(IMPORTED)]));
  for (const path of [...sources, ...specFiles.map((specFile) => specFile.path)]) {
    for (const { specifier } of project.summary(path)?.modules ?? []) {
      const target = specifier.startsWith('.') ? project.resolve(path, specifier) : undefined;
      if (target) loaded.add(target);
    }
  }
  const setups = runners.flatMap(({ setupFiles }) => (setupFiles.known ? setupFiles.value : []));
  const there = setups.flatMap(
    ({ candidates }) => candidates.find((candidate) => files.kind(candidate) === 'file') ?? [],
  );
  for (const path of reachableFrom(project, there).files) loaded.add(path);
  return loaded;
}

function findingOf(path: string, what: string, runner: RunnerFacts, context: ProjectContext): Finding {
  const { key, text, mend } = naming(path, runner, context);
  const at = runner.settings?.at;
  return {
    place: { file: path, start: 0, end: 0 },
    certainty: 'sure',
    message: message(what),
    advice: advice(key, text),
    evidence: at ? [{ ...at, note: 'these settings do not name it' }] : [],
    mend,
  };
}

// Which setting would name it, and the change of the settings file that does.
function naming(
  path: string,
  runner: RunnerFacts,
  context: ProjectContext,
): { key: string; text: string; mend?: Mend } {
  const isJest = runner.runner === 'jest';
  const key = isJest ? 'setupFilesAfterEnv' : runner.runner === 'mocha' ? 'require' : 'setupFiles';
  const relative = relativeTo(runner.folder, path);
  const text = isJest ? `<rootDir>/${relative}` : `./${relative}`;
  const object = runner.runner === 'vitest' ? settingAt(runner.settings, 'test') : runner.settings;
  const source = object && context.sourceOf(object.at.file);
  const edit = source && runner.runner !== 'angular' ? textAdded(object, key, text, source) : undefined;
  return { key, text, mend: edit && { summary: `Name ${relative}`, safe: false, edits: [edit] } };
}

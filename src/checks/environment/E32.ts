import { has } from '../../environment/facts/environment.js';
import { settingAt } from '../../environment/settings/setting.js';
import { hasStandIn } from '../../host/leads.js';
import { packageOf } from '../../util/paths.js';
import { isSent } from '../questions/aliases.js';
import type { ProjectCheck } from '../questions/check.js';
import { inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { REPLACED } from '../questions/facts.js';
import { andMore } from '../questions/packages.js';
import { isKnown } from '../questions/setup-effects.js';
import { TAKEN, type Taken } from '../questions/taken-for-stand-ins.js';

const message = (what: string, name: string, specifier: string, files: readonly unknown[]): string =>
  `${what} is asked of ${name}${andMore(files)}, and nothing puts a stand-in in its place: it is the function of ${specifier} itself.`;
const advice = (tools: string, specifier: string): string =>
  `Replace the module at the top of the file: ${tools}.mock('${specifier}');`;

/** Specs that tell a real function what to answer, or ask how it was called. */
export const E32: ProjectCheck = {
  code: 'E32',
  family: 'environment',
  scope: 'project',
  facts: [TAKEN, REPLACED],
  title: 'Real function taken for a stand-in',
  level: 'blocker',
  why: 'The spec throws: “mockResolvedValue is not a function”, or “value must be a mock or a spy”.',
  certain:
    'Sure where the function can be read, and neither the file nor its set-up or settings replace its module.',
  trouble:
    "import { load } from './api'; // and no vi.mock('./api')\n\nvi.mocked(load).mockResolvedValue([]);",
  mended: "vi.mock('./api');\n\nvi.mocked(load).mockResolvedValue([]);",
  run: (context) => {
    const found = new Map<string, { taken: Taken; files: [SpecFileFacts, ...SpecFileFacts[]] }>();
    for (const file of context.specFiles)
      for (const taken of file.get(TAKEN)) {
        if (!isReal(taken, file, context)) continue;
        const key = `${file.package}\0${taken.specifier}\0${taken.name}`;
        const known = found.get(key);
        if (known) known.files.push(file);
        else found.set(key, { taken, files: [file] });
      }
    return [...found.values()].map(({ taken, files }) => ({
      place: inSpecFile(files[0], taken),
      certainty: 'sure',
      message: message(taken.what, taken.name, taken.specifier, files),
      advice: advice(toolsOf(files[0], context), taken.specifier),
    }));
  },
};

const toolsOf = (file: SpecFileFacts, context: ProjectContext): string =>
  context.environmentOf(file.path).runnersOf(file.path)[0]?.runner === 'vitest' ? 'vi' : 'jest';

function isReal({ specifier, files, name }: Taken, file: SpecFileFacts, context: ProjectContext): boolean {
  const environment = context.environmentOf(file.path);
  const runners = environment.runnersOf(file.path);
  const setup = context.setupOf(file.path);
  if (runners.length === 0 || !setup || !isKnown(setup)) return false;
  const names = [specifier, ...files];
  const replaced = file.get(REPLACED);
  if (names.some((each) => replaced.has(each) || setup.replaced.has(each))) return false;
  const isOfPackage = files.length === 0;
  return runners.every(
    ({ runner, aliases, folder, settings }) =>
      MODULE_RUNNERS.has(runner) &&
      settingAt(settings, 'automock') === undefined &&
      (!isOfPackage ||
        (has(environment, packageOf(specifier)) &&
          aliases.known &&
          !isSent(specifier, aliases.value) &&
          !hasStandIn(context.files, [folder, environment.folder], specifier))) &&
      ![...setup.files].some((path) => context.project.source(path)?.text.includes(name)),
  );
}

const MODULE_RUNNERS: ReadonlySet<string> = new Set(['jest', 'vitest', 'react-scripts']);

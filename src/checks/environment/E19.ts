import type { Environment } from '../../environment/facts/environment.js';
import type { Finding } from '../../finding.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';
import { CHOSEN_DOCUMENT, REPLACED } from '../questions/facts.js';
import { compilersOfRuns } from '../questions/compiled.js';
import { brokenScripts } from '../questions/missing-modules.js';
import { packagesWithSpecs, unique } from '../questions/packages.js';
import { basename, dirname } from '../../util/paths.js';

const message = (what: string, reason: string): string => `${what} could not be read: ${reason}.`;
const messageLoaded = (reason: string): string =>
  `Specs or their settings load this file, and it could not be read: ${reason}.`;
const advice = 'Mend the file: none of its specs runs as it is.';
const adviceSettings = 'Mend the file: the runner stops there.';
const adviceLoaded = 'Mend the file: what loads it stops there.';

/** A file of a run that can't be parsed. */
export const E19: ProjectCheck = {
  code: 'E19',
  family: 'environment',
  scope: 'project',
  facts: [REPLACED, CHOSEN_DOCUMENT],
  title: 'Spec, settings or loaded file that could not be read',
  level: 'blocker',
  why: 'The runner can read it as little as we can: nothing that needs it runs.',
  certain: 'Sure where the file itself says so.',
  trouble: "it('fires', () => {\n  expect(kiln.temp).toBe(;\n});",
  mended: "it('fires', () => {\n  expect(kiln.temp).toBe(1200);\n});",
  run: (context) =>
    unique([
      ...context.unreadSpecs.map((each) => {
        const isSettings = context.environments.some(({ runners }) =>
          runners.some(({ settingsFile }) => settingsFile === each.file),
        );
        return isSettings
          ? found(each, message('These settings', each.reason), adviceSettings, context)
          : found(each, message('This spec file', each.reason), advice, context);
      }),
      ...packagesWithSpecs(context)
        .flatMap((each) => brokenScripts(each, context))
        .filter((each) => !context.unreadSpecs.includes(each))
        .map((each) => found(each, messageLoaded(each.reason), adviceLoaded, context)),
      ...packagesWithSpecs(context)
        .flatMap((each) => compilersOfRuns(each, context))
        .flatMap(({ broken }) => context.unreadSettings.filter(({ file }) => broken.includes(file)))
        .map((each) => found(each, message('These compiler settings', each.reason), adviceSettings, context)),
      ...packagesWithSpecs(context)
        .flatMap(({ environment }) => brokenBabel(environment, context))
        .map((each) => found(each, message('These settings of Babel', each.reason), adviceSettings, context)),
    ]),
};

type Unread = ProjectContext['unreadSettings'][number];

const BABEL = /^(?:babel\.config|\.babelrc)(?:\.|$)/;

// Settings that transforms look for in the folder of the run.
const brokenBabel = ({ runners }: Environment, { unreadSettings }: ProjectContext): Unread[] =>
  runners.flatMap(({ transforms, folder }) =>
    transforms.known && transforms.value.by === 'rules' && !transforms.value.babel.known
      ? unreadSettings.filter(({ file }) => dirname(file) === folder && BABEL.test(basename(file)))
      : [],
  );

function found(
  { file, line }: ProjectContext['unreadSpecs'][number],
  text: string,
  mend: string,
  { sourceOf }: ProjectContext,
): Finding {
  const start = sourceOf(file)?.lines.startOf(line ?? 1) ?? 0;
  return { place: { file, start, end: start }, certainty: 'sure', message: text, advice: mend };
}

import { collector } from '../../environment/collects.js';
import type { RunnerFacts } from '../../environment/facts/environment.js';
import { settingAt } from '../../environment/settings/setting.js';
import type { Finding } from '../../finding.js';
import { join, relativeTo } from '../../util/paths.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';
import { packagesWithSpecs, unique } from '../questions/packages.js';

const message = (count: number, first: string): string =>
  `${count} spec file${count > 1 ? 's' : ''} of installed packages run${count > 1 ? '' : 's'} as well, such as ${first}: what is set here stands in the place of what leaves them out.`;
const advice =
  "Keep the defaults beside it: import { configDefaults } from 'vitest/config', and exclude: [...configDefaults.exclude, …].";

/** A pattern of what is left out that lets the specs of installed packages in. */
export const E28: ProjectCheck = {
  code: 'E28',
  family: 'environment',
  scope: 'project',
  title: 'Specs of installed packages are collected',
  level: 'blocker',
  why: 'They are written for another set-up, and fail in this one: the run is red for what is not yours.',
  certain: 'Sure where the packages are installed, and one of them has such a file.',
  trouble: "test: { exclude: ['e2e/**'] }",
  mended: "test: { exclude: [...configDefaults.exclude, 'e2e/**'] }",
  run: (context) =>
    unique(
      packagesWithSpecs(context).flatMap(({ environment }) =>
        environment.hasInstalls ? environment.runners.flatMap((runner) => found(runner, context)) : [],
      ),
    ),
};

// vitest 1 to 4 looks into every folder that its patterns name; other runners pass over installed packages by themselves.
function found({ runner, collects, settings }: RunnerFacts, { files, root }: ProjectContext): Finding[] {
  const exclude = settingAt(settings, 'test', 'exclude');
  if (runner !== 'vitest' || !collects.known || !exclude) return [];
  const takes = collector(collects.value);
  const installs = join(collects.value.folder, 'node_modules');
  // To look for them is dear, and in vain where no such name would be taken.
  const mayTake = ['js', 'ts'].some((ending) =>
    ['spec', 'test'].some((kind) => takes(join(installs, `any/src/any.${kind}.${ending}`))),
  );
  if (!mayTake || files.kind(installs) !== 'folder') return [];
  const taken = files.list(installs, ['**/.*/**'], () => undefined).filter(takes);
  const [first] = taken;
  return first === undefined
    ? []
    : [
        {
          place: exclude.at,
          certainty: 'sure',
          message: message(taken.length, relativeTo(root, first)),
          advice,
        },
      ];
}

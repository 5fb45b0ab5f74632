import type { NamedModule, RunnerFacts } from '../../environment/facts/environment.js';
import type { Finding } from '../../finding.js';
import { isMatcherExtension } from '../../libraries/matchers.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';
import { packagesWithSpecs, unique } from '../questions/packages.js';
import { setsUp } from '../questions/sets-up.js';

const message = (text: string, key: string, what: string): string =>
  `${text} ${what}, and ${key} runs it where none of that is there yet.`;
const advice = (key: string): string => `Name it under ${key}: that runs before each spec file.`;

/** A set-up file that needs the runner's functions, run before or outside of them. */
export const E23: ProjectCheck = {
  code: 'E23',
  family: 'environment',
  scope: 'project',
  title: 'Set-up at the wrong moment',
  level: 'blocker',
  why: 'The file throws before the first spec, or does what it does in a process of its own that no spec sees.',
  certain: 'Sure where the file is there and its use of the runner can be read.',
  trouble: '"setupFiles": ["./test/setup.js"] // which calls expect.extend',
  mended: '"setupFilesAfterEnv": ["./test/setup.js"]',
  run: (context) =>
    unique(
      packagesWithSpecs(context).flatMap(({ environment }) =>
        environment.runners.flatMap((runner) => check(runner, context)),
      ),
    ),
};

// jest 24 to 30: `setupFiles` run before its functions are there. Both runners: `globalSetup` runs in another process.
const MEANT: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  jest: { setupFiles: 'setupFilesAfterEnv', globalSetup: 'setupFilesAfterEnv' },
  vitest: { globalSetup: 'setupFiles' },
};

function check({ runner, setupFiles }: RunnerFacts, context: ProjectContext): Finding[] {
  const meant = MEANT[runner];
  if (!meant || !setupFiles.known) return [];
  return setupFiles.value.flatMap((named): Finding[] => {
    const instead = meant[named.key];
    const what = instead === undefined ? undefined : needs(named, context);
    if (instead === undefined || what === undefined) return [];
    return [
      {
        place: named.at,
        certainty: 'sure',
        message: message(named.text, named.key, what),
        advice: advice(instead),
      },
    ];
  });
}

// What it has of the runner: its hooks, its matchers, or a package that adds to them.
function needs({ candidates, text, key }: NamedModule, context: ProjectContext): string | undefined {
  const { files, project } = context;
  if (candidates.length === 0) return isMatcherExtension(text) ? 'registers matchers' : undefined;
  const path = candidates.find((each) => files.kind(each) === 'file');
  if (path === undefined || (key === 'globalSetup' && isGlobalSetup(path, project))) return undefined;
  const found = setsUp(path, context);
  return found?.needsRunner ? found.what : undefined;
}

// What it exports is what runs there.
const isGlobalSetup = (path: string, project: ProjectContext['project']): boolean =>
  ['default', 'setup'].some((name) => project.summary(path)?.exports.has(name));

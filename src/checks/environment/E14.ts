import { RUNNER_MODULES } from '../questions/facts.js';
import { flagOf } from '../../environment/settings/commands.js';
import type { RunnerFacts } from '../../environment/facts/environment.js';
import { RUNNERS } from '../../environment/tables/runners.js';
import { settingAt, type Setting } from '../../environment/settings/setting.js';
import type { Place, Finding } from '../../finding.js';
import { basename, join } from '../../util/paths.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';
import { packagesWithSpecs, unique, type Package } from '../questions/packages.js';

const messageTwo = (loser: string, winner: string, runner: string): string =>
  `${loser} has settings for ${runner} too, and ${runner} reads ${winner} only.`;
const adviceTwo = (loser: string, winner: string): string =>
  `${winner} wins: take what is needed over, and drop it from ${loser}.`;
const messageRefused = (loser: string, winner: string, runner: string): string =>
  `${runner} finds settings in ${loser} and in ${winner}, and refuses to start with both.`;
const messageFlag = (script: string, flag: string, value: string, set: string): string =>
  `The script “${script}” says ${flag} ${value}, and the settings say ${set}: the script wins, and a run without it is another run.`;
const adviceFlag = 'Say it in one place: take the flag out of the script, or change the setting.';
const messageClaimed = (runners: readonly string[], files: number): string =>
  `${runners.join(' and ')} both collect this file${files > 1 ? ` and ${files - 1} more` : ''}: specs written for one run under the other.`;
const adviceClaimed = 'Narrow the patterns of one of them.';

/** Two settings that both apply and say different things. */
export const E14: ProjectCheck = {
  code: 'E14',
  family: 'environment',
  scope: 'project',
  facts: [RUNNER_MODULES],
  title: 'Two settings disagree',
  level: 'risk',
  why: 'Somebody changes the one that loses, sees no difference, and looks for the reason for an afternoon.',
  certain: 'Sure where both settings can be read.',
  trouble: '// vite.config.ts: test: { environment: "jsdom" }\n// vitest.config.ts: test: { globals: true }',
  mended: '// vitest.config.ts: test: { environment: "jsdom", globals: true }',
  run: (context) =>
    unique(
      packagesWithSpecs(context).flatMap((each) => [
        ...each.environment.runners.flatMap((runner) => losingSettings(runner, context)),
        ...each.environment.runners.flatMap(contradictions),
        ...claimedTwice(each),
      ]),
    ),
};

/** Settings of a runner that another file of settings overrules, one finding each. */
export function losingSettings(runner: RunnerFacts, { files, setting }: ProjectContext): Finding[] {
  const row = RUNNERS.find(({ name }) => name === runner.runner);
  const winner = runner.settings?.at;
  if (!row || !winner || !runner.settingsFile) return [];
  const name = basename(runner.settingsFile);
  const folder = runner.settingsFile.slice(0, -name.length - 1);
  const others = row.files
    .map((file) => join(folder, file))
    .filter((path) => path !== runner.settingsFile && files.kind(path) === 'file');
  const set = (path: string): Setting | undefined =>
    row.inside ? settingAt(setting(path), row.inside) : setting(path);
  const inFiles = others.flatMap((path) => losing(set(path), path, runner, winner));
  const inManifest = row.manifestKey && name !== 'package.json' ? join(folder, 'package.json') : undefined;
  const key = inManifest && row.manifestKey ? settingAt(setting(inManifest), row.manifestKey) : undefined;
  return [...inFiles, ...(inManifest ? losing(key, inManifest, runner, winner) : [])];
}

// jest-config 27 to 30 refuses to start with two.
function losing(
  found: Setting | undefined,
  path: string,
  { runner, settingsFile = '' }: RunnerFacts,
  winner: Place,
): Finding[] {
  if (found?.is !== 'object') return [];
  const [loser, wins] = [basename(path), basename(settingsFile)];
  return [
    {
      place: found.at,
      certainty: 'sure',
      message: runner === 'jest' ? messageRefused(loser, wins, runner) : messageTwo(loser, wins, runner),
      advice: adviceTwo(loser, wins),
      evidence: [{ ...winner, note: 'these are the settings that are read' }],
    },
  ];
}

const FLAGS: Readonly<Record<string, readonly { flag: string; keys: readonly string[] }[]>> = {
  vitest: [
    { flag: '--environment', keys: ['test', 'environment'] },
    { flag: '--globals', keys: ['test', 'globals'] },
  ],
  jest: [
    { flag: '--env', keys: ['testEnvironment'] },
    { flag: '--testEnvironment', keys: ['testEnvironment'] },
  ],
};

function contradictions(runner: RunnerFacts): Finding[] {
  return (FLAGS[runner.runner] ?? []).flatMap(({ flag, keys }) => {
    const set = settingAt(runner.settings, ...keys);
    if (set?.is !== 'value') return [];
    return runner.commands.flatMap((command): Finding[] => {
      const given = flagOf(command, flag);
      const value = given === true ? 'true' : given;
      if (value === undefined || value === String(set.value)) return [];
      return [
        {
          place: command.at,
          certainty: 'sure',
          message: messageFlag(command.script, flag, value, String(set.value)),
          advice: adviceFlag,
          evidence: [{ ...set.at, note: 'the settings' }],
        },
      ];
    });
  });
}

function claimedTwice({ environment, specFiles }: Package): Finding[] {
  const claimed = specFiles.flatMap((file) => {
    if (file.get(RUNNER_MODULES).length > 0) return [];
    const takers = environment
      .runnersOf(file.path)
      .filter(({ collects, commands }) => collects.known && commands.length > 0);
    const names = [...new Set(takers.map(({ runner }) => runner))];
    return names.length > 1 ? [{ file, takers, names }] : [];
  });
  const [first] = claimed;
  if (!first) return [];
  return [
    {
      place: { file: first.file.path, start: 0, end: 0 },
      certainty: 'sure',
      message: messageClaimed(first.names, claimed.length),
      advice: adviceClaimed,
      evidence: first.names.flatMap((name) => {
        const collects = first.takers.find(({ runner }) => runner === name)?.collects;
        return collects?.known ? [{ ...collects.value.at, note: `the patterns of ${name}` }] : [];
      }),
    },
  ];
}

import { flagOf, type Command } from '../../environment/settings/commands.js';
import type { RunnerFacts } from '../../environment/facts/environment.js';
import { settingAt, textOf } from '../../environment/settings/setting.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { packagesWithSpecs, unique, type Package } from '../questions/packages.js';

const message = (script: string, program: string): string =>
  `The script “${script}” starts ${program} so that it waits for changes: before a merge it never ends.`;
const advice = (flag: string): string => `Let it run once: ${flag}. A second script may watch.`;

/** A test command that never ends on its own. */
export const E17: ProjectCheck = {
  code: 'E17',
  family: 'environment',
  scope: 'project',
  title: 'The test command waits for changes',
  level: 'hint',
  why: 'On a machine that nobody watches it waits until the job is stopped, hours later.',
  certain: 'Sure where the command is written out.',
  trouble: '"test": "jest --watchAll"',
  mended: '"test": "jest", "test:watch": "jest --watchAll"',
  run: (context) => unique(packagesWithSpecs(context).flatMap(check)),
};

interface Row {
  /** Whether a command waits with no terminal and under CI. */
  waits: (command: Command, runner: RunnerFacts) => boolean;
  /** What makes it run once. */
  once: string;
}

const on = (command: Command, ...flags: readonly string[]): boolean => {
  const value = flagOf(command, ...flags);
  return value !== undefined && value !== 'false';
};
const isOff = (command: Command, ...flags: readonly string[]): boolean =>
  flagOf(command, ...flags) === 'false';

// Read off vitest 1 to 4 (defaults of `watch`), jest-cli 30 (options), mocha 12 (run-option-metadata), the schemas of
// Angular's builders 17 to 21, and react-scripts 5 (scripts/test.js: it watches unless CI is set, as CI does).
const ROWS: Readonly<Partial<Record<RunnerFacts['runner'], Row>>> = {
  // Without a terminal or under CI it runs once, unless it is told to watch.
  vitest: {
    waits: (each) => on(each, '--watch', '-w') || ['watch', 'dev'].includes(each.args[0] ?? ''),
    once: 'vitest run',
  },
  jest: { waits: (each) => on(each, '--watch', '--watchAll'), once: 'jest' },
  mocha: { waits: (each) => on(each, '--watch', '-w'), once: 'mocha' },
  node: { waits: (each) => on(each, '--watch'), once: 'node --test' },
  'react-scripts': {
    waits: (each) => on(each, '--watch', '--watchAll'),
    once: 'react-scripts test --watchAll=false',
  },
  'vue-cli': { waits: (each) => on(each, '--watch', '--watchAll'), once: 'vue-cli-service test:unit' },
  angular: { waits: waitsInKarma, once: 'ng test --watch=false' },
};

// The karma builder watches by default; the newer one only at a terminal.
function waitsInKarma(command: Command, { settings, document }: RunnerFacts): boolean {
  if (on(command, '--watch')) return true;
  const inKarma = document.known && document.value === 'browser' && builderOf(settings)?.endsWith(':karma');
  const set = settingAt(settings, 'options', 'watch');
  const isSet = set !== undefined || settingAt(settings, 'configurations') !== undefined;
  const config = flagOf(command, '--configuration', '-c') !== undefined;
  return (
    Boolean(inKarma) &&
    !isSet &&
    !config &&
    !isOff(command, '--watch') &&
    flagOf(command, '--no-watch') === undefined
  );
}

const builderOf = (settings: RunnerFacts['settings']): string | undefined =>
  textOf(settingAt(settings, 'builder') ?? settingAt(settings, 'executor'));

// The script that a machine calls is `test`; a second one that runs once excuses it.
function check({ environment }: Package): Finding[] {
  return environment.runners.flatMap((runner) => {
    const row = ROWS[runner.runner];
    const waiting = row ? runner.commands.filter((command) => row.waits(command, runner)) : [];
    const test = waiting.find(({ script }) => script === 'test');
    const all = environment.runners.flatMap(({ commands }) => commands);
    if (!row || !test || all.some((each) => !waiting.includes(each) && !isWaiting(each, environment.runners)))
      return [];
    return [
      {
        place: test.at,
        certainty: 'sure' as const,
        message: message(test.script, test.program),
        advice: advice(row.once),
      },
    ];
  });
}

const isWaiting = (command: Command, runners: readonly RunnerFacts[]): boolean =>
  runners.some((runner) => runner.commands.includes(command) && ROWS[runner.runner]?.waits(command, runner));

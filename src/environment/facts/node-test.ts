import { resolve } from '../../util/paths.js';
import { wordsOf } from '../settings/commands.js';
import { known, UNKNOWN_FACT, type Known } from '../settings/setting.js';
import type { RunnerRow } from '../tables/runners.js';
import type { Collection } from './environment.js';
import {
  isPath,
  setupsOfCommands,
  UNDOES_NOTHING,
  UNREAD,
  withExtensions,
  type Facts,
  type RunnerSources,
} from './found.js';

const LOADS = ['--import', '--require', '-r', '--loader', '--experimental-loader'];
// node 20 to 24, `node --help`: flags of a run that a value may follow behind a blank.
const VALUE_FLAGS = new Set([
  ...LOADS,
  '--test-name-pattern',
  '--test-reporter',
  '--test-reporter-destination',
  '--test-concurrency',
  '--test-timeout',
  '--conditions',
  '-C',
  '--env-file',
]);

/** The facts of node's own runner (node 20 to 24): its commands say all of it, and it has no document. */
export function nodeTest(row: RunnerRow, { found: { folder, file }, commands }: RunnerSources): Facts {
  return {
    ...UNREAD,
    folder,
    settingsFile: file,
    globals: known(false),
    document: known('node'),
    // Names of the project's own are for what it loads before to resolve, by the compiler's paths.
    aliases: known([]),
    ...UNDOES_NOTHING,
    setupFiles: setupsOfCommands(commands, LOADS, (text) =>
      isPath(text) ? withExtensions(resolve(folder, text)) : [],
    ),
    collects: collection(row, folder, commands),
  };
}

function collection(row: RunnerRow, folder: string, commands: RunnerSources['commands']): Known<Collection> {
  const [command] = commands;
  if (!command) return UNKNOWN_FACT;
  const given = commands.map((each) => wordsOf(each, VALUE_FLAGS).map((text) => text.replace(/^\.\//, '')));
  const byDefault = given.some((each) => each.length === 0);
  // A folder stands for what lies below it by the runner's own names.
  const globs = given.flat().map((text) => (/[*?{[]|\.[cm]?[jt]sx?$/.test(text) ? text : `${text}/**/*`));
  return known({
    folder,
    include: [...(byDefault ? (row.include ?? []) : []), ...globs],
    exclude: ['**/node_modules/**'],
    patterns: [],
    leftOut: [],
    roots: [folder],
    at: command.at,
    byDefault,
  });
}

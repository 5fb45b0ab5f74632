import type { RunnerRow } from '../tables/runners.js';
import { known, UNKNOWN_FACT, type Setting } from '../settings/setting.js';
import { angularFacts } from './angular.js';
import { UNREAD, type RunnerSources, type Facts } from './found.js';
import { jasmine } from './jasmine.js';
import { karma } from './karma.js';
import { jest } from './jest.js';
import { nodeTest } from './node-test.js';
import { mocha } from './mocha.js';
import { reactScripts } from './react-scripts.js';
import { vitest } from './vitest.js';

/** The facts of one runner, from its row, its settings and the commands that start it; several for several projects. */
export function runnerFacts(row: RunnerRow, asked: RunnerSources, workspace: Setting | undefined): Facts[] {
  switch (row.name) {
    case 'jest':
      return jest(row, asked);
    case 'vitest':
      return vitest(row, asked, workspace);
    case 'mocha':
      return [mocha(asked)];
    case 'jasmine':
      return [jasmine(asked)];
    case 'karma':
      return [karma(asked)];
    case 'angular':
      return angularFacts(asked);
    case 'node':
      return [nodeTest(row, asked)];
    case 'react-scripts':
      return [reactScripts(row, asked)];
    default:
      return [unreadFacts(row, asked.found.folder)];
  }
}

/** What the table alone says of a runner, where no settings are in sight. */
export const unreadFacts = (row: RunnerRow, folder: string): Facts => ({
  ...UNREAD,
  folder,
  settingsFile: undefined,
  globals: row.globals ? known(true) : UNKNOWN_FACT,
  restores: row.restores ? known(true) : UNKNOWN_FACT,
});

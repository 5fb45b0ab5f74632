import { join } from '../../util/paths.js';
import type { NamedModule } from './environment.js';
import type { RunnerRow } from '../tables/runners.js';
import { known, settingAt, UNKNOWN_FACT, type Known } from '../settings/setting.js';
import { hasFlag, setupList, joinedFacts, UNREAD, type RunnerSources, type Facts } from './found.js';

/** The facts of react-scripts 4 and 5, from their createJestConfig.js; a key in the manifest adds a few settings. */
export function reactScripts(row: RunnerRow, { found, commands, exists }: RunnerSources): Facts {
  const { setting, folder, file } = found;
  const own = settingAt(setting, 'jest');
  const flag = (key: string, otherwise: boolean): Known<boolean> => {
    const set = settingAt(own, key);
    return set === undefined
      ? known(otherwise)
      : set.is === 'value'
        ? known(Boolean(set.value))
        : UNKNOWN_FACT;
  };
  return {
    ...UNREAD,
    folder,
    settingsFile: file,
    settings: undefined,
    globals: known(true),
    restores: flag('restoreMocks', false),
    resets: flag('resetMocks', true),
    clears: flag('clearMocks', false),
    unstubs: known(false),
    isolates: known(true),
    fakesClock: known(false),
    document: hasFlag(commands, '--env') ? UNKNOWN_FACT : known('jsdom'),
    setupFiles: joinedFacts([loaded(folder, found, exists), setupList(undefined, 'setupFiles', () => [])]),
    collects: known({
      folder,
      include: row.include ?? [],
      exclude: [],
      patterns: [],
      leftOut: ['/node_modules/'],
      roots: [join(folder, 'src')],
      at: commands[0]?.at ?? setting.at,
      byDefault: true,
    }),
    transforms: known({
      by: 'rules',
      rules: [{ pattern: '.', by: 'react-scripts', told: true, at: setting.at }],
      mapped: [],
      babel: UNKNOWN_FACT,
      at: setting.at,
    }),
  };
}

// `src/setupTests` is loaded by its name, TypeScript or not.
function loaded(
  folder: string,
  { setting }: RunnerSources['found'],
  exists: (path: string) => boolean,
): Known<NamedModule[]> {
  const candidates = ['ts', 'tsx', 'js'].map((extension) => join(folder, `src/setupTests.${extension}`));
  if (!candidates.some(exists)) return known([]);
  return known([{ text: 'src/setupTests', at: setting.at, key: 'setupFilesAfterEnv', candidates }]);
}

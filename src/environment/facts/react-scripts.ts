import { join, resolve } from '../../util/paths.js';
import { mapperRules } from './jest.js';
import type { Place } from '../../finding.js';
import type { AliasRule } from '../../host/leads.js';
import type { NamedModule } from './environment.js';
import type { RunnerRow } from '../tables/runners.js';
import { known, settingAt, UNKNOWN_FACT, type Known, type Setting } from '../settings/setting.js';
import {
  flagValue,
  setupList,
  joinedFacts,
  plainTexts,
  UNREAD,
  type RunnerSources,
  type Facts,
} from './found.js';

/** The facts of react-scripts 4 and 5, from their createJestConfig.js; a key in the manifest adds a few settings. */
export function reactScripts(
  row: RunnerRow,
  { found, commands, exists, setting: read }: RunnerSources,
): Facts {
  const { setting, folder, file } = found;
  const own = settingAt(read(join(folder, 'package.json')), 'jest');
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
    settings: own,
    globals: known(true),
    restores: flag('restoreMocks', false),
    resets: flag('resetMocks', true),
    clears: flag('clearMocks', false),
    unstubs: known(false),
    isolates: known(true),
    fakesClock: known(false),
    document: documentOf(commands),
    aliases: aliases(own, folder, read, exists),
    leads: {
      rules: mapperRules(settingAt(own, 'moduleNameMapper'), (text) =>
        resolve(folder, text.replace(/^<rootDir>\/?/, './')),
      ).read,
      folders: [],
    },
    endings: known([
      '.web.js',
      '.js',
      '.web.ts',
      '.ts',
      '.web.tsx',
      '.tsx',
      '.json',
      '.web.jsx',
      '.jsx',
      '.node',
    ]),
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
      rules: [{ pattern: '.', by: 'react-scripts', at: setting.at }],
      mapped: [],
      babel: UNKNOWN_FACT,
      ignored: patterns(settingAt(own, 'transformIgnorePatterns'), setting.at),
      // Versions 4 and 5 bring versions of the runner that know no exports.
      conditions: known('none'),
      at: setting.at,
    }),
  };
}

// config/createJestConfig.js, `transformIgnorePatterns`.
const patterns = (own: Setting | undefined, at: Place): Known<readonly string[]> => {
  const texts = plainTexts(own, at);
  return texts.known ? known(texts.value ?? ['/node_modules/.+\\.(js|jsx|mjs|cjs|ts|tsx)$']) : UNKNOWN_FACT;
};

// A flag of the script wins.
function documentOf(commands: RunnerSources['commands']): Known<string | undefined> {
  const flag = flagValue(commands, '--env', '--testEnvironment');
  if (!flag.known || flag.value === true) return UNKNOWN_FACT;
  return flag.value === undefined ? known('jsdom') : known(flag.value, flag.at);
}

// config/modules.js: `baseUrl` of the compiler's settings makes folders of `src` names; `moduleNameMapper` adds others.
function aliases(
  own: Setting | undefined,
  folder: string,
  read: RunnerSources['setting'],
  exists: (path: string) => boolean,
): Known<AliasRule[]> {
  const compilers = ['jsconfig.json', 'tsconfig.json'].map((name) => join(folder, name)).filter(exists);
  const isBased = compilers.some((path) => settingAt(read(path), 'compilerOptions', 'baseUrl') !== undefined);
  return isBased || settingAt(own, 'moduleNameMapper') !== undefined ? UNKNOWN_FACT : known([]);
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

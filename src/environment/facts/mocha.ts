import { resolve } from '../../util/paths.js';
import type { Collection } from './environment.js';
import { known, settingAt, textsFact, UNKNOWN_FACT, type Known } from '../settings/setting.js';
import {
  isPath,
  setupList,
  joinedFacts,
  UNREAD,
  withExtensions,
  type RunnerSources,
  type Facts,
} from './found.js';

/** The facts of mocha's settings (mocha 8 to 12); it has no document of its own. */
export function mocha(asked: RunnerSources): Facts {
  const { setting, file, folder } = asked.found;
  const candidates = (text: string): string[] => (isPath(text) ? withExtensions(resolve(folder, text)) : []);
  const setups = ['require', 'file'].map((key) => setupList(settingAt(setting, key), key, candidates));
  return {
    ...UNREAD,
    folder,
    settingsFile: file,
    settings: setting,
    globals: known(true),
    restores: known(false),
    resets: known(false),
    clears: known(false),
    unstubs: known(false),
    fakesClock: known(false),
    isolates: known(false),
    setupFiles: joinedFacts(setups),
    collects: collection(asked),
  };
}

// Scripts may add patterns to those of the settings; where a script can't be followed, nothing is known.
function collection({ found: { setting, folder }, commands }: RunnerSources): Known<Collection> {
  const spec = textsFact(settingAt(setting, 'spec'), [], setting.at);
  if (!spec.known || commands.length === 0) return UNKNOWN_FACT;
  if (commands.some((command) => command.args.some((arg) => arg.startsWith('-')))) return UNKNOWN_FACT;
  const given = commands.flatMap((command) => command.args);
  const texts = [...spec.value.map(({ text }) => text), ...given].map((text) => text.replace(/^\.\//, ''));
  // A folder stands for the files right in it.
  const include = texts.map((text) =>
    /[*?{[]|\.[cm]?[jt]sx?$/.test(text) ? text : `${text.replace(/\/$/, '')}/*`,
  );
  const byDefault = include.length === 0;
  return known({
    folder,
    include: byDefault ? ['test/*.{js,cjs,mjs}'] : include,
    exclude: [],
    patterns: [],
    leftOut: [],
    roots: [folder],
    at: setting.at,
    byDefault,
  });
}

import { dirname, resolve } from '../../util/paths.js';
import { valuesOf } from '../settings/commands.js';
import { known, settingAt, textFact, textsFact, UNKNOWN_FACT, type Known } from '../settings/setting.js';
import type { NamedModule } from './environment.js';
import {
  isPath,
  joinedFacts,
  setupList,
  UNREAD,
  withExtensions,
  type RunnerSources,
  type Facts,
} from './found.js';

/** The facts of jasmine's settings (jasmine 3 to 6): spies are removed after each spec; it has no document of its own. */
export function jasmine(asked: RunnerSources): Facts {
  const { setting, file, folder } = asked.found;
  const facts: Facts = {
    ...UNREAD,
    folder,
    settingsFile: file,
    settings: setting,
    restores: known(true),
    globals: known(true),
    document: known('node'),
  };
  const base = file.includes('/spec/support/') ? dirname(dirname(dirname(file))) : folder;
  const dir = textFact(settingAt(setting, 'spec_dir'), '.');
  const files = textsFact(settingAt(setting, 'spec_files'), [], setting.at);
  if (!dir.known || !files.known || files.value.length === 0) return facts;
  const root = resolve(base, dir.value ?? '.');
  const texts = files.value.map(({ text }) => text);
  return {
    ...facts,
    folder: base,
    setupFiles: setups(asked, base, root),
    collects: known({
      folder: root,
      include: texts.filter((text) => !text.startsWith('!')),
      exclude: texts.filter((text) => text.startsWith('!')).map((text) => text.slice(1)),
      patterns: [],
      leftOut: [],
      roots: [root],
      at: files.at ?? setting.at,
      byDefault: false,
    }),
  };
}

// Modules by their names, and helpers by patterns from the folder of the specs: one that matches nothing is no error.
function setups(
  { found: { setting }, commands, filesAt }: RunnerSources,
  base: string,
  root: string,
): Known<NamedModule[]> {
  const helpers = textsFact(settingAt(setting, 'helpers'), [], setting.at);
  if (!helpers.known || commands.some((command) => valuesOf(command, '--helper', '--require').length > 0))
    return UNKNOWN_FACT;
  const candidates = (text: string): string[] => (isPath(text) ? withExtensions(resolve(base, text)) : []);
  const matched = helpers.value.flatMap(({ text, at }) =>
    filesAt(root, text).map((path): NamedModule => ({ text: path, at, key: 'helpers', candidates: [path] })),
  );
  return joinedFacts([setupList(settingAt(setting, 'requires'), 'requires', candidates), known(matched)]);
}

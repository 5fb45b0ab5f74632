import { dirname, resolve } from '../../util/paths.js';
import { known, settingAt, textFact, textsFact } from '../settings/setting.js';
import { UNREAD, type RunnerSources, type Facts } from './found.js';

/** The facts of jasmine's settings (jasmine 3 to 6): spies are removed after each spec. */
export function jasmine({ found: { setting, file, folder } }: RunnerSources): Facts {
  const facts: Facts = {
    ...UNREAD,
    folder,
    settingsFile: file,
    settings: setting,
    restores: known(true),
    globals: known(true),
  };
  const base = file.includes('/spec/support/') ? dirname(dirname(dirname(file))) : folder;
  const dir = textFact(settingAt(setting, 'spec_dir'), '.');
  const files = textsFact(settingAt(setting, 'spec_files'), [], setting.at);
  if (!dir.known || !files.known || files.value.length === 0) return facts;
  const root = resolve(base, dir.value ?? '.');
  const texts = files.value.map(({ text }) => text);
  return {
    ...facts,
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

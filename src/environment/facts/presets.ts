import type { Setting } from '../settings/setting.js';

/** The transforms of a preset that sets nothing else that a fact is made of; the project's own stand before them. */
type Preset = Readonly<Record<string, string>>;

// ts-jest 27 to 29: presets/create-jest-preset.js.
const PRESETS: Readonly<Record<string, Preset>> = {
  'ts-jest': { '^.+\\.tsx?$': 'ts-jest' },
  'ts-jest/presets/default': { '^.+\\.tsx?$': 'ts-jest' },
  'ts-jest/presets/js-with-ts': { '^.+\\.[tj]sx?$': 'ts-jest' },
  'ts-jest/presets/js-with-babel': { '^.+\\.tsx?$': 'ts-jest', '^.+\\.jsx?$': 'babel-jest' },
};

/** The settings with what their preset sets; one that no table knows may set anything that they do not. */
export function withPreset(setting: Setting, name: Setting | undefined): Setting {
  if (!name || setting.is !== 'object') return setting;
  const preset = name.is === 'value' ? PRESETS[String(name.value)] : undefined;
  if (!preset) return { ...setting, open: true };
  const own = setting.entries.get('transform');
  if (own && own.is !== 'object') return setting;
  const more = Object.entries(preset).map(([pattern, value]): [string, Setting] => [
    pattern,
    { is: 'value', value, at: name.at },
  ]);
  const entries = new Map([...(own?.entries ?? []), ...more]);
  const transform: Setting = { is: 'object', open: own?.open ?? false, at: own?.at ?? name.at, entries };
  return { ...setting, entries: new Map(setting.entries).set('transform', transform) };
}

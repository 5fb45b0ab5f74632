import { dirname, join } from '../../util/paths.js';
import { namesBy, type BabelNames, type BabelPart } from './babel-names.js';
import { known, madeBy, settingAt, textOf, UNKNOWN_FACT, type Known, type Setting } from './setting.js';

/** What Babel is told to compile. */
export interface BabelSettings {
  file: string;
  presets: readonly BabelPart[];
  plugins: readonly BabelPart[];
  names: BabelNames;
}

const ROOT_FILES = ['js', 'cjs', 'mjs', 'json', 'cts', 'ts'].map((extension) => `babel.config.${extension}`);
const OWN_FILES = [
  '.babelrc',
  ...['json', 'js', 'cjs', 'mjs', 'cts'].map((extension) => `.babelrc.${extension}`),
];

/**
 * The settings of Babel (7 and 8) that hold for the files of its root folder; `undefined` where there surely are none.
 */
export function babelSettings(
  folder: string,
  exists: (path: string) => boolean,
  setting: (path: string) => Setting | undefined,
): Known<BabelSettings | undefined> {
  const roots = ROOT_FILES.map((name) => join(folder, name));
  const own = OWN_FILES.map((name) => join(folder, name));
  const files = [roots.find(exists), own.find(exists)].filter((file) => file !== undefined);
  const manifest = join(folder, 'package.json');
  const inManifest = exists(manifest) ? settingAt(setting(manifest), 'babel') : undefined;
  const all = [
    ...files.map((file) => ({ file, setting: setting(file) })),
    ...(inManifest ? [{ file: manifest, setting: inManifest }] : []),
  ];
  const [first] = all;
  if (!first) return known(undefined);
  return babelSettingsOf(
    all.map((each) => each.setting),
    first.file,
    folder,
  );
}

/** The settings of Babel that some objects are together; `file`: where the first of them stands. */
export function babelSettingsOf(
  all: readonly (Setting | undefined)[],
  file: string,
  folder: string,
): Known<BabelSettings> {
  const presets: BabelPart[] = [];
  const plugins: BabelPart[] = [];
  for (const each of all) {
    // Parts of a run: what is set for it stands beside what is set for all.
    const parts = [each, settingAt(each, 'env', 'test')];
    const unread = ['overrides', 'extends', 'env'].some((key) => settingAt(each, key)?.is === 'unknown');
    if (each?.is !== 'object' || unread || each.entries.has('overrides') || each.entries.has('extends'))
      return UNKNOWN_FACT;
    for (const part of parts) {
      const ownPresets = listed(settingAt(part, 'presets'), 'preset');
      const ownPlugins = listed(settingAt(part, 'plugins'), 'plugin');
      if (!ownPresets || !ownPlugins) return UNKNOWN_FACT;
      presets.push(...ownPresets);
      plugins.push(...ownPlugins);
    }
  }
  return known({ file, presets, plugins, names: namesBy(plugins, folder) });
}

/** The settings that a transform is told for itself; undefined where they can't be read. */
export function toldToBabel(options: Setting): BabelSettings | undefined {
  const { file } = options.at;
  const told = babelSettingsOf([options], file, dirname(file));
  return told.known ? told.value : undefined;
}

function listed(setting: Setting | undefined, kind: 'preset' | 'plugin'): BabelPart[] | undefined {
  if (setting === undefined) return [];
  if (setting.is !== 'list' || setting.open) return undefined;
  const parts: BabelPart[] = [];
  for (const item of setting.items) {
    const part = item.is === 'list' ? item.items[0] : item;
    const name = textOf(part);
    const whole = name === undefined ? part && madeBy(part) : wholeName(name, kind);
    if (whole === undefined) return undefined;
    parts.push({
      name: whole,
      options: item.is === 'list' ? item.items[1] : undefined,
      at: item.at,
    });
  }
  return parts;
}

// babel-core's own way: `@babel/env` is `@babel/preset-env`, `env` is `babel-preset-env`, `module:x` is `x`.
function wholeName(name: string, kind: 'preset' | 'plugin'): string {
  if (/^[./]/.test(name)) return name;
  if (name.startsWith('module:')) return name.slice('module:'.length);
  const [, scope, rest = ''] = /^(@[^/]+)(?:\/(.*))?$/.exec(name) ?? [];
  if (scope === '@babel')
    return rest.startsWith(`${kind}-`) || rest.includes('/') ? name : `@babel/${kind}-${rest}`;
  if (scope !== undefined)
    return rest === ''
      ? `${scope}/babel-${kind}`
      : rest.startsWith(`babel-${kind}`) || rest.includes('/')
        ? name
        : `${scope}/babel-${kind}-${rest}`;
  return name.startsWith(`babel-${kind}-`) || name.includes('/') ? name : `babel-${kind}-${name}`;
}

/** What settings of Babel surely leave as it is. */
export interface Uncompiled {
  typescript: boolean;
  jsx: boolean;
  imports: boolean;
  /** `import.meta`, which only ES modules have. */
  meta: boolean;
  /** JSX becomes calls of a name that the file must have: `React`. */
  needsName: boolean;
}

/** Whether Babel surely leaves `const` as it is, and makes no `var` of it, which may be read before it is set. */
export function keepsConstants(settings: BabelSettings | undefined): boolean {
  if (!settings) return true;
  const { presets, plugins } = settings;
  if (plugins.some(({ name }) => name.includes('block-scoping'))) return false;
  return presets.every(({ name, options }) => {
    if (name === REACT || name === TYPESCRIPT) return true;
    // The engines of old browsers are meant where no others are; Node has had them since 6.
    const targets = settingAt(options, 'targets');
    return name === ENV && targets?.is === 'object' && [...targets.entries.keys()].join() === 'node';
  });
}

const ENV = '@babel/preset-env';
const REACT = '@babel/preset-react';
const TYPESCRIPT = '@babel/preset-typescript';

/** What some settings surely leave uncompiled; a preset that is not known may compile anything. `undefined`: none at all. */
export function uncompiledBy(
  settings: BabelSettings | undefined,
  babelMajor: number | undefined,
): Uncompiled {
  if (!settings) return { typescript: true, jsx: true, imports: true, meta: true, needsName: false };
  const { presets, plugins } = settings;
  const names = new Set(presets.map(({ name }) => name));
  const isOpen = presets.some(({ name }) => ![ENV, REACT, TYPESCRIPT].includes(name));
  const mayBe = (word: RegExp): boolean => isOpen || plugins.some(({ name }) => word.test(name));
  const flag = (name: string, key: string): Setting | undefined =>
    presets
      .filter((each) => each.name === name)
      .map(({ options }) => settingAt(options, key))
      .at(-1);
  const modules = flag(ENV, 'modules');
  const runtime = flag(REACT, 'runtime');
  const isClassic =
    (runtime === undefined && babelMajor !== undefined && babelMajor < 8) || textOf(runtime) === 'classic';
  const hasPragma = flag(REACT, 'pragma') !== undefined || flag(REACT, 'importSource') !== undefined;
  return {
    typescript: !names.has(TYPESCRIPT) && !mayBe(/typescript|flow|metro/),
    jsx: !names.has(REACT) && !mayBe(/jsx|react|inferno|solid|preact|vue|dom-expressions/),
    imports:
      (!names.has(ENV) || (modules?.is === 'value' && modules.value === false)) &&
      !mayBe(/modules|commonjs|cjs|esm|dynamic-import-node/),
    meta: !mayBe(/meta|vite|env/),
    needsName: isClassic && names.has(REACT) && !hasPragma && !mayBe(/jsx|react(?!-refresh)/),
  };
}

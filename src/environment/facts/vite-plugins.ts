import type { Place } from '../../finding.js';
import { allKnown } from '../../util/all-known.js';
import { resolve } from '../../util/paths.js';
import type { BundlerJsx, Jsx, NamedModule } from './environment.js';
import {
  known,
  madeBy,
  settingAt,
  textOf,
  UNKNOWN_FACT,
  type Known,
  type Setting,
} from '../settings/setting.js';
import {
  leavesJsx,
  REACT_PLUGINS,
  leavesNames,
  leavesSettings,
  readsCompilerPaths,
  standsFor,
} from '../tables/plugins.js';

/** What the plugins of the bundler do to the names of modules and to the settings of specs. */
interface PluginEffects {
  /** The patterns of the imports that they take; undefined where they may take any. */
  takes: readonly string[] | undefined;
  /** They surely set nothing for specs. */
  leavesSettings: boolean;
  /** One of them resolves names by the compiler’s `paths`. */
  readsPaths: boolean;
  at: Place;
}

/** The plugins of a list, without those that a condition leaves out: `isBuild && plugin()`; undefined where not all are in sight. */
export const pluginsIn = (list: Setting): Setting[] | undefined =>
  list.is === 'list' && !list.open
    ? list.items.filter((item) => item.is !== 'value' || item.value)
    : undefined;

/** Reads what the plugins in the settings of a bundler do, those that are written out there included. */
export function pluginEffects(setting: Setting): PluginEffects {
  const list = settingAt(setting, 'plugins');
  if (list === undefined) return { takes: [], leavesSettings: true, readsPaths: false, at: setting.at };
  const whole = pluginsIn(list);
  const items = whole ?? (list.is === 'list' ? list.items : []);
  const isWhole = whole !== undefined;
  const names = items.flatMap((item) => madeBy(item) ?? []);
  const written = allKnown(items.filter((item) => madeBy(item) === undefined).map(takenBy));
  const leaves = (name: string): boolean => leavesNames(name) || readsCompilerPaths(name);
  return {
    takes:
      isWhole && written && names.every(leaves)
        ? [...names.flatMap(standsFor), ...written.flat()]
        : undefined,
    leavesSettings: isWhole && written !== undefined && names.every(leavesSettings),
    readsPaths: names.some(readsCompilerPaths),
    at: list.at,
  };
}

// rollup 4 and vite 5 to 8: hooks that neither resolve nor load modules, nor change the settings.
const OTHER_HOOKS: ReadonlySet<string> = new Set([
  'name',
  'enforce',
  'apply',
  'transform',
  'transformIndexHtml',
  'buildStart',
  'buildEnd',
  'renderChunk',
  'generateBundle',
  'writeBundle',
  'closeBundle',
  'configureServer',
  'configurePreviewServer',
  'handleHotUpdate',
  'hotUpdate',
]);

// The patterns of the modules that a plugin takes which is written out in the settings; undefined where it may do more.
function takenBy(plugin: Setting): readonly string[] | undefined {
  if (plugin.is !== 'object' || plugin.open) return undefined;
  const patterns = [...plugin.entries].map(([key, value]) => {
    if (OTHER_HOOKS.has(key)) return [];
    return key === 'resolveId' || key === 'load' ? value.takes : undefined;
  });
  return allKnown(patterns)?.flat();
}

// Keys that say what it takes and what becomes of JSX, vite 4 to 7.
const ESBUILD_KEYS = ['jsx', 'jsxFactory', 'jsxInject', 'include', 'exclude', 'loader', 'tsconfigRaw'];

/** Reads what the settings of a bundler say of JSX; unknown where a plugin may compile it, or they are more than are read. */
export function jsxChosen(setting: Setting, plugins: readonly Setting[]): Known<BundlerJsx> {
  const esbuild = settingAt(setting, 'esbuild');
  const tellsEsbuild =
    esbuild?.is === 'value' || ESBUILD_KEYS.some((key) => settingAt(esbuild, key) !== undefined);
  if (settingAt(setting, 'oxc') !== undefined) return UNKNOWN_FACT;
  const [plugin, ...others] = plugins.filter((each) => REACT_PLUGINS.has(madeBy(each) ?? ''));
  const rest = plugins.filter((each) => each !== plugin);
  if (others.length > 0 || !rest.every((each) => leavesJsx(madeBy(each) ?? ''))) return UNKNOWN_FACT;
  if (!plugin) return known({ chosen: undefined, isTold: false, tellsEsbuild });
  const runtime = settingAt(plugin, 'jsxRuntime');
  const source = settingAt(plugin, 'jsxImportSource');
  if (plugin.is === 'object' && plugin.open) return UNKNOWN_FACT;
  const isTold = ['babel', 'include', 'plugins', 'parserConfig'].some(
    (key) => settingAt(plugin, key) !== undefined,
  );
  // @vitejs/plugin-react 3 to 6; the other one knows no such key.
  const chosen: Jsx =
    textOf(runtime) === 'classic'
      ? { is: 'calls', of: 'React', at: runtime?.at }
      : {
          is: 'imports',
          // Only that one leaves it to the compiler's settings.
          from: textOf(source) ?? (madeBy(plugin) === '@vitejs/plugin-react' ? '' : 'react'),
          at: source?.at,
        };
  const isRead = [runtime, source].every((each) => each === undefined || textOf(each) !== undefined);
  return isRead ? known({ chosen, isTold, tellsEsbuild }) : UNKNOWN_FACT;
}

const ANGULAR = '@analogjs/vite-plugin-angular';

/** The compiler's settings that a plugin of the bundler, run from a root, compiles specs by: it stops where they are not there. */
export function compilerFiles(setting: Setting, root: string): NamedModule[] {
  const list = settingAt(setting, 'plugins');
  const plugin = list?.is === 'list' ? list.items.find((each) => madeBy(each) === ANGULAR) : undefined;
  if (!plugin) return [];
  const given = settingAt(plugin, 'tsconfig');
  // Versions 1 and 2, getTsConfigPath.
  const text = given ? textOf(given) : 'tsconfig.spec.json';
  if (text === undefined) return [];
  const at = (given ?? plugin).at;
  return [{ text: text.replace(/^(?![./])/, './'), at, key: ANGULAR, candidates: [resolve(root, text)] }];
}

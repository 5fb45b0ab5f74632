import type { Place } from '../../finding.js';
import { listsProjects, PROJECT_SETTINGS } from '../tables/nx.js';
import { settingAt, textFact, textsFact, type Setting } from './setting.js';
import { REACT_PLUGINS } from '../tables/plugins.js';

/** What a framework's function adds to the runner's settings that it is given: what is given stands after it. */
type Wrapper = Readonly<Record<string, Readonly<Record<string, string>> | readonly string[] | undefined>>;

// next 13 to 16, dist/build/jest/jest.js: all other keys are handed back as they are.
const NEXT: Wrapper = {
  moduleNameMapper: {
    '^.+\\.module\\.(css|sass|scss)$': 'next',
    '^.+\\.(css|sass|scss)$': 'next',
    '^.+\\.(png|jpg|jpeg|gif|webp|avif|ico|bmp)$': 'next',
    '^.+\\.(svg)$': 'next',
    '@next/font/(.*)': 'next',
    'next/font/(.*)': 'next',
    '^server-only$': 'next',
  },
  transform: { '^.+\\.(js|jsx|ts|tsx|mjs)$': 'next/dist/build/swc/jest-transformer' },
  testPathIgnorePatterns: ['/node_modules/', '/.next/'],
  // The framework's own settings, which are code, add to these.
  transformIgnorePatterns: undefined,
};

const WRAPPERS: ReadonlyMap<string, Wrapper> = new Map([
  ['next/jest', NEXT],
  ['next/jest.js', NEXT],
]);

/** The settings that a framework's function makes of some, by its module; undefined where no table knows it. */
export function wrappedBy(
  module: string | undefined,
  given: Extract<Setting, { is: 'object' }>,
  at: Place,
): Setting | undefined {
  const wrapper = WRAPPERS.get(module ?? '');
  if (!wrapper) return undefined;
  const entries = new Map(given.entries);
  for (const [key, added] of Object.entries(wrapper)) {
    const own = given.entries.get(key);
    const text = (value: string): Setting => ({ is: 'value', value, at });
    if (added === undefined) entries.set(key, { is: 'unknown', at });
    else if (Array.isArray(added)) {
      const items = (added as readonly string[]).map(text);
      if (own === undefined) entries.set(key, { is: 'list', items, open: false, at });
      else if (own.is === 'list') entries.set(key, { ...own, items: [...items, ...own.items] });
    } else {
      const named = Object.entries(added).map(([name, value]) => [name, text(value as string)] as const);
      if (own === undefined) entries.set(key, { is: 'object', entries: new Map(named), open: false, at });
      else if (own.is === 'object')
        entries.set(key, { ...own, entries: new Map([...named, ...own.entries]) });
    }
  }
  return { ...given, entries };
}

/** What a function of a package makes of settings that it is given; undefined for one that no table knows. */
export function madeFrom(
  { module, name }: { module: string; name: string },
  [given, options]: readonly Setting[],
  at: Place,
): Setting | undefined {
  const isTold = module === 'babel-jest' ? name === 'createTransformer' : REACT_PLUGINS.has(module);
  if (isTold) return given?.is === 'object' ? { ...given, by: module } : { is: 'made', by: module, at };
  if (listsProjects({ module, name }))
    return { is: 'list', items: [{ is: 'value', value: PROJECT_SETTINGS, at }], open: false, at };
  return /^ts-jest(?:\/utils)?$/.test(module) && name === 'pathsToModuleNameMapper'
    ? mapperOfPaths(given, options, at)
    : undefined;
}

// ts-jest 27 to 29, paths-to-module-name-mapper.js: a rule for each of the compiler's paths that has one target.
function mapperOfPaths(paths: Setting | undefined, options: Setting | undefined, at: Place): Setting {
  const prefix = textFact(settingAt(options, 'prefix'), '');
  const esm = settingAt(options, 'useESM');
  if (paths?.is !== 'object' || paths.open || !prefix.known || esm) return { is: 'unknown', at };
  const base = prefix.value ? prefix.value.replace(/\/?$/, '/') : '';
  const rules = [...paths.entries].map(([name, targets]): [string, Setting] => {
    const texts = textsFact(targets, [], targets.at);
    const [only, ...others] = texts.known ? texts.value : [];
    const escaped = name.replace(/[-\\^$+?.()|[\]{}]/g, '\\$&');
    const pattern = `^${escaped.replace('*', '(.*)')}$`;
    if (!only || others.length > 0) return [pattern, { is: 'unknown', at }];
    const target = base && name.includes('*') ? only.text.replace(/^\.\//, '') : only.text;
    return [pattern, { is: 'value', value: base + target.replaceAll('*', '$1'), at: only.at }];
  });
  return { is: 'object', entries: new Map(rules), open: false, at };
}

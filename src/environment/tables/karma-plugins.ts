const headless = (...names: readonly string[]): string[] =>
  names.flatMap((name) => [name, `${name}Headless`]);

const frameworks = (...names: readonly string[]): (readonly [string, readonly string[]])[] =>
  names.map((name) => [`karma-${name}`, [`frameworks:${name}`]]);
const reporters = (...names: readonly string[]): (readonly [string, readonly string[]])[] =>
  names.map((name) => [`karma-${name}-reporter`, [`reporters:${name}`]]);

/** karma 6: what the plugins register, by the setting that names it; read from the packages themselves. */
const BROUGHT: ReadonlyMap<string, readonly string[]> = new Map<string, readonly string[]>([
  ...frameworks(
    'mocha',
    'chai',
    'sinon',
    'sinon-chai',
    'chai-sinon',
    'qunit',
    'webpack',
    'browserify',
    'parcel',
  ),
  ...reporters('mocha', 'spec', 'junit', 'nyan', 'summary', 'coverage-istanbul'),
  ['karma-jasmine', ['frameworks:jasmine', 'reporters:karma-jasmine']],
  ['karma-coverage', ['reporters:coverage']],
  ['karma-jasmine-html-reporter', ['reporters:kjhtml']],
  ['karma-sourcemap-loader', []],
  ['karma-viewport', ['frameworks:viewport']],
  [
    'karma-chrome-launcher',
    [...headless('Chrome', 'ChromeCanary', 'Chromium'), 'Dartium'].map((name) => `browsers:${name}`),
  ],
  [
    'karma-firefox-launcher',
    headless('Firefox', 'FirefoxDeveloper', 'FirefoxAurora', 'FirefoxNightly').map(
      (name) => `browsers:${name}`,
    ),
  ],
  ['karma-safari-launcher', ['browsers:Safari']],
  ['karma-edge-launcher', ['browsers:Edge']],
  ['karma-ie-launcher', ['browsers:IE']],
  ['@angular-devkit/build-angular/plugins/karma', ['frameworks:@angular-devkit/build-angular']],
]);

/** Reporters that karma has by itself. */
export const OWN_REPORTERS: ReadonlySet<string> = new Set(['dots', 'progress']);

/** What a plugin registers; undefined where that is not known. */
export const broughtByPackage = (name: string): readonly string[] | undefined => BROUGHT.get(name);

/** The plugins that register a name for a setting: `jasmine` for `frameworks`. */
export const pluginsFor = (key: string, name: string): string[] =>
  [...BROUGHT].flatMap(([plugin, names]) => (names.includes(`${key}:${name}`) ? [plugin] : []));

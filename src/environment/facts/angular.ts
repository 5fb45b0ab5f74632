import { isWithin, join, resolve } from '../../util/paths.js';
import { namedByKarma } from './karma.js';
import { JEST_BUILDER } from '../tables/runners.js';
import type { Collection, NamedModule } from './environment.js';
import {
  known,
  settingAt,
  textFact,
  textOf,
  textsFact,
  UNKNOWN_FACT,
  type Known,
  type Setting,
} from '../settings/setting.js';
import {
  isPath,
  setupList,
  joinedFacts,
  UNREAD,
  withExtensions,
  type RunnerSources,
  type Facts,
} from './found.js';

/** The facts of the test targets of an Angular workspace file, one set for each project. */
export function angularFacts(asked: RunnerSources): Facts[] {
  const { setting, file, folder } = asked.found;
  const projects = settingAt(setting, 'projects');
  if (projects?.is !== 'object') return [{ ...UNREAD, folder, settingsFile: file }];
  return [...projects.entries].flatMap(([name, project]) => {
    const target = settingAt(project, 'architect', 'test') ?? settingAt(project, 'targets', 'test');
    const builder = textOf(settingAt(target, 'builder')) ?? '';
    // That of jest reads the settings in the project's root: only where this is the workspace's are they in sight.
    const isInRoot = projects.entries.size === 1 && (textOf(settingAt(project, 'root')) ?? '') === '';
    if (!target || HANDS_OVER.test(builder) || (isInRoot && builder === `${JEST_BUILDER}:run`)) return [];
    // A command may start one project of several, and leave the others alone.
    const commands = projects.entries.size === 1 ? asked.commands : [];
    return [{ ...one(project, target, { ...asked, commands }), project: name }];
  });
}

// Builders that run another runner by its own settings.
const HANDS_OVER = /^@analogjs\/(?:vitest-angular|platform):(?:test|vitest)$/;

function one(project: Setting, target: Setting, asked: RunnerSources): Facts {
  const {
    found: { folder, file },
    major,
  } = asked;
  const builder = textFact(settingAt(target, 'builder'), undefined);
  const root = textFact(settingAt(project, 'root'), '');
  const source = textFact(settingAt(project, 'sourceRoot'), undefined);
  const base: Facts = { ...UNREAD, folder, settingsFile: file, globals: known(true) };
  if (!builder.known || !root.known || !source.known) return base;
  const home = resolve(folder, root.value ?? '');
  const sources = source.value === undefined ? join(home, 'src') : resolve(folder, source.value);
  const option = builder.value?.endsWith(':unit-test')
    ? textFact(settingAt(target, 'options', 'runner'), (major ?? 0) >= 21 ? 'vitest' : undefined)
    : known(builder.value?.endsWith(':karma') ? 'karma' : undefined);
  const runner = option.known ? DRIVEN.find((name) => name === option.value) : undefined;
  if (runner === undefined) return base;
  const isKarma = runner === 'karma';
  return {
    ...base,
    folder: home,
    settings: target,
    drives: runner,
    // Builders of others may bring names of their own.
    ...(/^@angular(?:-devkit)?\//.test(builder.value ?? '') && isKarma
      ? { readsPaths: true, aliases: known([]) }
      : {}),
    ...buildsWith(settingAt(target, 'options', 'tsConfig'), folder),
    setupFiles: setups(target, folder),
    named: [
      ...named(project, target, folder, runner),
      ...bundled(target, folder, sources),
      ...(isKarma ? ofKarma(target, asked) : []),
    ],
    collects: collection(target, home, sources, !isKarma && (major ?? 0) >= 21),
    restores: isKarma ? known(true) : UNKNOWN_FACT,
    document: isKarma || settingAt(target, 'options', 'browsers') ? known('browser') : known('jsdom'),
    isolates: isKarma ? known(false) : UNKNOWN_FACT,
  };
}

const DRIVEN = ['karma', 'vitest'] as const;

// Styles and scripts of the project that are put into the page; others may be parts of packages.
function bundled(target: Setting, folder: string, sources: string): NamedModule[] {
  return ['styles', 'scripts'].flatMap((key) => {
    const list = settingAt(target, 'options', key);
    return (list?.is === 'list' ? list.items : []).flatMap((item): NamedModule[] => {
      const file = settingAt(item, 'input') ?? item;
      const text = textOf(file);
      return text === undefined || !isWithin(sources, resolve(folder, text))
        ? []
        : [{ text, at: file.at, key, candidates: bundledAt(folder, text) }];
    });
  });
}

// A style may leave out its ending.
const bundledAt = (folder: string, text: string): string[] =>
  ['', '.css', '.scss', '.sass', '.less'].map((ending) => resolve(folder, text) + ending);

// @angular-devkit/build-angular 15 to 21 and @angular/build 19 to 21, builders/karma: settings of its own where none are named.
function ofKarma(target: Setting, asked: RunnerSources): NamedModule[] {
  const {
    found: { folder },
    setting,
    exists,
    major,
  } = asked;
  const option = settingAt(target, 'options', 'karmaConfig');
  const text = textOf(option);
  if (option && text !== undefined) {
    const path = resolve(folder, text);
    const own = exists(path) ? setting(path) : undefined;
    return [
      { text, at: option.at, key: 'karmaConfig', candidates: [path] },
      ...(own ? namedByKarma(own, asked) : []),
    ];
  }
  return option === undefined && (major ?? 0) >= 15
    ? BUILT_IN.map((name) => ({ text: name, at: target.at, key: 'the builder', candidates: [] }))
    : [];
}

const BUILT_IN = ['karma-jasmine', 'karma-chrome-launcher', 'karma-jasmine-html-reporter', 'karma-coverage'];

const buildsWith = (setting: Setting | undefined, folder: string): Pick<Facts, 'buildsWith'> => {
  const text = textOf(setting);
  return text === undefined ? {} : { buildsWith: resolve(folder, text) };
};

// What the target names beside its set-up files: the compiler's settings, the build it stands on, and the runner behind it.
function named(project: Setting, target: Setting, folder: string, runner: string | undefined): NamedModule[] {
  const option = (key: string): Setting | undefined => settingAt(target, 'options', key);
  const compiler = option('tsConfig');
  const build = option('buildTarget');
  const [of, name = '', configurations = ''] = textOf(build)?.split(':') ?? [];
  const builds =
    settingAt(project, 'architect', name || 'build') ?? settingAt(project, 'targets', name || 'build');
  const lacks = configurations
    .split(',')
    .some((each) => each !== '' && settingAt(builds, 'configurations', each) === undefined);
  // The build of another project stands elsewhere.
  const isOwn = of === '' || of === undefined;
  const polyfills = textsFact(settingAt(builds, 'options', 'polyfills'), [], target.at);
  const compilerText = textOf(compiler);
  return [
    ...(compiler && compilerText !== undefined
      ? [
          {
            text: compilerText.replace(/^(?![./])/, './'),
            at: compiler.at,
            key: 'tsConfig',
            candidates: [resolve(folder, compilerText)],
          },
        ]
      : []),
    ...(build && isOwn && (builds === undefined || lacks)
      ? [{ text: textOf(build) ?? '', at: build.at, key: 'buildTarget', candidates: [], absent: true }]
      : []),
    ...(polyfills.known ? polyfills.value : [])
      .filter(({ text }) => !/^[./]|\.[cm]?ts$/.test(text))
      .map((each) => ({ ...each, key: 'polyfills', candidates: [] })),
    ...(runner === 'vitest'
      ? [{ text: 'vitest', at: (option('runner') ?? target).at, key: 'runner', candidates: [] }]
      : []),
  ];
}

function setups(target: Setting, folder: string): Known<NamedModule[]> {
  const candidates = (text: string): string[] => (isPath(text) ? withExtensions(resolve(folder, text)) : []);
  const options = (key: string): Setting | undefined => settingAt(target, 'options', key);
  return joinedFacts(['setupFiles', 'polyfills'].map((key) => setupList(options(key), key, candidates)));
}

// @angular/build 20 and 21, schema.json and test-discovery.js: globs from the sources, or from the project's root.
// Configurations may set other ones, and an entry file of its own may load any.
function collection(target: Setting, home: string, sources: string, alsoTest: boolean): Known<Collection> {
  const given = settingAt(target, 'options', 'include');
  const usual = ['**/*.spec.ts', ...(alsoTest ? ['**/*.test.ts'] : [])];
  const include = textsFact(given, usual, target.at);
  const exclude = textsFact(settingAt(target, 'options', 'exclude'), [], target.at);
  const more = ['main', 'configurations'].some(
    (key) => settingAt(target, 'options', key) ?? settingAt(target, key),
  );
  if (!include.known || !exclude.known || more) return UNKNOWN_FACT;
  const texts = include.value.map(({ text }) => text.replace(/^\.?\//, ''));
  // A folder stands for all spec files below it.
  const globs = texts.map((text) => (/[*?{[]|\.[jt]sx?$/.test(text) ? text : `${text}/**/*.spec.ts{,x}`));
  return known({
    folder: home,
    include: [...globs, ...globs.map((glob) => join(sources.slice(home.length + 1), glob))],
    exclude: exclude.value.map(({ text }) => text),
    patterns: [],
    leftOut: [],
    roots: [given ? home : sources],
    at: include.at ?? target.at,
    byDefault: given === undefined,
  });
}

import type { RunnerFacts } from '../../environment/facts/environment.js';
import { leadingWords, type Command } from '../../environment/settings/commands.js';
import { settingAt, textOf, type Setting } from '../../environment/settings/setting.js';
import {
  BUNDLER_KEYS,
  COUNTERPARTS,
  BUILDER_KEYS,
  JEST_KEYS,
  JEST_LISTS,
  MOCHA_KEYS,
  TEST_SECTION_KEYS,
  VITEST_OPTIONS,
  WRAPPED_KEYS,
} from '../../environment/tables/settings-keys.js';
import type { Finding, Place } from '../../finding.js';
import { runsInBrowser } from '../../environment/facts/vitest-browser.js';
import { nearest } from '../../util/nearest.js';
import type { ProjectCheck } from '../questions/check.js';
import { packagesWithSpecs, unique } from '../questions/packages.js';

const messageUnknown = (key: string, runner: string): string =>
  `${runner} knows no setting “${key}”, and passes over it: what it was meant to do does not happen.`;
const messageMoved = (key: string, from: string): string =>
  `“${key}” stands ${from}, where the runner does not look: what it was meant to do does not happen.`;
const messageValue = (key: string, value: string): string =>
  `“${value}” is no value of ${key} that the runner knows.`;
const messageRefused = (key: string): string =>
  `react-scripts stops at “${key}”: it is none of the settings that it hands on to its runner.`;
const messageList = (key: string): string =>
  `jest stops at “${key}”: it takes a list there, and this is a text.`;
const adviceList = 'Put it in brackets.';
const messageBoth = 'jest stops at “testMatch” beside “testRegex”: it takes one of the two.';
const adviceBoth = 'Keep one of them.';
const messageOption = (option: string, script: string): string =>
  `vitest stops at “${option}” of the script “${script}”: it knows no such option.`;
const adviceRefused = 'Take it out: react-scripts sets it by itself.';
const messageInstances = 'browser.instances is empty: the run stops before the first spec.';
const adviceInstances = "Name a browser: instances: [{ browser: 'chromium' }]";
const adviceName = (name: string): string => `Its name is ${name}.`;
const adviceWorkspace = 'Write them into a file of their own: vitest.workspace.ts.';
const adviceMove = (to: string): string => `Move it into ${to}.`;
const adviceNone = 'Take it out, or look up what it is called in this version.';

/** A setting that the runner does not know, or looks for elsewhere. */
export const E20: ProjectCheck = {
  code: 'E20',
  family: 'environment',
  scope: 'project',
  title: 'Setting that the runner passes over',
  level: 'risk',
  why: 'A set-up that is never loaded, or a threshold that holds nothing back, looks as if it were there.',
  certain: 'Sure where the version of the runner is known, and has no such setting.',
  trouble: '"jest": { "setupFileAfterEnv": ["./test/setup.ts"] }',
  mended: '"jest": { "setupFilesAfterEnv": ["./test/setup.ts"] }',
  run: (context) =>
    unique(
      packagesWithSpecs(context).flatMap(({ environment }) =>
        environment.runners.flatMap((runner) => passed(runner).map(({ found }) => found)),
      ),
    ),
};

/** What a setting that the runner passes over was to do. */
type Purpose = 'document' | 'set-up' | 'globals';

const PURPOSES: Readonly<Record<string, Purpose>> = {
  environment: 'document',
  testEnvironment: 'document',
  setupFiles: 'set-up',
  setupFilesAfterEnv: 'set-up',
  require: 'set-up',
  globals: 'globals',
  injectGlobals: 'globals',
};

/** The setting that is passed over, where what it was to do does not happen for that cause. */
export const passedOver = (runner: RunnerFacts, purpose: Purpose): Place | undefined =>
  passed(runner).find(({ meant }) => PURPOSES[meant ?? ''] === purpose)?.found.place;

/** A setting that is passed over, and the one that was meant. */
interface Passed {
  found: Finding;
  meant: string | undefined;
}

function passed(runner: RunnerFacts): Passed[] {
  const { settings } = runner;
  if (settings?.is !== 'object') return [];
  switch (runner.runner) {
    case 'jest':
      return ofJest(settings);
    case 'vitest':
      return [
        ...ofBundler(settings, runner),
        ...runner.commands.flatMap((each) => optionsRefused(each, runner.major)),
      ];
    case 'react-scripts':
      // Programs that start it with settings of their own take out what it would refuse, or never hand it on.
      return runner.commands.every(({ program }) => program === 'react-scripts')
        ? refused(settings)
        : ofJest(settings);
    case 'mocha':
      return nearly(settings, 'mocha', MOCHA_KEYS);
    case 'angular':
      return nearly(settingAt(settings, 'options'), 'the builder', BUILDER_KEYS);
    default:
      return [];
  }
}

type Section = Extract<Setting, { is: 'object' }>;

const SHARES = ['branches', 'functions', 'lines', 'statements'];

function ofJest(settings: Section): Passed[] {
  const unknown = [...settings.entries].flatMap(([key, { at }]) => {
    if (JEST_KEYS.has(key)) return [];
    const other = COUNTERPARTS.find(({ section }) => section === key)?.jest;
    const meant = other ?? nearest(key, JEST_KEYS);
    return finding(at, messageUnknown(key, 'jest'), named(meant), meant);
  });
  return [
    ...unknown,
    ...stopping(settings),
    ...thresholdsBeside(settingAt(settings, 'coverageThreshold'), 'coverageThreshold', 'global'),
  ];
}

// jest-validate and jest-config 27 to 30: a text where a list is asked for, and two patterns for one thing.
function stopping(settings: Section): Passed[] {
  const stop = (at: Place, text: string, mend: string): Passed[] => [
    {
      found: { place: at, certainty: 'sure', level: 'blocker', message: text, advice: mend },
      meant: undefined,
    },
  ];
  const texts = [...settings.entries].flatMap(([key, value]) =>
    JEST_LISTS.has(key) && textOf(value) !== undefined ? stop(value.at, messageList(key), adviceList) : [],
  );
  const [match, regex] = ['testMatch', 'testRegex'].map((key) => settings.entries.get(key));
  return match?.is === 'list' && match.items.length > 0 && textOf(regex)
    ? [...texts, ...stop(match.at, messageBoth, adviceBoth)]
    : texts;
}

// react-scripts 4 and 5 stop at a setting of the runner that they do not hand on.
const refused = (settings: Section): Passed[] =>
  [...settings.entries].flatMap(([key, { at }]) =>
    WRAPPED_KEYS.has(key)
      ? []
      : finding(
          at,
          messageRefused(key),
          nearest(key, WRAPPED_KEYS) ? adviceName(nearest(key, WRAPPED_KEYS) ?? '') : adviceRefused,
        ),
  );

// Of its other commands, options are not known.
const RUNS = ['run', 'watch', 'dev', 'related'];

function optionsRefused(command: Command, major: number | undefined): Passed[] {
  const { program, args, script, at } = command;
  const [word] = leadingWords(command);
  const isOther = word !== undefined && !RUNS.includes(word) && /^(?:bench|list|init|typecheck)$/.test(word);
  if (program !== 'vitest' || isOther || major === undefined || major < 1 || major > 4) return [];
  return args.flatMap((arg) => {
    const written = /^--(?:no-)?([a-z][\w-]*)/i.exec(arg)?.[1] ?? '';
    const name = written.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase());
    if (name === '' || VITEST_OPTIONS.has(name)) return [];
    const near = nearest(name, VITEST_OPTIONS);
    const advice = near === undefined ? adviceNone : adviceName(`--${near}`);
    const message = messageOption(arg.split('=')[0] ?? arg, script);
    return [
      {
        found: { place: at, certainty: 'sure' as const, level: 'blocker' as const, message, advice },
        meant: undefined,
      },
    ];
  });
}

// What is nearly a key and none is surely passed over; what is not may be read by somebody else.
const nearly = (settings: Setting | undefined, runner: string, keys: ReadonlySet<string>): Passed[] =>
  settings?.is === 'object'
    ? [...settings.entries].flatMap(([key, { at }]) => {
        const near = keys.has(key) ? undefined : nearest(key, keys);
        return near === undefined ? [] : finding(at, messageUnknown(key, runner), adviceName(near), near);
      })
    : [];

// vitest 1 to 4: a pool of another name is a module.
function ofPool(section: Section): Passed[] {
  const pool = settingAt(section, 'pool');
  const value = pool?.is === 'value' && typeof pool.value === 'string' ? pool.value : undefined;
  if (!pool || value === undefined || POOLS.includes(value) || /[./@]/.test(value)) return [];
  const near = nearest(value, POOLS);
  return near === undefined ? [] : finding(pool.at, messageValue('pool', value), adviceName(near));
}

// vitest 3 and 4, resolveConfig: a run in a browser without one to run in stops.
function ofBrowser(section: Section, major: number | undefined): Passed[] {
  const instances = settingAt(section, 'browser', 'instances');
  const isEmpty = instances?.is === 'list' && !instances.open && instances.items.length === 0;
  if (!isEmpty || !runsInBrowser(section) || (major !== 3 && major !== 4)) return [];
  const found = {
    place: instances.at,
    certainty: 'sure',
    level: 'blocker',
    message: messageInstances,
  } as const;
  return [{ found: { ...found, advice: adviceInstances }, meant: undefined }];
}

const POOLS = ['forks', 'threads', 'vmForks', 'vmThreads', 'typescript', 'browser'];

// A plugin may bring keys of its own: only what another runner knows, or what is nearly a key, is surely passed over.
function ofBundler(settings: Section, { major }: RunnerFacts): Passed[] {
  const beside = [...settings.entries].flatMap(([key, { at }]) =>
    TEST_SECTION_KEYS.has(key) && !BUNDLER_KEYS.has(key)
      ? finding(at, messageMoved(key, 'beside “test”'), adviceMove('test'), key)
      : [],
  );
  const section = settingAt(settings, 'test');
  if (section?.is !== 'object') return beside;
  const unknown = [...section.entries].flatMap(([key, { at }]) => {
    if (key === 'projects' && major !== undefined && major < 3)
      return finding(at, messageUnknown(key, `vitest ${major}`), adviceWorkspace);
    if (TEST_SECTION_KEYS.has(key)) return [];
    const other = COUNTERPARTS.find(({ jest }) => jest === key)?.section;
    const near = other ?? nearest(key, TEST_SECTION_KEYS);
    return near === undefined && !JEST_KEYS.has(key)
      ? []
      : finding(at, messageUnknown(key, 'vitest'), named(near), near);
  });
  // Thresholds stood beside the other settings of coverage before version 1.
  const moved =
    major !== undefined && major >= 1
      ? thresholdsBeside(settingAt(section, 'coverage'), 'coverage', 'thresholds')
      : [];
  return [...beside, ...unknown, ...ofPool(section), ...ofBrowser(section, major), ...moved];
}

const thresholdsBeside = (setting: Setting | undefined, name: string, section: string): Passed[] =>
  setting?.is === 'object'
    ? [...setting.entries].flatMap(([key, { at }]) =>
        SHARES.includes(key)
          ? finding(at, messageMoved(key, `beside “${name}.${section}”`), adviceMove(`${name}.${section}`))
          : [],
      )
    : [];

const named = (name: string | undefined): string => (name === undefined ? adviceNone : adviceName(name));

const finding = (place: Place, message: string, advice: string, meant?: string): Passed[] => [
  { found: { place, certainty: 'sure', message, advice }, meant },
];

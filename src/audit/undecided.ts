import {
  foreignGlobals,
  lacksDocument,
  lacksGlobals,
  lacksMatchers,
  matcherBringers,
} from '../checks/questions/lacking.js';
import { MATCHER_EXTENSIONS } from '../libraries/matchers.js';
import { loadedBy, replacedIn } from '../checks/questions/missing-modules.js';
import { byRunners } from '../checks/questions/packages.js';
import { isLoadedByNode } from '../checks/questions/compiled.js';
import type { ProjectContext, SpecFileFacts } from '../checks/questions/context.js';
import { GLOBALS } from '../checks/questions/facts.js';
import type { Environment, RunnerFacts } from '../environment/facts/environment.js';
import { leavesSettings } from '../environment/tables/plugins.js';
import { settingAt, textOf, type Setting } from '../environment/settings/setting.js';
import { isKnownPreset } from '../environment/facts/presets.js';
import type { Place } from '../finding.js';
import { isTypeScript } from '../util/paths.js';

/** A fact that decides whether a suite runs, and that could not be read. */
interface Undecided {
  /** The folder of the package. */
  folder: string;
  fact: string;
  reason: string;
  at: Place | undefined;
  /** What would tell it. */
  opens: string;
}

type Fact = 'setupFiles' | 'collects' | 'document' | 'transforms' | 'globals';

// What the run of each needs to be known: builders and bundles of a browser make scripts by themselves.
const DECIDES: Readonly<Record<RunnerFacts['runner'], readonly Fact[]>> = {
  jest: ['setupFiles', 'collects', 'document', 'transforms'],
  vitest: ['setupFiles', 'collects', 'document', 'transforms', 'globals'],
  mocha: ['setupFiles', 'collects'],
  jasmine: ['setupFiles', 'collects'],
  karma: ['collects'],
  angular: ['setupFiles', 'collects', 'document'],
  'react-scripts': ['setupFiles', 'collects', 'document'],
  'vue-cli': ['setupFiles', 'collects', 'document', 'transforms'],
  node: ['setupFiles', 'collects'],
  bun: ['setupFiles', 'collects'],
};

const WORDS: Readonly<Record<Fact, string>> = {
  setupFiles: 'which files run before the specs',
  collects: 'which files are run',
  document: 'in what document they run',
  transforms: 'what becomes of the files that they load',
  globals: 'whether the runner’s functions are global',
};

/** What would have to be known of a package to say that its suite runs; `isOn`: whether a check, by its code, takes part. */
export function undecidedIn(
  environment: Environment,
  specFiles: readonly SpecFileFacts[],
  context: ProjectContext,
  isOn: (code: string) => boolean,
): Undecided[] {
  if (specFiles.length === 0) return [];
  const { folder, runners, manifest } = environment;
  const taking = [...new Set(specFiles.flatMap((file) => environment.runnersOf(file.path)))];
  if (taking.length === 0 && runners.length > 0) return [];
  if (taking.length === 0)
    return [
      {
        folder,
        fact: 'what runs the specs',
        reason: manifest ? 'no script and no settings of a runner are in sight' : 'there is no package.json',
        at: manifest && { file: manifest.file, start: 0, end: 1 },
        opens: '"run": { "runner": … }',
      },
    ];
  const usesGlobals = specFiles.some((file) => file.get(GLOBALS).size > 0);
  const unread = taking.flatMap((runner) => {
    const facts = unreadFacts(runner, context.setting, (fact) => fact !== 'globals' || usesGlobals);
    return facts ? [{ folder, ...facts }] : [];
  });
  if (unread.length > 0) return unread;
  return [
    ...(isOn('E21') ? untoldImports(environment, specFiles, context) : []),
    ...broughtByStrangers(environment, specFiles, context, isOn),
  ];
}

// Names that no package can have, and that no rule which could be read takes.
const NO_PACKAGE = /^(?:@\/|~|\$|@@)/;

// Imports that only what could not be read of the settings can lead anywhere.
function untoldImports(
  environment: Environment,
  specFiles: readonly SpecFileFacts[],
  context: ProjectContext,
): Undecided[] {
  const { folder } = environment;
  const { project } = context;
  const replaced = replacedIn(specFiles);
  for (const { runners, files } of byRunners({ environment, specFiles: [...specFiles] })) {
    const runner = runners.find(({ aliases }) => !aliases.known);
    if (!runner || !runners.every(({ aliases }) => !aliases.known)) continue;
    for (const path of loadedBy(files, replaced, context).keys())
      for (const { specifier, start, end } of project.summary(path)?.modules ?? []) {
        if (!NO_PACKAGE.test(specifier) || replaced.has(specifier) || project.resolve(path, specifier))
          continue;
        return [
          {
            folder,
            fact: `where imports such as ${specifier} lead`,
            reason: 'no alias that could be read takes it, and the settings may have others',
            at: { file: path, start, end },
            opens: '"run": { "aliases": … }',
          },
        ];
      }
  }
  return [];
}

// What specs need, and what only packages that no table knows could bring: the first of each kind.
function broughtByStrangers(
  environment: Environment,
  specFiles: readonly SpecFileFacts[],
  context: ProjectContext,
  isOn: (code: string) => boolean,
): Undecided[] {
  const found = new Map<string, Undecided>();
  for (const file of specFiles) {
    const setup = context.setupOf(file.path);
    const [runner] = environment.runnersOf(file.path);
    const [stranger] = setup?.strangers ?? [];
    if (!setup || !runner || stranger === undefined) continue;
    const { setupFiles } = runner;
    const at =
      setup.files.flatMap((path) => placeOf(path, stranger, context) ?? [])[0] ??
      (setupFiles.known ? setupFiles.value[0]?.at : undefined);
    for (const { fact, isLacking, opens } of NEEDS.filter(({ code }) => isOn(code)))
      if (!found.has(fact) && isLacking(file, environment, context))
        found.set(fact, {
          folder: environment.folder,
          fact,
          reason: `the set-up loads ${stranger}, which no table knows`,
          at,
          opens,
        });
  }
  return [...found.values()];
}

function placeOf(path: string, specifier: string, { project }: ProjectContext): Place | undefined {
  const found = project.summary(path)?.modules.find((each) => each.specifier === specifier);
  return found && { file: path, start: found.start, end: found.end };
}

const NEEDS: readonly {
  /** The check that says so where all is known. */
  code: string;
  fact: string;
  isLacking: (file: SpecFileFacts, environment: Environment, context: ProjectContext) => boolean;
  opens: string;
}[] = [
  {
    code: 'E02',
    fact: 'where the document comes from',
    isLacking: lacksDocument,
    opens: '"run": { "document": … }',
  },
  {
    code: 'E07',
    fact: 'who makes the runner’s functions global',
    isLacking: lacksGlobals,
    opens: '"run": { "globals": … }',
  },
  {
    code: 'E06',
    fact: 'who registers the matchers',
    isLacking: (file, environment, context) =>
      MATCHER_EXTENSIONS.some(
        (extension) =>
          lacksMatchers(file, extension, environment, context) &&
          !matcherBringers(extension, context).has(file.path),
      ),
    opens: '"run": { "setupFiles": … }',
  },
  {
    code: 'E10',
    fact: 'what compiles the files',
    isLacking: ({ path }, environment, { project }) =>
      environment.runnersOf(path).every(({ runner }) => isLoadedByNode(runner)) &&
      (isTypeScript(path) || project.summary(path)?.jsx === true),
    opens: '"run": { "transforms": … }',
  },
  {
    code: 'E22',
    fact: 'who sets the words of another runner',
    isLacking: (file, environment, context) =>
      environment.runnersOf(file.path).every((runner) => foreignGlobals(file, runner, context).length > 0),
    opens: '"run": { "setupFiles": … }',
  },
];

/** The facts of a runner that decide whether a suite runs and could not be read, of those that are `asked` for. */
export function unreadFacts(
  runner: RunnerFacts,
  setting: (file: string) => Setting | undefined,
  asked: (fact: Fact) => boolean = () => true,
): Omit<Undecided, 'folder'> | undefined {
  const unread = DECIDES[runner.runner].filter((fact) => !runner[fact].known && asked(fact));
  const [first] = unread;
  if (!first) return undefined;
  return {
    fact: unread.map((fact) => WORDS[fact]).join(', '),
    ...reasonFor(runner, first, setting),
    opens: `"run": { ${unread.map((fact) => `"${fact}": …`).join(', ')} }`,
  };
}

// The nearest thing that can't be read: the setting itself, what makes the settings, or their not being there.
function reasonFor(
  { runner, settingsFile, settings, commands, transforms }: RunnerFacts,
  fact: Fact,
  setting: (file: string) => Setting | undefined,
): { reason: string; at: Place | undefined } {
  if (settingsFile === undefined)
    return { reason: `no settings of ${runner} are in sight`, at: commands[0]?.at };
  const whole = settings ?? setting(settingsFile);
  const at = { file: settingsFile, start: 0, end: 0 };
  if (!whole) return { reason: 'the settings can’t be read', at };
  const preset = settingAt(whole, 'preset');
  if (textOf(preset) !== undefined && runner === 'jest' && !isKnownPreset(textOf(preset) ?? ''))
    return { reason: `the preset ${textOf(preset) ?? ''} may set more`, at: preset?.at };
  const plugin =
    runner === 'vitest' && transforms.known && transforms.value.by === 'plugins'
      ? transforms.value
      : undefined;
  const unsure = plugin?.plugins.find((name) => !leavesSettings(name));
  if (plugin && unsure !== undefined)
    return { reason: `the plugin ${unsure}, which no table knows, may set more`, at: plugin.at };
  const found = unreadIn(whole) ?? unreadIn(settingAt(whole, 'test')) ?? unreadIn(settingAt(whole, fact));
  return found ?? { reason: 'the settings are worked out in a way that can’t be followed', at };
}

function unreadIn(setting: Setting | undefined): { reason: string; at: Place } | undefined {
  switch (setting?.is) {
    case 'made':
      return { reason: `the settings are made by ${setting.by}, which no table knows`, at: setting.at };
    case 'either':
      return { reason: 'a condition decides', at: setting.at };
    case 'unknown':
      return { reason: 'this is worked out in a way that can’t be followed', at: setting.at };
    case 'object': {
      if (setting.open)
        return {
          reason: setting.by
            ? `the settings are handed to ${setting.by}, which may change them`
            : 'something that can’t be read is spread in here',
          at: setting.at,
        };
      for (const each of setting.entries.values())
        if (each.is === 'unknown' || each.is === 'either' || each.is === 'made') return unreadIn(each);
      return undefined;
    }
    case 'list': {
      const made = setting.items.find((item) => item.is === 'made' || item.is === 'unknown');
      return made && unreadIn(made);
    }
    default:
      return undefined;
  }
}

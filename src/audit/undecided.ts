import { isKnownPreset } from '../environment/facts/presets.js';
import type { Environment, RunnerFacts } from '../environment/facts/environment.js';
import { settingAt, textOf, type Setting } from '../environment/settings/setting.js';
import { leavesSettings } from '../environment/tables/plugins.js';
import type { ProjectContext, SpecFileFacts } from '../checks/questions/context.js';
import { GLOBALS } from '../checks/questions/facts.js';
import type { Place } from '../finding.js';
import { broughtByStrangers, untoldImports, type Undecided } from './unbrought.js';

type Fact = 'setupFiles' | 'collects' | 'document' | 'transforms' | 'globals';

// What the run of each needs to be known: builders and bundles of a browser make scripts by themselves.
const DECIDES: Readonly<Record<RunnerFacts['runner'], readonly Fact[]>> = {
  jest: ['setupFiles', 'collects', 'document', 'transforms'],
  vitest: ['setupFiles', 'collects', 'document', 'transforms', 'globals'],
  mocha: ['setupFiles', 'collects'],
  jasmine: ['setupFiles', 'collects'],
  karma: ['collects', 'transforms'],
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

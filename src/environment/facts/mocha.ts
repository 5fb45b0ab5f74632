import { isAbsolute, resolve } from '../../util/paths.js';
import { valuesOf, wordsOf } from '../settings/commands.js';
import type { Collection, NamedModule } from './environment.js';
import {
  known,
  settingAt,
  textFact,
  textsFact,
  UNKNOWN_FACT,
  type Known,
  type Setting,
} from '../settings/setting.js';
import { INTERFACES, VALUE_FLAGS } from '../tables/mocha-words.js';
import {
  isPath,
  setupList,
  setupsOfCommands,
  joinedFacts,
  UNDOES_NOTHING,
  UNREAD,
  withExtensions,
  type RunnerSources,
  type Facts,
} from './found.js';

/** The facts of mocha's settings (mocha 8 to 12); it has no document of its own. */
export function mocha(asked: RunnerSources): Facts {
  const { setting, file, folder } = asked.found;
  // mocha 8 to 12, handleRequires: what is no file and starts with no dot is one of a package.
  const candidates = (text: string): string[] => {
    const paths = isPath(text) ? withExtensions(resolve(folder, text)) : [];
    return text.startsWith('.') || isAbsolute(text) || paths.some(asked.exists) ? paths : [];
  };
  const setups = ['require', 'import', 'file'].map((key) =>
    setupList(settingAt(setting, key), key, candidates),
  );
  const words = interfaceOf(asked);
  return {
    ...UNREAD,
    folder,
    settingsFile: file,
    settings: setting,
    globals: known(true),
    globalNames: words.known ? known(INTERFACES[words.value ?? 'bdd'] ?? [], words.at) : UNKNOWN_FACT,
    document: known('node'),
    ...UNDOES_NOTHING,
    isolates: known(false),
    setupFiles: joinedFacts([
      ...setups,
      nodeOptions(setting, candidates),
      setupsOfCommands(asked.commands, LOADS, candidates),
    ]),
    collects: collection(asked),
  };
}

// What the settings hand on to Node, without its dashes: `import=tsx`.
function nodeOptions(setting: Setting, candidates: (text: string) => string[]): Known<NamedModule[]> {
  const options = textsFact(settingAt(setting, 'node-option'), [], setting.at);
  if (!options.known) return UNKNOWN_FACT;
  return known(
    options.value.flatMap(({ text, at }): NamedModule[] => {
      const [, key = '', name] =
        /^(?:-*)(import|require|r|loader|experimental-loader)[= ](.+)$/.exec(text) ?? [];
      return name === undefined ? [] : [{ text: name, at, key, candidates: candidates(name) }];
    }),
  );
}

// A flag of the command wins over the file; commands that differ leave it open.
function interfaceOf({ found: { setting }, commands }: RunnerSources): Known<string | undefined> {
  const given = commands.map((command) => valuesOf(command, '--ui', '-u').at(-1));
  const [first] = given;
  if (given.some((each) => each !== first)) return UNKNOWN_FACT;
  return first === undefined ? textFact(settingAt(setting, 'ui'), 'bdd') : known(first, commands[0]?.at);
}

const LOADS = ['--require', '-r', '--import', '--file', '--loader', '--experimental-loader'];

// Scripts may add patterns to those of the settings.
function collection({ found: { setting, folder }, commands }: RunnerSources): Known<Collection> {
  const spec = textsFact(settingAt(setting, 'spec'), [], setting.at);
  const ignored = textsFact(settingAt(setting, 'ignore') ?? settingAt(setting, 'exclude'), [], setting.at);
  const extension = textsFact(settingAt(setting, 'extension'), [], setting.at);
  if (!spec.known || !ignored.known || !extension.known || commands.length === 0) return UNKNOWN_FACT;
  if (commands.some((command) => valuesOf(command, '--ignore', '--exclude', '--extension').length > 0))
    return UNKNOWN_FACT;
  const given = commands.flatMap((command) => [
    ...valuesOf(command, '--spec'),
    ...wordsOf(command, VALUE_FLAGS),
  ]);
  const texts = [...spec.value.map(({ text }) => text), ...given].map((text) => text.replace(/^\.\//, ''));
  const endings = extension.value.map(({ text }) => text.replace(/^\./, ''));
  const ending = `.{${(endings.length > 0 ? endings : ['js', 'cjs', 'mjs']).join(',')},}`;
  // A folder stands for the files right in it; below it, where the command says so.
  const below = commands.some((command) => command.args.includes('--recursive'));
  const isBelow = below || settingAt(setting, 'recursive') !== undefined;
  const include = texts.map((text) =>
    /[*?{[]|\.[cm]?[jt]sx?$/.test(text)
      ? text
      : `${text.replace(/\/$/, '')}/${isBelow ? '**/' : ''}*${ending}`,
  );
  const byDefault = include.length === 0;
  return known({
    folder,
    include: byDefault ? [`test/${isBelow ? '**/' : ''}*${ending}`] : include,
    exclude: ignored.value.map(({ text }) => text.replace(/^\.\//, '')),
    patterns: [],
    leftOut: [],
    roots: [folder],
    at: spec.at ?? setting.at,
    byDefault,
  });
}

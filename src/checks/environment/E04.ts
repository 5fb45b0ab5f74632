import { RUNNERS } from '../../environment/tables/runners.js';
import { isMissing } from '../../environment/brought.js';
import {
  declares,
  type Environment,
  type NamedModule,
  type RunnerFacts,
} from '../../environment/facts/environment.js';
import { toldToBabel, type BabelSettings } from '../../environment/settings/babel-settings.js';
import type { Setting } from '../../environment/settings/setting.js';
import type { Finding, Place } from '../../finding.js';
import { passedOver } from './E20.js';
import { reachableFrom } from '../../project/reachable.js';
import type { ProjectCheck } from '../questions/check.js';
import type { ProjectContext } from '../questions/context.js';
import { advicePart, isNoPart, lackingPeers, loadedOf } from '../questions/missing-packages.js';
import { compilersOfRuns } from '../questions/compiled.js';
import { CHOSEN_DOCUMENT } from '../questions/facts.js';
import { isMade, unresolvedIn } from '../questions/missing-modules.js';
import { packagesWithSpecs, unique, type Package } from '../questions/packages.js';
import type { MissingSettings } from '../../environment/compiler-settings.js';
import { basename, dirname, isAbsolute, join, packageOf, relativeTo, resolve } from '../../util/paths.js';
import { listed } from '../../util/plural.js';
import { nearest } from '../../util/nearest.js';

const message = (what: string, text: string, key: string): string =>
  `${what}${text}, named by ${key}, is not there.`;
const messageLoaded = (what: string, text: string): string =>
  `The settings load ${what}${text}, which is not there.`;
const messageNothing = (text: string, key: string): string =>
  `${text}, named by ${key}, exports nothing that the runner could take.`;
const adviceNothing = 'Export from it what the runner asks for by that setting.';
const messagePlugin = (text: string, key: string, plugin: string): string =>
  `${text}, named by ${key}, is what ${plugin} brings, and the list of plugins leaves that out.`;
const advicePlugin = (plugin: string): string => `Add ${plugin} to the plugins.`;
const adviceTransform =
  'Export a transformer from it: what babel-jest makes of the options, module.exports = babelJest.createTransformer(options).';
const advice = (found: string | undefined): string =>
  found ? `The nearest file that exists is ${found}.` : 'Write the file, or take the entry out.';
const adviceFolder = 'Name a folder that exists, or take the entry out.';
const adviceOther = 'Name one that exists.';
const adviceAmong = (names: readonly string[]): string => `There are: ${listed(names)}.`;
const advicePackage = (name: string, environment: Environment): string =>
  declares(environment, name) ? 'It is declared: npm install' : `Install it: npm install --save-dev ${name}`;
const messagePeer = (name: string, peer: string): string =>
  `${name}, named by the settings, needs ${peer}, which is not there.`;

/** What the settings name and does not exist: no spec file starts. */
export const E04: ProjectCheck = {
  code: 'E04',
  family: 'environment',
  scope: 'project',
  facts: [CHOSEN_DOCUMENT],
  title: 'Settings name what is not there',
  level: 'blocker',
  why: 'The runner stops before the first spec, or runs all of them without what was to be brought.',
  certain: 'Sure where the path or the package is written out, and it is not there.',
  trouble: "setupFiles: ['./test/setpu.ts']",
  mended: "setupFiles: ['./test/setup.ts']",
  run: (context) =>
    unique([
      ...context.environments.flatMap((environment) =>
        environment.runners.flatMap((runner) => [
          ...namedBy(runner)
            .filter((each) => isAbsent(each, environment, context) && isInSight(each, environment))
            .map((each) => found(each, runner, environment, context)),
          ...namedBy(runner).flatMap((each) => withoutExports(each, context)),
          ...peersOf(namedBy(runner), environment, context),
          ...loadedBySettings(runner, environment, context),
        ]),
      ),
      ...packagesWithSpecs(context).flatMap((each) => namedByCompilers(each, context)),
    ]),
};

/** Where what the set-up of a package was to bring is lost: a file that is missing, or a setting that is passed over. */
export function lostSetup(environment: Environment, context: ProjectContext): Place | undefined {
  const missing = environment.runners
    .flatMap(({ setupFiles }) => (setupFiles.known ? setupFiles.value : []))
    .find((each) => isAbsent(each, environment, context));
  return missing?.at ?? environment.runners.map((runner) => passedOver(runner, 'set-up')).find(Boolean);
}

const namedBy = ({ setupFiles, named, transforms }: RunnerFacts): NamedModule[] => [
  ...(setupFiles.known ? setupFiles.value : []),
  ...named,
  ...(transforms.known && transforms.value.by === 'rules'
    ? [
        ...(transforms.value.babel.known ? partsOf(transforms.value.babel.value) : []),
        ...transforms.value.rules.flatMap(({ by, options }) =>
          by === 'babel-jest' && options ? partsOf(toldToBabel(options)) : [],
        ),
      ]
    : []),
];

const OF_BABEL = 'the settings of babel';

const partsOf = (babel: BabelSettings | undefined): NamedModule[] =>
  [...(babel?.presets ?? []), ...(babel?.plugins ?? [])].map(({ name, at }) => ({
    text: name,
    at,
    key: OF_BABEL,
    candidates: /^[./]/.test(name) ? withEndings(resolve(dirname(at.file), name)) : [],
  }));

// What node itself would try.
const withEndings = (path: string): string[] => ['', '.js', '.cjs', '/index.js'].map((each) => path + each);

// A published package does not ship all that its settings name; what lies among the installed packages need not be there.
const isInSight = ({ key, text }: NamedModule, { isWhole, hasInstalls }: Environment): boolean =>
  (isWhole || SETUPS.has(key)) && (hasInstalls || !text.includes('node_modules/'));

function isAbsent(
  { text, candidates, mayBeFolder, absent, at }: NamedModule,
  environment: Environment,
  context: ProjectContext,
): boolean {
  const { files } = context;
  if (absent !== undefined) return absent;
  if (candidates.length > 0 && /^[./<]/.test(text))
    return !candidates.some((path) => isThere(files.kind(path), mayBeFolder));
  // A bare name may be a file as well as a package.
  const isFile = candidates.some((path) => isThere(files.kind(path), mayBeFolder));
  if (isFile || !PACKAGE.test(text)) return false;
  // A folder of the project by that name is what was meant.
  const [first = ''] = text.split('/');
  const isFolder = candidates.length > 0 && files.kind(join(environment.folder, first)) === 'folder';
  return (
    isFolder ||
    isMissing(environment, packageOf(text)) ||
    PRESET_PARTS.every((part) => isNoPart(at.file, text + part, environment, context))
  );
}

const PRESET_PARTS = ['', ...['js', 'cjs', 'mjs', 'json'].map((ending) => `/jest-preset.${ending}`)];

const isThere = (kind: 'file' | 'folder' | undefined, mayBeFolder = false): boolean =>
  kind === 'file' || (mayBeFolder && kind === 'folder');

const PACKAGE = /^(?:@[a-z0-9][\w.-]*\/)?[a-z0-9][\w.-]*(?:\/.*)?$/;

function found(
  named: NamedModule,
  { folder }: RunnerFacts,
  environment: Environment,
  context: ProjectContext,
): Finding {
  const { text, key, at, mayBeFolder } = named;
  const isSetup = SETUPS.has(key);
  const written = isAbsolute(text) ? relativeTo(folder, text) : text;
  if (named.absent && named.plugin !== undefined)
    return {
      place: at,
      certainty: 'sure',
      message: messagePlugin(text, key, named.plugin),
      advice: advicePlugin(named.plugin),
    };
  if (named.absent)
    return {
      place: at,
      certainty: 'sure',
      message: message('', text, key),
      advice: named.among ? adviceAmong(named.among) : adviceOther,
    };
  if (named.candidates.length === 0 && !isMissing(environment, packageOf(text)))
    return { place: at, certainty: 'sure', message: message('', text, key), advice: advicePart(text) };
  if (named.candidates.length === 0)
    return {
      place: at,
      certainty: 'sure',
      message: message('The package ', packageOf(text), key),
      advice: advicePackage(packageOf(text), environment),
    };
  const close = mayBeFolder ? undefined : closeTo(named, folder, context);
  // Only a path that stands there as a text can be written over.
  const isText = context.sourceOf(at.file)?.text.slice(at.start + 1, at.end - 1) === text;
  return {
    place: at,
    certainty: 'sure',
    message: message(isSetup ? 'The set-up file ' : '', written, key),
    advice: mayBeFolder ? adviceFolder : advice(close),
    suggestion: close,
    mend:
      close && isText
        ? {
            summary: `Name ${close}`,
            safe: true,
            edits: [{ ...at, start: at.start + 1, end: at.end - 1, text: close }],
          }
        : undefined,
  };
}

const SETUPS: ReadonlySet<string> = new Set([
  'setupFiles',
  'setupFilesAfterEnv',
  'globalSetup',
  'globalTeardown',
  'require',
  'import',
  'file',
  'files',
  'polyfills',
]);

// The path that is there and most like the one that is not, in the words of the settings.
function closeTo(
  { text, candidates }: NamedModule,
  folder: string,
  { files }: ProjectContext,
): string | undefined {
  const [wanted = ''] = candidates;
  const around = files.list(folder, ['**/node_modules/**', '**/dist/**', '**/.*/**'], () => undefined);
  const stem = (path: string): string => basename(path).replace(/\.[^.]*$/, '');
  const scripts = around.filter((path) => /\.[cm]?[jt]sx?$/.test(path) && !/\.(?:spec|test)\./.test(path));
  const sameFolder = scripts.filter((path) => dirname(path) === dirname(wanted));
  const sameName = scripts.find((path) => stem(path) === stem(wanted));
  const name = nearest(stem(wanted), sameFolder.map(stem)) ?? nearest(stem(wanted), scripts.map(stem));
  const close =
    sameName ?? sameFolder.find((path) => stem(path) === name) ?? scripts.find((path) => stem(path) === name);
  return close && writtenLike(text, relativeTo(folder, close));
}

function writtenLike(text: string, path: string): string {
  // The same words lead nowhere where they stand for a package.
  if (text.startsWith('<rootDir>') || text === path) return `<rootDir>/${path}`;
  return text.startsWith('./') ? `./${path}` : path;
}

const SCRIPT = /\.[cm]?[jt]s$/;

// What the settings' own script imports, and that of a preset of the project.
function loadedBySettings(
  { settingsFile, named }: RunnerFacts,
  environment: Environment,
  context: ProjectContext,
): Finding[] {
  // That the runner itself is not there is said of its script.
  const isRunner = (specifier: string): boolean =>
    RUNNERS.some(({ packages }) => packages.includes(packageOf(specifier)));
  const presets = named
    .filter(({ key }) => key === 'preset' || key === 'transform')
    .flatMap(({ candidates }) => candidates);
  const own = [settingsFile ?? '', ...presets].filter(
    (path) => SCRIPT.test(path) && context.files.kind(path) === 'file' && context.setting(path),
  );
  // With the settings of the project's own that they load.
  const loaded = [...reachableFrom(context.project, own).files];
  const missing = loaded.flatMap((file) =>
    unresolvedIn(file, environment, context)
      .filter(({ specifier }) => !isRunner(specifier))
      .map((each) => ({ ...each, file })),
  );
  return missing.map(({ specifier, isPackage, file, start, end }) => ({
    place: { file, start, end },
    certainty: 'sure',
    message: messageLoaded(isPackage ? 'the package ' : '', isPackage ? packageOf(specifier) : specifier),
    advice: isPackage
      ? advicePackage(packageOf(specifier), environment)
      : specifier.startsWith('.')
        ? advice(undefined)
        : advicePart(specifier),
  }));
}

// What the runner takes from such a module is what it exports; set-up files are run for what they do.
const TAKEN_FROM: ReadonlySet<string> = new Set([
  'globalSetup',
  'globalTeardown',
  'reporters',
  'resolver',
  'runner',
  'snapshotSerializers',
  'testEnvironment',
  'testResultsProcessor',
  'testRunner',
  'testSequencer',
  'transform',
]);

function withoutExports(
  { key, text, at, candidates }: NamedModule,
  { files, project, setting }: ProjectContext,
): Finding[] {
  const path = TAKEN_FROM.has(key) ? candidates.find((each) => files.kind(each) === 'file') : undefined;
  if (path === undefined) return [];
  const isIdle = key === 'transform' && transformsNothing(setting(path));
  if (!isIdle && !project.givesNothing(path)) return [];
  return [
    {
      place: at,
      certainty: 'sure',
      message: messageNothing(text, key),
      advice: isIdle ? adviceTransform : adviceNothing,
      evidence: [{ file: path, start: 0, end: 0, note: 'what it exports' }],
    },
  ];
}

// @jest/transform 27 to 30, ScriptTransformer: one of these must be a function of the module, or of its default.
const TRANSFORMING = ['process', 'processAsync', 'createTransformer', 'default'];

const transformsNothing = (exported: Setting | undefined): boolean =>
  exported?.is === 'object' &&
  !exported.open &&
  exported.by === undefined &&
  !TRANSFORMING.some((name) => exported.entries.has(name));

// What the compiler settings that a run reads extend, or refer to.
function namedByCompilers(each: Package, context: ProjectContext): Finding[] {
  const { environment } = each;
  // ts-jest 29 and tsx 4 leave what is referred to aside; bundlers (vite 4 to 7) read all of it.
  const follows = environment.runners.some(
    ({ transforms }) => transforms.known && transforms.value.by === 'plugins',
  );
  const isGone = ({ text, at, key, package: name }: MissingSettings): boolean =>
    name === undefined
      ? (follows || key !== 'references') &&
        environment.isWhole &&
        !isMade(resolve(dirname(at.file), text), context)
      : isMissing(environment, name);
  return compilersOfRuns(each, context)
    .flatMap(({ missing }) => missing)
    .filter(isGone)
    .map(({ text, at, key, package: name }) => ({
      place: at,
      certainty: 'sure',
      message: name === undefined ? message('', text, key) : message('The package ', name, key),
      advice: name === undefined ? advice(undefined) : advicePackage(name, environment),
    }));
}

function peersOf(
  named: readonly NamedModule[],
  environment: Environment,
  context: ProjectContext,
): Finding[] {
  return named.flatMap(({ text, at, key, candidates }): Finding[] => {
    const name = packageOf(text);
    if (candidates.length > 0 || !PACKAGE.test(text)) return [];
    const lacking = lackingPeers(name, environment, context);
    // Of a preset or a plugin of Babel, those that it loads itself: others are for what is compiled.
    const needed = key === OF_BABEL ? loadedOf(lacking, at.file, text, context) : lacking;
    return needed.map((peer) => ({
      place: at,
      certainty: 'sure',
      message: messagePeer(name, peer),
      advice: advicePackage(peer, environment),
    }));
  });
}

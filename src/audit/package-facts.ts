import type { Environment, RunnerFacts, Transforms } from '../environment/facts/environment.js';
import type { Known, Setting } from '../environment/settings/setting.js';
import { isAbsolute, isWithin, relativeTo } from '../util/paths.js';
import { inShort } from '../util/printable.js';
import type { PackageFacts } from './report.js';
import { unreadFacts } from './undecided.js';

const UNKNOWN = 'unknown';

/**
 * The facts of one package as plain data: paths relative to the root, `unknown` for what can't be read. `setting`: what a
 * settings file sets, by its absolute path.
 */
export function packageFacts(
  environment: Environment,
  root: string,
  setting: (file: string) => Setting | undefined,
): Omit<PackageFacts, 'reach' | 'sizes' | 'sight'> {
  const runners = environment.runners.map((runner) => ({
    ...runnerFacts(runner, root),
    unread: whyUnread(runner, root, setting),
  }));
  const [first] = environment.runners;
  const names = new Set(environment.runners.map(({ runner }) => runner));
  return {
    package: relativeTo(root, environment.folder),
    runner: [...names].join(', ') || UNKNOWN,
    document: first ? documentOf(first) : UNKNOWN,
    facts: first ? { ...switches(first), runners } : {},
  };
}

const documentOf = ({ document }: RunnerFacts): string =>
  document.known ? (document.value ?? 'none') : UNKNOWN;

function switches(runner: RunnerFacts): Record<string, unknown> {
  const names = ['restores', 'resets', 'clears', 'unstubs', 'globals', 'isolates', 'fakesClock'] as const;
  return Object.fromEntries(names.map((name) => [name, plain(runner[name], (value) => value)]));
}

function runnerFacts(runner: RunnerFacts, root: string): Record<string, unknown> {
  // No absolute path of this machine: equal input gives equal output.
  const path = (file: string): string => (isAbsolute(file) ? relativeTo(root, file) : file);
  const inside = (pattern: string): string => pattern.replaceAll(root, '<root>');
  return {
    runner: runner.runner,
    project: runner.project,
    major: runner.major ?? UNKNOWN,
    settings: runner.settingsFile === undefined ? 'none' : path(runner.settingsFile),
    scripts: runner.commands.map(({ script }) => script),
    document: documentOf(runner),
    ...switches(runner),
    setupFiles: plain(runner.setupFiles, (files) => files.map(({ text }) => path(text))),
    collects: plain(runner.collects, ({ folder, include, patterns, exclude, leftOut }) => ({
      folder: path(folder),
      include: [...include.map(path), ...patterns.map(inside)],
      exclude: [...exclude.map(path), ...leftOut.map(inside)],
    })),
    aliases: plain(runner.aliases, (rules) => rules.map(({ pattern }) => pattern)),
    transforms: plain(runner.transforms, transformed),
    coverage: plain(runner.coverage, ({ collected, include, exclude, loadedOnly, thresholds }) => ({
      collected,
      include,
      exclude,
      loadedOnly,
      thresholds,
    })),
  };
}

// Why facts that decide whether the suite runs are unknown.
function whyUnread(
  runner: RunnerFacts,
  root: string,
  setting: (file: string) => Setting | undefined,
): string | undefined {
  const unread = unreadFacts(runner, setting);
  if (!unread) return undefined;
  const file = unread.at && isWithin(root, unread.at.file) ? ` (${relativeTo(root, unread.at.file)})` : '';
  return inShort(unread.reason, 160) + file;
}

const plain = <T, U>(fact: Known<T>, read: (value: T) => U): U | typeof UNKNOWN =>
  fact.known ? read(fact.value) : UNKNOWN;

function transformed(transforms: Transforms): string[] {
  if (transforms.by === 'stated') return ['as stated'];
  if (transforms.by === 'nothing') return ['as it is written'];
  if (transforms.by === 'plugins') return [...transforms.plugins];
  return transforms.rules.map(({ pattern, by }) => `${pattern} ${by || 'nothing'}`);
}

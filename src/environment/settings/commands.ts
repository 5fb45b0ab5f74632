import { parse } from 'shell-quote';
import { basename } from '../../util/paths.js';
import type { Place } from '../../finding.js';
import type { Manifest } from './manifest.js';

/** A program that a script of a manifest starts. */
export interface Command {
  script: string;
  program: string;
  args: readonly string[];
  env: ReadonlyMap<string, string>;
  at: Place;
  /** It asks for a script of the manifest that is not there. */
  missing?: boolean;
}

const PREFIXES = new Set([
  'npx',
  'cross-env',
  'cross-env-shell',
  'env',
  'dotenv',
  'exec',
  'time',
  'nyc',
  'c8',
  'node_modules/.bin/',
]);
const RUN = new Set(['run', 'run-script', 'exec', 'dlx', 'x']);
const DEEPEST = 6;

/** The programs that the scripts of a manifest start, scripts that call scripts followed. */
export function commandsOf(manifest: Manifest): Command[] {
  return [...manifest.scripts].flatMap(([name, { command, at }]) =>
    startedBy(manifest, name, command, at, 0),
  );
}

function startedBy(manifest: Manifest, script: string, command: string, at: Place, depth: number): Command[] {
  if (depth > DEEPEST) return [];
  return parts(command).flatMap((words) => {
    const { env, rest } = withoutPrefixes(words);
    const [program = '', ...args] = rest;
    const called = ['npm', 'yarn', 'pnpm', 'bun'].includes(program)
      ? calledScript(program, args, manifest)
      : undefined;
    if (called) {
      const inner = manifest.scripts.get(called.name);
      const extra = called.extra.join(' ');
      return inner
        ? startedBy(manifest, script, extra ? `${inner.command} ${extra}` : inner.command, at, depth + 1)
        : [];
    }
    if (['npm', 'yarn', 'pnpm'].includes(program) && args[0] && RUN.has(args[0])) {
      const [next = '', ...more] = args.slice(1);
      // Other managers run programs as well by that word.
      const missing = program === 'npm' && args[0].startsWith('run') && !/^[-$]/.test(next);
      const isOptional = args.some((each) => /^(?:--if-present|-w|--workspaces?|--prefix|-C)/.test(each));
      return [{ script, program: basename(next), args: more, env, at, missing: missing && !isOptional }];
    }
    if (program === 'run-s' || program === 'run-p' || program === 'npm-run-all') {
      return args
        .filter((each) => manifest.scripts.has(each))
        .flatMap((each) =>
          startedBy(manifest, script, manifest.scripts.get(each)?.command ?? '', at, depth + 1),
        );
    }
    return program ? [{ script, program: basename(program), args, env, at }] : [];
  });
}

// The commands of a line, at `&&`, `||`, `;` and `|`.
function parts(command: string): string[][] {
  const found: string[][] = [[]];
  for (const each of quietly(command)) {
    if (typeof each === 'string') found.at(-1)?.push(each);
    else if ('pattern' in each) found.at(-1)?.push(each.pattern);
    else if ('op' in each) found.push([]);
  }
  return found.filter((words) => words.length > 0);
}

function quietly(command: string): ReturnType<typeof parse> {
  try {
    // Variables stay as they are written.
    return parse(command, (name) => `$${name}`);
  } catch {
    return [];
  }
}

function withoutPrefixes(words: readonly string[]): { env: Map<string, string>; rest: string[] } {
  const env = new Map<string, string>();
  const rest = [...words];
  for (;;) {
    const [first] = rest;
    if (first === undefined) break;
    const assigned = /^([A-Za-z_]\w*)=(.*)$/s.exec(first);
    if (assigned?.[1]) env.set(assigned[1], assigned[2] ?? '');
    else if (!PREFIXES.has(first) && !(first.startsWith('-') && rest.length < words.length)) break;
    rest.shift();
  }
  return { env, rest };
}

function calledScript(
  program: string,
  args: readonly string[],
  manifest: Manifest,
): { name: string; extra: string[] } | undefined {
  const [first, second] = args;
  const named = first && RUN.has(first) ? second : first === 't' ? 'test' : first;
  const short =
    program === 'npm' && !(first && RUN.has(first)) && !['test', 't', 'start'].includes(first ?? '');
  if (!named || short || !manifest.scripts.has(named)) return undefined;
  const extra = args
    .slice(args.indexOf(first && RUN.has(first) ? named : (first ?? '')) + 1)
    .filter((each) => each !== '--');
  return { name: named, extra };
}

/** The value of a flag, in the forms `--flag value`, `--flag=value` and the short one; `true` for a bare flag. */
export function flagOf(command: Command, ...names: readonly string[]): string | true | undefined {
  for (const [i, arg] of command.args.entries()) {
    const [name, value] = arg.split(/=(.*)/s);
    if (!name || !names.includes(name)) continue;
    const next = command.args[i + 1];
    return value ?? (next !== undefined && !next.startsWith('-') ? next : true);
  }
  return undefined;
}

/** Every value of a flag that may be given several times, in its order; a list behind a comma counts as several. */
export function valuesOf({ args }: Command, ...names: readonly string[]): string[] {
  return args.flatMap((arg, i) => {
    const [name, value] = arg.split(/=(.*)/s);
    const given = name && names.includes(name) ? (value ?? args[i + 1]) : undefined;
    return given?.split(',') ?? [];
  });
}

/** The words of a command that are no flags and no values of those flags that take one. */
export const wordsOf = ({ args }: Command, valueFlags: ReadonlySet<string>): string[] =>
  args.filter((arg, i) => !arg.startsWith('-') && !valueFlags.has(args[i - 1] ?? ''));

/** The words of a command before its first flag: behind one, a word may be its value. */
export function leadingWords({ args }: Command): string[] {
  const end = args.findIndex((arg) => arg.startsWith('-'));
  return args.slice(0, end < 0 ? args.length : end);
}

/** Whether a command lets jest load ES modules as such. */
export const runsModules = ({ args, env }: Command): boolean =>
  /experimental-vm-modules/.test([...args, env.get('NODE_OPTIONS')].join(' '));

import { agreed } from '../../environment/facts/environment.js';
import { settingAt } from '../../environment/settings/setting.js';
import { majorOf } from '../../environment/versions.js';
import type { TypeName } from '../../libraries/meaning.js';
import { setsName } from '../../project/module-questions.js';
import type { Block } from '../../specs/model/blocks.js';
import type { Step } from '../../specs/model/steps.js';
import { clockBefore } from './clocks.js';
import type { FileContext } from './context.js';

/** Which steps of a file wait for a timer; undefined where none does, or that can't be told. */
export function waitsForTimers(context: FileContext): ((step: Step) => boolean) | undefined {
  const { runners, setup, versionOf, project, file } = context;
  const [runner, ...others] = new Set(runners.map((each) => each.runner));
  if (others.length > 0 || !setup || (runner !== 'jest' && runner !== 'vitest')) return undefined;
  const isAtLeast = (name: string, major: number): boolean => (majorOf(versionOf(name)) ?? 0) >= major;
  // user-event 14: a click ends with a timer of 0 ms, unless `delay` says that there is none.
  const users = isAtLeast('@testing-library/user-event', 14) && !movesClock(context);
  // @testing-library/react 14 to 16: each wait ends with a timer, which it moves for jest alone.
  const queries =
    runner === 'vitest' &&
    isAtLeast('@testing-library/react', 14) &&
    ![file.path, ...setup.files].some((path) => setsName(project, path, 'jest'));
  return users || queries
    ? (step) =>
        step.kind === 'act'
          ? USERS.has(step.on) && (users || queries)
          : step.kind === 'reach' && step.reach.waits && queries
    : undefined;
}

const USERS: ReadonlySet<TypeName | undefined> = new Set(['user', 'set-up-user']);

const MOVES = /\badvanceTimers\b|\bdelay\b/;

// Whoever makes the user says how it waits: in the file, or in a helper that the file loads.
function movesClock({ file, project, setup }: FileContext): boolean {
  const helpers = [...file.imports.values()].flatMap(
    ({ specifier }) => project.resolve(file.path, specifier) ?? [],
  );
  return [file.path, ...helpers, ...(setup?.files ?? [])].some((path) =>
    MOVES.test(project.source(path)?.text ?? ''),
  );
}

/** What put the clock in place that stands still at a step, with its verb; undefined where none does, or it may go on. */
export function stillClock(step: Step, block: Block, { runners }: FileContext): string | undefined {
  const clock = clockBefore(step, block);
  if (clock)
    return clock.on && !clock.told && RUNNERS_OWN.test(clock.name) ? `${clock.name}() puts` : undefined;
  const isFaked = agreed(runners, ({ fakesClock }) => fakesClock) === true;
  const isTold = runners.some(
    ({ settings }) => settingAt(settings, 'fakeTimers', 'advanceTimers') !== undefined,
  );
  return isFaked && !isTold ? 'the settings put' : undefined;
}

const RUNNERS_OWN = /^(?:jest|vi|vitest)\./;

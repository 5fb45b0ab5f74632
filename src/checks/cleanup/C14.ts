import { agreed } from '../../environment/facts/environment.js';
import { settingAt } from '../../environment/settings/setting.js';
import { majorOf } from '../../environment/versions.js';
import type { TypeName } from '../../libraries/meaning.js';
import type { Finding } from '../../finding.js';
import { setsName } from '../../project/module-questions.js';
import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Step } from '../../specs/model/steps.js';
import type { FileCheck } from '../questions/check.js';
import { clockBefore } from '../questions/clocks.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { onceAFile } from '../questions/once-a-file.js';
import { runningBlocks } from '../questions/order.js';

const message = (call: string, clock: string): string =>
  `${call} waits for a timer, and the clock that ${clock} in place moves for nobody: the spec runs out of time.`;
const adviceUser = (tools: string): string =>
  `Let it move the clock: userEvent.setup({ advanceTimers: ${tools}.advanceTimersByTime })`;
const adviceShould = 'Let the clock move on by itself: vi.useFakeTimers({ shouldAdvanceTime: true })';

/** A call that waits for a timer while a fake clock stands still. One finding a file. */
export const C14: FileCheck = {
  code: 'C14',
  family: 'cleanup',
  scope: 'file',
  title: 'Waits on a clock that stands still',
  level: 'blocker',
  why: 'No timer ends on a fake clock that nobody moves: the spec hangs until its time is up, and says only that.',
  certain: 'Sure where the clock is faked as a whole, and the versions of the libraries are known.',
  trouble:
    "vi.useFakeTimers();\nconst user = userEvent.setup();\nawait user.click(screen.getByRole('button', { name: 'Fire' }));",
  mended:
    "vi.useFakeTimers({ shouldAdvanceTime: true });\nconst user = userEvent.setup({ advanceTimers: vi.advanceTimersByTime });\nawait user.click(screen.getByRole('button', { name: 'Fire' }));",
  run(context) {
    const waiting = waitingIn(context);
    if (!waiting) return [];
    const all = runningBlocks(context.file).flatMap((block) =>
      block.steps.flatMap((step) => {
        const clock = isSure(step) && waiting(step) ? stillClock(step, block, context) : undefined;
        return clock === undefined ? [] : [found(step, block, clock, context)];
      }),
    );
    return onceAFile(all, 'waits as well');
  },
};

const isSure = ({ awaited, maybe, dead, caught, inCallback, inComponent }: Step): boolean =>
  awaited && !maybe && !dead && !caught && !inCallback && !inComponent;

/** Which steps of a file wait for a timer; undefined where none does, or that can't be told. */
function waitingIn(context: FileContext): ((step: Step) => boolean) | undefined {
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

// What put the clock in place that stands still at a step; undefined where none does, or it may go on by itself.
function stillClock(step: Step, block: Block, { runners }: FileContext): string | undefined {
  const clock = clockBefore(step, block);
  if (clock) return clock.on && !clock.told && RUNNERS_OWN.test(clock.name) ? `${clock.name}() puts` : undefined;
  const isFaked = agreed(runners, ({ fakesClock }) => fakesClock) === true;
  const isTold = runners.some(
    ({ settings }) => settingAt(settings, 'fakeTimers', 'advanceTimers') !== undefined,
  );
  return isFaked && !isTold ? 'the settings put' : undefined;
}

const RUNNERS_OWN = /^(?:jest|vi|vitest)\./;

function found(step: Step, block: Block, clock: string, context: FileContext): Finding {
  const isAct = step.kind === 'act';
  const name = step.kind === 'reach' ? step.reach.name : isAct ? step.name : '';
  const isVitest = context.runners[0]?.runner === 'vitest';
  return {
    place: inFile(context, step.place),
    within: titlesOf(block),
    certainty: 'sure',
    message: message(name, clock),
    advice: isVitest ? adviceShould : adviceUser('jest'),
    evidence: step.via ? [{ ...truePlace(context, step), note: 'it waits here' }] : [],
  };
}

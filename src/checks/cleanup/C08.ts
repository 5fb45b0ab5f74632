import { titlesOf, hooksFor, type Block } from '../../specs/model/blocks.js';
import { allVersionsWithin, majorOf } from '../../environment/versions.js';
import type { Edit, Mend, Level, Finding } from '../../finding.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf, type Pending, type Value } from '../../specs/model/values.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { runningBlocks } from '../questions/order.js';
import { fakesClock } from '../questions/clocks.js';

const WHAT: Readonly<Record<Pending, string>> = {
  query: 'waits for its element, and the spec does not wait for it',
  wait: 'waits, and the spec does not wait for it',
  action: 'is still going on while the spec goes on',
  trigger: 'shows its result only after a tick, and the spec does not wait for it',
  'at-once': 'tells what fails in it by a promise, and the spec does not wait for it',
  helper: 'gives a promise, and the spec does not wait for it',
  chain: 'asserts once its promise is settled, and the spec does not wait for that',
  assertion: 'is decided once its promise is settled, and the spec does not wait for that',
  timer: 'asserts later on, when the spec may be over',
  each: 'waits for none of the promises that its function gives',
  tick: 'gives no promise for a function in this version, so that the spec is over before it asserts',
};
const message = (call: string, by: Pending): string =>
  `${call} ${WHAT[by]}: what fails in it fails nothing, or another spec.`;
const messageTrigger = (call: string): string => `${call} ${WHAT.trigger}.`;
const advice = 'Write await before it.';
const adviceCallback = 'Await or return the promise, or await what the callback waits for.';
const ADVICE: Readonly<Partial<Record<Pending, string>>> = {
  tick: 'Await it without a function, and assert after it.',
  each: 'Go through the list in a loop that awaits: for (const each of list) { … }',
  timer: adviceCallback,
  chain: adviceCallback,
};

/** Work whose promise is neither awaited nor returned. */
export const C08: FileCheck = {
  code: 'C08',
  family: 'cleanup',
  scope: 'file',
  title: 'Work that nobody waits for',
  level: 'blocker',
  why: 'The spec is green before its assertions have run, and what is still going on then reaches into the next one.',
  certain:
    'Sure where what gives the promise is known by its library, its version or its code, and always runs.',
  trouble: "it('loads', () => {\n  waitFor(() => expect(screen.getByText('Raku')).toBeVisible());\n});",
  mended:
    "it('loads', async () => {\n  await waitFor(() => expect(screen.getByText('Raku')).toBeVisible());\n});",
  run: (context) =>
    runningBlocks(context.file)
      .filter((block) => (block.kind === 'spec' || block.kind === 'hook') && !block.waitsForAll)
      .flatMap((block) =>
        block.steps.flatMap((step) => (step.kind === 'unwaited' ? check(step, block, context) : [])),
      ),
};

type UnwaitedStep = StepOf<'unwaited'>;

function check(step: UnwaitedStep, block: Block, context: FileContext): Finding[] {
  if (step.inCallback || step.dead) return [];
  const level = levelOf(step, block, context);
  if (!level) return [];
  const { by, name, asserts } = step.unwaited;
  const isSure =
    !step.maybe && by !== 'trigger' && by !== 'timer' && (by !== 'helper' || asserts || level === 'blocker');
  return [
    {
      place: inFile(context, step.place),
      within: titlesOf(block),
      level,
      certainty: isSure ? 'sure' : 'likely',
      message: by === 'trigger' ? messageTrigger(name) : message(name, by),
      advice: ADVICE[by] ?? advice,
      evidence: step.via ? [{ ...truePlace(context, step), note: 'in this helper' }] : undefined,
      mend: by === 'timer' || by === 'tick' || by === 'each' ? undefined : mend(step, block, context),
    },
  ];
}

function levelOf(step: UnwaitedStep, block: Block, context: FileContext): Level | undefined {
  const after = block.steps.slice(block.steps.indexOf(step) + 1);
  const { by, asserts } = step.unwaited;
  switch (by) {
    case 'trigger':
      return showsAtOnce(context) ? undefined : levelOfTrigger(after);
    case 'action':
      if (!givesPromise(step, block, context)) return undefined;
      break;
    case 'tick':
      return givesNoPromise(context) && !block.waitsForCallback ? 'blocker' : undefined;
    case 'chain':
    case 'timer':
      // A promise that is left alone on purpose does no harm while nothing is asserted in it.
      if (!asserts || block.waitsForCallback || runsClock(block)) return undefined;
      break;
  }
  // A wait is a wait wherever it stands before what is asserted.
  const next = after.findIndex(({ kind }) => kind === 'assert');
  const isWaitedFor = after.slice(0, next < 0 ? undefined : next + 1).some(isWaiting);
  if (isWaitedFor && (by === 'timer' || by === 'chain')) return undefined;
  if (isWaitedFor && (by === 'action' || (by === 'each' && !asserts))) return 'hint';
  return after.some(isWaiting) ? 'risk' : 'blocker';
}

const isWaiting = (step: Step): boolean => step.kind === 'waited' || (step.awaited && step.kind !== 'use');

// Handlers run at once; only what is shown lags behind.
function levelOfTrigger(after: readonly Step[]): Level | undefined {
  const next = after.findIndex(({ kind }) => kind === 'assert');
  const assert = after[next];
  if (assert?.kind !== 'assert') return undefined;
  if (after.slice(0, next).some(isWaiting)) return undefined;
  const { subject } = assert.assertion;
  const isShown = isOfPage(subject);
  return isShown && !assert.awaited ? 'risk' : undefined;
}

// Text, markup and elements; not what a component tells, or holds.
function isOfPage(subject: Value): boolean {
  for (let at = subject; at.is === 'read'; at = at.of) if (TOLD.has(at.name)) return false;
  const thing = libraryObjectOf(subject);
  return thing !== undefined && thing.type !== 'record' && thing.type !== 'instance' && !thing.standIn;
}

const TOLD: ReadonlySet<string> = new Set(['emitted', 'emittedByOrder', 'props', 'vm']);

// Vue 2: `nextTick` gives a promise only where it is handed nothing.
const givesNoPromise = ({ versionOf }: FileContext): boolean => allVersionsWithin(versionOf('vue'), '<3');

// Older versions bring the page up to date at once.
function showsAtOnce({ file, project, versionOf }: FileContext): boolean {
  if (file.renders.some(({ lags }) => lags)) return false;
  return [...file.imports.values()].some(({ specifier }) => {
    const versions = project.libraries.of(specifier)?.showsAtOnce;
    return versions !== undefined && allVersionsWithin(versionOf(specifier), versions);
  });
}

// Those of a harness and of a page in a browser always do. A library of users' actions gives promises from major 14 on;
// where the version is not known, a user that is set up first came with it.
function givesPromise({ place }: UnwaitedStep, block: Block, { file, versionOf }: FileContext): boolean {
  const act = block.steps.find((step) => step.kind === 'act' && step.place.start === place.start);
  if (act?.kind === 'act' && (act.on === 'harness' || act.on === 'located')) return true;
  const major = majorOf(versionOf('@testing-library/user-event'));
  if (major !== undefined) return major >= 14;
  return file.blocks.some(({ steps }) =>
    steps.some((step) => step.kind === 'act' && step.on === 'set-up-user'),
  );
}

const runsClock = (block: Block): boolean =>
  [...hooksFor(block, 'before-all', 'before-each'), block].some(fakesClock);

function mend({ unwaited }: UnwaitedStep, block: Block, context: FileContext): Mend | undefined {
  const { at, plainFunction } = unwaited;
  if (at === undefined || block.waitsForCallback || !block.fn) return undefined;
  const isOwn = block.fn.async ? plainFunction === undefined : plainFunction === block.fn.start;
  if (!isOwn) return undefined;
  const file = context.file.path;
  const edits: Edit[] = [{ file, start: at, end: at, text: 'await ' }];
  if (plainFunction !== undefined)
    edits.unshift({ file, start: plainFunction, end: plainFunction, text: 'async ' });
  return { summary: `Await ${unwaited.name}`, safe: true, edits };
}

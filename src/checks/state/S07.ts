import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Mend, Finding } from '../../finding.js';
import type { StandIn, StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { isTypeScript } from '../../util/paths.js';
import { inEachHook } from '../../writing/hook-edits.js';
import { quotedTitle, runningSpecs } from '../questions/order.js';
import {
  asksCount,
  callsAsserted,
  clearedByHook,
  clearedBySettings,
  clears,
  isMadeElsewhere,
  isShared,
  standInName,
  saysCalled,
} from '../questions/stand-in-calls.js';
import { unreadAround } from '../questions/unread-calls.js';

const message = (name: string, caller: string, reader: string): string =>
  `${name} keeps its calls: ${reader} counts those of ${caller} as well.`;
const messageCalled = (name: string, caller: string, reader: string): string =>
  `${name} keeps its calls: what ${reader} asks of them may already be true from ${caller}.`;
const advice = (name: string): string => `Clear the calls of ${name} in a before-each hook.`;

/** A stand-in for several specs, whose calls more than one of them looks at. */
export const S07: FileCheck = {
  code: 'S07',
  family: 'state',
  scope: 'file',
  title: 'Call counts pile up',
  level: 'risk',
  why: 'The second spec finds the calls of the first: its count is wrong, or its “was called” true from the start.',
  certain:
    'Sure where the calls are counted outright, by specs that always run, and no call around them is unread.',
  trouble:
    "const onFire = vi.fn();\nit('fires', () => { … expect(onFire).toHaveBeenCalled(); });\nit('fires once', () => { … expect(onFire).toHaveBeenCalledTimes(1); });",
  mended: 'beforeEach(() => { onFire.mockClear(); });',
  run(context) {
    const piles = context.file.standIns.filter(isShared).flatMap((standIn) => {
      const pair = piledUp(standIn, context);
      const cleared = pair && clearedBySettings(standIn, 'calls', context);
      return pair && cleared && !cleared.undone ? [{ standIn, ...pair, certainty: cleared.certainty }] : [];
    });
    // Counts that come out right in a suite that passes say that what can't be told does clear them.
    const isCleared = piles.some(({ later, certainty }) => certainty === 'likely' && asksCount(later.step));
    return isCleared ? [] : piles.map((pile) => found(pile, context));
  },
};

interface Asking {
  spec: Block;
  step: StepOf<'assert'>;
}

interface Pile {
  standIn: StandIn;
  first: Asking;
  later: Asking;
  certainty: Finding['certainty'];
}

function found({ standIn, first, later, certainty }: Pile, context: FileContext): Finding {
  const name = standInName(standIn, context);
  const isElsewhere = isMadeElsewhere(standIn, context);
  const counts = asksCount(later.step);
  const unread = unreadAround([first.spec, later.spec], context);
  const isKnown = certainty === 'sure' && unread.length === 0 && !first.step.maybe && !later.step.maybe;
  return {
    place: inFile(context, isElsewhere ? later.step.place : standIn.place),
    within: titlesOf(isElsewhere ? later.spec : standIn.block),
    certainty: counts && isKnown ? 'sure' : 'likely',
    message: (counts ? message : messageCalled)(name, quotedTitle(first.spec), quotedTitle(later.spec)),
    advice: advice(name),
    evidence: [
      { ...truePlace(context, standIn), note: 'made here, once for all specs' },
      { ...truePlace(context, first.step), note: `called in ${quotedTitle(first.spec)}` },
      { ...truePlace(context, later.step), note: `asked here by ${quotedTitle(later.spec)}` },
      ...unread,
    ],
    mend: mend(standIn, later.spec, context),
  };
}

// A spec that is sure of a call, and a later one that asks for calls with nothing cleared before.
function piledUp(standIn: StandIn, { file }: FileContext): { first: Asking; later: Asking } | undefined {
  const clearable = { ...standIn, standIn };
  let first: Asking | undefined;
  for (const spec of runningSpecs(file)) {
    if (clearedByHook(spec, clearable, 'calls')) continue;
    const [step] = callsAsserted(spec, standIn);
    if (!step) continue;
    const isOwn = spec.steps
      .slice(0, spec.steps.indexOf(step))
      .some((step) => clears(step, clearable, 'calls'));
    if (first && !isOwn) return { first, later: { spec, step } };
    const called = callsAsserted(spec, standIn).find(saysCalled);
    const cleared = spec.steps
      .slice(called ? spec.steps.indexOf(called) : 0)
      .some((step) => clears(step, clearable, 'calls'));
    if (called && !cleared) first ??= { spec, step: called };
    if (first && spec.repeated && !isOwn && called) return { first, later: { spec, step } };
  }
  return undefined;
}

const CLEARING: Readonly<Record<string, string>> = {
  vi: 'mockClear()',
  vitest: 'mockClear()',
  jest: 'mockClear()',
  sinon: 'resetHistory()',
  jasmine: 'calls.reset()',
  mock: 'mock.resetCalls()',
};

function mend(standIn: StandIn, near: Block, context: FileContext): Mend | undefined {
  const [kit = ''] = standIn.made.by.split('.');
  const clearing = Object.hasOwn(CLEARING, kit) ? CLEARING[kit] : undefined;
  const made = isMadeElsewhere(standIn, context) ? context.file.root : standIn.block;
  const group = made.kind === 'hook' ? made.parent : made;
  const named = nameToClear(standIn, context);
  if (!named || clearing === undefined || !group || !near.parent) return undefined;
  const edits = inEachHook(context, group, 'before-each', [`${named}.${clearing}`]);
  return edits && { summary: `Clear the calls of ${standIn.path ?? ''} before each spec`, safe: true, edits };
}

// To the compiler, the import of a replaced module is still the real thing.
function nameToClear(standIn: StandIn, context: FileContext): string | undefined {
  const { path, target, made } = standIn;
  const { file } = context;
  // What another module calls it is its name here where it is imported by that.
  if (isMadeElsewhere(standIn, context))
    return file.imports.has(path?.split('.')[0] ?? '') ? path : undefined;
  if (target !== 'module' || !isTypeScript(file.path)) return path;
  return path && made.by.startsWith('vi.') ? `vi.mocked(${path})` : undefined;
}

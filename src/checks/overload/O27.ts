import { askedForm } from '../../specs/model/asked.js';
import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import { libraryObjectOf } from '../../specs/model/values.js';
import { inShort } from '../../util/printable.js';
import type { FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runsOnFakeClock } from '../questions/clocks.js';
import { deniesCalls } from '../questions/hollow.js';
import { quotedTitle, runningSpecs } from '../questions/order.js';
import { saysCalled } from '../questions/stand-in-calls.js';
import { assertsAbsence, foundBy, reachOf } from '../questions/used-reaches.js';

const messageMissing = (act: string): string =>
  `That this is missing is asked right after ${act}; elsewhere it is waited for: if it comes as late here, this holds whatever is done.`;
const messageUncalled = (name: string, act: string): string =>
  `That ${name} is not called is asked right after ${act}; elsewhere its call is waited for: if it comes as late here, this holds whatever is done.`;
const messageIdle = (isOfCall: boolean, act: string): string =>
  `That this ${isOfCall ? 'is not called' : 'is missing'} is waited for after ${act}, and is so at the first try: the wait ends with it, whatever comes a moment later.`;
const advice = 'Wait for what the act surely brings about, then ask for what it does not.';

/** What is asserted to be missing at once, and waited for elsewhere in the file. */
export const O27: FileCheck = {
  code: 'O27',
  family: 'overload',
  scope: 'file',
  title: 'Denied too soon',
  level: 'hint',
  why: 'What comes a moment later is never there yet: the spec passes with the fault that it is there to find.',
  certain: 'Likely at most: it may come at once here, and late there.',
  trouble:
    "fireEvent.click(save);\nexpect(screen.queryByText('No cone')).toBeNull();\n…\nfireEvent.click(save);\nexpect(await screen.findByText('No cone')).toBeVisible();",
  mended:
    "fireEvent.click(save);\nexpect(await screen.findByText('Saved')).toBeVisible();\nexpect(screen.queryByText('No cone')).toBeNull();",
  run(context) {
    const specs = runningSpecs(context.file);
    const { late, soon } = shownAfterActs(specs);
    return specs.flatMap((spec) =>
      spec.steps.flatMap((step, i) => {
        if (step.kind !== 'assert' || !(isPlain(step) || isIdleWait(step, spec))) return [];
        const key = deniedBy(step);
        const there = key === undefined || soon.has(key) ? undefined : late.get(key);
        if (key === undefined || !there || there.spec === spec) return [];
        const act = step.retried ? actBefore(spec.steps, i) : actJustBefore(spec.steps, i);
        const isElsewhereInIt = spec.steps.some((each) => keysShown(each).includes(key));
        if (!act || isElsewhereInIt || runsOnFakeClock(step, spec)) return [];
        // After a user's action a first look may come late enough; a wait that ends with it never is one.
        if (step.retried ? mayHaveCome(step, spec.steps.slice(0, i), there) : !isBare(act)) return [];
        return finding(step, act, spec, there, context);
      }),
    );
  },
};

type Act = StepOf<'act'>;

interface Shown {
  step: Step;
  spec: Block;
  /** How many acts of the spec stand before it. */
  acts: number;
}

// What specs show after an act: after a wait, or at once.
function shownAfterActs(specs: readonly Block[]): { late: Map<string, Shown>; soon: Set<string> } {
  const late = new Map<string, Shown>();
  const soon = new Set<string>();
  for (const spec of specs) {
    let acts = 0;
    // What was waited for before is there by now.
    const waited = new Set<string>();
    for (const step of spec.steps) {
      const isLate = isWait(step) && acts > 0;
      for (const key of keysShown(step)) {
        if (isLate && !late.has(key)) late.set(key, { step, spec, acts });
        if (!isLate && !waited.has(key)) soon.add(key);
        if (isWait(step)) waited.add(key);
      }
      if (step.kind === 'act') acts++;
    }
  }
  return { late, soon };
}

const isWait = (step: Step): boolean => step.retried !== undefined || (step.awaited && step.kind === 'reach');

const alwaysRuns = ({ maybe, dead, inCallback, via }: Step): boolean =>
  !maybe && !dead && !inCallback && !via;

const isPlain = (step: Step): boolean => alwaysRuns(step) && step.retried === undefined && !step.awaited;

// A wait for nothing but absences: where none of that was there before, it ends at its first try.
const isIdleWait = (step: StepOf<'assert'>, { steps }: Block): boolean =>
  step.retried !== undefined &&
  alwaysRuns(step) &&
  steps.every(
    (each) =>
      each.retried !== step.retried ||
      each.kind === 'use' ||
      each.kind === 'reach' ||
      (each.kind === 'assert' && deniedBy(each) !== undefined),
  );

// With more acts than it takes to bring it up, the last of them may have taken it away.
const mayHaveCome = (step: StepOf<'assert'>, before: readonly Step[], { acts }: Shown): boolean =>
  calledIn(step) === undefined && before.filter(({ kind }) => kind === 'act').length > acts;

const actBefore = (steps: readonly Step[], at: number): Act | undefined =>
  steps.slice(0, at).findLast((step) => step.kind === 'act');

// What a step says to be there, or to have been called.
function keysShown(step: Step): string[] {
  const call = step.kind === 'assert' ? calledIn(step) : undefined;
  if (step.kind === 'assert' && call !== undefined)
    return saysCalled(step) && !deniesCalls(step.assertion) ? [call] : [];
  return foundBy(step).flatMap((reach) => askedForm(reach) ?? []);
}

// What an assertion says to be missing, or never called.
function deniedBy(step: StepOf<'assert'>): string | undefined {
  const call = calledIn(step);
  if (call !== undefined) return deniesCalls(step.assertion) ? call : undefined;
  const reach = assertsAbsence(step.assertion) ? reachOf(step.assertion) : undefined;
  return reach && askedForm(reach);
}

const calledIn = ({ assertion }: StepOf<'assert'>): string | undefined =>
  libraryObjectOf(assertion.subject)?.standIn && /^[\w$.]+$/.test(assertion.subjectText)
    ? `calls of ${assertion.subjectText}`
    : undefined;

// The act right before a step, with nothing but questions in between.
function actJustBefore(steps: readonly Step[], at: number): Act | undefined {
  for (const step of steps.slice(0, at).reverse()) {
    if (step.kind === 'act') return step;
    if (!STILL.has(step.kind) || isWait(step) || step.awaited) return undefined;
  }
  return undefined;
}

const STILL: ReadonlySet<Step['kind']> = new Set(['reach', 'assert', 'use'] as const);

// One bare event, sent and done: a user's action waits until what follows from it has settled.
const isBare = (act: Act): boolean =>
  act.by === 'raw' &&
  act.statement !== undefined &&
  isPlain(act) &&
  (act.on === undefined || act.on.startsWith('fireEvent'));

function finding(step: StepOf<'assert'>, act: Act, spec: Block, there: Shown, context: FileContext): Finding {
  const on = act.by === 'user' ? 'user' : act.on;
  const done = inShort(on ? `${on}.${act.name}` : `${act.name}()`, 40);
  const { subjectText } = step.assertion;
  const isOfCall = calledIn(step) !== undefined;
  return {
    place: inFile(context, step.place),
    within: titlesOf(spec),
    certainty: 'likely',
    message: step.retried
      ? messageIdle(isOfCall, done)
      : isOfCall
        ? messageUncalled(subjectText, done)
        : messageMissing(done),
    advice,
    evidence: [
      { ...inFile(context, there.step.place), note: `waited for here, in ${quotedTitle(there.spec)}` },
    ],
  };
}

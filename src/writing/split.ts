import type { Block } from '../specs/model/blocks.js';
import type { Statement } from '../specs/model/body.js';
import {
  countRounds,
  kindsOf,
  roundsOf,
  stands,
  type Round,
  type StatementKind,
} from '../specs/model/rounds.js';
import type { Step, StepOf } from '../specs/model/steps.js';
import { libraryObjectOf } from '../specs/model/values.js';
import { inFile, type FileContext } from '../checks/questions/context.js';
import { type Evidence } from '../finding.js';
import { outcomesOf, titleFromSteps } from './phrases.js';

/** One of the specs that a large one is split into. */
export interface NewSpec {
  title: string | undefined;
  /** The statements that it keeps, those of the arrangement left out. */
  statements: readonly Statement[];
  /** How many acts of earlier rounds it repeats. */
  repeats: number;
}

/** How a spec is split: what all new specs share, and what each keeps. */
export interface Split {
  shared: readonly Statement[];
  specs: readonly NewSpec[];
}

interface Part {
  statement: Statement;
  kind: StatementKind | 'clean up';
  renders: boolean;
  /** The props that it sets, where that is all that it does. */
  props?: readonly string[];
  round: number;
}

/** Splits a spec by its rounds; undefined where the statements don't show where a round begins. */
export function splitOf(spec: Block, context: FileContext): Split | undefined {
  const kinds = kindsOf(spec);
  if (
    kinds.length === 0 ||
    spec.statements.some((statement) => statement.returns || isMixed(statement, spec))
  )
    return undefined;
  // Where a later round renders anew, it does not need what was arranged for the first.
  const rounds = roundsOf(spec);
  const [, ...later] = rounds;
  const rendersAnew = later.some(({ acts }) => acts.some(({ kind }) => kind === 'render'));
  const firstStep = rendersAnew ? 0 : kinds.findIndex((kind) => kind !== 'arrange');
  const shared = spec.statements.slice(0, firstStep);
  const parts = numbered(spec, spec.statements.slice(firstStep), kinds.slice(firstStep));
  const count = (parts.at(-1)?.round ?? 0) + 1;
  if (count !== rounds.length || count < 2) return undefined;
  const outcomes = rounds.map(({ asserts }) => outcomesOf(asserts, context));
  return {
    shared,
    specs: rounds.map((round, i) => ({
      ...newSpec(parts, i, round),
      title: titleFromSteps(
        round,
        context,
        new Set(outcomes.flatMap((outcome, at) => (at === i ? [] : outcome))),
      ),
    })),
  };
}

// An assertion before an act belongs to another round: both in one statement can't be taken apart.
const isMixed = (statement: Statement, { steps }: Block): boolean => {
  const inside = steps.filter((step) => stands(step, statement));
  return (
    inside.some(({ kind }) => kind === 'assert') &&
    inside.some(({ kind }) => kind === 'act' || kind === 'render')
  );
};

// A round begins where something is done after an assertion, with the looks at elements that lead to it.
function numbered(spec: Block, statements: readonly Statement[], kinds: readonly StatementKind[]): Part[] {
  let round = 0;
  let asserted = false;
  const parts = statements.map((statement, i): Omit<Part, 'round'> => {
    const kind = kinds[i] ?? 'arrange';
    const cleansUp = kind === 'arrange' && hasStep(spec, statement, 'unmount', 'restore');
    return {
      statement,
      kind: cleansUp ? 'clean up' : kind,
      renders: hasStep(spec, statement, 'render'),
      props: kind === 'act' ? propsSet(statement, spec) : undefined,
    };
  });
  const isDone = ({ kind, renders }: Omit<Part, 'round'>): boolean => kind === 'act' || renders;
  return parts.map((part, i) => {
    const next = parts.slice(i).find((part) => isDone(part) || part.kind === 'assert');
    // What cleans up after an assertion belongs to what was asserted.
    if (asserted && part.kind !== 'assert' && part.kind !== 'clean up' && next && isDone(next)) {
      round++;
      asserted = false;
    }
    asserted ||= part.kind === 'assert';
    return { ...part, round };
  });
}

const hasStep = ({ steps }: Block, statement: Statement, ...kinds: readonly Step['kind'][]): boolean =>
  steps.some((step) => kinds.includes(step.kind) && stands(step, statement));

function newSpec(parts: readonly Part[], round: number, own: Round): Omit<NewSpec, 'title'> {
  const upTo = parts.filter((part) => part.round <= round);
  const later = parts.filter((part) => part.round > round);
  // A render of its own starts anew: what was done to the one before does not matter.
  const fresh = upTo.findLastIndex(({ renders }) => renders);
  const resets = !asksHistory(own);
  const kept = upTo.filter(
    (part, i) =>
      part.round === round || isRepeated(part, i > fresh, resets ? upTo.slice(i + 1) : [], upTo.slice(0, i)),
  );
  const needed = kept.filter(
    (part, i) => part.kind !== 'arrange' || isNeeded(part, kept.slice(i + 1), upTo.indexOf(part) < fresh),
  );
  // What cleans up at the end does so for all that share the render.
  const ending = later.some(({ renders }) => renders) ? [] : later.filter(({ kind }) => kind === 'clean up');
  return {
    statements: [...needed, ...ending].map(({ statement }) => statement),
    repeats: needed.filter((part) => part.kind === 'act' && part.round < round).length,
  };
}

// How often something was called or emitted depends on all that was done before.
const asksHistory = ({ asserts }: Round): boolean =>
  asserts.some(
    ({ assertion: { subject, subjectPath } }) =>
      subjectPath.includes('emitted') || libraryObjectOf(subject)?.standIn !== undefined,
  );

// Of earlier rounds a later one needs what arranges, and what was done to the same render, with the waits behind it.
function isRepeated(
  part: Part,
  isOfRender: boolean,
  after: readonly Part[],
  before: readonly Part[],
): boolean {
  const { kind, statement } = part;
  if (kind === 'act') return isOfRender && !isReset(part, after);
  if (kind === 'clean up') return isOfRender;
  if (kind !== 'arrange') return false;
  if (!isWait(statement)) return true;
  const waitedFor = before.findLast((each) => each.kind !== 'assert' && !isWait(each.statement));
  return waitedFor?.kind !== 'act' || !isReset(waitedFor, after);
}

const isWait = ({ awaits, declares }: Statement): boolean => awaits && declares.length === 0;

// A declaration that nothing after it uses is left out, if it does nothing else; so is a render before another one.
function isNeeded({ statement, renders }: Part, later: readonly Part[], isBefore: boolean): boolean {
  const { declares, awaits } = statement;
  const isUsed = declares.some((name) => later.some((each) => each.statement.uses.has(name)));
  if (renders) return isUsed || !isBefore;
  return isUsed || awaits || declares.length === 0;
}

// Props that are set again before the assertion are the same whatever they were.
const isReset = ({ props }: Part, later: readonly Part[]): boolean =>
  props !== undefined && props.every((key) => later.some((each) => each.props?.includes(key)));

function propsSet(statement: Statement, { steps }: Block): string[] | undefined {
  const acts = steps.filter((step): step is StepOf<'act'> => step.kind === 'act' && stands(step, statement));
  const [only] = acts;
  const [first] = only?.args ?? [];
  return acts.length === 1 && only?.name === 'setProps' && first?.is === 'object' && !first.open
    ? [...first.entries.keys()]
    : undefined;
}

/** The split in words: how many specs, what they share, what they repeat; their titles stand with the rounds. */
export function splitText({ shared, specs }: Split): string {
  const repeats = Math.max(...specs.map((spec) => spec.repeats));
  const parts = [`Make ${specs.length} specs of it, one for each of these.`];
  if (shared.length > 0)
    parts.push(
      `The ${shared.length === 1 ? 'statement' : `${shared.length} statements`} before the first act can be shared.`,
    );
  if (repeats > 0) parts.push(`Later ones repeat the acts that they need, ${repeats} at most.`);
  return parts.join(' ');
}

/** Where each round of a spec stands, and the title of the spec that it could be. */
export function roundPlaces(spec: Block, split: Split | undefined, context: FileContext): Evidence[] {
  const rounds = roundsOf(spec);
  // What is asserted of the first render alone is no round yet.
  const before = rounds.length - countRounds(rounds);
  return rounds.flatMap(({ acts, asserts }, i) => {
    const step = acts.find(({ kind }) => kind === 'act') ?? acts[0] ?? asserts[0];
    const title = split?.specs[i]?.title ?? outcomesOf(asserts, context)[0];
    const name = i < before ? 'at the start' : `round ${i + 1 - before}`;
    return step
      ? [{ ...inFile(context, step.place), note: title === undefined ? name : `${name}: ${title}` }]
      : [];
  });
}

import { isInside } from '../../util/spans.js';
import type { Node } from 'oxc-parser';
import { namesReadIn } from '../../syntax/tree.js';
import type { Env } from '../model/env.js';
import type { SpecReading } from './spec-reading.js';
import type { Span } from '../../finding.js';
import type { ModuleTree } from '../../project/project.js';
import type { Guard, Reach } from '../model/steps.js';

/** A condition that is met while a body is read; the condition around it is kept as the outer one. */
export function guardOf(
  run: SpecReading,
  env: Env,
  by: Exclude<Guard['by'], 'event' | 'value'>,
  condition: Node,
  list?: Reach,
): Guard {
  // In a helper it depends on what the spec hands over.
  const isOwn = run.inSpecOrHook && run.site === undefined;
  const names = isOwn ? namesReadIn(condition) : [];
  return {
    by,
    place: run.placeOf(condition),
    covered: false,
    fixed: !isOwn || (by !== 'loop' && isFixed(env, names)),
    names,
    list,
    outer: run.flags.guard,
  };
}

/** A condition that is met where something calls what it was given: for an event, or with a value. */
export function callbackGuard(run: SpecReading, by: 'event' | 'value', given: Span, tree = run.tree): Guard {
  const isOwn = run.inSpecOrHook && isWrittenByBlock(run, given, tree);
  // In a helper it depends on what the spec hands over.
  const place = isOwn ? { start: given.start, end: given.end } : run.placeOf(given);
  return { by, place, covered: false, fixed: !isOwn, names: [], outer: run.flags.guard };
}

/** Whether something stands in the running block's own body. */
export const isWrittenByBlock = (
  { file, block: { body } }: SpecReading,
  span: Span,
  tree: ModuleTree,
): boolean => tree.path === file.path && body !== undefined && isInside(span, body);

/** Reads what stands under a condition, and gives whether it surely asserts or throws. */
export function underGuard(run: SpecReading, guard: Guard, read: () => void): boolean {
  const { steps } = run.block;
  const before = steps.length;
  run.under({ maybe: true, guard }, read);
  return steps
    .slice(before)
    .some(({ kind, guard: own }) => (kind === 'assert' || kind === 'throw') && own === guard);
}

// Rows, turns and parameters differ by their caller; versions and surroundings stay for the whole run.
const isFixed = (env: Env, names: readonly string[]): boolean =>
  // `if (document)`: is there one at all?
  (names.length === 1 && names[0] === 'document') ||
  names.some(
    (name) =>
      isOfTurn(env.owner(name), name) ||
      SURROUNDINGS.has(name) ||
      /^is(?:Vue|React|Angular|Node|Browser)|version$/i.test(name),
  );

// What is declared around a spec, in the turn of a loop, is made from that turn.
function isOfTurn(owner: Env | undefined, name: string): boolean {
  if (!owner || owner.turns.includes(name)) return owner !== undefined;
  if (owner.block.kind === 'spec' || owner.block.kind === 'hook') return false;
  for (let at: Env | undefined = owner; at; at = at.parent) if (at.turns.length > 0) return true;
  return false;
}

const SURROUNDINGS: ReadonlySet<string> = new Set(['process', 'meta', 'navigator', 'window', 'globalThis']);

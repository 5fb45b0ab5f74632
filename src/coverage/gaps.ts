import { conditionsOf, type Branch, type WrittenCondition } from '../branches/arms.js';
import { solve, type Answer } from '../branches/solve.js';
import { STATE_PREFIX } from '../branches/variables.js';
import type { Domain, Domains } from '../components/domain.js';
import type { Component } from '../components/view.js';
import type { Place } from '../finding.js';
import { grouped } from '../util/grouped.js';
import type { ArmFacts, BranchFacts, HeldState } from './arm-facts.js';

/** An arm that no spec takes, with the inputs that would take it. */
export interface ArmGap extends ArmFacts {
  /** Whether a run says so, or only what specs give. */
  basis: 'measured' | 'computed';
  /** All that must hold, outer conditions first. */
  conditions: readonly WrittenCondition[];
  answer: Answer;
}

/** The arms that no spec takes; of arms inside such an arm, only the outer one. What no inputs take is left out. */
export function armGaps({ arms }: Pick<BranchFacts, 'arms'>): { gaps: ArmGap[]; unreachable: ArmGap[] } {
  const missed = arms.filter(isMissed);
  const outer = [...grouped(missed, ({ arm }) => arm.place.file).values()].flatMap((own) =>
    own.filter((inner) => !own.some((each) => each.arm !== inner.arm && holds(each, inner.branch))),
  );
  const solved = outer.map(withInputs);
  return {
    gaps: solved.filter(({ answer }) => answer.is !== 'contradiction'),
    unreachable: solved.filter(({ answer }) => answer.is === 'contradiction'),
  };
}

/** The inputs that take an arm. */
function withInputs(facts: ArmFacts): ArmGap {
  const conditions = conditionsOf(facts.branch, facts.arm);
  const { component, branch } = facts;
  const tests = conditions.map(({ test }) => test);
  const domains = new Map([...inputDomains(component), ...(facts.held ?? []).flatMap(stateDomain)]);
  const answer = solve(tests, domains, () => branch.mayChange);
  return { ...facts, basis: isMeasured(facts) ? 'measured' : 'computed', conditions, answer };
}

// A state stays of the kind of the values that are known of it.
function stateDomain({ name, values }: HeldState): [string, Domain][] {
  const kinds = new Set(values.map((each) => (each.is === 'constant' ? typeof each.value : 'unknown')));
  const [kind] = kinds;
  if (kinds.size !== 1 || (kind !== 'string' && kind !== 'number' && kind !== 'boolean')) return [];
  const domain: Domain =
    kind === 'boolean' ? { values: [true, false], kinds: [] } : { values: [], kinds: [kind] };
  return [[STATE_PREFIX + name, domain]];
}

const isMeasured = ({ hits, partly }: ArmFacts): boolean => hits !== undefined || partly !== undefined;

// A branch that nobody reached at all is no gap of its own: the arm that it stands in is.
function isMissed({ branch, arm, hits, reached, partly, computed }: ArmFacts): boolean {
  if (partly && partly[0] > 0) return branch.arms[0] === arm;
  if (hits !== undefined) return hits === 0 && reached;
  return computed === 'not-taken' && branch.kind !== 'optional' && arm.condition.text !== '';
}

// An `else` that is not written holds nothing.
const holds = ({ arm }: ArmFacts, { place }: Branch): boolean =>
  arm.written &&
  arm.place.file === place.file &&
  arm.place.start <= place.start &&
  place.end <= arm.place.end;

const ALL_BUT_UNDEFINED: Domain = {
  values: [true, false],
  kinds: ['number', 'string', 'bigint', 'null', 'list', 'object', 'function'],
};

// Where templates read a prop, its default has already taken the place of undefined.
function inputDomains({ framework, props, domains = new Map() }: Component): Domains {
  if (framework === 'react') return domains;
  const found = new Map<string, Domain>(domains);
  for (const [name, fallback] of props) {
    if (!fallback || (fallback.is === 'constant' && fallback.value === undefined)) continue;
    const { values, kinds, ...parts } = domains.get(name) ?? ALL_BUT_UNDEFINED;
    found.set(name, { ...parts, values, kinds: kinds.filter((kind) => kind !== 'undefined') });
  }
  return found;
}
/** Where a gap is shown: at the arm's own code, else at its branch. */
export const placeOf = ({ branch, arm, partly }: ArmGap): Place =>
  arm.written && !partly ? arm.place : branch.place;

import { isInside } from '../util/spans.js';
import { conditionsOf, type Arm, type Branch } from '../branches/arms.js';
import { branchesOf } from '../branches/branches.js';
import {
  both,
  importOfKey,
  isStateKey,
  memberOfExpr,
  oneOf,
  UNKNOWN,
  type Expr,
} from '../components/expr.js';
import { answersIn, visitPropsInCondition } from '../components/expr-names.js';
import { outcome } from '../components/expr-filling.js';
import { givenByContext, isContextKey, UNREAD } from '../rendering/contexts.js';
import type { Contexts } from '../rendering/rendered-tree.js';
import { eachWay, givenIn, type ComponentUse } from '../rendering/uses.js';
import type { Component, EventPlace } from '../components/view.js';
import { asDeclared } from '../project/contexts.js';
import type { Project } from '../project/project.js';
import { grouped } from '../util/grouped.js';
import type { State } from '../branches/states.js';
import { propsBehind, stateValues, type EventValue } from './state-values.js';
import { measuredBranches, type MeasuredBranch } from './arms-hit.js';
import { ranAtAll, type Coverage, type Share } from './coverage.js';

/** One arm of a component, and what is known of whether specs take it. */
export interface ArmFacts {
  component: Component;
  branch: Branch;
  arm: Arm;
  /** How often a run took it, where coverage tells. */
  hits?: number;
  /** The branch was reached in that run. */
  reached: boolean;
  /** Coverage tells only how many of its branch's arms were taken. */
  partly?: Share;
  /** Whether the values that specs give take it. */
  computed: 'taken' | 'not-taken' | 'unknown';
  /** The functions whose stand-ins decide that it is not taken, by their keys. */
  answering?: readonly string[];
  /** The contexts that decide that it is not taken, by their keys. */
  providing?: readonly string[];
  /** The states that decide that it is not taken, with all values that they hold in specs. */
  held?: readonly HeldState[];
}

/** A state of a component, by the name that it is read by. */
export interface HeldState {
  name: string;
  values: readonly Expr[];
}

/** What specs give to components. */
export interface SpecInputs {
  usesOf: (component: Component) => readonly ComponentUse[];
  isInSight: (component: Component) => boolean;
  /** Whether some spec file may have a stand-in for a function, by its key. */
  isReplaced: (key: string) => boolean;
  /** What stand-ins give for a function, by its key, wherever specs render a component; undefined where that can't be told. */
  answersOf: (component: Component, key: string) => readonly Expr[] | undefined;
  /** What the events that specs fire may carry to an element, by its file and offset. */
  carriedTo: (component: Component, event: EventPlace) => readonly EventValue[] | undefined;
}

/** The arms of all components, and how many branch records of coverage files there are and belong to none of them. */
export interface BranchFacts {
  arms: readonly ArmFacts[];
  records: number;
  unmapped: number;
}

/** All arms of all components, with what coverage and the specs' own values say of them. */
export function branchFacts(
  project: Project,
  components: readonly Component[],
  coverage: Coverage | undefined,
  specs: SpecInputs,
): BranchFacts {
  const files = [...grouped(components, ({ file }) => file)].map(([file, own]) => {
    const { branches, states } = branchesOf(project, own, (key) => specs.isReplaced(key));
    const source = project.source(file);
    const coverageOf = coverage?.files.get(file);
    const found = branches.map(({ branch }) => branch);
    const measured =
      coverageOf && source && ranAtAll(coverageOf) ? measuredBranches(found, coverageOf, source) : undefined;
    return { branches, states, measured, records: measured ? (coverageOf?.branches.length ?? 0) : 0 };
  });
  return {
    arms: files.flatMap(({ branches, states, measured }) => {
      const byBranch = new Map(measured?.branches.map((branch) => [branch.branch, branch]));
      return branches.flatMap(({ component, branch }) =>
        branch.arms.map((arm, i) => ({
          component,
          branch,
          arm,
          ...hitsOf(byBranch.get(branch), i),
          ...computedBy(branch, arm, component, states, specs, project),
        })),
      );
    }),
    records: files.reduce((sum, { records }) => sum + records, 0),
    unmapped: files.reduce((sum, { measured }) => sum + (measured?.unmapped ?? 0), 0),
  };
}

function hitsOf(
  measured: MeasuredBranch | undefined,
  index: number,
): Pick<ArmFacts, 'hits' | 'partly' | 'reached'> {
  if (!measured) return { reached: false };
  const { hits, partly, branch } = measured;
  // A default that nobody needed was still passed by.
  const reached = branch.kind === 'default' || hits.some((count) => count !== 0);
  return { hits: hits[index], partly, reached };
}

// `not-taken` only where all that specs give is known, and all that stand-ins answer.
function computedBy(
  branch: Branch,
  arm: Arm,
  component: Component,
  states: ReadonlyMap<string, State>,
  specs: SpecInputs,
  project: Project,
): Pick<ArmFacts, 'computed' | 'answering' | 'providing' | 'held'> {
  const whole = both(...conditionsOf(branch, arm).map(({ test }) => test));
  const names: string[] = [];
  const lists = new Set<string>();
  visitPropsInCondition(whole, (name, _bound, isItem) => {
    names.push(name);
    if (isItem) lists.add(name);
  });
  const answers = new Map<string, Expr>();
  const asked = answersIn(whole);
  const held = [...asked.keys()].filter(isStateKey);
  const read = [...asked.keys()].filter(isContextKey);
  for (const [key, paths] of asked) {
    if (isStateKey(key) || read.includes(key)) continue;
    const given = specs.answersOf(component, key);
    if (given) answers.set(key, oneOf(unlikeIn(given, paths)));
  }
  const all = specs.usesOf(component);
  const isIn = isInside(branch.place, component.place);
  const inContexts = (use: ComponentUse): ComponentUse =>
    withContexts(use, read, (isIn && use.contexts) || UNREAD, project);
  const uses = unlikeUses(read.length > 0 ? all.map(inContexts) : all, [
    ...names,
    ...read,
    ...propsBehind(held, states),
  ]);
  const answered =
    answers.size > 0 ? uses.map((use) => ({ ...use, given: new Map([...use.given, ...answers]) })) : uses;
  const outcomesOf = (given: readonly ComponentUse[], more: readonly string[]): (boolean | undefined)[] =>
    given
      .flatMap((use) => eachWay(use, [...names, ...answers.keys(), ...read, ...more], lists))
      .map((use) =>
        outcome(whole, (name) =>
          importOfKey(name) ? use.given.get(name) : givenIn(use, name, branch.kind === 'default'),
        ),
      );
  const whatever = outcomesOf(answered, []);
  // States are asked where nothing else decides.
  const isOpen = held.length > 0 && whatever.includes(undefined) && !whatever.includes(true);
  const inStates = isOpen ? answered.map((use) => withStates(use, held, states, specs)) : [];
  const outcomes = isOpen ? outcomesOf(inStates, held) : whatever;
  if (outcomes.includes(true)) return { computed: branch.deferred ? 'unknown' : 'taken' };
  const isKnown = specs.isInSight(component) && outcomes.length > 0 && !outcomes.includes(undefined);
  if (!isKnown) return { computed: 'unknown' };
  // What specs have no say in is not for them to bring about: it holds whatever they give and do.
  const anyhow = (): ComponentUse =>
    withStates({ component, given: new Map(), open: true }, held, states, {
      ...specs,
      carriedTo: () => ANYTHING,
    });
  if (isOpen && outcomesOf([anyhow()], held).every((each) => each === false)) return { computed: 'unknown' };
  const holding = isOpen ? held.map((key) => heldIn(inStates, key, states)) : [];
  const known = holding.filter(({ values }) => values.length > 0);
  return {
    computed: 'not-taken',
    ...(answers.size > 0 ? { answering: [...answers.keys()] } : {}),
    ...(read.length > 0 ? { providing: [...new Set(read.map((key) => asDeclared(key, project)))] } : {}),
    ...(known.length > 0 ? { held: known } : {}),
  };
}

const ANYTHING: readonly EventValue[] = [{}];

const heldIn = (
  uses: readonly ComponentUse[],
  key: string,
  states: ReadonlyMap<string, State>,
): HeldState => ({
  name: states.get(key)?.name ?? '',
  values: optionsOf(oneOf(uses.flatMap(({ given }) => given.get(key) ?? []))),
});

// A use with what contexts give, by the keys that conditions read them by; helpers may be called anywhere.
function withContexts(
  use: ComponentUse,
  read: readonly string[],
  contexts: Contexts,
  project: Project,
): ComponentUse {
  const given = new Map(use.given);
  for (const key of read) given.set(key, givenByContext(key, contexts, project) ?? UNKNOWN);
  return { ...use, given };
}

// A use with all that states may hold in it.
function withStates(
  use: ComponentUse,
  keys: readonly string[],
  states: ReadonlyMap<string, State>,
  specs: SpecInputs,
): ComponentUse {
  const values = stateValues(keys, {
    states,
    given: (name) => (importOfKey(name) ? use.given.get(name) : givenIn(use, name)),
    carriedTo: (on) => specs.carriedTo(use.component, on),
  });
  const held = [...values].map(([key, each]) => [key, oneOf(each)] as const);
  return { ...use, given: new Map([...use.given, ...held]) };
}

// Uses that give the same for the props that are asked for count once.
function unlikeUses(uses: readonly ComponentUse[], names: readonly string[]): ComponentUse[] {
  const keyOf = ({ given, open }: ComponentUse): string =>
    JSON.stringify([open, ...names.map((name) => given.get(name) ?? 0)]);
  return [...new Map(uses.map((use) => [keyOf(use), use])).values()];
}

const optionsOf = (expr: Expr): readonly Expr[] => (expr.is === 'choice' ? expr.options : [expr]);

// Answers that are alike in all parts that are read count once.
function unlikeIn(answers: readonly Expr[], paths: readonly (readonly string[])[]): Expr[] {
  const options = answers.flatMap(optionsOf);
  const parts = (option: Expr): string =>
    JSON.stringify(paths.map((path) => path.reduce((of, name) => memberOfExpr(of, name, true), option)));
  return [...new Map(options.map((option) => [parts(option), option])).values()];
}

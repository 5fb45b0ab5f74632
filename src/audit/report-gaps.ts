import { CHECKS } from '../checks/index.js';
import type { Example, InputValue } from '../branches/solve.js';
import { placeOf, type ArmGap } from '../coverage/gaps.js';
import { valueText } from '../writing/inputs.js';
import type { ArmFacts } from '../coverage/arm-facts.js';
import { grouped } from '../util/grouped.js';
import { relativeTo } from '../util/paths.js';
import type { Gathered } from './gathered.js';
import type { Gap, Report } from './report.js';

/** All that no spec exercises: arms, components, events; sorted by place. */
export function reportedGaps(gathered: Gathered): Gap[] {
  const { context, session } = gathered;
  const asked = listsArms(session) ? context.branches().gaps : [];
  const found: Gap[] = [...asked.flatMap((gap) => armGap(gap, gathered)), ...otherGaps(gathered)];
  const order = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
  return found.sort((a, b) => order(a.file, b.file) || a.line - b.line || a.column - b.column);
}

// Whether a check that speaks of arms is on.
const listsArms = (session: Gathered['session']): boolean =>
  CHECKS.some((check) => check.listsArms && session.isOn(check.code));

function armGap(gap: ArmGap, { context, session }: Gathered): Gap[] {
  const { component, branch, arm, basis, conditions, answer, partly, computed } = gap;
  const place = placeOf(gap);
  const source = context.sourceOf(place.file);
  if (!source) return [];
  return [
    {
      kind: 'arm',
      component: component.name,
      file: relativeTo(session.root, place.file),
      ...source.lines.at(place.start),
      branch: branch.condition,
      condition: conditions.map(({ text }) => text).join(' and ') || branch.condition,
      arm: partly ? `${partly[1] - partly[0]} of ${partly[1]}` : arm.arm,
      basis,
      ...(basis === 'measured' && computed === 'taken' ? { computed } : {}),
      inputs: answer.is === 'inputs' ? answer.examples.map(plainInputs) : [],
      solved: answer.is === 'inputs',
    },
  ];
}

// Components that no spec renders, and events that none fires.
const otherGaps = ({ found, context, session }: Gathered): Gap[] =>
  found.flatMap(({ found: { gap, place } }) => {
    const source = gap && context.sourceOf(place.file);
    if (!source) return [];
    const at = { file: relativeTo(session.root, place.file), ...source.lines.at(place.start) };
    return [{ ...gap, ...at, basis: 'computed' as const, inputs: [], solved: false }];
  });

/** Of each component with arms: how many specs take, how many not, and of how many that can't be told. */
export function branchCounts({ context, session }: Gathered): Report['branches'] {
  if (!listsArms(session)) return undefined;
  const { arms, records, unmapped, gaps, unreachable } = context.branches();
  const isGap = new Set(gaps.map(({ arm }) => arm));
  const components = [...grouped(arms, ({ component }) => component)].map(([component, own]) => ({
    component: component.name,
    file: relativeTo(session.root, component.file),
    arms: own.length,
    taken: own.filter(isTaken).length,
    gaps: own.filter(({ arm }) => isGap.has(arm)).length,
  }));
  const disagree = arms.filter(disagrees).length;
  return { arms: arms.length, unreachable: unreachable.length, records, unmapped, disagree, components };
}

const disagrees = ({ hits, reached, computed }: ArmFacts): boolean =>
  hits !== undefined && (hits > 0 ? computed === 'not-taken' : reached && computed === 'taken');

const isTaken = ({ hits, computed }: ArmFacts): boolean =>
  hits === undefined ? computed === 'taken' : hits > 0;

// JSON knows neither undefined nor functions: what is not given is left out.
const plainInputs = ({ props, state }: Example): Record<string, unknown> =>
  plainObject({ ...props, ...state });

const plainObject = (values: Readonly<Record<string, InputValue>>): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(values).flatMap(([name, value]) => (value === undefined ? [] : [[name, plain(value)]])),
  );

function plain(value: InputValue): unknown {
  if (typeof value === 'function' || Number.isNaN(value)) return valueText(value);
  if (Array.isArray(value)) return value.map(plain);
  return typeof value === 'object' && value !== null
    ? plainObject(value as Record<string, InputValue>)
    : value;
}

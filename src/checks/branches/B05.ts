import { ARM_FACTS } from '../questions/answers.js';
import type { ArmFacts } from '../../coverage/arm-facts.js';
import { type Expr, type Condition } from '../../components/expr.js';
import { propsIn } from '../../components/expr-names.js';
import { filledExpr } from '../../components/expr-filling.js';
import { eachWay, givenIn, type ComponentUse } from '../../rendering/uses.js';
import { inShort } from '../../util/printable.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';

const message = (condition: string, values: string, bound: number): string =>
  `Specs try ${inShort(condition, 70)} with ${values}, never with ${bound} itself.`;
const advice = (bound: number): string =>
  `Add a spec for ${bound}: a comparison that is off by one shows only there.`;

/** A bound that is passed on both sides, and never stood on. */
export const B05: ProjectCheck = {
  code: 'B05',
  family: 'branches',
  scope: 'project',
  facts: ARM_FACTS,
  title: 'Boundary never tried',
  level: 'hint',
  why: 'Whether a comparison includes its bound is decided at the bound alone.',
  certain: 'Likely at most: which values matter is worked out from the conditions alone.',
  trouble: '// temp < 600 in the component\nrender(<KilnLid temp={20} />);\nrender(<KilnLid temp={900} />);',
  mended: 'render(<KilnLid temp={20} />);\nrender(<KilnLid temp={600} />);\nrender(<KilnLid temp={900} />);',
  run(context) {
    const { arms } = context.branches();
    const first = arms.filter(({ arm }) => arm.arm === 'then');
    return first.flatMap((each) => found(each, context.usesOf(each.component)));
  },
};

function found({ branch, arm }: ArmFacts, uses: readonly ComponentUse[]): Finding[] {
  const compared = comparison(arm.condition.test);
  if (!compared) return [];
  const values = new Set<number>();
  const names: string[] = [];
  propsIn(compared.of, (name) => names.push(name));
  for (const use of uses.flatMap((use) => eachWay(use, names))) {
    const value = filledExpr(compared.of, (name) => givenIn(use, name));
    if (value.is !== 'constant' || typeof value.value !== 'number') return [];
    values.add(value.value);
  }
  const { bound } = compared;
  const sorted = [...values].sort((a, b) => a - b);
  const [lowest = bound, highest = bound] = [sorted[0], sorted.at(-1)];
  if (values.size === 0 || values.has(bound) || lowest > bound || highest < bound) return [];
  return [
    {
      place: branch.place,
      certainty: 'likely',
      message: message(branch.condition, sorted.join(', '), bound),
      advice: advice(bound),
    },
  ];
}

// `temp < 600` and `600 >= temp`: what is compared with which bound.
function comparison(test: Condition): { of: Expr; bound: number } | undefined {
  if (test.is !== 'truthy' || test.expr.is !== 'computed' || !/^[<>]=?$/.test(test.expr.by)) return undefined;
  const [left, right] = test.expr.of;
  const bound = [left, right].find((each) => each?.is === 'constant');
  const of = [left, right].find((each) => each?.is === 'prop' || each?.is === 'member');
  return of && bound?.is === 'constant' && typeof bound.value === 'number'
    ? { of, bound: bound.value }
    : undefined;
}

import { expect } from 'chai';
import fc from 'fast-check';
import { parseSync } from 'oxc-parser';
import { solve, type InputValue } from '#src/branches/solve.js';
import { exampleText } from '#src/writing/inputs.js';
import { conditionOf } from '#src/components/read-expr.js';
import { BOOLEAN, kindOnly, type Domain } from '#src/components/domain.js';
import { constant, memberOfExpr, type Expr, type Condition } from '#src/components/expr.js';
import { computed } from '#src/components/expr-filling.js';
import type { Constant } from '#src/language/operations.js';

// A condition with what it means, worked out by the language itself.
interface Sample {
  test: Condition;
  holds: (props: Record<string, InputValue>) => boolean;
}
type Read = { expr: Expr; of: (props: Record<string, InputValue>) => unknown };

const DOMAINS: ReadonlyMap<string, Domain> = new Map<string, Domain>([
  ['temp', kindOnly('number')],
  ['phase', { values: ['rise', 'soak'], kinds: [] }],
  ['lit', BOOLEAN],
]);
const prop = (name: string): Expr => ({ is: 'prop', name });
const read = (name: string): Read => ({ expr: prop(name), of: (props) => props[name] });
const sizeOf = (name: string): Read => ({
  expr: memberOfExpr(prop(name), 'length', true),
  of: (props) => (props[name] as { length?: unknown } | null | undefined)?.length,
});
const INPUTS = ['temp', 'phase', 'lit', 'cone', 'limit'].map(read).concat(sizeOf('shelf'));
const VALUES: readonly Constant[] = [0, 1, 2, 600, 'rise', 'soak', '', true, false, null, undefined];
const ORDER = {
  '<': (a: number, b: number) => a < b,
  '<=': (a: number, b: number) => a <= b,
  '>': (a: number, b: number) => a > b,
  '>=': (a: number, b: number) => a >= b,
};

const input = fc.constantFrom(...INPUTS);
const number = fc
  .constantFrom(0, 1, 2, 600)
  .map((value): Read => ({ expr: constant(value), of: () => value }));
const value = fc.constantFrom(...VALUES).map((each): Read => ({ expr: constant(each), of: () => each }));
const raised = fc.tuple(input, fc.constantFrom(1, 2, 10)).map(([each, by]): Read => ({
  expr: computed('-', [each.expr, constant(by)]),
  of: (props) => (each.of(props) as number) - by,
}));
const ordered = fc
  .tuple(fc.oneof(input, raised), fc.oneof(number, input), fc.constantFrom('<', '<=', '>', '>=' as const))
  .map(([left, right, by]): Sample => ({
    test: { is: 'truthy', expr: computed(by, [left.expr, right.expr]) },
    holds: (props) => ORDER[by as '<'](left.of(props) as number, right.of(props) as number),
  }));
const equal = fc.tuple(input, fc.oneof(value, input)).map(([left, right]): Sample => ({
  test: { is: 'same', left: left.expr, right: right.expr },
  holds: (props) => left.of(props) === right.of(props),
}));
const truth = input.map((each): Sample => ({
  test: { is: 'truthy', expr: each.expr },
  holds: (props) => Boolean(each.of(props)),
}));
const { condition } = fc.letrec<{ condition: Sample }>((tie) => ({
  condition: fc.oneof(
    { maxDepth: 3, withCrossShrink: true },
    fc.oneof(ordered, equal, truth),
    tie('condition').map((each): Sample => ({
      test: { is: 'not', of: each.test },
      holds: (props) => !each.holds(props),
    })),
    fc
      .tuple(
        fc.constantFrom('all' as const, 'any' as const),
        fc.array(tie('condition'), { minLength: 1, maxLength: 3 }),
      )
      .map(([is, of]): Sample => ({
        test: { is, of: of.map(({ test }) => test) },
        holds: (props) =>
          is === 'all' ? of.every((each) => each.holds(props)) : of.some((each) => each.holds(props)),
      })),
  ),
}));

const DOMAIN_VALUES: Record<string, readonly InputValue[]> = {
  temp: [-1, 0, 0.5, 1, 1.5, 2, 3, 599, 600, 601, NaN],
  phase: ['rise', 'soak'],
  lit: [true, false],
  cone: [...VALUES, -1, 0.5, 601, '0', 'x', NaN, [], {}],
  limit: [...VALUES, -1, 1.5, 601, '600', 'x', NaN],
  shelf: [undefined, null, [], [1], [1, 2], [1, 2, 3], new Array(601).fill(1), '', 'abc', {}],
};

describe('the solver', () => {
  it('takes the arm with every answer, and finds contradictions only where brute force finds nothing', function () {
    this.timeout(240_000);
    const counts = { inputs: 0, contradiction: 0, unsolved: 0, missed: 0 };
    fc.assert(
      fc.property(fc.array(condition, { minLength: 1, maxLength: 3 }), (samples) => {
        const answer = solve(
          samples.map(({ test }) => test),
          DOMAINS,
        );
        counts[answer.is]++;
        if (answer.is === 'inputs')
          return answer.examples.every(({ props }) => samples.every(({ holds }) => holds(props)));
        const isTaken = bruteForce(samples);
        if (answer.is === 'unsolved' && isTaken) counts.missed++;
        return answer.is === 'unsolved' || !isTaken;
      }),
      { numRuns: 10_000, seed: 1260 },
    );
    expect(counts.missed).to.be.below(60);
    expect(counts.contradiction).to.be.above(2000);
  });
});

// Tries the product of all domains that the conditions read; a condition is asked as soon as all that it reads is given.
function bruteForce(samples: readonly Sample[]): boolean {
  const texts = samples.map(({ test }) => JSON.stringify(test));
  const names = Object.keys(DOMAIN_VALUES).filter((name) => texts.some((text) => text.includes(`"${name}"`)));
  const last = texts.map((text) => names.findLastIndex((name) => text.includes(`"${name}"`)));
  const askedAt = names.map((_, i) => samples.filter((__, at) => last[at] === i));
  // One object, written over: a copy for each of a million tries would be most of the work.
  const props: Record<string, InputValue> = {};
  const tries = (index: number): boolean => {
    const name = names[index];
    if (name === undefined) return true;
    return (DOMAIN_VALUES[name] ?? []).some((each) => {
      props[name] = each;
      return askedAt[index]?.every(({ holds }) => holds(props)) && tries(index + 1);
    });
  };
  return samples.every(({ holds }, at) => last[at] !== -1 || holds(props)) && tries(0);
}

describe('inputs', () => {
  const rows: [string, string, string][] = [
    ['both sides of a bound', 'props.temp >= 600', 'temp = 600 | temp = 601'],
    ['below a bound', 'props.temp < 600', 'temp = 599'],
    ['between two bounds', 'props.temp > 20 && props.temp <= 21', 'temp = 21'],
    ['fractions', 'props.temp > 0.5 && props.temp < 0.7', 'temp = 0.6'],
    ['one of several', "['rise', 'soak'].includes(props.phase)", "phase = 'rise'"],
    ['another text', "props.phase !== 'rise'", "phase = 'other'"],
    ['nothing given, in both ways', 'props.cone == null', 'cone = undefined | cone = null'],
    [
      'nested values',
      "props.order.status === 'open' && props.order.rows > 2",
      "order = { status: 'open', rows: 3 }",
    ],
    ['an optional chain', "props.order?.status === 'open'", "order = { status: 'open' }"],
    ['lengths', 'props.plates.length > 2', 'plates = [{}, {}, {}]'],
    ['an empty list', 'props.plates.length === 0', 'plates = []'],
    ['sums', 'props.temp * 2 + 10 === 30', 'temp = 10'],
    ['two inputs', 'props.temp > props.limit', 'temp = '],
    ['starts of texts', "props.code.startsWith('K-')", "code = 'K-'"],
    ['patterns', '/^[A-Z]{2}\\d$/.test(props.code)', "code = 'AA0'"],
    ['changed texts', "props.code.trim().toLowerCase() === 'raku'", "code = 'raku'"],
    ['kinds', "typeof props.code === 'string' && props.code !== ''", "code = '"],
    ['state, by its name', 'open && !shut', 'open = true'],
    ['a contradiction', 'props.temp > 600 && props.temp < 20', 'contradiction'],
    ['a contradiction of lengths', 'props.plates.length > 2 && props.plates.length < 3', 'contradiction'],
    ['no contradiction of long lists', 'props.plates.length > 100', 'unsolved'],
    [
      'lengths between whole numbers',
      'props.plates.length > 1.5 && props.plates.length < 2.5',
      'plates = [{}, {}]',
    ],
    ['a prop that is called length', 'props.length > 100', 'length = 101'],
    ['a contradiction, whatever else holds', 'read() && props.lit && !props.lit', 'contradiction'],
    ['what can not be read', 'read(props.temp) > 3', 'unsolved'],
  ];
  for (const [title, text, wanted] of rows)
    it(title, () => {
      const answer = solve([parsedCondition(text)]);
      const shown = answer.is === 'inputs' ? answer.examples.map(exampleText).join(' | ') : answer.is;
      expect(shown.slice(0, wanted.length)).to.equal(wanted);
    });
});

// A condition over `props` and free names.
function parsedCondition(text: string): Condition {
  const { program } = parseSync('a.ts', `(${text})`, { preserveParens: false });
  const [statement] = program.body;
  if (statement?.type !== 'ExpressionStatement') throw new Error(text);
  return conditionOf(statement.expression, {
    text,
    ref: () => undefined,
    lookup: (name) => (name === 'props' ? { is: 'props' } : undefined),
  });
}

import fc from 'fast-check';

/** What an expression of random code may have: not all languages that hold expressions have all of it. */
export interface Dialect {
  chains: boolean;
  spreads: boolean;
  globals: boolean;
  bitwise: boolean;
  /** Numbers as keys of objects. */
  numbers: boolean;
}

export const JAVASCRIPT: Dialect = {
  chains: true,
  spreads: true,
  globals: true,
  bitwise: true,
  numbers: true,
};
export const ANGULAR: Dialect = {
  chains: false,
  spreads: false,
  globals: false,
  bitwise: false,
  numbers: false,
};

const LITERALS = [
  ...['0', '1', '2', '-1', '0.5', '10', '1e21'],
  ...["''", "'a'", "'0'", "' 1'", "'lid'", "'Cone 6'", "'a,b'", "'é'"],
  ...['true', 'false', 'null', 'undefined'],
];
const OPERATORS = '+ + + - * / % === !== == != < <= > >='.split(' ');
const TEXT_METHODS = [
  ...['toUpperCase()', 'toLowerCase()', 'trim()', "includes('i')", "startsWith('l')", "endsWith('d')"],
  ...["split(',')", 'slice(1)', 'at(-1)', 'charAt(0)', "indexOf('a')", "padStart(4, '0')", 'repeat(2)'],
  ...["replace('a', 'b')", 'substring(0, 2)', "concat('x')", 'toString()'],
];
const LIST_METHODS = [
  "join('-')",
  'join()',
  'includes(1)',
  'indexOf(2)',
  'slice(1)',
  'at(0)',
  'concat([3])',
  'flat()',
];
const FUNCTIONS = [
  'String',
  'Number',
  'Boolean',
  'Math.max',
  'Array.isArray',
  'Object.keys',
  'parseInt',
  'isNaN',
];

/** Constant expressions of random code, nested as deep as readers go. */
export function expressions(dialect: Dialect): fc.Arbitrary<string> {
  const { expression } = fc.letrec<{ expression: string; small: string }>((tie) => {
    const sub = tie('expression');
    const literal = fc.constantFrom(...LITERALS);
    const list = fc.array(sub, { maxLength: 3 }).map((items) => `[${items.join(', ')}]`);
    const keys = fc.constantFrom('a', 'b', "'a b'", 'length', ...(dialect.numbers ? ['1'] : []));
    const object = fc.array(fc.tuple(keys, sub), { maxLength: 3 }).map(objectOf);
    const parts: fc.Arbitrary<string>[] = [
      literal,
      literal,
      fc.tuple(sub, fc.constantFrom(...OPERATORS), sub).map(([a, by, b]) => `(${a} ${by} ${b})`),
      fc.tuple(sub, fc.constantFrom('&&', '||', '??'), sub).map(([a, by, b]) => `((${a}) ${by} (${b}))`),
      fc.tuple(sub, sub, sub).map(([a, b, c]) => `(${a} ? ${b} : ${c})`),
      fc
        .tuple(fc.constantFrom('!', '!!', '-', '+', 'typeof ', 'void '), sub)
        .map(([by, a]) => `(${by}(${a}))`),
      fc.tuple(sub, sub).map(([a, b]) => `\`${'x'}\${${a}} \${${b}}\``),
      list,
      object,
      fc
        .tuple(fc.oneof(list, object), fc.constantFrom('.length', '.a', '[0]', "['a']", '[1]'))
        .map(([of, at]) => `(${of})${at}`),
      fc
        .tuple(fc.constantFrom("'lid'", "'Cone 6'", "''"), fc.constantFrom(...TEXT_METHODS))
        .map(([of, by]) => `${of}.${by}`),
      fc.tuple(list, fc.constantFrom(...LIST_METHODS)).map(([of, by]) => `(${of}).${by}`),
    ];
    if (dialect.chains)
      parts.push(
        fc
          .tuple(sub, fc.constantFrom('?.a', '?.length', '?.[0]', '?.a?.b'))
          .map(([of, at]) => `(${of})${at}`),
      );
    if (dialect.globals)
      parts.push(fc.tuple(fc.constantFrom(...FUNCTIONS), sub).map(([by, a]) => `${by}(${a})`));
    if (dialect.bitwise)
      parts.push(
        fc
          .tuple(sub, fc.constantFrom('&', '|', '^', '<<', '>>', '**'), literal)
          .map(([a, by, b]) => `((${a}) ${by} (${b}))`),
      );
    if (dialect.spreads)
      parts.push(
        fc.tuple(sub, list).map(([a, b]) => `[${a}, ...${b}]`),
        fc.tuple(sub, sub).map(([a, b]) => `({ a: ${a}, ...(${b}), b: 2 })`),
        fc.tuple(sub, sub).map(([a, b]) => `({ a: 1, [${a}]: ${b} })`),
      );
    return { expression: fc.oneof({ maxDepth: 3, depthSize: 'small' }, ...parts), small: literal };
  });
  return expression;
}

const objectOf = (entries: [string, string][]): string =>
  `({ ${entries.map(([key, value]) => `${key}: ${value}`).join(', ')} })`;

/** An expression, and what the engine gives for it. */
export interface Sample {
  text: string;
  value: unknown;
}

/** Random constant expressions that don't throw, the same for the same seed. */
export function sampled(dialect: Dialect, count: number, seed: number): Sample[] {
  return fc.sample(expressions(dialect), { numRuns: count, seed }).flatMap((text) => {
    try {
      // The texts are made above, of literals and operators alone.
      return [{ text, value: (new Function(`return (${text});`) as () => unknown)() }];
    } catch {
      return [];
    }
  });
}

/** How answers hold against the engine. */
export interface Verdict {
  wrong: string[];
  unknown: number;
  count: number;
}

/** Holds the answers of a reader against the engine: right or unknown. */
export function judged(
  samples: readonly Sample[],
  answers: readonly ({ value: unknown } | undefined)[],
): Verdict {
  const wrong = samples.flatMap(({ text, value }, i) => {
    const answer = answers[i];
    if (!answer || isSame(answer.value, value)) return [];
    return [`${text} is ${inspected(value)}, not ${inspected(answer.value)}`];
  });
  return { wrong, unknown: answers.filter((each) => !each).length, count: samples.length };
}

const inspected = (value: unknown): string =>
  typeof value === 'object' && value !== null ? JSON.stringify(value) : `${typeof value} ${String(value)}`;

function isSame(a: unknown, b: unknown): boolean {
  if (typeof a !== 'object' || a === null || typeof b !== 'object' || b === null)
    return Object.is(a, b) || a === b;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const keys = Object.keys(a);
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>];
  return (
    keys.length === Object.keys(b).length &&
    keys.every((key) => key in right && isSame(left[key], right[key]))
  );
}

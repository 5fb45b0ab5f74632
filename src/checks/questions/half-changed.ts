import type { Block } from '../../specs/model/blocks.js';
import type { Assertion } from '../../specs/model/steps.js';
import { isAssert, kindsOf, stands } from '../../specs/model/rounds.js';
import { grouped } from '../../util/grouped.js';
import { remembered } from '../../util/remembered.js';
import { stemOf, wordsOf } from '../../util/words.js';
import type { FileContext } from './context.js';

/** A spec that asserts what another one's title says, where the two titles differ in one word. */
export interface HalfChanged {
  other: Block;
  difference: Difference;
  /** The other one asserts what this one's title says. */
  swapped: boolean;
}

/** The specs of a group that look like copies which were only half changed. */
export function halfChangedIn(specs: readonly Block[], context: FileContext): Map<Block, HalfChanged> {
  const bodies: Bodies = {
    kinds: remembered((spec) => kindsOf(spec).join()),
    words: remembered(wordsIn),
    asserted: remembered(assertedIn),
  };
  return new Map(
    likeTitled(specs).flatMap(([spec, others]) => {
      const [found] = others.flatMap((other) => halfChanged(spec, other, bodies, context) ?? []);
      return found ? [[spec, found] as const] : [];
    }),
  );
}

/** What is asked of the bodies of many specs, more than once. */
interface Bodies {
  /** The kinds of its statements, in order. */
  kinds: (spec: Block) => string;
  /** All words in it. */
  words: (spec: Block) => ReadonlySet<string>;
  /** What it asserts outright, in a literal or by a whole name; what is denied is not what it is about. */
  asserted: (spec: Block) => ReadonlySet<string>;
}

// Each spec with those whose titles differ from its own in one word.
function likeTitled(specs: readonly Block[]): [Block, Block[]][] {
  const titled = specs.length < 2 ? [] : specs.map((spec) => ({ spec, patterns: patternsOf(spec) }));
  const byPattern = grouped(
    titled.flatMap(({ spec, patterns }) => patterns.map((pattern) => ({ spec, pattern }))),
    ({ pattern }) => pattern,
  );
  return titled.map(({ spec, patterns }) => [
    spec,
    patterns
      .flatMap((pattern) => byPattern.get(pattern) ?? [])
      .map((each) => each.spec)
      .filter((each) => each !== spec),
  ]);
}

// A title with each of its words left out once.
function patternsOf({ title }: Block): string[] {
  const words = title.text.split(/\s+/);
  return words.length < 2 ? [] : words.map((_, i) => words.toSpliced(i, 1, '\0').join(' '));
}

/** Where two titles of one pattern differ: the words that only one of them has. */
export interface Difference {
  mine: string;
  theirs: string;
}

function halfChanged(
  spec: Block,
  other: Block,
  bodies: Bodies,
  context: FileContext,
): HalfChanged | undefined {
  const { words, asserted, kinds } = bodies;
  const difference = differenceOf(spec.title.text, other.title.text);
  if (!difference) return undefined;
  const { mine, theirs } = difference;
  // A word that stands anywhere in the body is not missing from it.
  if (hasText(spec, mine, context)) return undefined;
  // Both do the same kinds of thing in the same order.
  if (hasAny(words(spec), mine) || kinds(spec) !== kinds(other)) return undefined;
  if (!has(asserted(spec), theirs)) return undefined;
  const swapped = has(asserted(other), mine) && !hasAny(words(other), theirs);
  if (!swapped && !has(asserted(other), theirs)) return undefined;
  return isCommon(theirs, [spec, other], bodies) ? undefined : { other, difference, swapped };
}

// Words that say how, not what: they need not stand in a body.
const LOOSE: ReadonlySet<string> = new Set(
  'a an the is are be not no with without and or when if on off in of to for by from at as only also default custom valid invalid negative positive true false null undefined empty all any some each every multiple several single content children child text label more less than given provided set unset missing present correct correctly wrong 0 1'.split(
    ' ',
  ),
);

const DENYING: ReadonlySet<string> = new Set(
  "no not without neither never don't doesn't isn't empty missing hides hidden".split(' '),
);

const NUMBERS: ReadonlyMap<string, string> = new Map(
  'zero one two three four five six seven eight nine ten'.split(' ').map((word, i) => [word, String(i)]),
);

const plain = (word: string): string => NUMBERS.get(word) ?? stemOf(word);

// The titles have as many words, and differ in one.
function differenceOf(mine: string, theirs: string): Difference | undefined {
  const a = mine.split(/\s+/);
  const b = theirs.split(/\s+/);
  const at = a.findIndex((word, i) => word !== b[i]);
  const [x = '', y = ''] = [a[at], b[at]];
  // Where something is said to be missing, the words for it are missing, too.
  const isDenied = a.some((word) => DENYING.has(word.toLowerCase()));
  return !isDenied && isSaying(x) && isSaying(y) && !isSame(x, y) ? { mine: x, theirs: y } : undefined;
}

const isSaying = (part: string): boolean => {
  const words = wordsOf(part);
  return words.length > 0 && words.every((word) => !LOOSE.has(word));
};

// `kiln` and `kilns`, `open` and `opened` are no contradiction, nor is a word that is a part of the other.
const isSame = (a: string, b: string): boolean => {
  const [x, y] = [wordsOf(a).map(plain), wordsOf(b).map(plain)];
  return x.some((word) => y.includes(word));
};

const wordsIn = ({ statements }: Block): Set<string> =>
  new Set(statements.flatMap(({ words }) => [...words].map(plain)));

function assertedIn(spec: Block): Set<string> {
  const asserts = spec.steps.filter(isAssert);
  const statements = spec.statements.filter((statement) => {
    const inside = asserts.filter((step) => stands(step, statement));
    return inside.some(({ assertion }) => !denies(assertion));
  });
  return new Set(statements.flatMap(({ saying }) => [...saying].map(plain)));
}

const denies = ({ not, asks, args: [first] }: Assertion): boolean =>
  not ||
  asks === 'falsy' ||
  asks === 'null' ||
  asks === 'undefined' ||
  (first?.is === 'constant' && first.value === false);

// What other specs assert as well, without saying so in their titles, is no matter of one of them.
function isCommon(word: string, [spec, other]: readonly [Block, Block], { asserted }: Bodies): boolean {
  const siblings = spec.parent?.children.filter((child) => child.kind === 'spec') ?? [];
  return siblings.some(
    (sibling) =>
      sibling !== spec &&
      sibling !== other &&
      !hasAny(new Set(wordsOf(sibling.title.text).map(plain)), word) &&
      has(asserted(sibling), word),
  );
}

const has = (words: ReadonlySet<string>, part: string): boolean =>
  wordsOf(part).every((word) => words.has(plain(word)));
const hasAny = (words: ReadonlySet<string>, part: string): boolean =>
  wordsOf(part).some((word) => [...words].some((each) => each.includes(plain(word))));

function hasText({ body }: Block, part: string, { source: { text } }: FileContext): boolean {
  const code = body ? text.slice(body.start, body.end).toLowerCase() : '';
  return wordsOf(part).some((word) => code.includes(plain(word)));
}

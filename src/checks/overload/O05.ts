import type { Edit, Mend } from '../../mends/edit.js';
import { quoted as inQuotes } from '../../mends/style.js';
import type { Block } from '../../model/specs/blocks.js';
import { isAssert, kindsOf, stands } from '../../model/specs/rounds.js';
import { stemOf, wordsOf } from '../../util/words.js';
import { inFile, type FileCheck, type FileContext, type Found } from '../check.js';
import { quoted, runningSpecs } from '../order.js';
import { quoteFor, storesSnapshots } from './retitled.js';

const messageOther = (says: string, does: string, other: string): string =>
  `The title says “${says}”, but the spec asserts “${does}”, as ${other} does already.`;
const messageSwapped = (other: string): string =>
  `This spec does what the title of ${other} says, and that one does what this title says.`;
const adviceOther = (says: string): string => `Write it for “${says}”, or take the copy out.`;
const adviceSwapped = 'Change the two titles over.';

/** Specs whose title says one thing, and whose body does another. */
export const O05: FileCheck = {
  code: 'O05',
  family: 'overload',
  scope: 'file',
  title: 'Title and body disagree',
  level: 'risk',
  why: 'A spec that was copied, and only half changed, makes a report name what did not break, and leaves untested what its title promises.',
  trouble:
    "it('shows cone 6', () => { … getByText('Cone 6') … });\nit('shows cone 10', () => { … getByText('Cone 6') … });",
  mended:
    "it('shows cone 6', () => { … getByText('Cone 6') … });\nit('shows cone 10', () => { … getByText('Cone 10') … });",
  run(context) {
    const specs = runningSpecs(context.file).filter(
      ({ title, repeated, statements }) => title.exact && !repeated && statements.length > 0,
    );
    return specs.flatMap((spec) => {
      const siblings = specs.filter((each) => each !== spec && each.parent === spec.parent);
      for (const other of siblings) {
        const found = check(spec, other, context);
        if (found) return [found];
      }
      return [];
    });
  },
};

/** Where two titles of one pattern differ: the words that only one of them has. */
interface Difference {
  mine: string;
  theirs: string;
}

function check(spec: Block, other: Block, context: FileContext): Found | undefined {
  const difference = differenceOf(spec.title.text, other.title.text);
  if (!difference || !isAlike(spec, other)) return undefined;
  const { mine, theirs } = difference;
  if (!has(assertedIn(spec), theirs) || hasAny(wordsIn(spec), mine)) return undefined;
  const swapped = has(assertedIn(other), mine) && !hasAny(wordsIn(other), theirs);
  if (!swapped && !has(assertedIn(other), theirs)) return undefined;
  if (isCommon(theirs, [spec, other])) return undefined;
  return {
    place: inFile(context, spec.titlePlace ?? spec.callee),
    block: spec,
    certainty: 'likely',
    message: swapped ? messageSwapped(quoted(other)) : messageOther(mine, theirs, quoted(other)),
    advice: swapped ? adviceSwapped : adviceOther(mine),
    evidence: [
      {
        ...inFile(context, other.titlePlace ?? other.callee),
        note: swapped ? 'the other title' : 'the spec of that',
      },
    ],
    mend: swapped ? titlesChanged(spec, other, context) : rewritten(spec, difference, context),
  };
}

// Words that say how, not what: they need not stand in a body.
const LOOSE: ReadonlySet<string> = new Set(
  'a an the is are be not no with without and or when if on off in of to for by from at as only also default custom valid invalid true false null undefined empty all any some each every multiple several single content children child text label more less than given provided set unset missing present correct correctly wrong 0 1'.split(
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

function differenceOf(mine: string, theirs: string): Difference | undefined {
  const a = mine.split(/\s+/);
  const b = theirs.split(/\s+/);
  let start = 0;
  while (start < a.length && a[start] === b[start]) start++;
  let end = 0;
  while (end < Math.min(a.length, b.length) - start && a.at(-1 - end) === b.at(-1 - end)) end++;
  const [x, y] = [a.slice(start, a.length - end), b.slice(start, b.length - end)];
  const isSlot = (part: readonly string[]): boolean => part.length === 1 && isSaying(part.join(' '));
  // Where something is said to be missing, the words for it are missing, too.
  const isDenied = a.some((word) => DENYING.has(word.toLowerCase()));
  return start + end >= 1 && !isDenied && isSlot(x) && isSlot(y) && !isSame(x.join(), y.join())
    ? { mine: x.join(' '), theirs: y.join(' ') }
    : undefined;
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

// Both do the same kinds of thing in the same order.
const isAlike = (a: Block, b: Block): boolean => kindsOf(a).join() === kindsOf(b).join();

const wordsIn = ({ statements }: Block): Set<string> =>
  new Set(statements.flatMap(({ words }) => [...words].map(plain)));

// What a spec asserts outright, in a literal or by a whole name; what is denied is not what it is about.
function assertedIn(spec: Block): Set<string> {
  const asserts = spec.steps.filter(isAssert);
  const statements = spec.statements.filter((statement) => {
    const inside = asserts.filter((step) => stands(step, statement));
    return inside.some(({ assertion }) => !assertion.not);
  });
  return new Set(statements.flatMap(({ saying }) => [...saying].map(plain)));
}

// What other specs assert as well, without saying so in their titles, is no matter of one of them.
function isCommon(word: string, [spec, other]: readonly [Block, Block]): boolean {
  const siblings = spec.parent?.children.filter((each) => each.kind === 'spec') ?? [];
  return siblings.some(
    (each) =>
      each !== spec &&
      each !== other &&
      !hasAny(new Set(wordsOf(each.title.text).map(plain)), word) &&
      has(assertedIn(each), word),
  );
}

const has = (words: ReadonlySet<string>, part: string): boolean =>
  wordsOf(part).every((word) => words.has(plain(word)));
const hasAny = (words: ReadonlySet<string>, part: string): boolean =>
  wordsOf(part).some((word) => [...words].some((each) => each.includes(plain(word))));

function titlesChanged(a: Block, b: Block, context: FileContext): Mend | undefined {
  if (!a.titlePlace || !b.titlePlace || storesSnapshots(a) || storesSnapshots(b)) return undefined;
  const edit = ({ start, end }: NonNullable<Block['titlePlace']>, title: string): Edit => ({
    file: context.file.path,
    start,
    end,
    text: inQuotes(title, quoteFor(title, context)),
  });
  return {
    summary: 'Change the two titles over',
    safe: true,
    edits: [edit(a.titlePlace, b.title.text), edit(b.titlePlace, a.title.text)],
  };
}

// The word of the title in place of the other's, where that stands in literals only.
function rewritten(
  { statements }: Block,
  { mine, theirs }: Difference,
  context: FileContext,
): Mend | undefined {
  const word = theirs.replace(/^\W+|\W+$/g, '');
  const own = mine.replace(/^\W+|\W+$/g, '');
  const named = statements.some(({ uses }) =>
    [...uses].some((name) => wordsOf(name).includes(word.toLowerCase())),
  );
  const edits = statements
    .flatMap(({ literals }) => literals)
    .flatMap(({ start, end, text }): Edit[] => {
      const pattern = new RegExp(`\\b${word.replace(/[^\w ]/g, '\\$&')}\\b`, 'g');
      return pattern.test(text)
        ? [{ file: context.file.path, start, end, text: text.replace(pattern, () => own) }]
        : [];
    });
  if (named || edits.length === 0 || !/^[\w-]+$/.test(own)) return undefined;
  return { summary: `Write “${own}” for “${word}”`, safe: false, edits };
}

import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Assertion } from '../../specs/model/steps.js';
import type { Edit, Mend, Finding } from '../../finding.js';
import { quoted as inQuotes } from '../../writing/edits/style.js';
import { isAssert, kindsOf, stands } from '../../specs/model/rounds.js';
import { grouped } from '../../util/grouped.js';
import { remembered } from '../../util/remembered.js';
import { stemOf, wordsOf } from '../../util/words.js';
import type { FileCheck } from '../questions/check.js';
import type { FileContext } from '../questions/context.js';
import { otherDeed } from '../questions/told-deed.js';
import { otherSubjects, SUBJECT } from '../questions/other-subject.js';
import { copiesIn } from '../questions/copies.js';
import { contradicted, givenOtherwise } from '../questions/told-value.js';
import { inShort } from '../../util/printable.js';
import { quotedTitle, runningByGroup } from '../questions/order.js';
import { quoteFor, storesSnapshots, titlePlaceOf } from '../../writing/retitled.js';

const messageOther = (says: string, does: string, other: string): string =>
  `The title says “${says}”, but the spec asserts “${does}”, as ${other} does already.`;
const messageSwapped = (other: string): string =>
  `This spec does what the title of ${other} says, and that one does what this title says.`;
const messageValue = (says: string, does: string): string =>
  `The title says “${says}”, and the spec asserts “${does}”.`;
const messageGiven = (says: string, does: string): string =>
  `The title says “${says}”, and the spec gives “${does}”.`;
const messageCopy = (other: string): string =>
  `This spec does the very same as ${other}: one of the two titles is not true, or one of the specs is not needed.`;
const MESSAGES = {
  key: (says: string, does: string): string => `The title speaks of ${says}, and the spec presses ${does}.`,
  gesture: (says: string, does: string): string =>
    `The title speaks of a ${says}, and the spec does ${does}.`,
  outcome: (says: string): string =>
    `The title says “${says}”, and all that the spec asserts is that something is there.`,
};
const messageSubject = (told: string, rendered: string): string =>
  `The group speaks of ${told}, and its specs render ${rendered}.`;
const adviceCopy = 'Write what this title says, or take the spec out.';
const adviceValue = 'Correct the one that is out of date.';
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
  certain:
    'Sure where two specs of different titles have the same body; all else is likely at most: titles are words.',
  trouble:
    "it('shows cone 6', () => { … getByText('Cone 6') … });\nit('shows cone 10', () => { … getByText('Cone 6') … });",
  mended:
    "it('shows cone 6', () => { … getByText('Cone 6') … });\nit('shows cone 10', () => { … getByText('Cone 10') … });",
  facts: [SUBJECT],
  across: (context) =>
    otherSubjects(context).map(({ place, told, rendered }) => ({
      place,
      level: 'hint',
      certainty: 'likely',
      message: messageSubject(told, rendered),
      advice: adviceValue,
    })),
  run(context) {
    const bodies: Bodies = {
      kinds: remembered((spec) => kindsOf(spec).join()),
      words: remembered(wordsIn),
      asserted: remembered(assertedIn),
    };
    const copies = copiesIn(context.file);
    return [...runningByGroup(context.file).values()].flatMap((group) => {
      const specs = group.filter((each) => each.title.exact && !each.repeated && each.fn !== undefined);
      return likeTitled(specs).flatMap(([spec, others]) => {
        const [found] = others.flatMap((other) => check(spec, other, bodies, context) ?? []);
        return (
          found ??
          ofValue(spec, context) ??
          ofCopy(spec, copies.get(spec), context) ??
          ofDeed(spec, context) ??
          []
        );
      });
    });
  },
};

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
interface Difference {
  mine: string;
  theirs: string;
}

function check(spec: Block, other: Block, bodies: Bodies, context: FileContext): Finding | undefined {
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
  if (isCommon(theirs, [spec, other], bodies)) return undefined;
  return {
    place: titlePlaceOf(spec, context),
    within: titlesOf(spec),
    certainty: 'likely',
    message: swapped ? messageSwapped(quotedTitle(other)) : messageOther(mine, theirs, quotedTitle(other)),
    advice: swapped ? adviceSwapped : adviceOther(mine),
    evidence: [
      {
        ...titlePlaceOf(other, context),
        note: swapped ? 'the other title' : 'the spec of that',
      },
    ],
    mend: swapped ? titlesChanged(spec, other, context) : rewritten(spec, difference, context),
  };
}

function ofValue(spec: Block, context: FileContext): Finding | undefined {
  const asserted = contradicted(spec, context);
  const found = asserted ?? givenOtherwise(spec, context);
  const message = asserted ? messageValue : messageGiven;
  return (
    found && {
      place: titlePlaceOf(spec, context),
      within: titlesOf(spec),
      certainty: 'likely',
      message: message(found.told, inShort(found.asserted, 40)),
      advice: adviceValue,
      evidence: [{ ...found.place, note: asserted ? 'what is asserted' : 'what is given' }],
    }
  );
}

function ofDeed(spec: Block, context: FileContext): Finding | undefined {
  const found = otherDeed(spec, context);
  return (
    found && {
      place: titlePlaceOf(spec, context),
      within: titlesOf(spec),
      certainty: 'likely',
      message: MESSAGES[found.of](found.told, found.done),
      advice: adviceValue,
      evidence: [{ ...found.place, note: found.of === 'outcome' ? 'what is asserted' : 'what is done' }],
    }
  );
}

function ofCopy(spec: Block, other: Block | undefined, context: FileContext): Finding | undefined {
  return (
    other && {
      place: titlePlaceOf(spec, context),
      within: titlesOf(spec),
      certainty: 'sure',
      message: messageCopy(quotedTitle(other)),
      advice: adviceCopy,
      evidence: [{ ...titlePlaceOf(other, context), note: 'the other title' }],
    }
  );
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

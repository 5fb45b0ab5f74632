import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Edit, Mend, Finding } from '../../finding.js';
import { quoted as inQuotes } from '../../writing/edits/style.js';
import { wordsOf } from '../../util/words.js';
import type { FileCheck } from '../questions/check.js';
import type { FileContext } from '../questions/context.js';
import { copiesIn } from '../questions/copies.js';
import { halfChangedIn, type Difference, type HalfChanged } from '../questions/half-changed.js';
import { otherSubjects, SUBJECT } from '../questions/other-subject.js';
import { strangeRenders } from '../questions/strange-renders.js';
import { otherDeed } from '../questions/told-deed.js';
import { contradicted, givenOtherwise, quotedNowhere } from '../questions/told-value.js';
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
const messageQuoted = (quoted: string): string =>
  `The title promises “${quoted}”, and neither this spec nor anything else in the file speaks of it.`;
const messageCopy = (other: string): string =>
  `This spec does the very same as ${other}: one of the two titles is not true, or one of the specs is not needed.`;
const MESSAGES = {
  key: (says: string, does: string): string => `The title speaks of ${says}, and the spec presses ${does}.`,
  gesture: (says: string, does: string): string =>
    `The title speaks of a ${says}, and the spec does ${does}.`,
  nothing: (says: string): string =>
    `The title says “${says}”, and the spec does nothing but render and assert.`,
  outcome: (says: string): string =>
    `The title says “${says}”, and all that the spec asserts is that something is there.`,
  absence: (says: string): string =>
    `The title says “${says}”, and all that the spec asserts is that something is not there.`,
  call: (says: string): string =>
    `The title says “${says}”, and all that the spec asserts is a call: nothing that a user would see.`,
  callee: (says: string, does: string): string =>
    `The title speaks of a call of ${says}, and the spec asserts those of ${does}.`,
  beside: (says: string): string =>
    `The title says no more than “${says}”, and the spec acts as well, and asserts the call that comes of it.`,
  called: (says: string): string => `The title says “${says}”, and the spec asserts that there is a call.`,
  denied: (says: string): string =>
    `The title speaks of a call of ${says}, and all that the spec asserts of it is that it is not called.`,
  undone: (says: string): string => `The title says “${says}”, and the spec asserts nothing of a call.`,
  way: (says: string): string =>
    `The title says “${says}”, and the spec asserts nothing of where a user then is.`,
  looks: (says: string): string =>
    `The title says “${says}”, and nothing that the spec asserts is about how anything looks.`,
  promise: (says: string, what: string): string =>
    `The title says “${says}”, and nothing that the spec asserts is about ${what}.`,
};
const messageSubject = (told: string, rendered: string): string =>
  `The group speaks of ${told}, and its specs render ${rendered}.`;
const messageStrange = (told: string, rendered: string, specs: number): string =>
  `The group is about ${told}, and ${specs === 1 ? 'this spec renders' : `${specs} of its specs render`} ${rendered} alone: whatever ${told} does, ${specs === 1 ? 'it stays' : 'they stay'} green.`;
const adviceStrange = (told: string): string =>
  `Do here what ${told} does, or move what is about the other one to a group of its own.`;
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
    const copies = copiesIn(context.file);
    const strange = strangeRenders(context).map(({ specs: [spec, ...more], told, rendered }): Finding => ({
      place: titlePlaceOf(spec, context),
      within: titlesOf(spec),
      certainty: 'likely',
      message: messageStrange(told, rendered, more.length + 1),
      advice: adviceStrange(told),
      evidence: more.map((each) => ({ ...titlePlaceOf(each, context), note: 'and this one' })),
    }));
    const told = [...runningByGroup(context.file).values()].flatMap((group) => {
      const specs = group.filter((each) => each.title.exact && !each.repeated && each.fn !== undefined);
      const half = halfChangedIn(specs, context);
      // A group of one says with its own title what its spec is about.
      const isAlone = specs.length === 1;
      return specs.flatMap(
        (spec) =>
          ofHalf(spec, half.get(spec), context) ??
          ofValue(spec, context) ??
          ofCopy(spec, isAlone ? undefined : copies.get(spec), context) ??
          ofDeed(spec, context) ??
          ofQuoted(spec, context) ??
          [],
      );
    });
    return [...strange, ...told];
  },
};

function ofHalf(spec: Block, found: HalfChanged | undefined, context: FileContext): Finding | undefined {
  if (!found) return undefined;
  const { other, difference, swapped } = found;
  const { mine, theirs } = difference;
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

function ofQuoted(spec: Block, context: FileContext): Finding | undefined {
  const quoted = storesSnapshots(spec) ? undefined : quotedNowhere(spec, context);
  return quoted === undefined
    ? undefined
    : {
        place: titlePlaceOf(spec, context),
        within: titlesOf(spec),
        certainty: 'likely',
        message: messageQuoted(quoted),
        advice: adviceValue,
      };
}

function ofDeed(spec: Block, context: FileContext): Finding | undefined {
  const found = otherDeed(spec, context);
  return (
    found && {
      place: titlePlaceOf(spec, context),
      within: titlesOf(spec),
      level: found.of === 'beside' || found.of === 'promise' ? 'hint' : undefined,
      certainty: 'likely',
      message: MESSAGES[found.of](found.told, found.done),
      advice: adviceValue,
      evidence: [
        {
          ...found.place,
          note: found.of === 'key' || found.of === 'gesture' ? 'what is done' : 'what is asserted',
        },
      ],
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

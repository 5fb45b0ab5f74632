import { titlesOf, commentsIn, type Block } from '../../specs/model/blocks.js';
import type { Mend, Finding } from '../../finding.js';
import { pastEmptyLine, wholeLines } from '../../writing/edits/style.js';
import { roundsOf } from '../../specs/model/rounds.js';
import { type FileCheck } from '../questions/check.js';
import { bodyCode } from '../questions/copies.js';
import { inFile, type FileContext } from '../questions/context.js';
import { titleFromSteps } from '../../writing/phrases.js';
import { retitled, storesSnapshots, titlePlaceOf } from '../../writing/retitled.js';

const messageTwice = (title: string): string =>
  `“${title}” is the title of another spec of this group: a report can't say which of them failed.`;
const messageSame = (title: string): string =>
  `“${title}” stands here twice, with the same body: one of them was meant to be something else.`;
const messageHole = (title: string): string =>
  `“${title}” has a placeholder that is never filled in: the title stands in plain quotes.`;
const adviceTwice = (title: string | undefined): string =>
  title === undefined ? 'Say in each title what it alone asserts.' : `Call this one “${title}”.`;
const adviceSame = 'Write what the copy was meant to assert, or take it out.';
const adviceHole = 'Write the title between backticks.';

/** Titles that a group has twice, and placeholders that are never filled in. */
export const O12: FileCheck = {
  code: 'O12',
  family: 'overload',
  scope: 'file',
  title: 'Same title twice',
  level: 'risk',
  why: 'A report names specs by their titles: with two of one name, nobody knows which failed, and snapshots of both get one name.',
  certain: 'Sure where both titles are written out.',
  trouble: "it('opens the lid', …);\nit('opens the lid', …);",
  mended: "it('opens the lid by hand', …);\nit('opens the lid when the kiln is cold', …);",
  run: (context) =>
    context.file.blocks.flatMap((block) => [
      ...(block.kind === 'spec' && block.parent ? twice(block, block.parent, context) : []),
      ...unfilled(block, context),
    ]),
};

function twice(spec: Block, group: Block, context: FileContext): Finding[] {
  const isPlain = (each: Block): boolean =>
    each.kind === 'spec' && each.title.exact && !each.repeated && !each.maybe && each.mark !== 'skip';
  if (!isPlain(spec)) return [];
  const first = group.children.find((child) => isPlain(child) && child.title.text === spec.title.text);
  if (!first || first === spec) return [];
  const same = isSameBody(first, spec);
  const title = same ? undefined : newTitle(spec, group, context);
  return [
    {
      place: titlePlaceOf(spec, context),
      within: titlesOf(spec),
      level: same ? 'blocker' : undefined,
      certainty: 'sure',
      message: same ? messageSame(spec.title.text) : messageTwice(spec.title.text),
      advice: same ? adviceSame : adviceTwice(title),
      evidence: [{ ...titlePlaceOf(first, context), note: 'the first of that title' }],
      mend: same ? removed(spec, context) : title === undefined ? undefined : retitled(spec, title, context),
    },
  ];
}

const isSameBody = (a: Block, b: Block): boolean => a.statements.length > 0 && bodyCode(a) === bodyCode(b);

// Words for what this one asserts, if none of its group has them yet.
function newTitle(spec: Block, group: Block, context: FileContext): string | undefined {
  const [round] = roundsOf(spec).slice(-1);
  const title = round && titleFromSteps(round, context);
  return group.children.some((child) => child.title.text === title) ? undefined : title;
}

// A copy proves nothing that the first does not; stored snapshots are numbered, and stay.
function removed(spec: Block, context: FileContext): Mend | undefined {
  const { text } = context.source;
  const lines = wholeLines(text, spec.place);
  if (!lines || storesSnapshots(spec) || commentsIn(context.file, spec.place).length > 0) return undefined;
  const edit = { ...inFile(context, { ...lines, end: pastEmptyLine(text, lines.end) }), text: '' };
  return { summary: 'Take the copy out', safe: true, edits: [edit] };
}

const HOLE = /\$\{[\w.$[\]]+\}/;

function unfilled(block: Block, context: FileContext): Finding[] {
  const { titlePlace, title } = block;
  const { text } = context.source;
  const quote = titlePlace ? text[titlePlace.start] : undefined;
  if (!titlePlace || (quote !== '"' && quote !== "'") || !HOLE.test(title.text)) return [];
  const inner = text.slice(titlePlace.start + 1, titlePlace.end - 1);
  const isPlain = !inner.includes('`') && !inner.includes('\\') && !storesSnapshots(block);
  return [
    {
      place: inFile(context, titlePlace),
      within: titlesOf(block),
      certainty: 'sure',
      message: messageHole(title.text),
      advice: adviceHole,
      mend: isPlain
        ? {
            summary: 'Fill the placeholder in',
            safe: false,
            edits: [{ ...inFile(context, titlePlace), text: `\`${inner}\`` }],
          }
        : undefined,
    },
  ];
}

import { titlesOf, commentsIn, isTypeLevel, type Block } from '../../specs/model/blocks.js';
import type { Edit, Mend, Finding } from '../../finding.js';
import { hasEachAndTodo, isPendingWithoutBody } from '../questions/runner-forms.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';

const messageFocused = (kind: string): string =>
  `This ${kind} is focused: the others of the file do not run.`;
const messageSkipped = (kind: string, reason: boolean): string =>
  `This ${kind} is switched off${reason ? ', as a comment says' : ', and no comment says why'}.`;
const messageEmpty = 'This spec has no body: it is green whatever the component does.';
const adviceFocused = 'Take the mark off before the merge.';
const adviceSkipped = 'Mend it and switch it on, or say in a comment what it waits for.';
const adviceKnown = 'Switch it on as soon as what the comment speaks of is done.';
const adviceEmpty = 'Write it, or mark it as still to be written.';

/** Focused and switched-off specs, and specs without a body. */
export const O06: FileCheck = {
  code: 'O06',
  family: 'overload',
  scope: 'file',
  title: 'Left focused, or switched off',
  level: 'blocker',
  why: 'One focused spec switches the rest of its file off, and the run stays green.',
  certain: 'Sure where the mark is the runner’s own.',
  trouble: "it.only('fires the kiln', () => { … });",
  mended: "it('fires the kiln', () => { … });",
  run: (context) =>
    context.file.blocks
      .filter((block) => block.kind === 'spec' || block.kind === 'group')
      .flatMap((block) => check(block, context)),
};

function check(block: Block, context: FileContext): Finding[] {
  const base = { within: titlesOf(block), certainty: 'sure' as const };
  if (block.mark === 'only') {
    const place = inFile(context, block.markPlace ?? block.callee);
    return [
      {
        ...base,
        place,
        message: messageFocused(block.kind),
        advice: adviceFocused,
        mend: unmarked(block, context),
      },
    ];
  }
  if (block.mark === 'skip') {
    const reason = hasComment(block, context) || isSaidOfGroup(block, context);
    const place = inFile(context, block.markPlace ?? block.callee);
    return [
      {
        ...base,
        place,
        level: reason ? 'hint' : 'risk',
        message: messageSkipped(block.kind, reason),
        advice: reason ? adviceKnown : adviceSkipped,
      },
    ];
  }
  const empty =
    block.kind === 'spec' &&
    block.empty &&
    block.mark === undefined &&
    block.body !== undefined &&
    !isTypeLevel(context.file, block);
  return empty
    ? [
        {
          ...base,
          place: inFile(context, block.place),
          level: 'risk',
          message: messageEmpty,
          advice: adviceEmpty,
          mend: pending(block, context),
        },
      ]
    : [];
}

function unmarked(block: Block, context: FileContext): Mend | undefined {
  if (!block.markPlace) return undefined;
  return {
    summary: 'Take the mark off',
    safe: true,
    edits: [{ ...inFile(context, block.markPlace), text: '' }],
  };
}

// `it.todo('title')`, or `it('title')` where that is the runner's way to say it.
function pending(block: Block, context: FileContext): Mend | undefined {
  const { titlePlace, fn, callee, place, repeated } = block;
  const hasTodo = hasEachAndTodo(context);
  if (!titlePlace || !fn || repeated || commentsIn(context.file, place).length > 0) return undefined;
  if (!hasTodo && !isPendingWithoutBody(context)) return undefined;
  const isPlain = /^\w+$/.test(context.source.text.slice(callee.start, callee.end));
  if (!isPlain) return undefined;
  const file = context.file.path;
  const edits: Edit[] = [{ file, start: titlePlace.end, end: place.end - 1, text: '' }];
  if (hasTodo) edits.unshift({ file, start: callee.end, end: callee.end, text: '.todo' });
  return { summary: 'Mark it as still to be written', safe: true, edits };
}

// Where all specs of a group are switched off, the comment at the group speaks of them.
function isSaidOfGroup({ parent }: Block, context: FileContext): boolean {
  if (parent?.kind !== 'group') return false;
  const inIt = context.file.blocks.filter((each) => each.parent === parent && each.kind !== 'hook');
  return inIt.every(({ mark }) => mark === 'skip') && hasComment(parent, context);
}

// A comment on the line, the line before, or at the start of the body gives the reason.
function hasComment(block: Block, { file, source }: FileContext): boolean {
  const line = source.lines.at(block.place.start).line;
  return file.comments.some((comment) => {
    const last = source.lines.at(comment.end).line;
    const first = source.lines.at(comment.start).line;
    return (
      comment.text.trim().length > 2 &&
      (last === line || last === line - 1 || (first === line + 1 && comment.end < block.place.end))
    );
  });
}

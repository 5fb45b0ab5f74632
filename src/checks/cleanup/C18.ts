import type { Finding, Mend } from '../../finding.js';
import { majorOf } from '../../environment/versions.js';
import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Settling, Step, StepOf } from '../../specs/model/steps.js';
import { aloneIn } from '../../writing/callback.js';
import { grouped } from '../../util/grouped.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { onceAFile, onceAFileMended } from '../questions/once-a-file.js';
import { runningBlocks } from '../questions/order.js';

const message = (name: string): string =>
  `act stands around ${name}, which has the renders come to rest by itself.`;
const advice = (call: string): string => `Write it alone: ${call}.`;

/** A call of act around what calls it by itself. One finding a file. */
export const C18: FileCheck = {
  code: 'C18',
  family: 'cleanup',
  scope: 'file',
  title: 'Settled twice',
  level: 'hint',
  why: 'It looks as if something more were going on that has to be waited for; whoever reads it looks for what that is.',
  certain:
    'Sure where nothing else stands in the callback: without await what renders or fires one event, with await what a user does.',
  trouble: 'await act(async () => {\n  await user.click(fire);\n});',
  mended: 'await user.click(fire);',
  run: (context) => {
    if (!isWrapping(context)) return [];
    const found = runningBlocks(context.file).flatMap((block) =>
      [...grouped(block.steps.filter(isOwn), ({ settled }) => settled)].flatMap(
        ([around, steps]) => (around && check(around, steps, block, context)) ?? [],
      ),
    );
    const mended = found.filter((each) => each.mend);
    const others = found.filter((each) => !each.mend);
    return [...onceAFileMended(mended, 'and here'), ...onceAFile(others, 'and here')];
  },
};

const isOwn = (step: Step): boolean => step.settled !== undefined && !step.dead && !step.via;

// @testing-library/react and react-native call act around each event and render; the functions that they are built on do not.
const isWrapping = ({ file }: FileContext): boolean =>
  [...file.imports.values()].every(({ specifier, name }) => !ITSELF.has(name) || WRAPPING.test(specifier));

const ITSELF: ReadonlySet<string> = new Set(['render', 'fireEvent', 'Simulate']);
const WRAPPING = /^@testing-library\/react(?:-native)?(?:\/pure)?$/;

function check(
  around: Settling,
  steps: readonly Step[],
  block: Block,
  context: FileContext,
): Finding | undefined {
  const done = steps.filter(({ kind }) => kind !== 'use' && kind !== 'reach');
  const [first, ...others] = done;
  // Events that come before the next render are another matter than one after another.
  if (others.length > 0 && !around.async) return undefined;
  if (!first || !done.every((step) => isSettling(step, around))) return undefined;
  if (done.length < around.statements || (around.async && !waitsItself(context))) return undefined;
  const call = context.source.text.slice(first.place.start, first.place.end);
  return {
    place: inFile(context, around),
    within: titlesOf(block),
    certainty: 'sure',
    message: message(first.kind === 'act' ? first.name : 'render'),
    advice: advice(around.async ? `await ${call}` : call),
    mend: others.length === 0 ? mend(around, first, call, context) : undefined,
  };
}

// An async callback also waits for what was started before: only what is awaited in it waits as long.
const isSettling = (step: Step, { async }: Settling): step is StepOf<'act' | 'render'> =>
  async
    ? step.kind === 'act' && step.by === 'user' && step.awaited
    : (step.kind === 'render' && step.render.gives === 'queries') ||
      (step.kind === 'act' && step.on === 'fireEvent');

// What a user does gives a promise from 14 on.
const waitsItself = ({ versionOf }: FileContext): boolean =>
  (majorOf(versionOf('@testing-library/user-event')) ?? 0) >= 14;

// The call takes the place of the one around it, where nothing but it stands there.
function mend(
  around: Settling,
  { place }: Step,
  call: string,
  { file, source: { text } }: FileContext,
): Mend | undefined {
  if (aloneIn(text, around, place) === undefined) return undefined;
  const edit = { file: file.path, start: around.start, end: around.end, text: call };
  return { summary: 'Write the call alone', safe: false, edits: [edit] };
}

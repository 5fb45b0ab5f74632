import { titlesOf } from '../../specs/model/blocks.js';
import type { Edit, Mend, Finding } from '../../finding.js';
import { lineStart } from '../../writing/edits/style.js';
import type { Step } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, truePlace, type FileContext } from '../questions/context.js';
import { inEachHook } from '../../writing/hook-edits.js';
import { type Left } from '../questions/ending.js';
import { quotedTitle } from '../questions/order.js';
import { leftClocks } from '../questions/clocks.js';
import { leftLasting } from '../questions/outliving.js';
import { leftRenders } from '../questions/left-renders.js';
import { unmountedByItself } from '../../writing/unmount-switch.js';
import { leftStandIns, restoring } from '../questions/left-stand-ins.js';

const message = (spec: string, later: string): string =>
  `If an assertion of ${spec} fails, its cleanup is skipped, and ${later} starts with what is left.`;
const advice = 'Move the cleanup to an after-each hook: that runs whatever happens.';

/** Cleanup at the end of a spec, behind its assertions. One finding a file. */
export const C07: FileCheck = {
  code: 'C07',
  family: 'cleanup',
  scope: 'file',
  title: 'Cleanup that a failing assertion skips',
  level: 'risk',
  why: 'One fault then shows as many failures, and the first of them is hard to tell.',
  certain:
    'Sure where what begins and what ends it always run, and every hook and set-up file around them can be read.',
  trouble:
    "it('fits', () => {\n  window.innerWidth = 320;\n  …\n  expect(lid).toBeVisible();\n  window.innerWidth = 1024;\n});",
  mended: 'afterEach(() => {\n  window.innerWidth = 1024;\n});',
  run(context) {
    const skipped = skippedBy(context);
    const [first] = skipped;
    return first ? [found(first, skipped, context)] : [];
  },
};

// Something begun by a step of a spec, and the step that ends it.
interface Skipped extends Pick<Left<Step['kind']>, 'block' | 'later' | 'certainty'> {
  step: Step;
  by: Step;
}

function skippedBy(context: FileContext): Skipped[] {
  const all = [
    ...leftStandIns(context),
    ...leftClocks(context),
    ...leftRenders(context),
    ...leftLasting(context, LASTING),
  ];
  const skipped = all.flatMap((left) =>
    left.ending.is === 'skipped' ? [{ ...left, by: left.ending.by }] : [],
  );
  // One call may end several things.
  return skipped
    .filter(({ by }, i) => skipped.findIndex((other) => other.by === by) === i)
    .sort((a, b) => a.by.place.start - b.by.place.start);
}

const LASTING = new Set([
  'global',
  'environment',
  'locale',
  'storage',
  'cookie',
  'address',
  'title',
  'page',
  'listener',
  'interval',
  'observer',
  'connection',
  'server',
  'answers',
] as const);

const found = (first: Skipped, all: readonly Skipped[], context: FileContext): Finding => ({
  place: inFile(context, first.by.place),
  within: titlesOf(first.block),
  certainty: first.by.maybe ? 'likely' : first.certainty,
  message: message(quotedTitle(first.block), quotedTitle(first.later)),
  advice,
  evidence: [
    { ...truePlace(context, first.step), note: 'what it cleans up' },
    ...all
      .slice(1)
      .map(({ by }) => ({ ...truePlace(context, by), note: 'cleaned up behind assertions, too' })),
  ],
  mend: mend(all, context),
});

// Each cleanup goes from its spec to a hook, if it is a statement by itself and needs no name of the spec.
function mend(all: readonly Skipped[], context: FileContext): Mend | undefined {
  const edits = all.map((each) => movedToHook(each, context));
  const flat = edits.flatMap((edit) => edit ?? []);
  return edits.every((edit) => edit !== undefined)
    ? { summary: 'Move the cleanup to an after-each hook', safe: true, edits: flat }
    : undefined;
}

function movedToHook({ by, step, block }: Skipped, context: FileContext): Edit[] | undefined {
  const line = wholeLine(by, context);
  if (!block.parent || block.kind !== 'spec' || !line || by.via || step.via) return undefined;
  if (step.kind === 'render') {
    const mended = unmountedByItself(context);
    return mended && [line.edit, ...mended.edits];
  }
  const statement = movable({ by, step }, line.code);
  if (statement === undefined || statement.split(/[^\w$]+/).some((word) => block.names.has(word)))
    return undefined;
  const added = inEachHook(context, block.parent, 'after-each', [statement.replace(/;$/, '')]);
  return added && [line.edit, ...added];
}

// What does in a hook what a statement of the spec did; a handle of the spec's own is not there.
function movable({ by, step }: Pick<Skipped, 'by' | 'step'>, code: string): string | undefined {
  switch (by.kind) {
    case 'restore':
      if (by.scope === 'own') return step.kind === 'stand-in' ? restoring(step.standIn) : undefined;
      return code;
    case 'clock':
      return code;
    case 'lasting':
      return by.lasting.handle === undefined ? code : undefined;
    default:
      return undefined;
  }
}

// The lines that a statement stands on, if nothing else does.
function wholeLine({ place }: Step, { source, file }: FileContext): { edit: Edit; code: string } | undefined {
  const { text } = source;
  const start = lineStart(text, place.start);
  const end = text.indexOf('\n', place.end);
  if (end < 0 || text.slice(start, place.start).trim() !== '') return undefined;
  const code = text.slice(place.start, end).trim();
  const isAlone =
    /^;?$/.test(text.slice(place.end, end).trim()) ||
    code.startsWith(text.slice(place.start, place.end) + ' = ');
  return isAlone ? { edit: { file: file.path, start, end: end + 1, text: '' }, code } : undefined;
}

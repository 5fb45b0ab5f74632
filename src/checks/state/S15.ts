import { blocksAround, titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import type { Finding } from '../../finding.js';
import type { FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { eachHooksAround, quotedTitle, runningBlocks, runningSpecs } from '../questions/order.js';
import { clears } from '../questions/stand-in-calls.js';

const message = (what: string, group: string, spec: string): string =>
  `${what} in the body of ${group}, which runs while specs are collected: it holds for ${spec}, outside of the group, as well.`;
const messageTwice = (what: string, group: string, other: string): string =>
  `${what} in the body of ${group}, and the same again in ${other}: both run while specs are collected, before any spec, and the last one holds for all.`;
const messageGone = (what: string, group: string, hook: string): string =>
  `${what} in the body of ${group}, once, while specs are collected; ${hook} takes it back, and no spec after that has it.`;
const advice = 'Move it into a before-each hook of the group.';

/** Arranged in the body of a group, which runs before any hook and any spec. */
export const S15: FileCheck = {
  code: 'S15',
  family: 'state',
  scope: 'file',
  title: 'Arranged while specs are collected',
  level: 'hint',
  why: 'The body of a group runs when the file is loaded: what it sets holds for every group, and no hook sets it again.',
  certain:
    'Sure where another group sets the same, or a hook takes it back. A hint where specs outside of the group meet it: whether it matters to them is not known.',
  trouble:
    "describe('while it fires', () => {\n  useKiln.mockReturnValue({ hot: true });\n  it('says so', …);\n});\ndescribe('while it cools', () => {\n  useKiln.mockReturnValue({ hot: false });\n  it('says so', …);\n});",
  mended:
    "describe('while it fires', () => {\n  beforeEach(() => {\n    useKiln.mockReturnValue({ hot: true });\n  });\n  it('says so', …);\n});",
  run(context) {
    const found = runningBlocks(context.file)
      .filter(({ kind }) => kind === 'group')
      .flatMap((group) => group.steps.flatMap((step) => arrangedBy(step, group, context)));
    return found.flatMap((each) => check(each, found, context));
  },
};

interface Arranged {
  step: Step;
  group: Block;
  /** What it sets; equal where another group sets the same. */
  key: unknown;
  /** It was made in that body: no other group has it. */
  isOwn: boolean;
  what: string;
}

function arrangedBy(step: Step, group: Block, context: FileContext): Arranged[] {
  if (step.via || step.maybe) return [];
  const found = setIn(step, group, context);
  return found ? [{ step, group, ...found }] : [];
}

function setIn(
  step: Step,
  group: Block,
  { source: { text } }: FileContext,
): Pick<Arranged, 'key' | 'what' | 'isOwn'> | undefined {
  switch (step.kind) {
    case 'answer': {
      const name = step.standIn?.path ?? step.binding?.name;
      // An answer for one call is of another kind.
      const isOwn = (step.standIn?.block ?? step.binding?.block) === group;
      return name === undefined || step.once
        ? undefined
        : { key: keyOf(step), what: `${name} is given an answer`, isOwn };
    }
    case 'stand-in': {
      const { target, objectText, member, answers } = step.standIn;
      const isSet = target === 'member' || target === 'global' || target === 'assigned';
      const name = member === undefined ? objectText : `${objectText ?? ''}.${member}`;
      return isSet && answers && name ? { key: name, what: `${name} is replaced`, isOwn: false } : undefined;
    }
    case 'lasting':
      return step.lasting.does === 'set'
        ? {
            key: step.lasting.key,
            what: `${text.slice(step.place.start, step.place.end).split('\n')[0] ?? ''} is run`,
            isOwn: false,
          }
        : undefined;
    default:
      return undefined;
  }
}

function check(arranged: Arranged, all: readonly Arranged[], context: FileContext): Finding[] {
  const { step, group, key, isOwn } = arranged;
  const specs = runningSpecs(context.file);
  const isInside = (block: Block): boolean => blocksAround(block).includes(group);
  const [first, ...others] = specs.filter(isInside);
  // What a hook sets again before each spec is as the hook says.
  if (!first || eachHooksAround(first).some((hook) => hook.steps.some((each) => keyOf(each) === key)))
    return [];
  const same = all.find(
    (each) =>
      each.key === key &&
      each.group !== group &&
      !isInside(each.group) &&
      !blocksAround(group).includes(each.group),
  );
  if (same && !isOwn) return [twice(arranged, same, context)];
  const hook = step.kind === 'answer' && others.length > 0 ? takenBackBy(step, first) : undefined;
  if (hook) return [gone(arranged, hook, context)];
  const outside = isOwn ? undefined : specs.find((spec) => !isInside(spec));
  return outside ? [meeting(arranged, outside, context)] : [];
}

const baseOf = (
  { step, group }: Arranged,
  context: FileContext,
): Pick<Finding, 'place' | 'within' | 'advice'> => ({
  place: inFile(context, step.place),
  within: titlesOf(group),
  advice,
});

const twice = (arranged: Arranged, same: Arranged, context: FileContext): Finding => ({
  ...baseOf(arranged, context),
  level: 'risk',
  certainty: 'sure',
  message: messageTwice(arranged.what, quotedTitle(arranged.group), quotedTitle(same.group)),
  evidence: [{ ...inFile(context, same.step.place), note: 'the same, for the other group' }],
});

const gone = (arranged: Arranged, hook: Block, context: FileContext): Finding => ({
  ...baseOf(arranged, context),
  level: 'risk',
  certainty: 'sure',
  message: messageGone(arranged.what, quotedTitle(arranged.group), quotedTitle(hook)),
  evidence: [{ ...inFile(context, hook.place), note: 'takes it back' }],
});

const meeting = (arranged: Arranged, outside: Block, context: FileContext): Finding => ({
  ...baseOf(arranged, context),
  certainty: 'likely',
  message: message(arranged.what, quotedTitle(arranged.group), quotedTitle(outside)),
  evidence: [{ ...inFile(context, outside.callee), note: 'runs with it as well' }],
});

const keyOf = (step: Step): unknown => (step.kind === 'answer' ? (step.standIn ?? step.binding) : undefined);

// The each-hook that takes an answer back.
const takenBackBy = ({ standIn, binding }: StepOf<'answer'>, spec: Block): Block | undefined =>
  eachHooksAround(spec).find((hook) => {
    const cleared = { maker: standIn?.maker ?? 'runner', binding, standIn };
    return hook.steps.some((step) => !step.maybe && clears(step, cleared, 'answers'));
  });

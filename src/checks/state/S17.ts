import {
  usesInBlock,
  titlesOf,
  type Binding,
  type Block,
  type TakenEarly,
} from '../../specs/model/blocks.js';
import { surelyRuns } from '../../specs/model/rounds.js';
import type { StepOf } from '../../specs/model/steps.js';
import type { Evidence, Finding, Span } from '../../finding.js';
import type { FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { quotedTitle, runningBlocks } from '../questions/order.js';

const where = (block: Block): string => `${quotedTitle(block)}, which runs while specs are collected`;
const messageTaken = (name: string, block: Block): string =>
  `${name} holds nothing yet in the body of ${where(block)}: it throws, and none of its specs is made.`;
const messageEmpty = (name: string, block: Block): string =>
  `${name} is still empty in the body of ${where(block)}: no spec is made of it.`;
const messageQuery = (name: string, block: Block): string =>
  `${name} asks in the body of ${where(block)}, and nothing has rendered by then: it throws, and none of its specs is made.`;
const messageThrow = (block: Block): string =>
  `The body of ${where(block)}, throws: none of its specs is made.`;
const adviceGiven = (name: string): string =>
  `Give ${name} its value where it is declared: hooks run when all specs are collected.`;
const adviceSpec = 'Move it into the specs, or into a before-each hook of the group.';

/** What the body of a group can't do while specs are collected, as no hook has run. */
export const S17: FileCheck = {
  code: 'S17',
  family: 'state',
  scope: 'file',
  title: 'Needed before a hook brings it',
  level: 'blocker',
  why: 'The body of a group runs before any hook: a spec that needs it there is never made, and the run is red, or one spec short.',
  certain:
    'Sure: by then, the name holds what its declaration says, or the document is empty, and no condition stands around it.',
  trouble:
    "let kilns: Kiln[] = [];\nbeforeAll(() => {\n  kilns = readKilns();\n});\nit.each(kilns)('fires $name', …);",
  mended: "const kilns = readKilns();\nit.each(kilns)('fires $name', …);",
  run: (context) => [
    ...context.file.takenEarly.flatMap((taken) => checkTaken(taken, context)),
    ...bodies(context).flatMap((block) => checkBody(block, context)),
  ],
};

const bodies = ({ file }: FileContext): Block[] => [
  file.root,
  ...runningBlocks(file).filter(({ kind }) => kind === 'group'),
];

const finding = (
  block: Block,
  span: Span,
  message: string,
  advice: string,
  context: FileContext,
): Finding => ({
  place: inFile(context, span),
  within: titlesOf(block),
  certainty: 'sure',
  message,
  advice,
  evidence: [],
});

function checkTaken({ block, binding, holds, start, end }: TakenEarly, context: FileContext): Finding[] {
  if (!bodies(context).includes(block)) return [];
  const { name } = binding;
  const hook = setLater(binding, context);
  const message = holds === 'empty' ? messageEmpty(name, block) : messageTaken(name, block);
  const found = finding(block, { start, end }, message, adviceGiven(name), context);
  if (holds === 'nothing') return [{ ...found, evidence: hook ? [hook] : [] }];
  // A list that nothing ever fills is meant to be empty, or is filled out of sight; and it must be specs that are made of it.
  const makes = context.file.blocks.some(
    ({ kind, place }) => kind === 'spec' && place.start >= start && place.start <= end + 1,
  );
  return hook && makes ? [{ ...found, level: 'risk', evidence: [hook] }] : [];
}

// The hook or spec that gives a name its value, when the specs are there already.
function setLater(binding: Binding, context: FileContext): Evidence | undefined {
  for (const block of runningBlocks(context.file)) {
    if (block.kind === 'group') continue;
    const step = usesInBlock(block, binding).find(
      ({ use }) => use.how === 'assign' || use.effect !== undefined,
    );
    if (step) return { ...inFile(context, step.place), note: `set here, by ${quotedTitle(block)}` };
  }
  return undefined;
}

function checkBody(block: Block, context: FileContext): Finding[] {
  for (const step of block.steps) {
    if (!surelyRuns(step) || step.via) continue;
    if (step.kind === 'throw' && block.kind === 'group')
      return [finding(block, step.place, messageThrow(block), adviceSpec, context)];
    if (step.kind === 'reach' && asksEmptyPage(step))
      return rendersBefore(step, context)
        ? []
        : [finding(block, step.place, messageQuery(step.reach.name, block), adviceSpec, context)];
  }
  return [];
}

const asksEmptyPage = ({ reach }: StepOf<'reach'>): boolean =>
  reach.missing === 'throws' && reach.from === 'page' && !reach.waits && reach.asUser;

// What may have put something into the document, while specs are collected.
const rendersBefore = ({ place }: StepOf<'reach'>, context: FileContext): boolean =>
  bodies(context).some(({ steps }) =>
    steps.some(
      (each) =>
        each.place.start < place.start &&
        (each.kind === 'render' ||
          each.kind === 'unknown-call' ||
          each.kind === 'lasting' ||
          each.kind === 'act'),
    ),
  );

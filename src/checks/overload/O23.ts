import { blocksBelow, titlesOf, usesInBlock, type Binding, type Block } from '../../specs/model/blocks.js';
import type { Step } from '../../specs/model/steps.js';
import type { Span } from '../../finding.js';
import type { FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';

const message = (member: string, specs: number): string =>
  `console.${member} is silent for ${specs} specs, and none of them asks what it was told: what is warned of is not seen.`;
const advice = 'Silence it in the spec that brings the warning about, and assert on it there.';

const PRINTED: ReadonlySet<string> = new Set(['error', 'warn']);

/** What is warned of, kept quiet for all specs of a group or a file. */
export const O23: FileCheck = {
  code: 'O23',
  family: 'overload',
  scope: 'file',
  title: 'Warnings are silenced',
  level: 'hint',
  why: 'What a framework warns of is the first sign of an update after the spec, a missing key or a wrong prop.',
  certain: 'Sure where the stand-in is made before the specs, and all that they ask is in sight.',
  trouble: "beforeEach(() => { vi.spyOn(console, 'error').mockImplementation(() => {}); });",
  mended:
    "it('says that the cone is missing', () => {\n  const error = vi.spyOn(console, 'error').mockImplementation(() => {});\n  …\n  expect(error).toHaveBeenCalledOnce();\n});",
  run(context) {
    const { file } = context;
    return [file.root, ...file.blocks].flatMap((block) =>
      block.steps.flatMap((step) => {
        const member = isBefore(block) ? silenced(step) : undefined;
        if (member === undefined || isReasoned(step.place, context)) return [];
        const binding = step.kind === 'stand-in' ? step.standIn.binding : undefined;
        const below = blocksBelow(block.kind === 'hook' ? (block.parent ?? file.root) : block);
        const specs = runningSpecs(file).filter((spec) => below.includes(spec));
        if (specs.length < 2 || specs.some((spec) => asks(spec, binding, member))) return [];
        return [
          {
            place: inFile(context, step.place),
            within: titlesOf(block),
            certainty: 'sure' as const,
            message: message(member, specs.length),
            advice,
          },
        ];
      }),
    );
  },
};

const isBefore = ({ kind, hook }: Block): boolean => hook?.startsWith('before') ?? kind !== 'spec';

const CONSOLE: ReadonlySet<string> = new Set([
  'console',
  'global.console',
  'window.console',
  'globalThis.console',
]);

// The member of `console` that a step puts something silent in place of.
function silenced(step: Step): string | undefined {
  if (step.kind !== 'stand-in') return undefined;
  const { object, member, answers, target } = step.standIn;
  const isSilent = object?.is === 'global' && CONSOLE.has(object.path) && (answers || target === 'assigned');
  return isSilent && PRINTED.has(member ?? '') ? member : undefined;
}

// A comment on the line or just above gives the reason.
const isReasoned = (place: Span, { file, source: { lines } }: FileContext): boolean =>
  file.comments.some(({ start, end }) => {
    const line = lines.at(place.start).line;
    return lines.at(start).line <= line && lines.at(end).line >= line - 2;
  });

// A spec speaks of its name, or of `console.error` itself.
const asks = (spec: Block, binding: Binding | undefined, member: string): boolean =>
  (binding !== undefined && usesInBlock(spec, binding).length > 0) ||
  spec.steps.some(
    (step) =>
      (step.kind === 'stand-in' && step.standIn.member === member) ||
      (step.kind === 'assert' && step.assertion.subjectPath.includes(member)),
  );

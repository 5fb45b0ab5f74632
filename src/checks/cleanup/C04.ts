import { titlesOf, type Block } from '../../specs/model/blocks.js';
import { agreed } from '../../environment/facts/environment.js';
import type { Mend, Finding } from '../../finding.js';
import type { StandIn, Step } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { afterEachMend } from '../../writing/hook-edits.js';
import { quotedTitle } from '../questions/order.js';
import { leftBy, traces, type Left } from '../questions/ending.js';
import { leftLasting, sufferer, type LeftLasting } from '../questions/outliving.js';
import { putBack } from '../../writing/put-back.js';

const message = (what: string, later: string): string =>
  `${what} is overwritten and nobody puts it back: ${later} gets the new value.`;
const advice = 'Keep the value before, and write it back in an after-each hook.';
const adviceStub = 'Undo it in an after-each hook, or let the runner undo it by its settings.';

/** A global value that a spec or hook overwrites for all that follow. */
export const C04: FileCheck = {
  code: 'C04',
  family: 'cleanup',
  scope: 'file',
  title: 'Global value overwritten',
  level: 'risk',
  why: 'The page, the process and the prototypes are there once for the whole file.',
  certain: 'Sure where it always runs, and every hook and set-up file around it can be read.',
  trouble: "it('fits a narrow screen', () => {\n  window.innerWidth = 320;\n  …\n});",
  mended: 'const { innerWidth } = window;\nafterEach(() => {\n  window.innerWidth = innerWidth;\n});',
  run: (context) => [...written(context), ...stubbed(context)],
};

const WRITTEN = new Set(['global', 'environment', 'locale', 'seed'] as const);

function written(context: FileContext): Finding[] {
  return leftLasting(context, WRITTEN).flatMap((left) => {
    // What an after hook writes or deletes is the way back.
    if (left.block.hook?.startsWith('after')) return [];
    const later = sufferer(left, context);
    if (left.ending.is !== 'never' || !later || isReplacedHere(left, context)) return [];
    const { step, block } = left;
    return [
      {
        ...foundAt({ ...left, later }, context),
        message: message(step.lasting.text, quotedTitle(later)),
        advice,
        mend: step.via ? undefined : putBack(step, block, context),
      },
    ];
  });
}

const foundAt = (
  left: { step: Step } & Omit<Left<Step['kind']>, 'step'>,
  context: FileContext,
): Pick<Finding, 'place' | 'within' | 'certainty' | 'evidence'> => ({
  place: inFile(context, left.step.place),
  within: titlesOf(left.block),
  certainty: left.certainty,
  evidence: traces(left, 'written in this helper', context),
});

// Written once for the whole file before, too: what is left is what the file means to have.
const isReplacedHere = ({ step }: LeftLasting, { file }: FileContext): boolean =>
  file.root.steps.some((other) => other.kind === 'lasting' && other.lasting.key === step.lasting.key);

function stubbed(context: FileContext): Finding[] {
  const { runners } = context;
  // What can't be read may well undo it.
  if (context.setup === undefined || agreed(runners, ({ unstubs }) => unstubs) !== false) return [];
  return leftBy(context, 'stand-in', ({ standIn }) =>
    isStub(standIn) ? (other) => unstubs(other, standIn) : undefined,
  )
    .filter(({ ending }) => ending.is === 'never')
    .map((left) => ({
      ...foundAt(left, context),
      message: message(left.step.standIn.member ?? 'A global value', quotedTitle(left.later)),
      advice: adviceStub,
      mend: unstubbed(left.step.standIn, left.block, context),
    }));
}

// A global or an environment value, stubbed by the runner's helper.
const isStub = ({ target }: StandIn): boolean => target === 'global' || target === 'env';

const unstubs = (step: Step, { target }: StandIn): boolean =>
  step.kind === 'restore' && step.scope === (target === 'env' ? 'env' : 'globals');

function unstubbed(standIn: StandIn, block: Block, context: FileContext): Mend | undefined {
  const [kit = ''] = standIn.made.by.split('.');
  const name = standIn.target === 'env' ? 'unstubAllEnvs' : 'unstubAllGlobals';
  return afterEachMend(context, block, 'Undo the stub after each spec', [`${kit}.${name}()`]);
}

import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Mend, Finding } from '../../finding.js';
import type { StandIn } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { afterEachMend } from '../../writing/hook-edits.js';
import { quotedTitle } from '../questions/order.js';
import { traces, type Left } from '../questions/ending.js';
import { leftStandIns, restoring } from '../questions/left-stand-ins.js';

const message = (what: string, later: string): string =>
  `The stand-in for ${what} is never restored: ${later} gets it, too.`;
const messageWatch = (what: string): string =>
  `The spy on ${what} is never taken off; later specs are counted by it as well.`;
const advice = 'Restore it in an after-each hook, or let the runner restore all of them by its settings.';

/** A stand-in on something that outlives the spec, which nothing takes off. */
export const C01: FileCheck = {
  code: 'C01',
  family: 'cleanup',
  scope: 'file',
  title: 'Stand-in not restored',
  level: 'risk',
  why: 'The next spec talks to the stand-in and believes that it talks to the real thing.',
  certain: 'Sure where it always runs, and every hook and set-up file around it can be read.',
  trouble: "it('loads', () => {\n  vi.spyOn(kilns, 'load').mockResolvedValue([]);\n  …\n});",
  mended: 'afterEach(() => {\n  vi.restoreAllMocks();\n});',
  run: (context) =>
    leftStandIns(context)
      .filter(({ ending }) => ending.is === 'never')
      .map((left) => found(left, context)),
};

function found(left: Left<'stand-in'>, context: FileContext): Finding {
  const { step, block, later, certainty } = left;
  const { standIn } = step;
  const what = `${standIn.objectText ?? ''}.${standIn.member ?? '…'}`;
  return {
    place: inFile(context, step.place),
    within: titlesOf(block),
    level: standIn.answers ? undefined : 'hint',
    certainty,
    message: standIn.answers ? message(what, quotedTitle(later)) : messageWatch(what),
    advice,
    evidence: traces(left, 'made in this helper', context),
    mend: step.via ? undefined : mend(standIn, block, context),
  };
}

function mend(standIn: StandIn, block: Block, context: FileContext): Mend | undefined {
  const call = restoring(standIn);
  const [kit = ''] = call?.split('.') ?? [];
  // A kit that the spec makes for itself is not there in a hook.
  if (call === undefined || block.names.has(kit)) return undefined;
  const mended = afterEachMend(context, block, 'Restore stand-ins after each spec', [call]);
  // Some kits take the answers of all stand-ins with them, those made for the whole file too.
  const keeps = context.file.standIns.some(
    (other) =>
      other.answers && other.block !== block && (other.block.kind === 'file' || other.block.kind === 'group'),
  );
  return mended && { ...mended, safe: !keeps };
}

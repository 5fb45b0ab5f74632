import { isKnown } from './setup-effects.js';
import { agreed } from '../../environment/facts/environment.js';
import type { Finding } from '../../finding.js';
import type { SpecFile } from '../../specs/model/blocks.js';
import type { StandIn, StepOf } from '../../specs/model/steps.js';
import type { FileContext } from './context.js';

/** Whether a call that restores, resets or clears all stand-ins of a kit takes in one of them. `maker`: whose call it is. */
export const isOfKit = (maker: string, standIn: Pick<StandIn, 'maker'>): boolean =>
  maker === standIn.maker || maker === '' || standIn.maker === '';

/** What is done to stand-ins between specs. */
type Undoing = 'restores' | 'resets' | 'clears';

/** Whether the runner's settings undo something between specs, and whether that is known for sure. */
export interface Undone {
  undone: boolean;
  certainty: Finding['certainty'];
}

/**
 * Whether the runner undoes by its settings what stand-ins of its own have. Where that can't be told, it may well be so,
 * unless the file does `byHand` what such settings would make needless.
 */
export function undoneBySettings(
  maker: string,
  undoing: readonly Undoing[],
  byHand: readonly StepOf<'restore'>['what'][],
  { file, runners, setup }: Pick<FileContext, 'file' | 'runners' | 'setup'>,
): Undone {
  const told = undoing.map((each) => agreed(runners, (runner) => runner[each]));
  const set =
    maker !== 'runner' ? false : told.includes(true) || (told.includes(undefined) ? undefined : false);
  const known = set === true || isKnown(setup) ? set : undefined;
  return known === undefined
    ? { undone: !isDoneByHand(file, byHand), certainty: 'likely' }
    : { undone: known, certainty: 'sure' };
}

const isDoneByHand = ({ root, blocks }: SpecFile, byHand: readonly StepOf<'restore'>['what'][]): boolean =>
  [root, ...blocks].some(({ steps }) =>
    steps.some(
      (step) =>
        step.kind === 'restore' &&
        (step.scope === 'all' || step.scope === 'own') &&
        byHand.includes(step.what),
    ),
  );

import { titlesOf, type Binding } from '../../specs/model/blocks.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { quotedTitle } from '../questions/order.js';
import {
  builtOnce,
  leakChain,
  isMutable,
  leakOf,
  takesWhole,
  type Built,
  type Leak,
} from '../questions/leak.js';
import { rebuiltEachTime } from '../../writing/rebuild.js';

const message = (name: string, changer: string, reader: string): string =>
  `${changer} changes ${name} itself, and not a copy of it; ${reader} gets it changed.`;
const advice = (name: string): string => `Copy ${name} before it is changed, or make it anew for each spec.`;

/** A plain list or object for several specs, changed in place. */
export const S06: FileCheck = {
  code: 'S06',
  family: 'state',
  scope: 'file',
  title: 'Shared data changed in place',
  level: 'risk',
  why: 'Sorting, adding or assigning changes the one list that all specs share: later specs check other data than they seem to.',
  certain: 'Sure where it is built once, always changed, and read by a property that is known.',
  trouble:
    "const pieces = ['mug', 'bowl'];\nit('sorts', () => { pieces.sort(); … });\nit('shows the first', () => { render(<Shelf pieces={pieces} />); … });",
  mended: "it('sorts', () => { const sorted = [...pieces].sort(); … });",
  run: (context) =>
    context.file.bindings.flatMap((binding) => {
      const built = isMutable(binding) ? builtOnce(binding, context.file) : undefined;
      if (built?.holds !== 'literal' || built.hook) return [];
      const leak = leakOf(binding, context.file);
      return leak ? [found(binding, built, leak, context)] : [];
    }),
};

function found(binding: Binding, built: Built, leak: Leak, context: FileContext): Finding {
  const { change, read } = leak;
  const runsOnce = !change.spec.repeated && !context.file.unknownEffects;
  const isSurelyDone = !change.step.maybe && !read.step.maybe;
  return {
    place: inFile(context, built.place),
    within: titlesOf(binding.block),
    level: read.step.maybe ? 'risk' : 'blocker',
    // Of what is handed over whole, nobody can tell which part is read.
    certainty: runsOnce && isSurelyDone && !takesWhole(read.step) ? 'sure' : 'likely',
    message: message(binding.name, quotedTitle(change.spec), quotedTitle(read.spec)),
    advice: advice(binding.name),
    evidence: [
      { ...inFile(context, built.place), note: 'written here, once for all specs' },
      ...leakChain(leak, context),
    ],
    mend: rebuiltEachTime(binding, built, context),
  };
}

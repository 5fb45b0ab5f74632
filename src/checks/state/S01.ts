import { titlesOf, type Binding } from '../../specs/model/blocks.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { quotedTitle } from '../questions/order.js';
import { builtOnce, leakChain, isMutable, leakOf, type Built, type Leak } from '../questions/leak.js';
import { rebuiltEachTime } from '../../writing/rebuild.js';

const message = (name: string, changer: string, reader: string): string =>
  `${name} is built once; ${changer} changes it, and ${reader} runs on what is left.`;
const advice = (name: string): string => `Build ${name} anew in a before-each hook.`;

/** A fresh object outside of the specs that one spec changes and a later one uses. */
export const S01: FileCheck = {
  code: 'S01',
  family: 'state',
  scope: 'file',
  title: 'Built once, changed by a spec',
  level: 'blocker',
  why: 'What one spec leaves behind is what the next one starts from: alone, or in another order, the second one has another result.',
  certain:
    'Sure where what is shared is an instance of a known class, both the change and the read always run, and nothing unread is done outside of specs.',
  trouble:
    "const kiln = new Kiln();\nit('fires', () => { kiln.fire(); … });\nit('is cold', () => { expect(kiln.temp).toBe(20); });",
  mended: 'let kiln: Kiln;\nbeforeEach(() => { kiln = new Kiln(); });',
  run: (context) =>
    context.file.bindings.flatMap((binding) => {
      const built = isMutable(binding) ? builtOnce(binding, context.file) : undefined;
      if (!built || !(FRESH.has(built.holds) || (built.hook && built.holds === 'literal'))) return [];
      const leak = leakOf(binding, context.file);
      return leak ? [found(binding, built, leak, context)] : [];
    }),
};

const FRESH: ReadonlySet<Binding['holds']> = new Set(['instance', 'made', 'closure', 'element']);

function found(binding: Binding, built: Built, leak: Leak, context: FileContext): Finding {
  const { change, read } = leak;
  return {
    place: inFile(context, built.place),
    within: titlesOf(built.hook ?? binding.block),
    certainty: isSure(built, leak, context) ? 'sure' : 'likely',
    message: message(binding.name, quotedTitle(change.spec), quotedTitle(read.spec)),
    advice: advice(binding.name),
    evidence: [
      { ...inFile(context, built.place), note: 'built here, once for all specs' },
      ...leakChain(leak, context),
    ],
    mend: rebuiltEachTime(binding, built, context),
  };
}

const isSure = ({ holds }: Built, { change, read }: Leak, { file }: FileContext): boolean =>
  holds === 'instance' &&
  !change.step.maybe &&
  !read.step.maybe &&
  !change.spec.repeated &&
  !file.unknownEffects;

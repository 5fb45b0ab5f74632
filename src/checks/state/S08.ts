import { titlesOf, usesInBlock } from '../../specs/model/blocks.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, truePlace } from '../questions/context.js';
import { quotedTitle, runningSpecs } from '../questions/order.js';
import { builtOnce, changesOf, isMutable, leakOf } from '../questions/leak.js';
import { ranEachTime } from '../../writing/rebuild.js';

const message = (name: string, changer: string): string =>
  `${name} is built before all specs, and ${changer} changes it; no later spec looks at the change yet.`;
const advice = 'Build it in a before-each hook; keep before-all for what no spec changes.';

/** State of a before-all hook that a spec changes, while no later one reads what it changed. */
export const S08: FileCheck = {
  code: 'S08',
  family: 'state',
  scope: 'file',
  title: 'Built before all, changed later',
  level: 'hint',
  why: 'The next spec that somebody adds starts from what an earlier one left.',
  certain: 'Sure where the change always happens.',
  trouble: "beforeAll(() => { kiln = new Kiln(); });\nit('fires', () => { kiln.fire(); … });",
  mended: 'beforeEach(() => { kiln = new Kiln(); });',
  run: (context) =>
    context.file.bindings.flatMap((binding) => {
      const built = isMutable(binding) ? builtOnce(binding, context.file) : undefined;
      const { hook } = built ?? {};
      if (!built || !hook || !STATE.has(built.holds) || leakOf(binding, context.file)) return [];
      const [change] = changesOf(binding, context.file);
      const users = runningSpecs(context.file).filter((spec) => usesInBlock(spec, binding).length > 0);
      if (!change || users.indexOf(change.spec) === users.length - 1) return [];
      return [
        {
          place: inFile(context, built.place),
          within: titlesOf(hook),
          certainty: change.step.maybe ? 'likely' : 'sure',
          message: message(binding.name, quotedTitle(change.spec)),
          advice,
          evidence: [
            { ...truePlace(context, change.step), note: `changed here by ${quotedTitle(change.spec)}` },
          ],
          mend: ranEachTime(hook, context),
        },
      ];
    }),
};

const STATE: ReadonlySet<string> = new Set(['instance', 'made', 'closure', 'literal', 'element']);

import { titlesOf, type Binding } from '../../specs/model/blocks.js';
import type { Edit, Mend, Finding } from '../../finding.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { inEachHook } from '../../writing/hook-edits.js';
import { quotedTitle } from '../questions/order.js';
import { assignedLeak, hasValue, type AssignedLeak } from '../questions/assigned.js';
import { leakChain } from '../questions/leak.js';
import { declaredType } from '../../writing/rebuild.js';

const message = (name: string, setter: string, reader: string): string =>
  `${name} has a first value, ${setter} gives it another, and ${reader} reads it without a new start.`;
const advice = (name: string): string => `Give ${name} its first value in a before-each hook.`;

/** A name with a first value that a spec replaces and a later spec relies on. */
export const S04: FileCheck = {
  code: 'S04',
  family: 'state',
  scope: 'file',
  title: 'Not reset before each spec',
  level: 'risk',
  why: 'The first value is there for the first spec only.',
  certain: 'Sure where the change and the read always happen, in two specs.',
  trouble:
    "let cone = 6;\nit('fires low', () => { cone = 4; … });\nit('fires', () => { expect(plan(cone)).toBe(1222); });",
  mended: 'let cone: number;\nbeforeEach(() => { cone = 6; });',
  run: (context) =>
    context.file.bindings.flatMap((binding) => {
      const leak = assignedLeak(binding, context);
      return leak && !leak.callback && hasValue(binding, context.file) ? [found(binding, leak, context)] : [];
    }),
};

function found(binding: Binding, leak: AssignedLeak, context: FileContext): Finding {
  const { change, read } = leak;
  const isSure = !change.step.maybe && !read.step.maybe && change.spec !== read.spec;
  return {
    place: inFile(context, binding.place),
    within: titlesOf(binding.block),
    certainty: isSure ? 'sure' : 'likely',
    message: message(binding.name, quotedTitle(change.spec), quotedTitle(read.spec)),
    advice: advice(binding.name),
    evidence: leakChain(leak, context),
    mend: mend(binding, context),
  };
}

function mend(binding: Binding, context: FileContext): Mend | undefined {
  const { declaration } = binding;
  const { text } = context.source;
  if (!declaration?.value || binding.kind !== 'let') return undefined;
  const value = text.slice(declaration.value.start, declaration.value.end);
  if (value.includes('\n')) return undefined;
  const assigned = `${binding.name} = ${value}`;
  const edits = inEachHook(context, binding.block, 'before-each', [assigned]);
  const type = declaredType(binding, context);
  // The first value would never be used: it goes, where its type can be named.
  const bare: Edit[] =
    type === undefined
      ? []
      : [
          {
            file: context.file.path,
            start: binding.place.end,
            end: declaration.value.end,
            text: type,
          },
        ];
  return (
    edits && { summary: `Assign ${binding.name} before each spec`, safe: true, edits: [...bare, ...edits] }
  );
}

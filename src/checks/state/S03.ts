import { titlesOf, type Binding } from '../../specs/model/blocks.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { quotedTitle } from '../questions/order.js';
import { assignedLeak, hasValue, type AssignedLeak } from '../questions/assigned.js';
import { leakChain } from '../questions/leak.js';

const message = (name: string, setter: string, reader: string): string =>
  `${reader} reads ${name}, which only ${setter} sets: it can't run alone.`;
const messageCallback = (name: string, setter: string, reader: string): string =>
  `${reader} sets ${name} in a callback only: if that is never called, it reads what ${setter} left.`;
const advice = (name: string): string => `Give each spec a ${name} of its own.`;
const adviceCallback = (name: string): string =>
  `Declare ${name} in each spec, or clear it in a before-each hook.`;

/** A name outside of the specs that one of them fills for another. */
export const S03: FileCheck = {
  code: 'S03',
  family: 'state',
  scope: 'file',
  title: 'One spec sets it, another reads it',
  level: 'blocker',
  why: 'The second spec works only after the first: run alone, or without it, it fails.',
  certain: 'Sure where the spec that sets it and the one that reads it always do so, and are two.',
  trouble: "let kiln;\nit('builds', () => { kiln = new Kiln(); … });\nit('fires', () => { kiln.fire(); … });",
  mended: 'let kiln;\nbeforeEach(() => { kiln = new Kiln(); });',
  run: (context) =>
    context.file.bindings.flatMap((binding) => {
      const leak = assignedLeak(binding, context);
      return leak && (leak.callback || !hasValue(binding, context.file))
        ? [found(binding, leak, context)]
        : [];
    }),
};

function found(binding: Binding, leak: AssignedLeak, context: FileContext): Finding {
  const { change, read, callback } = leak;
  const text = callback ? messageCallback : message;
  const isSure = !callback && !change.step.maybe && !read.step.maybe && change.spec !== read.spec;
  return {
    place: inFile(context, binding.place),
    within: titlesOf(binding.block),
    level: isSure ? undefined : 'risk',
    certainty: isSure ? 'sure' : 'likely',
    message: text(binding.name, quotedTitle(change.spec), quotedTitle(read.spec)),
    advice: (callback ? adviceCallback : advice)(binding.name),
    evidence: leakChain(leak, context),
  };
}

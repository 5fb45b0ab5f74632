import { isPlainFunction } from '../../project/module-questions.js';
import type { Span } from '../../finding.js';
import { isOff } from '../../specs/model/blocks.js';
import type { Step } from '../../specs/model/steps.js';
import { TYPES } from '../../libraries/types.js';
import type { Value } from '../../specs/model/values.js';
import { fileFact, type FileContext } from './context.js';

/** A function that a spec takes for a stand-in. */
export interface Taken extends Span {
  name: string;
  specifier: string;
  /** The files that a stand-in might be put in the place of. */
  files: readonly string[];
  /** What is asked of it. */
  what: string;
}

/** The functions that a spec file takes for stand-ins, and makes none of. */
export const TAKEN = fileFact('taken for stand-ins', (context): readonly Taken[] => {
  const found = new Map<string, Taken>();
  for (const block of context.file.blocks)
    for (const step of isOff(block) ? [] : block.steps) {
      const taken =
        step.maybe || step.dead || step.caught || step.inCallback || step.via
          ? undefined
          : takenBy(step, context);
      if (taken && !found.has(taken.name)) found.set(taken.name, taken);
    }
  return [...found.values()];
});

function takenBy(step: Step, context: FileContext): Taken | undefined {
  // What only a cast or `mocked(…)` calls one is none yet.
  const isNamedOne =
    step.kind === 'answer' &&
    (!step.standIn || (step.standIn.target === 'module' && step.standIn.replaces === undefined));
  if (isNamedOne && step.isWhole && step.binding?.kind === 'import')
    return imported(step.binding.name, lastOf(step.text), step.place, context);
  if (step.kind === 'use' && step.use.how === 'call' && step.use.binding.kind === 'import') {
    const [method = '', ...more] = step.use.path;
    const isTold = more.length === 0 && TYPES['stand-in'].members[method]?.kind === 'answer';
    return isTold ? imported(step.use.binding.name, method, step.place, context) : undefined;
  }
  if (step.kind !== 'assert' || step.assertion.asks !== 'called' || step.assertion.style !== 'expect')
    return undefined;
  const { subject, subjectPath, matcher, place } = step.assertion;
  const [name, ...more] = subjectPath;
  return name !== undefined && more.length === 0 && IMPORTED.has(subject.is)
    ? imported(name, matcher ?? '', place, context)
    : undefined;
}

const IMPORTED: ReadonlySet<Value['is']> = new Set(['project', 'external', 'function', 'class']);

const lastOf = (text: string): string => text.split('.').at(-1) ?? text;

// The name, where it stands for a function that is written out, or one of a package that fakes nothing.
function imported(
  name: string,
  what: string,
  place: Span,
  { file, project }: FileContext,
): Taken | undefined {
  const from = file.imports.get(name);
  if (!from || from.typeOnly || from.name === '*') return undefined;
  const declared = project.imported(file.path, from);
  const target = project.resolve(file.path, from.specifier);
  if (target ? !declared || !isPlainFunction(project, declared) : MAY_FAKE.test(from.specifier))
    return undefined;
  // Whoever watches a member of that name may have put one there.
  const isWatched = file.standIns.some(({ member }) => member === from.name || member === name);
  if (isWatched) return undefined;
  const { start, end } = place;
  return {
    name,
    specifier: from.specifier,
    files: [...new Set([target, declared?.file].filter((path) => path !== undefined))],
    what,
    start,
    end,
  };
}

const MAY_FAKE = /mock|fake|stub|test|spy|sinon|^node:/i;

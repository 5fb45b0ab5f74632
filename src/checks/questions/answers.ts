import { oneOf, type Expr } from '../../components/expr.js';
import { moduleOf, NOTHING } from '../../rendering/answers.js';
import { blocksAround, hooksFor } from '../../specs/model/blocks.js';
import { allKnown } from '../../util/all-known.js';
import { FIRED } from './fired.js';
import { REPLACED, USES } from './facts.js';
import { fileFact, type FileContext, type FileFact, type SpecFileFacts } from './context.js';
import { runningSpecs } from './order.js';

/** What the stand-ins give that a spec file has for functions of modules. */
interface Answers {
  /** By the function's key; undefined where a spec renders that gives no answer. An answer that can't be read is unknown. */
  given: ReadonlyMap<string, Expr | undefined>;
  /** The modules of which the runner makes stand-ins: their functions give nothing until they are told to. */
  automatic: ReadonlySet<string>;
}

/** What the stand-ins of a spec file give for functions of modules. */
const ANSWERS = fileFact('answers', (context): Answers => answersIn(context));

/** All that the arms of components ask of spec files. */
export const ARM_FACTS: readonly FileFact<unknown>[] = [ANSWERS, FIRED, REPLACED, USES];

/** Tells of a function, by its key, whether some of these spec files may have a stand-in for it, or replace all of its module. */
export function replacedBy(files: readonly SpecFileFacts[]): (key: string) => boolean {
  const keys = new Set(files.flatMap((file) => [...file.get(ANSWERS).given.keys()]));
  const modules = new Set(files.flatMap((file) => [...file.get(REPLACED)]));
  return (key) => keys.has(key) || modules.has(moduleOf(key));
}

/** What all these spec files let a function give; undefined where one of them may call the real one. */
export function commonAnswers(files: readonly SpecFileFacts[], key: string): readonly Expr[] | undefined {
  const all = files.map((file) => {
    const { given, automatic } = file.get(ANSWERS);
    return given.get(key) ?? (automatic.has(moduleOf(key)) && !given.has(key) ? NOTHING : undefined);
  });
  return all.length > 0 ? allKnown(all) : undefined;
}

function answersIn({ file, rendering }: FileContext): Answers {
  const { automatic, fromStart, told } = rendering.answers;
  const given = new Map<string, Expr | undefined>();
  const keys = new Set([...fromStart.keys(), ...told.keys()]);
  if (keys.size === 0) return { given, automatic };
  const around = runningSpecs(file)
    .filter((spec) => rendering.rendersFor(spec).length > 0)
    .map((spec) => new Set([...blocksAround(spec), ...hooksFor(spec, 'before-all', 'before-each')]));
  for (const key of keys) {
    const first = fromStart.get(key);
    const answers = told.get(key) ?? [];
    const all = answers.map(({ expr }) => expr);
    // What every spec tells it anew hides what it gives from the start.
    const isTold = around.every((blocks) => answers.some(({ block, lasts }) => lasts && blocks.has(block)));
    given.set(key, isTold ? oneOf(all) : first && oneOf([first, ...all]));
  }
  return { given, automatic };
}

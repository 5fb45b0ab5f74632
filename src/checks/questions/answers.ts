import { constant, oneOf, UNKNOWN, type Expr } from '../../components/expr.js';
import type { Project } from '../../project/project.js';
import { blocksAround, hooksFor, type Block, type SpecFile } from '../../specs/model/blocks.js';
import type { StepOf } from '../../specs/model/steps.js';
import { grouped } from '../../util/grouped.js';
import { REPLACED } from './facts.js';
import { fileFact, type FileContext, type SpecFileFacts } from './context.js';
import { runningBlocks, runningSpecs } from './order.js';

/** What the stand-ins give that a spec file has for functions of modules. */
interface Answers {
  /** By the function's key; undefined where a spec renders that gives no answer. An answer that can't be read is unknown. */
  given: ReadonlyMap<string, Expr | undefined>;
  /** The modules of which the runner makes stand-ins: their functions give nothing until they are told to. */
  automatic: ReadonlySet<string>;
}

/** What the stand-ins of a spec file give for functions of modules. */
export const ANSWERS = fileFact('answers', (context): Answers => answersIn(context));

/** Whether a spec file has a stand-in for a function, by its key, or replaces all of its module. */
export const mayReplace = (file: SpecFileFacts, key: string): boolean =>
  file.get(ANSWERS).given.has(key) || file.get(REPLACED).has(moduleOf(key));

const moduleOf = (key: string): string => key.slice(0, key.lastIndexOf('#'));

/** What all these spec files let a function give; undefined where one of them may call the real one. */
export function commonAnswers(files: readonly SpecFileFacts[], key: string): readonly Expr[] | undefined {
  const all = files.map((file) => {
    const { given, automatic } = file.get(ANSWERS);
    return given.get(key) ?? (automatic.has(moduleOf(key)) && !given.has(key) ? NOTHING : undefined);
  });
  return all.length > 0 && all.every((each) => each !== undefined) ? all : undefined;
}

const NOTHING = constant(undefined);

type AnswerStep = StepOf<'answer'>;

function answersIn(context: FileContext): Answers {
  const { file, project, rendering } = context;
  const automatic = new Set(
    file.replacements.flatMap((each) => (each.automatic ? (each.file ?? each.specifier) : [])),
  );
  const told = toldAnswers(context);
  const fromStart = new Map<string, Expr>();
  for (const { specifier, answers } of file.replacements)
    for (const [name, expr] of answers)
      fromStart.set(project.exportKey(file.path, { specifier, name }), expr);
  for (const key of told.keys())
    if (automatic.has(moduleOf(key)) && !fromStart.has(key)) fromStart.set(key, NOTHING);
  const around = runningSpecs(file)
    .filter((spec) => rendering.rendersFor(spec).length > 0)
    .map((spec) => new Set([...blocksAround(spec), ...hooksFor(spec, 'before-all', 'before-each')]));
  const given = new Map<string, Expr | undefined>();
  for (const key of new Set([...fromStart.keys(), ...told.keys()])) {
    const first = fromStart.get(key);
    const answers = told.get(key) ?? [];
    const all = answers.map(({ expr }) => expr);
    // What every spec tells it anew hides what it gives from the start.
    const isTold = around.every((blocks) => answers.some(({ block, lasts }) => lasts && blocks.has(block)));
    given.set(key, isTold ? oneOf(all) : first && oneOf([first, ...all]));
  }
  return { given, automatic };
}

/** An answer that a block tells a stand-in to give; `lasts`: for all calls that follow. */
interface Told {
  expr: Expr;
  block: Block;
  lasts: boolean;
}

function toldAnswers({ file, project }: FileContext): Map<string, Told[]> {
  const keyOf = keysOf(file, project);
  const told = [file.root, ...runningBlocks(file)].flatMap((block) =>
    block.steps.flatMap((step) => {
      const key = step.kind === 'answer' ? keyOf(step) : undefined;
      if (step.kind !== 'answer' || key === undefined) return [];
      const lasts = !step.once && !step.maybe;
      return [{ key, expr: step.gives ?? UNKNOWN, block, lasts }];
    }),
  );
  return grouped(told, ({ key }) => key);
}

// The key of the function that an answer is given to.
function keysOf(file: SpecFile, project: Project): (step: AnswerStep) => string | undefined {
  const held = new Map(
    file.replacements.flatMap(({ specifier, standIns }) =>
      [...standIns].map(([name, standIn]) => [standIn, { specifier, name }] as const),
    ),
  );
  return ({ standIn, binding }) => {
    const from =
      (standIn && held.get(standIn)) ??
      (binding?.kind === 'import' ? file.imports.get(binding.name) : undefined);
    return from && project.exportKey(file.path, from);
  };
}

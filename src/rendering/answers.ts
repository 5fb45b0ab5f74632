import { constant, oneOf, UNKNOWN, type Expr } from '../components/expr.js';
import type { Project } from '../project/project.js';
import { hooksFor, isOff, type Block, type SpecFile } from '../specs/model/blocks.js';
import type { Render, Step, StepOf } from '../specs/model/steps.js';
import { grouped } from '../util/grouped.js';

/** What a function gives that was told nothing. */
export const NOTHING = constant(undefined);

/** The module of a function's key. */
export const moduleOf = (key: string): string => key.slice(0, key.lastIndexOf('#'));

/** An answer that a block tells a stand-in to give; `lasts`: for all calls that follow. */
interface Told {
  key: string;
  expr: Expr;
  block: Block;
  lasts: boolean;
}

/** What the stand-ins of a spec file give for functions of modules, by the functions' keys. */
export class SpecAnswers {
  /** The modules of which the runner makes stand-ins: their functions give nothing until they are told to. */
  readonly automatic: ReadonlySet<string>;
  /** What functions give before a spec or hook tells them anything. */
  readonly fromStart: ReadonlyMap<string, Expr>;
  readonly told: ReadonlyMap<string, readonly Told[]>;
  readonly #keyOf: (step: StepOf<'answer'>) => string | undefined;

  constructor(file: SpecFile, project: Project) {
    this.#keyOf = keysOf(file, project);
    this.automatic = new Set(
      file.replacements.flatMap((each) => (each.automatic ? (each.file ?? each.specifier) : [])),
    );
    const all = [file.root, ...file.blocks.filter((block) => !isOff(block))].flatMap((block) =>
      block.steps.flatMap((step) => this.#toldBy(step, block)),
    );
    this.told = grouped(all, ({ key }) => key);
    const fromStart = new Map<string, Expr>();
    for (const { specifier, answers } of file.replacements)
      for (const [name, expr] of answers)
        fromStart.set(project.exportKey(file.path, { specifier, name }), expr);
    for (const key of this.told.keys())
      if (this.automatic.has(moduleOf(key)) && !fromStart.has(key)) fromStart.set(key, NOTHING);
    this.fromStart = fromStart;
  }

  /** What functions give to what a spec renders: all that they are told up to then, and from then on. Only what can be read. */
  at({ block }: Render): ReadonlyMap<string, Expr> {
    const found = new Map(this.fromStart);
    if (block.kind !== 'spec') return NONE;
    const renders = block.steps.findIndex(({ kind }) => kind === 'render');
    const before = [...hooksFor(block, 'before-all', 'before-each').flatMap(({ steps }) => steps)];
    for (const [i, step] of [...before, ...block.steps].entries()) {
      const [told] = this.#toldBy(step, block);
      if (!told) continue;
      const isLater = i > before.length + renders;
      const known = found.get(told.key) ?? UNKNOWN;
      found.set(told.key, told.lasts && !isLater ? told.expr : oneOf([known, told.expr]));
    }
    for (const [key, expr] of found) if (expr === NOTHING || expr === UNKNOWN) found.delete(key);
    return found;
  }

  #toldBy(step: Step, block: Block): Told[] {
    const key = step.kind === 'answer' ? this.#keyOf(step) : undefined;
    if (step.kind !== 'answer' || key === undefined) return [];
    return [{ key, expr: step.gives ?? UNKNOWN, block, lasts: !step.once && !step.maybe }];
  }
}

const NONE: ReadonlyMap<string, Expr> = new Map();

// The key of the function that an answer is given to.
function keysOf(file: SpecFile, project: Project): (step: StepOf<'answer'>) => string | undefined {
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

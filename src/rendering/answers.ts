import { constant, importOfKey, oneOf, UNKNOWN, type Expr } from '../components/expr.js';
import type { Project } from '../project/project.js';
import { blocksAround, hooksFor, isOff, type Block, type SpecFile } from '../specs/model/blocks.js';
import type { Render, Step, StepOf } from '../specs/model/steps.js';
import { grouped } from '../util/grouped.js';

/** What a function gives that was told nothing. */
export const NOTHING = constant(undefined);

/** The module of a function's key. */
export const moduleOf = (key: string): string => importOfKey(key)?.specifier ?? key;

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
  readonly #toldBy = new Map<Step, Told>();

  constructor(file: SpecFile, project: Project) {
    this.automatic = new Set(
      file.replacements.flatMap((each) => (each.automatic ? (each.file ?? each.specifier) : [])),
    );
    const keyOf = keysOf(file, project);
    for (const block of [file.root, ...file.blocks.filter((block) => !isOff(block))])
      for (const step of block.steps) {
        const key = step.kind === 'answer' ? keyOf(step) : undefined;
        if (step.kind !== 'answer' || key === undefined) continue;
        const lasts = !step.once && !step.maybe;
        this.#toldBy.set(step, { key, expr: step.gives ?? UNKNOWN, block, lasts });
      }
    this.told = grouped([...this.#toldBy.values()], ({ key }) => key);
    const fromStart = new Map<string, Expr>();
    for (const { specifier, answers } of file.replacements)
      for (const [name, expr] of answers)
        fromStart.set(project.exportKey(file.path, { specifier, name }), expr);
    for (const key of this.told.keys())
      if (this.automatic.has(moduleOf(key)) && !fromStart.has(key)) fromStart.set(key, NOTHING);
    this.fromStart = fromStart;
  }

  /**
   * What functions give to what a spec renders: by the factory of their module, by what hooks and the spec tell them
   * before, and by what the spec tells them from then on. What can't be read is left out.
   */
  at({ block }: Render): ReadonlyMap<string, Expr> {
    if (block.kind !== 'spec' || (this.fromStart.size === 0 && this.told.size === 0)) return NONE;
    const found = new Map(this.fromStart);
    const tell = (step: Step, isSure: boolean): void => {
      const told = this.#toldBy.get(step);
      if (!told) return;
      const known = found.get(told.key) ?? UNKNOWN;
      found.set(told.key, told.lasts && isSure ? told.expr : oneOf([known, told.expr]));
    };
    // What is told outside of hooks and specs may have been reset before each spec.
    for (const outer of blocksAround(block).slice(1).toReversed())
      for (const step of outer.steps) tell(step, false);
    for (const hook of hooksFor(block, 'before-all', 'before-each'))
      for (const step of hook.steps) tell(step, true);
    const renders = block.steps.findIndex(({ kind }) => kind === 'render');
    for (const [i, step] of block.steps.entries()) tell(step, i <= renders);
    for (const [key, expr] of found) if (expr === NOTHING || expr === UNKNOWN) found.delete(key);
    return found;
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

import { blocksAround, hooksFor, type Block, type SpecFile } from '../../specs/model/blocks.js';
import type { Statement } from '../../specs/model/body.js';
import { stands } from '../../specs/model/rounds.js';
import type { Step, StepOf } from '../../specs/model/steps.js';
import { wordsOf } from '../../util/words.js';

/** What a spec sets that a hook before it has set to the same already. */
interface ArrangedBefore {
  statement: Statement;
  before: Statement;
}

/** The statements of a spec that set again what stands so already when it starts: the same code in a before-each hook, and nothing in between that could change it. */
export function arrangedBefore(spec: Block): ArrangedBefore[] {
  const hooks = hooksFor(spec, 'before-each');
  const set = hooks.flatMap((hook) =>
    settingIn(hook).map((each) => ({ ...each, hook, key: keyOf(each.statement, hook) })),
  );
  if (set.length === 0) return [];
  return settingIn(spec).flatMap(({ statement, step }) => {
    const key = isTold(statement, spec) ? undefined : keyOf(statement, spec);
    const found = set.findLast((each) => each.key === key);
    if (!found || key === undefined) return [];
    const inHooks = hooks.slice(hooks.indexOf(found.hook)).flatMap(({ steps }) => steps);
    const between = [
      ...inHooks.slice(inHooks.indexOf(found.step) + 1),
      ...spec.steps.slice(0, spec.steps.indexOf(step)),
    ];
    return between.some((each) => mayUndo(each, step)) ? [] : [{ statement, before: found.statement }];
  });
}

/** What a hook does for all stand-ins or the page, where a hook of a group around it does the same before or after each spec. */
export function repeatedByHooks({ root, blocks }: SpecFile): { hook: Block; before: Statement }[] {
  return blocks.flatMap((hook) => {
    const { parent, statements, hook: time } = hook;
    const [statement, ...more] = statements;
    if (!statement || more.length > 0 || (time !== 'before-each' && time !== 'after-each')) return [];
    if (!parent || parent === root || !restoresAll(statement, hook)) return [];
    const outer = blocksAround(parent)
      .slice(1)
      .flatMap(({ children }) => children.filter((each) => each.kind === 'hook' && each.hook === time));
    // What stands between the two may have been done for it to undo.
    const [only, ...others] = outer.filter(({ steps }) => steps.some(({ kind }) => kind !== 'use'));
    const before = only?.statements.find((each) => each.code === statement.code && restoresAll(each, only));
    return only && before && only.statements.length === 1 && others.length === 0 ? [{ hook, before }] : [];
  });
}

// `jest.restoreAllMocks()`, and nothing else.
const restoresAll = (statement: Statement, { steps }: Block): boolean => {
  const [step, ...more] = steps.filter((each) => stands(each, statement));
  return step?.kind === 'restore' && step.scope === 'all' && more.length === 0;
};

type Setting = StepOf<'answer'> | StepOf<'restore'> | StepOf<'lasting'>;

const isSetting = (step: Step): step is Setting =>
  !step.maybe &&
  !step.via &&
  !step.inCallback &&
  ((step.kind === 'answer' && !step.once) ||
    (step.kind === 'restore' && step.what !== 'restore') ||
    (step.kind === 'lasting' && step.lasting.does === 'set'));

// The statements of a block that set one thing, and declare nothing.
function settingIn({ statements, steps }: Block): { statement: Statement; step: Setting }[] {
  return statements.flatMap((statement) => {
    if (statement.declares.length > 0) return [];
    // Stand-ins in what is answered are made when that is asked for.
    const [step, ...more] = steps.filter(
      (each) => stands(each, statement) && each.kind !== 'use' && each.kind !== 'stand-in',
    );
    return step && more.length === 0 && isSetting(step) ? [{ statement, step }] : [];
  });
}

// What a title speaks of is what its spec is about.
function isTold({ literals }: Statement, { title }: Block): boolean {
  const told = wordsOf(title.text);
  return literals.some(({ text }) => wordsOf(text).some((word) => told.includes(word)));
}

// Equal for code that means the same: names of the block's own mean something else in each.
const keyOf = ({ uses, code }: Statement, block: Block): string | undefined =>
  [...uses].some((name) => block.names.has(name)) ? undefined : code;

function mayUndo(step: Step, set: Setting): boolean {
  if (step.kind === 'unknown-call' || step.kind === 'throw') return true;
  if (step.kind === 'act' || step.kind === 'render') return set.kind !== 'answer';
  if (step.kind === 'restore') return set.kind !== 'restore' && step.what !== 'clear';
  if (step.kind === 'lasting') return set.kind === 'lasting';
  if (step.kind !== 'answer' || set.kind !== 'answer') return false;
  return set.standIn ? step.standIn === set.standIn : step.binding === set.binding;
}

import { hooksFor, type Block } from '../../specs/model/blocks.js';
import { isAssert, kindOf, stands } from '../../specs/model/rounds.js';
import type { Assertion, Guard, Reach, Step, StepOf } from '../../specs/model/steps.js';
import { textOfValue, libraryObjectOf } from '../../specs/model/values.js';
import { countsAssertions } from './hollow.js';

/** Why an assertion may not run. */
export const REASONS: Readonly<Record<Guard['by'], string>> = {
  if: 'stands under a condition, and nothing says that the condition holds',
  and: 'stands behind a condition, and nothing says that the condition holds',
  switch: 'stands in a case, and not every case asserts',
  return: 'stands behind a way out of the spec, and nothing asserts that it is not taken',
  loop: 'stands in a loop over a query that may find nothing',
  event: 'stands in a callback, and nothing says that it was called',
  value: 'stands in a subscription, and nothing says that a value came',
  catch: 'only runs if something throws',
};
/** What to do about it. */
export const adviceFor = ({ by, list }: Pick<Guard, 'by' | 'list'>): string => {
  if (by === 'loop')
    return `Assert first how many there are${list?.name.startsWith('query') ? ', or ask with a query that throws' : ''}.`;
  if (by === 'event') return 'Hand in a stand-in, and assert after the act that it was called and with what.';
  if (by === 'value')
    return 'Keep the value, and assert on it after the subscription; or end the spec by its callback.';
  if (by === 'catch') return 'Expect the throw itself, or count the assertions.';
  return 'Assert the condition itself, then what follows from it without asking again.';
};
/** Whether it is up to somebody else to call what it stands in. */
export const isCallback = ({ by }: Guard): boolean => by === 'event' || by === 'value';

/** The condition under which an assertion may not run; undefined where it surely runs, or where another way asserts as well. */
export function openGuard(step: StepOf<'assert'>, spec: Block): Guard | undefined {
  if (!step.guard) return undefined;
  if (step.dead || step.via || countsAssertions(spec) || spec.waitsForCallback) return undefined;
  for (let guard: Guard | undefined = step.guard; guard; guard = guard.outer)
    if (!guard.covered && !guard.fixed && !isAsserted(guard, step, spec)) return guard;
  return undefined;
}

// What the condition asks for was asserted before: the condition holds.
function isAsserted({ by, names, list, place }: Guard, step: StepOf<'assert'>, spec: Block): boolean {
  if (by === 'catch') return false;
  if (by === 'value') return isAnswered(spec, step);
  const before = spec.steps.slice(0, spec.steps.indexOf(step)).filter(isAssert);
  const earlier = before.filter((each) => each.guard?.place !== place);
  if (by === 'loop')
    return spec.steps
      .filter(isAssert)
      .some(({ assertion, guard }) => guard?.place !== place && isOfList(assertion, list));
  if (by === 'event') {
    const later = spec.steps.slice(spec.steps.indexOf(step)).filter(isAssert);
    return later.some(({ assertion, guard }) => assertion.asks === 'called' && guard !== step.guard);
  }
  return earlier.some(({ assertion: { subjectPath } }) => {
    const path = subjectPath.at(-1) === 'length' ? subjectPath.slice(0, -1) : subjectPath;
    return path.length > 0 && path.every((name) => names.includes(name));
  });
}

// The spec, or what runs before it, says what comes; or does something afterwards that may bring it about.
function isAnswered(spec: Block, step: StepOf<'assert'>): boolean {
  const before = hooksFor(spec, 'before-all', 'before-each').flatMap(({ steps }) => steps);
  const answers = (each: Step): boolean =>
    each.kind === 'answer' || (each.kind === 'stand-in' && each.standIn.answers);
  const at = spec.statements.findIndex((statement) => stands(step.assertion, statement));
  const later = at < 0 ? [] : spec.statements.slice(at + 1);
  return [...before, ...spec.steps].some(answers) || later.some((each) => kindOf(each, spec) !== 'assert');
}

/** Whether an assertion says how many there are, or what all of them hold, of a list or by the same words. */
export function isOfList({ subject, asks }: Assertion, list: Reach | undefined): boolean {
  const reach = libraryObjectOf(subject)?.reach;
  if (!reach || !list || (asks !== 'equal' && asks !== 'count')) return false;
  const [asked, listed] = [reach, list].map(({ args }) => textOfValue(args[0]));
  return reach === list || (asked !== undefined && asked === listed && reach.missing === list.missing);
}

import { eventOf } from '../../specs/model/acts.js';
import { titlesOf } from '../../specs/model/blocks.js';
import type { Reach } from '../../specs/model/steps.js';
import { textOfValue } from '../../specs/model/values.js';
import { inShort } from '../../util/printable.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { evidence, markupOf } from '../questions/element-markup.js';
import { betterQuery, certaintyOf } from '../../writing/rewrite.js';
import { assertsAbsence, isTestIdSelector, takesElements } from '../questions/used-reaches.js';
import { onceAFile, onceAFileMended } from '../questions/once-a-file.js';
import { FIELD, isSaidBeside, toldRole } from '../questions/own-words.js';
import { withArticle } from '../../util/plural.js';

const message = (id: string, markup: string): string =>
  `${markup} is reached by the test id “${id}”, though a user can name it.`;
const advice = (query: string): string => `Reach it as a user would: ${query}`;

const messageGiven = (id: string, markup: string): string =>
  `${markup} is reached by “${id}”, a test id that the spec gives it, though a user can name it.`;

const messageTold = (id: string, name: string | undefined, role: string): string =>
  name === undefined
    ? `By its test id “${id}” this is ${withArticle(role)}, and a test id asks nothing of what a user can find.`
    : `By its name here, “${name}”, this is ${withArticle(role)}, and the test id “${id}” asks nothing of what a user can find.`;
const adviceTold = (role: string): string =>
  role === FIELD
    ? 'Ask for it by its label, as a user finds it.'
    : `Ask for it as a user finds it: by the role ${role} and its name.`;

const messageDone = (id: string, done: string): string =>
  `What has the test id “${id}” is ${done}, and a test id asks nothing of what a user can find.`;
const adviceDone = 'Ask for it as a user finds it: by its role and name, or by its label.';

// Whatever the element is, a user who does this to it must find it.
const DONE: ReadonlyMap<string, string> = new Map([
  ['click', 'clicked'],
  ['dblclick', 'clicked'],
  ['type', 'typed into'],
  ['clear', 'emptied'],
  ['selectoptions', 'chosen from'],
  ['change', 'changed'],
  ['upload', 'given a file'],
]);

/** A test id in the component's own markup, on an element that has a role and name, a label or a text of its own. */
export const Q02: FileCheck = {
  code: 'Q02',
  family: 'queries',
  scope: 'file',
  title: 'Test id where a better handle exists',
  level: 'hint',
  why: 'A test id says nothing of what a user can find: the button may lose its name, and the spec stays green.',
  certain:
    'Sure where the element is known, and nothing unread could be found as well. By the words of the spec alone, likely.',
  trouble: "screen.getByTestId('fire')",
  mended: "screen.getByRole('button', { name: 'Fire' })",
  run(context) {
    if (!context.userCentred) return [];
    const known = context.used.flatMap(({ reach }) => check(reach, context) ?? []);
    return [
      ...known.filter(({ isGiven }) => !isGiven).map(({ finding }) => finding),
      ...onceAFileMended(
        known.filter(({ isGiven }) => isGiven).map(({ finding }) => finding),
        'here, too',
      ),
      ...onceAFile(told(context), 'here, too'),
    ];
  },
};

// What can't be seen, but is a control by the words of the spec: once a file, as its ids are a habit.
function told(context: FileContext): Finding[] {
  const byId = new Map<string, Finding>();
  for (const { reach, step } of context.used) {
    const id = reach.by === 'testId' && takesElements(reach) ? textOfValue(reach.args[0]) : undefined;
    if (id === undefined || reach.position !== undefined || byId.has(id)) continue;
    if (step.kind === 'assert' && assertsAbsence(step.assertion)) continue;
    const named = toldRole(id) ?? toldRole(reach.named);
    const done = step.kind === 'act' ? DONE.get(eventOf(step)) : undefined;
    // What is called a field may be the box around one, but for what is typed into.
    const role = named === FIELD && step.kind !== 'act' ? undefined : named;
    if (role === undefined && done === undefined) continue;
    // What the file itself renders under that id is its own, in a stand-in for a module too.
    if (isSaidBeside(id, context.file)) continue;
    if (context.rendering.target(reach).kind !== 'unknown') continue;
    byId.set(id, {
      place: inFile(context, reach.place),
      within: titlesOf(reach.block),
      certainty: 'likely',
      ...(role === undefined
        ? { message: messageDone(inShort(id, 40), done ?? ''), advice: adviceDone }
        : {
            message: messageTold(inShort(id, 40), toldRole(id) ? undefined : reach.named, role),
            advice: adviceTold(role),
          }),
    });
  }
  return [...byId.values()];
}

// `isGiven`: the spec itself gives the test id to a component, to find it by.
function check(reach: Reach, context: FileContext): { finding: Finding; isGiven: boolean } | undefined {
  const attribute = context.testIdAttribute;
  // A wrapper or a test bed has nothing better.
  if (!takesElements(reach)) return undefined;
  const isById = reach.by === 'testId' || (reach.by === 'selector' && isTestIdSelector(reach, attribute));
  const target = isById && reach.position === undefined ? context.rendering.target(reach) : undefined;
  if (target?.kind !== 'one') return undefined;
  const { element } = target;
  // Written in the spec, or in a child that the spec makes for itself.
  if (!element.component || element.component.file === context.file.path) return undefined;
  const id = textOfValue(reach.args[0]) ?? '';
  const isGiven = [...element.filled].some((name) => name.startsWith('data-'));
  // Another component gives it, or a module of words.
  if (isGiven && !isSaidBeside(id, context.file)) return undefined;
  // By a text, what is found need not be what was given the id.
  const better = betterQuery(reach, element, context, isGiven ? 'role' : 'any');
  if (!better) return undefined;
  const finding: Finding = {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    certainty: certaintyOf(reach, better, context),
    message: (isGiven ? messageGiven : message)(inShort(id, 40), markupOf(element)),
    advice: advice(better.query),
    evidence: evidence(reach, element),
    suggestion: better.query,
    mend: better.mend,
  };
  return { finding, isGiven };
}

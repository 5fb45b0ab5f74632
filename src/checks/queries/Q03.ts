import { titlesOf } from '../../specs/model/blocks.js';
import type { By } from '../../libraries/meaning.js';
import { eventOf } from '../../specs/model/acts.js';
import type { Reach, Step } from '../../specs/model/steps.js';
import { nameAsked } from '../../specs/model/asked.js';
import { textOfValue } from '../../specs/model/values.js';
import { inShort } from '../../util/printable.js';
import { withArticle } from '../../util/plural.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { evidence, markupOf } from '../questions/element-markup.js';
import { argsOf, betterQuery, certaintyOf } from '../../writing/rewrite.js';
import { assertsAbsence } from '../questions/used-reaches.js';
import { onceAFile } from '../questions/once-a-file.js';
import { FIELD, isSaidBeside, toldRole } from '../questions/own-words.js';
import type { Wanted } from '../../rendering/match.js';
import { roleOf } from '../../rendering/role.js';
import type { RenderedElement } from '../../rendering/rendered-tree.js';
import { wantedOf } from '../../rendering/user-queries.js';

const message = (by: string, markup: string, role: string): string =>
  `${markup} is reached by its ${by}; its role and name say more: that it is ${withArticle(role)}.`;
const messageOfText = (text: string, role: string): string => message('text', `“${inShort(text, 40)}”`, role);
const messageNamed = (by: string, name: string, role: string): string =>
  `What the spec itself calls “${name}” is reached by its ${by}: its role and name say that it is ${withArticle(role)}.`;
const messageWithin = (markup: string, control: string, role: string): string =>
  `${markup} is reached by its text, within ${control}: that it is ${withArticle(role)} with that name is not asked.`;
const messagePressed = (shown: string): string =>
  `${shown} is clicked by its text, which plain text has as well: no role says that it can be clicked.`;
const advicePressed =
  'Ask for it by the role that users know it by, and its name: a button, a link, an option.';
const advice = (query: string): string => `Ask for both: ${query}`;

const WORDS: Readonly<Partial<Record<By, string>>> = {
  text: 'text',
  title: 'title',
  placeholder: 'placeholder',
  alt: 'alternative text',
  label: 'label',
};

/** A text, title, placeholder or a button’s label, on an element whose role and name find it as well. */
export const Q03: FileCheck = {
  code: 'Q03',
  family: 'queries',
  scope: 'file',
  title: 'A better rung is free',
  level: 'hint',
  why: 'A text is found on anything: a button that has become a plain box still shows it, but nobody can press it by the keyboard.',
  certain:
    'Sure where the element is known, and nothing unread could be found as well. By the words of the spec alone, likely.',
  trouble: "screen.getByText('Fire')",
  mended: "screen.getByRole('button', { name: 'Fire' })",
  run(context) {
    const pressed: Finding[] = [];
    const found = context.used.flatMap(({ reach, step }) => {
      if (step.kind === 'assert' && assertsAbsence(step.assertion)) return [];
      const own =
        check(reach, context) ??
        (step.kind === 'act' ? byItsControl(reach, context) : undefined) ??
        byItsTag(reach, context) ??
        byItsName(reach, context) ??
        (step.kind === 'act' ? byOthers(reach, context) : undefined);
      const press = own ? undefined : byItsPress(reach, step, context);
      if (press) pressed.push(press);
      return own ?? [];
    });
    return [...found, ...onceAFile(pressed, 'clicked by its text, too')];
  },
};

// `<button><span>Fire</span></button>`: what is acted on is a text within a control of that very name.
function byItsControl(reach: Reach, context: FileContext): Finding | undefined {
  const asked = wantedOf(reach.args[0]);
  if (reach.by !== 'text' || !reach.asUser || reach.position !== undefined || !asked) return undefined;
  const target = context.rendering.target(reach);
  if (target.kind !== 'one' || roleOf(target.element) !== null) return undefined;
  const control = controlAround(target.element);
  if (!control) return undefined;
  const better = betterQuery(reach, control, context, 'role');
  const role = better ? better.handle.role : roleOf(control) === undefined ? 'button' : undefined;
  if (role === undefined || (better && !better.handle.asked)) return undefined;
  const query = better?.query ?? queryByRole(reach, role, asked, context);
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    certainty: better ? certaintyOf(reach, better, context) : 'likely',
    message: messageWithin(markupOf(target.element), markupOf(control), role),
    advice: advice(query),
    evidence: evidence(reach, control),
    suggestion: query,
  };
}

// The control that an element is a part of; one that can't be told is none.
function controlAround({ parent }: RenderedElement): RenderedElement | undefined {
  if (!parent) return undefined;
  const role = roleOf(parent);
  // What is spread into a button seldom makes something else of it.
  if (role === undefined) return parent.tag === 'button' ? parent : undefined;
  return role !== null && CONTROLS.has(role) ? parent : controlAround(parent);
}

// What is clicked is a control, whichever; texts are clicked all over a file.
function byItsPress(reach: Reach, step: Step, context: FileContext): Finding | undefined {
  const asked = wantedOf(reach.args[0]);
  if (reach.by !== 'text' || !reach.asUser || reach.position !== undefined || !asked) return undefined;
  if (step.kind !== 'act' || eventOf(step) !== 'click' || reach.args.length > 1) return undefined;
  // What the spec gives itself may be anything, clicked to show that nothing comes of it.
  if ('text' in asked && isSaidBeside(asked.text, context.file)) return undefined;
  if (context.rendering.target(reach).kind !== 'unknown') return undefined;
  const shown = 'text' in asked ? `“${inShort(asked.text, 40)}”` : inShort(String(asked.pattern), 40);
  return likely(reach, messagePressed(shown), advicePressed, context);
}

// What is clicked can't be told; another spec of the file asks for a control of that name by its role.
function byOthers(reach: Reach, context: FileContext): Finding | undefined {
  const text = reach.args.length === 1 ? textOfValue(reach.args[0]) : undefined;
  if (reach.by !== 'text' || !reach.asUser || reach.position !== undefined || text === undefined)
    return undefined;
  const target = context.rendering.target(reach);
  if (target.kind !== 'unknown' && (target.kind !== 'one' || target.proven)) return undefined;
  const { file, source } = context;
  const other = file.reaches.find((each) => each.by === 'role' && !each.via && nameAsked(each) === text);
  const role = other && textOfValue(other.args[0]);
  if (!other || role === undefined || !CONTROLS.has(role)) return undefined;
  const query = source.text.slice(other.place.start, other.place.end);
  return likely(reach, messageOfText(text, role), advice(query), context, [
    { ...inFile(context, other.place), note: 'asked for by its role here' },
  ]);
}

// What is not known to be the element that is found, but has a role by all that the file says.
const likely = (
  reach: Reach,
  message: string,
  advice: string,
  context: FileContext,
  evidence: Finding['evidence'] = [],
): Finding => ({
  place: inFile(context, reach.place),
  within: titlesOf(reach.block),
  certainty: 'likely',
  message,
  advice,
  evidence,
});

// The same, asked of the same, by a role and what it asks for now.
function queryByRole(reach: Reach, role: string, asked: Wanted, { style }: FileContext): string {
  const on = reach.receiver === '' ? '' : `${reach.receiver}.`;
  return `${on}${reach.name.replace(/By\w+$/, 'ByRole')}(${argsOf({ role, asked }, style.quote)})`;
}

// `const fireButton = screen.getByText('Fire')`: the spec itself calls it a button.
function byItsName(reach: Reach, context: FileContext): Finding | undefined {
  const role = toldRole(reach.named);
  const asked = wantedOf(reach.args[0]);
  const by = WORDS[reach.by];
  if (role === undefined || role === FIELD || !asked || !by) return undefined;
  if (!reach.asUser || reach.position !== undefined || isInMenu(reach)) return undefined;
  if (reach.by === 'label' && !PRESSED.has(role)) return undefined;
  if (context.rendering.target(reach).kind !== 'unknown') return undefined;
  const query = queryByRole(reach, role, asked, context);
  return likely(reach, messageNamed(by, reach.named ?? '', role), advice(query), context);
}

// What is called a button there is an item.
const isInMenu = ({ from }: Reach): boolean =>
  typeof from === 'object' &&
  'by' in from &&
  from.by === 'role' &&
  MENUS.has(textOfValue(from.args[0]) ?? '');

const MENUS: ReadonlySet<string> = new Set(['menu', 'menubar', 'listbox', 'radiogroup', 'tablist']);

// `getByText('Fire', { selector: 'button' })`: the spec itself says what it is.
function byItsTag(reach: Reach, context: FileContext): Finding | undefined {
  const [asked, options] = reach.args;
  const text = textOfValue(asked);
  const tag = options?.is === 'object' ? textOfValue(options.entries.get('selector')) : undefined;
  const role = tag === undefined ? undefined : ROLES.get(tag);
  if (reach.by !== 'text' || !reach.asUser || text === undefined || role === undefined) return undefined;
  const query = queryByRole(reach, role, { text, exact: true }, context);
  return likely(reach, messageOfText(text, role), advice(query), context);
}

const ROLES: ReadonlyMap<string, string> = new Map([
  ['button', 'button'],
  ...[1, 2, 3, 4, 5, 6].map((level) => [`h${level}`, 'heading'] as const),
]);

const CONTROLS: ReadonlySet<string> = new Set(
  'button link tab menuitem option checkbox radio switch'.split(' '),
);

const PRESSED: ReadonlySet<string> = new Set('button link tab menuitem'.split(' '));

function check(reach: Reach, context: FileContext): Finding | undefined {
  const by = WORDS[reach.by];
  if (!by || !reach.asUser || reach.position !== undefined) return undefined;
  const target = context.rendering.target(reach);
  const better = target.kind === 'one' ? betterQuery(reach, target.element, context, 'role') : undefined;
  if (target.kind !== 'one' || !better?.handle.asked || !better.handle.role) return undefined;
  // A field is best known by its label.
  if (reach.by === 'label' && !PRESSED.has(better.handle.role)) return undefined;
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    certainty: certaintyOf(reach, better, context),
    message: message(by, markupOf(target.element), better.handle.role),
    advice: advice(better.query),
    evidence: evidence(reach, target.element),
    suggestion: better.query,
    mend: better.mend,
  };
}

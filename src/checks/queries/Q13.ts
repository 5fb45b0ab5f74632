import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Edit, Mend, Finding } from '../../finding.js';
import type { RenderedElement } from '../../rendering/rendered-tree.js';
import { constantOf } from '../../rendering/role.js';
import { ANY_KEY, pressedKeys } from '../../specs/model/pressed-keys.js';
import type { StepOf } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runsOnFakeClock } from '../questions/clocks.js';
import { runningBlocks } from '../questions/order.js';

const message = (name: string, action: string): string =>
  `fireEvent.${name} sends one bare event; a user’s ${action} sends all that goes with it, and only where it can.`;
const advice = (call: string): string => `Act as a user does: ${call}`;

type Act = StepOf<'act'>;

/** The user's action for an event, as the library has it. */
const ACTIONS: Readonly<Record<string, string>> = {
  click: 'click',
  dblClick: 'dblClick',
  doubleClick: 'dblClick',
  change: 'type',
  input: 'type',
  keyDown: 'keyboard',
  keyUp: 'keyboard',
  keyPress: 'keyboard',
  mouseOver: 'hover',
  mouseEnter: 'hover',
  mouseOut: 'unhover',
  mouseLeave: 'unhover',
  mouseDown: 'pointer',
  mouseUp: 'pointer',
  paste: 'paste',
};
// Fields that the library fills in another way, or not at all.
const NOT_TYPED = new Set('range color date datetime-local month time week file'.split(' '));

/** A bare event, where the project has a library of user actions. */
export const Q13: FileCheck = {
  code: 'Q13',
  family: 'queries',
  scope: 'file',
  title: 'Raw event instead of a user’s action',
  level: 'hint',
  why: 'A bare click also reaches a button that is disabled, covered or out of focus, and sends none of the events before and after it that handlers rely on.',
  certain: 'Sure where the package declares a library of users’ actions.',
  trouble: "fireEvent.click(screen.getByRole('button'));",
  mended: "await user.click(screen.getByRole('button'));",
  run(context) {
    if (!context.userActions) return [];
    return runningBlocks(context.file).flatMap((block) =>
      block.steps.flatMap((step) => (step.kind === 'act' ? (check(step, block, context) ?? []) : [])),
    );
  },
};

function check(step: Act, block: Block, context: FileContext): Finding | undefined {
  const action = step.by === 'raw' && step.on?.startsWith('fireEvent') ? ACTIONS[step.name] : undefined;
  if (!action) return undefined;
  const target = action === 'type' && step.reach ? context.rendering.target(step.reach) : undefined;
  const element = target?.kind === 'one' ? target.element : undefined;
  // Under a fake clock a user's action waits for ever, unless it is told of the clock.
  if (runsOnFakeClock(step, block)) return undefined;
  const call = callFor(action, element, step);
  if (!call) return undefined;
  const receiver = userIn(block, context);
  return {
    place: inFile(context, step.place),
    within: titlesOf(block),
    certainty: 'sure',
    message: message(step.name, call.action),
    advice: advice(`await ${receiver ?? 'user'}.${call.action}(${call.rest})`),
    evidence: step.via ? [{ ...step.via, note: 'the event stands in this helper' }] : [],
    suggestion: `await ${receiver ?? 'user'}.${call.action}(${call.rest})`,
    mend: mend(step, call.action, block, receiver, context),
  };
}

// What to do with a field depends on which one it is; where that can't be told, nothing is said.
function callFor(
  action: string,
  element: RenderedElement | undefined,
  step: Act,
): { action: string; rest: string } | undefined {
  if (action !== 'type') return { action, rest: action === 'keyboard' ? keysOf(step) : '…' };
  if (!element || element.tag === '?' || element.open) return undefined;
  if (element.tag === 'select') return { action: 'selectOptions', rest: '…, …' };
  const type = constantOf(element, 'type') ?? 'text';
  if (element.tag === 'input' && (type === 'checkbox' || type === 'radio'))
    return { action: 'click', rest: '…' };
  const takesText = element.tag === 'textarea' || (element.tag === 'input' && !NOT_TYPED.has(type));
  return takesText ? { action: 'type', rest: '…, …' } : undefined;
}

// The key in the words of the library: `{Enter}`, or the letter itself.
function keysOf(step: Act): string {
  const [key] = pressedKeys(step);
  if (key === undefined || key === ANY_KEY) return '…';
  const held = Object.entries(MODIFIERS).flatMap(([entry, name]) => (isHeld(step, entry) ? [name] : []));
  const pressed = key.length === 1 ? key : `{${key}}`;
  return `'${held.map((name) => `{${name}>}`).join('')}${pressed}${held.map((name) => `{/${name}}`).join('')}'`;
}

const MODIFIERS = { ctrlKey: 'Control', shiftKey: 'Shift', altKey: 'Alt', metaKey: 'Meta' };

const isHeld = ({ args }: Act, entry: string): boolean =>
  args.some((each) => {
    const value = each.is === 'object' ? each.entries.get(entry) : undefined;
    return value?.is === 'constant' && value.value === true;
  });

// The name that this spec already acts by: `user` of `await user.click(…)`.
function userIn(block: Block, { source }: FileContext): string | undefined {
  for (const step of block.steps) {
    if (step.kind !== 'act' || step.by !== 'user' || !step.statement) continue;
    const { start, end } = step.statement.callee;
    const root = source.text.slice(start, end).split('.')[0];
    if (root && /^[\w$]+$/.test(root)) return root;
  }
  return undefined;
}

// Clicks alone: for what is typed, the values differ. Under a fake clock the library waits for ever.
function mend(
  step: Act,
  action: string,
  block: Block,
  receiver: string | undefined,
  context: FileContext,
): Mend | undefined {
  const { file } = context;
  const isClick = (step.name === 'click' && action === 'click') || action === 'dblClick';
  const isPlain = step.statement && step.statement.args.length === 1 && !step.maybe && !step.inCallback;
  const hasClock = file.blocks.some(({ steps }) => steps.some((step) => step.kind === 'clock' && step.on));
  if (
    !isClick ||
    !isPlain ||
    !step.statement ||
    !block.fn ||
    block.kind !== 'spec' ||
    block.waitsForCallback ||
    hasClock
  )
    return undefined;
  const known = receiver ? { name: receiver, edits: [] } : library(context);
  if (!known) return undefined;
  const async = block.fn.async
    ? []
    : [{ file: file.path, start: block.fn.start, end: block.fn.start, text: 'async ' }];
  const edit: Edit = { file: file.path, ...step.statement.callee, text: `await ${known.name}.${action}` };
  return { summary: `Act by ${known.name}.${action}`, safe: false, edits: [edit, ...async, ...known.edits] };
}

// The library's own object, imported if it is not yet.
function library({
  file,
  source,
  project,
  userActions,
  style,
}: FileContext): { name: string; edits: Edit[] } | undefined {
  const imported = [...file.imports].find(([, { specifier }]) => specifier === userActions);
  if (imported) return { name: imported[0], edits: [] };
  const user = userActions === undefined ? undefined : project.libraries.of(userActions)?.writes?.user;
  const last = [...file.imports.values()].length > 0 ? project.summary(file.path)?.modules.at(-1) : undefined;
  if (
    !user ||
    !last ||
    !/^\s*import\b/m.test(source.text) ||
    file.bindings.some(({ name }) => name === user.local)
  )
    return undefined;
  const { newline, semicolon, quote } = style;
  const text = `${semicolon}${newline}import ${user.local} from ${quote}${userActions}${quote}`;
  return { name: user.local, edits: [{ file: file.path, start: last.end, end: last.end, text }] };
}

import { titlesOf } from '../../specs/model/blocks.js';
import type { Reach } from '../../specs/model/steps.js';
import { textOfValue } from '../../specs/model/values.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { markupOf } from '../questions/element-markup.js';
import { betterQuery } from '../../writing/rewrite.js';
import { styleQuery } from '../../writing/style-query.js';
import { onceAFile } from '../questions/once-a-file.js';
import { takesElements } from '../questions/used-reaches.js';

const message = (position: string, query: string, count: string): string =>
  `The ${position} of ${count} that ${query} finds is picked: another element before it, and the spec means another one.`;
const messageRead = (query: string, read: string): string =>
  `One of all that ${query} finds is picked by its ${read}: where none is so, the failure shows nothing of what was there.`;
const messageMark = (query: string, mark: string): string =>
  `One of all that ${query} finds is picked by its ${mark}, which no user sees.`;
const adviceRead = 'Put it into the query: it can ask for a role and a name, or for the words.';
const adviceMark = 'Ask for it by its role and name, and give it a name where it has none.';
const adviceQuery = (query: string): string => `Ask for the very one: ${query}`;
const advice = 'Ask for it by its name, or look within its container.';

/** An element picked from among several that a query finds: by its position, or by what a callback asks of each. */
export const Q04: FileCheck = {
  code: 'Q04',
  family: 'queries',
  scope: 'file',
  title: 'Picked from among several',
  level: 'risk',
  why: 'Which one stands first is seldom what the spec is about: a new element above it moves the spec to another one, and it may stay green there.',
  certain: 'Sure where more than one element surely matches.',
  trouble: "screen.getAllByRole('button')[1]",
  mended: "screen.getByRole('button', { name: 'Unload' })",
  run(context) {
    const used = context.used.filter(({ reach }) => reach.pickedFrom && reach.by !== 'hop');
    const read = used.flatMap(({ reach }) => byCallback(reach, context) ?? []);
    return [
      ...used.flatMap(({ reach, step }) =>
        reach.pickedBy !== undefined || isAboutOrder(reach, context)
          ? []
          : (check(reach, step.kind === 'act', context) ?? []),
      ),
      ...onceAFile(read, 'and so here'),
    ];
  },
};

const queryText = ({ pickedFrom }: Reach, { source }: FileContext): string =>
  pickedFrom ? source.text.slice(pickedFrom.place.start, pickedFrom.place.end) : '';

const ORDER =
  /\b(?:first|second|third|fourth|last|\d+(?:st|nd|rd|th)|order(?:ed|s)?|sort(?:ed|s|ing)?|position|index|(?:before|after)(?! \w+ing\b)|top|bottom|next|previous|unique)\b/i;

// Several positions of one list, or a title that speaks of places: their order is what the spec is about.
function isAboutOrder(reach: Reach, context: FileContext): boolean {
  if (reach.block.kind === 'spec' && ORDER.test(reach.block.title.text)) return true;
  const query = queryText(reach, context);
  const positions = context.file.reaches
    .filter((other) => other.pickedFrom && other.block === reach.block && queryText(other, context) === query)
    .map(({ position }) => position);
  return new Set(positions).size > 1;
}

function check(reach: Reach, isActedOn: boolean, context: FileContext): Finding | undefined {
  const all = reach.pickedFrom && context.rendering.target(reach.pickedFrom);
  const isUnsure = all?.kind === 'unknown' || (all?.kind === 'one' && !all.proven);
  if (isUnsure && reach.pickedFrom) return ofControls(reach, reach.pickedFrom, isActedOn, context);
  if (all?.kind !== 'many' || reach.via) return undefined;
  const { elements } = all;
  const sure = elements.filter(({ repeated, guards }) => !repeated && guards.length === 0);
  const target = context.rendering.target(reach);
  const element = target.kind === 'one' ? target.element : undefined;
  const inUserStyle = takesElements(reach) && context.userCentred;
  const better = element && inUserStyle ? betterQuery(reach, element, context) : undefined;
  const query = better?.query ?? (element && !inUserStyle ? styleQuery(reach, element, context) : undefined);
  const count = elements.length > 1 && sure.length === elements.length ? String(elements.length) : 'several';
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    certainty: sure.length > 1 ? 'sure' : 'likely',
    message: message(ordinal(reach.position), reach.name, count),
    advice: query ? adviceQuery(query) : advice,
    evidence: elements.slice(0, 3).map((element) => ({
      file: element.file,
      ...element.place,
      note: `one of them: ${markupOf(element)}`,
    })),
    suggestion: query,
    mend: better?.mend,
  };
}

// What a callback asks of each is what a query could ask for.
function byCallback(reach: Reach, context: FileContext): Finding | undefined {
  const { pickedBy = '', pickedFrom, name } = reach;
  const isMark = MARKS.has(pickedBy) || pickedBy.startsWith('data-');
  if (!context.userCentred || !pickedFrom?.asUser || !(isMark || READ.has(pickedBy))) return undefined;
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    level: 'hint',
    certainty: 'sure',
    message: (isMark ? messageMark : messageRead)(name, inWords(pickedBy)),
    advice: isMark ? adviceMark : adviceRead,
  };
}

const READ: ReadonlySet<string> = new Set(
  'textContent innerText aria-label alt title placeholder'.split(' '),
);
const MARKS: ReadonlySet<string> = new Set('id class className classList tagName nodeName'.split(' '));
const inWords = (read: string): string =>
  read.startsWith('class') ? 'class' : /^(?:textContent|innerText)$/.test(read) ? 'text' : `“${read}”`;

// Which elements there are can't be told; one of several controls is hardly picked for its place among them.
function ofControls(reach: Reach, all: Reach, isActedOn: boolean, context: FileContext): Finding | undefined {
  if (reach.via || !all.asUser || all.args.length > 1 || reach.position === 'unknown') return undefined;
  const role = all.by === 'role' ? textOfValue(all.args[0]) : undefined;
  const isControl = role !== undefined && (CONTROLS.has(role) || (isActedOn && PARTS.has(role)));
  // What many have one test id for is told apart by more than its place, where a user acts on it.
  const isMarked = isActedOn && all.by === 'testId';
  if (!isControl && !isMarked && !WORDS.has(all.by)) return undefined;
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    level: 'hint',
    certainty: 'likely',
    message: message(ordinal(reach.position), all.name, 'all'),
    advice,
  };
}

// What is one of many by nature is only picked for its place where it is acted on.
const PARTS: ReadonlySet<string> = new Set(['option', 'menuitem', 'tab', 'treeitem']);
const WORDS: ReadonlySet<Reach['by']> = new Set(['text', 'label', 'title', 'placeholder'] as const);

const CONTROLS: ReadonlySet<string> = new Set(
  'button link textbox searchbox checkbox radio switch combobox slider spinbutton dialog'.split(' '),
);

const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth'];
const ordinal = (position: Reach['position']): string =>
  typeof position === 'number'
    ? (ORDINALS[position] ?? (position < 0 ? 'last' : `${position + 1}th`))
    : position === 'last'
      ? 'last'
      : 'one';

import { titlesOf } from '../../specs/model/blocks.js';
import type { By } from '../../libraries/meaning.js';
import type { Assertion } from '../../specs/model/steps.js';
import { textOfValue, type Value } from '../../specs/model/values.js';
import type { FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { onceAFile } from '../questions/once-a-file.js';
import { runningBlocks } from '../questions/order.js';
import { isOutermost, reachOf, takesElements } from '../questions/used-reaches.js';

const message = (read: string, query: string): string =>
  `“${read}” is read off what ${query} finds: where it is another, the report shows two values, and not of what.`;
const messageEmpty = (read: string): string =>
  `That nothing is shown is asked by “${read}”: when it fails, the report doesn’t say what is shown.`;
const adviceEmpty = 'Ask the container itself: expect(container).toBeEmptyDOMElement().';
const advice = (matcher: string): string => `Ask the element itself: ${matcher}.`;
const adviceRole = 'Ask for it by its role: a tag is no matter of a user’s.';
const adviceMarkup =
  'Ask for what a user sees of it: toHaveTextContent(…), or what stands in it, by a query.';

/** A property that is read off an element and compared, where a matcher asks the element itself. */
export const Q19: FileCheck = {
  code: 'Q19',
  family: 'queries',
  scope: 'file',
  title: 'Read off the element',
  level: 'hint',
  why: 'The matcher says in its report which element it was, and what it has; a property that is compared says neither.',
  certain: 'Sure: the matchers are registered, and the element comes from a query.',
  trouble: "expect(screen.getByLabelText('Cone').value).toBe('6');",
  mended: "expect(screen.getByLabelText('Cone')).toHaveValue('6');",
  run(context) {
    if (!context.documentMatchers) return [];
    const found = runningBlocks(context.file).flatMap((block) =>
      block.steps.flatMap((step) => {
        const each = step.kind === 'assert' && !step.via ? check(step.assertion, context) : undefined;
        return each ? [{ ...each, within: titlesOf(block) }] : [];
      }),
    );
    return onceAFile(found, 'and so here');
  },
};

function check(assertion: Assertion, context: FileContext): Finding | undefined {
  const said = emptiness(assertion) ?? readOff(assertion, context);
  return said && { place: inFile(context, assertion.place), certainty: 'sure', ...said };
}

type Said = Pick<Finding, 'message' | 'advice'>;

function readOff(assertion: Assertion, context: FileContext): Said | undefined {
  const { subject, asks, args, matcher = '' } = assertion;
  const reach = reachOf(assertion);
  const isJudged = ['equal', 'truthy', 'falsy'].includes(asks ?? '') || COMPARING.has(matcher);
  // In other styles the library has matchers of its own.
  const isElement = reach?.asUser || (context.userCentred && reach && STRUCTURE.has(reach.by));
  if (!isJudged || !isElement || !takesElements(reach) || subject.is !== 'read') return undefined;
  const read = firstRead(subject);
  const isFirst = read === subject || OBJECTS.has(read.name);
  const own = isFirst ? adviceOf(read.name, textOfValue(read.than), textOfValue(args[0])) : undefined;
  return own === undefined ? undefined : { message: message(read.name, reach.name), advice: own };
}

// `expect(container.firstChild).toBeNull()`, `expect(container.innerHTML).toBe('')`
function emptiness({ subject, asks, args: [wanted], not }: Assertion): Said | undefined {
  const isOfNull = asks === 'null' && subject.is === 'thing';
  const isOfText = asks === 'equal' && subject.is === 'read' && textOfValue(wanted) === '';
  const read = isOfNull ? firstOfRender(subject) : isOfText ? contentOfRender(subject) : undefined;
  return not || read === undefined ? undefined : { message: messageEmpty(read), advice: adviceEmpty };
}

const firstOfRender = ({ reach }: Extract<Value, { is: 'thing' }>): string | undefined =>
  reach && isOutermost(reach) ? reach.name : undefined;

const contentOfRender = ({ of, name }: Read): string | undefined =>
  of.is === 'thing' && of.type === 'element' && of.render && !of.reach && CONTENT.has(name)
    ? name
    : undefined;

const CONTENT: ReadonlySet<string> = new Set(['innerHTML', 'textContent']);

const STRUCTURE: ReadonlySet<By> = new Set(['selector', 'id', 'class', 'tag'] as const);
const COMPARING: ReadonlySet<string> = new Set(['toContain', 'toMatch', 'toStrictEqual']);

// What is read of these belongs to the element: `classList.contains('hot')`, `style.color`.
const OBJECTS: ReadonlySet<string> = new Set(['classList', 'attributes', 'style']);

type Read = Extract<Value, { is: 'read' }>;

// The property that is read off the element itself.
function firstRead(subject: Read): Read {
  let read = subject;
  while (read.of.is === 'read') read = read.of;
  return read;
}

function adviceOf(
  property: string,
  asked: string | undefined,
  wanted: string | undefined,
): string | undefined {
  if (property === 'tagName' || property === 'nodeName')
    return WITH_ROLES.test(wanted ?? '') ? adviceRole : undefined;
  if (property === 'innerHTML' || property === 'outerHTML') return adviceMarkup;
  if (property === 'getAttribute' || property === 'hasAttribute')
    return asked === undefined
      ? undefined
      : advice(`toHaveAttribute('${asked}'${property === 'getAttribute' ? ', …' : ''})`);
  const matcher = MATCHERS.get(property);
  return matcher && advice(matcher);
}

// Tags that a role stands for.
const WITH_ROLES =
  /^(?:button|a|h[1-6]|input|select|textarea|ul|ol|li|table|tr|td|th|img|nav|main|form|dialog|article)$/i;

// @testing-library/jest-dom 5 and 6, dist/matchers.js.
const MATCHERS: ReadonlyMap<string, string> = new Map([
  ['value', 'toHaveValue(…)'],
  ['checked', 'toBeChecked()'],
  ['disabled', 'toBeDisabled(), or toBeEnabled()'],
  ['required', 'toBeRequired()'],
  ['textContent', 'toHaveTextContent(…)'],
  ['className', 'toHaveClass(…)'],
  ['classList', 'toHaveClass(…)'],
  ['attributes', 'toHaveAttribute(…)'],
  ['style', 'toHaveStyle(…)'],
]);

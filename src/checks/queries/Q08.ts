import { titlesOf } from '../../specs/model/blocks.js';
import { extensionOf } from '../../libraries/matchers.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Assertion, Reach, StepOf } from '../../specs/model/steps.js';
import { presenceMatcher } from '../../writing/presence-matcher.js';
import type { Edit, Mend, Finding } from '../../finding.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningBlocks } from '../questions/order.js';
import {
  asksNotUndefined,
  assertsAbsence,
  assertsPresence,
  isAskedAtOnce,
  reachOf,
} from '../questions/used-reaches.js';

const messageAbsent = (name: string): string =>
  `${name} throws when nothing is there, so “not there” is never judged: the query itself fails, with a message of its own.`;
const messagePresent = (name: string): string =>
  `${name} gives nothing when the element is missing, so the failure does not show what was there instead.`;
const advice = (name: string): string => `Ask with ${name}.`;

/** A throwing query that is to find nothing; or a null-giving one that is to find something. */
export const Q08: FileCheck = {
  code: 'Q08',
  family: 'queries',
  scope: 'file',
  title: 'Absence asked of a query that throws',
  level: 'risk',
  why: 'An assertion that something is gone must be able to see that it is gone: a query that throws can only fail, for the right reason and for any other.',
  certain: 'Sure where the query and the matcher are known by their library.',
  trouble: "expect(screen.getByText('Hot')).not.toBeInTheDocument();",
  mended: "expect(screen.queryByText('Hot')).not.toBeInTheDocument();",
  run(context) {
    return runningBlocks(context.file).flatMap(({ steps }) => {
      const asserts = steps.filter(isAssert);
      return asserts.flatMap((step) => {
        const reach = reachOf(step.assertion);
        // Caught before the act, and judged after it: that is another matter.
        const isFresh = reach && isFirstOf(reach, step, asserts) && isAskedAtOnce(reach, step, steps);
        return isFresh ? (check(step.assertion, reach, context) ?? []) : [];
      });
    });
  },
};

// One entry for what is kept under a name and judged several times; what is said to be gone in the end was not to throw.
function isFirstOf(reach: Reach, step: StepOf<'assert'>, asserts: readonly StepOf<'assert'>[]): boolean {
  const all = asserts.filter(({ assertion }) => reachOf(assertion) === reach);
  return all[0] === step && (all.length === 1 || !all.some(({ assertion }) => assertsAbsence(assertion)));
}

function check(assertion: Assertion, reach: Reach, context: FileContext): Finding | undefined {
  // Of either of two, one may well be missing.
  if (reach.waits || assertion.style !== 'expect' || assertion.either) return undefined;
  // What is read off an element may be missing while that is there.
  const isOfElement = assertion.asks !== 'there' || assertion.subject.is === 'thing';
  const absent = reach.missing === 'throws' && assertsAbsence(assertion) && isOfElement;
  // What null passes as well says nothing of presence, and may hold because the element is not there.
  const present =
    reach.missing === 'null' &&
    reach.asUser &&
    (asksOfElement(assertion) ||
      isReadOff(assertion) ||
      (assertsPresence(assertion) && !asksNotUndefined(assertion)));
  const name = absent ? nullGiving(reach) : present ? reach.name.replace(/^query/, 'get') : undefined;
  if (!name) return undefined;
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    level: present ? 'hint' : undefined,
    certainty: 'sure',
    message: absent ? messageAbsent(reach.name) : messagePresent(reach.name),
    advice: advice(name),
    suggestion: name,
    mend: renamed(reach, name, context, present ? saidAsPresence(assertion, context) : []),
  };
}

// `queryByText('Raku').textContent`: of null nothing can be read.
const isReadOff = ({ subject, optional }: Assertion): boolean =>
  !optional && subject.is === 'read' && subject.of.is === 'thing' && ELEMENT_PARTS.has(subject.name);

const ELEMENT_PARTS: ReadonlySet<string> = new Set(
  'classList className textContent innerHTML outerHTML value checked disabled href id style title dataset children getAttribute hasAttribute querySelector'.split(
    ' ',
  ),
);

// All document matchers but the one of presence refuse null, turned round or not.
const asksOfElement = ({ asks, matcher = '', subject }: Assertion): boolean =>
  asks !== 'there' && subject.is === 'thing' && extensionOf(matcher) !== undefined;

const nullGiving = ({ name }: Reach): string | undefined =>
  name === 'get' ? 'find' : /^get(?:All)?By/.test(name) ? name.replace(/^get/, 'query') : undefined;

// A query that throws says by itself that its element is not null.
function saidAsPresence(assertion: Assertion, context: FileContext): readonly Edit[] {
  if (!context.documentMatchers || assertion.asks === 'there') return [];
  return [presenceMatcher(assertion, context) ?? []].flat();
}

// The name alone changes; one that is taken from the render by its own name must be taken there as well.
function renamed(reach: Reach, name: string, { file }: FileContext, and: readonly Edit[]): Mend | undefined {
  const { written, receiver, from } = reach;
  if (!written) return undefined;
  const taken = typeof from === 'object' && 'teardown' in from ? from.taken : undefined;
  if (!receiver && !taken) return undefined;
  const more =
    receiver || !taken || taken.names.has(name)
      ? []
      : [{ start: taken.end, end: taken.end, text: `, ${name}` }];
  const edits = [{ ...written.name, text: name }, ...more].map((edit) => ({ file: file.path, ...edit }));
  edits.push(...and);
  return { summary: `Ask with ${name}`, safe: true, edits };
}

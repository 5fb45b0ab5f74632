import type { By } from '../../libraries/meaning.js';
import { unquoted } from '../../specs/model/leaves.js';
import { hooksFor, titlesOf } from '../../specs/model/blocks.js';
import { textPieces } from '../../components/expr-text.js';
import { literal, nameOf } from '../../rendering/name.js';
import { isRole, roleOf } from '../../rendering/role.js';
import type { SearchScope } from '../../rendering/scope.js';
import { ownText } from '../../rendering/user-queries.js';
import type { Reach } from '../../specs/model/steps.js';
import { nameAsked } from '../../specs/model/asked.js';
import { textOfValue } from '../../specs/model/values.js';
import { nearest } from '../../util/nearest.js';
import { inShort } from '../../util/printable.js';
import { isSlipOf } from '../../util/slip.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding, Place } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningBlocks } from '../questions/order.js';
import { assertsAbsence, reachOf } from '../questions/used-reaches.js';

const message = (asked: string): string =>
  `${asked} finds nothing in anything that this spec renders, under any condition, so it is always “not there”.`;
const messageRole = (role: string): string =>
  `There is no role “${role}”: what is asked for by it is always “not there”.`;
const adviceRole = 'Ask by a role that there is, by the label or by the text.';
const adviceNear = (near: string): string => `Did you mean ${near}? The component has that.`;
const advice = 'Ask for something that the component shows under another condition, or drop the assertion.';

/** An assertion that something is not there, about something that could never be there. */
export const Q10: FileCheck = {
  code: 'Q10',
  family: 'queries',
  scope: 'file',
  title: 'Reaches nothing',
  level: 'blocker',
  why: 'A spec that looks for a thing the component does not have, and is glad not to find it, cannot fail.',
  certain:
    'Sure where all that the spec renders is known, and what is asked for is one slip away from something in it.',
  trouble: "expect(screen.queryByText('Kiln is hott')).not.toBeInTheDocument();",
  mended: "expect(screen.queryByText('Kiln is hot')).not.toBeInTheDocument();",
  run(context) {
    const found = new Map<number, Finding>();
    for (const block of runningBlocks(context.file)) {
      for (const step of block.steps) {
        const reach =
          step.kind === 'assert' && assertsAbsence(step.assertion) ? reachOf(step.assertion) : undefined;
        const each = reach && reach.missing !== 'throws' && check(reach, context);
        if (each) found.set(each.place.start, each);
      }
    }
    return [...found.values()];
  },
};

function check(reach: Reach, context: FileContext): Finding | undefined {
  const { kind } = context.rendering.target(reach);
  // What is there with these props is there under some condition.
  if (kind !== 'none' && kind !== 'unknown') return undefined;
  return (
    noSuchRole(reach, context) ??
    (kind === 'none' ? neverThere(reach, context) : undefined) ??
    slip(reach, context)
  );
}

// “label” is no role, so nothing has it.
function noSuchRole(reach: Reach, context: FileContext): Finding | undefined {
  const role = reach.by === 'role' && reach.asUser ? textOfValue(reach.args[0]) : undefined;
  if (role === undefined || isRole(role)) return undefined;
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    certainty: 'likely',
    message: messageRole(role),
    advice: adviceRole,
  };
}

function neverThere(reach: Reach, context: FileContext): Finding | undefined {
  const { pruned } = context.rendering.scope(reach)?.tree ?? {};
  const rendering = pruned ? context.rendering.underAnyCondition : context.rendering;
  const target = rendering.target(reach);
  if (reach.by === 'component' || reach.by === 'hop' || target.kind !== 'none') return undefined;
  const scope = rendering.scope(reach);
  const name = nameAsked(reach);
  const asked = textOfValue(reach.args[0]);
  const near = scope && nearestHandle(reach, name ?? asked, scope, context.testIdAttribute);
  // What another prop could show may be just what is asked for.
  if (!near && !target.closed) return undefined;
  const shown = name !== undefined ? `${asked} “${name}”` : (asked ?? reach.name);
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    certainty: near ? 'sure' : 'likely',
    message: message(`${reach.name} (${inShort(shown, 40)})`),
    advice: near ? adviceNear(near.shown) : advice,
    evidence: near ? [{ ...near.place, note: `${near.shown} stands here` }] : [],
  };
}

// Not all that is rendered can be told; what is asked for is what the spec, or a part of the component, has, but for a slip.
function slip(reach: Reach, context: FileContext): Finding | undefined {
  const asked = wordsAsked(reach);
  if (asked === undefined || reach.via || !WITH_WORDS.has(reach.by)) return undefined;
  const given = [...literalsAround(reach), ...askedElsewhere(reach, context)];
  if (given.some(({ text }) => text === asked)) return undefined;
  const inSpec = given.find(({ text }) => isSlipOf(asked, text));
  const scope = context.rendering.underAnyCondition.scope(reach);
  const near = inSpec
    ? { shown: inSpec.text, place: inFile(context, inSpec) }
    : scope && slippedHandle(asked, handlesIn(reach, scope, context.testIdAttribute));
  if (!near) return undefined;
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    certainty: 'likely',
    message: message(`${reach.name} (${inShort(asked, 40)})`),
    advice: adviceNear(near.shown),
    evidence: [{ ...near.place, note: `${near.shown} stands here` }],
  };
}

// The name, or else the words, that a query asks for.
const wordsAsked = (reach: Reach): string | undefined => nameAsked(reach) ?? textOfValue(reach.args[0]);

// What other queries of the file ask for in the same way.
const askedElsewhere = (reach: Reach, { file }: FileContext): Literal[] =>
  file.reaches
    .filter((other) => other !== reach && other.by === reach.by && !other.via)
    .flatMap((other) => {
      const text = wordsAsked(other);
      return text === undefined || samePlace(other, reach) ? [] : [{ text, ...other.place }];
    });

const samePlace = (a: Reach, b: Reach): boolean =>
  a.place.start === b.place.start && a.place.end === b.place.end;

interface Literal {
  text: string;
  start: number;
  end: number;
}

const WITH_WORDS: ReadonlySet<By> = new Set<By>([
  'text',
  'label',
  'role',
  'testId',
  'selector',
  'class',
  'id',
]);

const slippedHandle = (asked: string, handles: Handles): Near | undefined => {
  const shown = handles.has(asked) ? undefined : [...handles.keys()].find((each) => isSlipOf(asked, each));
  const place = shown === undefined ? undefined : handles.get(shown);
  return shown !== undefined && place ? { shown, place } : undefined;
};

// The texts that the spec and its hooks write, those of this query left out.
function literalsAround({ block, place }: Reach): Literal[] {
  const around = [block, ...hooksFor(block, 'before-all', 'before-each')];
  return around
    .flatMap(({ statements }) => statements)
    .flatMap(({ literals }) => literals)
    .filter(({ start, end }) => start < place.start || end > place.end)
    .map(({ text, start, end }) => ({ text: unquoted(text), start, end }));
}

// The handle of the same kind with the fewest letters that differ.
function nearestHandle(
  reach: Reach,
  asked: string | undefined,
  scope: SearchScope,
  testIdAttribute: string,
): Near | undefined {
  if (!asked) return undefined;
  const handles = handlesIn(reach, scope, testIdAttribute);
  const digits = (text: string): string => text.replace(/\D/g, '');
  // `Shelf 1` and `Shelf 2` are two things, and so are words of three letters.
  const alike = [...handles.keys()].filter(
    (each) => each !== asked && digits(each) === digits(asked) && asked.length > 3,
  );
  const shown = nearest(asked, alike);
  const place = shown === undefined ? undefined : handles.get(shown);
  return shown !== undefined && place ? { shown, place } : undefined;
}

interface Near {
  shown: string;
  place: Place;
}

type Handles = ReadonlyMap<string, Place>;

function handlesIn(reach: Reach, scope: SearchScope, testIdAttribute: string): Handles {
  const handles = new Map<string, Place>();
  for (const element of scope.elements) {
    for (const handle of handlesOf(reach, element, scope, testIdAttribute)) {
      if (handle && !handles.has(handle)) handles.set(handle, { file: element.file, ...element.place });
    }
  }
  return handles;
}

function handlesOf(
  reach: Reach,
  element: SearchScope['elements'][number],
  scope: SearchScope,
  testIdAttribute: string,
): (string | undefined)[] {
  switch (reach.by) {
    case 'role':
      return [literal(nameOf(element, scope.tree) ?? []), roleOf(element) ?? undefined];
    case 'text':
      return [literal(ownText(element))];
    case 'selector':
      return [...element.classes.always, ...element.classes.maybe]
        .map((name) => `.${name}`)
        .concat(attributeOf(element, 'id', '#'));
    case 'class':
      return [...element.classes.always, ...element.classes.maybe];
    case 'testId':
      return attributeOf(element, testIdAttribute, '');
    default:
      return [];
  }
}

function attributeOf(element: SearchScope['elements'][number], name: string, prefix: string): string[] {
  const value = element.attributes.get(name);
  const text = value && literal(textPieces(value));
  return text ? [prefix + text] : [];
}

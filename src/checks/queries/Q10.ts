import { titlesOf } from '../../specs/model/blocks.js';
import { textPieces } from '../../components/expr-text.js';
import { literal, nameOf } from '../../rendering/name.js';
import { roleOf } from '../../rendering/role.js';
import type { SearchScope } from '../../rendering/scope.js';
import { ownText } from '../../rendering/user-queries.js';
import type { Reach } from '../../specs/model/steps.js';
import { textOfValue } from '../../specs/model/values.js';
import { nearest } from '../../util/nearest.js';
import { inShort } from '../../util/printable.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { assertsAbsence, reachOf } from '../questions/used-reaches.js';

const message = (asked: string): string =>
  `${asked} finds nothing in anything that this spec renders, under any condition, so it is always “not there”.`;
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
  trouble: "expect(screen.queryByText('Kiln is hott')).not.toBeInTheDocument();",
  mended: "expect(screen.queryByText('Kiln is hot')).not.toBeInTheDocument();",
  run(context) {
    const found = new Map<number, Finding>();
    for (const block of context.file.blocks) {
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
  // What is there with these props is there under some condition.
  if (context.rendering.target(reach).kind !== 'none') return undefined;
  const { pruned } = context.rendering.scope(reach)?.tree ?? {};
  const rendering = pruned ? context.rendering.underAnyCondition : context.rendering;
  const target = rendering.target(reach);
  if (reach.by === 'component' || reach.by === 'hop' || target.kind !== 'none') return undefined;
  const scope = rendering.scope(reach);
  const [first, options] = reach.args;
  const name = options?.is === 'object' ? textOfValue(options.entries.get('name')) : undefined;
  const asked = textOfValue(first);
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

// The handle of the same kind with the fewest letters that differ.
function nearestHandle(
  reach: Reach,
  asked: string | undefined,
  scope: SearchScope,
  testIdAttribute: string,
): { shown: string; place: { file: string; start: number; end: number } } | undefined {
  if (!asked) return undefined;
  const handles = new Map<string, { file: string; start: number; end: number }>();
  for (const element of scope.elements) {
    for (const handle of handlesOf(reach, element, scope, testIdAttribute)) {
      if (handle && !handles.has(handle)) handles.set(handle, { file: element.file, ...element.place });
    }
  }
  const digits = (text: string): string => text.replace(/\D/g, '');
  // `Shelf 1` and `Shelf 2` are two things, and so are words of three letters.
  const alike = [...handles.keys()].filter(
    (each) => each !== asked && digits(each) === digits(asked) && asked.length > 3,
  );
  const shown = nearest(asked, alike);
  const place = shown === undefined ? undefined : handles.get(shown);
  return shown !== undefined && place ? { shown, place } : undefined;
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

import { titlesOf, type Block } from '../../specs/model/blocks.js';
import type { Component } from '../../components/view.js';
import { isInHidden } from '../../rendering/hidden.js';
import { contains, exclude, type RenderedElement } from '../../rendering/rendered-tree.js';
import { isSingle } from '../../rendering/replacement.js';
import { roleOf } from '../../rendering/role.js';
import type { Reach } from '../../specs/model/steps.js';
import { nameAsked } from '../../specs/model/asked.js';
import { textOfValue } from '../../specs/model/values.js';
import { type FileCheck } from '../questions/check.js';
import type { Evidence, Finding, Span } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { runningBlocks } from '../questions/order.js';
import { markupOf } from '../questions/element-markup.js';
import { betterQuery, certaintyOf } from '../../writing/rewrite.js';
import { assertsAbsence } from '../questions/used-reaches.js';

const message = (role: string): string =>
  `The query asks for any ${role}, and the component has more than one, at least with other props.`;
const adviceName = (query: string): string => `Say which one: ${query}`;
const advice = 'Say which one, by its name.';

/** A role asked for without a name, where the component has several elements of that role. */
export const Q06: FileCheck = {
  code: 'Q06',
  family: 'queries',
  scope: 'file',
  title: 'Role without a name',
  level: 'hint',
  why: 'The spec passes as long as the other one is not shown; and it passes when the only one left is the wrong one.',
  certain: 'Sure where both elements are known, and nothing unread could be found as well.',
  trouble: "screen.getByRole('button')",
  mended: "screen.getByRole('button', { name: 'Fire' })",
  run(context) {
    return context.used.flatMap(({ reach, step }) =>
      step.kind === 'assert' && assertsAbsence(step.assertion) ? [] : (check(reach, context) ?? []),
    );
  },
};

function check(reach: Reach, context: FileContext): Finding | undefined {
  const role = textOfValue(reach.args[0]);
  const isBare = reach.by === 'role' && reach.args.length === 1 && reach.asUser;
  if (!isBare || role === undefined || isSingle(role) || reach.missing.startsWith('many')) return undefined;
  const target = context.rendering.target(reach);
  if (target.kind === 'unknown') return besideOthers(reach, role, context);
  if (target.kind === 'many') return amongSeveral(reach, role, target.elements, context);
  if (target.kind !== 'one') return undefined;
  const all = context.rendering.underAnyCondition.scope(reach)?.elements ?? [];
  const twin = all.find((each) => isSame(each, target.element));
  if (!twin) return undefined;
  const others = all.filter(
    (each) =>
      roleOf(each) === role &&
      isInHidden(each) === false &&
      !isSame(each, twin) &&
      !exclude(each, twin) &&
      // No control stands in another: what is written so is there under conditions that exclude each other.
      !contains(each, twin) &&
      !contains(twin, each),
  );
  const [other] = others;
  if (!other) return undefined;
  const better = betterQuery(reach, target.element, context, 'role');
  const named = better?.handle.asked ? better : undefined;
  return {
    ...found(reach, role, [target.element, other].map(evidenceOf), context),
    certainty: certaintyOf(reach, named, context),
    advice: named ? adviceName(named.query) : advice,
    suggestion: named?.query,
    mend: named?.mend,
  };
}

const found = (reach: Reach, role: string, evidence: Evidence[], context: FileContext): Finding => ({
  place: inFile(context, reach.place),
  within: titlesOf(reach.block),
  certainty: 'likely',
  message: message(role),
  advice,
  evidence,
});

const evidenceOf = (element: RenderedElement): Evidence => ({
  file: element.file,
  ...element.place,
  note: markupOf(element),
});

// Only one of them can be there when the spec passes; which one, the query does not say.
function amongSeveral(
  reach: Reach,
  role: string,
  [first, second]: readonly RenderedElement[],
  context: FileContext,
): Finding | undefined {
  return first && second && found(reach, role, [first, second].map(evidenceOf), context);
}

// Which elements there are can't be told; another spec of the same component knows two of them by name.
function besideOthers(reach: Reach, role: string, context: FileContext): Finding | undefined {
  const component = componentFor(reach.block, context);
  if (!component) return undefined;
  for (const block of runningBlocks(context.file)) {
    if (block.kind !== 'spec' || block === reach.block || componentFor(block, context) !== component)
      continue;
    const pair = twoNames(block, role);
    const evidence = pair?.map(({ place, note }) => ({ ...inFile(context, place), note }));
    if (evidence) return found(reach, role, evidence, context);
  }
  return undefined;
}

function componentFor(block: Block, { rendering }: FileContext): Component | undefined {
  const [only, ...more] = new Set(rendering.rendersFor(block).map((render) => rendering.component(render)));
  return more.length === 0 ? only : undefined;
}

// Two elements of a role that a spec asks for by different names, with nothing done in between.
function twoNames(block: Block, role: string): { place: Span; note: string }[] | undefined {
  const named = new Map<string, { place: Span; note: string }>();
  for (const step of block.steps) {
    if (step.kind === 'act' || step.kind === 'render') named.clear();
    if (step.kind !== 'reach' || step.reach.by !== 'role' || step.reach.missing !== 'throws') continue;
    const name = nameAsked(step.reach);
    if (textOfValue(step.reach.args[0]) !== role || name === undefined) continue;
    named.set(name, { place: step.reach.place, note: `“${name}” is one of them` });
    if (named.size > 1) return [...named.values()];
  }
  return undefined;
}

// Of one component, each use is another element; what two renders of a spec show is the same.
const isSame = (a: RenderedElement, b: RenderedElement): boolean =>
  a.file === b.file &&
  a.place.start === b.place.start &&
  a.component === b.component &&
  (a.uses[0] !== b.uses[0] || a.uses.join() === b.uses.join());

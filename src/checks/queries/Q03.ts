import { titlesOf } from '../../specs/model/blocks.js';
import type { By } from '../../libraries/meaning.js';
import type { Reach } from '../../specs/model/steps.js';
import { withArticle } from '../../util/plural.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { evidence, markupOf } from '../questions/element-markup.js';
import { betterQuery, certaintyOf } from '../../writing/rewrite.js';
import { assertsAbsence } from '../questions/used-reaches.js';

const message = (by: string, markup: string, role: string): string =>
  `${markup} is reached by its ${by}; its role and name say more: that it is ${withArticle(role)}.`;
const advice = (query: string): string => `Ask for both: ${query}`;

const WORDS: Readonly<Partial<Record<By, string>>> = {
  text: 'text',
  title: 'title',
  placeholder: 'placeholder',
  alt: 'alternative text',
};

/** A text, title or placeholder, on an element whose role and name find it as well. */
export const Q03: FileCheck = {
  code: 'Q03',
  family: 'queries',
  scope: 'file',
  title: 'A better rung is free',
  level: 'hint',
  why: 'A text is found on anything: a button that has become a plain box still shows it, but nobody can press it by the keyboard.',
  certain: 'Sure where the element is known, and nothing unread could be found as well.',
  trouble: "screen.getByText('Fire')",
  mended: "screen.getByRole('button', { name: 'Fire' })",
  run(context) {
    return context.used.flatMap(({ reach, step }) =>
      step.kind === 'assert' && assertsAbsence(step.assertion) ? [] : (check(reach, context) ?? []),
    );
  },
};

function check(reach: Reach, context: FileContext): Finding | undefined {
  const by = WORDS[reach.by];
  if (!by || !reach.asUser || reach.position !== undefined) return undefined;
  const target = context.rendering.target(reach);
  const better = target.kind === 'one' ? betterQuery(reach, target.element, context, 'role') : undefined;
  if (target.kind !== 'one' || !better?.handle.asked || !better.handle.role) return undefined;
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

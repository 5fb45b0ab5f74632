import { titlesOf } from '../../specs/model/blocks.js';
import type { By } from '../../libraries/meaning.js';
import type { RenderedElement } from '../../rendering/rendered-tree.js';
import { isPresentational, roleOf } from '../../rendering/role.js';
import { ownText } from '../../rendering/user-queries.js';
import type { Reach } from '../../specs/model/steps.js';
import { textOfValue } from '../../specs/model/values.js';
import { withArticle } from '../../util/plural.js';
import { inShort } from '../../util/printable.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { evidence, markupOf } from '../questions/element-markup.js';
import { betterQuery, certaintyOf } from '../../writing/rewrite.js';
import { asksForSeen, styleQuery } from '../../writing/style-query.js';
import { isTestIdSelector, takesElements } from '../questions/used-reaches.js';

const message = (query: string, by: string, markup: string): string =>
  `${query} finds ${markup} by its ${by}, which no user sees.`;
const adviceReplace = (query: string): string => `Reach it as a user would: ${query}`;
const adviceStyle = (query: string | undefined, user: string | undefined): string =>
  [
    query ? `The best handle that this style has: ${query}.` : 'In this style no query sees roles.',
    ...(user ? [`With user-centred queries it would be ${user}`] : []),
  ].join(' ');
const adviceNothing =
  'It has no role and no text to be reached by: give it a role and a name in the component, or a test id.';
const adviceUnnamed = (role: string): string =>
  `It is ${withArticle(role)} that has no name to be asked for by: give it one in the component.`;

const STRUCTURE = new Set<By>(['selector', 'id', 'class', 'tag', 'hop']);

/** An element reached by class, id, tag or attribute, where a user would know it by role, label or text. */
export const Q01: FileCheck = {
  code: 'Q01',
  family: 'queries',
  scope: 'file',
  title: 'Reached by structure',
  level: 'risk',
  why: 'A class or a tag is an inner matter of the component: renaming it breaks specs that have nothing to do with it, while a button that nobody can find stays green.',
  trouble: "container.querySelector('.kiln-card__fire').click();",
  mended: "await user.click(screen.getByRole('button', { name: 'Fire' }));",
  run(context) {
    return context.used.flatMap(({ reach }) =>
      isStructural(reach, context.testIdAttribute) ? check(reach, context) : [],
    );
  },
};

const isStructural = (reach: Reach, testIdAttribute: string): boolean =>
  STRUCTURE.has(reach.by) && reach.position === undefined && !isTestIdSelector(reach, testIdAttribute);

function check(reach: Reach, context: FileContext): Finding[] {
  const target = context.rendering.target(reach);
  if (target.kind !== 'one' || target.element.parent === undefined) return [];
  const { element } = target;
  const text = takesElements(reach) && context.userCentred ? inUserStyle : inOwnStyle;
  const said = text(reach, element, context);
  return said
    ? [
        {
          ...said,
          place: inFile(context, reach.place),
          within: titlesOf(reach.block),
          evidence: evidence(reach, element),
        },
      ]
    : [];
}

type Said = Pick<Finding, 'message' | 'advice' | 'level' | 'suggestion' | 'mend' | 'certainty'> | undefined;

function inUserStyle(reach: Reach, element: RenderedElement, context: FileContext): Said {
  const better = betterQuery(reach, element, context);
  const certainty = certaintyOf(reach, better, context);
  // An element that shows nothing but what it is given may well get its role from there.
  if (!better) {
    const advice = isRoot(element) ? undefined : adviceFor(element);
    return advice ? { message: saidOf(reach, element), advice, level: 'hint', certainty } : undefined;
  }
  const { query, mend } = better;
  return {
    message: saidOf(reach, element),
    advice: adviceReplace(query),
    suggestion: query,
    mend,
    certainty,
  };
}

// What to add to an element that nothing better reaches; none for one that has words, though they can't be told.
function adviceFor(element: RenderedElement): string | undefined {
  const role = roleOf(element);
  if (role && !isPresentational(role) && role !== 'paragraph') return adviceUnnamed(role);
  return ownText(element).length > 0 ? undefined : adviceNothing;
}

function inOwnStyle(reach: Reach, element: RenderedElement, context: FileContext): Said {
  if (asksForSeen(textOfValue(reach.args[0]) ?? '')) return undefined;
  const better = betterQuery(reach, element, context);
  const query = styleQuery(reach, element, context);
  if (!better && !query) return undefined;
  return {
    message: saidOf(reach, element),
    advice: adviceStyle(query, better?.query),
    level: 'hint',
    suggestion: query,
    certainty: certaintyOf(reach, better, context),
  };
}

// The first element of a component stands for the component itself: what it shows is mostly given from outside.
const isRoot = ({ parent, component }: RenderedElement): boolean =>
  parent === undefined || parent.component !== component;

function saidOf(reach: Reach, element: RenderedElement): string {
  const selector = textOfValue(reach.args[0]) ?? '';
  const query = selector ? `${reach.name}('${inShort(selector, 40)}')` : reach.name;
  return message(query, kindOf(reach, selector), markupOf(element));
}

function kindOf(reach: Reach, selector: string): string {
  if (reach.by === 'hop') return 'place in the markup';
  if (reach.by !== 'selector') return reach.by;
  if (selector.includes(' ') || selector.includes('>')) return 'place in the markup';
  if (selector.startsWith('.')) return 'class';
  return selector.startsWith('#') ? 'id' : selector.startsWith('[') ? 'attribute' : 'tag or class';
}

import type { By } from '../../dialects/meaning.js';
import { asUserQuery, bestHandle, type Handle } from '../../model/links/replacement.js';
import type { Placed } from '../../model/links/rendered.js';
import { roleOf } from '../../model/links/role.js';
import type { Reach } from '../../model/specs/steps.js';
import { textOfValue } from '../../model/specs/values.js';
import { inShort } from '../../util/printable.js';
import { inFile, type FileCheck, type FileContext, type Found } from '../check.js';
import { markupOf } from './markup.js';
import { assertsAbsence, reachOf, usedBy } from './uses.js';

const message = (query: string, by: string, markup: string): string =>
  `${query} finds ${markup} by its ${by}, which no user sees.`;
const adviceReplace = (query: string): string => `Reach it as a user would: ${query}`;
const adviceWrapper = (query: string): string =>
  `In this style no query sees roles; with user-centred queries it would be ${query}`;
const adviceNothing =
  'It has no role and no text to be reached by: give it a role and a name in the component, or a test id.';

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
    const seen = new Set<string>();
    const found: Found[] = [];
    for (const { steps } of context.file.blocks) {
      for (const step of steps) {
        const reach = usedBy(step);
        if (!reach || !isStructural(reach, context.testIdAttribute)) continue;
        const key = `${reach.place.start}:${reach.place.end}`;
        if (seen.has(key)) continue;
        seen.add(key);
        found.push(...check(reach, context));
      }
    }
    return found;
  },
};

const isStructural = (reach: Reach, testIdAttribute: string): boolean =>
  STRUCTURE.has(reach.by) && reach.position === undefined && !isTestId(reach, testIdAttribute);

function check(reach: Reach, context: FileContext): Found[] {
  const target = context.links.target(reach);
  if (target.kind !== 'one' || target.element.parent === undefined) return [];
  const { element } = target;
  const scope = context.links.scope(reach);
  const page = scope && { ...scope, elements: scope.tree.elements };
  const handle = page && bestHandle(element, page, context.testIdAttribute);
  const better = handle?.by === 'testId' ? undefined : handle;
  if (!better && isRoot(element)) return [];
  return [
    {
      ...text(reach, element, better, context),
      place: inFile(context, reach.place),
      block: reach.block,
      certainty: target.proven && (!better || better.unique) ? 'sure' : 'likely',
      evidence: evidence(reach, element),
    },
  ];
}

// The first element of a component stands for the component itself: what it shows is mostly given from outside.
const isRoot = ({ parent, component }: Placed): boolean =>
  parent === undefined || parent.component !== component;

function text(
  reach: Reach,
  element: Placed,
  handle: Handle | undefined,
  context: FileContext,
): Pick<Found, 'message' | 'advice' | 'level' | 'suggestion'> {
  const selector = textOfValue(reach.args[0]) ?? '';
  const query = selector ? `${reach.name}('${inShort(selector, 40)}')` : reach.name;
  const said = message(query, kindOf(reach, selector), markupOf(element));
  const user =
    !reach.gives.includes('wrapper') && !reach.gives.includes('debug') && reach.name !== 'findByType';
  if (!handle) {
    // An element that shows nothing but what it is given may well get its role from there.
    return { message: said, advice: adviceNothing, level: 'hint' };
  }
  const absent = reach.block.steps.some(
    (step) => step.kind === 'assert' && reachOf(step.assertion) === reach && assertsAbsence(step.assertion),
  );
  const suggestion = asUserQuery(handle, { absent, waits: reach.waits });
  if (user && context.userCentred) return { message: said, advice: adviceReplace(suggestion), suggestion };
  return { message: said, advice: adviceWrapper(suggestion), level: 'hint' };
}

function kindOf(reach: Reach, selector: string): string {
  if (reach.by === 'hop') return 'place in the markup';
  if (reach.by !== 'selector') return reach.by;
  if (selector.includes(' ') || selector.includes('>')) return 'place in the markup';
  if (selector.startsWith('.')) return 'class';
  return selector.startsWith('#') ? 'id' : selector.startsWith('[') ? 'attribute' : 'tag or class';
}

// The usual attributes for test ids, and the project's own.
function isTestId(reach: Reach, attribute: string): boolean {
  const selector = textOfValue(reach.args[0]) ?? '';
  return [attribute, 'data-testid', 'data-test-id', 'data-test', 'data-cy', 'data-qa'].some((name) =>
    selector.includes(`[${name}`),
  );
}

function evidence(reach: Reach, element: Placed): Found['evidence'] {
  const helper = reach.via ? [{ ...reach.via, note: 'the query stands in this helper' }] : [];
  return [...helper, { file: element.file, ...element.place, note: `the element, ${described(element)}` }];
}

function described(element: Placed): string {
  const role = roleOf(element);
  return role ? `role ${role}` : 'no role';
}

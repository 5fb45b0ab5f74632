import { blocksAround, titlesOf, type Block } from '../../specs/model/blocks.js';
import { unquoted } from '../../specs/model/leaves.js';
import type { By } from '../../libraries/meaning.js';
import { innerNodes, type ComponentNode, type ViewNode } from '../../components/view.js';
import type { RenderedElement } from '../../rendering/rendered-tree.js';
import { nameOf } from '../../rendering/name.js';
import { isPresentational, roleOf } from '../../rendering/role.js';
import type { SearchScope } from '../../rendering/scope.js';
import { ownText } from '../../rendering/user-queries.js';
import type { Assertion, Reach } from '../../specs/model/steps.js';
import { textOfValue } from '../../specs/model/values.js';
import { remembered } from '../../util/remembered.js';
import { withArticle } from '../../util/plural.js';
import { inShort } from '../../util/printable.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { onceAFile } from '../questions/once-a-file.js';
import { asksByStructure, asksForMark, tagIn } from '../questions/selectors.js';
import { evidence, markupOf } from '../questions/element-markup.js';
import { betterQuery, certaintyOf } from '../../writing/rewrite.js';
import { asksForSeen, styleQuery } from '../../writing/style-query.js';
import { isOutermost, isTestIdSelector, takesElements } from '../questions/used-reaches.js';

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
const messageHop = (hop: string, query: string): string =>
  `${hop} goes from what ${query} finds to what stands next to it in the markup, which no user sees.`;
const adviceHop = 'Ask for that element itself, by its role and name or by a test id.';
const adviceMark = 'In this style no query sees roles: ask for it by a test id, or by what it says.';
const adviceNamed = 'Ask for it by its role and name.';
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
  certain: 'Sure where the element is known, and nothing unread could be found as well.',
  trouble: "container.querySelector('.kiln-card__fire').click();",
  mended: "await user.click(screen.getByRole('button', { name: 'Fire' }));",
  run(context) {
    const asserted: Finding[] = [];
    const givenIn = remembered(givenBy);
    const lists = new Set<Reach>();
    const found = context.used.flatMap(({ reach, step }) => {
      if (!isStructural(reach, context) || asksForGiven(reach, givenIn)) return [];
      // Several picks from one list are one query.
      if (reach.pickedFrom && lists.has(reach.pickedFrom)) return [];
      if (reach.pickedFrom) lists.add(reach.pickedFrom);
      const known = check(reach, context);
      if (known.length > 0) return known;
      if (step.kind === 'act' && context.userCentred)
        return step.by === 'program' ? [] : ofUnknown(reach, ACTED_ON, context);
      if (asksByStructure(reach) && isOfProject(reach, context))
        asserted.push(...ofUnknown(reach, step.kind === 'act' ? ACTED_ON : ASSERTED, context));
      else if (step.kind === 'assert') asserted.push(...ofOutermost(reach, step.assertion, context));
      return [];
    });
    // What only says that a file asks so is one entry for all of them.
    return [...found, ...onceAFile(asserted, 'and so here')];
  },
};

const ACTED_ON = { what: 'what is acted on', advice: adviceNamed };
const ASSERTED = {
  what: 'what is asserted on',
  advice: 'Assert on what a user sees of it, or give it a name or a test id.',
};

// Of a component of the project's own, whose props the spec gives one by one: the mark may come from no one else.
const isOfProject = ({ block }: Reach, { file, project }: FileContext): boolean =>
  file.renders.some(
    (render) =>
      render.block === block &&
      componentNodes(render.view ?? []).some((node) => {
        const component = node.ref && project.component(render.file, node.ref);
        const isOpen = node.open || node.rest !== undefined;
        return component !== undefined && !isOpen && !file.replaced.has(component.file);
      }),
  );

// The components in markup, between the tags of others, too.
const componentNodes = (view: readonly ViewNode[]): ComponentNode[] =>
  view.flatMap((node) => [...(node.kind === 'component' ? [node] : []), ...componentNodes(innerNodes(node))]);

// One of several that are known is Q04's matter.
const isStructural = (reach: Reach, { testIdAttribute, rendering }: FileContext): boolean =>
  STRUCTURE.has(reach.by) &&
  !isTestIdSelector(reach, testIdAttribute) &&
  (!reach.pickedFrom || rendering.target(reach.pickedFrom).kind !== 'many');

// A class or id that the spec, or what it puts in the place of a module, writes itself is what it expects to find there.
function asksForGiven({ block, by, args }: Reach, givenIn: (block: Block) => ReadonlySet<string>): boolean {
  const asked = textOfValue(args[0]) ?? '';
  const names = by === 'selector' ? asked.match(/(?<=[.#])[\w-]+/g) : asked.match(/\S+/g);
  return names !== null && blocksAround(block).some((each) => names.some((name) => givenIn(each).has(name)));
}

const givenBy = ({ statements }: Block): ReadonlySet<string> =>
  new Set(
    statements.flatMap(({ literals }) =>
      literals.flatMap(({ text, of = '' }) => (GIVEN_AS.test(of) ? unquoted(text).split(/\s+/) : [])),
    ),
  );

// `className`, and `toggleId` of one of its parts.
const GIVEN_AS = /^(?:id|class|className)$|^(?!get[A-Z]).*[a-z](?:Id|Class|ClassName)$/;

function check(reach: Reach, context: FileContext): Finding[] {
  const target = context.rendering.target(reach);
  if (target.kind === 'none') return [];
  if (target.kind !== 'one') return byTag(reach, context);
  const { element } = target;
  // What the spec itself writes, as in a slot, it may know by the mark that it has given.
  const isOwn = element.file === context.file.path && element.component === undefined;
  if (isOwn && reach.by !== 'hop' && asksForMark(reach)) return [];
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
    : byTag(reach, context);
}

const hinted = (reach: Reach, message: string, advice: string, context: FileContext): Finding => ({
  place: inFile(context, reach.place),
  within: titlesOf(reach.block),
  level: 'hint',
  certainty: 'likely',
  message,
  advice,
});

// Where nothing is known but that a user acts on it, or that the spec is about it: users know things by what they see.
function ofUnknown(
  reach: Reach,
  { what, advice }: { what: string; advice: string },
  context: FileContext,
): Finding[] {
  const selector = textOfValue(reach.args[0]);
  const isOfStyle = !context.userCentred || takesElements(reach);
  if (!isOfStyle || selector === undefined || context.rendering.target(reach).kind !== 'unknown') return [];
  if (reach.by === 'hop' || tagIn(selector) === 'svg' || isUnseen(selector) || asksForSeen(selector))
    return [];
  return [
    hinted(
      reach,
      message(`${reach.name}('${inShort(selector, 40)}')`, kindOf(reach, selector), what),
      context.userCentred ? advice : adviceMark,
      context,
    ),
  ];
}

// The outermost element of a render, of which the spec asks how it looks: `expect(container.firstChild).toHaveClass('hot')`.
function ofOutermost(reach: Reach, { matcher = '' }: Assertion, context: FileContext): Finding[] {
  if (!isOutermost(reach) || !OF_LOOKS.has(matcher) || !context.userCentred) return [];
  return [hinted(reach, message(reach.name, kindOf(reach, ''), ASSERTED.what), ASSERTED.advice, context)];
}

const OF_LOOKS: ReadonlySet<string> = new Set([
  'toHaveClass',
  'toHaveStyle',
  'toHaveStyleRule',
  'toHaveAttribute',
]);

// Where the element can't be told, its tag may still say what a user takes it for.
function byTag(reach: Reach, context: FileContext): Finding[] {
  if (!context.userCentred || !takesElements(reach)) return [];
  const selector = textOfValue(reach.args[0]);
  const named = isUnseen(selector ?? '') ? undefined : TAKEN_FOR[tagIn(selector) ?? ''];
  if (named === undefined) {
    const { from } = reach;
    if (reach.by !== 'hop' || typeof from !== 'object' || !('by' in from)) return [];
    // A hop from what was reached by its tag.
    return STRUCTURE.has(from.by) ? byTag(from, context) : byHop(reach, from, context);
  }
  return [
    {
      place: inFile(context, reach.place),
      within: titlesOf(reach.block),
      certainty: 'likely',
      message: message(
        `${reach.name}('${inShort(selector ?? '', 40)}')`,
        kindOf(reach, selector ?? ''),
        named.what,
      ),
      advice: `Ask for it by its ${named.by}.`,
    },
  ];
}

// From what a user knows to what stands around it.
function byHop(reach: Reach, from: Reach, context: FileContext): Finding[] {
  if (!from.asUser || !NEXT_TO.has(reach.name)) return [];
  return [hinted(reach, messageHop(reach.name, from.name), adviceHop, context)];
}

const NEXT_TO: ReadonlySet<string> = new Set(
  'parentElement parentNode firstChild lastChild firstElementChild lastElementChild nextSibling nextElementSibling previousSibling previousElementSibling'.split(
    ' ',
  ),
);

// What is hidden behind a button, or behind nothing, has no label to be asked for by.
const isUnseen = (selector: string): boolean => /\[type=["']?(?:file|hidden)/.test(selector);

const NAME = 'role and name';
const TAKEN_FOR: Readonly<Record<string, { what: string; by: string }>> = {
  button: { what: 'a button', by: NAME },
  a: { what: 'a link', by: NAME },
  input: { what: 'a field', by: 'label' },
  select: { what: 'a field', by: 'label' },
  textarea: { what: 'a field', by: 'label' },
  img: { what: 'an image', by: NAME },
  table: { what: 'a table', by: NAME },
  dialog: { what: 'a dialog', by: NAME },
  ...Object.fromEntries([1, 2, 3, 4, 5, 6].map((n) => [`h${n}`, { what: 'a heading', by: NAME }])),
};

type Said = Pick<Finding, 'message' | 'advice' | 'level' | 'suggestion' | 'mend' | 'certainty'> | undefined;

function inUserStyle(reach: Reach, element: RenderedElement, context: FileContext): Said {
  const better = betterQuery(reach, element, context);
  const certainty = certaintyOf(reach, better, context);
  // An element that shows nothing but what it is given may well get its role from there.
  if (!better) {
    const advice =
      isRoot(element) || element.chosen ? undefined : adviceFor(element, context.rendering.scope(reach));
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
function adviceFor(element: RenderedElement, scope: SearchScope | undefined): string | undefined {
  const role = roleOf(element);
  if (role && !isPresentational(role) && role !== 'paragraph') {
    const name = scope && nameOf(element, scope.tree);
    return name && name.length > 0 ? adviceNamed : adviceUnnamed(role);
  }
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

import type { Reach } from '../../specs/model/steps.js';
import { words } from '../../components/view.js';
import { isInHidden } from '../../rendering/hidden.js';
import { labelsOf, nameOf, placeholderOf } from '../../rendering/name.js';
import type { RenderedElement } from '../../rendering/rendered-tree.js';
import { constantOf, roleOf } from '../../rendering/role.js';
import type { Place } from '../../finding.js';
import { inFile, type FileContext } from './context.js';
import { markupOf } from './element-markup.js';

/** A control without an accessible name that a spec acts on or asserts about. */
export interface Unnamed {
  /** The opening tag, in the component. */
  place: Place;
  tag: string;
  role: string;
  markup: string;
  component: string;
  /** Words that the component itself has for it, such as those of a test id. */
  hint: string | undefined;
  /** The place in the spec. */
  usedAt: Place;
  sure: boolean;
}

const CONTROLS = new Set(
  'button link textbox searchbox spinbutton slider checkbox radio switch combobox listbox img dialog alertdialog menuitem tab'.split(
    ' ',
  ),
);

/** The controls that a spec file uses and that nobody can name. */
export function unnamedControls(context: FileContext): Unnamed[] {
  return context.used.flatMap(({ reach }) => {
    if (asksForName(reach)) return [];
    const target = context.rendering.target(reach);
    const scope = target.kind === 'one' ? context.rendering.scope(reach) : undefined;
    if (target.kind !== 'one' || !scope || !hasNoName(target.element, scope.tree, context)) return [];
    const { element, proven } = target;
    const { component, file, place, tag } = element;
    const usedAt = inFile(context, reach.place);
    const at = { file, ...place };
    const role = roleOf(element) ?? tag;
    return [
      {
        place: at,
        tag,
        role,
        markup: markupOf(element),
        component: component?.name ?? '',
        hint: hintOf(element, context.testIdAttribute),
        usedAt,
        sure: proven,
      },
    ];
  });
}

// What is found by its name, or by words of its own, has one.
const asksForName = ({ by, args }: Reach): boolean =>
  (by === 'role' && args.length > 1) || ['label', 'text', 'title', 'alt'].includes(by);

function hasNoName(
  element: RenderedElement,
  tree: Parameters<typeof nameOf>[1],
  { file }: FileContext,
): boolean {
  if (element.chosen) return false;
  const role = roleOf(element);
  const isControl = role
    ? CONTROLS.has(role)
    : element.tag === 'input' && constantOf(element, 'type') === 'password';
  if (!isControl || !element.component || element.component.file === file.path) return false;
  // What it is given, or might be, is the spec's matter.
  if (element.open || isInHidden(element)) return false;
  if ([element, ...labelsOf(element, tree)].some(isLacking)) return false;
  if (['aria-label', 'aria-labelledby', 'title', 'alt'].some((name) => element.attributes.has(name)))
    return false;
  return nameOf(element, tree)?.length === 0 && placeholderOf(element) === undefined;
}

const isLacking = (element: RenderedElement): boolean =>
  element.lacks || element.children.some((child) => child.kind === 'element' && isLacking(child));

// Words that say nothing of what a control is for.
const NO_HINTS = new Set(
  'btn button link input field icon image img control toggle element item wrapper container component x id test data'.split(
    ' ',
  ),
);

function hintOf(element: RenderedElement, testIdAttribute: string): string | undefined {
  const sources = [
    constantOf(element, testIdAttribute),
    constantOf(element, 'name'),
    constantOf(element, 'id'),
    blockPart(element),
  ];
  for (const source of sources) {
    const said = words((source ?? '').replace(/[-_.]+/g, ' ').replace(/\B[A-Z]/g, ' $&')).map((each) =>
      each.toLowerCase(),
    );
    const left = said.filter((each) => !NO_HINTS.has(each) && !/^\d+$/.test(each));
    const [first, ...rest] = left;
    if (first) return [first.charAt(0).toUpperCase() + first.slice(1), ...rest].join(' ');
  }
  return undefined;
}

// `kiln-card__close`: the part behind the block.
const blockPart = ({ classes }: RenderedElement): string | undefined =>
  classes.always
    .find((name) => name.includes('__'))
    ?.split('__')
    .at(-1)
    ?.split('--')[0];

import { saysOf } from '../components/expr-names.js';
import type { Reach } from '../specs/model/steps.js';
import { matchesText } from './match.js';
import { labelsOf, nameOf, NAMED_BY_CONTENT } from './name.js';
import type { Handle, RenderedElement, RenderedTree } from './rendered-tree.js';
import { roleOf } from './role.js';
import { wantedOf } from './user-queries.js';

/** Of the elements that a query may find, those that say what it asks for where nothing translates: a key, or the words beside it. */
export function byTranslation(
  { by, args: [first, options] }: Reach,
  maybe: readonly RenderedElement[],
  tree: RenderedTree,
): readonly RenderedElement[] {
  const name = options?.is === 'object' ? options.entries.get('name') : undefined;
  const wanted = wantedOf(by === 'role' ? name : first);
  if (!wanted) return [];
  const says = (element: RenderedElement): readonly string[] =>
    by === 'text'
      ? translationsIn(element, false)
      : [element, ...labelsOf(element, tree)].flatMap((each) => translationsIn(each, true));
  return maybe.filter((element) => says(element).some((text) => matchesText([text], wanted) === 'yes'));
}

/** The role and the words of an element that is asked for by its text, where that is a translation, and all of its name. */
export function translatedHandle(
  { by, args }: Reach,
  element: RenderedElement,
  tree: RenderedTree,
): Handle | undefined {
  const wanted = by === 'text' && args.length === 1 ? wantedOf(args[0]) : undefined;
  const role = roleOf(element);
  if (!wanted || !role || !NAMED_BY_CONTENT.has(role)) return undefined;
  const name = nameOf(element, tree);
  const isAll = name?.length === 1 && name[0] === undefined;
  const isSaid = translationsIn(element, false).some((text) => matchesText([text], wanted) === 'yes');
  return isAll && isSaid ? { by: 'role', role, asked: wanted, unique: false, given: false } : undefined;
}

function translationsIn(element: RenderedElement, deep: boolean): readonly string[] {
  const named = deep ? NAMING.flatMap((name) => element.attributes.get(name) ?? []).flatMap(saysOf) : [];
  const inside = element.children.flatMap((child) => {
    if (child.kind === 'element') return deep ? translationsIn(child, deep) : [];
    return child.kind === 'text' ? (child.says ?? []) : [];
  });
  return [...named, ...inside];
}

const NAMING = ['aria-label', 'placeholder', 'title', 'alt'];

import { saysOf } from '../components/expr-names.js';
import type { Reach } from '../specs/model/steps.js';
import { matchesText } from './match.js';
import { labelsOf, nameOf, NAMED_BY_CONTENT } from './name.js';
import { textPieces } from '../components/expr-text.js';
import type { Handle, Pieces, RenderedElement, RenderedTree } from './rendered-tree.js';
import { roleOf } from './role.js';
import { wantedOf } from './user-queries.js';

/** Of the elements that a query may find, those that say what it asks for in one of their ways, or where nothing translates: a key, or the words beside it. */
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
      ? saidIn(element, false)
      : [
          ...saidByAttributes(element),
          ...(by === 'role' ? saidIn(element, true) : []),
          ...labelsOf(element, tree).flatMap((each) => saidIn(each, true)),
        ];
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
  const isSaid = saidIn(element, false).some((text) => matchesText([text], wanted) === 'yes');
  return isAll && isSaid ? { by: 'role', role, asked: wanted, unique: false, given: false } : undefined;
}

// All that may stand for texts in an element; `deep`: in those inside of it as well, and in its attributes.
function saidIn(element: RenderedElement, deep: boolean): readonly string[] {
  const inside = element.children.flatMap((child) => {
    if (child.kind === 'element') return deep ? saidIn(child, deep) : [];
    const isIn = child.kind === 'text' && (deep || !child.loose);
    return isIn ? [...(child.says ?? []), ...piecesSaid(child.pieces)] : [];
  });
  return deep ? [...saidByAttributes(element), ...inside] : inside;
}

const saidByAttributes = ({ attributes }: RenderedElement): readonly string[] =>
  NAMING.flatMap((name) => attributes.get(name) ?? []).flatMap((each) => [
    ...saysOf(each),
    ...piecesSaid(textPieces(each)),
  ]);

// What is known of a text: all of it, or the parts between what is not; each of several.
const piecesSaid = (pieces: Pieces): string[] =>
  pieces.flatMap((piece) => piece ?? []).filter((text) => text.trim() !== '');

const NAMING = ['aria-label', 'placeholder', 'title', 'alt'];

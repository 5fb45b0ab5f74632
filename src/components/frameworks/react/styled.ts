import type { Node } from 'oxc-parser';
import { literalText, pathOf, propertyName, unwrapped } from '../../../syntax/tree.js';
import { constant, orElse } from '../../expr.js';
import { nothingGiven, componentNode, elementNode } from '../../given.js';
import type { ComponentScope } from '../../scope.js';
import type { ViewNode } from '../../view.js';
import { makesTags, tagMade } from './tag-factories.js';

// What a styled element keeps for itself (styled-components 5 and 6, @emotion/styled 11, @mui/system 5 to 7, @chakra-ui/system 2).
const OWN: readonly string[] = [
  'as',
  'forwardedAs',
  'theme',
  'ownerState',
  'sx',
  '__css',
  'layerStyle',
  'textStyle',
];

/** styled.button`…`, styled('button')(…), styled(Lid)(…): the tag or the component, with all that it is given; undefined for all else. */
export function styledView(node: Node, scope: ComponentScope): ViewNode[] | undefined {
  const inner = unwrapped(node);
  const callee =
    inner.type === 'TaggedTemplateExpression'
      ? inner.tag
      : inner.type === 'CallExpression'
        ? inner.callee
        : undefined;
  const base = callee && (baseOf(unwrapped(callee)) ?? calledBase(inner, scope));
  if (!base) return undefined;
  const place = { start: inner.start, end: inner.end };
  const children: ViewNode = { kind: 'slot', name: 'children', fallback: [], place };
  const path = typeof base.of === 'string' ? undefined : pathOf(unwrapped(base.of));
  const ref = path === undefined ? undefined : scope.ref(path);
  // `chakra(motion.div)`: of one factory after another.
  const made = tagMade(ref);
  const given = { ...nothingGiven(), rest: [...OWN, ...(made?.takes ?? []), ...(base.by ? [base.by] : [])] };
  const tag = typeof base.of === 'string' ? base.of : made?.tag;
  if (tag === undefined) {
    // The component is what is left of the base: what it takes for itself is its own affair.
    const whole = { ...given, rest: OWN.filter((name) => name !== 'as'), open: base.adds };
    const slots = new Map([['children', [children]]]);
    return ref && path !== undefined ? [componentNode(whole, { name: path, ref, place, slots })] : undefined;
  }
  const chosen = orElse({ is: 'prop', name: base.by ?? 'as' }, constant(tag));
  const asComponent = componentNode(given, { name: tag, ref: undefined, place, slots: new Map() });
  return [
    elementNode(
      { ...given, open: base.adds },
      { tag: '?', chosen, asComponent, place, children: [children] },
    ),
  ];
}

// Factories of a kit whose components are one element (@mui/system 5).
const MADE_BY: ReadonlyMap<string, string> = new Map([
  ['createStack', 'div'],
  ['createBox', 'div'],
  ['createGrid', 'div'],
  ['createContainer', 'div'],
]);

// `chakra('div')`, `chakra(Lid, {…})`: the element or component itself, without another call.
function calledBase(node: Node, scope: ComponentScope): Styled | undefined {
  if (node.type !== 'CallExpression' || node.callee.type !== 'Identifier') return undefined;
  const tag = scope.shipped ? MADE_BY.get(node.callee.name) : undefined;
  if (tag !== undefined) return { of: tag, adds: false, by: 'component' };
  const [first] = node.arguments;
  if (!first || first.type === 'SpreadElement' || !makesTags(scope.ref(node.callee.name))) return undefined;
  return { of: literalText(first) ?? first, adds: false };
}

/**
 * What is styled: a tag, or the expression of a component; `adds`: it is given more than its users give it; `by`: the prop
 * that names another tag.
 */
interface Styled {
  of: string | Node;
  adds: boolean;
  by?: string;
}

function baseOf(callee: Node): Styled | undefined {
  if (callee.type === 'MemberExpression' && isStyled(callee.object)) {
    const tag = propertyName(callee.property, callee.computed);
    return tag === undefined ? undefined : { of: tag, adds: false };
  }
  if (callee.type !== 'CallExpression') return undefined;
  const [first] = callee.arguments;
  const maker = unwrapped(callee.callee);
  if (isStyled(maker) && first && first.type !== 'SpreadElement')
    return {
      of: literalText(first) ?? first,
      adds: false,
    };
  // styled.button.attrs({…})`…`, styled(Lid).withConfig({…})`…`
  if (maker.type !== 'MemberExpression') return undefined;
  const deeper = baseOf(unwrapped(maker.object));
  return (
    deeper && { ...deeper, adds: deeper.adds || propertyName(maker.property, maker.computed) === 'attrs' }
  );
}

const isStyled = (node: Node): boolean => node.type === 'Identifier' && /^_?styled\d*$/.test(node.name);

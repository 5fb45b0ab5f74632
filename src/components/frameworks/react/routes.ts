import { componentNode, nothingGiven, type TagContents } from '../../given.js';
import type { ComponentScope } from '../../scope.js';
import type { ComponentRef, ViewNode } from '../../view.js';
import type { JsxElement } from './jsx-attributes.js';

/**
 * What a route shows where the address fits: its children, its element, what `render` gives, or a component (react-router
 * 5 to 7); undefined for other forms, and for what is no route.
 */
export function routedView(
  ref: ComponentRef | undefined,
  node: JsxElement,
  { props }: TagContents,
  children: readonly ViewNode[],
  scope: ComponentScope,
): readonly ViewNode[] | undefined {
  if (!isRoute(ref)) return undefined;
  for (const name of ['element', 'render', 'children']) {
    const given = props.get(name);
    if (given && 'view' in given) return [...given.view, ...children];
  }
  return children.length > 0 ? children : componentGiven(node, scope);
}

const isRoute = (ref: ComponentRef | undefined): boolean =>
  ref !== undefined &&
  'specifier' in ref &&
  ref.name === 'Route' &&
  /^react-router(?:-dom)?$/.test(ref.specifier);

// `<Route component={Kiln} />`
function componentGiven(node: JsxElement, scope: ComponentScope): ViewNode[] | undefined {
  for (const each of node.openingElement.attributes) {
    if (each.type !== 'JSXAttribute' || each.name.name !== 'component') continue;
    const value = each.value?.type === 'JSXExpressionContainer' ? each.value.expression : undefined;
    if (value?.type !== 'Identifier') continue;
    const { name, start, end } = value;
    const own = { name, ref: scope.ref(name), place: { start, end }, slots: new Map() };
    return [componentNode(nothingGiven(), own)];
  }
  return undefined;
}

import type { Node } from 'oxc-parser';
import { calledName, unwrapped } from '../../../syntax/tree.js';
import { propertyIn, resolved } from '../../scope.js';
import { componentNode, nothingGiven, type TagContents } from '../../given.js';
import type { ComponentScope } from '../../scope.js';
import type { ComponentRef, ViewNode } from '../../view.js';
import type { JsxElement } from './jsx-attributes.js';

/** The modules of react-router, and its functions that make a router of routes. */
export const ROUTERS = /^react-router(?:-dom)?(?:\/dom)?$/;
export const MAKES_ROUTER = /^create(?:Memory|Browser|Hash)Router$/;

/** Reads what markup in an object shows. */
type ReadView = (node: Node, scope: ComponentScope) => ViewNode[];

/**
 * What `<RouterProvider router={…} />` shows: the elements of its routes; `sure` of a single one. Undefined for all else,
 * and where the routes can't be read.
 */
export function routerView(
  ref: ComponentRef | undefined,
  node: JsxElement,
  { props }: TagContents,
  scope: ComponentScope,
  viewOf: ReadView,
): { view: readonly ViewNode[]; sure: boolean } | undefined {
  if (!ref || !('specifier' in ref) || ref.name !== 'RouterProvider' || !ROUTERS.test(ref.specifier))
    return undefined;
  const given = props.get('router');
  if (given && 'view' in given) return { view: given.view, sure: given.view.length === 1 };
  const written = node.openingElement.attributes.find(
    (each) => each.type === 'JSXAttribute' && each.name.name === 'router',
  );
  const value = written?.type === 'JSXAttribute' ? written.value : undefined;
  const router = value?.type === 'JSXExpressionContainer' ? resolved(value.expression, scope) : undefined;
  if (router?.node.type !== 'CallExpression' || !MAKES_ROUTER.test(calledName(router.node) ?? ''))
    return undefined;
  const [routes] = router.node.arguments;
  const all = routes && routesIn(routes, router.scope, viewOf);
  return all && { view: all.flat(), sure: all.length === 1 };
}

// The views of routes, one after another; undefined where one can't be read.
function routesIn(node: Node, scope: ComponentScope, viewOf: ReadView): ViewNode[][] | undefined {
  const list = resolved(node, scope);
  if (list?.node.type !== 'ArrayExpression') return undefined;
  const all = list.node.elements.map((each) => {
    const route = each ? unwrapped(each) : undefined;
    if (route?.type !== 'ObjectExpression') return undefined;
    const [element, children] = [propertyIn(route, 'element'), propertyIn(route, 'children')];
    const inside = children ? routesIn(children, list.scope, viewOf) : [];
    return element && inside ? [viewOf(element, list.scope), ...inside] : undefined;
  });
  return all.every((each) => each !== undefined) ? all.flat() : undefined;
}

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
  ref !== undefined && 'specifier' in ref && ref.name === 'Route' && ROUTERS.test(ref.specifier);

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

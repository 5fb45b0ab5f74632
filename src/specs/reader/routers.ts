import { MAKES_ROUTER, ROUTERS } from '../../components/frameworks/react/routes.js';
import type { Value } from '../model/values.js';

/**
 * What `createMemoryRouter([…])` of react-router stands for in a spec: the markup of its routes, as a list; undefined of
 * other functions, and where a route can't be read.
 */
export function routerOf(target: Value, [routes]: readonly Value[]): Value | undefined {
  if (target.is !== 'external' || !ROUTERS.test(target.module) || !MAKES_ROUTER.test(target.name))
    return undefined;
  const items = elementsOf(routes);
  return items && { is: 'list', items, open: false };
}

function elementsOf(routes: Value | undefined): Value[] | undefined {
  if (routes?.is !== 'list' || routes.open) return undefined;
  const all = routes.items.map((route) => {
    if (route.is !== 'object') return undefined;
    const element = route.entries.get('element');
    const inside = route.entries.has('children') ? elementsOf(route.entries.get('children')) : [];
    return element?.is === 'jsx' && inside ? [element, ...inside] : undefined;
  });
  return all.every((each) => each !== undefined) ? all.flat() : undefined;
}

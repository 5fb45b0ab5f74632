import type { Component } from '../../components/view.js';
import { reachableFrom } from '../../project/reachable.js';
import type { Reach } from '../../specs/model/steps.js';
import type { FileContext } from './context.js';

/** A reach that finds something, and the components that it and another reach are asked of. */
export interface Elsewhere {
  own: string;
  other: string;
  reach: Reach;
}

/** Where all that find the same do so in another component, which the component of a reach never loads; undefined where that can't be told. */
export function foundElsewhere(
  reach: Reach,
  found: readonly Reach[],
  { rendering, project }: FileContext,
): Elsewhere | undefined {
  const componentOf = ({ block }: Reach): Component | undefined => {
    const [render, ...more] = rendering.rendersFor(block);
    return render && more.length === 0 && render.view?.length === 1 ? rendering.component(render) : undefined;
  };
  const own = componentOf(reach);
  if (!own) return undefined;
  const loaded = reachableFrom(project, [own.file]).files;
  const others = found.map((each) => ({ reach: each, component: componentOf(each) }));
  const [first] = others;
  const isElsewhere = others.every(
    ({ component }) => component && component.file !== own.file && !loaded.has(component.file),
  );
  return isElsewhere && first?.component
    ? { own: own.name, other: first.component.name, reach: first.reach }
    : undefined;
}

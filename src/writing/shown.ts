import { exprOfInput, type Example } from '../branches/solve.js';
import type { ArmGap } from '../coverage/gaps.js';
import type { Writing } from '../libraries/meaning.js';
import { queryName } from '../libraries/queries.js';
import type { Component, ComponentNode, Prop } from '../components/view.js';
import type { RenderedElement } from '../rendering/rendered-tree.js';
import { rendered } from '../rendering/rendered.js';
import { bestHandle } from '../rendering/replacement.js';
import { searchScope } from '../rendering/scope.js';
import type { Project } from '../project/project.js';
import { argsOf } from './rewrite.js';

/** The query that reaches what an arm shows when a component is given these inputs; undefined where none is sure. */
export function queryFor(
  { arm, component }: Pick<ArmGap, 'arm' | 'component'>,
  { props }: Pick<Example, 'props'>,
  project: Project,
  { quote, testIdAttribute, writes }: { quote: '"' | "'"; testIdAttribute: string; writes: Writing },
): string | undefined {
  const { page, queries } = writes;
  if (!arm.shows || !page || !queries) return undefined;
  const tree = rendered(project, { file: component.file, view: [nodeOf(component, props)] });
  const { file, start, end } = arm.place;
  const isInArm = ({ file: from, place }: RenderedElement): boolean =>
    from === file && place.start >= start && place.end <= end;
  const scope = searchScope(tree);
  for (const element of tree.elements) {
    if (!isInArm(element) || element.guards.length > 0) continue;
    const handle = bestHandle(element, scope, testIdAttribute);
    const name =
      handle && handle.by !== 'testId' ? queryName(queries, handle.by, 'throws', false) : undefined;
    if (handle && name) return `${page}.${name}(${argsOf(handle, quote)})`;
  }
  return undefined;
}

function nodeOf(component: Component, given: Example['props']): ComponentNode {
  const props = new Map<string, Prop>(
    Object.entries(given).map(([name, value]) => [name, { expr: exprOfInput(value) }]),
  );
  const { name, selector, place } = component;
  const tag = selector?.split(',')[0]?.trim();
  const ref = tag && /^[\w-]+$/.test(tag) ? { selector: tag } : { local: name };
  return { kind: 'component', name, ref, place, props, open: false, events: [], slots: new Map() };
}

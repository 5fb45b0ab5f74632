import { innerNodes, type Component, type ViewNode } from '../../components/view.js';
import { modulesUsed } from '../../project/modules-used.js';
import type { Project } from '../../project/project.js';
import { blocksAround, type Block } from '../../specs/model/blocks.js';
import type { FileContext } from './context.js';
import { runningSpecs } from './order.js';

/** Specs of a group that is about one component, as others in it are, which render another one and never that. */
interface StrangeRenders {
  specs: readonly [Block, ...Block[]];
  told: string;
  rendered: string;
}

/**
 * The specs of groups that go by the name of a component which the file imports and other specs of theirs render, where
 * all that they render is another component, which neither shows that one nor is shown by it.
 */
export function strangeRenders(context: FileContext): StrangeRenders[] {
  const { file, project } = context;
  const rendered = new Map(runningSpecs(file).map((spec) => [spec, renderedBy(spec, context)]));
  const subjects = new Map<string, Component>();
  for (const each of rendered.values())
    for (const component of each ?? [])
      if (file.imports.has(component.name)) subjects.set(component.name, component);
  const found = new Map<string, [Block, ...Block[]]>();
  for (const [spec, components] of rendered) {
    const [other, ...more] = components ?? [];
    const told = subjectOf(spec, subjects);
    if (!other || more.length > 0 || !told || told === other || isRelated(told, other, project)) continue;
    const key = `${told.name}\0${other.name}`;
    const known = found.get(key);
    if (known) known.push(spec);
    else found.set(key, [spec]);
  }
  return [...found].map(([key, specs]) => {
    const [told = '', other = ''] = key.split('\0');
    return { specs, told, rendered: other };
  });
}

// Whether one is made for the other: is a part of it, goes by its name, or uses it.
const isRelated = (a: Component, b: Component, project: Project): boolean =>
  a.name.includes(b.name) ||
  b.name.includes(a.name) ||
  modulesUsed(project, [a.file]).has(b.file) ||
  modulesUsed(project, [b.file]).has(a.file);

// The components of the project that a spec renders; undefined where one can't be told, is the spec's own, or is given markup.
function renderedBy(spec: Block, { file, rendering }: FileContext): readonly Component[] | undefined {
  const all = rendering
    .rendersFor(spec)
    .map((render) => (render.view?.some(hasContent) ? undefined : rendering.component(render)));
  const known = all.filter((each) => each !== undefined);
  return known.length === all.length && known.every((each) => each.file !== file.path)
    ? [...new Set(known)]
    : undefined;
}

// The component that a group around a spec goes by the name of.
function subjectOf(spec: Block, subjects: ReadonlyMap<string, Component>): Component | undefined {
  for (const { kind, title } of blocksAround(spec).slice(1)) {
    const named = kind === 'group' && title.exact ? subjects.get(title.text.trim()) : undefined;
    if (named) return named;
  }
  return undefined;
}

const hasContent = (node: ViewNode): boolean => innerNodes(node).length > 0;

import { innerNodes, type Component, type ViewNode } from '../../components/view.js';
import { modulesUsed } from '../../project/modules-used.js';
import type { Project } from '../../project/project.js';
import { blocksAround, type Block } from '../../specs/model/blocks.js';
import type { FileContext } from './context.js';
import { runningSpecs } from './order.js';
import { allKnown } from '../../util/all-known.js';
import { grouped } from '../../util/grouped.js';

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
  // Most groups go by the name of nothing that is imported.
  if (!file.blocks.some((block) => nameOf(block, file.imports) !== undefined)) return [];
  const rendered = new Map(runningSpecs(file).map((spec) => [spec, renderedBy(spec, context)]));
  const shown = new Map([...rendered.values()].flat().map((component) => [component.name, component]));
  const strange = [...rendered].flatMap(([spec, [other, ...more]]) => {
    const [told] = blocksAround(spec)
      .slice(1)
      .flatMap((block) => shown.get(nameOf(block, file.imports) ?? '') ?? []);
    return other && told && more.length === 0 && told !== other ? [{ spec, told, other }] : [];
  });
  const pairs = grouped(strange, ({ told, other }) => `${told.name}\0${other.name}`);
  return [...pairs.values()].flatMap(([first, ...more]) =>
    first && !isRelated(first.told, first.other, project)
      ? [
          {
            specs: [first.spec, ...more.map(({ spec }) => spec)] as const,
            told: first.told.name,
            rendered: first.other.name,
          },
        ]
      : [],
  );
}

// Whether one is made for the other: is a part of it, goes by its name, or uses it.
const isRelated = (a: Component, b: Component, project: Project): boolean =>
  a.name.includes(b.name) ||
  b.name.includes(a.name) ||
  modulesUsed(project, [a.file]).has(b.file) ||
  modulesUsed(project, [b.file]).has(a.file);

// The components of the project that a spec renders; none where one can't be told, is the spec's own, or is given markup.
function renderedBy(spec: Block, { file, rendering }: FileContext): readonly Component[] {
  const all = rendering
    .rendersFor(spec)
    .map((render) => (render.view?.some(hasContent) ? undefined : rendering.component(render)));
  const known = allKnown(all) ?? [];
  return known.every((each) => each.file !== file.path) ? [...new Set(known)] : [];
}

// The import that a group goes by the name of.
function nameOf({ kind, title }: Block, imports: FileContext['file']['imports']): string | undefined {
  const name = title.text.trim();
  return kind === 'group' && title.exact && imports.has(name) ? name : undefined;
}

const hasContent = (node: ViewNode): boolean => innerNodes(node).length > 0;

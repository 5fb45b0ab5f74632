import type { Component } from '../../model/components/view.js';
import { innerNodes, viewSize, type ViewNode } from '../../model/components/view.js';
import { isWithin } from '../../util/paths.js';
import type { Found, ProjectCheck, ProjectContext } from '../check.js';

const message = (name: string): string => `No spec renders ${name}.`;
const messageInside = (name: string): string => `${name} is only rendered inside of other components.`;
const advice = (name: string): string =>
  `Write a spec that renders ${name} and asserts on what a user sees of it.`;

const LARGEST_COMPOSITION = 3;

/** A component that no spec renders. */
export const B02: ProjectCheck = {
  code: 'B02',
  family: 'branches',
  scope: 'project',
  title: 'Component without a spec',
  level: 'risk',
  why: 'What no spec renders can break without a sign.',
  trouble: '// firing-alarm.tsx, and no spec that renders <FiringAlarm />',
  mended: "it('sounds when the kiln is too hot', () => {\n  render(<FiringAlarm temp={1400} />);\n  …\n});",
  run(context) {
    const folders = new Set(context.specFiles.map((file) => file.package));
    const blind = context.specFiles.filter((file) => file.importsByPattern).map((file) => file.package);
    return context.components
      .filter((component) => {
        const folder = context.environmentOf(component.file).folder;
        return (
          folders.has(folder) &&
          !blind.some((each) => isWithin(each, component.file)) &&
          !isComposition(component)
        );
      })
      .flatMap((component) => check(component, context));
  },
};

function check(component: Component, { specFiles }: ProjectContext): Found[] {
  const named = specFiles.some((file) => file.rendered.has(component) || file.imported.has(component.file));
  if (named) return [];
  const inside = specFiles.some((file) => file.shown.has(component));
  return [
    {
      place: { file: component.file, ...component.place },
      certainty: 'sure',
      level: inside ? 'hint' : undefined,
      message: inside ? messageInside(component.name) : message(component.name),
      advice: advice(component.name),
    },
  ];
}

// A few elements put together, with nothing that could go wrong.
function isComposition(component: Component): boolean {
  if (component.wraps) return true;
  const view = component.view;
  return view.every(isReadable) && viewSize(view) <= LARGEST_COMPOSITION && !view.some(decides);
}

const isReadable = (node: ViewNode): boolean => node.kind !== 'hole' && innerNodes(node).every(isReadable);

function decides(node: ViewNode): boolean {
  if (node.kind === 'branch' || node.kind === 'repeat') return true;
  if ('events' in node && node.events.length > 0) return true;
  return innerNodes(node).some(decides);
}

import { IMPORTED, USES } from '../questions/facts.js';
import { SIGHT } from '../questions/sight.js';
import { componentsInside } from '../../rendering/uses.js';
import { modulesUsed } from '../../project/modules-used.js';
import type { Expr } from '../../components/expr.js';
import { componentKey, type Component, innerNodes, viewSize, type ViewNode } from '../../components/view.js';
import type { Project } from '../../project/project.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';

const message = (name: string): string => `No spec renders ${name}.`;
const messageInside = (name: string): string => `${name} is only rendered inside of other components.`;
const messageAlone = (name: string): string => `No spec renders ${name} by itself.`;
const advice = 'Write a spec that renders it, and assert on what a user sees of it.';

const LARGEST_COMPOSITION = 3;

/** A component that no spec renders. */
export const B02: ProjectCheck = {
  code: 'B02',
  family: 'branches',
  scope: 'project',
  facts: [IMPORTED, SIGHT, USES],
  title: 'Component without a spec',
  level: 'risk',
  why: 'What no spec renders can break without a sign.',
  certain: 'Sure where every spec file that may reach the component is in sight.',
  trouble: '// firing-alarm.tsx, and no spec that renders <FiringAlarm />',
  mended: "it('sounds when the kiln is too hot', () => {\n  render(<FiringAlarm temp={1400} />);\n  …\n});",
  run(context) {
    const { specFiles, project } = context;
    const used = modulesUsed(
      project,
      specFiles.map(({ path }) => path),
    );
    const folders = new Set(specFiles.map((file) => file.package));
    const shipped = new Set(context.components.map(({ file }) => file));
    // What a story or a helper of specs renders is rendered by specs.
    const direct = specFiles
      .flatMap((file) => file.get(USES))
      .filter(({ by, stubbed }) => !stubbed && (by === undefined || !shipped.has(by)));
    const rendered = new Set(direct.map(({ component }) => componentKey(component)));
    const imported = new Set(specFiles.flatMap((file) => [...file.get(IMPORTED)]));
    const ways = context.branches().arms.filter(({ branch }) => DECIDES.has(branch.kind));
    const deciding = new Set(ways.map(({ component }) => component));
    const inside = componentsInside(context.components, project);
    return context.components.flatMap((component) => {
      const counts = folders.has(context.environmentOf(component.file).folder);
      if (!counts || rendered.has(componentKey(component)) || imported.has(component.file)) return [];
      if (!isOffered(component, project)) return [];
      if (isComposition(component, deciding) || !context.isInSight(component)) return [];
      if (!used.has(component.file)) return [found(component)];
      // What is loaded and stands in no markup may be rendered by whatever takes it in hand.
      return [found(component, inside.has(component) ? messageInside : messageAlone)];
    });
  },
};

const found = (component: Component, loaded?: (name: string) => string): Finding => ({
  place: { file: component.file, ...component.place },
  certainty: 'sure',
  level: loaded ? 'hint' : undefined,
  message: (loaded ?? message)(component.name),
  advice,
  gap: { kind: 'component', component: component.name },
});

// What a module keeps to itself is a part of what it gives out.
const isOffered = ({ framework, file, name }: Component, project: Project): boolean =>
  framework !== 'react' ||
  [...(project.summary(file)?.exports.values() ?? [])].some((each) => 'local' in each && each.local === name);

const DECIDES: ReadonlySet<string> = new Set(['if', 'conditional', 'switch', 'try']);

// A few elements put together, with nothing that could go wrong.
function isComposition(component: Component, deciding: ReadonlySet<Component>): boolean {
  if (component.wraps || component.styles) return true;
  if (deciding.has(component)) return false;
  const view = component.view;
  return view.every(isReadable) && viewSize(view) <= LARGEST_COMPOSITION && !view.some(decides);
}

const isReadable = (node: ViewNode): boolean => node.kind !== 'hole' && innerNodes(node).every(isReadable);

const isChoice = ({ is }: Expr): boolean => is === 'if';

function decides(node: ViewNode): boolean {
  if (node.kind === 'branch' || node.kind === 'repeat') return true;
  if ('events' in node && node.events.length > 0) return true;
  if (
    node.kind === 'element' &&
    (node.classes.maybe.length > 0 || [...node.attributes.values()].some(isChoice))
  )
    return true;
  return innerNodes(node).some(decides);
}

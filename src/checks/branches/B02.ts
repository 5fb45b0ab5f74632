import { IMPORTED, modulesOf } from '../questions/facts.js';
import { type Component, innerNodes, viewSize, type ViewNode } from '../../components/view.js';
import { basename, dirname, isWithin, packageOf } from '../../util/paths.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import { fileFact, type ProjectContext } from '../questions/context.js';
import { declares } from '../../environment/facts/environment.js';

const message = (name: string): string => `No spec renders ${name}.`;
const messageInside = (name: string): string => `${name} is only rendered inside of other components.`;
const advice = (name: string): string =>
  `Write a spec that renders ${name} and asserts on what a user sees of it.`;

const LARGEST_COMPOSITION = 3;

/** Components that its renders name, by their keys. */
const RENDERED = fileFact('rendered', ({ file, project }): ReadonlySet<string> => {
  const nodes = file.renders.flatMap(({ view, file: from }) => (view ?? []).map((node) => ({ node, from })));
  const components = nodes.flatMap(({ node, from }) =>
    node.kind === 'component' && node.ref ? (project.component(from, node.ref) ?? []) : [],
  );
  return new Set(components.map(keyOf));
});

const keyOf = ({ file, name }: Component): string => `${file}#${name}`;

/** Whether it imports modules by a pattern of paths. */
const BY_PATTERN = fileFact('by pattern', ({ file }) => file.importsByPattern);

/** Imports that lead to no file and to no declared package. */
const UNRESOLVED = fileFact('unresolved', ({ file, project, environment }): readonly string[] =>
  [...new Set(modulesOf(file))].filter(
    (each) =>
      !each.startsWith('node:') &&
      !project.libraries.of(each) &&
      !project.resolve(file.path, each) &&
      !declares(environment, packageOf(each)),
  ),
);

/** A component that no spec renders. */
export const B02: ProjectCheck = {
  code: 'B02',
  family: 'branches',
  scope: 'project',
  facts: [RENDERED, IMPORTED, BY_PATTERN, UNRESOLVED],
  title: 'Component without a spec',
  level: 'risk',
  why: 'What no spec renders can break without a sign.',
  trouble: '// firing-alarm.tsx, and no spec that renders <FiringAlarm />',
  mended: "it('sounds when the kiln is too hot', () => {\n  render(<FiringAlarm temp={1400} />);\n  …\n});",
  run(context) {
    const loaded = loadedBySpecs(context);
    const folders = new Set(context.specFiles.map((file) => file.package));
    const blind = context.specFiles.filter((file) => file.get(BY_PATTERN)).map((file) => file.package);
    const known = namedBySpecs(context);
    return context.components.flatMap((component) => {
      const folder = context.environmentOf(component.file).folder;
      const counts = folders.has(folder) && !blind.some((each) => isWithin(each, component.file));
      if (!counts || known.rendered.has(keyOf(component)) || known.imported.has(component.file)) return [];
      if (isComposition(component) || mayBeImported(component.file, known.unresolved)) return [];
      return [found(component, loaded.has(component.file))];
    });
  },
};

interface Named {
  rendered: ReadonlySet<string>;
  imported: ReadonlySet<string>;
  /** The last parts, in lower case and without an ending, of imports that lead nowhere we can see. */
  unresolved: ReadonlySet<string>;
}

const namedBySpecs = ({ specFiles }: ProjectContext): Named => ({
  rendered: new Set(specFiles.flatMap((file) => [...file.get(RENDERED)])),
  imported: new Set(specFiles.flatMap((file) => [...file.get(IMPORTED)])),
  unresolved: new Set(specFiles.flatMap((file) => file.get(UNRESOLVED).map(stem))),
});

const found = (component: Component, inside: boolean): Finding => ({
  place: { file: component.file, ...component.place },
  certainty: 'sure',
  level: inside ? 'hint' : undefined,
  message: inside ? messageInside(component.name) : message(component.name),
  advice: advice(component.name),
  gap: { kind: 'component', component: component.name },
});

// What is imported by name below the modules that specs import: where markup can't be read, this is what tells of
// children. An index file that only hands a component on uses nothing.
function loadedBySpecs({ specFiles, project }: ProjectContext): Set<string> {
  const used = new Set<string>();
  const seen = new Set<string>();
  const waiting = specFiles.flatMap((file) => [...file.get(IMPORTED)]);
  for (let file = waiting.pop(); file !== undefined; file = waiting.pop()) {
    if (seen.has(file)) continue;
    seen.add(file);
    const summary = project.summary(file);
    for (const each of summary?.imports.values() ?? []) {
      const target = project.resolve(file, each.specifier);
      if (target) waiting.push(target);
      // Of a whole module, any part may be used.
      const declared = each.name === '*' ? target : project.imported(file, each)?.file;
      if (declared) used.add(declared);
      if (declared) waiting.push(declared);
    }
    const handedOn = [...(summary?.exports.values() ?? [])].flatMap((each) =>
      'specifier' in each ? [each.specifier] : [],
    );
    for (const specifier of [...handedOn, ...(summary?.stars ?? [])]) {
      const target = project.resolve(file, specifier);
      if (target) waiting.push(target);
    }
  }
  return used;
}

const stem = (path: string): string =>
  basename(path)
    .replace(/\.[^.]*$/, '')
    .toLowerCase();

// An import that leads nowhere, by an alias perhaps, may be this very component: by its file, its folder or an index.
const mayBeImported = (file: string, unresolved: ReadonlySet<string>): boolean =>
  unresolved.has(stem(file)) || unresolved.has(stem(dirname(file))) || unresolved.has('index');

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

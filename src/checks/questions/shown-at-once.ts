import type { Component, ViewNode } from '../../components/view.js';
import type { Place } from '../../finding.js';
import type { Project } from '../../project/project.js';
import type { FileContext, FileFact, ProjectContext, SpecFileFacts } from './context.js';

/** Something that a component, surely shown by a render, asks for at once. */
export interface ShownNeed<What> {
  component: string;
  what: What;
  /** Where it is asked for. */
  at: Place;
  /** Where it is rendered, in the spec file. */
  start: number;
  end: number;
}

/** A call, by the path that it is written by. */
interface Call {
  path: string;
  at: Place;
}

/**
 * What the components that a spec file shows ask for at once, as they are: none under a stub, and none of it replaced.
 * `asked` is given a component with all that it surely calls as soon as it is shown, through hooks of the project.
 */
export function shownNeeds<What>(
  { file, project }: FileContext,
  asked: (calls: readonly Call[], component: Component, project: Project) => { what: What; at: Place }[],
): ShownNeed<What>[] {
  return file.renders.flatMap(({ view, shallow, stubs, template, teardown, place, ...render }) => {
    if (!view || shallow || stubs.size > 0 || template || teardown === 'not-needed') return [];
    return shownAtOnce(view, render.file, project).flatMap((component) =>
      asked(calledAtOnce(component, file.replaced, project), component, project).map((each) => ({
        component: component.name,
        ...each,
        ...place,
      })),
    );
  });
}

interface UnmetNeed<What> {
  need: ShownNeed<What>;
  /** What is missing, in a word. */
  name: string;
  files: [SpecFileFacts, ...SpecFileFacts[]];
}

/** The needs of all spec files that are not met, each once a package and place, with the files; `lacking`: the word for what is missing. */
export function unmetNeeds<What>(
  fact: FileFact<ShownNeed<What>[]>,
  { specFiles }: ProjectContext,
  lacking: (need: ShownNeed<What>, file: SpecFileFacts) => string | undefined,
): UnmetNeed<What>[] {
  const found = new Map<string, UnmetNeed<What>>();
  for (const file of specFiles)
    for (const need of file.get(fact)) {
      const name = lacking(need, file);
      if (name === undefined) continue;
      const key = `${file.package}\0${need.at.file}\0${name}`;
      const known = found.get(key);
      if (!known) found.set(key, { need, name, files: [file] });
      else if (!known.files.includes(file)) known.files.push(file);
    }
  return [...found.values()];
}

const DEEPEST = 4;

/** The components of the project that a render shows whatever the props are; `file`: where its view is written. */
function shownAtOnce(view: readonly ViewNode[], file: string, project: Project, depth = 0): Component[] {
  return view.flatMap((node): Component[] => {
    if (node.kind === 'element') return shownAtOnce(node.children, file, project, depth);
    const component = node.kind === 'component' && node.ref ? project.component(file, node.ref) : undefined;
    if (!component) return [];
    // A test bed makes of its children what it is told to declare.
    const isFollowed = depth < DEEPEST && component.framework !== 'angular';
    const inside = isFollowed ? shownAtOnce(component.view, component.file, project, depth + 1) : [];
    return [component, ...inside];
  });
}

/** What comes from packages and is surely shown by a component of the project, with its place. */
export function importedAtOnce(
  { view, file }: Component,
  project: Project,
): { specifier: string; name: string; at: Place }[] {
  const imports = project.summary(file)?.imports;
  const found = (nodes: readonly ViewNode[]): { specifier: string; name: string; at: Place }[] =>
    nodes.flatMap((node) => {
      if (node.kind === 'element') return found(node.children);
      const ref = node.kind === 'component' ? node.ref : undefined;
      const from =
        ref && 'specifier' in ref ? ref : ref && 'local' in ref ? imports?.get(ref.local) : undefined;
      return node.kind === 'component' && from
        ? [{ specifier: from.specifier, name: from.name, at: { file, ...node.place } }]
        : [];
    });
  return found(view);
}

// What a component calls; of a module that is replaced, nothing runs.
function calledAtOnce(
  { file, name }: Component,
  replaced: ReadonlySet<string>,
  project: Project,
): readonly Call[] {
  const found: Call[] = [];
  const seen = new Set<string>();
  const add = (at: string, local: string): void => {
    if (seen.has(`${at}\0${local}`) || replaced.has(at)) return;
    seen.add(`${at}\0${local}`);
    const summary = project.summary(at);
    for (const [path, span] of summary?.firstRuns.get(local) ?? []) {
      const imported = summary?.imports.get(path);
      const isReplaced = imported && replaced.has(project.resolve(at, imported.specifier) ?? '');
      const hook = imported ? project.imported(at, imported) : { file: at, name: path };
      if (hook && !isReplaced) add(hook.file, hook.name);
      found.push({ path, at: { file: at, ...span } });
    }
  };
  add(file, name);
  return found;
}

import type { Component, ViewNode } from '../../components/view.js';
import type { Place } from '../../finding.js';
import type { Project } from '../../project/project.js';

const DEEPEST = 4;

/** The components of the project that a render shows whatever the props are; `file`: where its view is written. */
export function shownAtOnce(
  view: readonly ViewNode[],
  file: string,
  project: Project,
  depth = 0,
): Component[] {
  return view.flatMap((node): Component[] => {
    if (node.kind === 'element') return shownAtOnce(node.children, file, project, depth);
    const component = node.kind === 'component' && node.ref ? project.component(file, node.ref) : undefined;
    if (!component) return [];
    const inside = depth < DEEPEST ? shownAtOnce(component.view, component.file, project, depth + 1) : [];
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

/** What a component surely calls as soon as it is shown, through hooks of the project: by the path, with its place. */
export function calledAtOnce({ file, name }: Component, project: Project): { path: string; at: Place }[] {
  const found: { path: string; at: Place }[] = [];
  const seen = new Set<string>();
  const add = (at: string, local: string): void => {
    if (seen.has(`${at}\0${local}`)) return;
    seen.add(`${at}\0${local}`);
    const summary = project.summary(at);
    for (const [path, span] of summary?.firstRuns.get(local) ?? []) {
      const imported = summary?.imports.get(path);
      const hook = imported ? project.imported(at, imported) : { file: at, name: path };
      if (hook) add(hook.file, hook.name);
      found.push({ path, at: { file: at, ...span } });
    }
  };
  add(file, name);
  return found;
}
